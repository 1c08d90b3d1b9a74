"""What a change would do to balance: the same as when it is made, and worked out by hand where that is told."""

from typing import Any

import pytest

from isotact.catalogue import shipped
from isotact.core.model.problems import NotFoundError
from isotact.core.model.resolved import resolve
from isotact.core.planning import plan
from isotact.core.questions import Rebalanced, alternatives, try_balance
from isotact.core.questions.rebalanced import BalanceTry, PutOn, balance_lines, balances_of
from isotact.core.questions.rig_changes import with_changes
from isotact.core.trades.balance.marks_words import mm
from tests.core.planning.test_feeds import ROLL
from tests.core.planning.test_feeds import rig as wired
from tests.core.planning.test_reach import FLOWN, LEADS, RADIO, VILLAGE, away
from tests.core.questions.test_changes import after, rows
from tests.core.questions.test_upgrades import asked
from tests.core.trades.test_balance_marks import CUBE, build
from tests.rigs import Carried, carried, demo, device_of, profile

CUBES = {"cube": profile("cube", **CUBE), "slab": profile("slab", mass_g=900, size_mm=[60, 30, 60])}
SIDES = ("top", "back", "left", "right", "bottom", "front")


def tried(devices: dict[str, Any] | None = None, **attempt: Any) -> Rebalanced:
    rig, balance = build(devices)
    return try_balance(rig, balance.cage.planned.plan, CUBES, BalanceTry(gimbal="grip", **attempt))


def told(found: Rebalanced) -> dict[str, float]:
    return {one.slide: one.to_mm for one in found.moves}


@pytest.mark.parametrize("side", SIDES)
def test_what_is_tried_on_a_side_is_what_it_is_once_it_sits_there(side: Any):
    found = tried(on=(PutOn(profile="cube", side=side),))
    _, bare = build()
    _, built = build({"cube": {"sits": {"on": "camera", "side": side}}})
    assert bare.marks | told(found) == pytest.approx(built.marks)
    assert len(found.beyond) == len(built.beyond)
    assert found.payload_g == 1500


def test_a_cube_to_the_right_in_numbers():
    found = tried(on=(PutOn(profile="cube", side="right"),))
    # 500 x 80 / 1,500 = 26.7 mm to the left on a scale of whole millimetres; nothing else is off.
    assert [(one.says, one.by_mm) for one in found.moves] == [("Roll arm 27 mm left, from 0 mm to 27 mm.", 27)]
    assert found.says == "One scale moves: balance it again, about 4 min."


def test_what_comes_off_leaves_what_it_was_without_it():
    found = tried({"cube": {"sits": {"on": "camera", "side": "right"}}}, off=("cube",))
    assert told(found) == {"roll": 0}
    assert found.payload_g == 1000


@pytest.mark.parametrize("side", SIDES)
def test_what_takes_the_place_of_another_touches_what_that_touched(side: Any):
    sits = {"cube": {"sits": {"on": "camera", "side": side}}}
    found = tried(sits, on=(PutOn(profile="slab", instead_of="cube"),))
    _, was = build(sits)
    _, built = build(sits, mass_g=900, size_mm=[60, 30, 60])
    # Where it hangs below what it is fixed by it touches all the same; else both sit by the middle of their mount.
    along = {"top": 2, "bottom": 2, "left": 0, "right": 0, "front": 1, "back": 1}[side]
    [slide] = [one for one in was.carrier.slides if one.along == along and one.axis != "pan"]
    assert (was.marks | told(found))[slide.id] == pytest.approx(built.marks[slide.id], abs=slide.step_mm)


def test_grams_of_something_weigh_as_much_wherever_they_come_from():
    assert told(tried(on=(PutOn(profile="cube", mass_g=700, side="back"),))) == told(
        tried(on=(PutOn(profile="cube", mass_g=700, side="back", name="other"),))
    )
    # A small body of 80 mm: 30 of the camera and 40 of it behind; 300 x 70 / 1,300 = 16.2 forward of 100.
    assert told(tried(on=(PutOn(mass_g=300, side="back"),)))["plate"] == pytest.approx(116)


def test_grams_in_the_place_of_something_are_as_large_as_that():
    sits = {"cube": {"sits": {"on": "camera", "side": "back"}}}
    same = tried(sits, on=(PutOn(mass_g=500, instead_of="cube"),))
    assert same.moves == ()
    # 60 mm behind the middle of the body: 250 of 1,250 g there are 12 mm, and 500 of 1,500 were 20.
    assert told(tried(sits, on=(PutOn(mass_g=250, instead_of="cube"),)))["plate"] == pytest.approx(112)


def test_what_leaves_its_travel_is_said_with_what_cures_it():
    found = tried(on=(PutOn(profile="cube", side="top"),))
    assert found.says == "It would not balance: too little travel at the tilt arm."
    assert found.beyond[0].startswith("The tilt arm ends 3.3 mm too soon")
    assert any(cure.sort == "weight" for cure in found.cures)
    assert found.takes_s > 0


def test_from_where_a_scale_was_noted_and_a_change_that_moves_nothing():
    found = tried({"grip": {"marks_mm": {"plate": 90, "height": 20, "roll": 0, "pan": 0}}})
    assert [one.says for one in found.moves] == ["Plate 10 mm forward, from 90 mm to 100 mm."]
    found = tried({"grip": {"marks_mm": {"plate": 100, "height": 20, "roll": 0, "pan": 0}}})
    assert (found.moves, found.takes_s) == ((), 0)
    assert found.says == "No scale moves: feel it, and go on."


