"""Which devices of the catalogue could help a promise: a search over what is spoken, before any cable is thought of.

The whole catalogue at once would be too much for the planner, so this finds the few that lie on a way to the
promise. Plugs, cables, feeds and all else are left to the planner.
"""

import heapq
from collections import Counter, defaultdict
from collections.abc import Callable, Iterator, Mapping
from itertools import count, zip_longest
from math import inf
from typing import Any

from isotact.core.model.legs import Leg, ends, legs_of, look_after, starts
from isotact.core.model.memo import once
from isotact.core.model.plan import LinkEnd
from isotact.core.model.ports import Port
from isotact.core.model.power_role import PowerRole
from isotact.core.model.profile import Profile
from isotact.core.model.reach import in_range
from isotact.core.model.resolved import Placed, ResolvedRig
from isotact.core.model.rig import ControlPromise, Device, PicturePromise, Promise
from isotact.core.model.roles import Role
from isotact.core.model.variants import of_devices
from isotact.core.model.words import Stage

# Nobody hires five devices for one promise.
MAX_NEW = 4
# A way over more devices than that is late and breaks daily: nobody hires for it.
MAX_DEVICES = 7
# Sets of devices of the same kinds that are handed on, the lightest: a full shelf has hundreds of one kind, and they
# would crowd out the transmitter with its receiver.
MOST_ALIKE = 3
# A search that has looked at so many ways of one size is in a thicket of like devices and finds nothing new.
MAX_STEPS = 1_500
PREFIX = "get-"
"""Devices that are not in the rig are named by this and their profile."""


def new_devices(profiles: Mapping[str, Profile], rig: ResolvedRig) -> dict[str, Placed]:
    """One of each profile, as it would be if it were brought. Another camera would answer another question.

    Of profiles that could do the same the lightest stands for all: a rental house has hundreds of them.
    """
    lightest: dict[str, Profile] = {}
    for _, profile in sorted(profiles.items()):
        shape = once(profile, _shape) if not profile.makes else ""
        if shape and (shape not in lightest or profile.mass_g < lightest[shape].mass_g):
            lightest[shape] = profile
    named = {f"{PREFIX}{one.id}"[:64].rstrip("-"): one for one in lightest.values()}
    return {
        key: Placed(Device(id=key, profile=profile.id), profile, rig.rig.energy)
        for key, profile in named.items()
        if key not in rig.devices
    }


# What makes no difference to what a device could do for a promise: of those alike in all else the lightest is named.
_WORDS_AT_A_PORT = {"marking", "place", "side", "note"}
_NO_MATTER: dict[str, Any] = {
    **dict.fromkeys(
        ("id", "name", "summary", "mass_g", "size_mm", "centre", "indicators", "cautions", "care", "notes"), True
    ),
    "power": {"draw_w", "peak_w", "stall_w"},
    "ports": {"__all__": _WORDS_AT_A_PORT},
    "radios": {"__all__": {"name", "sign", "band", "channels", "power_dbm", "network_label", "pairing"}},
}


def _shape(profile: Profile) -> str:
    return profile.model_dump_json(exclude=_NO_MATTER)


def helpful(rig: ResolvedRig, profiles: Mapping[str, Profile], promise: Promise) -> list[frozenset[str]]:
    """Sets of new devices that lie on a way of `promise`: the empty set, then of each size by turns the lightest."""
    brought = new_devices(profiles, rig)
    if not isinstance(promise, ControlPromise | PicturePromise):
        return [frozenset(), *(frozenset([key]) for key in _feeders(rig, brought, list(rig.devices.values())))]
    by_size: dict[int, list[frozenset[str]]] = defaultdict(list)
    for one in _Reach(rig, brought).sets(promise):
        by_size[len(one)].append(one)
    by_turns = zip_longest(*(by_size[size] for size in sorted(by_size)))
    return list(dict.fromkeys([frozenset[str](), *(one for turn in by_turns for one in turn if one is not None)]))


def feeders_for(rig: ResolvedRig, profiles: Mapping[str, Profile], new: frozenset[str]) -> list[str]:
    """New sources of power that could feed what has no battery of its own among `new` and the rig, lightest first."""
    brought = new_devices(profiles, rig)
    hungry = [brought[key] for key in sorted(new) if brought[key].profile.power and not brought[key].runs_alone]
    return [key for key in _feeders(rig, brought, hungry) if key not in new][:2]


