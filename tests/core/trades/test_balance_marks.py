"""Where everything sits and where every scale has to stand, each case worked out by hand beside it."""

from typing import Any

import pytest

from isotact.catalogue import shipped
from isotact.core.model.resolved import ResolvedRig, resolve
from isotact.core.model.rig import Rig
from isotact.core.planning import plan
from isotact.core.questions import balance_marks
from isotact.core.trades import Planned
from isotact.core.trades.balance.marks import GimbalBalance, balance_of
from isotact.core.trades.balance.marks_words import card_lines, cure_words, feels, in_order, set_words
from tests.rigs import DATA, RECORD, SHIPPED, camera, carried, control, grip, port, profile, rig_of, video

THREAD = [{"kind": "thread", "size": "1/4-20"}]
CARRIER: dict[str, Any] = {
    "min_payload_g": 200,
    "max_payload_g": 4000,
    "axes": ["tilt", "roll", "pan"],
    "plate": {"forward_mm": -100, "up_mm": -60},
    "holes_mm": [-20, 0, 20],
    "slides": [
        {"id": "plate", "name": "plate", "axis": "tilt", "grows": "forward", "moves": "plate", "to_mm": 150},
        {"id": "roll", "name": "roll arm", "axis": "roll", "grows": "left", "moves": "tilt-cage", "to_mm": 40},
        {"id": "height", "name": "tilt arm", "axis": "tilt", "grows": "up", "moves": "plate", "to_mm": 50},
        {"id": "pan", "name": "pan arm", "axis": "pan", "grows": "back", "moves": "roll-arm", "to_mm": 70},
    ],
    "weights": [
        {"name": "left end", "rides": "plate", "centre": {"right_mm": -60, "up_mm": -60}, "most_g": 300},
        {"name": "right end", "rides": "plate", "centre": {"right_mm": 60, "up_mm": -60}, "most_g": 300},
    ],
}
BODY: dict[str, Any] = {
    "mass_g": 1000,
    "size_mm": [100, 80, 60],
    "mounts": THREAD,
    "ports": [port("usb", "usb-c", control("p", "device")), port("hdmi", "hdmi-a", video("out"))],
    "makes": [{"over": "hdmi", "delay_ms": 20}],
}
CUBE: dict[str, Any] = {"mass_g": 500, "size_mm": [60, 60, 60]}


def build(
    devices: dict[str, Any] | None = None, carrier: dict[str, Any] | None = None, **cube: Any
) -> tuple[ResolvedRig, GimbalBalance]:
    """A body of 1 kg on a grip, with a cube of 500 g wherever `devices` says."""
    host = grip(carrier={**CARRIER, **(carrier or {})}, stage="roll-arm", kind="gimbal")
    things = [camera(**BODY), host]
    if devices and "cube" in devices:
        things.append(profile("cube", **{**CUBE, **cube}))
    rig = rig_of(things, [(DATA, 1)], [RECORD], devices=devices or {})
    balance = balance_of(Planned(rig, plan(rig)), "grip")
    assert balance is not None
    return rig, balance


def centre(balance: GimbalBalance, device: str) -> list[float]:
    return [round(one, 3) for one in balance.cage.boxes[device].centre]


def test_a_body_on_the_plate_goes_over_the_crossing_of_the_axes():
    _, balance = build()
    # Its thread is at the plate's middle hole; its middle 40 mm above that.
    assert centre(balance, "camera") == [0, -100, -20]
    # The lead weighs nothing here: 100 mm forward, 20 mm up, nothing to the side, and pan has nothing to do.
    assert balance.marks == pytest.approx({"plate": 100, "height": 20, "roll": 0, "pan": 0})
    assert all(balance.left_nm(axis) == pytest.approx(0, abs=1e-9) for axis in balance.carrier.axes)


@pytest.mark.parametrize(
    ("sits", "at"),
    [
        ({"side": "right"}, [80, -100, -20]),  # 50 of the body and 30 of the cube
        ({"side": "left", "from_left": 0}, [-80, -70, -20]),  # looked at from the left the front is to the left
        ({"side": "back", "from_top": 0}, [0, -160, 20]),
        ({"side": "top"}, [0, -100, 50]),
        ({"measured": {"right_mm": 10, "forward_mm": 5, "up_mm": 80}}, [10, -95, 50]),
    ],
)
def test_what_sits_on_a_side_of_the_body_touches_it_there(sits: dict[str, Any], at: list[float]):
    _, balance = build({"cube": {"sits": {"on": "camera", **sits}}})
    assert centre(balance, "cube") == at


