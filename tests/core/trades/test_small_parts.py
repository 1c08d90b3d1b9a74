"""Small parts: what each device is fixed with, what is wanting, and what that does to plan, reasons and sheet."""

from itertools import permutations
from typing import Any

import pytest
from pydantic import ValidationError

from isotact.core.model.gimbals import Sits
from isotact.core.model.resolved import ResolvedRig, resolve
from isotact.core.model.rig import Rig
from isotact.core.model.small_parts import SMALL_PARTS, Fixing, PartBag, PartItem, bag_of
from isotact.core.planning import plan
from isotact.core.planning.model_access import price_list
from isotact.core.questions.rig_changes import with_changes
from isotact.core.questions.upgrades import what_it_takes
from isotact.core.runsheet import run_sheet
from isotact.core.trades.mounting.small_parts import fix_words, fixed_with, wanting_words
from tests.rigs import DATA, RECORD, cable, camera, carried, grip, profile, rig_of

SCREW = {"by": ["screw"], "size": "1/4-20", "least_mm": 4, "most_mm": 5.5}
ANY = {"by": ["arm", "shoe"], "size": "1/4-20"}
RODS = {"by": ["rods"], "size": "15 mm"}


def rig(parts: dict[str, int] | None, body: list[dict[str, Any]], **others: list[dict[str, Any]]) -> ResolvedRig:
    things = [camera(fixed_by=body), grip(), *(profile(key, fixed_by=needs) for key, needs in others.items())]
    lying = None if parts is None else [{"part": key, "count": count} for key, count in parts.items()]
    return rig_of(things, [(DATA, 1)], [RECORD], parts=lying)


@pytest.mark.parametrize(
    ("needs", "part", "does"),
    [
        (SCREW, "screw-1-4-5", True),
        (SCREW, "screw-1-4-8", False),  # it meets the bottom of the thread before it holds
        (SCREW, "screw-3-8-6", False),
        ({**SCREW, "least_mm": 6, "most_mm": None}, "screw-1-4-5", False),  # too few turns hold
        (ANY, "arm-1-4", True),
        (ANY, "shoe-1-4", True),
        (ANY, "clamp-15", False),
        (RODS, "rods-15-100", True),
        (RODS, "rods-19-300", False),
    ],
)
def test_a_part_does_by_kind_size_and_length(needs: dict[str, Any], part: str, does: bool):
    assert Fixing.model_validate(needs).takes(SMALL_PARTS[part]) is does


def test_where_nobody_said_what_lies_in_the_bag_nothing_is_refused_and_the_card_says_what_it_takes():
    asked = rig(None, [SCREW])
    made = plan(asked)
    assert made.kept == ("record",)
    assert fix_words(asked, "camera", fixed_with(asked, ["camera"])) == "It takes a 1/4-20 screw (4 to 5.5 mm out)."
    assert not any(step.title == "Lay out the small parts" for step in run_sheet(asked, made).steps)


def test_with_the_part_there_it_is_laid_out_and_named_on_the_card():
    asked = rig({"screw-1-4-5": 2, "screw-1-4-8": 4}, [SCREW])
    sheet = run_sheet(asked, plan(asked))
    laid = next(step for step in sheet.steps if step.title == "Lay out the small parts")
    assert (laid.stage, laid.detail) == ("gather", ("1 camera screw 1/4-20, 5 mm out.",))
    fixed = next(step for step in sheet.steps if step.id == "fix:camera")
    assert "With camera screw 1/4-20, 5 mm out." in fixed.detail
    assert sheet.steps.index(laid) < sheet.steps.index(fixed)


def test_without_it_the_reason_says_what_is_wanting_and_the_way_out_was_planned():
    asked = rig({"screw-1-4-8": 4}, [SCREW])
    [unmet] = plan(asked).unmet
    assert "camera is fixed by a 1/4-20 screw (4 to 5.5 mm out), and the bag of small parts has none." in unmet.because
    assert unmet.ways_out == ("Get 1 camera screw 1/4-20, 5 mm out.",)
    assert plan(rig({"screw-1-4-8": 4, "screw-1-4-5": 1}, [SCREW])).kept == ("record",)


def test_an_empty_bag_is_not_the_same_as_one_of_which_nobody_spoke():
    assert plan(rig({}, [SCREW])).kept == ()
    assert plan(rig({}, [])).kept == ("record",)


def test_what_no_known_part_does_is_asked_for_in_words():
    asked = rig({"screw-1-4-5": 1}, [{"by": ["plate"], "size": "wide pattern"}])
    [unmet] = plan(asked).unmet
    assert unmet.ways_out == ("Get a wide pattern plate for camera.",)