def _feeders(rig: ResolvedRig, brought: dict[str, Placed], hungry: list[Placed]) -> list[str]:
    inlets = [(port, role) for placed in hungry for port in placed.profile.ports for role in _powers(port, "in")]
    able = []
    for key, placed in brought.items():
        battery = placed.profile.power.inner_battery if placed.profile.power else None
        if battery is None or placed.profile.carrier is not None:
            continue  # nobody brings another gimbal to feed something
        outlets = [(port, role) for port in placed.profile.ports for role in _powers(port, "out")]
        if any(
            inlet.takes(outlet) and _could_mate(rig, port, other)
            for port, outlet in outlets
            for other, inlet in inlets
            if inlet.feeds == "run"
        ):
            able.append(key)
    return sorted(able, key=lambda key: (brought[key].profile.mass_g, key))


def _powers(port: Port, flow: str) -> list[PowerRole]:
    return [role for role in port.roles if isinstance(role, PowerRole) and role.flow == flow]


def _could_mate(rig: ResolvedRig, one: Port, other: Port) -> bool:
    if one.is_direct or one.captive_mm or other.captive_mm:
        return one.mates(other)
    wanted = sorted([one.connector, other.connector])
    return any(sorted(end.connector for end in cable.ends) == wanted for cable in rig.cables.values())


def _joined_by(rig: ResolvedRig) -> dict[str, set[tuple[str, str]]]:
    """Medium -> the connectors of two sockets that some cable joins, bare or with an adapter at either end."""
    offers: dict[str, set[str]] = defaultdict(set)
    for one in rig.cables.values():
        if one.is_adapter:
            plug = next(end.connector for end in one.ends if end.gender == "plug")
            for end in one.ends:
                if end.gender == "receptacle":
                    offers[end.connector].add(plug)
    joined: dict[str, set[tuple[str, str]]] = defaultdict(set)
    for cable in rig.cables.values():
        for conductor in cable.carries if not cable.is_adapter else ():
            first, second = (cable.ends[number - 1].connector for number in conductor.between)
            for here in {first} | offers[first]:
                for there in {second} | offers[second]:
                    joined[conductor.medium] |= {(here, there), (there, here)}
    return joined


