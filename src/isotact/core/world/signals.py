"""Follows a function or a picture through the world as it is now, hop by hop, until it arrives or dies.

Looks only at what is plugged, awake, set and met: never at a plan or at conditions.
"""

from collections import Counter, defaultdict
from collections.abc import Iterator
from dataclasses import dataclass, replace
from functools import cached_property

from isotact.core.calc.power import Supply
from isotact.core.model.keys import Item
from isotact.core.model.legs import Leg, Node, ends, look_after, starts
from isotact.core.model.plan import LinkEnd
from isotact.core.model.rig import ControlPromise
from isotact.core.model.roles import Role
from isotact.core.model.words import pixels_rate
from isotact.core.world.cables import Cables, Plugged
from isotact.core.world.circuit import circuit_of
from isotact.core.world.menus import Menus
from isotact.core.world.power import supply_of
from isotact.core.world.radio import Radio, pair
from isotact.core.world.waking import Waking
from isotact.core.world.world import State, World

Formats = frozenset[str] | None
"""The picture formats that got through so far; None before the first link."""


@dataclass(frozen=True)
class Arrival:
    """A signal that came through: the devices on its way, its delay, and whether it carries the look."""

    devices: tuple[str, ...]
    delay_ms: float
    look: bool


@dataclass(frozen=True)
class Arc:
    """A live crossing from one end to another, for one role there, and the picture formats that get across."""

    device: str
    node: Node
    formats: Formats


Leaving = tuple[str, Node]
"""The device and the node that something leaves from."""


@dataclass(frozen=True)
class _Client:
    """One that asks a server with room for only so many: since when, by which name, and what passes once it is in."""

    since_s: float
    name: str
    server: Item
    room: int
    arcs: dict[Leaving, Arc]


@dataclass(frozen=True)
class _Signal:
    legs: tuple[Leg, ...]
    devices: tuple[str, ...]
    delay_ms: float
    formats: Formats = None