def test_two_that_want_one_and_one_that_has_a_choice():
    asked = rig({"arm-1-4": 1, "shoe-1-4": 1}, [ANY], one=[{**ANY, "by": ["arm"]}])
    found = fixed_with(asked, ["camera", "one"])
    assert found.by == {("camera", 0): "shoe-1-4", ("one", 0): "arm-1-4"}
    found = fixed_with(rig({"arm-1-4": 1}, [ANY], one=[{**ANY, "by": ["arm"]}]), ["camera", "one"])
    assert len(found.missing) == 1
    assert [*wanting_words(asked, found)] in (["camera: a 1/4-20 arm or shoe"], ["one: a 1/4-20 arm"])


def test_tools_serve_all():
    asked = rig({"rods-15-200": 1}, [RODS], one=[RODS], two=[RODS])
    assert fixed_with(asked, ["camera", "one", "two"]).missing == []


def test_as_many_are_met_as_by_trying_every_order():
    needs = [[ANY], [{**ANY, "by": ["arm"]}], [{**ANY, "by": ["arm", "clamp"]}], [{**ANY, "by": ["shoe"]}]]
    for stock in ({"arm-1-4": 1, "clamp-15": 1}, {"arm-1-4": 2, "shoe-1-4": 1}, {"shoe-1-4": 3, "clamp-15": 1}):
        asked = rig(stock, needs[0], one=needs[1], two=needs[2], three=needs[3])
        found = fixed_with(asked, ["camera", "one", "two", "three"])

        def greedy(order: tuple[int, ...], stock: dict[str, int] = stock, bag: PartBag = asked.part_bag) -> int:
            left, met = dict(stock), 0
            for number in order:
                able = bag.doing(Fixing.model_validate(needs[number][0]))
                part = next((key for key in able if left[key]), None)
                if part is not None:
                    left[part] -= 1
                    met += 1
            return met

        assert len(found.by) == max(map(greedy, permutations(range(4))))


@pytest.mark.parametrize(
    ("parts", "says"),
    [
        ([{"part": "screw-1-4-6", "count": 1}], "no small part we know"),
        ([{"part": "strap", "count": 1}, {"part": "strap", "count": 2}], "found 'strap' twice"),
        ([{"part": "strap", "count": 1.5}], "count"),
    ],
)
def test_a_bag_that_makes_no_sense_is_refused_at_its_place(parts: list[dict[str, Any]], says: str):
    document = rig(None, []).rig.model_dump() | {"parts": parts}
    with pytest.raises(ValidationError) as caught:
        Rig.model_validate(document)
    told = f"{caught.value} {caught.value.errors()}"
    assert "parts" in told
    assert says in told


def lies(**counts: int) -> list[dict[str, Any]]:
    return [{"part": key.replace("_", "-"), "count": count} for key, count in counts.items()]


def test_a_part_of_the_crews_own_is_laid_out_and_named():
    """A screw that no list has: 7 mm out, where the body takes 6.5 to 7.5."""
    body = [{"by": ["screw"], "size": "1/4-20", "least_mm": 6.5, "most_mm": 7.5}]
    own = {"name": "brass screw, 7 mm out", "kind": "screw", "size": "1/4-20", "length_mm": 7, "mass_g": 9}
    asked = rig({"screw-1-4-5": 3}, body)
    assert plan(asked).kept == ()
    items = [*(asked.rig.parts or ()), PartItem.model_validate({"part": "brass", "count": 1, "made": own})]
    more = resolve(asked.rig.model_copy(update={"parts": items}), *looked_up(asked))
    assert plan(more).kept == ("record",)
    assert fix_words(more, "camera", fixed_with(more, ["camera"])) == "With brass screw, 7 mm out."


def looked_up(asked: ResolvedRig) -> tuple[dict[str, Any], Any]:
    return {placed.profile.id: placed.profile for placed in asked.devices.values()}, asked.cables


@pytest.mark.parametrize(
    ("item", "says"),
    [
        ({"part": "brass", "count": 1}, "no small part we know"),
        ({"part": "key-2-5", "count": 1, "made": {"name": "k", "kind": "key", "size": "2", "mass_g": 1}}, "of its own"),
    ],
)
def test_a_name_is_known_or_said_what_it_is(item: dict[str, Any], says: str):
    with pytest.raises(ValidationError) as caught:
        PartItem.model_validate(item)
    assert says in str(caught.value.errors())


