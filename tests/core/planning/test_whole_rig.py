"""A rig flies whole, whatever was promised of it: a technician's answers, written before they were planned.

Common practice, no source: handbook of the trade, "a body has a lens on, a gimbal has its camera on".
"""

import pytest

from isotact.catalogue import shipped
from isotact.core.model import Plan, ResolvedRig, resolve
from isotact.core.model.pins import OffPin
from isotact.core.model.rig import Device
from isotact.core.model.variants import with_document
from isotact.core.planning import plan
from isotact.core.runsheet import run_sheet
from tests.core.planning.test_feeds import ROLL, planned, rig
from tests.rigs import RECORD, cable, camera, grip, profile, rig_of

BODY = {"body": "mirrorless-usb-c-full-hdmi"}
GRIP = {"grip": "gimbal-single-grip-two-usb-c"}
LENS = {"lens": "lens-stills-ring"}
OWN = {
    "kind": "picture", "id": "own", "who": "Operator", "weight": 3, "at": {"device": "body", "surface": "rear-screen"},
}  # fmt: skip
HOURS = {"kind": "power", "id": "hours", "who": "Everybody", "hours_h": 0.5, "weight": 1}


def in_use(made: Plan) -> set[str]:
    return {feed.device for feed in made.feeds}


def said(made: Plan, *words: str) -> list[str]:
    return [one for one in made.warnings if all(word in one for word in words)]


def without(asked: ResolvedRig, *devices: str) -> ResolvedRig:
    """The rig, with these to stay in their cases."""
    return with_document(asked, pins=[OffPin(device=device) for device in devices])


def with_own(asked: ResolvedRig, pieces: dict[str, str]) -> ResolvedRig:
    """The rig, with devices of one's own besides: name -> profile."""
    devices = [*asked.rig.devices, *(Device(id=key, name=key, profile=one) for key, one in pieces.items())]
    own = {one.id: one for one in (WEIGHT, PLATE, ARM)}
    return resolve(with_document(asked, devices=devices).rig, {**shipped().profiles, **own}, shipped().cables)


def test_the_only_lens_is_on_and_the_only_gimbal_is_balanced_with_it():
    """The body's own screen is all that is promised."""
    asked = rig({**BODY, **GRIP, **LENS}, [], [OWN])
    made = planned(asked)
    assert (made.kept, in_use(made), made.warnings) == (("own",), {"body", "grip", "lens"}, ())
    titles = [step.title for step in run_sheet(asked, made).steps]
    built = ["Put body on grip", "Mount lens on body", "Balance grip", "Wake grip"]
    assert [title for title in titles if title in built] == built


def test_a_body_off_the_gimbal_is_not_flown():
    made = planned(rig({**BODY, **GRIP, **LENS}, [], [OWN], body={"stage": "off-gimbal"}))
    assert in_use(made) == {"body", "lens"}


def test_which_of_two_lenses_is_asked():
    two = {**BODY, **GRIP, **LENS, "other": "lens-by-wire"}
    made = planned(rig(two, [], [OWN]))
    assert len({"lens", "other"} & in_use(made)) == 1
    assert said(made, "which lens body carries", "lens", "other")


@pytest.mark.parametrize("left", ["lens", "other"])
def test_it_is_not_asked_once_it_is_answered(left: str):
    two = {**BODY, **GRIP, **LENS, "other": "lens-by-wire"}
    made = planned(without(rig(two, [], [OWN]), left))
    assert {"lens", "other"} & in_use(made) == {"lens", "other"} - {left}
    assert not said(made, "which lens")


def test_a_body_whose_lens_is_to_stay_in_its_case_says_so():
    made = planned(without(rig({**BODY, **GRIP, **LENS}, [], [OWN]), "lens"))
    assert made.kept == ("own",)
    assert said(made, "body stands without a lens")


def test_no_lens_in_the_rig_is_said():
    made = planned(rig({**BODY, **GRIP}, [], [OWN]))
    assert said(made, "No lens in this rig goes on body")


def test_one_lens_is_not_on_two_bodies():
    again = {**OWN, "id": "again", "at": {"device": "second", "surface": "rear-screen"}}
    made = planned(rig({**BODY, "second": BODY["body"], **LENS}, [], [OWN, again]))
    assert made.kept == ("own", "again")
    assert len(said(made, "No lens is left for", "lens is on another body")) == 1


