"""What the simulated devices do: boot, forget, miss each other, run dry, and how they look meanwhile."""

import pytest

from isotact.core.bench import run
from isotact.core.model.behaviour import Indicator
from isotact.core.model.plan import LinkEnd
from isotact.core.planning import plan
from isotact.core.runsheet import run_sheet
from isotact.core.trades import conditions_of, fresh_world, perform, views_of
from isotact.core.trades.balance import BalanceIt
from isotact.core.trades.cables.acts import LayOut, Plug
from isotact.core.trades.menus.acts import Answer, Set, SetMode
from isotact.core.trades.power import FitBattery
from isotact.core.trades.radio import MeetByRadio
from isotact.core.trades.waking import Sleep, WakeUp
from isotact.core.world import Balance, Menus, Power, Radio, Waking, now, prove
from tests.rigs import DATA, RECORD, cable, camera, control, demo, grip, hours, port, power, rig_of, without


def do(rig, *acts):
    """Do acts in a fresh world; returns it and what was seen at each."""
    world = fresh_world(rig)
    return world, [perform(world, act, 1) for act in acts]


CONTROL = (LinkEnd(device="camera", endpoint="usb"), LinkEnd(device="grip", endpoint="out"))
JOIN = (LayOut(tag="A1", cable="data"), Plug(tag="A1", a=CONTROL[0], b=CONTROL[1]))
BATTERIES = (FitBattery(device="camera"), FitBattery(device="grip"))
PAIR = (WakeUp(device="grip"), WakeUp(device="camera"))


def rig_with(body=None, host=None, cables=None):
    return rig_of([body or camera(), host or grip()], cables or [(DATA, 1)], [RECORD])


def test_a_device_without_power_stays_dark():
    _, seen = do(rig_with(), WakeUp(device="camera"))
    assert seen == ["camera stays dark: no power."]


def test_booting_takes_its_time_on_the_clock():
    bench, _ = do(rig_with(), FitBattery(device="grip"), WakeUp(device="grip"))
    assert (bench[Waking].boot_started_s["grip"], bench[Waking].awake_since_s["grip"]) == (2, 5)


def test_waking_twice_changes_nothing():
    bench, seen = do(rig_with(), FitBattery(device="grip"), WakeUp(device="grip"), WakeUp(device="grip"))
    assert seen[-1] == "grip is on already."
    assert bench[Waking].awake_since_s["grip"] == 5


def test_an_unbalanced_gimbal_strains_and_switches_off():
    host = grip(wake={"how": "On.", "boot_s": 1, "needs_balance": True})
    _, seen = do(rig_with(host=host), FitBattery(device="grip"), WakeUp(device="grip"))
    assert seen[-1] == "grip strains, warns and switches off: it is not balanced."
    bench, _ = do(rig_with(host=host), FitBattery(device="grip"), BalanceIt(device="grip"), WakeUp(device="grip"))
    assert bench[Waking].is_awake("grip")


def test_a_lead_added_inside_the_cage_upsets_the_balance():
    bench, _ = do(rig_with(), BalanceIt(device="grip"), *JOIN)
    assert bench[Balance].balanced == set()


def test_a_cable_that_was_not_laid_out_is_not_at_hand():
    _, seen = do(rig_with(), JOIN[1])
    assert seen == ["A1 is not at hand."]


def test_joined_and_awake_the_button_rolls_the_camera():
    bench, _ = do(rig_with(), *BATTERIES, *JOIN, *PAIR)
    proof = prove(bench, "record")
    assert proof.ok
    assert proof.reading == "grip to camera"


@pytest.mark.parametrize(
    ("wake", "order", "ok"),
    [
        ("peer-first", ("grip", "camera"), True),
        ("peer-first", ("camera", "grip"), False),
        ("self-first", ("camera", "grip"), True),
        ("self-first", ("grip", "camera"), False),
        ("any", ("camera", "grip"), True),
    ],
)
def test_the_wrong_wake_order_leaves_the_link_dead(wake, order, ok):
    body = camera(ports=[port("usb", "usb-c", control("p", "device", wake=wake))])
    bench, _ = do(rig_with(body), *BATTERIES, *JOIN, *(WakeUp(device=device) for device in order))
    assert prove(bench, "record").ok is ok


def test_a_restart_in_the_right_order_cures_it():
    body = camera(ports=[port("usb", "usb-c", control("p", "device", wake="peer-first"))])
    again = (Sleep(device="camera"), WakeUp(device="camera"))
    bench, _ = do(rig_with(body), *BATTERIES, *JOIN, WakeUp(device="camera"), WakeUp(device="grip"), *again)
    assert prove(bench, "record").ok


def test_a_port_that_looks_only_at_boot_misses_a_cable_plugged_later():
    body = camera(ports=[port("usb", "usb-c", control("p", "device", joined_before_wake=True))])
    late, _ = do(rig_with(body), *BATTERIES, *PAIR, *JOIN)
    early, _ = do(rig_with(body), *BATTERIES, *JOIN, *PAIR)
    assert not prove(late, "record").ok
    assert prove(early, "record").ok


