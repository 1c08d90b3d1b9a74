"""The feed tree: every device below what feeds it, volts by the circuit, limits, curves, and what is said of them."""

from typing import Any

import pytest

from isotact.core.model import ResolvedRig, Rig, resolve
from isotact.core.planning import plan
from isotact.core.questions.feed_answers import FeedTree, TreeBattery, TreeLead
from isotact.core.questions.feed_tree import feed_tree
from tests.rigs import SHIPPED, carried, device_of


def tree_of(catalogue, key: str, **changed: Any) -> FeedTree:
    """The tree of a shipped rig with fields of its document changed; `devices`: fields by device."""
    data = SHIPPED[key].model_dump(mode="json")
    for device, fields in changed.pop("devices", {}).items():
        device_of(data, device).update(fields)
    rig = resolve(Rig.model_validate(data | changed), catalogue.profiles, catalogue.cables)
    return feed_tree(rig, plan(rig))


def battery(tree: FeedTree, device: str) -> TreeBattery:
    return next(one for one in tree.batteries if one.device == device)


def lead_into(tree: FeedTree, device: str) -> TreeLead:
    return next(one for one in tree.leads if one.taker == device)


@pytest.mark.parametrize("key", SHIPPED)
def test_every_shipped_rig_has_a_tree_that_adds_up(key: str):
    stood = carried(key)
    tree = feed_tree(stood.rig, stood.plan)
    seen: set[str] = set()
    for one in tree.devices:
        assert one.giver is None or one.giver in seen
        seen.add(one.device)
        assert all(one.at.values()), one.name
        rule, end = one.at["rule"], one.at["end"]
        if rule.volts is not None and end.volts is not None:
            assert end.volts <= rule.volts + 1e-6
        if one.lowest_v is not None and end.volts is not None:
            assert end.volts >= one.lowest_v, "a plan that browns out at the end of a charge"
    fed = {feed.device for feed in stood.plan.feeds if feed.source != "none-needed"}
    assert seen == fed
    assert all(0 <= lead.share <= 1 for lead in tree.leads)
    for one in tree.batteries:
        volts = [at.volts for at in one.curve]
        assert volts == sorted(volts, reverse=True)
        if one.hours_h is not None and one.by_watts_h is not None:
            # What is lost in leads, outlets and cells: little, and never less than nothing.
            assert 0.75 * one.by_watts_h < one.hours_h <= one.by_watts_h + 1e-6


def test_the_battery_that_is_empty_first_comes_first_and_is_the_clock(catalogue):
    tree = tree_of(catalogue, "night-ferry-a")
    assert [one.first for one in tree.batteries] == [True] + [False] * (len(tree.batteries) - 1)
    assert tree.batteries[0].device == "battery"
    assert "Plate battery is empty first" in tree.says
    assert any(one.kind == "clock" and one.about == ("battery",) for one in tree.remarks)


def test_the_lead_nearest_to_its_limit_is_named_with_its_number(catalogue):
    tree = tree_of(catalogue, "night-ferry-a")
    closest = [one for one in tree.leads if one.closest]
    # Three motors that start with 11 W each: 33 W of the 34.5 that 3 A are at 11.5 V.
    assert [one.taker for one in closest] == ["motor-focus"]
    assert closest[0].share == pytest.approx(33 / 34.5, abs=0.01)
    assert "MOTORS" in closest[0].limited_by
    assert any(one.kind == "near" and "96 %" in one.says for one in tree.remarks)


def test_a_lead_loses_its_ohms_times_its_amps(catalogue):
    tree = tree_of(catalogue, "thin-tap")
    lead = lead_into(tree, "driver")
    # 1.5 m of AWG 26 there and back, and two plugs: 3 m x 133.9 mohm + 2 x 10 mohm.
    assert lead.ohm == pytest.approx(3 * 0.1339 + 0.02, rel=0.01)
    driver, pack = (next(one for one in tree.devices if one.device == key) for key in ("driver", "battery"))
    rule = driver.at["rule"]
    assert pack.at["rule"].volts - rule.volts == pytest.approx(lead.ohm * rule.amps, abs=0.002)