class Now:
    """What follows from the state of a world at this moment, each thing worked out when it is first asked for."""

    def __init__(self, world: World) -> None:
        self._world = world
        self._circuit = circuit_of(world.rig)

    @cached_property
    def supply(self) -> Supply:
        return self._world.once(supply_of)

    @cached_property
    def alive(self) -> frozenset[str]:
        """Awake; of the kind that is never switched on, whether it has the power that it wants."""
        world = self._world
        return frozenset(
            device
            for device, placed in world.rig.devices.items()
            if (
                self.supply.has_power(device)
                if placed.profile.wake is None
                else world[Waking].is_awake(device) and device not in world[Waking].hung
            )
        )

    def up_since_s(self, device: str) -> float | None:
        """Since when a device is up; for one that nobody switches on, since the feed it runs from. None: it is not."""
        world = self._world
        if world.rig[device].profile.wake is not None:
            return world[Waking].awake_since_s.get(device)
        # Nobody switches it on: it is up as long as it is fed, and since then.
        if not self.supply.has_power(device):
            return None
        lead = self.supply.fed[device]
        if lead is None:
            return 0.0
        above = self.up_since_s(lead.giver)
        # Later than what feeds it, and not before its own lead was in.
        return None if above is None else max(above, world[Cables].plugs[lead.id].at_s)

    def began_s(self, device: str) -> float | None:
        """When a device started to come up."""
        if self._world.rig[device].profile.wake is None:
            return self.up_since_s(device)
        return self._world[Waking].boot_started_s.get(device)

    def pictures(self, device: str, surface: str) -> list[Arrival]:
        """The pictures that come through to a screen, the quickest first."""
        return self._pictures.get((device, surface), [])

    def functions(self, promise: ControlPromise) -> list[Arrival]:
        """Where a function that was promised is carried out, and by which way, the quickest first."""
        # Followed from the knob: which body it reaches, if any, is the question.
        first = [leg for leg in self._starting if starts(leg, promise)]
        found = [arrival for leg, arrival in self._follow(first, promise.function) if ends(leg, promise)]
        return sorted(found, key=lambda arrival: (arrival.delay_ms, arrival.devices))

    def is_linked(self, device: str, endpoint: str) -> bool:
        """Whether something that carries functions has been found at a port."""
        nodes = [node for (at, node) in self._control_arcs if at == device and node[0] == endpoint]
        return bool(nodes)

    @cached_property
    def _legs(self) -> list[Leg]:
        world = self._world
        allows = world[Menus].allows
        # Most parts of a world stop nothing: only those that may are asked of each leg.
        stopping = [part for part in world.parts.values() if type(part).stopped is not State.stopped]
        works: list[Leg] = []
        for leg in self._circuit.legs:
            if leg.device in self.alive and all(allows(leg.device, when) for when in leg.whens):
                held = [those for part in stopping if (those := part.stopped(world, leg))]
                left = leg.passing.difference(*held)
                if left == leg.passing:
                    works.append(leg)
                elif left:  # some functions get through where others do not
                    works.append(replace(leg, functions=left))
        return works

    @cached_property
    def _starting(self) -> list[Leg]:
        return [leg for leg in self._legs if leg.enters is None]

    @cached_property
    def _entering(self) -> dict[tuple[str, Node], list[Leg]]:
        entering: dict[tuple[str, Node], list[Leg]] = defaultdict(list)
        for leg in self._legs:
            if leg.enters is not None:
                entering[leg.device, leg.enters].append(leg)
        return entering

    @cached_property
    def arcs(self) -> dict[tuple[str, Node], list[Arc]]:
        """Everything that passes between two devices now, by the end that it leaves from."""
        arcs: dict[tuple[str, Node], list[Arc]] = defaultdict(list)
        world = self._world
        joined: list[tuple[LinkEnd, LinkEnd, Plugged | None]] = [
            (plug.a, plug.b, plug) for plug in world[Cables].plugs.values() if plug.seated and not plug.held
        ]
        # In a fixed order: who came first to a full server must not hang on how a set was walked.
        joined += [(two.a, two.b, None) for two in sorted(world[Radio].met, key=str)]
        asking: list[_Client] = []
        for a, b, plug in joined:
            if a.device in self.alive and b.device in self.alive:
                for one, other in self._circuit.fits(a, b):
                    found = {
                        (here.device, (here.endpoint, mine.name)): arc
                        for here, mine, there, theirs in ((a, one, b, other), (b, other, a, one))
                        if (arc := self._arc(here, mine, there, theirs, plug)) is not None
                    }
                    # Whether a server lets one in hangs on all who ask: that is settled when they are known.
                    if found and (one.serves is not None or other.serves is not None):
                        asking.append(self._client((a, one), (b, other), plug, found))
                        continue
                    for leaving, arc in found.items():
                        arcs[leaving].append(arc)
        for client in self._served(asking):
            for leaving, arc in client.arcs.items():
                arcs[leaving].append(arc)
        return arcs

    def _client(
        self, one: tuple[LinkEnd, Role], other: tuple[LinkEnd, Role], plug: Plugged | None, arcs: dict[Leaving, Arc]
    ) -> "_Client":
        (server, role), (client, _) = (one, other) if one[1].serves is not None else (other, one)
        # It can ask once it is up and its lead is in, whichever was later.
        since_s = max(self.up_since_s(client.device) or 0.0, plug.at_s if plug is not None else 0.0)
        return _Client(since_s, str(client), Item(server.device, role.name), role.serves or 0, arcs)

    def _served(self, asking: list["_Client"]) -> Iterator["_Client"]:
        """Who is let in: whoever came first, as far as there is room."""
        # Whoever else hangs on that server already has its place: guests of another job, a phone in a pocket.
        taken = Counter(self._world[Radio].guests)
        for client in sorted(asking, key=lambda one: (one.since_s, one.name)):
            if taken[client.server] < client.room:
                taken[client.server] += 1
                yield client

    def _arc(self, here: LinkEnd, mine: Role, there: LinkEnd, theirs: Role, plug: Plugged | None) -> Arc | None:
        world = self._world
        # What only takes sends nothing: the other direction is asked for itself.
        if mine.gives is False:
            return None
        if plug is not None and not plug.conducts(world.rig, *mine.conductor, from_a=plug.a == here):
            return None
        if plug is not None and mine.is_addressed and pair(here, there) not in world[Radio].typed:
            return None
        formats: Formats = None
        # A picture that arrives in no format that is taken is no picture: the screen stays black.
        if mine.pictures:
            formats = formats_across(world, here, mine, theirs, plug)
            if not formats:
                return None
        # Each side may want the other up first, or to find it when it starts: one that does not is enough to break it.
        both = ((here, mine, there), (there, theirs, here))
        if not all(self._found(role, end.device, peer.device, plug) for end, role, peer in both):
            return None
        return Arc(there.device, (there.endpoint, theirs.name), formats)

    def _found(self, role: Role, device: str, peer: str, plug: Plugged | None) -> bool:
        """Whether `role` came up as it must: after or before its peer, with the cable already in."""
        began_s = self.began_s(device)
        if role.notices_at_boot and plug is not None and (began_s is None or plug.at_s > began_s):
            return False
        # Only over a wire does a device look for its peer at a start: radio links come up in any order.
        return plug is None or came_up(self, role.wake_rule, device, peer)

    @cached_property
    def _control_arcs(self) -> list[tuple[str, Node]]:
        rig = self._world.rig
        return [
            (device, node) for (device, node), arcs in self.arcs.items() if arcs and rig[device].role(*node).is_control
        ]

    @cached_property
    def _pictures(self) -> dict[tuple[str, str], list[Arrival]]:
        found: dict[tuple[str, str], list[Arrival]] = defaultdict(list)
        starts = [leg for leg in self._starting if leg.starts_picture]
        for leg, arrival in self._follow(starts, None):
            if leg.surface is not None and not is_dark(self._world, leg.device, leg.surface):
                found[leg.device, leg.surface].append(arrival)
        return {
            at: sorted(those, key=lambda arrival: (arrival.delay_ms, arrival.devices)) for at, those in found.items()
        }

    def _follow(self, starts: list[Leg], function: str | None) -> Iterator[tuple[Leg, Arrival]]:
        """Every way from `starts` to where it ends, with the leg that ends it; no device twice."""
        # Depth first and without a best path: rigs are small, and every arrival counts for what a person sees.
        ahead = [_Signal((leg,), (leg.device,), leg.delay_ms) for leg in starts]
        while ahead:
            signal = ahead.pop()
            last = signal.legs[-1]
            if last.leaves is None:
                yield last, Arrival(signal.devices, signal.delay_ms, look_after(signal.legs))
                continue
            for arc in self.arcs.get((last.device, last.leaves), ()):
                # Round in a circle nothing new arrives, and a picture in a loop never ends.
                if arc.device in signal.devices:
                    continue
                formats = arc.formats if signal.formats is None or arc.formats is None else signal.formats & arc.formats
                if formats is not None and not formats:
                    continue  # what one link was set to is not taken by the next
                onward = self._entering.get((arc.device, arc.node), ())
                carrying = (leg for leg in onward if (function in leg.functions if function else not leg.functions))
                ahead += [_through(signal, leg, formats) for leg in carrying]