VALUES = [{"id": "off", "name": "Off"}, {"id": "on", "name": "On"}]


@pytest.mark.parametrize(
    ("takes", "at_once", "after_restart"),
    [("at-once", True, True), ("at-reconnect", False, True), ("at-boot", False, True)],
)
def test_a_setting_waits_for_its_moment(takes, at_once, after_restart):
    setting = {"id": "s", "name": "S", "path": ["M"], "values": VALUES, "factory": "off", "takes_effect": takes}
    body = camera(
        settings=[setting], accepts=[{"functions": ["record"], "over": "usb", "when": {"settings": {"s": "on"}}}]
    )
    start = (*BATTERIES, *JOIN, *PAIR, Set(device="camera", setting="s", value="on"))
    now, seen = do(rig_with(body), *start)
    later, _ = do(rig_with(body), *start, Sleep(device="camera"), WakeUp(device="camera"))
    assert seen[-1] == "S reads On."
    assert prove(now, "record").ok is at_once
    assert prove(later, "record").ok is after_restart


def test_a_menu_of_a_sleeping_device_cannot_be_opened():
    setting = {"id": "s", "name": "S", "path": ["M"], "values": VALUES, "factory": "off"}
    bench, seen = do(rig_with(camera(settings=[setting])), Set(device="camera", setting="s", value="on"))
    assert seen == ["camera is off: its menu cannot be opened."]
    assert list(bench[Menus].stored.values()) == ["off"]


def test_a_prompt_is_asked_only_with_the_cable_in_and_forgotten_when_off():
    answers = [{"id": "yes", "name": "Yes"}, {"id": "no", "name": "No"}]
    prompt = {"id": "ask", "asks": "Allow?", "joined": "usb", "answers": answers, "default": "no"}
    body = camera(
        wake={"how": "On.", "boot_s": 1, "prompts": [prompt]},
        accepts=[{"functions": ["record"], "over": "usb", "when": {"answers": {"ask": "yes"}}}],
    )
    yes = Answer(device="camera", prompt="ask", answer="yes")
    _, alone = do(rig_with(body), FitBattery(device="camera"), WakeUp(device="camera"), yes)
    assert alone[-1] == "camera asks nothing."
    bench, _ = do(rig_with(body), *BATTERIES, *JOIN, *PAIR, yes)
    assert prove(bench, "record").ok
    restart = (Sleep(device="camera"), WakeUp(device="camera"))
    forgot, _ = do(rig_with(body), *BATTERIES, *JOIN, *PAIR, yes, *restart)
    assert not prove(forgot, "record").ok


def test_the_mode_decides_what_is_taken():
    modes = {
        "how": "Turn to {name}.",
        "factory": "stills",
        "values": [{"id": m, "name": m} for m in ("stills", "film")],
    }
    body = camera(modes=modes, accepts=[{"functions": ["record"], "over": "usb", "when": {"mode": ["film"]}}])
    bench, _ = do(rig_with(body), *BATTERIES, *JOIN, *PAIR)
    assert not prove(bench, "record").ok
    bench, _ = do(rig_with(body), *BATTERIES, *JOIN, *PAIR, SetMode(device="camera", mode="film"))
    assert prove(bench, "record").ok


def test_a_network_is_left_when_an_end_goes_off_and_a_pairing_is_kept():
    rig = demo()
    ends = LinkEnd(device="phone", endpoint="wifi"), LinkEnd(device="transmitter", endpoint="wifi")
    on = [act for device in ("phone", "transmitter") for act in (FitBattery(device=device), WakeUp(device=device))]
    bench, seen = do(rig, *on, MeetByRadio(a=ends[0], b=ends[1]), Sleep(device="transmitter"))
    assert seen[-2] == "Connected."
    assert bench[Radio].met == set()


def test_a_radio_takes_no_more_peers_than_it_says():
    more = [{"id": key, "profile": "phone"} for key in ("second", "third")]
    rig = demo(lambda data: data["devices"].extend(more))
    tx = LinkEnd(device="transmitter", endpoint="wifi")
    profile = rig["transmitter"].profile
    assert profile.radios[0].peers == 2
    phones = [LinkEnd(device=device, endpoint="wifi") for device in ("phone", "second", "third")]
    on = [act for d in ("phone", "second", "third", "transmitter") for act in (FitBattery(device=d), WakeUp(device=d))]
    _, seen = do(rig, *on, *(MeetByRadio(a=tx, b=end) for end in phones))
    assert seen[-1] == "Quillon link takes 2 at a time: no room."


def fed_rig(max_a=2.0, battery=None):
    host = grip(ports=[port("out", "usb-c", control("p", "host"), {**power("out"), "max_a": max_a})])
    body = camera(
        ports=[port("usb", "usb-c", control("p", "device"), power("in"))],
        power={"draw_w": 5, "inner_battery": battery},
    )
    both = cable("data", "usb-c", "usb-c", {"medium": "usb-data"}, {"medium": "power", "max_a": 3})
    return rig_of([body, host], [(both, 1)], [RECORD])


