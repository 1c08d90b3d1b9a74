"""Where everything draws from: feeds taken before own batteries, loads that add up, feeds that brown out."""

from collections import defaultdict
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from math import inf

Rank = tuple[float, float, int]
"""The less of two carries: volts that are higher count as less."""
_NONE: Mapping[str, float] = {}


@dataclass(frozen=True)
class Lead:
    """A lead that would feed `taker` from `giver`, up to `limit_w` for good and `peak_w` for a moment.

    Of several that are live a device runs from the one of the lowest `rank`. `light`: it stands electronics only.
    """

    id: str
    giver: str
    taker: str
    limit_w: float
    peak_w: float = inf
    rank: Rank = (0.0, 0.0, 0)
    light: bool = False


@dataclass(frozen=True)
class Supply:
    """What came of it. `fed` holds, per device that has power, the lead that it runs from.

    None stands for its own battery, or for what needs no power at all.
    """

    draws: Mapping[str, float | None]
    fed: Mapping[str, Lead | None]

    def has_power(self, device: str) -> bool:
        return device in self.fed

    def root(self, device: str) -> str | None:
        """The device whose battery it all comes from, or None without power."""
        while device in self.fed:
            lead = self.fed[device]
            if lead is None:
                return device
            device = lead.giver
        return None

    def roots(self) -> Mapping[str, float]:
        """Battery -> the watts that all it feeds draw together."""
        return self._roots

    @cached_property
    def _roots(self) -> dict[str, float]:
        loads: dict[str, float] = defaultdict(float)
        for device in self.fed:
            root, draw = self.root(device), self.draws.get(device)
            if root is not None and draw is not None:
                loads[root] += draw
        return dict(loads)


def supply(
    draws: Mapping[str, float | None],
    batteries: Collection[str],
    leads: Sequence[Lead],
    peaks: Mapping[str, float] = _NONE,
    motors: Collection[str] = (),
    stalls: Mapping[str, float] = _NONE,
) -> Supply:
    """Settle who runs from what.

    `draws` are watts, None for what needs no power; a device left out takes none from anywhere. `peaks` are the watts
    of a moment, where they are more, and `stalls` those that a device draws on top of them while it is held: of all
    that hang on a lead one stalls at a time, as a driver runs its motors to their ends one after the other (common
    practice, no source). `motors` are what an outlet for electronics only does not stand. A device runs from the best
    of its live leads before its own battery. A lead that would carry more than it can browns out: it is taken away, and
    all is settled again, so that what it carried falls back on another lead, a battery, or nothing.
    """
    live = sorted(leads, key=lambda lead: lead.rank)
    while True:
        fed = _fed(draws, batteries, live)
        over = _overloaded(draws, fed, peaks, motors, stalls)
        if not over:
            return Supply(draws, fed)
        live = [lead for lead in live if lead.id not in over]


def _fed(
    draws: Mapping[str, float | None], batteries: Collection[str], leads: Sequence[Lead]
) -> dict[str, Lead | None]:
    """Grown from the batteries outwards, so that a ring of leads with no battery in it feeds nobody."""
    # Whoever has a battery is up to begin with; feeds take over from it afterwards.
    powered = {device for device in batteries if device in draws}
    powered |= {device for device, draw in draws.items() if draw is None}
    fed: dict[str, Lead | None] = dict.fromkeys(powered)
    grown = True
    while grown:
        grown = False
        for lead in leads:
            if lead.giver in fed and lead.taker not in fed and lead.taker in draws:
                fed[lead.taker] = lead
                grown = True
    for lead in leads:  # the best first: whoever got power sooner by another, or runs from its own, takes this one
        now = fed.get(lead.taker)
        takes = lead.taker in fed and draws[lead.taker] is not None and (now is None or lead.rank < now.rank)
        if takes and lead.giver in fed and not _leads_to(fed, lead.giver, lead.taker):
            fed[lead.taker] = lead
    return fed


def _leads_to(fed: Mapping[str, Lead | None], device: str, goal: str) -> bool:
    """Whether `device` itself runs from `goal`."""
    lead: Lead | None
    while (lead := fed.get(device)) is not None:
        device = lead.giver
        if device == goal:
            return True
    return device == goal


def _overloaded(
    draws: Mapping[str, float | None],
    fed: Mapping[str, Lead | None],
    peaks: Mapping[str, float],
    motors: Collection[str],
    stalls: Mapping[str, float],
) -> set[str]:
    carried: dict[str, float] = defaultdict(float)
    moment: dict[str, float] = defaultdict(float)
    held: dict[str, float] = defaultdict(float)
    used: dict[str, Lead] = {}
    over: set[str] = set()
    for device in fed:
        draw, lead = draws[device] or 0.0, fed[device]
        while lead is not None:
            carried[lead.id] += draw
            moment[lead.id] += peaks.get(device, draw) if draw else 0.0
            held[lead.id] = max(held[lead.id], stalls.get(device, 0.0) if draw else 0.0)
            used[lead.id] = lead
            if lead.light and draw and device in motors:
                over.add(lead.id)
            lead = fed[lead.giver]
    # A thousandth of a watt over is rounding, not a brown-out.
    over |= {key for key, watts in carried.items() if watts > used[key].limit_w + 0.001}
    return over | {key for key, watts in moment.items() if watts + held[key] > used[key].peak_w + 0.001}


def hours(usable_wh: float, load_w: float) -> float:
    """How long a battery lasts at a steady load."""
    return usable_wh / load_w
