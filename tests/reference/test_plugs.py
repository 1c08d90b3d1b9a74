"""Outlines of plugs against the published measures that they name.

All values are quoted from memory of the standards named; where a measure has a tolerance, the nominal one stands here.
What circular control and power connectors measure no standard says that one may name here: of them only the number of
contacts is held against their names.
"""

import re

import pytest

from isotact.core.model.vocabulary import OURS
from isotact.core.telling.outlines import NOT_PUBLISHED, OUTLINES, bounds

PUBLISHED = {
    "usb-c": (8.25, 2.40, "USB Type-C cable and connector specification 2.0, plug shell"),
    "usb-micro-b": (6.85, 1.80, "Universal Serial Bus Micro-USB specification 1.01, Micro-B plug shell"),
    "usb-mini-b": (6.80, 3.10, "USB 2.0, Mini-B engineering change notice, plug shell"),
    "usb-a": (12.00, 4.50, "USB 2.0, 6.5, series A plug"),
    "hdmi-a": (13.90, 4.45, "HDMI 1.4b, type A plug shell"),
    "hdmi-c": (10.42, 2.42, "HDMI 1.4b, type C plug shell"),
    "hdmi-d": (5.83, 2.20, "HDMI 1.4b, type D plug shell"),
    "jack-2-5-3": (2.5, 2.5, "IEC 60603-11"),
    "jack-2-5-4": (2.5, 2.5, "IEC 60603-11"),
    "jack-3-5-3": (3.5, 3.5, "IEC 60603-11"),
    "barrel": (5.5, 5.5, "EIAJ RC-5320A"),
    "power-4": (19.0, 19.0, "IEC 61076-2-103, circular connector of 19 mm (XLR)"),
    "pwm-3": (7.62, 2.54, "pin header of 0.1 in, one row of three"),
}


@pytest.mark.parametrize("key", sorted(PUBLISHED))
def test_a_plug_is_as_wide_and_as_high_as_published(key: str):
    width, height, _ = PUBLISHED[key]
    assert OUTLINES[key].width_mm == pytest.approx(width, abs=0.05)
    assert OUTLINES[key].height_mm == pytest.approx(height, abs=0.05)


@pytest.mark.parametrize(
    ("key", "contacts"),
    [
        ("usb-c", 24),  # USB Type-C: A1 to A12 and B1 to B12
        ("usb-micro-b", 5),
        ("usb-mini-b", 5),
        ("usb-a", 4),  # USB 2.0
        ("hdmi-a", 19),
        ("hdmi-c", 19),
        ("hdmi-d", 19),
        ("rj45", 8),  # IEC 60603-7: 8P8C
        ("bnc", 1),  # IEC 61169-8: one inner conductor
    ],
)
def test_it_has_as_many_contacts_as_published(key: str, contacts: int):
    assert OUTLINES[key].contacts == contacts


COUNTED = [key for key, one in OURS.connectors.items() if re.match(r"\d+-pin ", one.name) and key in OUTLINES]


@pytest.mark.parametrize("key", COUNTED)
def test_what_is_called_by_its_pins_has_so_many(key: str):
    assert OUTLINES[key].contacts == int(OURS.connectors[key].name.split("-")[0])


@pytest.mark.parametrize("key", ["jack-2-5-3", "jack-2-5-4", "jack-3-5-3"])
def test_a_jack_has_a_ring_between_each_two_of_its_poles(key: str):
    """IEC 60603-11: two rings of insulation on a plug of three poles, three on one of four."""
    poles = int(OURS.connectors[key].name.rpartition(", ")[2].split("-")[0])
    assert sum(1 for shape in OUTLINES[key].seen_aside if shape.part == "contact") == poles - 1


def test_the_three_hdmi_plugs_are_told_apart_by_their_size_and_the_fourth_look_alike_is_usb():
    by_width = sorted(("hdmi-a", "hdmi-c", "hdmi-d"), key=lambda key: OUTLINES[key].width_mm)
    assert by_width == ["hdmi-d", "hdmi-c", "hdmi-a"]
    assert OUTLINES["usb-micro-b"].width_mm - OUTLINES["hdmi-d"].width_mm == pytest.approx(1.02, abs=0.05)


def test_a_gear_of_0_8_module_meshes_on_the_circle_of_its_teeth():
    """ISO 54 and gear geometry: pitch diameter is module times teeth, the tip a module outside."""
    teeth = (len(OUTLINES["gear-0-8"].shapes[0].corners)) // 4
    left, _, right, _ = bounds(OUTLINES["gear-0-8"].shapes)
    assert right - left == pytest.approx(0.8 * (teeth + 2), abs=0.2)


def test_every_outline_names_where_its_measures_are_from():
    unsourced = {key for key, one in OUTLINES.items() if one.source == NOT_PUBLISHED}
    assert not unsourced & PUBLISHED.keys()
    assert all(one.source for one in OUTLINES.values())