def test_a_device_runs_from_the_feed_only_while_its_giver_is_awake():
    bench, _ = do(fed_rig(), FitBattery(device="grip"), *JOIN, *PAIR)
    assert now(bench).supply.root("camera") == "grip"
    bench, seen = do(fed_rig(), FitBattery(device="grip"), *JOIN, WakeUp(device="camera"))
    assert seen[-1] == "camera stays dark: no power."


def test_a_feed_that_is_too_weak_browns_out():
    _, seen = do(fed_rig(max_a=0.5), FitBattery(device="grip"), *JOIN, *PAIR)
    assert seen[-1] == "camera stays dark: no power."


def test_batteries_drain_and_an_empty_one_takes_down_what_it_feeds():
    bench, _ = do(fed_rig(), FitBattery(device="grip"), *JOIN, *PAIR)
    before = bench[Power].battery_wh["grip"]
    bench[Power].battery_wh["grip"] = 0.0005
    bench.pass_time(1)
    assert before < 30 * 0.85
    assert not bench[Waking].is_awake("camera")
    assert not bench[Waking].is_awake("grip")
    assert bench[Power].battery_wh["grip"] == 0


def test_the_power_reading_is_energy_over_load():
    rig = demo(lambda data: (without(data, "iso"), hours(data, 2.7)))
    ran = run(rig, run_sheet(rig, plan(rig)))
    proof = next(proof for proof in ran.proofs if proof.promise == "hours")
    # 35 Wh x 0.9 usable / (5.0 W grip + 5.4 W body + 0.85 W lost in an outlet of nine tenths, its lead, and the cells)
    assert proof.reading == "2.80 h"
    assert proof.ok


def test_the_film_shows_lamps_screens_and_the_prompt():
    rig = demo()
    ran = run(rig, run_sheet(rig, plan(rig)))
    frames = {frame.step: frame for frame in ran.frames}
    asks = next(look for look in frames["wake:body"].changed if look.device == "body")
    assert asks.asks == "USB device found. Allow it to control the camera?"
    rolling = next(look for look in frames["prove:roll"].changed if look.device == "body")
    assert rolling.lamps[0].looks == "red frame and running timecode"
    picture = next(look for look in frames["meet:phone.wifi--transmitter.wifi"].changed if look.device == "phone")
    assert (picture.screens[0].shows, picture.screens[0].delay_ms) == ("picture", 77)
    linked = next(look for look in frames["wake:body"].changed if look.device == "gimbal")
    assert linked.lamps[0].looks == "steady blue"


def test_a_test_is_never_left_rolling():
    rig = demo()
    ran = run(rig, run_sheet(rig, plan(rig)))
    numbers = [number for number, frame in enumerate(ran.frames) if frame.step == "prove:roll"]
    after = ran.frames[numbers[0] + 1]
    body = next(look for look in after.changed if look.device == "body")
    assert body.lamps[0].state != "recording"


def test_a_step_left_out_names_what_fails_and_what_is_broken():
    rig = demo()
    made = plan(rig)
    ran = run(rig, run_sheet(rig, made), skip={"answer:body.usb-question"}, conditions=conditions_of(rig, made))
    failed = {proof.promise: proof.seen for proof in ran.proofs if not proof.ok}
    assert failed["roll"] == "Nothing happens: record does not arrive."
    assert set(failed) == {"roll", "focus"}
    assert ran.broken == ("answered:body.usb-question",)


def test_the_same_sheet_gives_the_same_film():
    rig = demo()
    steps = run_sheet(rig, plan(rig))
    assert run(rig, steps) == run(rig, steps)


def test_a_lamp_tells_waiting_from_linked_and_charging():
    def lamp(bench, device: str) -> str:
        return next(look for look in views_of(bench) if look.device == device).lamps[0].looks

    states = [{"when": when, "over": "out", "looks": when} for when in ("linked", "waiting", "asleep")]
    host = grip(indicators=[{"id": "lamp", "name": "lamp", "place": "top", "states": states}])
    rig = rig_with(host=host)
    alone, _ = do(rig, *BATTERIES, WakeUp(device="grip"))
    joined, _ = do(rig, *BATTERIES, *JOIN, *PAIR)
    assert [lamp(alone, "grip"), lamp(joined, "grip")] == ["waiting", "linked"]

    charging = [{"when": when, "looks": when} for when in ("charging", "awake", "asleep")]
    fed = fed_rig(battery={"name": "b", "energy_wh": 10})
    body = fed["camera"].profile.model_copy(
        update={"indicators": [Indicator.model_validate({"id": "l", "name": "l", "place": "p", "states": charging})]}
    )
    both = rig_of([body, fed["grip"].profile], [(fed.cables["data"], 1)], [RECORD])
    bench, _ = do(both, *BATTERIES, *JOIN, *PAIR)
    assert lamp(bench, "camera") == "charging"
    bench, _ = do(both, *BATTERIES, WakeUp(device="camera"))
    assert lamp(bench, "camera") == "awake"
