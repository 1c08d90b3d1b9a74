"""What it takes is enough, is needed, and is the least; and the runner-up is of another kind."""

from itertools import combinations

import pytest

from isotact.catalogue import shipped
from isotact.core.model import NotFoundError, ResolvedRig, resolve
from isotact.core.model.profile import Profile
from isotact.core.planning import plan
from isotact.core.questions import what_it_takes
from isotact.core.questions.upgrades import Change, Takes, with_changes
from isotact.examples import examples
from tests.core.planning.test_feeds import rig as wired
from tests.core.planning.test_reach import FLOWN, LEADS, RADIO, VILLAGE, away
from tests.rigs import demo, device_of, no_data_cables, promise_of

CATALOGUE = shipped()


def example(number: int) -> ResolvedRig:
    found = next(one for one in examples() if one.number == number)
    return resolve(found.rigs[0], CATALOGUE.profiles, CATALOGUE.cables)


CASES: dict[str, tuple[ResolvedRig, str]] = {
    "another mode": (demo(), "iso"),
    "a cable": (demo(no_data_cables), "roll"),
    "firmware": (demo(lambda data: device_of(data, "body").update(firmware="1.9")), "focus"),
    "a monitor": (demo(lambda data: promise_of(data, "picture").update(look="with")), "picture"),
    "one of two wishes": (example(5), "wheel"),
    "a feed": (example(10), "hours"),
    "a cable past the limit": (example(15), "client"),
}
each = pytest.mark.parametrize(("rig", "promise"), CASES.values(), ids=CASES.keys())


def asked(rig: ResolvedRig, promise: str) -> Takes:
    return what_it_takes(rig, CATALOGUE.profiles, plan(rig), promise)


def after(rig: ResolvedRig, changes: tuple[Change, ...]) -> tuple[str, ...]:
    changed = with_changes(rig, changes)
    return plan(resolve(changed, CATALOGUE.profiles, CATALOGUE.cables)).kept


@each
def test_with_the_changes_made_the_promise_holds(rig: ResolvedRig, promise: str):
    answer = asked(rig, promise)
    assert answer.verdict == "can-be-had"
    for take in answer.takes:
        assert promise in after(rig, take.changes)
        assert set(take.kept) <= set(after(rig, take.changes))


@each
def test_no_change_can_be_left_out(rig: ResolvedRig, promise: str):
    for take in asked(rig, promise).takes:
        for fewer in combinations(take.changes, len(take.changes) - 1):
            kept = after(rig, fewer)
            dropped = {change.value for change in take.changes if change.kind == "drop"}
            others = {one.id for one in rig.rig.promises if one.id in plan(rig).kept and one.id not in dropped}
            assert promise not in kept or not others <= set(kept)


@each
def test_the_runner_up_is_of_another_kind_and_no_cheaper(rig: ResolvedRig, promise: str):
    takes = asked(rig, promise).takes
    if len(takes) == 2:
        first, second = ({change.kind for change in take.changes} for take in takes)
        assert first - second
        assert takes[0].points <= takes[1].points


@pytest.mark.parametrize(
    ("case", "says"),
    [
        ("another mode", "Give up record from the record button of Tansy grip; Brindle 2 is then in Stills mode."),
        ("firmware", "Load firmware 2.0 on Brindle 2."),
        (
            "a monitor",
            "Get mini HDMI plug to HDMI socket, adapter, and bring On-board monitor with loop-out and look.",
        ),
        ("one of two wishes", "Give up focus from the focus knob of Hand unit."),  # a body holds one lens
        ("a cable past the limit", "Get HDMI to HDMI, 2 m."),
    ],
)
def test_it_is_said_in_the_words_of_the_trade(case: str, says: str):
    rig, promise = CASES[case]
    assert asked(rig, promise).takes[0].says == says


def test_a_missing_licence_is_loaded():
    rig = example(6)
    bare = rig.rig.model_copy(
        update={"devices": [device.model_copy(update={"licences": []}) for device in rig.rig.devices]}
    )
    answer = asked(resolve(bare, CATALOGUE.profiles, CATALOGUE.cables), "iso")
    assert {change.kind for change in answer.takes[0].changes} == {"licence"}


def test_what_holds_already_takes_nothing_and_what_cannot_be_had_says_so():
    assert asked(demo(), "roll").verdict == "kept-already"
    assert asked(example(4), "iris").verdict == "none-found"
    with pytest.raises(NotFoundError):
        asked(demo(), "nothing")


def test_a_device_that_is_brought_gets_an_id_of_its_own():
    change = Change(kind="device", says="bring", value="phone", device="get-phone", points=80)
    devices = [device.id for device in with_changes(demo(), [change]).devices]
    assert devices[-1] == "phone-2"


def catalogue_with_a_link_that_claims(range_m: float) -> dict[str, Profile]:
    """The shipped profiles, and a transmitter and receiver that are like the HDMI pair but for how far they reach."""
    known = dict(CATALOGUE.profiles)
    for one, key in (("video-transmitter-hdmi", "further-transmitter"), ("video-receiver-hdmi", "further-receiver")):
        radios = [radio.model_copy(update={"range_m": range_m}) for radio in known[one].radios]
        known[key] = known[one].model_copy(update={"id": key, "mass_g": known[one].mass_g + 50, "radios": radios})
    return known


def test_where_a_link_does_not_reach_one_that_does_is_brought():
    """300 m to the village: 150 are claimed for the link that is there, 500 for the long one. A pair of it, fed."""
    far = away(wired(FLOWN | RADIO, LEADS, [VILLAGE]), 300)
    answer = asked(far, "village")
    brought = {change.value for change in answer.takes[0].changes if change.kind == "device"}
    assert brought == {"video-transmitter-sdi", "video-receiver-sdi"}
    assert "village" in after(far, answer.takes[0].changes)


def test_of_links_that_differ_in_reach_alone_the_one_that_reaches_is_named():
    further = catalogue_with_a_link_that_claims(600)
    far = away(wired(FLOWN | RADIO, LEADS, [VILLAGE]), 550)
    answer = what_it_takes(far, further, plan(far), "village")
    assert "further-transmitter" in {change.value for change in answer.takes[0].changes}