def test_cold_and_age_take_hours_and_volts_and_the_why_says_so(catalogue):
    warm = battery(tree_of(catalogue, "thin-tap"), "battery")
    cold = battery(tree_of(catalogue, "thin-tap", energy={"temperature_c": -10.0}), "battery")
    old = battery(tree_of(catalogue, "thin-tap", devices={"battery": {"health_percent": 80}}), "battery")
    assert cold.hours_h < 0.82 * warm.hours_h
    assert old.hours_h < 0.81 * warm.hours_h
    assert cold.curve[-1].volts < warm.curve[-1].volts
    assert any("-10 °C" in words for words in cold.why.also)
    assert any("80 %" in words for words in old.why.also)


def test_a_reserve_ends_the_curve_sooner(catalogue):
    whole = battery(tree_of(catalogue, "thin-tap"), "battery")
    kept = battery(tree_of(catalogue, "thin-tap", energy={"reserve_percent": 30}), "battery")
    assert whole.curve[-1].percent == pytest.approx(15)
    assert kept.curve[-1].percent == pytest.approx(30)
    assert kept.hours_h < whole.hours_h


def test_a_body_that_is_not_full_charges_out_of_the_grip_and_it_says_by_how_much_sooner(catalogue):
    full = tree_of(catalogue, "night-ferry-b")
    low = tree_of(catalogue, "night-ferry-b", devices={"body": {"charge_percent": 40}})
    assert not any(one.kind == "charges" for one in full.remarks)
    said = next(one for one in low.remarks if one.kind == "charges")
    assert "Brindle 2 charges out of Tansy grip: 2 W" in said.says
    assert "sooner" in said.says
    assert battery(low, "gimbal").hours_h < battery(full, "gimbal").hours_h


def test_an_outlet_falls_asleep_under_its_least_load(catalogue):
    profiles = dict(catalogue.profiles)
    bank = profiles["usb-power-bank"].model_dump(mode="json")
    for port in bank["ports"]:
        port["roles"][0]["least_w"] = 50
    profiles["usb-power-bank"] = type(profiles["usb-power-bank"]).model_validate(bank)
    rig: ResolvedRig = resolve(SHIPPED["single-port-bank"], profiles, catalogue.cables)
    tree = feed_tree(rig, plan(rig))
    assert any(one.kind == "asleep" and "falls asleep below 50 W" in one.says for one in tree.remarks)


def test_a_lead_of_which_nobody_said_how_thick_says_what_it_was_taken_for(catalogue):
    cables = dict(catalogue.cables)
    cables["tap-power-2-thin-150"] = cables["tap-power-2-thin-150"].model_copy(update={"gauge_awg": None})
    rig = resolve(SHIPPED["thin-tap"], catalogue.profiles, cables)
    tree = feed_tree(rig, plan(rig))
    assert "AWG 24" in (lead_into(tree, "driver").assumed or "")
    assert any(one.kind == "unknown" and "AWG 24" in one.says for one in tree.remarks)


def test_minutes_from_the_lamp_to_dark(catalogue):
    grip = battery(tree_of(catalogue, "night-ferry-b"), "gimbal")
    # From 20 to 10 per cent of 35 Wh at some 11.3 W: about 18 minutes.
    assert grip.lamp_left_min == pytest.approx(60 * 0.1 * 35 / grip.watts, abs=2)
    assert grip.lamp_h + grip.lamp_left_min / 60 == pytest.approx(grip.hours_h, abs=0.01)


def test_a_battery_that_cannot_feed_what_hangs_on_it_lasts_no_time_and_says_so(catalogue):
    profiles = dict(catalogue.profiles)
    hand = profiles["hand-unit"].model_dump(mode="json")
    hand["power"]["inner_battery"]["inner_ohm"] = 60
    profiles["hand-unit"] = type(profiles["hand-unit"]).model_validate(hand)
    rig = resolve(SHIPPED["thin-tap"], profiles, catalogue.cables)
    one = battery(feed_tree(rig, plan(rig)), "hand")
    assert (one.hours_h, one.stops) == (0.0, "It cannot feed what hangs on it.")