def test_what_the_parts_weigh():
    """By hand: two screws of 6 g, one pair of rods for three that need it (95, the lighter), no key."""
    bag = bag_of(PartItem.model_validate(one) for one in lies(screw_1_4_5=2, rods_15_100=1, rods_15_200=1, key_2_5=1))
    screw, rods = Fixing.model_validate(SCREW), Fixing.model_validate(RODS)
    key = Fixing.model_validate({"by": ["key"], "size": "2.5 mm"})
    assert bag.weights_g([("a", [screw, key]), ("b", [rods]), ("c", [rods, screw]), ("d", [rods])]) == 6 + 95 + 6
    assert bag.weights_g([("a", [key])]) == 0
    assert bag_of(None).weights_g([("a", [screw, rods])]) == 0


def flown(parts: list[dict[str, Any]] | None, most_g: float) -> ResolvedRig:
    """The body of 1,000 g on a gimbal that carries `most_g`, fixed by a screw and a pair of rods."""
    carrier = {"axes": ["tilt", "roll", "pan"], "min_payload_g": 0, "max_payload_g": most_g}
    things = [camera(fixed_by=[SCREW, RODS], mass_g=1000), grip(carrier=carrier, stage="handles")]
    return rig_of(things, [(cable("long", "usb-c", "usb-c", length_mm=1500), 1)], [RECORD], parts=parts)


def test_the_payload_is_that_of_the_parts_as_well():
    """1,000 g of body, 6 of screw, 190 of rods, and whatever hangs of the lead: what is fixed heavier is carried too."""
    light, heavy = (flown(lies(screw_1_4_5=1, **{rods: 1}), 5000) for rods in ("rods_15_100", "rods_15_200"))
    assert heavy.payload_g(["camera"]) == 1000 + 6 + 190
    assert light.payload_g(["camera"]) == 1000 + 6 + 95
    assert flown(None, 5000).payload_g(["camera"]) == 1000


@pytest.mark.parametrize(("rods", "flies"), [("rods_15_100", True), ("rods_15_200", False)])
def test_what_it_is_fixed_with_can_be_too_heavy_for_the_gimbal(rods: str, flies: bool):
    """A gimbal that carries 1,150 g: with the short rods it weighs 1,101, with the long ones 1,196."""
    asked = flown(lies(screw_1_4_5=1, **{rods: 1}), 1150)
    made = plan(asked)
    assert (made.kept == ("record",)) is flies
    if not flies:
        assert "in its cage sit 1.2 kg: camera 1 kg, small parts 0.2 kg." in made.unmet[0].because


def test_what_it_takes_is_a_part_where_that_is_all_that_lacks():
    asked = rig({"screw-1-4-8": 1}, [SCREW])
    made = plan(asked)
    found = what_it_takes(asked, {}, made, "record")
    [change] = found.takes[0].changes
    assert (change.kind, change.value, change.says) == ("part", "screw-1-4-5", "get camera screw 1/4-20, 5 mm out")
    assert found.takes[0].points == price_list.GET_PART
    then = with_changes(asked, [change])
    assert {item.part: item.count for item in then.parts or ()} == {"screw-1-4-8": 1, "screw-1-4-5": 1}
    assert plan(resolve(then, *looked_up(asked))).kept == ("record",)


def test_one_pair_of_rods_that_is_got_serves_all():
    asked = rig({}, [RODS], one=[RODS])
    found = what_it_takes(asked, {}, plan(asked), "record")
    assert [(change.kind, change.count) for change in found.takes[0].changes] == [("part", 1)]


def test_what_sits_on_another_thing_is_fixed_after_it_on_the_gimbal_and_off_it():
    """A receiver behind the director's monitor, and a link on the left of the body."""
    rig = demo_of(
        "night-ferry-a", receiver={"on": "village", "side": "back"}, transmitter={"on": "body", "side": "left"}
    )
    steps = {step.id: step for step in run_sheet(rig, plan(rig)).steps}
    order = [*steps]
    assert order.index("fix:village") < order.index("fix:receiver")
    assert order.index("fix:body") < order.index("fix:transmitter")
    assert steps["fix:receiver"].detail[0] == "At the back of Director's monitor."
    assert steps["fix:transmitter"].detail[0] == "On the left of Marlstone 6."


def demo_of(key: str, **sits: dict[str, Any]) -> ResolvedRig:
    """A rig of the demo with some things said to sit on others."""
    rig = carried(key).rig
    devices = [
        device.model_copy(update={"sits": Sits.model_validate(sits[device.id])}) if device.id in sits else device
        for device in rig.rig.devices
    ]
    document = Rig.model_validate(rig.rig.model_copy(update={"devices": devices}).model_dump())
    return resolve(document, {placed.profile.id: placed.profile for placed in rig.devices.values()}, rig.cables)
