"""One kit for the rigs of a day: what is short is found, split so that least is lost, and asked for."""

from collections import Counter
from itertools import product

import pytest

from isotact.catalogue import shipped
from isotact.core.day import Day, day_plan, plan_day
from isotact.core.model import Kit, ResolvedRig, resolve
from isotact.core.model.small_parts import SMALL_PARTS
from isotact.core.planning import Watch, plan
from isotact.examples import examples

FOUR = next(one for one in examples() if one.number == 20)


def rigs(count: int = 4) -> list[ResolvedRig]:
    catalogue = shipped()
    return [resolve(rig, catalogue.profiles, catalogue.cables) for rig in FOUR.rigs[:count]]


def kit(**changes: int) -> Kit:
    assert FOUR.kit
    counts = {key.replace("_", "-"): count for key, count in changes.items()}
    cables = [item.model_copy(update={"count": counts.get(item.cable, item.count)}) for item in FOUR.kit.cables]
    return FOUR.kit.model_copy(update={"cables": cables})


def weight(day: Day) -> int:
    weights = {rig.rig.id: {p.id: p.weight for p in rig.rig.promises} for rig in rigs()}
    return sum(weights[one.rig][key] for one in day.rigs for key in one.plan.kept)


def test_together_they_never_lay_more_than_the_kit_has():
    day = plan_day(rigs(), kit())
    total: Counter[str] = Counter()
    for one in day.rigs:
        total.update(one.plan.cables_used)
    have = {item.cable: item.count for item in kit().cables}
    assert all(count <= have[key] for key, count in total.items())
    assert {key: have[key] - total[key] for key in have if have[key] > total[key]} == day.spare


def test_the_rig_that_matters_least_gives_way():
    day = plan_day(rigs(), kit())
    assert day.status == "proven-optimal"
    assert [len(one.lost) for one in day.rigs] == [0, 0, 0, 3]
    assert [one.alone for one in day.rigs] == [("roll", "focus", "picture")] * 4


def test_the_split_is_as_good_as_trying_every_split():
    """Two cameras of like cables: every way to deal the pieces out, each rig planned alone with its share."""
    two, small = rigs(2), kit(usb_c_usb_c_data_30=1, usb_c_usb_c_data_60=0, hdmi_d_hdmi_c_30=1)
    best = 0
    for data, hdmi in product(range(2), range(2)):
        shares = [{"usb-c-usb-c-data-30": data, "hdmi-d-hdmi-c-30": hdmi}, {"usb-c-usb-c-data-30": 1 - data, "hdmi-d-hdmi-c-30": 1 - hdmi}]  # fmt: skip
        kept = 0
        for rig, share in zip(two, shares, strict=True):
            bag = [{"cable": key, "count": count} for key, count in share.items()]
            document = type(rig.rig).model_validate({**rig.rig.model_dump(mode="json"), "bag": bag})
            made = plan(ResolvedRig(document, rig.cables, rig.devices))
            kept += sum(p.weight for p in rig.rig.promises if p.id in made.kept)
        best = max(best, kept)
    assert weight(plan_day(two, small)) == best


def gains(day: Day) -> tuple[int, int, int]:
    """Pins obeyed, weight kept, cost."""
    plans = [one.plan for one in day.rigs]
    pins = sum(pin.obeyed for made in plans for pin in made.pins)
    return pins, weight(day), sum(line.points for made in plans for line in made.cost)


@pytest.mark.parametrize("data_60", [0, 1, 2, 4])
@pytest.mark.parametrize("pinned", [False, True])
def test_that_there_is_enough_for_all_makes_no_difference_to_what_is_best(
    data_60: int, pinned: bool, monkeypatch: pytest.MonkeyPatch
):
    """Where nothing need be given up only the cost is looked at: the same must come out of looking at everything."""
    some, small = rigs(), kit(usb_c_usb_c_data_30=2, usb_c_usb_c_data_60=data_60, hdmi_c_hdmi_c_30=2)
    if pinned:
        grip, cable = {"device": "grip", "port": "camera"}, "usb-c-usb-c-data-30"
        pin = {"kind": "cable", "cable": cable, "a": grip, "b": {"device": "body", "port": "usb"}}
        documents = [type(rig.rig).model_validate({**rig.rig.model_dump(mode="json"), "pins": [pin]}) for rig in some]
        some = [ResolvedRig(document, rig.cables, rig.devices) for document, rig in zip(documents, some, strict=True)]
    day = plan_day(some, small)
    monkeypatch.setattr(day_plan, "_lacking", lambda *_: None)
    whole = plan_day(some, small)
    assert day.status == whole.status == "proven-optimal"
    assert gains(day) == gains(whole)


