"""The sheet from any world: what a change or a mishap spoils, and nothing else."""

from collections.abc import Callable
from dataclasses import replace
from typing import Any

import pytest

from isotact.core.bench import carry_out, carry_through
from isotact.core.model import ResolvedRig
from isotact.core.model.variants import with_document
from isotact.core.planning import plan
from isotact.core.planning.tape_flags import flags_of
from isotact.core.runsheet import RunSheet, mid_day, moved_to, run_sheet, sheet_between
from isotact.core.trades import conditions_of, fresh_world, perform
from isotact.core.trades.cables.acts import Unplug
from isotact.core.trades.cables.mishaps import HalfSeat, WearOut
from isotact.core.trades.power import FitBattery, RunFlat
from isotact.core.trades.radio import PartRadios, Retune
from isotact.core.trades.waking import Sleep
from isotact.core.world import Power, World, prove
from tests.core.planning.test_feeds import ROLL, rig
from tests.core.runsheet.careful import carefully
from tests.corpus import Drawn, every
from tests.edits import edited, exchanged, troubled, without
from tests.rigs import (
    DATA,
    FOCUS,
    RECORD,
    SHIPPED,
    Carried,
    cable,
    camera,
    carried,
    control,
    demo,
    device_of,
    grip,
    port,
    profile,
    rig_of,
    second_button,
    video,
)


def as_flagged(rig: ResolvedRig, done: Carried) -> ResolvedRig:
    """`rig` with the flags of what is built in its document."""
    return ResolvedRig(rig.rig.model_copy(update={"flags": flags_of(done.plan, plugged=True)}), rig.cables, rig.devices)


def restores(world: World, done: Carried, sheet: RunSheet) -> None:
    """Carried out, the short sheet proves every promise; it is no longer than the whole; no step of it is idle."""
    end = world.fork()
    carefully(end, sheet.steps)
    assert [one for one in done.plan.kept if not prove(end, one).ok] == []
    assert [str(one.key) for one in done.conditions if one.promises and not one.holds(end)] == []
    work = [step for step in sheet.steps if not step.care]
    if any(promise.id in done.plan.kept for promise in done.rig.rig.routed):  # to strike what nobody wants is no build
        struck = [step for step in sheet.steps if step.act.kind == "take-off"]
        assert len(sheet.steps) - len(struck) <= len(done.sheet.steps)
        assert sheet.takes_s - sum(step.takes_s for step in struck) <= done.sheet.takes_s
    for left_out in work:
        if left_out.act.proves is None:
            other = world.fork()
            for _ in carry_out(other, sheet.steps, {left_out.id}):
                pass
            proven = all(prove(other, one).ok for one in done.plan.kept)
            assert not (proven and all(one.holds(other) for one in done.conditions if one.promises)), left_out.id


@every("small or shaken", 45)
def test_after_an_edit_of_a_built_rig(drawn: Drawn):
    becomes(drawn.done, edited(drawn.chance("an edit"), drawn.rig))


@every("small or shaken", 20)
def test_after_an_edit_that_leads_to_a_rig(drawn: Drawn):
    becomes(Carried.out(edited(drawn.chance("an edit back"), drawn.rig)), drawn.rig)


def becomes(old: Carried, after: ResolvedRig) -> RunSheet:
    """What is built is changed into another rig by the short sheet, and what stays keeps its flags."""
    wanted = as_flagged(after, old)
    made = plan(wanted)
    tags = {(join.link.id, join.link.cable): join.tag for join in old.plan.joins}
    assert all(tags.get((join.link.id, join.link.cable), join.tag) == join.tag for join in made.joins)
    world, gone = moved_to(old.world, wanted)
    conditions = conditions_of(world.rig, made)
    done = Carried(world.rig, made, conditions, run_sheet(wanted, made), world)
    sheet = sheet_between(world, made, conditions, gone)
    restores(world, done, sheet)
    return sheet


def test_a_question_that_comes_with_a_lead_at_a_start_costs_a_body_that_is_up_its_start():
    prompt = {
        "id": "ask", "asks": "Allow?", "joined": "usb", "default": "no",
        "answers": [{"id": "yes", "name": "Yes"}, {"id": "no", "name": "No"}],
    }  # fmt: skip
    body = camera(
        ports=[port("usb", "usb-c", control("p", "device")), port("aux", "usb-c", control("p", "device"))],
        accepts=[
            {"functions": ["record"], "over": "usb", "when": {"answers": {"ask": "yes"}}},
            {"functions": ["focus"], "over": "aux"},
        ],
        wake={"how": "Switch on.", "boot_s": 2, "prompts": [prompt]},
    )
    whole = rig_of([body, grip(), second_button()], [(DATA, 2)], [RECORD, FOCUS])
    before = Carried.out(without(whole, "grip"))
    assert before.plan.kept == ("focus",)
    steps = [step.id for step in becomes(before, whole).steps]
    plugged = next(number for number, step in enumerate(steps) if step.startswith("plug:camera"))
    assert plugged < steps.index("sleep:camera") < steps.index("wake:camera") < steps.index("answer:camera.ask")