def test_a_lens_goes_on_by_the_adapter_that_lies_there():
    cine = {**BODY, **GRIP, "lens": "lens-cine-pl", "adapter": "lens-mount-adapter"}
    assert {"lens", "adapter"} <= in_use(planned(rig(cine, [], [OWN])))
    without = planned(rig({**BODY, **GRIP, "lens": "lens-cine-pl"}, [], [OWN]))
    assert said(without, "No lens in this rig goes on body")


def test_an_adapter_is_not_put_on_for_nothing():
    assert "adapter" not in in_use(planned(rig({**BODY, **GRIP, **LENS, "adapter": "lens-mount-adapter"}, [], [OWN])))


def test_which_of_two_gimbals_is_asked():
    two = {**BODY, **LENS, **GRIP, "other": "gimbal-single-grip-remote-jack"}
    made = planned(rig(two, [], [OWN]))
    assert len({"grip", "other"} & in_use(made)) == 1
    assert said(made, "on which gimbal body flies", "grip", "other")
    settled = planned(without(rig(two, [], [OWN]), "other"))
    assert "grip" in in_use(settled)
    assert not said(settled, "which gimbal")


def test_a_promise_says_on_which_of_two_gimbals():
    two = {**BODY, **LENS, **GRIP, "other": "gimbal-single-grip-remote-jack"}
    made = planned(rig(two, ["usb-c-usb-c-data-30"], [ROLL]))
    assert {"grip", "other"} & in_use(made) == {"grip"}
    assert not said(made, "which gimbal")


def test_a_gimbal_that_nothing_feeds_is_said_and_the_promise_holds():
    made = planned(with_own(rig({**BODY, **LENS}, [], [OWN]), {"arm": "arm"}))
    assert made.kept == ("own",)
    assert "arm" not in in_use(made)
    assert said(made, "body does not fly", "arm", "battery")


def test_a_gimbal_that_stays_in_its_case_is_not_flown():
    made = planned(without(rig({**BODY, **GRIP, **LENS}, [], [OWN]), "grip"))
    assert in_use(made) == {"body", "lens"}
    assert not said(made, "fly")


def test_too_heavy_to_fly_is_said():
    """A body of 3.6 kg, its battery and lens for a gimbal of 3 kg: it rolls, and on legs."""
    heavy = {"body": "cine-body-large-panel", "battery": "plate-battery", **GRIP, "lens": "lens-cine-pl"}
    roll = {**ROLL, "at": {"device": "body", "surface": "record-button"}}
    made = planned(rig(heavy, [], [roll]))
    assert (made.kept, "grip" in in_use(made)) == (("roll",), False)
    assert said(made, "body does not fly on grip", "5.8 kg for the cage", "it carries 3 kg")


def test_flying_costs_no_promise():
    """The monitor in the cage is too much for the gimbal, and the picture on it was promised."""
    see = {**OWN, "id": "see", "at": {"device": "monitor", "surface": "screen"}}
    asked = rig(
        {**BODY, **GRIP, "monitor": "large-monitor-hdmi"}, ["hdmi-a-hdmi-a-50"], [see], monitor={"stage": "tilt-cage"}
    )
    made = planned(asked)
    assert made.kept == ("see",)
    assert said(made, "does not fly on grip")


def test_two_bodies_on_one_grip_are_said():
    again = {**OWN, "id": "again", "at": {"device": "second", "surface": "rear-screen"}}
    made = planned(rig({**BODY, "second": BODY["body"], **GRIP}, [], [OWN, again]))
    assert said(made, "body and second", "cage of grip", "one body")


# Hours


def test_hours_alone_are_about_everything_that_has_power():
    """The rig of a prep day: nothing else promised yet."""
    asked = rig({**BODY, **GRIP, **LENS, "link": "phone-link-transmitter"}, [], [HOURS])
    made = planned(asked)
    assert made.kept == ("hours",)
    assert {"body", "grip", "lens", "link"} <= in_use(made)
    assert said(made, "Only hours are promised")


def test_hours_alone_that_are_too_long_are_not_kept():
    made = planned(rig({**BODY, **GRIP, **LENS}, [], [{**HOURS, "hours_h": 40}]))
    assert made.kept == ()


def test_hours_of_a_rig_in_which_nothing_can_run_are_not_kept():
    made = planned(rig({"lens": "lens-stills-ring"}, [], [HOURS]))
    assert made.kept == ()


def test_hours_count_the_gimbal_that_flies_though_no_promise_uses_it():
    made = planned(rig({**BODY, **GRIP, **LENS}, [], [OWN, HOURS]))
    assert {feed.battery for feed in made.feeds if feed.load_w} == {"body", "grip"}


