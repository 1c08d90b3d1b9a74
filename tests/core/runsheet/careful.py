"""Carries a sheet out as a careful hand would: at every step it sees that nothing is done that must not be."""

from collections.abc import Iterable

from isotact.core.model.keys import Key
from isotact.core.runsheet import Step
from isotact.core.trades import perform
from isotact.core.trades.lens_drive import MapEnds
from isotact.core.trades.menus.acts import Answer, Set, SetMode
from isotact.core.world import Balance, Waking, World, now


def carefully(world: World, steps: Iterable[Step]) -> None:
    """Do `steps` in `world`. Fails where a step is refused, or done when it must not be."""
    for step in steps:
        _watched(world, step)
        world.pass_time(step.takes_s)
        assert step.act.why_not(world) is None, (step.id, step.act.why_not(world))
        perform(world, step.act)


def _watched(world: World, step: Step) -> None:
    rig, act = world.rig, step.act
    if isinstance(act, MapEnds) and act.by == "stops":
        assert rig[act.ring.device].port(act.ring.endpoint).hard_stops, f"{step.id}: it would turn on and on"
    if Key.of("balance") in act.spoils(rig):
        on = [device for device in world[Waking].boot_started_s if rig[device].is_balanced]
        assert on == [], f"{step.id}: weight is moved while {on} is on"
    if act.kind == "wake" and rig[act.device].is_balanced:
        assert act.device in world[Balance].balanced, f"{step.id}: it is not balanced"
    if _is_menu(world, step):
        assert step.device in now(world).alive, f"{step.id}: its menu cannot be opened"


def _is_menu(world: World, step: Step) -> bool:
    match step.act:
        case Set(device=device, setting=setting):
            return world.rig[device].profile.setting(setting).needs_awake
        case SetMode(device=device):
            modes = world.rig[device].profile.modes
            return modes is not None and modes.needs_awake
        case Answer():
            return True
    return step.id.startswith(("look-settings:", "save-setup:"))
