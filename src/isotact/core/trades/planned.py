"""A plan that can be asked what would be left of its promises without something.

This is how it is known which promises need a condition. It reasons over the plan's own ways, feeds and settings, and
never looks at a world; that breaking the condition on the bench has the same effect is checked, not assumed.
"""

from collections.abc import Hashable, Iterator, Mapping
from dataclasses import dataclass
from functools import cached_property
from itertools import chain

from isotact.core.calc.loads import Lead, Load, Source
from isotact.core.calc.power import Supply, supply
from isotact.core.model.keys import Item
from isotact.core.model.needed_pictures import screen_of
from isotact.core.model.plan import Feed, Join, LinkEnd, Plan, Route, Use, Want
from isotact.core.model.power_role import PowerRole
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.roles import Role
from isotact.core.model.words import Stage
from isotact.core.trades.wants import is_met, strictest, wants_of
from isotact.core.world.circuit import can_run, circuit_of, limits_of
from isotact.core.world.feed_volts import lasting_h

Knob = tuple[str, str, str]
"""device, kind (mode, setting, answer, firmware or licence), key."""


@dataclass(frozen=True)
class Removal:
    """What a plan has to do without; what it does not name is as planned.

    `knobs` are set otherwise: each a device, kind and key, with the value.
    """

    links: frozenset[str] = frozenset()
    uses: frozenset[tuple[str, Use]] = frozenset()
    devices: frozenset[str] = frozenset()
    mute: frozenset[str] = frozenset()
    """Devices that pass nothing on, and feed and draw as before."""
    screens: frozenset[Item] = frozenset()
    knobs: tuple[tuple[Knob, str], ...] = ()
    functions: frozenset[Item] = frozenset()
    """Functions that a device carries out no longer, each a device and the function: a body without its card."""

    @property
    def touched(self) -> Iterator[Hashable]:
        """All that it names, each once or more: for asking whether anything at all is concerned."""
        return chain(
            self.links,
            self.uses,
            self.devices,
            self.mute,
            self.screens,
            (knob for knob, _ in self.knobs),
            self.functions,
        )


AS_PLANNED = Removal()
"""Without nothing."""


@dataclass(frozen=True)
class _Way:
    """One route, as sets: what all has to be there."""

    devices: frozenset[str]
    links: frozenset[str]
    uses: frozenset[tuple[str, Use]]
    wants: Mapping[Knob, Want]
    amiss: frozenset[Knob]
    """The knobs that stand otherwise than it wants them, as planned."""
    screen: Item | None
    worked: Item | None
    """Where a function is carried out, and which; None for a picture."""

    def stands(self, without: Removal, dark: frozenset[str]) -> bool:
        return (
            dark.isdisjoint(self.devices)
            and without.mute.isdisjoint(self.devices)
            and without.links.isdisjoint(self.links)
            and without.uses.isdisjoint(self.uses)
            and self.screen not in without.screens
            and self.worked not in without.functions
            and self._set_right(without.knobs)
        )

    def _set_right(self, knobs: tuple[tuple[Knob, str], ...]) -> bool:
        if not knobs:
            return not self.amiss
        return self.amiss <= {knob for knob, _ in knobs} and all(
            is_met(self.wants[knob], value) for knob, value in knobs if knob in self.wants
        )