PIECES = [(key, device.id) for key in ("night-ferry-b", "two-drivers", "panel-mode") for device in SHIPPED[key].devices]


@pytest.mark.parametrize(("rig_id", "device"), PIECES)
def test_a_device_that_comes_later_works_with_what_is_up_already(rig_id: str, device: str):
    """What is asked at a start only is asked again, and a lead into what is up by another feed goes in at once."""
    becomes(Carried.out(without(carried(rig_id).rig, device)), carried(rig_id).rig)


@pytest.mark.parametrize(("rig_id", "device"), PIECES)
def test_another_piece_in_the_place_of_any_works_with_what_is_up_already(rig_id: str, device: str):
    becomes(carried(rig_id), exchanged(carried(rig_id).rig, device))


@every("small or shaken", 45)
def test_after_a_mishap(drawn: Drawn):
    done = drawn.done
    world = done.world.fork()
    if world.out:
        troubled(drawn.chance("a mishap"), world)
        restores(world, done, sheet_between(world, done.plan, done.conditions))


@pytest.mark.parametrize("rig_id", SHIPPED)
def test_from_the_cases_it_is_the_whole_sheet_and_from_a_built_rig_it_is_empty(rig_id: str):
    done = carried(rig_id)
    assert sheet_between(fresh_world(done.rig), done.plan, done.conditions) == done.sheet
    assert sheet_between(done.world, done.plan, done.conditions).steps == ()


@pytest.mark.parametrize("rig_id", SHIPPED)
def test_after_any_battery_went_flat_or_anything_was_switched_off(rig_id: str):
    done = carried(rig_id)
    flat = [RunFlat(device=device) for device in sorted(done.world[Power].battery_wh)]
    off = [Sleep(device=device) for device in sorted(done.world.out) if done.rig[device].profile.wake]
    for act in (*flat, *off):
        world = done.world.fork()
        perform(world, act)
        restores(world, done, sheet_between(world, done.plan, done.conditions))


@pytest.mark.parametrize("rig_id", SHIPPED)
def test_after_any_setting_stands_otherwise_or_has_not_taken(rig_id: str):
    done = carried(rig_id)
    for condition in done.conditions:
        for fault in condition.faults(done.rig) if condition.kind == "setting" else ():
            world = done.world.fork()
            perform(world, fault.act)
            restores(world, done, sheet_between(world, done.plan, done.conditions))


def not_taken(rig_id: str, key: str) -> list[str]:
    condition = next(one for one in carried(rig_id).conditions if str(one.key).startswith(f"setting:{key}"))
    act = next(fault.act for fault in condition.faults(carried(rig_id).rig) if fault.id == "waiting")
    return after(rig_id, act)[2]


def test_what_waits_for_a_connection_is_plugged_again_where_that_is_enough():
    """Not where the lead feeds, where an end looks for it at its start only, or where a part is mounted."""
    assert not_taken("relayed-control", "body.remote-method") == ["replug:body.usb--link.camera"]
    assert not_taken("serial-body", "body.serial") == ["sleep:body", "wake:body"]  # a module, screwed on
    assert not_taken("night-ferry-b", "body.usb-mode")[:2] == ["sleep:body", "wake:body"]


def test_what_is_fed_from_two_sides_is_off_only_when_both_plugs_are_out():
    assert not_taken("two-drivers", "client.protocol") == [
        "sleep:client", "wake:client", "sleep:body", "wake:body",
    ]  # fmt: skip


def after(rig_id: str, *acts) -> tuple[Carried, World, list[str]]:
    """A shipped rig after some acts, and the ids of the steps that bring it back."""
    done = carried(rig_id)
    world = done.world.fork()
    for act in acts:
        perform(world, act)
    sheet = sheet_between(world, done.plan, done.conditions)
    restores(world, done, sheet)
    return done, world, [step.id for step in sheet.steps if step.act.proves is None]


@pytest.mark.parametrize("lapses", [True, False])
def test_a_mode_that_a_restart_loses_is_set_once_more(lapses: bool):
    """The link went off. The body looks for it at its start only, so it is restarted; it may wake in stills mode."""
    whole = rig(
        {"body": "mirrorless-usb-c-micro-hdmi", "link": "phone-link-transmitter", "phone": "phone"},
        ["usb-c-usb-c-data-30"],
        [{**ROLL, "at": {"device": "phone", "surface": "touch-screen"}}],
    )
    body = whole.devices["body"]
    modes = body.profile.modes.model_copy(update={"lapses": lapses})
    forgetful = replace(body, profile=body.profile.model_copy(update={"modes": modes}))
    done = Carried.out(replace(whole, devices={**whole.devices, "body": forgetful}))
    assert done.plan.kept == ("roll",)
    world = done.world.fork()
    perform(world, Sleep(device="link"))
    sheet = sheet_between(world, done.plan, done.conditions)
    restores(world, done, sheet)
    steps = [step.id for step in sheet.steps]
    assert steps.index("wake:link") < steps.index("wake:body")
    assert ("mode:body" in steps) is lapses


