"""A piece exchanged mid-day: what is gathered first, what stays up, which leads go on hanging with their flags."""

from typing import Any

import pytest

from isotact.catalogue import shipped
from isotact.core.bench import carry_through
from isotact.core.model import ResolvedRig, Rig, resolve
from isotact.core.planning import kept_flags, plan
from isotact.core.planning.tape_flags import flags_of
from isotact.core.runsheet import RunSheet, mid_day, moved_to, run_sheet
from isotact.core.trades import fresh_world, perform
from isotact.core.trades.cables.removal import TakeOff
from isotact.core.world import Waking, prove
from isotact.core.world.power import BRIDGED_S
from isotact.examples import examples
from tests.core.planning.test_feeds import ROLL, planned, rig
from tests.rigs import SHIPPED

SWAPPED = next(rig for one in examples() for rig in one.rigs if rig.id == "hot-swap")


def found(document: Rig | dict[str, Any]) -> ResolvedRig:
    catalogue = shipped()
    return resolve(Rig.model_validate(document), catalogue.profiles, catalogue.cables)


def renamed(data: Any, old: str, new: str) -> Any:
    if isinstance(data, dict):
        return {key: renamed(one, old, new) for key, one in data.items()}
    if isinstance(data, list):
        return [renamed(one, old, new) for one in data]
    return new if data == old else data


def exchanged(document: Rig, old: str) -> tuple[ResolvedRig, ResolvedRig, RunSheet]:
    """A rig, the same with one of its devices exchanged for another of its kind, and the sheet between the two."""
    before = found(document)
    made = plan(before)
    data = renamed(document.model_dump(mode="json", exclude={"flags"}), old, "fresh")
    data["flags"] = [flag.model_dump(mode="json") for flag in flags_of(made, plugged=True)]
    after = found(data)
    return before, after, mid_day(carry_through(before, run_sheet(before, made)), after, plan(after))


CASES = [(SWAPPED, "battery"), *((SHIPPED["night-ferry-b"], one) for one in ("body", "transmitter"))]
CASES += [(SHIPPED["night-ferry-a"], one) for one in ("battery", "hand", "motor-iris")]
each = pytest.mark.parametrize(("document", "old"), CASES, ids=lambda value: getattr(value, "id", value))


@each
def test_what_is_needed_is_gathered_before_anything_is_switched_off_or_taken_off(document: Rig, old: str):
    *_, sheet = exchanged(document, old)
    kinds = [step.act.kind for step in sheet.steps]
    last = max((number for number, step in enumerate(sheet.steps) if step.stage == "gather"), default=-1)
    assert "take-off" in kinds
    assert {"sleep", "take-off", "take-out"}.isdisjoint(kinds[: last + 1])


@each
def test_a_lead_that_hangs_at_its_other_end_keeps_its_flag_and_is_not_laid_out_anew(document: Rig, old: str):
    before, after, sheet = exchanged(document, old)
    plugged = {join.tag: join.link for join in plan(before).joins if join.link.is_cable}
    for join in plan(after).joins:
        hung = plugged.get(join.tag)
        if hung is not None and join.link.cable == hung.cable:
            assert f"Lay out {join.tag}" not in " ".join(step.title for step in sheet.steps)
    known = {flag.tag for flag in after.rig.flags}
    assert {join.tag for join in plan(after).joins if join.link.is_cable} <= known, "no lead is flagged anew"


@each
def test_carried_out_it_proves_what_it_did(document: Rig, old: str):
    before, after, sheet = exchanged(document, old)
    world, gone = moved_to(carry_through(before, run_sheet(before, plan(before))), after)
    for step in sheet.steps:
        perform(world, step.act, step.takes_s)
    assert gone
    assert not {*gone} & world.out
    assert plan(after).kept == plan(before).kept
    assert [one for one in plan(after).kept if not prove(world, one).ok] == []


def test_of_a_lead_that_was_passed_on_the_document_keeps_one_flag():
    _, after, _ = exchanged(SHIPPED["night-ferry-b"], "body")
    tags = [flag.tag for flag in kept_flags(after.rig, plan(after)) if flag.cable]
    assert len(tags) == len(set(tags))


def test_a_plate_that_bridges_keeps_the_body_up_while_its_battery_is_exchanged():
    *_, sheet = exchanged(SWAPPED, "battery")
    titles = [step.title for step in sheet.steps]
    assert "Wake Body" not in titles
    assert "Wake Transmitter" in titles, "that hangs on the battery itself"


def test_without_such_a_plate_the_body_starts_again():
    document = SWAPPED.model_copy(update={"devices": [one for one in SWAPPED.devices if one.id != "swap"]})
    *_, sheet = exchanged(document, "battery")
    assert "Wake Body" in [step.title for step in sheet.steps]


def test_it_bridges_a_change_and_no_longer():
    before = found(SWAPPED)
    world = carry_through(before, run_sheet(before, plan(before)))
    assert prove(world, "roll").ok
    perform(world, TakeOff(device="battery"))
    assert world[Waking].is_awake("body")
    world.pass_time(BRIDGED_S - 1)
    assert world[Waking].is_awake("body")
    world.pass_time(2)
    assert not world[Waking].is_awake("body")
    assert not fresh_world(before)[Waking].is_awake("body")


@pytest.mark.parametrize(("changes", "bridged"), [(0, False), (1, True), (2, True)])
def test_where_changes_are_promised_the_plate_is_taken_and_where_not_it_stays_in_its_case(changes: int, bridged: bool):
    """A body takes a battery on its back, or a plate between: that is one thing more to mount."""
    hours = {"kind": "power", "id": "hours", "who": "All", "hours_h": 1, "changes": changes, "weight": 2}
    roll = {**ROLL, "at": {"device": "body", "surface": "record-button"}}
    devices = {"body": "cine-body-network", "swap": "hot-swap-plate", "battery": "plate-battery"}
    made = planned(rig(devices, [], [roll, hours]))
    assert made.kept == ("roll", "hours")
    feeds = {feed.device: feed.from_device for feed in made.feeds}
    assert feeds["body"] == ("swap" if bridged else "battery")
