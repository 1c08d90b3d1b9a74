"""What is worked on a picture holds only with it: answers that a technician gives, written before they were planned.

Common practice, no source.
"""

from typing import Any

import pytest

from isotact.core.faults import coverage
from isotact.core.model import Plan, Profile, ResolvedRig
from isotact.core.planning import plan
from isotact.core.questions import alternatives
from isotact.core.runsheet import run_sheet
from isotact.core.trades import conditions_of, fresh_world
from isotact.core.trades.cables.acts import Unplug
from isotact.core.world import Cables, prove
from tests.core.runsheet.careful import carefully
from tests.rigs import cable, control, picture, port, profile, promise, rig_of, video

HDMI = cable("hdmi", "hdmi-a", "hdmi-a", {"medium": "hdmi"}, length_mm=2000)
DATA = cable("data", "usb-c", "usb-c", {"medium": "usb-data"}, length_mm=2000)


def on(draw_w: float = 3) -> dict[str, Any]:
    return {
        "wake": {"how": "On.", "boot_s": 1},
        "power": {"draw_w": draw_w, "inner_battery": {"name": "battery", "energy_wh": 30}},
    }


BODY = profile("body", ports=[port("out", "hdmi-a", video("out"))], makes=[{"over": "out", "delay_ms": 20}], **on())
GRIP = profile(
    "grip",
    stage="handles",
    ports=[port("data", "usb-c", control("p", "device"))],
    accepts=[{"functions": ["gimbal-move", "tracking", "recentre"], "over": "data"}],
    **on(),
)


def pad(**emits: Any) -> Profile:
    """A panel on which a picture is seen and a gimbal is moved."""
    functions = ["gimbal-move", "tracking", "exposure-tools", "recentre"]
    return profile(
        "pad",
        stage="off-gimbal",
        ports=[port("in", "hdmi-a", video("in")), port("data", "usb-c", control("p", "host"))],
        surfaces=[{"id": "glass", "name": "glass", "kind": "touch"}, {"id": "stick", "name": "stick", "kind": "stick"}],
        emits=[
            {"functions": functions, "surface": "glass", "over": "data", **emits},
            {"functions": ["gimbal-move"], "surface": "stick", "over": "data"},
        ],
        accepts=[{"functions": ["exposure-tools"], "surface": "glass"}],
        shows=[{"screen": "glass", "over": "in", "delay_ms": 10}],
        **on(),
    )


def rig(leads: list[tuple[Any, int]], function: str, surface: str = "glass", **emits: Any) -> ResolvedRig:
    return rig_of([BODY, GRIP, pad(**emits)], leads, [promise(function, "pad", surface)])


BOTH = [(HDMI, 1), (DATA, 1)]
NO_PICTURE = [(HDMI, 0), (DATA, 1)]


def because(made: Plan) -> str:
    return made.unmet[0].because


@pytest.mark.parametrize("function", ["tracking", "exposure-tools"])
def test_what_is_worked_on_the_picture_brings_its_picture_along(function: str):
    asked = rig(BOTH, function)
    made = plan(asked)
    assert made.kept == (function,)
    assert "hdmi" in {join.link.cable for join in made.joins if function in join.promises}
    world = fresh_world(asked)
    carefully(world, run_sheet(asked, made).steps)
    assert prove(world, function).ok


@pytest.mark.parametrize("function", ["tracking", "exposure-tools"])
def test_and_does_not_hold_without(function: str):
    made = plan(rig(NO_PICTURE, function))
    assert made.kept == ()
    assert "It is worked on the picture there." in because(made)
    assert "No cable joins" in because(made)


@pytest.mark.parametrize(
    ("function", "surface", "emits", "kept"),
    [
        ("recentre", "glass", {}, True),
        ("gimbal-move", "stick", {"on_picture": True}, True),
        ("gimbal-move", "glass", {"on_picture": True}, False),
        ("gimbal-move", "glass", {}, True),
    ],
)
def test_only_what_stands_on_the_picture_page_needs_one(function: str, surface: str, emits: dict[str, Any], kept: bool):
    assert bool(plan(rig(NO_PICTURE, function, surface, **emits)).kept) is kept


def test_a_picture_that_was_promised_there_is_the_same_picture():
    """One lead for both."""
    asked = rig_of([BODY, GRIP, pad()], BOTH, [promise("tracking", "pad", "glass"), picture("pad", "glass")])
    made = plan(asked)
    assert made.kept == ("tracking", "picture")
    (lead,) = (join for join in made.joins if join.link.cable == "hdmi")
    assert lead.promises == ("picture", "tracking")


def test_every_fault_of_the_picture_breaks_it():
    """The lead out, the screen dark, the body off: the bench and the plan say so alike."""
    asked = rig(BOTH, "tracking")
    made = plan(asked)
    conditions = {str(one.key): one.promises for one in conditions_of(asked, made)}
    assert conditions["screen:pad.glass"] == ("tracking",)
    assert conditions["awake:body"] == ("tracking",)
    for row in coverage(asked, made):
        assert (row.still_holds, row.standing, row.fallen) == (False, (), conditions[row.condition]), row


def test_the_bench_says_what_is_missing():
    asked = rig(BOTH, "tracking")
    world = fresh_world(asked)
    carefully(world, run_sheet(asked, plan(asked)).steps)
    (lead,) = (plug for plug in world[Cables].plugs.values() if plug.cable == "hdmi")
    Unplug(a=lead.a, b=lead.b).do(world)
    world.settle()
    assert prove(world, "tracking").seen == "It is worked on the picture, and the glass of pad shows none."


def test_it_is_asked_of_other_ways_too():
    assert all("hdmi" in {join.link.cable for join in way.plan.joins} for way in alternatives(rig(BOTH, "tracking")))


@pytest.mark.parametrize(("look", "says"), [("with", "The look is on"), ("clean", "No look is on it"), ("any", "")])
def test_the_look_or_its_absence_is_proven(look: str, says: str):
    seen = picture("pad", "glass", look=look)
    body = BODY.model_copy(update={"makes": [BODY.makes[0].model_copy(update={"look": look == "with"})]})
    asked = rig_of([body, GRIP, pad()], BOTH, [seen])
    step = run_sheet(asked, plan(asked)).steps[-1]
    assert step.act.proves == "picture"
    assert says in step.expect
