"""What choosing a mode or a value does besides: restarts, resets, forgets."""

from collections.abc import Iterable, Sequence

from isotact.core.model.keys import Key
from isotact.core.model.named_keys import awake_key
from isotact.core.model.ports import Upset
from isotact.core.model.resolved import ResolvedRig
from isotact.core.trades.waking.acts import start
from isotact.core.world import Cables, Menus, Radio, Waking, World, now
from isotact.core.world.circuit import circuit_of


def spoilt_by(device: str, upsets: Iterable[Upset]) -> tuple[Key, ...]:
    """What no longer stands after it."""
    keys = {
        "restarts": awake_key(device),
        "resets-settings": Key.of("settings", device),
        "forgets-pairing": Key.of("pairing", device),
        "drops-links": Key.of("links", device),
        "forgets-mapping": Key.of("mapping"),
    }
    return tuple(keys[upset] for upset in upsets if upset in keys)


def restart_s(rig: ResolvedRig, device: str, upsets: Iterable[Upset]) -> float:
    """How long a device takes to be back, where it starts over for what is chosen."""
    wake = rig[device].profile.wake
    return wake.boot_s if wake is not None and "restarts" in upsets else 0.0


def restart_words(rig: ResolvedRig, device: str, upsets: Iterable[Upset]) -> list[str]:
    """What is said of that at the step; nothing where it does not start over."""
    waits_s = restart_s(rig, device, upsets)
    return [f"It starts over by itself: wait about {waits_s:g} s."] if waits_s else []


def bring_about(world: World, device: str, upsets: Sequence[Upset]) -> None:
    """Let it happen, to a device that is awake: the reboot last, waited for."""
    if device not in now(world).alive:
        return
    placed, radio = world.rig[device], world[Radio]
    if "resets-settings" in upsets:
        world[Menus].reset(placed)
    if "forgets-pairing" in upsets:
        radio.forget(device)
    if "drops-links" in upsets:
        radio.leave(world.rig, device)
    if "forgets-mapping" in upsets:
        world.spoil(Key.of("mapping"))
    if "restarts-driver" in upsets:
        world[Waking].hung |= {driver for driver in _drivers(world, device) if world[Waking].is_awake(driver)}
    if "restarts" in upsets:
        world.sleep(device)
        start(world, device)


def _drivers(world: World, device: str) -> set[str]:
    """What drives a body over a cable."""
    circuit = circuit_of(world.rig)
    return {
        far.device
        for plug in world[Cables].plugs.values()
        for near, far in ((plug.a, plug.b), (plug.b, plug.a))
        if near.device == device
        if any(theirs.is_host and theirs.conductor[0] != "gear" for _, theirs in circuit.fits(near, far))
    }
