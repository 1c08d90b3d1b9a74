"""Where everything draws from: feeds taken before own batteries, loads that add up, feeds that brown out."""

from collections import defaultdict
from collections.abc import Collection, Iterable, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property

from isotact.core.calc.brown_out import browned_out
from isotact.core.calc.loads import Lead, Load, Source


@dataclass(frozen=True)
class Supply:
    """What came of it. `fed` holds, per device that has power, the lead that it runs from.

    None stands for its own battery, or for what needs no power at all.
    """

    loads: Mapping[str, Load]
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
            root, draw = self.root(device), self.loads[device].draw_w
            if root is not None and draw is not None:
                loads[root] += draw
        return dict(loads)


def supply(loads: Iterable[Load], sources: Iterable[Source], leads: Iterable[Lead]) -> Supply:
    """Settle who runs from what. A device of which there is no load takes no power from anywhere, and gives none on.

    A device runs from the best of its live leads before its own battery. A lead that would carry more than it can, or
    at whose end too few volts are left, browns out: it is taken away, and all is settled again, so that what it carried
    falls back on another lead, a battery, or nothing.
    """
    taking = {load.device: load for load in loads}
    batteries = {source.device: source for source in sources}
    # Best first: of several leads that could feed a device the first is the one that it runs from.
    live = sorted(leads, key=lambda lead: lead.rank)
    while True:
        fed = _fed(taking, batteries, live)
        over = _overloaded(taking, fed) or browned_out(taking, batteries, fed)
        if not over:
            return Supply(taking, fed)
        # All that are overloaded go at once: which of two fuses is quicker nobody knows, and neither holds.
        live = [lead for lead in live if lead.id not in over]


def _fed(loads: Mapping[str, Load], batteries: Collection[str], leads: Sequence[Lead]) -> dict[str, Lead | None]:
    """Grown from the batteries outwards, so that a ring of leads with no battery in it feeds nobody."""
    # Whoever has a battery is up to begin with; feeds take over from it afterwards.
    # What needs no power is there: a lens, a plate, a counterweight. In the order of the loads, so that the same rig
    # is told in the same order each time.
    fed: dict[str, Lead | None] = {
        device: None for device, load in loads.items() if device in batteries or load.draw_w is None
    }
    grown = True
    while grown:
        grown = False
        for lead in leads:
            if lead.giver in fed and lead.taker not in fed and lead.taker in loads:
                fed[lead.taker] = lead
                grown = True
    for lead in leads:  # the best first: whoever got power sooner by another, or runs from its own, takes this one
        now = fed.get(lead.taker)
        # Changed over only from a worse lead: of two alike the first found stays, or the two would take turns for ever.
        takes = lead.taker in fed and loads[lead.taker].draw_w is not None and (now is None or lead.rank < now.rank)
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


def _overloaded(loads: Mapping[str, Load], fed: Mapping[str, Lead | None]) -> set[str]:
    carried: dict[str, float] = defaultdict(float)
    moment: dict[str, float] = defaultdict(float)
    held: dict[str, float] = defaultdict(float)
    used: dict[str, Lead] = {}
    over: set[str] = set()
    for device in fed:
        load, lead = loads[device], fed[device]
        draw = load.draw_w or 0.0
        peak = draw if load.peak_w is None else load.peak_w
        while lead is not None:
            carried[lead.id] += draw
            moment[lead.id] += peak if draw else 0.0
            held[lead.id] = max(held[lead.id], load.stall_w if draw else 0.0)
            used[lead.id] = lead
            if lead.light and draw and load.is_motor:
                over.add(lead.id)
            lead = fed[lead.giver]
    # A thousandth of a watt over is rounding, not a brown-out.
    over |= {key for key, watts in carried.items() if watts > used[key].limit_w + 0.001}
    return over | {key for key, watts in moment.items() if watts + held[key] > used[key].peak_w + 0.001}


def hours(usable_wh: float, load_w: float) -> float:
    """How long a battery lasts at a steady load."""
    return usable_wh / load_w


def changed_over(first: Mapping[str, float], then: Mapping[str, float]) -> tuple[float, float]:
    """When to change over from one way of feeding to another, and how long it then is until a battery is empty: hours.

    `first`, `then`: the share of each battery that is used in an hour, more than nothing at least once each. The most
    of x + y with first * x + then * y <= 1 for every battery: a corner of that, and there are few.
    """
    used = [(first.get(one, 0.0), then.get(one, 0.0)) for one in {*first, *then}]

    def left_h(after_h: float) -> float:
        return min(((1 - before * after_h) / later for before, later in used if later), default=0.0)

    longest_h = min((1 / before for before, _ in used if before), default=0.0)
    corners = [0.0, longest_h]
    for number, (before, later) in enumerate(used):
        for other_before, other_later in used[:number]:
            across = before * other_later - other_before * later
            if across:
                corners.append((other_later - later) / across)
    reached = [(after_h, after_h + left_h(after_h)) for after_h in corners if 0 <= after_h <= longest_h]
    return max(reached, key=lambda one: (one[1], -one[0]))