def test_too_heavy_too_light_and_two_people():
    heavy = tried(on=(PutOn(mass_g=4500),))
    assert "It would be 1.50 kg over what the gimbal carries." in heavy.remarks
    assert any("takes two" in one for one in heavy.remarks)
    light = tried(off=("camera",))
    assert "It would be 0.20 kg under what the gimbal wants." in light.remarks


def test_what_stays_on_what_comes_off_is_said():
    case = carried("night-ferry-a")
    found = try_balance(case.rig, case.plan, {}, BalanceTry(gimbal="ring", off=("lens",)))
    assert any("Motor F" in one and "look where it sits" in one for one in found.remarks)


@pytest.mark.parametrize(
    "attempt",
    [
        BalanceTry(gimbal="nobody"),
        BalanceTry(gimbal="camera"),
        BalanceTry(gimbal="grip", off=("nobody",)),
        BalanceTry(gimbal="grip", off=("grip",)),
        BalanceTry(gimbal="grip", on=(PutOn(profile="nobody"),)),
        BalanceTry(gimbal="grip", on=(PutOn(profile="cube", on="nobody"),)),
        BalanceTry(gimbal="grip", on=(PutOn(profile="cube", instead_of="nobody"),)),
    ],
)
def test_what_is_not_there_is_refused_by_name(attempt: BalanceTry):
    rig, balance = build()
    with pytest.raises(NotFoundError):
        try_balance(rig, balance.cage.planned.plan, CUBES, attempt)


def test_neither_profile_nor_weight_is_refused():
    with pytest.raises(ValueError, match="expected one"):
        PutOn(name="something")


def test_another_plan_tells_what_it_does_to_each_gimbal():
    rig, balance = build()
    stood = balances_of(rig, balance.cage.planned.plan)
    assert [*balance_lines(stood, rig, balance.cage.planned.plan)] == []
    heavier, after = build({"cube": {"sits": {"on": "camera", "side": "top"}}})
    first, second = balance_lines(stood, heavier, after.cage.planned.plan)
    assert first.endswith("is balanced again, about 4 min: tilt arm 20 mm to 0 mm.")
    assert second.startswith("The tilt arm ends 3.3 mm too soon")


def test_other_ways_and_what_changed_say_what_becomes_of_the_marks():
    case = carried("night-ferry-a")
    lines = [line for one in alternatives(case.rig, 4) for line in one.differs if "is balanced again" in line]
    assert lines
    assert all("Osier ring is balanced again, about" in line for line in lines)


def test_two_revisions_are_compared_by_their_marks():
    def heavier(data: dict[str, Any]) -> None:
        device_of(data, "body").update(mass_g=1900)

    found = rows(after(heavier), "balance")
    [then], [now] = (
        balances_of(one.rig, one.plan).values() for one in (Carried.out(demo()), Carried.out(demo(heavier)))
    )
    moved = [one for one in then.carrier.slides if then.marks[one.id] != now.marks[one.id]]
    assert found == [
        (f"{then.cage.rig[then.cage.gimbal].name}, {one.name}", mm(then.marks[one.id]), mm(now.marks[one.id]))
        for one in moved
    ]
    assert moved


def test_what_it_takes_says_what_becomes_of_the_marks():
    """A longer link on the camera in the place of a short one: 300 m to the village."""
    far = away(wired(FLOWN | RADIO, LEADS, [VILLAGE, ROLL]), 300)
    take = asked(far, "village").takes[0]
    assert {"video-transmitter-sdi"} <= {change.value for change in take.changes}
    stood = balances_of(far, plan(far))
    shelf = shipped()
    with_it = resolve(with_changes(far, take.changes), shelf.profiles, shelf.cables)
    made = [*balance_lines(stood, with_it, plan(with_it))]
    # It is planned again then, perhaps with another lead or two: the same scales, and a millimetre more or less.
    assert [line.partition(" mm")[0][:18] for line in take.balance] == [line.partition(" mm")[0][:18] for line in made]
    assert take.balance[0].startswith(f"{far['grip'].name} is balanced again, about ")


@pytest.mark.parametrize("rig_id", ["night-ferry-a", "night-ferry-b", "on-the-ring", "follow-focus"])
def test_whatever_is_tried_no_mark_is_beyond_its_travel(rig_id: str):
    case = carried(rig_id)
    [(gimbal, balance)] = balances_of(case.rig, case.plan).items()
    travel = {slide.id: (slide.from_mm, slide.to_mm) for slide in balance.carrier.slides}
    attempts = [BalanceTry(gimbal=gimbal, off=(key,)) for key in balance.cage.boxes]
    attempts += [BalanceTry(gimbal=gimbal, off=tuple(balance.cage.boxes))]
    attempts += [
        BalanceTry(gimbal=gimbal, on=(PutOn(mass_g=grams, on=key, side=side),))
        for key in balance.cage.boxes
        for side in SIDES
        for grams in (1, 400, 5000)
    ]
    attempts += [BalanceTry(gimbal=gimbal, on=(PutOn(mass_g=2000, instead_of=key),)) for key in balance.cage.boxes]
    for attempt in attempts:
        found = try_balance(case.rig, case.plan, {}, attempt)
        for move in found.moves:
            low, high = travel[move.slide]
            assert low <= move.to_mm <= high
        assert (found.takes_s > 0) is bool(found.moves or found.beyond)
