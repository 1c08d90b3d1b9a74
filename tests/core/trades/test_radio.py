"""Channels, pairings, networks and addresses: what is done, with which words, and what comes of it."""

from typing import Any

import pytest

from isotact.core.day import Day, plan_day
from isotact.core.model import Kit
from isotact.core.model.plan import LinkEnd
from isotact.core.planning import plan
from isotact.core.runsheet import run_sheet, sheet_between
from isotact.core.trades import fresh_world, perform
from isotact.core.trades.radio.acts import MeetByRadio, Mistype, Retune, Tune
from isotact.core.trades.waking import Sleep, WakeUp
from isotact.core.world import Radio, prove
from tests.core.runsheet.careful import carefully
from tests.rigs import Carried, carried, demo, picture, profile, rig_of, server


def lettered(letter: str, **more) -> Carried:
    """The heavy rig under another camera's letter."""
    document = carried("night-ferry-a").rig.rig.model_dump(mode="json")
    return Carried.out(demo(lambda data: (data.clear(), data.update({**document, "camera": letter, **more}))))


def channel(done: Carried) -> str | None:
    return next(join.channel for join in done.plan.joins if join.channel is not None)


def test_both_ends_stand_on_the_same_channel_and_nothing_is_paired():
    steps = {step.id: step for step in carried("night-ferry-a").sheet.steps}
    ends = [steps[f"tune:{device}.radio"] for device in ("driver", "hand")]
    assert {step.act.channel for step in ends} == {"11"}
    assert ends[1].title == "Sedge hand unit: lens radio on channel 11"
    assert "The same as Sedge driver: nothing is paired." in ends[1].detail


def test_seven_cameras_of_a_day_each_have_a_channel_of_their_own():
    assert len({channel(lettered(letter)) for letter in "ABCDEFG"}) == 7  # as many as the family has


def of_a_day(letters: str, **more: Any) -> Day:
    rigs = [lettered(letter, id=f"camera-{letter.lower()}", name=f"{letter} camera", **more).rig for letter in letters]
    kit = Kit(format="isotact/kit", version=1, id="kit", name="Kit")
    return plan_day(rigs, _enough(kit, len(letters)))


def channels(day: Day) -> list[str]:
    return [join.channel for one in day.rigs for join in one.plan.joins if join.channel is not None]


def test_two_rigs_that_would_meet_are_given_channels_of_their_own():
    """The eighth letter begins where the first does; five of the seven channels are free."""
    day = of_a_day("AH")
    assert day.clashes == ()
    assert len({*channels(day)}) == 2
    (one,) = day.retuned
    assert one.rig == "camera-h"
    assert one.says == ("H camera takes channel 13 of lens radio 24: on 11 stands another.",)
    assert one.channels == {"lens-radio-24": ["13"]}


def test_what_a_rig_is_told_to_take_it_then_takes_alone():
    (one,) = of_a_day("AH").retuned
    assert channel(lettered("H", channels=one.channels)) == "13"


def test_who_stands_well_stays_even_where_somebody_has_to_give_way():
    """A and H meet; B is where H would go next."""
    day = of_a_day("ABH")
    assert day.clashes == ()
    assert [one.rig for one in day.retuned] == ["camera-h"]
    assert len({*channels(day)}) == 3


def test_where_a_rig_can_take_one_channel_only_another_gives_way():
    """H was told to stand on 11, where A stands by its letter."""
    rigs = [
        lettered("A", id="camera-a", name="A camera").rig,
        lettered("H", id="camera-h", name="H camera", channels={"lens-radio-24": ["11"]}).rig,
    ]
    day = plan_day(rigs, _enough(Kit(format="isotact/kit", version=1, id="kit", name="Kit")))
    assert day.clashes == ()
    assert [one.rig for one in day.retuned] == ["camera-a"]


def test_where_none_is_free_the_day_says_so():
    (clash,) = of_a_day("AH", channels={"lens-radio-24": ["24"]}).clashes
    assert clash == (
        "A camera and H camera would both be on channel 24 of lens radio 24, and no other is open to them: give one of "
        "them another in its channels, or use them one after the other."
    )


def _enough(kit: Kit, rigs: int = 2) -> Kit:
    bag = carried("night-ferry-a").rig.rig.bag
    cables = [{"cable": item.cable, "count": rigs * item.count} for item in bag]
    return Kit.model_validate({**kit.model_dump(mode="json"), "cables": cables})


def test_the_rig_may_ask_for_a_channel():
    assert channel(lettered("A", channels={"lens-radio-24": ["24"]})) == "24"
    assert channel(lettered("A", channels={"lens-radio-24": ["99"]})) == "11"  # which none of its radios has


def test_on_another_channel_nothing_is_heard_and_back_on_it_all_is():
    world = carried("night-ferry-a").world.fork()
    end = LinkEnd(device="hand", endpoint="radio")
    perform(world, Retune(end=end, channel="26"))
    assert not prove(world, "focus").ok
    perform(world, Tune(end=end, channel="11"))
    assert prove(world, "focus").ok


