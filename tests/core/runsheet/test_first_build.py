"""Every plan has a sheet that proves it, or says no: starts, modes, prompts, menus and links that get in each other's way.

The answers of single rigs were written before they were planned. Common practice, no source.
"""

from typing import Any

import pytest

from isotact.core.bench import run
from isotact.core.model import Plan, ResolvedRig
from isotact.core.planning import plan
from isotact.core.runsheet import not_to_be_built, run_sheet
from isotact.core.trades import fresh_world
from tests.core.runsheet.careful import carefully
from tests.corpus import Drawn, every
from tests.rigs import RECORD, cable, camera, control, grip, picture, port, profile, promise, rig_of
from tests.strategies import setting


def sheet_proves(drawn: Drawn) -> None:
    """The sheet, carried out with no step refused, proves just what the plan keeps."""
    carefully(fresh_world(drawn.rig), drawn.done.sheet.steps)
    ran = run(drawn.rig, drawn.done.sheet, film=False, conditions=drawn.done.conditions)
    assert {proof.promise for proof in ran.proofs if proof.ok} == {*drawn.plan.kept}
    assert not not_to_be_built(drawn.rig, drawn.plan)


test_every_tangled_plan_has_a_sheet_that_proves_it = every("tangled", 150)(sheet_proves)
test_every_mid_size_plan_has_a_sheet_that_proves_it = every("mid-size", 30)(sheet_proves)
test_every_plan_of_a_body_that_is_fed_twice_has_a_sheet_that_proves_it = every("fed twice", 80)(sheet_proves)
test_every_plan_of_a_laden_gimbal_has_a_sheet_that_proves_it = every("laden", 60)(sheet_proves)


@every("tangled", 60)
def test_what_is_not_kept_has_a_reason(drawn: Drawn) -> None:
    reasons = {unmet.promise: unmet for unmet in drawn.plan.unmet}
    assert {*reasons} == {promise.id for promise in drawn.rig.rig.promises} - {*drawn.plan.kept}
    assert all(unmet.obstacles for unmet in reasons.values())


RADIO = {"id": "air", "name": "own Wi-Fi", "system": "wifi", "joins_by": "network"}
AIR = {"kind": "video", "signal": "air", "formats": ["1080p25"]}
ON = {"wake": {"how": "On.", "boot_s": 1}, "power": {"draw_w": 1, "inner_battery": {"name": "b", "energy_wh": 9}}}
PHONE = profile(
    "phone",
    stage="off-gimbal",
    radios=[{**RADIO, "part": "station", "roles": [{**AIR, "flow": "in"}]}],
    surfaces=[{"id": "glass", "name": "glass", "kind": "screen"}],
    shows=[{"screen": "glass", "over": "air", "delay_ms": 5}],
    **ON,
)


def filming(takes_effect: str, upsets: tuple[str, ...] = (), **radio: Any) -> ResolvedRig:
    """A body that films and shows it on a phone; its link starts in stills mode, and has to be allowed in a menu."""
    values = [{"id": "stills", "name": "Stills"}, {"id": "film", "name": "Film", "upsets": upsets}]
    body = profile(
        "body",
        radios=[{**RADIO, "part": "access-point", "meets_in": ["stills"], "roles": [{**AIR, "flow": "out"}], **radio}],
        makes=[{"over": "air", "delay_ms": 5, "when": {"mode": ["film"], "settings": {"link": "on"}}}],
        modes={"how": "Turn to {name}.", "factory": "film", "values": values},
        settings=[setting("link", takes_effect)],
        **ON,
    )
    return rig_of([body, PHONE], [], [picture("phone", "glass")])


def told(made: Plan, promise_id: str) -> str:
    return next(unmet.because for unmet in made.unmet if unmet.promise == promise_id)


@pytest.mark.parametrize("takes_effect", ["at-once", "at-reconnect", "at-boot"])
def test_a_link_that_starts_in_stills_mode_with_a_setting_that_takes_at_a_start(takes_effect: str):
    """The menu first, off and on again, stills, the link, and back to film."""
    rig = filming(takes_effect)
    made = plan(rig)
    steps = run_sheet(rig, made).steps
    kinds = [step.id.partition(":")[0] for step in steps if step.device == "body" or "meet" in step.id]
    carefully(fresh_world(rig), steps)
    assert made.kept == ("picture",)
    assert [kind for kind in kinds if kind in ("mode-for-link", "meet", "mode")] == ["mode-for-link", "meet", "mode"]
    assert takes_effect == "at-once" or kinds.index("set") < kinds.index("menu-sleep") < kinds.index("wake")