def test_what_the_hours_leave_out_is_named():
    asked = rig({**BODY, **GRIP, **LENS, "link": "phone-link-transmitter"}, [], [OWN, HOURS])
    assert said(planned(asked), "The hours are reckoned without", "link")


def test_nothing_promised_is_said():
    made = planned(rig({**BODY, **GRIP, **LENS}, [], []))
    assert said(made, "Nothing is promised in this rig")


# Weight


WEIGHT = profile("weight", mass_g=500, ballast=True, kind="module")
PLATE = profile("plate", mass_g=350, kind="plate")
ARM = profile(
    "arm",
    stage="handles",
    wake={"how": "Hold the button.", "boot_s": 3, "needs_balance": True},
    power={"draw_w": 6},
    carrier={"axes": ["tilt"], "min_payload_g": 0, "max_payload_g": 9000},
)
RING = {"ring": "gimbal-two-handed-ring", "battery": "plate-battery", "remote": "gimbal-remote"}
MOVE = {
    "kind": "control", "id": "move", "who": "Second operator", "function": "gimbal-move", "weight": 4,
    "at": {"device": "remote", "surface": "stick"},
}  # fmt: skip


def weights(**pieces: str) -> Plan:
    asked = rig({**BODY, **LENS, **RING}, [], [MOVE])
    return planned(with_own(asked, pieces))


def test_the_counterweight_goes_on_where_the_gimbal_wants_it():
    """A body of 0.7 kg with a lens on a ring for 2.5 kg and more: every weight that lies there goes on."""
    made = weights(one="weight", two="weight")
    assert {"one", "two"} <= in_use(made)
    bare = weights()
    lacks = [float(words.split("add ")[1].split(" kg")[0]) for one in (bare, made) for words in said(one, "add ")]
    assert lacks[0] - lacks[1] == pytest.approx(1.0, abs=0.06)


def test_no_more_weight_goes_on_than_is_wanted():
    """Six pieces of 500 g: as many as bring it to 2.5 kg, and none after that."""
    made = weights(**{f"w{number}": "weight" for number in range(6)})
    put = {device for device in in_use(made) if device.startswith("w")}
    assert not said(made, "add ")
    assert 0 < len(put) < 6


def test_the_counterweight_stays_in_its_case_where_it_is_not_wanted():
    asked = rig({**BODY, **GRIP, **LENS}, [], [OWN])
    assert "one" not in in_use(planned(with_own(asked, {"one": "weight"})))


def test_a_plate_is_on_with_its_body_and_weighs():
    asked = rig({**BODY, **GRIP, **LENS}, [], [OWN])
    with_plate = with_own(asked, {"slide": "plate"})
    made = planned(with_plate)
    assert "slide" in in_use(made)
    steps = run_sheet(with_plate, made).steps
    balance = next(step for step in steps if step.title == "Balance grip")
    alone = next(step for step in run_sheet(asked, planned(asked)).steps if step.title == "Balance grip")
    sits = [float(one.detail[0].split("about ")[1].split(" kg")[0]) for one in (balance, alone)]
    assert sits[0] - sits[1] == pytest.approx(0.35, abs=0.11)
    assert any(step.title == "Fix slide in its place" for step in steps)


@pytest.mark.parametrize(("other", "hangs_g"), [("tilt-cage", 40.0), ("handles", 20.0), ("off-gimbal", 20.0)])
def test_leads_weigh_in_the_cage(other: str, hangs_g: float):
    """A lead of 40 g from the body: all of it between two ends in the cage, half where one hangs out of it."""
    grams = cable("heavy", "usb-c", "usb-c", {"medium": "usb-data"}, mass_g=40, length_mm=1200)
    asked = rig_of([camera(mass_g=700), grip(stage=other, mass_g=100)], [(grams, 1)], [RECORD])
    (join,) = plan(asked).joins
    assert asked.payload_g(["camera"], [join.link]) == 700 + hangs_g


def test_a_lead_can_be_what_is_too_much():
    """A body that a gimbal just carries, and a lead of 40 g."""
    just = {"axes": ["tilt"], "min_payload_g": 0, "max_payload_g": 700}
    kept = []
    for lead_g in (0, 40):
        lead = cable("lead", "usb-c", "usb-c", {"medium": "usb-data"}, mass_g=lead_g, length_mm=800)
        asked = rig_of([camera(mass_g=700), grip(stage="handles", mass_g=100, carrier=just)], [(lead, 1)], [RECORD])
        kept.append(plan(asked).kept)
    assert kept == [("record",), ()]
