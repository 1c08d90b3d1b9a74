"""Exercises under one's own hands: a rig at the bench with something wrong, or built blind, judged by what works."""

from isotact.core.bench import HandBench
from isotact.core.diagnosis.cures import cure, world_with
from isotact.core.diagnosis.table import Table
from isotact.core.runsheet import RunSheet
from isotact.core.telling import promise_words
from isotact.core.training.hidden import Hidden
from isotact.core.training.told import Verdict
from isotact.core.training.trail import finders_way
from isotact.core.training.training import points
from isotact.core.world import prove


def hunted(bench: HandBench, table: Table, hidden: Hidden) -> HandBench:
    """A bench on which something is wrong."""
    bench.world = world_with(table, hidden.columns)
    bench.done = {moment.step.id: number for number, moment in enumerate(table.situation.moments)}
    bench.began_s = bench.world.clock_s
    return bench


def judged_hunt(bench: HandBench, table: Table, hidden: Hidden, given_up: bool) -> Verdict:
    """How a hunt stands: mended once every promise that was kept works again."""
    verdict = _verdict(bench, given_up)
    if verdict.status == "open":
        return verdict
    was = [table.hypotheses[column] for column in hidden.columns]
    sheet = cure(table, [one.cause for one in was])
    par_s = finders_way(table, hidden.columns).seconds + _all_of(sheet)
    return _over(verdict, par_s).model_copy(
        update={"was": tuple(one.says for one in was), "kinds": tuple(one.kind for one in was)}
    )


def judged_blind(bench: HandBench, given_up: bool) -> Verdict:
    """How a rig stands that somebody built without its sheet: what works, what stands otherwise, how long it took."""
    verdict = _verdict(bench, given_up)
    if verdict.status == "open":
        return verdict
    conditions = (one for one in bench.built.conditions if not one.holds(bench.world))
    otherwise = tuple(one.says(bench.built.rig) for one in conditions)
    return _over(verdict, _all_of(bench.built.sheet)).model_copy(update={"otherwise": otherwise})


def _verdict(bench: HandBench, given_up: bool) -> Verdict:
    rig, kept = bench.built.rig, bench.built.plan.kept
    fails = tuple(promise_words(rig, rig.rig.promise(one)) for one in kept if not prove(bench.world, one).ok)
    return Verdict(
        status="mended" if not fails else "given-up" if given_up else "open",
        fails_now=fails,
        seconds=bench.world.clock_s - bench.began_s,
        moves=len(bench.told),
    )


def _over(verdict: Verdict, par_s: float) -> Verdict:
    won = verdict.status == "mended"
    return verdict.model_copy(update={"par_s": par_s, "points": points(verdict.seconds, par_s) if won else 0})


def _all_of(sheet: RunSheet) -> float:
    return sum(step.takes_s + step.waits_s for step in sheet.steps)
