"""A proof holds for what it was made with: what an edit touches has to be proven again, and nothing else."""

from collections.abc import Callable
from typing import Any

import pytest

from isotact.core.day import lapsed
from isotact.core.model.variants import with_devices, with_profile
from isotact.core.questions import BuiltRig
from tests.corpus import Drawn, every
from tests.edits import edited
from tests.rigs import Carried, carried, demo

Change = Callable[[dict[str, Any]], object]


def stood(done: Carried) -> BuiltRig:
    return BuiltRig(done.rig, done.plan, done.conditions)


def after(change: Change) -> dict[str, tuple[str, ...]]:
    """What spoils the proofs of the demo rig once it is changed."""
    then, now = stood(Carried.out(demo())), stood(Carried.out(demo(change)))
    return {key: lapsed(then, now, key) for key in now.plan.kept}


def spoilt(change: Change) -> dict[str, tuple[str, ...]]:
    return {key: says for key, says in after(change).items() if says}


def device(data: dict[str, Any], key: str) -> dict[str, Any]:
    return next(one for one in data["devices"] if one["id"] == key)


def test_nothing_spoils_a_proof_while_nothing_changes():
    assert spoilt(lambda data: None) == {}


def test_who_it_is_for_what_it_weighs_and_what_is_dropped_beside_it_spoil_no_proof():
    def change(data: dict[str, Any]) -> None:
        data["promises"] = [one for one in data["promises"] if one["id"] != "iso"]
        for one in data["promises"]:
            one.update(who="Somebody else", weight=one["weight"] + 1)

    assert spoilt(change) == {}


def test_a_stricter_limit_has_to_be_proven():
    def change(data: dict[str, Any]) -> None:
        next(one for one in data["promises"] if one["kind"] == "picture")["within_ms"] = 400

    assert list(spoilt(change).values()) == [("How well it has to work has changed since.",)]


def test_another_firmware_spoils_what_goes_through_that_device():
    def older(data: dict[str, Any]) -> None:
        device(data, "transmitter")["firmware"] = "1.2"

    assert spoilt(older) == {"picture": ("Quillon link had firmware 1.3 when it was proven, and has 1.2 now.",)}


def test_to_learn_a_firmware_or_a_tag_spoils_nothing():
    def learnt(data: dict[str, Any]) -> None:
        device(data, "phone")["tag"] = "P-7"

    assert spoilt(learnt) == {}


def test_another_cable_spoils_what_runs_over_it_and_nothing_else():
    def without(data: dict[str, Any]) -> None:
        data["bag"] = [one for one in data["bag"] if one["cable"] != "usb-c-usb-c-data-30"]

    says = spoilt(without)
    assert set(says) == {"roll", "focus"}
    cables = "USB-C to USB-C, data, 0.6 m now, USB-C to USB-C, data, 0.3 m when it was proven."
    assert set(says.values()) == {(f"B2 is another cable: {cables}",)}


def test_another_way_spoils_what_takes_it():
    """Without record the body may be in Stills mode, and all control comes over the transmitter."""
    says = spoilt(lambda data: data["promises"].pop(0))
    assert says["iso"] == ("It was not planned when it was proven.",)
    assert any("joined with Quillon link" in line for line in says["focus"])


@pytest.mark.parametrize("name", ["night-ferry-a", "night-ferry-c"])
def test_a_plan_holds_against_itself(name: str):
    one = stood(carried(name))
    assert [key for key in one.plan.kept if lapsed(one, one, key)] == []


@every("small", 40)
def test_all_that_a_proof_which_holds_rests_on_stood_where_it_was_proven(drawn: Drawn):
    then, now = drawn.done, Carried.out(edited(drawn.chance("an edit"), drawn.rig))
    for key in now.plan.kept:
        if key in then.plan.kept and not lapsed(stood(then), stood(now), key):
            wanted = [one for one in now.conditions if key in one.promises]
            assert [str(one.key) for one in wanted if not one.holds(then.world)] == []


def test_another_kind_of_device_or_one_described_otherwise_spoils_what_goes_through_it():
    """Where nothing that the promise rests on tells the two apart: only that it is another."""
    then = stood(Carried.out(demo()))
    rig = then.rig
    other = with_profile(rig["transmitter"], summary="The later kind.")
    now = stood(Carried.out(with_devices(rig, [other])))
    says = {key: lapsed(then, now, key) for key in now.plan.kept}
    another = "Quillon link is another device than the one that it was proven with, or was described otherwise."
    assert {key: lines for key, lines in says.items() if lines} == {"picture": (another,)}
