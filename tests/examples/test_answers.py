"""Every example rig answers as it says it should, and what its plan claims is proven on the bench."""

from collections.abc import Iterator

import pytest

from isotact.catalogue import shipped
from isotact.core.bench import run
from isotact.core.model import Plan, ResolvedRig, Rig, resolve
from isotact.core.model.example import Example, Expectation
from isotact.core.planning import plan
from isotact.core.questions import BalanceAnswer, balance_marks, picture_ways, what_it_takes
from isotact.core.questions.balance_answers import MarkRow, PoleRow
from isotact.core.runsheet import run_sheet
from isotact.examples import examples

CASES = [(example, rig) for example in examples() for rig in example.rigs]
each = pytest.mark.parametrize(("example", "rig"), CASES, ids=[rig.id for _, rig in CASES])


def resolved(rig: Rig) -> ResolvedRig:
    catalogue = shipped()
    return resolve(rig, catalogue.profiles, catalogue.cables)


def differences(made: Plan, wanted: Expectation) -> Iterator[str]:
    """Everything in which the plan is not what was expected."""
    if sorted(made.kept) != sorted(wanted.kept):
        yield f"kept {made.kept}"
    for unmet in made.unmet:
        if wanted.unmet.get(unmet.promise, "nothing") not in unmet.because:
            yield f"{unmet.promise}: {unmet.because}"
    maybe = {one.promise: one.says for one in made.maybe}
    if {*maybe} != {*wanted.maybe} or any(words not in maybe[key] for key, words in wanted.maybe.items()):
        yield f"maybe {maybe}"
    joins = {frozenset((str(join.link.a), str(join.link.b))): join.link.cable for join in made.joins}
    for text in wanted.joins:
        ends, _, cable = text.partition(" by ")
        found = frozenset(ends.split("--"))
        if found not in joins or (cable and joins[found] != cable):
            yield f"no join {text}"
    yield from (f"joined {port}" for port in wanted.not_joined if any(port in ends for ends in joins))
    choices = {f"{choice.device}.{choice.key or 'mode'}": choice.value for choice in made.choices}
    yield from (f"{key} is {choices.get(key)}" for key, value in wanted.choices.items() if choices.get(key) != value)
    order = {f"{pair.first} before {pair.second}" for pair in made.wake_order}
    yield from (f"not {words}" for words in wanted.wakes if words not in order)
    fed = {feed.device: feed.from_device for feed in made.feeds}
    yield from (
        f"{device} fed by {fed.get(device)}" for device, giver in wanted.fed.items() if fed.get(device) != giver
    )


def test_there_is_one_for_each_situation():
    assert [example.number for example in examples()] == list(range(1, 40))


@each
def test_it_answers_as_expected(example: Example, rig: Rig):
    made = plan(resolved(rig))
    assert made.status == "proven-optimal"
    assert list(differences(made, example.expects[rig.id])) == []


@each
def test_what_it_takes_and_the_ways_to_a_picture_are_as_expected(example: Example, rig: Rig):
    found, wanted = resolved(rig), example.expects[rig.id]
    made = plan(found)
    for promise, words in wanted.takes.items():
        assert words in what_it_takes(found, shipped().profiles, made, promise).says
    for promise, count in wanted.ways.items():
        assert len({way.says for way in picture_ways(found, promise)}) == count


def off_balance(found: BalanceAnswer, wanted: Expectation) -> Iterator[str]:
    """Everything in which the marks are not what was worked out by hand."""
    rows: dict[str, MarkRow | PoleRow] = {
        f"{gimbal.gimbal}.{mark.slide}": mark for gimbal in found.gimbals for mark in gimbal.marks
    }
    poles = [gimbal.pole for gimbal in found.gimbals if gimbal.pole is not None]
    rows |= {f"{pole.device}.{pole.slide}": pole for pole in poles}
    for key, mark in wanted.marks.items():
        if key not in rows or rows[key].mark_mm != mark:
            yield f"{key} at {rows[key].mark_mm if key in rows else None}, not {mark}"
    beyond = [key for key, row in rows.items() if row.beyond is not None]
    if wanted.marks and sorted(beyond) != sorted(wanted.beyond):
        yield f"beyond: {beyond}"
    says = [cure.says for gimbal in found.gimbals for cure in gimbal.cures]
    says += [cure for pole in poles for cure in pole.cures]
    yield from (f"no cure {words}" for words in wanted.cures if not any(words in one for one in says))


@pytest.mark.parametrize(
    ("example", "rig"),
    [pytest.param(example, rig, id=rig.id) for example, rig in CASES if example.expects[rig.id].marks],
)
def test_the_marks_are_those_that_were_worked_out_by_hand(example: Example, rig: Rig):
    found, wanted = resolved(rig), example.expects[rig.id]
    answer = balance_marks(found, plan(found))
    assert [*off_balance(answer, wanted)] == []
    wrong = wanted.model_copy(update={"marks": {key: mark + 1 for key, mark in wanted.marks.items()}, "cures": ["?"]})
    assert len([*off_balance(answer, wrong)]) == len(wanted.marks) + 1


@each
def test_what_is_planned_is_proven_on_the_bench(example: Example, rig: Rig):
    found = resolved(rig)
    made = plan(found)
    ran = run(found, run_sheet(found, made))
    assert set(ran.unproven) == {promise.id for promise in rig.promises} - set(made.kept)


@each
def test_a_wrong_expectation_would_be_noticed(example: Example, rig: Rig):
    made = plan(resolved(rig))
    wanted = example.expects[rig.id]
    wrong = wanted.model_copy(
        update={
            "kept": [],
            "joins": ["x.y--z.q"],
            "fed": {"x": "y"},
            "choices": {"x.mode": "y"},
            "wakes": ["x before y"],
        }
    )
    assert len(list(differences(made, wrong))) >= 5