class Planned:
    """A rig and its plan, asked what would be left of the promises without something.

    Neither changes while it lives, so that each answer is worked out once: the ways of every promise as sets of what
    has to be there (spare routes among them, since a promise that comes by two ways needs neither alone), the leads
    that are live or would be after one change, and the supply with everything as planned.

    What always holds: without nothing, every promise in `plan.kept` is kept; to take away more never keeps a promise
    that less lost, but for feeds, where a lead that goes dark may let another carry.
    """

    def __init__(self, rig: ResolvedRig, plan: Plan) -> None:
        self.rig = rig
        self.plan = plan
        self._known: dict[Removal, tuple[str, ...]] = {}

    @property
    def joins(self) -> tuple[Join, ...]:
        return self.plan.joins

    @cached_property
    def in_use(self) -> tuple[str, ...]:
        """The devices that the plan uses, in its order."""
        return tuple(feed.device for feed in self.plan.feeds)

    def role(self, end: LinkEnd, name: str) -> Role:
        return self.rig[end.device].role(end.endpoint, name)

    def roles(self, join: Join, use: Use) -> tuple[tuple[LinkEnd, Role], tuple[LinkEnd, Role]]:
        """The two ends of a use, each with its role; the end that sends comes first where one does."""
        a, b = join.link.a, join.link.b
        ends = ((a, self.role(a, use.role_a)), (b, self.role(b, use.role_b)))
        return ends if use.flow != "b-to-a" else (ends[1], ends[0])

    def leaves_cage(self, join: Join) -> bool:
        """A cable that does not lie wholly within one stage moves against the camera, or hangs off it."""
        ends = (join.link.a, join.link.b)
        return bool(join.link.axes) or any(
            self.rig[end.device].stage_of(end.endpoint) == Stage.OFF_GIMBAL for end in ends
        )

    @cached_property
    def on_ways(self) -> frozenset[str]:
        """The devices through which something promised passes."""
        return frozenset(hop.device for route in self.plan.routes for hop in (*route.hops, *route.picture))

    def waker(self, device: str) -> str | None:
        """The device itself when it is switched on, else the nearest of those that feed it that is; None: none is."""
        above = {feed.device: feed.from_device for feed in self.plan.feeds}
        here: str | None = device
        while here is not None and not self.is_switched(here):
            here = above.get(here)
        return here

    def is_switched(self, device: str) -> bool:
        """Whether a hand wakes it: by its switch, or by putting in the feed that was kept out."""
        wake = self.rig[device].profile.wake
        return wake is not None and (not wake.with_feed or self.held(device) is not None)

    def held(self, device: str) -> Join | None:
        """The feed of which one plug is kept out until its device is woken by it.

        None for what has a switch, and where the other end would miss the lead that it looks for while it starts.
        """
        wake, feed = self.rig[device].profile.wake, self.feed(device)
        if wake is None or not wake.with_feed or feed is None or feed.join is None:
            return None
        join = self.plan.join_of(feed.join)
        return None if self._looked_for(join, device) else join

    def holds(self, device: str, join: Join) -> bool:
        """Whether one plug of a join is kept out until a device is woken by it."""
        return self.held(device) is join or join in self.also_held(device)

    def also_held(self, device: str) -> tuple[Join, ...]:
        """Leads that could not carry a device alone, kept out likewise: whoever gives by them is awake before it.

        With its own feed still out it would start on such a lead, brown out, and start over.
        """
        if self.held(device) is None:
            return ()
        before = {pair.first for pair in self.plan.wake_order if pair.second == device}
        weak = [(join, giver) for taker, giver, join in self.too_weak if taker == device]
        kept_out = [join for join, giver in weak if giver in before]
        return tuple(join for join in kept_out if not self._looked_for(join, device))

    def _looked_for(self, join: Join, device: str) -> bool:
        """Whether the other end of a join would miss the lead if it were not in while it starts."""
        found = (role for use in join.carries for end, role in self.roles(join, use) if end.device != device)
        return any(role.notices_at_boot for role in found)

    def feed(self, device: str) -> Feed | None:
        return next((feed for feed in self.plan.feeds if feed.device == device), None)

    def runs_alone(self, device: str) -> bool:
        """Whether it has a battery of its own in it that it can run from."""
        return self.rig.runs_alone(device) and not self.bay_taken(device)

    def bay_taken(self, device: str) -> bool:
        """Whether something stands in for its battery, so that its own is out."""
        ends = (end for join in self.joins for end in join.link.ends if end.device == device)
        return any(self.rig[device].endpoint(end.endpoint).is_battery_bay for end in ends)

    def feeds_above(self, device: str) -> Iterator[Feed]:
        """The feeds through which a device gets its power, its own first, up to something with a battery of its own."""
        feed = self.feed(device)
        while feed is not None and feed.join is not None and not self.runs_alone(feed.device):
            yield feed
            feed = self.feed(feed.from_device or "")

    @cached_property
    def now(self) -> dict[Knob, str]:
        """Every mode, setting, answer, firmware and licence once the plan is carried out."""
        found: dict[Knob, str] = {}
        for device, placed in self.rig.devices.items():
            if placed.mode_now is not None:
                found[device, "mode", ""] = placed.mode_now
            for setting in placed.profile.settings:
                found[device, "setting", setting.id] = placed.setting_now(setting.id)
            if placed.firmware_now is not None:
                found[device, "firmware", ""] = placed.firmware_now
            for licence in placed.device.licences:
                found[device, "licence", licence] = licence
        for choice in self.plan.choices:
            found[choice.device, choice.kind, choice.key] = choice.value
        return found

    def lost_without(self, without: Removal) -> tuple[str, ...]:
        """The promises that the plan keeps and would not keep without."""
        if without not in self._known:
            self._known[without] = tuple(self._lost(without))
        return self._known[without]

    def _lost(self, without: Removal) -> Iterator[str]:
        # The supply is the dear part: it is worked out anew only where something that feeds or draws is concerned.
        touched = set(without.touched)
        if without.devices or not self._in_supply.isdisjoint(touched):
            found = self.supply_without(without)
            dark = frozenset(d for d in self.in_use if d in without.devices or not found.has_power(d))
            concerned = {*self._kept}
        else:  # everything is fed as before: only what passes there is asked about
            found, dark = self._whole, self._dark_as_planned
            concerned = {promise for name in touched for promise in self._passing.get(name, ())}
        for promise in self._kept:
            if promise not in concerned:
                continue
            ways = self._ways.get(promise)
            if ways is None:
                stands = not dark and self._lasts(promise, found)
            else:
                stands = any(way.stands(without, dark) for way in ways)
            if not stands:
                yield promise

    def values_that_do(self, knob: Knob, values: tuple[str, ...]) -> dict[str, tuple[str, ...]]:
        """Per promise that cares, those of `values` with which it still holds."""
        if knob not in self._passing and knob not in self._in_supply:
            return {}
        lost = {value: self.lost_without(Removal(knobs=((knob, value),))) for value in values}
        return {
            promise: tuple(value for value in values if promise not in lost[value])
            for promise in self._kept
            if any(promise in those for those in lost.values())
        }

    @cached_property
    def _ways(self) -> dict[str, list[_Way]]:
        promises = {promise.id: promise for promise in self.rig.rig.routed}
        ways: dict[str, list[_Way]] = {}
        for route in (*self.plan.routes, *self.plan.spares):
            promise = promises.get(route.promise)
            if promise is not None:
                at = screen_of(self.rig, promise)
                shown = Item(at.device, at.surface) if at is not None else None
                ways.setdefault(route.promise, []).append(self._way(route, shown, promise.worked))
        return ways

    def _way(self, route: Route, shown: Item | None, worked: str | None) -> _Way:
        hops = (*route.hops, *route.picture)
        crossed = [(hop.link, hop.use) for hop in hops if hop.link is not None and hop.use is not None]
        crossed += [seat for hop in hops for seat in self._seats(hop.device)]
        wants: dict[Knob, Want] = {(want.device, want.kind, want.key): want for want in strictest(route.wants)}
        return _Way(
            devices=frozenset(hop.device for hop in hops),
            links=frozenset(link for link, _ in crossed),
            uses=frozenset(crossed),
            wants=wants,
            amiss=frozenset(knob for knob, want in wants.items() if not self._is_met(want, {})),
            screen=shown,
            worked=Item(route.hops[-1].device, worked) if worked is not None and route.hops else None,
        )

    def _seats(self, device: str) -> Iterator[tuple[str, Use]]:
        """On what a device sits, and that in turn."""
        seat = self.rig[device].seat
        for join in self.joins if seat is not None else ():
            for use in join.carries:
                here = next((end for end in join.link.ends if (end.device, end.endpoint) == (device, seat)), None)
                if use.is_seat and here is not None:
                    yield join.link.id, use
                    yield from self._seats(join.link.far(device).device)

    def lets(self, device: str, role: Role, without: Removal) -> bool:
        """Whether everything is set that a role of a device asks for, as planned but for the knobs of `without`."""
        return all(self._is_met(want, dict(without.knobs)) for want in wants_of(device, role))

    def _is_met(self, want: Want, changed: Mapping[Knob, str]) -> bool:
        knob = (want.device, want.kind, want.key)
        return is_met(want, changed.get(knob, self.now.get(knob, "")))

    @cached_property
    def _leads(self) -> list[tuple[Lead, tuple[str, Use], tuple[Want, ...]]]:
        """Every lead of the plan that could feed, and what each asks of settings."""
        found = []
        for join in self.joins:
            for use in join.link.uses:
                (giver, outlet), (taker, inlet) = self.roles(join, use)
                if not isinstance(outlet, PowerRole) or not isinstance(inlet, PowerRole) or not can_run(outlet, inlet):
                    continue
                if self.rig[giver.device].profile.power is None:
                    continue
                most = limits_of(self.rig, outlet, taker, inlet, join.link.stock)
                wants = (*wants_of(giver.device, outlet), *wants_of(taker.device, inlet))
                lead = most.lead(join.link.id, giver.device, taker.device)
                found.append((lead, (join.link.id, use), wants))
        return found

    def supply_without(self, without: Removal) -> Supply:
        changed = dict(without.knobs)
        loads = [load for device, load in self._loads.items() if device not in without.devices]
        leads = [
            lead
            for lead, use, wants in self._leads
            if lead.id not in without.links
            and use not in without.uses
            and lead.giver in self.in_use
            and all(self._is_met(want, changed) for want in wants)
        ]
        return supply(loads, self._sources, leads)

    @cached_property
    def too_weak(self) -> tuple[tuple[str, str, Join], ...]:
        """What wakes with its feed, whoever feeds it besides, and the lead, which could not carry it alone."""
        by_feed, found = circuit_of(self.rig).by_feed, []
        for feed in self.plan.feeds:
            if feed.device in by_feed and feed.join is not None:
                besides = [lead for lead, _, _ in self._leads if lead.taker == feed.device and lead.id != feed.join]
                if besides and not self.supply_without(Removal(links=frozenset((feed.join,)))).has_power(feed.device):
                    found += [(feed.device, lead.giver, self.plan.join_of(lead.id)) for lead in besides]
        return tuple(found)

    @cached_property
    def _whole(self) -> Supply:
        """The supply with everything as planned."""
        return self.supply_without(Removal())

    @cached_property
    def _kept(self) -> tuple[str, ...]:
        return tuple(self.plan.kept)

    @cached_property
    def _in_supply(self) -> frozenset[Hashable]:
        """All without which the supply could be another: its leads, their uses, and the knobs that they want set."""
        found: set[Hashable] = set()
        for lead, use, wants in self._leads:
            found |= {lead.id, use, *((want.device, want.kind, want.key) for want in wants)}
        return frozenset(found)

    @cached_property
    def _passing(self) -> dict[Hashable, set[str]]:
        """The promises of which some way passes a device, link, use or screen, or wants a knob set."""
        found: dict[Hashable, set[str]] = {}
        for promise, ways in self._ways.items():
            for way in ways:
                for name in chain(way.devices, way.links, way.uses, way.wants, (way.screen, way.worked)):
                    found.setdefault(name, set()).add(promise)
        return found

    @cached_property
    def _dark_as_planned(self) -> frozenset[str]:
        return frozenset(device for device in self.in_use if not self._whole.has_power(device))

    @cached_property
    def _loads(self) -> dict[str, Load]:
        circuit = circuit_of(self.rig)
        return {
            device: (circuit.loads if device in self.in_use else circuit.idle)[device] for device in self.rig.devices
        }

    @cached_property
    def _sources(self) -> tuple[Source, ...]:
        sources = circuit_of(self.rig).sources
        return tuple(sources[device] for device in self.in_use if self.runs_alone(device))

    def _lasts(self, promise_id: str, found: Supply) -> bool:
        promise = next(one for one in self.rig.rig.lasting if one.id == promise_id)
        drawn_on = (device for device, load_w in found.roots().items() if load_w)
        lasting = lasting_h(self.rig, found, drawn_on, promise.changes)
        return all(lasts_h >= promise.hours_h for lasts_h in lasting.values())
