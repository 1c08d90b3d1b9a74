"""Two cameras in one rig: whose picture was promised, and whose is seen. Answers written before they were planned."""

from typing import Any

from isotact.core.bench import carry_through, run
from isotact.core.model.plan import LinkEnd, Plan
from isotact.core.runsheet import run_sheet
from isotact.core.trades import perform
from isotact.core.trades.cables.acts import Plug, Unplug
from isotact.core.world.proof import prove
from tests.core.planning.test_feeds import because, planned, rig

BODIES = {"left": "mirrorless-usb-c-full-hdmi", "right": "mirrorless-usb-c-full-hdmi"}
SCREENS = {"one": "on-board-monitor-loop", "two": "on-board-monitor-loop"}
RADIO = {
    "tx-1": "video-transmitter-hdmi", "rx-1": "video-receiver-hdmi", "far-1": "large-monitor-hdmi",
    "tx-2": "video-transmitter-hdmi", "rx-2": "video-receiver-hdmi", "far-2": "large-monitor-hdmi",
    "battery": "plate-battery", "hub": "tap-hub", "grip": "gimbal-single-grip-two-usb-c",
}  # fmt: skip
LEADS = ["hdmi-a-hdmi-a-50"] * 4 + ["tap-power-2-50"] * 2


def see(screen: str, of: str | None, weight: int = 3) -> dict[str, Any]:
    at = {"device": screen, "surface": "screen"}
    return {"kind": "picture", "id": screen, "who": "X", "at": at, "of": of, "weight": weight}


def begins(made: Plan, promise: str) -> str:
    return next(route.hops[0].device for route in made.routes if route.promise == promise)


def test_each_screen_gets_the_camera_that_was_promised_on_it():
    made = planned(rig(BODIES | SCREENS, LEADS, [see("one", "right"), see("two", "left")]))
    assert (begins(made, "one"), begins(made, "two")) == ("right", "left")
    swapped = planned(rig(BODIES | SCREENS, LEADS, [see("one", "left"), see("two", "right")]))
    assert (begins(swapped, "one"), begins(swapped, "two")) == ("left", "right")


def test_where_it_was_not_said_whose_any_will_do():
    made = planned(rig(BODIES | SCREENS, LEADS[:2], [see("one", None), see("two", None)]))
    assert made.kept == ("one", "two")


def test_two_links_to_two_villages_stand_apart():
    made = planned(rig(BODIES | RADIO, LEADS, [see("far-1", "left"), see("far-2", "right")]))
    assert (begins(made, "far-1"), begins(made, "far-2")) == ("left", "right")
    radios = [join for join in made.joins if join.link.is_radio]
    assert len(radios) == 2
    assert not {radios[0].link.a, radios[0].link.b} & {radios[1].link.a, radios[1].link.b}


def test_with_one_transmitter_one_of_the_two_cameras_is_seen_far_off():
    fewer = {key: one for key, one in (BODIES | RADIO).items() if key not in ("tx-2",)}
    made = planned(rig(fewer, LEADS, [see("far-1", "left", 5), see("far-2", "right", 2)]))
    assert made.kept == ("far-1",)
    assert because(made, "far-2").startswith("Picture of right on the screen of far-2: no.")


def test_the_proof_names_the_camera():
    asked = rig(BODIES | SCREENS, LEADS, [see("one", "right"), see("two", "left")])
    made = planned(asked)
    proofs = run(asked, run_sheet(asked, made)).proofs
    assert {proof.promise: proof.seen.split(",")[0] for proof in proofs} == {
        "one": "Picture of right", "two": "Picture of left",
    }  # fmt: skip


def test_the_wrong_camera_on_a_screen_is_noticed():
    asked = rig(BODIES | SCREENS, LEADS, [see("one", "right"), see("two", "left")])
    made = planned(asked)
    world = carry_through(asked, run_sheet(asked, made))
    one, two = (next(join for join in made.joins if key in join.promises) for key in ("one", "two"))
    for join in (one, two):
        perform(world, Unplug(a=join.link.a, b=join.link.b))
    left = LinkEnd(device="left", endpoint="hdmi")
    perform(world, Plug(tag=one.tag, a=left, b=LinkEnd(device="one", endpoint="hdmi-in")))
    found = prove(world, "one")
    assert (found.ok, found.seen) == (False, "The picture of left, not of right.")


def test_of_one_button_for_two_cameras_it_is_said_whose_record_fails():
    """One radio, one camera at a time: neither sentence would tell which, if the camera were not named."""
    bodies = {"left": "cine-body-lens-radio", "right": "cine-body-lens-radio", "hand": "hand-unit"}
    fed = {"battery": "plate-battery", "battery-2": "plate-battery"}
    roll = {
        "kind": "control", "who": "X", "function": "record", "at": {"device": "hand", "surface": "record-button"},
    }  # fmt: skip
    wanted = [{**roll, "id": one, "to": one, "weight": weight} for one, weight in (("left", 3), ("right", 3))]
    made = planned(rig(bodies | fed, [], wanted))
    assert made.kept == ("left",)
    assert because(made, "right").startswith("Record of right from the record button of hand: no.")
    assert made.unmet[0].ways_out == ("Give up record of left from the record button of hand.",)
