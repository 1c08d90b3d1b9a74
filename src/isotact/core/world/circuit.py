"""What never changes of a rig while it is worked on: legs, roles that fit, feeds that a cable could carry."""

from collections.abc import Hashable, Iterable, Iterator
from dataclasses import dataclass
from math import inf
from weakref import WeakKeyDictionary

from isotact.core.calc.batteries import LOW_LEFT
from isotact.core.calc.copper import lead_ohm
from isotact.core.calc.loads import Lead, Line, Load, Rank, Source
from isotact.core.model.base_role import When
from isotact.core.model.legs import Leg, legs_of
from isotact.core.model.plan import LinkEnd
from isotact.core.model.power_role import PowerRole
from isotact.core.model.resolved import Placed, ResolvedRig
from isotact.core.model.roles import Role
from isotact.core.world.cables import Plugged


@dataclass(frozen=True)
class CircuitFeed:
    """An outlet and an inlet that a plug joins, and the most that it carries between them."""

    giver: LinkEnd
    outlet: PowerRole
    taker: LinkEnd
    inlet: PowerRole
    from_a: bool
    limits: "Limits"
    asks: bool
    """Whether anything has to be set for it."""


@dataclass(frozen=True)
class Limits:
    """What a feed can carry, for good and for a moment, and when it carries at all: see `core.calc.loads.Lead`."""

    limit_w: float
    peak_w: float
    rank: Rank
    light: bool
    line: Line

    def lead(self, key: str, giver: str, taker: str) -> Lead:
        """The lead of that id, between these two."""
        return Lead(key, giver, taker, self.limit_w, self.peak_w, self.rank, self.light, self.line)


def _load(placed: Placed) -> Load:
    power, is_motor = placed.profile.power, placed.profile.motor is not None
    if power is None:
        return Load(placed.id, None, is_motor=is_motor)
    sort = (power.draws, power.held_draws, power.rated_v)
    return Load(placed.id, power.draw_w, power.peak_w, power.stalling_w or 0.0, is_motor, *sort)


def source_of(placed: Placed) -> Source:
    """Its battery as it is at the end of a charge: what works then works all day."""
    battery = placed.battery
    given = [role.min_v for role in placed.outlets_through]
    if battery is None or not given:
        return Source(placed.id)  # nobody else knows its volts: what it gives, it holds
    open_v = battery.rest_v(LOW_LEFT)
    return Source(placed.id, open_v, battery.inner_ohm, min([open_v, *given]))


class Circuit:
    """One rig's. Profiles and cable types do not change on the bench, so each thing is worked out once."""

    def __init__(self, rig: ResolvedRig) -> None:
        self.rig = rig
        self.legs = tuple(leg for placed in rig.devices.values() for leg in legs_of(placed))
        self.switched = frozenset(device for device, placed in rig.devices.items() if placed.profile.wake is not None)
        self.by_feed = frozenset(
            device for device in self.switched if (wake := rig[device].profile.wake) is not None and wake.with_feed
        )
        """Those that have no switch: they wake when their feed comes."""
        self.loads = {device: _load(placed) for device, placed in rig.devices.items()}
        """What each takes while it is on; the planner and the bench reckon with the same."""
        self.sources = {device: source_of(placed) for device, placed in rig.devices.items() if placed.runs_alone}
        """The batteries that something can run from."""
        self.idle = {device: load.idle for device, load in self.loads.items()}
        """And while it is off."""
        self.seated = tuple(device for device, placed in rig.devices.items() if placed.seat is not None)
        """Those that are of no use unless they sit on another."""
        self.turning = {
            device: roles
            for device, placed in rig.devices.items()
            if (roles := [role for end in placed.profile.endpoints.values() for role in end.roles if role.turns])
        }
        """Device -> every role by which it could turn a ring, for those that have any."""
        self.gears = {leg: ends for leg in self.legs if (ends := tuple(self._gears_of(leg)))}
        """The ends of a leg by which a ring is turned, for those of `legs` that have any."""
        self.lasting: dict[tuple[Hashable, int], dict[str, float]] = {}
        """Who runs from what, and battery changes -> battery -> hours: asked for again after every fault."""
        self._fits: dict[tuple[LinkEnd, LinkEnd], tuple[tuple[Role, Role], ...]] = {}
        self._feeds: dict[tuple[str, tuple[str, ...]], tuple[CircuitFeed, ...]] = {}

    def _gears_of(self, leg: Leg) -> Iterator[LinkEnd]:
        for node in (leg.enters, leg.leaves):
            if node is not None and self.rig[leg.device].role(*node).turns:
                yield LinkEnd(device=leg.device, endpoint=node[0])

    def fits(self, a: LinkEnd, b: LinkEnd) -> tuple[tuple[Role, Role], ...]:
        """The pairs of roles of the two ends that have something to say to each other, power left out."""
        if (a, b) not in self._fits:
            ours, theirs = (self.rig[end.device].endpoint(end.endpoint).roles for end in (a, b))
            self._fits[a, b] = tuple(
                (one, other) for one in ours for other in theirs if one.fits(other) and one.conductor[0] != "power"
            )
        return self._fits[a, b]

    def feeds(self, between: str, plug: Plugged) -> tuple[CircuitFeed, ...]:
        """What could be fed over a plug, either way; `between` is the text of its two ends, quick to look up."""
        key = (between, plug.stock)
        if key not in self._feeds:
            self._feeds[key] = tuple(
                CircuitFeed(
                    giver,
                    outlet,
                    taker,
                    inlet,
                    from_a,
                    limits_of(self.rig, outlet, taker, inlet, plug.stock),
                    asks=(outlet.when, inlet.when) != (When(), When()),
                )
                for giver, taker, from_a in ((plug.a, plug.b, True), (plug.b, plug.a, False))
                # What has no power of its own passes none on: a breakout is part of the lead.
                if self.rig[giver.device].profile.power is not None
                for outlet in power_roles(self.rig, giver)
                for inlet in power_roles(self.rig, taker)
                if outlet.gives and can_run(outlet, inlet)
            )
        return self._feeds[key]