def test_a_flat_plate_battery_costs_the_body_its_start_and_the_motors_their_ends():
    *_, steps = after("night-ferry-a", RunFlat(device="battery"))
    assert steps == [
        "fit:battery", "wake:body", "map:motor-focus.gear", "map:motor-iris.gear", "map:motor-zoom.gear",
    ]  # fmt: skip


def test_a_gimbal_that_went_off_takes_the_body_through_its_start_and_its_prompt():
    *_, steps = after("night-ferry-b", Sleep(device="gimbal"))
    assert steps == ["wake:gimbal", "sleep:body", "wake:body", "answer:body.usb-question"]


def test_what_has_no_switch_gets_its_plug_back():
    """Found by the body at its start, which it then needs again; what hangs on its bus comes with it."""
    *_, steps = after("two-drivers", Sleep(device="client"))
    assert steps == [
        "wake:client", "sleep:body", "wake:body",
    ]  # fmt: skip


def test_a_lead_inside_the_cage_costs_a_balance_and_the_gimbal_is_still_for_it():
    ends = next(join.link for join in carried("night-ferry-b").plan.joins if join.link.a.endpoint == "hdmi")
    *_, steps = after("night-ferry-b", Unplug(a=ends.a, b=ends.b))
    assert steps[:4] == ["sleep:gimbal", f"plug:{ends.a}--{ends.b}", "balance:gimbal", "wake:gimbal"]


def test_a_plug_half_in_is_pushed_and_a_dead_cable_exchanged():
    ends = next(join.link for join in carried("night-ferry-a").plan.joins if join.link.a.device == "receiver")
    at = {"a": ends.a, "b": ends.b}
    *_, pushed = after("night-ferry-a", HalfSeat(**at))
    assert pushed == [f"push-home:{ends.a}--{ends.b}"]
    *_, exchanged = after("night-ferry-a", WearOut(**at, medium="sdi"))
    assert exchanged == [f"{what}:{ends.a}--{ends.b}" for what in ("take-out", "lay-out", "plug")]


def test_a_radio_that_strayed_is_called_back():
    done = carried("night-ferry-a")
    met = next(join.link for join in done.plan.joins if join.link.is_radio and join.channel is None)
    *_, again = after("night-ferry-a", PartRadios(a=met.a, b=met.b))
    assert again == [f"meet:{met.a}--{met.b}"]
    tuned = next(join.link for join in done.plan.joins if join.channel is not None)
    *_, tune = after("night-ferry-a", Retune(end=tuned.a, channel="26"))
    assert tune == [f"tune:{tuned.a}"]


def test_a_battery_is_changed_without_a_start_where_the_gear_is_made_for_it():
    """A hand unit with hot-swap cells stays awake; a plate battery without a plate for it takes the body with it."""
    done = carried("night-ferry-a")
    for device, lost in (("hand", 0), ("battery", 7)):
        world = done.world.fork()
        perform(world, FitBattery(device=device))
        assert sum(not prove(world, one).ok for one in done.plan.kept) == lost


def test_another_lens_wants_its_table_its_mesh_and_its_ends():
    """Mid-day: the zoom comes off, the prime goes on under the same name."""
    old = carried("night-ferry-a")
    document = old.rig.rig.model_copy(deep=True)
    data = document.model_dump(mode="json")
    next(one for one in data["devices"] if one["id"] == "lens")["profile"] = "lens-cine-pl"
    data["promises"] = [one for one in data["promises"] if one["id"] != "zoom"]
    data["flags"] = [flag.model_dump(mode="json") for flag in flags_of(old.plan, plugged=True)]
    new = Carried.out(demo(lambda other: (other.clear(), other.update(data))))
    sheet = mid_day(old.world, new.rig, new.plan)
    steps = [step.id for step in sheet.steps]
    titles = [step.title for step in sheet.steps]
    off = steps.index("take-off:lens-before")
    assert titles[off] == "Take the earlier Cine zoom off"  # the new one goes by its name
    swung = [n for n, title in enumerate(titles) if title.startswith("Swing Motor") and "earlier Cine zoom" in title]
    assert len(swung) == 3
    assert steps.index("sleep:ring") < swung[0] < swung[-1] < off
    assert {
        "plug:body.mount--lens.mount",
        "balance:ring",
        "map:motor-focus.gear",
        "map:motor-iris.gear",
        "load-table:hand.lens",
    } <= {*steps}
    assert not any(step.startswith("lay-out") for step in steps)
    assert sheet.takes_s < 0.6 * new.sheet.takes_s