def now(world: World) -> Now:
    """What follows from `world` at this moment."""
    return world.once(Now)


def _through(signal: _Signal, leg: Leg, formats: Formats) -> _Signal:
    return _Signal((*signal.legs, leg), (*signal.devices, leg.device), signal.delay_ms + leg.delay_ms, formats)


def came_up(now: Now, rule: str, device: str, peer: str) -> bool:
    """Whether `device` started after its peer was up, or before it did, as `rule` asks."""
    if rule == "peer-first":
        # Begun, not up: a device looks for its peer when its start begins, not at the end of it.
        began_s, up_s = now.began_s(device), now.up_since_s(peer)
        return began_s is not None and up_s is not None and began_s >= up_s
    if rule == "self-first":
        up_s, began_s = now.up_since_s(device), now.began_s(peer)
        return began_s is not None and up_s is not None and began_s >= up_s
    return True


def is_dark(world: World, device: str, surface: str) -> bool:
    """Whether a screen is turned down, or goes dark because one of its device's ports is in use."""
    dark = world.rig[device].profile.surface(surface).dark_when_used
    # A plug in the port is enough: many screens go dark for it whether or not a picture leaves there.
    in_use = dark is not None and any(plug.has(device, dark) for plug in world[Cables].plugs.values())
    return in_use or Item(device, surface) in world[Waking].dimmed


def formats_across(world: World, here: LinkEnd, mine: Role, theirs: Role, plug: Plugged | None) -> frozenset[str]:
    """The formats that pass from one end to another now: what is sent, what is taken, what the cable carries."""
    sent = sent_formats(world, here, mine)
    common = frozenset(sent) & frozenset(theirs.pictures)
    cable = plug.types(world.rig)[0] if plug is not None else None
    limit = cable.max_format if cable is not None else None
    if limit is None:
        return common
    return frozenset(picture for picture in common if pixels_rate(picture) <= pixels_rate(limit))


def sent_formats(world: World, here: LinkEnd, role: Role) -> tuple[str, ...]:
    """What leaves at an end: what its setting chooses, or any that it can where nothing chooses."""
    if role.picture_setting is None:
        return role.pictures
    item = Item(here.device, role.picture_setting)
    return (world[Menus].sent.get(item) or world[Menus].effective[item],)