@pytest.mark.parametrize("upset", ["drops-links", "restarts", "forgets-pairing"])
def test_a_mode_that_loses_the_network_that_starts_in_the_other_is_no_plan(upset: str):
    made = plan(filming("at-once", (upset,)))
    assert made.kept == ()
    assert "In whatever order it is built, this is not so in the end: phone has joined" in told(made, "picture")


def test_a_pairing_outlives_a_restart():
    paired = {"joins_by": "pairing"}
    rig = filming("at-once", ("restarts",), **paired)
    phone = PHONE.model_copy(update={"radios": [PHONE.radios[0].model_copy(update=paired)]})
    body = rig["body"].profile
    rig = rig_of([body, phone], [], [picture("phone", "glass")])
    made = plan(rig)
    assert made.kept == ("picture",)
    carefully(fresh_world(rig), run_sheet(rig, made).steps)


ASKING = [{"id": "yes", "name": "Yes"}, {"id": "no", "name": "No"}]


@pytest.mark.parametrize(("leads", "kept"), [(1, ("record", "iso")), (0, ())])
def test_what_is_asked_only_with_a_lead_in_is_not_answered_without(leads: int, kept: tuple[str, ...]):
    """ISO over the body's own button counts on an answer that it asks for only when something is in its USB."""
    prompt = {"id": "ask", "asks": "Allow?", "joined": "usb", "answers": ASKING, "default": "no"}
    body = camera(
        wake={"how": "Switch on.", "boot_s": 2, "prompts": [prompt]},
        surfaces=[{"id": "dial", "name": "dial", "kind": "wheel"}],
        accepts=[
            {"functions": ["record"], "over": "usb"},
            {"functions": ["iso"], "surface": "dial", "when": {"answers": {"ask": "yes"}}},
        ],
    )
    lead = cable("lead", "usb-c", "usb-c", {"medium": "usb-data"})
    made = plan(rig_of([body, grip()], [(lead, leads)], [RECORD, promise("iso", "camera", "dial")]))
    assert made.kept == kept
    if not leads:
        assert "camera asks “Allow?” only with something in camera, port marked “USB”" in told(made, "iso")


def test_a_wake_order_comes_from_a_wire_and_never_from_a_radio_link():
    """Two that each want the other up first, over the air: radio links come up in any order."""
    air = {"id": "air", "name": "air", "system": "x", "joins_by": "pairing"}
    sends = control("p", "host", medium="air", wake="peer-first")
    takes = control("p", "device", medium="air", wake="peer-first")
    body = camera(
        ports=[],
        radios=[{**air, "part": "receiver", "roles": [takes]}],
        accepts=[{"functions": ["record"], "over": "air"}],
    )
    hand = grip(
        ports=[],
        radios=[{**air, "part": "sender", "roles": [sends]}],
        emits=[{"functions": ["record"], "surface": "button", "over": "air"}],
    )
    rig = rig_of([body, hand], [], [RECORD])
    made = plan(rig)
    assert (made.kept, made.wake_order) == (("record",), ())
    carefully(fresh_world(rig), run_sheet(rig, made).steps)


def test_a_switch_that_takes_when_the_lead_goes_in_is_set_before_it():
    """A body without a battery, whose feed has to be switched on outside."""
    feed = {**setting("feed", "at-reconnect"), "needs_awake": False}
    inlet = {"kind": "power", "flow": "in", "min_v": 5, "max_v": 5, "when": {"settings": {"feed": "on"}}}
    outlet = {"kind": "power", "flow": "out", "min_v": 5, "max_v": 5, "max_a": 2}
    body = camera(ports=[port("usb", "usb-c", control("p", "device"), inlet)], settings=[feed], power={"draw_w": 5})
    hand = grip(ports=[port("out", "usb-c", control("p", "host"), outlet)])
    lead = cable("lead", "usb-c", "usb-c", {"medium": "usb-data"}, {"medium": "power", "max_a": 3})
    rig = rig_of([body, hand], [(lead, 1)], [RECORD])
    made = plan(rig)
    ids = [step.id.partition(":")[0] for step in run_sheet(rig, made).steps]
    assert made.kept == ("record",)
    assert ids.index("set") < ids.index("plug")