def test_what_is_short_is_named_and_asked_for_and_with_it_nothing_is_lost():
    day = plan_day(rigs(), kit())
    assert [one.says for one in day.shortages if one.kind == "cable"] == [
        "C camera, D camera want 2 of mini HDMI to mini HDMI, 0.3 m between them; the kit has 1.",
        "A camera, B camera, C camera, D camera want 4 of USB-C to USB-C, data, 0.3 m between them; the kit has 2.",
    ]
    asks = {one.item: one.count for one in day.asks if one.kind == "cable"}
    assert asks == {"usb-c-usb-c-data-30": 1, "hdmi-c-hdmi-c-30": 1} or sum(asks.values()) == 2
    have = {item.cable: item.count for item in kit().cables}
    more = kit(**{key.replace("-", "_"): have[key] + count for key, count in asks.items()})
    assert all(not one.lost for one in plan_day(rigs(), more).rigs)


def test_devices_are_counted_against_the_kit():
    day = plan_day(rigs(), kit())
    assert [one.says for one in day.shortages if one.kind == "device"] == [
        "The rigs hold 4 of Phone with the link app; the kit has 3."
    ]
    assert [one.says for one in day.asks if one.kind == "device"] == ["1 more of Phone with the link app"]


def test_with_enough_of_everything_each_rig_has_the_plan_it_would_have_alone():
    plenty = kit(usb_c_usb_c_data_30=9, hdmi_d_hdmi_c_30=9, hdmi_c_hdmi_c_30=9)
    day = plan_day(rigs(), plenty)
    assert day.asks == () or all(one.kind == "device" for one in day.asks)
    assert all(one.plan.kept == one.alone for one in day.rigs)


def test_what_no_share_of_the_kit_would_keep_is_asked_of_the_catalogue():
    bare = kit(usb_c_usb_c_data_30=0, usb_c_usb_c_data_60=0)
    day = plan_day(rigs(1), bare, profiles=shipped().profiles)
    assert [(one.promise, one.says.split(":")[0]) for one in day.wishes] == [
        ("roll", "A camera, record from the record button of Grip"),
        ("focus", "A camera, focus from the focus wheel of Grip"),
    ]
    assert all("Get USB-C to" in one.says for one in day.wishes)
    assert plan_day(rigs(1), kit(), profiles=shipped().profiles).wishes == ()


def test_a_search_that_is_stopped_says_that_it_is_only_the_best_so_far():
    watch = Watch()
    watch.stop()
    day = plan_day(rigs(), kit(), watch=watch)
    assert day.status != "proven-optimal"


@pytest.mark.parametrize("count", [1, 2, 3])
def test_the_search_tells_where_it_is(count: int):
    watch = Watch()
    plan_day(rigs(count), kit(), watch=watch)
    assert watch.of == count
    assert watch.stage


def small_parts(**counts: int) -> Kit:
    parts = [{"part": key.replace("_", "-"), "count": count} for key, count in counts.items()]
    return Kit.model_validate(kit().model_dump() | {"parts": parts})


def test_small_parts_that_the_rigs_want_between_them_are_asked_for():
    """Every rig of the four wants a camera screw and a cold shoe; of tools one a rig."""
    wanted = [fixing.words for rig in rigs(2) for placed in rig.devices.values() for fixing in placed.profile.fixed_by]
    assert wanted.count("a 1/4-20 screw (4 to 5.5 mm out)") + wanted.count("a 1/4-20 screw (4 to 5 mm out)") == 2
    plenty = dict.fromkeys(SMALL_PARTS, 9)
    assert [one for one in plan_day(rigs(2), small_parts(**plenty)).shortages if one.kind == "part"] == []
    day = plan_day(rigs(2), small_parts(**{**plenty, "screw-1-4-5": 1}))
    [short] = [one for one in day.shortages if one.kind == "part"]
    assert (short.item, short.wanted - short.have) == ("screw-1-4-5", 1)
    assert short.rigs
    assert "the kit has" in short.says
    [ask] = [one for one in day.asks if one.kind == "part"]
    assert (ask.item, ask.count) == ("screw-1-4-5", 1)


def test_a_kit_of_which_nobody_told_the_small_parts_asks_for_none():
    assert not any(one.kind == "part" for one in plan_day(rigs(2), kit()).shortages)