class _Reach:
    """Best-first search from where a promise starts to where it ends; new devices are what it costs."""

    def __init__(self, rig: ResolvedRig, brought: dict[str, Placed]) -> None:
        self.rig = rig
        self.all = {**rig.devices, **brought}
        self._together = of_devices(rig, self.all)
        self.brought = brought
        self.legs = [leg for placed in self.all.values() for leg in legs_of(placed)]
        self._leads = _joined_by(rig)
        self._kinds: dict[str, str] = {}
        self._onward: dict[tuple[Leg, str | None], list[Leg]] = {}
        self._entering: dict[tuple[str, ...], list[tuple[Leg, Role]]] = defaultdict(list)
        for leg in self.legs:
            if leg.enters:
                role, radio = self._role(leg.device, leg.enters)
                self._entering[(*role.spoken, radio)].append((leg, role))

    def _role(self, device: str, node: tuple[str, str]) -> tuple[Role, str]:
        placed = self.all[device]
        end = placed.endpoint(node[0])
        return placed.role(*node), end.air

    def sets(self, promise: ControlPromise | PicturePromise) -> Iterator[frozenset[str]]:
        function = promise.worked
        order = count()
        # Another camera would answer another question, so a picture starts in the rig as it is.
        first = [leg for leg in self.legs if starts(leg, promise) and leg.device in self.rig.devices]
        left = self._new_to_come(promise)
        ahead: list[tuple[int, bool, float, int, int, tuple[Leg, ...], tuple[str, ...]]] = []
        seen: set[frozenset[str]] = set()
        found: Counter[tuple[str, ...]] = Counter()
        steps: Counter[float] = Counter()

        def kinds_of(new: tuple[str, ...]) -> tuple[str, ...]:
            return tuple(sorted(self._kind(device) for device in new))

        def come(legs: tuple[Leg, ...], new: tuple[str, ...], mass_g: float) -> None:
            size = len(new) + left(legs[-1])
            if size <= MAX_NEW and steps[size] < MAX_STEPS:
                kinds = Counter(kinds_of(new))
                # What holds more than one would need, by their kinds, has its turn when all else was looked at.
                late = any(Counter(other) < kinds for other in found if other)
                heapq.heappush(ahead, (int(size), late, mass_g, len(legs), next(order), legs, new))

        for leg in first:
            come((leg,), (), 0.0)
        while ahead:
            size, _, mass_g, length, _, legs, new = heapq.heappop(ahead)
            brought, kinds = frozenset(new), kinds_of(new)
            if steps[size] >= MAX_STEPS or found[kinds] >= MOST_ALIKE or any(old <= brought for old in seen if old):
                continue
            steps[size] += 1
            if legs[-1].leaves is None:
                if self._keeps(legs, promise) and brought not in seen:
                    seen.add(brought)
                    found[kinds] += 1
                    yield brought
                continue
            if length >= MAX_DEVICES:
                continue
            been = {leg.device for leg in legs}
            for leg in self._next(legs[-1], function):
                if leg.device not in been:
                    fresh = (leg.device,) if leg.device in self.brought else ()
                    heavier = mass_g + (self.all[leg.device].profile.mass_g if fresh else 0)
                    come((*legs, leg), (*new, *fresh), heavier)

    def _kind(self, device: str) -> str:
        """What tells a new device from others that would do the same at the same plugs, a little better or worse."""
        if device not in self._kinds:
            placed = self.all[device]
            ways = sorted(
                (str(leg.surface), *(f"{self._said(leg.device, end)}" for end in (leg.enters, leg.leaves)))
                for leg in legs_of(placed)
            )
            self._kinds[device] = f"{ways} {placed.runs_alone}"
        return self._kinds[device]

    def _said(self, device: str, end: tuple[str, str] | None) -> tuple[str, ...]:
        """What is spoken at an end of a leg, and by which plug."""
        if end is None:
            return ()
        role, air = self._role(device, end)
        return (*role.spoken, air, self.all[device].endpoint(end[0]).shown[-1])

    def _new_to_come(self, promise: ControlPromise | PicturePromise) -> Callable[[Leg], float]:
        """How many more new devices a way needs at least after a leg, by what is spoken alone; inf where none leads on.

        Never more than it does need, so that the smallest sets are found before anything larger is looked at.
        """
        function = promise.worked
        passing = [
            (key, leg)
            for key, legs in self._entering.items()
            for leg, _ in legs
            if (function in leg.functions if function else not leg.functions)
        ]
        least: dict[tuple[str, ...], float] = defaultdict(lambda: inf)

        def after(leg: Leg) -> float:
            if leg.leaves is None:
                return 0 if ends(leg, promise) else inf
            role, air = self._role(leg.device, leg.leaves)
            return least[(*role.spoken, air)]

        changed = True
        while changed:
            changed = False
            for key, leg in passing:
                count = after(leg) + (leg.device in self.brought)
                if count < least[key]:
                    least[key], changed = count, True
        return after

    def _next(self, last: Leg, function: str | None) -> list[Leg]:
        """The legs that could come after `last`: many ways go over the same one, so they are kept."""
        if (last, function) not in self._onward:
            role, radio = self._role(last.device, last.leaves or ("", ""))
            self._onward[last, function] = [
                leg
                for leg, other in self._entering[(*role.spoken, radio)]
                if (function in leg.functions if function else not leg.functions)
                and role.fits(other)
                and self._could_stand(last, leg)
                and self._could_lie(last, leg, role.conductor)
            ]
        return self._onward[last, function]

    def _could_stand(self, one: Leg, other: Leg) -> bool:
        """A picture that has left the gimbal by radio is not led back; a mount joins what sits together.

        No radio reaches further than is claimed for it.
        """
        stages = [self.all[leg.device].stage for leg in (one, other)]
        port = self.all[other.device].endpoint(other.enters[0]) if other.enters else None
        if port is not None and port.is_direct and stages[0] != stages[1]:
            return False
        if one.leaves and other.enters and not self._in_range(one.device, one.leaves[0], other.device, other.enters[0]):
            return False
        video = not other.functions and port is not None and port.is_socket
        return not (video and stages[0] == Stage.OFF_GIMBAL != stages[1])

    def _port(self, device: str, key: str) -> Port | None:
        return next((port for port in self.all[device].profile.ports if port.id == key), None)

    def _could_lie(self, one: Leg, other: Leg, conductor: tuple[str, str]) -> bool:
        """Whether there is any lead at all that goes into both sockets and carries it."""
        if one.leaves is None or not other.enters:
            return True
        here, there = self._port(one.device, one.leaves[0]), self._port(other.device, other.enters[0])
        if here is None or there is None:
            return here is there  # both by radio
        if here.is_direct or there.is_direct or here.captive_mm or there.captive_mm:
            return here.mates(there)
        return (here.connector, there.connector) in self._leads[conductor[0]]

    def _in_range(self, device: str, endpoint: str, other: str, far: str) -> bool:
        radio = not self.all[device].endpoint(endpoint).is_socket
        ends = LinkEnd(device=device, endpoint=endpoint), LinkEnd(device=other, endpoint=far)
        return not radio or in_range(self._together, *ends)

    def _keeps(self, legs: tuple[Leg, ...], promise: ControlPromise | PicturePromise) -> bool:
        """Whether the way would be what was promised: at its end, in time, with the look or without."""
        if not ends(legs[-1], promise):
            return False
        if not isinstance(promise, PicturePromise):
            return True
        in_time = promise.within_ms is None or sum(leg.delay_ms for leg in legs) <= promise.within_ms
        return in_time and look_after(legs) in promise.looks_wanted
