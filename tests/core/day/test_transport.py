"""Batteries on a flight, against the limits of the IATA Dangerous Goods Regulations, table 2.3.A (from memory)."""

import pytest

from isotact.catalogue import shipped
from isotact.core.day.transport import transport
from isotact.core.model import Kit

KIT = {"format": "isotact/kit", "version": 1, "id": "k", "name": "K"}


def of(**more: object) -> dict[str, tuple[int, str]]:
    rows = transport(Kit.model_validate({**KIT, **more}), shipped().profiles)
    return {one.name: (one.count, one.carry) for one in rows}


@pytest.mark.parametrize(
    ("watt_hours", "carry"), [(98, "cabin"), (100, "cabin"), (101, "ask"), (160, "ask"), (161, "cargo")]
)
def test_limits_are_those_that_carriers_keep(watt_hours: float, carry: str):
    rows = of(packs=[{"tag": "P-1", "battery": "plate-battery", "energy_wh": watt_hours}])
    assert rows == {"Spare: Plate battery, 14.4 V": (1, carry)}


def test_of_a_pair_each_battery_counts_by_itself():
    # Both of the ring's hold 196 Wh together: two of 98 Wh.
    rows = of(devices=[{"profile": "gimbal-two-handed-ring", "count": 1}])
    assert list(rows.values()) == [(2, "cabin")]


def test_a_pack_that_is_a_device_of_the_kit_counts_once():
    rows = of(
        devices=[{"profile": "plate-battery", "count": 1, "tags": ["P-1"]}],
        packs=[{"tag": "P-1", "battery": "plate-battery"}],
    )
    assert sum(count for count, _ in rows.values()) == 1


def test_without_a_kit_there_is_nothing_to_fly():
    assert transport(None, shipped().profiles) == ()
