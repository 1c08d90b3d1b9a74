"""Every single fault of a rig put in once: does the condition break, which promises fall, which checks show it."""

from collections import defaultdict
from collections.abc import Callable, Iterable, Iterator

from isotact.core.bench import carry_through
from isotact.core.model.base import Struct
from isotact.core.model.keys import Item, Key
from isotact.core.model.named_keys import prove_key
from isotact.core.model.plan import Plan
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.words import Id
from isotact.core.runsheet import run_sheet
from isotact.core.telling import promise_words
from isotact.core.trades import Act, Check, Condition, Fault, conditions_of, lamps, perform
from isotact.core.world import Observation, World, prove
from isotact.core.world.appearance import Lamps, lamp_view, prompt_shown, screen_view
from isotact.core.world.observation import number, state, text


class Covered(Struct):
    """One fault of one condition, as it turns out.

    `standing` are promises that need the condition and hold all the same; `seen_by` the ids of the checks that read
    otherwise than on the sound rig; `alike` the faults that no look tells from this one.
    """

    rig: Id
    condition: str
    fault: str
    says: str
    still_holds: bool
    standing: tuple[Id, ...]
    fallen: tuple[Id, ...]
    seen_by: tuple[str, ...]
    alike: tuple[str, ...] = ()


def coverage(rig: ResolvedRig, plan: Plan) -> list[Covered]:
    """One row per fault of every condition of `plan`, each put into a rig on which its run sheet was carried out."""
    conditions = conditions_of(rig, plan)
    sound = carry_through(rig, run_sheet(rig, plan, conditions))
    checks = list(checks_of(rig, plan, conditions))
    # Read once: the sound rig is compared with every broken one.
    before = _readings(sound, checks)
    rows: list[tuple[Covered, Act, tuple[Observation, ...]]] = []
    for condition, fault in faults_of(rig, conditions):
        broken = put_in(sound, fault)
        readings = _readings(broken, checks)
        rows.append((_row(rig, plan, condition, fault, broken, before, readings, checks), fault.act, readings))
    return list(_with_alike(rows))


def faults_of(rig: ResolvedRig, conditions: Iterable[Condition]) -> Iterator[tuple[Condition, Fault]]:
    """Every single fault, with the condition that it breaks."""
    for condition in conditions:
        for fault in condition.faults(rig):
            yield condition, fault


def put_in(world: World, fault: Fault) -> World:
    """A fork of `world` with one fault in it, settled. The world itself stays as it is."""
    other = world.fork()
    perform(other, fault.act)
    return other


def checks_of(rig: ResolvedRig, plan: Plan, conditions: Iterable[Condition]) -> Iterator[Check]:
    """All that can be looked at, each once: the checks of the conditions, lamps, screens, prompts, and the proofs."""
    # Conditions share looks: the same lamp tells of many, and is looked at once.
    known: dict[Key, Check] = {}
    for condition in conditions:
        check = condition.check(rig)
        known.setdefault(check.id, check)
    yield from known.values()
    tell = lamps()
    for device in dict.fromkeys(feed.device for feed in plan.feeds):
        yield from _of_device(rig, device, tell)
    for promise in rig.rig.promises:
        if promise.id in plan.kept:
            yield Check(
                id=prove_key(promise.id),
                says=f"Work it: {promise_words(rig, promise)}.",
                seconds=15,
                where=promise.place,
                read=_prover(promise.id),
            )


def _of_device(rig: ResolvedRig, device: str, tell: Lamps) -> Iterator[Check]:
    """What is seen of a device without touching it."""
    placed = rig[device]
    for indicator in placed.profile.indicators:
        yield Check(
            id=Key.of("lamp", Item(device, indicator.id)),
            says=f"Look at the {indicator.name} of {placed.name} ({indicator.place}).",
            seconds=2,
            where=device,
            read=lambda world, one=indicator: state(lamp_view(world, device, one, tell).looks),  # type: ignore[misc]
        )
    for surface in placed.profile.surfaces:
        if surface.is_screen:
            yield Check(
                id=Key.of("screen", Item(device, surface.id)),
                says=f"Look at the {surface.name} of {placed.name}.",
                seconds=2,
                where=device,
                read=lambda world, key=surface.id: _shown(world, device, key),  # type: ignore[misc]
            )
    if placed.profile.wake is not None and placed.profile.wake.prompts:
        yield Check(
            id=Key.of("prompt", device),
            says=f"See whether {placed.name} asks something.",
            seconds=2,
            where=device,
            read=lambda world: _asked(world, device),
        )


def _asked(world: World, device: str) -> Observation:
    asks = prompt_shown(world, device)
    return state("asks nothing") if asks is None else text(asks)


def _shown(world: World, device: str, surface: str) -> Observation:
    view = screen_view(world, device, surface)
    if view.delay_ms is None:
        return state(view.shows)
    return number(view.delay_ms, "ms", f"{view.shows}, {view.delay_ms:g} ms late")


def _prover(promise: str) -> Callable[[World], Observation]:
    """What is seen when a promise is worked, and what is read with it."""
    return lambda world: state((proof := prove(world, promise)).seen + proof.reading)


def _readings(world: World, checks: list[Check]) -> tuple[Observation, ...]:
    return tuple(check.read(world) for check in checks)


def _row(
    rig: ResolvedRig,
    plan: Plan,
    condition: Condition,
    fault: Fault,
    broken: World,
    before: tuple[Observation, ...],
    readings: tuple[Observation, ...],
    checks: list[Check],
) -> Covered:
    # By working each on the broken rig, and not by what the plan reasons: this is the check of that reasoning.
    fallen = tuple(promise for promise in plan.kept if not prove(broken, promise).ok)
    return Covered(
        rig=rig.rig.id,
        condition=str(condition.key),
        fault=fault.id,
        says=fault.says,
        still_holds=condition.holds(broken),
        standing=tuple(promise for promise in condition.promises if promise not in fallen),
        fallen=fallen,
        seen_by=tuple(
            str(check.id) for check, one, other in zip(checks, before, readings, strict=True) if one != other
        ),
    )


def _with_alike(rows: list[tuple[Covered, Act, tuple[Observation, ...]]]) -> Iterator[Covered]:
    """What no look tells apart; the same thing gone wrong, under two conditions, is one fault."""
    groups: dict[tuple[Observation, ...], list[tuple[str, Act]]] = defaultdict(list)
    for row, act, readings in rows:
        # All that can be seen is the key: what reads alike everywhere nobody can tell apart.
        groups[readings].append((f"{row.condition}/{row.fault}", act))
    for row, act, readings in rows:
        yield row.model_copy(update={"alike": tuple(name for name, other in groups[readings] if other != act)})
