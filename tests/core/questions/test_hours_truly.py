"""Hours that hold by watts and not by the circuit are no hours: in other plans as little as in the plan itself.

From the grip's 31.5 Wh the grip and the body last 2.65 h by the circuit and 2.8 h by watts alone.
"""

import pytest

from isotact.core.day import plan_day
from isotact.core.model import Kit, ResolvedRig
from isotact.core.model.kit import KitCable
from isotact.core.model.variants import with_document
from isotact.core.planning import plan
from isotact.core.questions import functions_matrix
from isotact.core.questions.alternatives import alternatives
from isotact.core.runsheet import run_sheet
from isotact.core.trades import conditions_of
from tests.core.planning.test_feeds import GRIP, ROLL, hours, rig

DATA = "usb-c-usb-c-data-30"


def grip_and_body(hours_h: float) -> ResolvedRig:
    return rig(GRIP, [DATA], [ROLL, hours(hours_h)])


@pytest.mark.parametrize(("hours_h", "kept"), [(2.6, True), (2.72, False), (2.9, False)])
def test_no_other_plan_keeps_hours_that_the_plan_itself_could_not(hours_h: float, kept: bool):
    asked = grip_and_body(hours_h)
    found = alternatives(asked)
    assert ("hours" in found[0].plan.kept) is kept
    for one in found:
        empty = [feed.hours_h for feed in one.plan.feeds if feed.hours_h]
        if "hours" in one.plan.kept:
            assert min(empty) >= hours_h
    assert found[0].plan.kept == plan(asked).kept


@pytest.mark.parametrize("leads", [2, 1])
def test_no_rig_of_a_day_keeps_hours_that_it_could_not_keep_alone(leads: int):
    """With enough leads, and with one between them, so that the rigs are planned in one model."""
    asked = grip_and_body(2.72)
    other = with_document(asked, id="feeds-b", camera="B")
    kit = Kit(format="isotact/kit", version=1, id="van", name="Van", cables=[KitCable(cable=DATA, count=leads)])
    day = plan_day([asked, other], kit)
    assert [one.alone for one in day.rigs] == [("roll",), ("roll",)]
    assert all("hours" not in one.plan.kept for one in day.rigs)
    assert sum("roll" in one.plan.kept for one in day.rigs) == leads


def test_the_functions_matrix_says_yes_beside_hours_that_hold_by_the_circuit_as_well():
    asked = grip_and_body(2.6)
    made = plan(asked)
    assert made.kept == ("roll", "hours")
    wanted = ("record", "grip", "record-button")
    [cell] = [
        one for one in functions_matrix(asked, made, "body").cells if (one.function, one.device, one.surface) == wanted
    ]
    assert cell.verdict == "yes"


def test_the_sheet_counts_the_spares_that_the_circuit_needs():
    """2.72 h on 2.65 h at a time: two charges by the circuit, and so one full spare, where watts alone say none."""
    promise = {**hours(2.72), "changes": 1}
    asked = rig(GRIP, [DATA], [ROLL, promise])
    made = plan(asked)
    assert "hours" in made.kept
    titles = [step.title for step in run_sheet(asked, made, conditions_of(asked, made)).steps]
    lasting = {feed.device: feed.hours_h for feed in made.feeds if feed.hours_h}
    spares = {title.split(":")[0] for title in titles if "full spare" in title}
    short = {asked[device].name for device, lasts_h in lasting.items() if lasts_h < 2.72}
    assert spares == short
    assert short
