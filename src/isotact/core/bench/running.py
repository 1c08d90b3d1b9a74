"""Carries out a run sheet on a simulated rig, step by step, and films it."""

from collections.abc import Collection
from typing import Any

import simpy

from isotact.core.bench.acting import carry_out, put_to_sleep
from isotact.core.bench.appearance import DeviceLook, looks_of
from isotact.core.bench.proving import Proof, prove
from isotact.core.conditions import Condition, World, feeder_of, fresh_world
from isotact.core.model.base import Part
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.steps import RunSheet


class Frame(Part):
    """The bench after one step. `changed` holds the looks of those devices that look different now."""

    step: str
    at_s: float
    seen: str
    changed: tuple[DeviceLook, ...]
    proof: Proof | None = None


class Run(Part):
    """A run sheet carried out."""

    rig: str
    start: tuple[DeviceLook, ...]
    frames: tuple[Frame, ...]
    proofs: tuple[Proof, ...]
    took_s: float
    unproven: tuple[str, ...] = ()
    broken: tuple[str, ...] = ()
    """The keys of those conditions, of the ones asked about, that do not hold at the end."""


class Bench:
    """A simulated rig on a simulated clock. The same steps always give the same world."""

    def __init__(self, rig: ResolvedRig) -> None:
        self.world = fresh_world(rig)
        self.env = simpy.Environment()

    def do(self, sheet: RunSheet, number: int) -> str:
        """Carry out one step and return what was seen."""
        step = sheet.steps[number]
        before = self.env.now
        for state in self.world.devices.values():
            state.recording = False  # the button toggles: a test is stopped before the next thing is done
        process = self.env.process(carry_out(self.env, self.world, step.action, step.takes_s))
        seen = str(self.env.run(until=process))
        drain(self.world, self.env.now - before)
        return seen


def drain(world: World, seconds: float) -> None:
    """Take what was drawn from every battery; a device whose feed is gone goes dark."""
    for device, state in world.devices.items():
        power = world.rig[device].profile.power
        if power is None or not state.is_awake:
            continue
        root = feeder_of(world, device)
        if root is not None:
            battery = world.devices[root]
            battery.battery_wh = max(0.0, battery.battery_wh - power.draw_w * seconds / 3600)
        if root is None or feeder_of(world, device) is None:
            put_to_sleep(world, device)


def run(
    rig: ResolvedRig,
    sheet: RunSheet,
    skip: Collection[str] = (),
    film: bool = True,
    conditions: Collection[Condition] = (),
) -> Run:
    """Carry out `sheet`, leaving out the steps in `skip`. Each frame shows what changed.

    `conditions` are looked at once, at the end.
    """
    bench = Bench(rig)
    looks = {look.device: look for look in looks_of(bench.world)}
    start = tuple(looks.values())
    frames: list[Frame] = []
    proofs: list[Proof] = []
    for number, step in enumerate(sheet.steps):
        if step.id in skip:
            continue
        seen = bench.do(sheet, number)
        proof = prove(bench.world, step.action.promise) if step.action.kind == "prove" else None
        if proof is not None:
            proofs.append(proof)
        if film:
            now = {look.device: look for look in looks_of(bench.world)}
            changed = tuple(look for device, look in now.items() if look != looks[device])
            looks = now
            frames.append(Frame(step=step.id, at_s=bench.env.now, seen=seen, changed=changed, proof=proof))
    proven = {proof.promise for proof in proofs if proof.ok}
    return Run(
        rig=rig.rig.id,
        start=start,
        frames=tuple(frames),
        proofs=tuple(proofs),
        took_s=bench.env.now,
        unproven=tuple(promise.id for promise in rig.rig.promises if promise.id not in proven),
        broken=tuple(condition.key for condition in conditions if not condition.holds(bench.world)),
    )


def carry_through(rig: ResolvedRig, sheet: RunSheet) -> World:
    """The world at the end of `sheet`."""
    bench = Bench(rig)
    for number in range(len(sheet.steps)):
        bench.do(sheet, number)
    return bench.world


def watch(rig: ResolvedRig, sheet: RunSheet, conditions: Collection[Condition]) -> list[dict[str, Any]]:
    """After each step, which of `conditions` hold: `{step, holds}` with keys of conditions."""
    bench = Bench(rig)
    seen = []
    for number, step in enumerate(sheet.steps):
        bench.do(sheet, number)
        seen.append({"step": step.id, "holds": {c.key for c in conditions if c.holds(bench.world)}})
    return seen