_CIRCUITS: WeakKeyDictionary[ResolvedRig, Circuit] = WeakKeyDictionary()


def circuit_of(rig: ResolvedRig) -> Circuit:
    """The circuit of `rig`, worked out at the first call."""
    found = _CIRCUITS.get(rig)
    if found is None:
        found = _CIRCUITS[rig] = Circuit(rig)
    return found


def power_roles(rig: ResolvedRig, end: LinkEnd) -> list[PowerRole]:
    """The power roles of an end."""
    return [role for role in rig[end.device].endpoint(end.endpoint).roles if isinstance(role, PowerRole)]


def can_run(outlet: PowerRole, inlet: PowerRole) -> bool:
    """Whether a device can run by `inlet` from `outlet`: an inlet that only charges keeps nothing going."""
    return inlet.feeds == "run" and inlet.fits(outlet)


def limits_of(rig: ResolvedRig, outlet: PowerRole, at: LinkEnd, inlet: PowerRole, stock: Iterable[str]) -> Limits:
    """What a feed into `at` carries: the least amps of outlet, inlet and cable, at the outlet's lowest volts.

    Of several that are live the one of the higher volts carries; of like ones, the inlet that its profile names first.
    """
    wires = [rig.cables[key].limit_of("power") for key in stock]
    # Nobody said is no limit: a lead without a gauge carries what its ends do.
    least = min(limit for limit in (inlet.max_a, *wires, inf) if limit is not None)
    give_a = inf if outlet.max_a is None else outlet.max_a
    moment_a = give_a if outlet.peak_a is None else outlet.peak_a
    # Of two alike the profile's order decides: some order must, and the same in every run.
    place = [*rig[at.device].profile.endpoints].index(at.endpoint)
    return Limits(
        limit_w=outlet.min_v * min(give_a, least),
        peak_w=outlet.min_v * min(moment_a, least),
        rank=(-outlet.max_v, -outlet.min_v, place),
        light=outlet.good_for == "electronics",
        line=Line(
            ohm=ohms_of(rig, stock),
            lowest_v=inlet.lowest_v(outlet) + rig.rig.energy.margin_v,
            highest_v=outlet.max_v,
            held_v=outlet.held_v,
            efficiency=outlet.efficiency or HELD_EFFICIENCY,
            needs_v=outlet.needs_v or 0.0,
        ),
    )


HELD_EFFICIENCY = 0.9
"""An outlet that holds its volts, where nobody said better. Common practice, no source."""
CONTACT_OHM = 0.01
"""Both poles of one plug, neither new nor worn: two contacts of some five milliohms. Common practice, no source."""
ASSUMED_AWG = 24
"""The usual gauge of a thin lead, for those of which nobody said."""


def ohms_of(rig: ResolvedRig, stock: Iterable[str]) -> float:
    """What a cable with its adapters loses, there and back; two things on each other, one pair of contacts."""
    pieces = [rig.cables[key] for key in stock]
    ohm = sum(lead_ohm(one.gauge_awg or ASSUMED_AWG, one.length_mm) for one in pieces)
    plugs = [CONTACT_OHM if one.contact_ohm is None else one.contact_ohm for one in pieces for _ in range(2)]
    # Each plug sits in the next piece or in a device: one more pair than there are pieces, that of the last.
    return ohm + (sum(plugs) * (len(pieces) + 1) / (2 * len(pieces)) if pieces else CONTACT_OHM)