def test_a_cube_at_the_side_moves_the_roll_scale_by_its_moment():
    _, balance = build({"cube": {"sits": {"on": "camera", "side": "right"}}})
    # 500 x 80 / 1,500 = 26.7 mm to the left, and this scale grows to the left.
    assert balance.marks["roll"] == 27
    assert not balance.beyond


def test_a_cube_on_top_has_the_height_end_too_soon_and_every_cure_that_is_named_holds():
    rig, balance = build({"cube": {"sits": {"on": "camera", "side": "top"}}})
    # (1,000 x 20 - 500 x 50) / 1,500 = 3.3 mm further down than the scale goes.
    assert balance.wanted(balance.carrier.slides[2]) == pytest.approx(-3.33, abs=0.01)
    assert [slide.id for slide in balance.beyond] == ["height"]
    cures = balance.cures()
    # To the left the roll scale, which begins at nought, would end too soon instead: no cure.
    found = {(cure.sort, cure.where) for cure in cures}
    assert found == {("move", "back"), ("move", "right"), ("move", "bottom"), ("weight", "right end")}
    for cure in cures:
        if cure.sort == "move":
            side = {"cube": {"sits": {"on": "camera", "side": cure.where}}}
            _, after = build(side)
            assert not after.beyond
            assert after.marks == pytest.approx(dict(cure.marks), abs=1e-6)
    assert any(
        cure_words(balance, cure).startswith("Move cube (500 g) to the back of camera: plate ") for cure in cures
    )
    assert any(line.startswith("The tilt arm ends 3.3 mm too soon") for line in card_lines(balance))
    assert rig["cube"].device.sits is not None


def test_a_counterweight_is_as_light_as_will_do():
    _, balance = build({"cube": {"sits": {"on": "camera", "side": "right"}}}, {"weights": CARRIER["weights"], "slides": [
        *CARRIER["slides"][:1], {**CARRIER["slides"][1], "to_mm": 20}, *CARRIER["slides"][2:]
    ]})  # fmt: skip
    assert [slide.id for slide in balance.beyond] == ["roll"]
    [cure] = [one for one in balance.cures() if one.sort == "weight"]
    # The scale ends at 20 mm: 500 x 80 - 1,500 x 20 = 10,000 g mm over; the left end is then 80 mm to the left: 125 g.
    assert (cure.where, cure.amount) == ("left end", 130)


def test_another_hole_takes_the_camera_and_all_that_sits_on_it():
    slides = [{**CARRIER["slides"][0], "to_mm": 90}, *CARRIER["slides"][1:]]
    _, balance = build({"cube": {"sits": {"on": "camera", "side": "right"}}}, {"slides": slides})
    # 100 mm would be wanted; from the hole 20 mm further forward 80 will do.
    assert [slide.id for slide in balance.beyond] == ["plate"]
    cure = balance.cures()[0]
    assert (cure.sort, cure.where, cure.amount, cure.marks["plate"]) == ("hole", "forward", 20, 80)
    _, after = build({"cube": {"sits": {"on": "camera", "side": "right"}}, "grip": {"hole_mm": 20}}, {"slides": slides})
    assert after.marks["plate"] == 80
    assert not after.beyond


def test_what_nobody_said_is_taken_and_said_and_a_scale_and_two_marks_make_it_surer():
    _, taken = build({"cube": {}})
    assert taken.cage.boxes["cube"].how == "assumed"
    assert any("nobody having said where cube sits" in line for line in card_lines(taken))
    _, said = build({"cube": {"sits": {"on": "camera", "side": "top"}}})
    found = {"mass_g": 480, "centre": {"up_mm": 25}, "sits": {"on": "camera", "measured": {"up_mm": 80}}}
    _, weighed = build({"cube": found})
    height = taken.carrier.slides[2]
    assert taken.spread_mm(height) > said.spread_mm(height) > weighed.spread_mm(height) > 0
    # From its mount 80 mm above the body's own, 25 mm further up.
    assert centre(weighed, "cube") == [0, -100, 45]


def test_which_way_each_scale_goes_and_what_is_felt_before():
    at = {"plate": 80, "roll": 10, "height": 20, "pan": 0}
    _, balance = build({"grip": {"marks_mm": at}})
    words = [set_words(balance, slide) for slide in in_order(balance)]
    assert words == [
        "Slide the plate 20 mm forward, from 80 mm to 100 mm.",
        "Slide the roll arm 10 mm right, from 10 mm to 0 mm.",
        "Leave the tilt arm at 20 mm.",
        "Leave the pan arm at 0 mm.",
    ]
    # 20 mm too far back, 10 mm too far left.
    tilt, roll, pan = feels(balance)
    assert tilt == "Tilt falls back."
    assert roll == "Roll falls to the left."
    assert pan.startswith("Pan swings, its back down, with its axis level")
    _, still = build({"grip": {"marks_mm": {"plate": 100, "roll": 0, "height": 20, "pan": 0}}})
    assert feels(still) == [f"{axis} stays where you leave it." for axis in ("Tilt", "Roll", "Pan")]


