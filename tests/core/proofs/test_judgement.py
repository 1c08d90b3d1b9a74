"""What a reading says of a promise: within its limit, over it, or not to be told."""

from dataclasses import replace
from typing import Any

import pytest
from pydantic import ValidationError

from isotact.core.planning import plan
from isotact.core.proofs import (
    Clocks,
    Filmed,
    Pair,
    ProofCheck,
    Reading,
    by_clocks,
    by_frames,
    checks_of_promise,
    judged,
)
from isotact.core.runsheet import Step
from isotact.core.runsheet.full_sheet import graph_of, steps_of
from isotact.core.trades import Planned, conditions_of
from tests.rigs import demo

DELAY = ProofCheck(id="delay", says="Its delay: at most 80 ms.", unit="ms", at_most=80)


def verdict(ask: ProofCheck, **read: Any) -> str:
    (found,) = judged([ask], [Reading(ask=ask.id, **read)])
    return found.verdict


@pytest.mark.parametrize(
    ("frames", "rate_fps", "says"),
    [
        ((1,), 240, "holds"),
        ((15,), 240, "holds"),  # 62.5 ± 3.4
        ((19,), 240, "open"),  # 79.2 ± 3.4
        ((20,), 240, "open"),  # 83.3 ± 3.4: 79.9 is not ruled out
        ((21,), 240, "fails"),  # 87.5 ± 3.4
        ((2,), 25, "open"),  # 80 ± 32.7
        ((4,), 25, "fails"),  # 160 ± 32.7
    ],
)
def test_counted_frames_beside_a_limit_of_80_ms(frames: tuple[int, ...], rate_fps: float, says: str):
    assert verdict(DELAY, filmed=Filmed(frames=frames, rate_fps=rate_fps)) == says


def test_more_takes_that_agree_do_not_make_a_frame_finer_and_takes_that_differ_make_it_coarser():
    one = by_frames(Filmed(frames=(6,), rate_fps=60))
    assert by_frames(Filmed(frames=(6, 6, 6), rate_fps=60)) == one
    apart = by_frames(Filmed(frames=(3, 6, 9), rate_fps=60))
    assert apart.value == one.value
    assert apart.plus_minus > one.plus_minus


def test_two_clocks_in_one_frame():
    found = by_clocks(
        Clocks(pairs=(Pair(real_ms=12_480, shown_ms=12_396), Pair(real_ms=15_000, shown_ms=14_916)), refresh_hz=60)
    )
    assert found.value == 84
    assert found.plus_minus == pytest.approx(2 * (1000 / 60) / 6**0.5, abs=0.05)


def test_a_range_that_was_walked_beside_how_far_it_has_to_hold():
    ask = ProofCheck(id="range", says="Walk the range.", unit="m", at_least=30, is_needed=False)
    assert [verdict(ask, value=metres) for metres in (12.0, 30.0, 55.0)] == ["fails", "holds", "holds"]


def test_what_nobody_looked_at_is_missing_and_the_last_look_counts():
    near, far = ProofCheck(id="near-end", says="Near."), ProofCheck(id="far-end", says="Far.")
    found = judged([near, far], [Reading(ask="near-end", seen=True), Reading(ask="near-end", seen=False)])
    assert [(one.ask.id, one.verdict, one.read) for one in found] == [
        ("near-end", "fails", "not seen"),
        ("far-end", "missing", ""),
    ]


@pytest.mark.parametrize("read", [{}, {"seen": True, "value": 3.0}, {"value": -1.0}, {"value": float("nan")}])
def test_a_reading_is_one_thing(read: dict[str, Any]):
    with pytest.raises(ValidationError):
        Reading(ask="delay", **read)


def test_what_is_asked_of_the_demo_rig():
    rig = demo()
    asked = {promise.id: [ask.id for ask in checks_of_promise(rig, promise.id)] for promise in rig.rig.promises}
    assert asked["roll"] == ["starts", "stops"]
    assert asked["focus"] == ["near-end", "far-end", "direction"]
    assert asked["picture"] == ["seen", "delay"]
    assert "range" in [ask.id for ask in checks_of_promise(rig, "picture", by_radio=True)]
    needed = {ask.id: ask.is_needed for ask in checks_of_promise(rig, "picture", by_radio=True)}
    assert needed == {"seen": True, "delay": rig.rig.promise("picture").latest_ms is not None, "range": False}


MARK = ProofCheck(id="mark", says="Read the mark at the plate.", unit="mm", at_least=40, at_most=60)


@pytest.mark.parametrize(
    ("value", "plus_minus", "says"),
    [
        (50.0, None, ("holds", "50 mm")),
        (50.0, 1.0, ("holds", "50 ± 1 mm")),
        (59.5, 1.0, ("open", "59.5 ± 1 mm")),
        (62.0, 1.0, ("fails", "62 ± 1 mm")),
        (39.5, 0.25, ("fails", "39.5 ± 0.25 mm")),
    ],
)
def test_a_mark_on_a_scale_is_as_sure_as_its_scale_is_fine(value: float, plus_minus: float | None, says):
    (found,) = judged((MARK,), (Reading(ask="mark", value=value, plus_minus=plus_minus),))
    assert (found.verdict, found.read) == says


def test_how_far_a_number_may_be_off_goes_with_a_number():
    with pytest.raises(ValidationError, match="found a plus_minus without its value"):
        Reading(ask="mark", seen=True, plus_minus=1)


def test_a_step_asks_for_what_its_draft_asks_for():
    """A step that asks for volts is written down and read back with its unit and limits."""
    volts = ProofCheck(id="volts", says="Measure at the open plug.", unit="V", at_least=11, at_most=17)
    rig = demo()
    made = plan(rig)
    graph = graph_of(planned := Planned(rig, made), conditions_of(rig, made))
    node = next(iter(graph))
    node.draft = replace(node.draft, asks=(volts,))
    step = next(one for one in steps_of(planned, list(graph)) if one.id == str(node.key))
    assert Step.model_validate_json(step.model_dump_json()).asks == (volts,)
