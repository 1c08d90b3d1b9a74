"""Power arithmetic against published figures and worked examples.

Sources: IEC 60050 (watts = volts x amperes, watt-hours = watts x hours). Battery transport example of 49 CFR
175.10: 14.8 V x 6.6 Ah = 97.68 Wh, below 100 Wh. USB Power Delivery fixed supply objects as decoded by usbpdpy 0.4:
0001912C is 5 V 3 A. USB 2.0 section 7.2.2 gives 4.75-5.25 V at an upstream connector (M: from memory).
The four-cell pack of 14.8 V and 3,400 mAh holding about 50 Wh, and the phone link that runs about 3.5 h, are
common practice, no source.
"""

from random import Random

import pytest
from scipy.optimize import linprog

from isotact.core.calc.power import changed_over
from isotact.core.planning import candidates, plan
from tests.rigs import cable as cable_of
from tests.rigs import camera, control, grip, port, power, promise, rig_of

RUN = promise("record", "grip", "button")


def hours_of(energy_wh: float, usable: float, draw_w: float) -> float | None:
    battery = {"name": "pack", "energy_wh": energy_wh, "usable": usable}
    rig = rig_of(
        [camera(), grip(power={"draw_w": draw_w, "inner_battery": battery})],
        [(cable_of("data", "usb-c", "usb-c"), 1)],
        [RUN],
    )
    return next(feed.hours_h for feed in plan(rig).feeds if feed.device == "grip")


@pytest.mark.parametrize(
    ("volts", "amp_hours", "watts", "hours"),
    [(14.8, 6.6, 24.42, 4.0), (14.8, 3.4, 12.58, 4.0), (7.2, 2.28, 5.472, 3.0)],
)
def test_hours_are_watt_hours_over_watts(volts: float, amp_hours: float, watts: float, hours: float):
    assert hours_of(volts * amp_hours, 1.0, watts) == pytest.approx(hours, abs=0.005)


def test_the_shipped_phone_link_runs_about_three_and_a_half_hours(catalogue):
    power = catalogue.profiles["phone-link-transmitter"].power
    assert power.inner_battery.energy_wh * power.inner_battery.usable / power.draw_w == pytest.approx(3.5, abs=0.1)


def test_every_shipped_pack_that_travels_is_below_the_airline_limit(catalogue):
    packs = {
        key: profile.power.inner_battery.energy_wh / profile.power.inner_battery.packs
        for key, profile in catalogue.profiles.items()
        if profile.power and profile.power.inner_battery
    }
    assert packs
    assert all(energy_wh < 100 for energy_wh in packs.values())


def decode_fixed_supply(word: int) -> tuple[float, float]:
    """USB PD fixed supply object: bits 19..10 in 50 mV, bits 9..0 in 10 mA."""
    return ((word >> 10) & 0x3FF) * 0.05, (word & 0x3FF) * 0.01


@pytest.mark.parametrize(("word", "volts", "amps", "feeds"), [(0x0001912C, 5, 3, True), (0x0002D12C, 9, 3, False), (0x0004B12C, 15, 3, False)])  # fmt: skip
def test_only_the_five_volt_offer_suits_a_plain_usb_port(word: int, volts: float, amps: float, feeds: bool):
    assert decode_fixed_supply(word) == (pytest.approx(volts), pytest.approx(amps))
    outlet = {**power("out", volts), "max_a": amps}
    inlet = {"kind": "power", "flow": "in", "min_v": 4.75, "max_v": 5.25}
    body = camera(ports=[port("usb", "usb-c", control("p", "device"), inlet)])
    host = grip(ports=[port("out", "usb-c", control("p", "host"), outlet)])
    both = cable_of("both", "usb-c", "usb-c", {"medium": "usb-data"}, {"medium": "power", "max_a": 3})
    kinds = {use.kind for link in candidates(rig_of([body, host], [(both, 1)], [RUN])) for use in link.uses}
    assert ("power" in kinds) is feeds


@pytest.mark.parametrize("seed", range(60))
def test_when_to_change_over_is_what_linear_programming_finds(seed: int):
    """scipy's HiGHS on the most of x + y with each battery used up to its whole at the most."""
    chance = Random(seed)
    names = "abcd"[: chance.randint(1, 4)]
    first, then = ({one: chance.choice([0.0, 0.1, 0.25, 0.4, 0.9]) for one in names} for _ in range(2))
    first["a"], then[names[-1]] = first["a"] or 0.3, then[names[-1]] or 0.2
    found = linprog([-1, -1], A_ub=[[first[one], then[one]] for one in names], b_ub=[1] * len(names))
    after_h, lasts_h = changed_over(first, then)
    assert lasts_h == pytest.approx(-found.fun)
    assert all(first[one] * after_h + then[one] * (lasts_h - after_h) <= 1 + 1e-9 for one in names)


def test_two_batteries_of_which_each_lies_idle_in_turn():
    # By hand: a body of 2 h on its own battery, then on a grip that carries both for 2.5 h and itself alone for 5 h:
    # x / 2 <= 1 and x / 5 + y / 2.5 <= 1 give x = 2, y = 1.5.
    assert changed_over({"body": 1 / 2, "grip": 1 / 5}, {"grip": 1 / 2.5}) == pytest.approx((2, 3.5))
