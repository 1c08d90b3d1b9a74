"""Which devices of the catalogue could help a promise: a search over what is spoken, before any cable is thought of.

The whole catalogue at once would be too much for the planner, so this finds the few that lie on a way to the
promise. Plugs, cables, feeds and all else are left to the planner.
"""

import heapq
from collections import defaultdict
from collections.abc import Iterator, Mapping
from itertools import count
from typing import Any

from isotact.core.model.legs import Leg, ends, legs_of, look_after, starts
from isotact.core.model.memo import once
from isotact.core.model.plan import LinkEnd
from isotact.core.model.ports import Port
from isotact.core.model.profile import Profile
from isotact.core.model.reach import in_range
from isotact.core.model.resolved import Placed, ResolvedRig
from isotact.core.model.rig import ControlPromise, Device, PicturePromise, Promise
from isotact.core.model.roles import PowerRole, Role
from isotact.core.model.variants import of_devices
from isotact.core.model.words import Stage

# Nobody hires five devices for one promise.
MAX_NEW = 4
# A way over more devices than that is late and breaks daily: nobody hires for it.
MAX_DEVICES = 7
# Sets of devices handed on; the model weighs a handful of devices at a time, so more would only be thrown away.
MAX_FOUND = 24
# A search that has looked at so many ways is in a thicket of like devices and finds nothing new.
MAX_STEPS = 30_000
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
        key: Placed(Device(id=key, profile=profile.id), profile)
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
    """Sets of new devices that lie on a way of `promise`, the smallest first; the empty set first of all."""
    brought = new_devices(profiles, rig)
    if not isinstance(promise, ControlPromise | PicturePromise):
        return [frozenset(), *(frozenset([key]) for key in _feeders(rig, brought, list(rig.devices.values())))]
    found = _Reach(rig, brought).sets(promise)
    return list(dict.fromkeys([frozenset[str](), *found]))


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


class _Reach:
    """Best-first search from where a promise starts to where it ends; new devices are what it costs."""

    def __init__(self, rig: ResolvedRig, brought: dict[str, Placed]) -> None:
        self.rig = rig
        self.all = {**rig.devices, **brought}
        self._together = of_devices(rig, self.all)
        self.brought = brought
        self.legs = [leg for placed in self.all.values() for leg in legs_of(placed)]
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
        ahead: list[tuple[int, int, int, tuple[Leg, ...]]] = [
            (self._price(leg.device), 1, next(order), (leg,)) for leg in first
        ]
        heapq.heapify(ahead)
        seen: set[frozenset[str]] = set()
        for _ in range(MAX_STEPS):
            if not ahead or len(seen) >= MAX_FOUND:
                return
            price, length, _, legs = heapq.heappop(ahead)
            last = legs[-1]
            if last.leaves is None:
                new = frozenset(leg.device for leg in legs if leg.device in self.brought)
                if self._keeps(legs, promise) and new not in seen and not any(old <= new for old in seen if old):
                    seen.add(new)
                    yield new
                continue
            if length >= MAX_DEVICES:
                continue
            been = {leg.device for leg in legs}
            for leg in self._next(last, function):
                if leg.device in been:
                    continue
                dearer = price + self._price(leg.device)
                if dearer <= MAX_NEW:
                    heapq.heappush(ahead, (dearer, length + 1, next(order), (*legs, leg)))

    def _price(self, device: str) -> int:
        return int(device in self.brought)

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