def test_a_channel_is_kept_when_the_radio_goes_off():
    world = carried("night-ferry-a").world.fork()
    for act in (Sleep(device="hand"), WakeUp(device="hand")):
        perform(world, act)
    assert prove(world, "iso").ok


def test_the_earlier_receiver_is_dark_meanwhile_and_comes_back():
    done = carried("two-receivers")
    pairs = [step for step in done.sheet.steps if isinstance(step.act, MeetByRadio)]
    assert len(pairs) == 2
    assert any("is dark meanwhile, and comes back by itself" in line for line in pairs[1].detail)
    world = fresh_world(done.rig)
    seen = [perform(world, step.act, step.takes_s) for step in done.sheet.steps if step.act.kind != "prove"]
    assert any("was dark meanwhile, and is back by itself" in words for words in seen)


def test_an_only_receiver_has_no_earlier_one():
    (pair,) = [step for step in carried("night-ferry-a").sheet.steps if step.id.startswith("meet:receiver")]
    assert not any("dark meanwhile" in line for line in pair.detail)
    assert pair.detail[0].startswith("First Wimble receiver: ")


def test_address_and_password_are_typed_in_at_the_other_end_of_a_network_lead():
    done = carried("through-monitors")
    typed = next(one for one in done.conditions if one.kind == "address-typed")
    assert typed.promises
    world = done.world.fork()
    perform(world, Mistype(a=typed.a, b=typed.b))
    assert not all(prove(world, one).ok for one in typed.promises)
    step = next(step for step in done.sheet.steps if step.id == str(typed.made_by()))
    assert "type in address and password of" in step.title


def test_somebody_else_on_a_server_of_one_client_is_shown_out():
    done = carried("through-monitors")
    (alone,) = [one for one in done.conditions if one.kind == "no-guest"]
    world = done.world.fork()
    (fault,) = alone.faults(done.rig)
    assert alone.check(done.rig).read(world).words == "nobody else"
    perform(world, fault.act)
    assert alone.check(done.rig).read(world).words == "another name"
    assert [one for one in done.plan.kept if not prove(world, one).ok] == [*alone.promises]
    steps = sheet_between(world, done.plan, done.conditions).steps
    assert [step.id for step in steps if step.act.proves is None] == ["show-out:body.network-remote"]
    carefully(world, steps)
    assert all(prove(world, one).ok for one in done.plan.kept)


def test_a_server_lets_in_whoever_came_first_as_far_as_there_is_room():
    """The box needs no switch: it is on as soon as its lead is in, and the grip only once it was woken."""
    sheet = run_sheet(server(2), plan(server(2)))
    for room, works in ((2, ["record", "focus"]), (1, ["focus"])):
        world = fresh_world(server(room))
        for step in sheet.steps:
            perform(world, step.act, step.takes_s)
        assert [one for one in ("record", "focus") if prove(world, one).ok] == works


VALUES = [{"id": key, "name": key.capitalize()} for key in ("stills", "film")]
MODES = {"how": "Turn to {name}.", "factory": "film", "values": VALUES}


@pytest.mark.parametrize(
    ("found", "steps"), [("film", ["mode-for-link", "meet", "mode"]), ("stills", ["meet", "mode"])]
)
def test_a_link_that_starts_in_another_mode_only(found: str, steps: list[str]):
    """A body that films refuses to start its link: stills mode, start it, and back. Common practice, no source."""
    radio = {"id": "air", "name": "own Wi-Fi", "system": "wifi", "joins_by": "network"}
    role = {"kind": "video", "signal": "air", "formats": ["1080p25"]}
    shared = {
        "wake": {"how": "On.", "boot_s": 1},
        "power": {"draw_w": 1, "inner_battery": {"name": "b", "energy_wh": 9}},
    }
    body = profile(
        "body",
        radios=[{**radio, "part": "access-point", "meets_in": ["stills"], "roles": [{**role, "flow": "out"}]}],
        makes=[{"over": "air", "delay_ms": 5, "when": {"mode": ["film"]}}],
        modes=MODES,
        **shared,
    )
    phone = profile(
        "phone",
        stage="off-gimbal",
        radios=[{**radio, "part": "station", "roles": [{**role, "flow": "in"}]}],
        surfaces=[{"id": "glass", "name": "glass", "kind": "screen"}],
        shows=[{"screen": "glass", "over": "air", "delay_ms": 5}],
        **shared,
    )
    rig = rig_of([body, phone], [], [picture("phone", "glass")], devices={"body": {"mode": found}})
    made = plan(rig)
    sheet = run_sheet(rig, made)
    kinds = [step.id.split(":")[0] for step in sheet.steps]
    assert [kind for kind in kinds if kind in ("mode-for-link", "meet", "mode")] == steps
    world = fresh_world(rig)
    carefully(world, sheet.steps)
    assert prove(world, "picture").ok
    assert len(world[Radio].met) == 1