def test_too_high_turns_over_and_too_low_swings_back():
    for height, words in ((45, "turns over, too heavy above"), (0, "swings back to level, too heavy below")):
        _, balance = build({"grip": {"marks_mm": {"plate": 100, "roll": 0, "height": height, "pan": 0}}})
        assert feels(balance)[0] == f"Tilt {words}."


def test_of_some_scales_only_nothing_is_said_of_what_is_felt():
    _, balance = build({"grip": {"marks_mm": {"plate": 80}}})
    assert feels(balance) == []


def test_a_gimbal_of_which_nobody_said_what_slides_has_no_marks():
    host = grip(carrier={"min_payload_g": 1, "max_payload_g": 2000, "axes": ["tilt"]}, stage="roll-arm", kind="gimbal")
    rig = rig_of([camera(**BODY), host], [(DATA, 1)], [RECORD])
    assert balance_of(Planned(rig, plan(rig)), "grip") is None


def test_a_gimbal_of_two_axes_is_balanced_on_those():
    slides = [slide for slide in CARRIER["slides"] if slide["axis"] != "tilt"]
    rig, balance = build(
        {"cube": {"sits": {"on": "camera", "side": "right"}}}, {"axes": ["roll", "pan"], "slides": slides}
    )
    assert balance.marks["roll"] == 27
    [gimbal] = balance_marks(rig, plan(rig)).gimbals
    assert [axis.axis for axis in gimbal.axes] == ["roll", "pan"]
    assert "It has no tilt axis." in gimbal.remarks


def test_what_is_said_to_sit_on_what_hangs_on_it_is_put_somewhere_and_nothing_fails():
    data = SHIPPED["night-ferry-b"].model_dump(mode="json")
    next(one for one in data["devices"] if one["id"] == "body")["sits"] = {"on": "lens", "side": "back"}
    catalogue = shipped()
    rig = resolve(Rig.model_validate(data), catalogue.profiles, catalogue.cables)
    [gimbal] = balance_marks(rig, plan(rig)).gimbals
    assert {item.key for item in gimbal.items} >= {"body", "lens"}


@pytest.mark.parametrize("rig_id", SHIPPED)
def test_no_shipped_rig_is_sent_beyond_a_travel_and_every_axis_that_has_some_is_held(rig_id: str):
    done = carried(rig_id)
    planned = Planned(done.rig, done.plan)
    for device in planned.in_use:
        balance = balance_of(planned, device) if done.rig[device].profile.carrier else None
        if balance is None:
            continue
        for slide in balance.carrier.slides:
            assert slide.from_mm <= balance.marks[slide.id] <= slide.to_mm
        unheld = [axis for axis in balance.carrier.axes if not balance.holds(axis)]
        # What is not held has a scale that ends too soon, or hangs on one within it that does.
        assert not unheld or balance.beyond
        assert sum(one.mass_g for one in balance.balancing.masses if one.rides == "plate") > 0


def test_where_one_change_is_not_enough_two_together_are_named_and_hold():
    # No hole alone: 20 mm of the 38 that lack. No counterweight alone: 1,000 x 38 / 62 = 613 g, and 500 go there.
    slides = [{**CARRIER["slides"][0], "to_mm": 62}, *CARRIER["slides"][1:]]
    weights = [{"name": "front end", "rides": "plate", "centre": {"up_mm": -60}, "most_g": 500}]
    _, balance = build(None, {"slides": slides, "weights": weights})
    assert [slide.id for slide in balance.beyond] == ["plate"]
    cures = balance.cures()
    assert cures
    assert all(cure.first is not None for cure in cures)
    [pair] = cures
    # From the hole 20 mm further forward 80 are wanted, 62 there are: 1,000 x 18 / 62 = 290.3 g, in tens 300.
    assert {pair.sort, pair.first.sort if pair.first else ""} == {"hole", "weight"}
    says = cure_words(balance, pair)
    assert says.startswith("Screw camera to the hole 20 mm further forward, and put 300 g on the front end")
    _, after = build({"grip": {"hole_mm": 20}}, {"slides": slides, "weights": weights})
    assert [cure.amount for cure in after.cures() if cure.sort == "weight"] == [300]
