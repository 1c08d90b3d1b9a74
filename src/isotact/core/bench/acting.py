"""What each action does to the world. An action that cannot be done says why and changes nothing."""

from collections.abc import Callable, Generator
from typing import Any

import simpy

from isotact.core.bench.proving import prove
from isotact.core.conditions.world import Plugged, World, feeder_of
from isotact.core.model.plan import LinkEnd
from isotact.core.model.ports import Radio
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.steps import (
    Action,
    Answer,
    Balance,
    FitBattery,
    LayOut,
    MeetByRadio,
    Plug,
    Prove,
    Set,
    SetMode,
    Sleep,
    WakeUp,
)
from isotact.core.model.words import Stage

Doing = Generator[Any, Any, str]
"""A process on the simulated clock that ends with what a person saw."""


def carry_out(env: simpy.Environment, world: World, action: Action, takes_s: float) -> Doing:
    """Do one action: spend its time, change the world, return what was seen."""
    yield env.timeout(takes_s)
    world.clock_s = env.now
    if isinstance(action, WakeUp):
        return (yield from _wake(env, world, action.device))
    return _DO[action.kind](world, action)


def _lay_out(world: World, action: LayOut) -> str:
    cables = world.rig.cables
    world.laid_out[action.tag] = (cables[action.cable], cables[action.adapter] if action.adapter else None)
    return f"{action.tag} lies ready."


def _fit_battery(world: World, action: FitBattery) -> str:
    power = world.rig[action.device].profile.power
    if power is None or power.inner_battery is None:
        return "It has no battery of its own."
    state = world.devices[action.device]
    state.battery_wh = power.inner_battery.energy_wh * power.inner_battery.usable
    return f"{power.inner_battery.name} full."


def _plug(world: World, action: Plug) -> str:
    cable = adapter = None
    if not action.direct:
        if action.tag not in world.laid_out:
            return f"{action.tag} is not at hand."
        cable, adapter = world.laid_out[action.tag]
    world.plugged.append(Plugged(action.a, action.b, cable, adapter, action.end_a, action.end_b, world.clock_s))
    _upset_balance(world, action)
    return f"{action.tag} holds at both ends."


def _upset_balance(world: World, action: Plug) -> None:
    """Whatever is added wholly inside the rig moves its centre; a lead that hangs out is tied off instead."""
    stages = {world.rig[end.device].stage_of(end.endpoint) for end in (action.a, action.b)}
    if len(stages) == 1 and Stage.OFF_GIMBAL not in stages:
        for state in world.devices.values():
            state.balanced = False


def _balance(world: World, action: Balance) -> str:
    world.devices[action.device].balanced = True
    return "It stays wherever it is left."


def _set_mode(world: World, action: SetMode) -> str:
    placed = world.rig[action.device]
    if placed.profile.modes and placed.profile.modes.needs_awake and not world.is_alive(action.device):
        return f"{placed.name} is off: its mode cannot be changed."
    world.devices[action.device].mode = action.mode
    names = {value.id: value.name for value in placed.profile.modes.values} if placed.profile.modes else {}
    return f"{placed.name} says {names.get(action.mode, action.mode)}."


def _set(world: World, action: Set) -> str:
    placed = world.rig[action.device]
    setting = placed.profile.setting(action.setting)
    state = world.devices[action.device]
    if setting.needs_awake and not state.is_awake:
        return f"{placed.name} is off: its menu cannot be opened."
    state.stored[action.setting] = action.value
    if setting.takes_effect == "at-once":
        state.effective[action.setting] = action.value
    name = next(value.name for value in setting.values if value.id == action.value)
    return f"{setting.name} reads {name}."


def _wake(env: simpy.Environment, world: World, device: str) -> Doing:
    placed, state = world.rig[device], world.devices[device]
    wake = placed.profile.wake
    if wake is None or state.is_awake:
        return f"{placed.name} is on already."
    if feeder_of(world, device) is None:
        return f"{placed.name} stays dark: no power."
    if wake.needs_balance and not state.balanced:
        return f"{placed.name} strains, warns and switches off: it is not balanced."
    state.booting, state.boot_started_s = True, env.now
    state.answers.clear()
    yield env.timeout(wake.boot_s)
    world.clock_s = env.now
    state.booting, state.awake_since_s = False, env.now
    state.effective = dict(state.stored)
    state.asking = {prompt.id for prompt in wake.prompts if _is_asked(world, device, prompt.joined)}
    return f"{placed.name}: {wake.expect}."


def _is_asked(world: World, device: str, port: str | None) -> bool:
    return port is None or any(plug.has(device, port) for plug in world.plugged)


def _sleep(world: World, action: Sleep) -> str:
    put_to_sleep(world, action.device)
    return f"{world.rig[action.device].name} is dark."


def put_to_sleep(world: World, device: str) -> None:
    """Off: it forgets answers, links and networks, and keeps its settings."""
    state = world.devices[device]
    state.awake_since_s = state.boot_started_s = None
    state.booting = state.recording = False
    state.asking, state.answers = set(), {}
    world.met = {pair for pair in world.met if not _is_lost(world.rig, pair, device)}


def _is_lost(rig: ResolvedRig, pair: frozenset[LinkEnd], device: str) -> bool:
    """A network is left when either end goes off; a pairing is kept."""
    ends = [rig[end.device].endpoint(end.endpoint) for end in pair]
    by_network = any(isinstance(end, Radio) and end.joins_by == "network" for end in ends)
    return by_network and any(end.device == device for end in pair)


def _answer(world: World, action: Answer) -> str:
    state = world.devices[action.device]
    if action.prompt not in state.asking:
        return f"{world.rig[action.device].name} asks nothing."
    state.asking.discard(action.prompt)
    state.answers[action.prompt] = action.answer
    return f"Answered {action.answer}."


def _meet(world: World, action: MeetByRadio) -> str:
    for end in (action.a, action.b):
        if not world.is_alive(end.device):
            return f"{world.rig[end.device].name} is off: nothing to join."
        radio = world.rig[end.device].endpoint(end.endpoint)
        taken = [pair for pair in world.met if end in pair]
        if isinstance(radio, Radio) and len(taken) >= radio.peers:
            return f"{world.rig[end.device].name} takes {radio.peers} at a time: no room."
    world.met.add(frozenset((action.a, action.b)))
    return "Connected."


def _prove(world: World, action: Prove) -> str:
    proof = prove(world, action.promise)
    promise = next(promise for promise in world.rig.rig.promises if promise.id == action.promise)
    if proof.ok and promise.kind == "control" and promise.function == "record" and proof.at:
        world.devices[proof.at].recording = True
    return proof.seen


_DO: dict[str, Callable[[World, Any], str]] = {
    "lay-out": _lay_out,
    "fit-battery": _fit_battery,
    "plug": _plug,
    "balance": _balance,
    "set-mode": _set_mode,
    "set": _set,
    "sleep": _sleep,
    "answer": _answer,
    "meet-by-radio": _meet,
    "prove": _prove,
    "look": lambda _world, _action: "Looked at.",
}