def test_the_world_it_starts_from_stays_as_it_is():
    done = carried("night-ferry-b")
    world = done.world.fork()
    perform(world, RunFlat(device="gimbal"))
    before = world.to_data()
    sheet_between(world, done.plan, done.conditions)
    assert world.to_data() == before


def test_what_no_hand_can_mend_is_said():
    done = carried("night-ferry-a")
    world = done.world.fork()
    fuse = next(fault.act for one in done.conditions if str(one.key) == "fed:driver" for fault in one.faults(done.rig))
    perform(world, fuse)
    sheet = sheet_between(world, done.plan, done.conditions)
    assert any("Sedge driver has power" in words for words in sheet.warnings)
    assert carry_through(done.rig, done.sheet).clock_s > 0


def changed(rig_id: str, change: Callable[[dict[str, Any]], object]) -> tuple[list[str], list[str]]:
    """A shipped rig that stands, its document changed: the ids and titles of the sheet between the two."""
    old = carried(rig_id)
    data = old.rig.rig.model_dump(mode="json")
    change(data)
    data["flags"] = [flag.model_dump(mode="json") for flag in flags_of(old.plan, plugged=True)]
    new = Carried.out(demo(lambda other: (other.clear(), other.update(data))))
    sheet = mid_day(old.world, new.rig, new.plan)
    world, _ = moved_to(old.world, new.rig)
    carefully(world, sheet.steps)
    assert all(prove(world, promise).ok for promise in new.plan.kept)
    return [step.id for step in sheet.steps], [step.title for step in sheet.steps]


def test_what_is_to_sit_elsewhere_is_moved_and_the_gimbal_balanced_anew():
    """A box with a button from the cage to the handles; its lead is long enough for both. Common practice, no source."""
    lead = cable("lead", "usb-c", "usb-c", {"medium": "usb-data"}, length_mm=900)
    arm = profile(
        "arm",
        stage="handles",
        wake={"how": "Hold.", "boot_s": 2, "needs_balance": True},
        power={"draw_w": 4, "inner_battery": {"name": "battery", "energy_wh": 30}},
        carrier={"axes": ["tilt"], "min_payload_g": 0, "max_payload_g": 9000},
    )
    body = camera(ports=[*camera().ports, port("out", "hdmi-a", video("out"))], makes=[{"over": "out", "delay_ms": 9}])
    rigs = [
        rig_of([body, grip(), arm], [(lead, 1)], [RECORD], devices={"grip": {"stage": stage}})
        for stage in ("tilt-cage", "handles")
    ]
    old = Carried.out(rigs[0])
    flags = flags_of(old.plan, plugged=True)
    new = with_document(rigs[1], flags=[*flags])
    sheet = mid_day(old.world, new, plan(new))
    ids = [step.id for step in sheet.steps]
    assert ids.index("sleep:arm") < ids.index("fix:grip") < ids.index("balance:arm") < ids.index("wake:arm")
    assert not [one for one in ids if one.startswith(("plug:", "lay-out:"))]
    # Built so at once it goes on after balance: it weighs on no axis.
    afresh = [step.id for step in Carried.out(rigs[1]).sheet.steps]
    assert afresh.index("balance:arm") < afresh.index("fix:grip")


def test_a_lead_that_would_go_on_feeding_unasked_comes_out():
    """Another body by which the driver is fed from the gimbal: the tap of the plate battery would drain it besides."""
    ids, _ = changed("night-ferry-a", lambda data: device_of(data, "body").update(profile="cine-body-large-panel"))
    assert any(one.startswith("take-out:") and "battery.tap" in one for one in ids)


def test_a_body_on_another_gimbal_is_put_on_and_balanced():
    ids, titles = changed(
        "night-ferry-b",
        lambda data: device_of(data, "gimbal").update(profile="gimbal-two-handed-ring", settings={}, firmware=None),
    )
    assert {"fix:body", "balance:gimbal"} <= {*ids}
    assert "Put Brindle 2 on Tansy grip" in titles


def test_a_body_that_is_exchanged_has_its_lens_meshed_and_mapped_again():
    """The lens came off with the body, so the motors were swung away from it."""
    ids, titles = changed("night-ferry-a", lambda data: device_of(data, "body").update(profile="cine-body-large-panel"))
    off = ids.index("take-off:body-before")
    assert sum(title.startswith("Swing Motor") for title in titles[:off]) == 3
    assert sum(title.startswith("Mesh Motor") for title in titles[off:]) == sum(one.startswith("map:") for one in ids)
