"""Carries out a run sheet on a simulated rig, step by step, and films it."""

from collections.abc import Collection, Iterable, Iterator

from isotact.core.model.base import Struct
from isotact.core.model.resolved import ResolvedRig
from isotact.core.runsheet import RunSheet, Step
from isotact.core.trades import Condition, fresh_world, perform, views_of
from isotact.core.world import DeviceView, Proof, Waking, World, prove


class Frame(Struct):
    """The bench after one step. `changed` holds the looks of those devices that look different now."""

    step: str
    at_s: float
    seen: str
    changed: tuple[DeviceView, ...]
    proof: Proof | None = None


class Run(Struct):
    """A run sheet carried out."""

    rig: str
    start: tuple[DeviceView, ...]
    frames: tuple[Frame, ...]
    proofs: tuple[Proof, ...]
    standing: tuple[Proof, ...] = ()
    """From a rig that stood already: how those promises are at the end that no step works again."""
    took_s: float
    unproven: tuple[str, ...] = ()
    broken: tuple[str, ...] = ()
    """The keys of those conditions, of the ones asked about, that do not hold at the end."""


def carry_out(world: World, steps: Iterable[Step], skip: Collection[str] = ()) -> Iterator[tuple[Step, str]]:
    """Do `steps` one after the other, from `world` as it is, leaving out those in `skip`."""
    for step in steps:
        if step.id not in skip:
            yield step, perform(world, step.act, step.takes_s)


def run(
    rig: ResolvedRig,
    sheet: RunSheet,
    skip: Collection[str] = (),
    film: bool = True,
    conditions: Collection[Condition] = (),
    world: World | None = None,
) -> Run:
    """Carry out `sheet`, leaving out the steps in `skip`. Each frame shows what changed.

    Starts from `world`, which it changes, or from a rig in its cases. `conditions` are looked at once, at the end.
    """
    stood = world is not None
    world = fresh_world(rig) if world is None else world
    began_s = world.clock_s
    looks = {look.device: look for look in views_of(world)} if film else {}
    start = tuple(looks.values())
    frames: list[Frame] = []
    proofs: list[Proof] = []
    for step, seen in carry_out(world, sheet.steps, skip):
        proof = prove(world, step.act.proves) if step.act.proves is not None else None
        if proof is not None:
            proofs.append(proof)
        if film:
            now = {look.device: look for look in views_of(world)}
            changed = tuple(look for device, look in now.items() if look != looks[device])
            looks = now
            frames.append(Frame(step=step.id, at_s=world.clock_s - began_s, seen=seen, changed=changed, proof=proof))
    _stop_rolling(world, frames, looks)
    worked = {step.act.proves for step in sheet.steps}
    left = [promise.id for promise in rig.rig.promises if promise.id not in worked]
    standing = tuple(prove(world, promise) for promise in left) if stood else ()
    proven = {proof.promise for proof in (*proofs, *standing) if proof.ok}
    return Run(
        rig=rig.rig.id,
        start=start,
        frames=tuple(frames),
        proofs=tuple(proofs),
        standing=standing,
        took_s=world.clock_s - began_s,
        unproven=tuple(promise.id for promise in rig.rig.promises if promise.id not in proven),
        broken=tuple(str(condition.key) for condition in conditions if not condition.holds(world)),
    )


def _stop_rolling(world: World, frames: list[Frame], looks: dict[str, DeviceView]) -> None:
    """The proof of record stops what it started, where no other step comes after it either."""
    if not world[Waking].tested:
        return
    world[Waking].stop_test()
    if frames:
        changed = [look for look in views_of(world) if look != looks[look.device]]
        others = [look for look in frames[-1].changed if look.device not in {one.device for one in changed}]
        frames[-1] = frames[-1].model_copy(update={"changed": (*others, *changed)})


def carry_through(rig: ResolvedRig, sheet: RunSheet) -> World:
    """The world at the end of `sheet`."""
    world = fresh_world(rig)
    for _ in carry_out(world, sheet.steps):
        pass
    world[Waking].stop_test()  # nobody leaves a test rolling
    return world


def watch(rig: ResolvedRig, sheet: RunSheet, conditions: Collection[Condition]) -> Iterator[tuple[str, set[str]]]:
    """After each step, its id and the keys of those of `conditions` that hold."""
    world = fresh_world(rig)
    for step, _ in carry_out(world, sheet.steps):
        yield step.id, {str(condition.key) for condition in conditions if condition.holds(world)}
