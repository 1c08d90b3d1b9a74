"""Leads with an adapter at either end: answers that a technician gives, written before they were planned.

A body and a grip with small sockets, a lead that fits neither, and what lies in the bag besides. Common practice, no
source.
"""

from typing import Any

import pytest

from isotact.core.model import CableType, ResolvedRig
from isotact.core.model.rig import Flag
from isotact.core.planning import candidates, flags_of
from isotact.core.planning.tape_flags import known_flag
from isotact.core.questions import what_it_takes
from isotact.core.runsheet import run_sheet
from tests.core.planning.test_feeds import because, planned
from tests.core.planning.test_reach import GIMBAL
from tests.rigs import DATA, RECORD, cable, camera, control, grip, port, rig_of

Bag = list[tuple[CableType, int]]
POWER = {"medium": "power"}


def adapter(key: str, plug: str, socket: str = "usb-c", *carries: dict[str, Any], length_mm: float = 30) -> CableType:
    ends = [{"connector": plug}, {"connector": socket, "gender": "receptacle"}]
    return cable(key, plug, socket, *carries, kind="adapter", ends=ends, length_mm=length_mm)


MICRO, MINI = adapter("micro", "usb-micro-b"), adapter("mini", "usb-mini-b")


def small(bag: Bag, body: str = "usb-micro-b", hand: str = "usb-micro-b", **of_grip: Any) -> ResolvedRig:
    """A body and a grip with small sockets."""
    usb, out = port("usb", body, control("p", "device")), port("out", hand, control("p", "host"))
    return rig_of([camera(ports=[usb]), grip(ports=[out], **of_grip)], bag, [RECORD])


@pytest.mark.parametrize(
    ("bag", "sockets", "kept"),
    [
        ([(DATA, 1), (MICRO, 2)], ("usb-micro-b", "usb-micro-b"), True),
        ([(DATA, 1), (MICRO, 1)], ("usb-micro-b", "usb-micro-b"), False),
        ([(DATA, 1), (MICRO, 1), (MINI, 1)], ("usb-micro-b", "usb-mini-b"), True),
        ([(DATA, 1), (MICRO, 2)], ("usb-micro-b", "usb-mini-b"), False),
        (
            [(DATA, 1), (MICRO, 1), (adapter("dumb", "usb-mini-b", "usb-c", POWER), 1)],
            ("usb-micro-b", "usb-mini-b"),
            False,
        ),
        # An adapter into an adapter nobody trusts: there is one at an end, or none.
        (
            [(DATA, 1), (adapter("first", "usb-mini-b"), 1), (adapter("second", "usb-micro-b", "usb-mini-b"), 1)],
            ("usb-micro-b", "usb-c"),
            False,
        ),
    ],
)
def test_a_lead_with_an_adapter_at_each_end_is_a_way(bag: Bag, sockets: tuple[str, str], kept: bool):
    assert planned(small(bag, *sockets)).kept == (("record",) if kept else ())


def test_the_fewest_adapters_are_taken():
    """A lead that fits with one is not laid with two, and one that fits bare with none."""
    near, own = cable("near", "usb-c", "usb-micro-b"), cable("own", "usb-micro-b", "usb-micro-b")

    def laid(bag: Bag) -> list[tuple[str | None, tuple[str, ...]]]:
        return [(join.link.cable, join.link.adapters) for join in planned(small(bag)).joins]

    assert laid([(DATA, 1), (near, 1), (MICRO, 2)]) == [("near", ("micro",))]
    assert laid([(DATA, 1), (near, 1), (own, 1), (MICRO, 2)]) == [("own", ())]


def test_each_way_to_lay_it_is_there_once():
    listed = [link.id for link in candidates(small([(DATA, 1), (MICRO, 2), (MINI, 2)]))]
    assert listed == ["camera.usb--grip.out~data+micro@a+micro@b"]


def test_both_count_in_the_bag_in_weight_and_in_the_price():
    asked = small([(DATA, 1), (MICRO, 2)], stage="tilt-cage", carrier=GIMBAL)
    made = planned(asked)
    assert made.cables_used == {"data": 1, "micro": 2}
    assert asked.hung_g(made.joins[0].link) == DATA.mass_g + 2 * MICRO.mass_g
    assert [line.count for line in made.cost if line.what == "adapters"] == [2]


@pytest.mark.parametrize(("adapter_mm", "kept"), [(40, ()), (60, ("record",))])
def test_both_are_part_of_the_length(adapter_mm: float, kept: tuple[str, ...]):
    """0.3 m are wanted to the roll arm; the lead has 0.2 m."""
    lead, ends = cable("lead", "usb-c", "usb-c", length_mm=200), adapter("ends", "usb-micro-b", length_mm=adapter_mm)
    assert planned(small([(lead, 1), (ends, 2)], stage="roll-arm", carrier=GIMBAL)).kept == kept


def told(asked: ResolvedRig) -> str:
    return " ".join(line for step in run_sheet(asked, planned(asked)).steps for line in (step.title, *step.detail))


def test_the_sheet_lays_both_out_and_says_which_goes_where():
    says = told(small([(DATA, 1), (MICRO, 1), (MINI, 1)], "usb-micro-b", "usb-mini-b"))
    assert "And micro and mini." in says
    assert "through the USB Micro-B adapter into" in says
    assert "through the USB Mini-B adapter into" in says


def test_of_one_kind_two_are_laid_out():
    assert "And 2 × micro." in told(small([(DATA, 1), (MICRO, 2)]))


@pytest.mark.parametrize(
    ("lies_there", "get", "takes"), [(0, "2 × micro", "Get micro, 2 of them."), (1, "micro", "Get micro.")]
)
def test_the_reason_names_what_is_to_be_got_and_so_does_what_it_takes(lies_there: int, get: str, takes: str):
    asked = small([(DATA, 1), (MICRO, lies_there)])
    made = planned(asked)
    assert because(made, "record").endswith("“data” would, with an adapter at each end.")
    assert made.unmet[0].ways_out == (f"Get one of: {get}, for “data”.",)
    assert [one.says for one in what_it_takes(asked, {}, made, "record").takes] == [takes]


def test_a_flag_stays_with_the_lead_and_both_its_adapters():
    asked = small([(DATA, 1), (MICRO, 1), (MINI, 1)], "usb-micro-b", "usb-mini-b")
    made = planned(asked)
    [flag] = flags_of(made)
    assert sorted(flag.adapters) == ["micro", "mini"]
    flagged = asked.rig.model_copy(update={"flags": [flag]})
    assert known_flag(flagged, made.joins[0].link) == flag


@pytest.mark.parametrize(("old", "now"), [(None, []), ("micro", ["micro"])])
def test_a_flag_of_before_leads_bore_two_is_read(old: str | None, now: list[str]):
    ends = {"a": {"device": "one", "port": "usb"}, "b": {"device": "two", "port": "usb"}}
    assert Flag.model_validate({"tag": "A1", **ends, "cable": "data", "adapter": old}).adapters == now
