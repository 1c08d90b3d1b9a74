"""Every link that could be made: pairs of ends whose plugs mate and whose roles fit."""

from collections import defaultdict
from collections.abc import Collection, Iterable, Iterator, Mapping
from dataclasses import dataclass
from itertools import combinations, permutations, product

from isotact.core.model.cable import CableType, conducts
from isotact.core.model.memo import once_for_two
from isotact.core.model.plan import Link, LinkEnd, Use
from isotact.core.model.ports import Port, Radio
from isotact.core.model.profile import Profile
from isotact.core.model.reach import in_range
from isotact.core.model.resolved import Placed, ResolvedRig
from isotact.core.model.roles import Role
from isotact.core.model.words import Stage, axes_between, pixels_rate
from isotact.core.trades.balance.leads import least_mm, lengths_mm

_MEETS = {
    ("access-point", "station"),
    ("station", "access-point"),
    ("peer", "peer"),
    ("sender", "receiver"),
    ("receiver", "sender"),
}


def candidates(rig: ResolvedRig) -> list[Link]:
    """Every link that could be made with the bag, sorted by id."""
    return sorted(_found(rig, rig.stock), key=lambda link: link.id)


def candidates_with(rig: ResolvedRig, brought: Collection[str], before: Iterable[Link]) -> list[Link]:
    """The same, where all that was brought since are some devices: `before` are the links without them."""
    stay = [link for link in before if not any(end.device in brought for end in link.ends)]
    return sorted([*stay, *_found(rig, rig.stock, brought)], key=lambda link: link.id)


def would_be(rig: ResolvedRig, any_length: bool = False) -> list[Link]:
    """Every link that could be made if the bag held one of each cable type there is, and two of each adapter.

    Of types that differ in nothing but their length the shortest is enough, and the shortest for each length that the
    rig may need: a rental house has every length. `any_length`: as if no lead were too short.
    """
    wanted = {key for key, count in rig.stock.items() if count}
    # A longer cable than the next one up does nothing more.
    lengths = lengths_mm(rig)
    for those in by_make(rig).values():
        for least in (0.0, *lengths):
            wanted |= {next((one.id for one in those if one.length_mm >= least), those[0].id)}
    # Of a lead one will do. Of an adapter there may be one to get for each end.
    stock = {key: max(1 + rig.cables[key].is_adapter, rig.stock.get(key, 0)) for key in sorted(wanted)}
    return sorted(_found(rig, stock, any_length=any_length), key=lambda link: link.id)


def by_make(rig: ResolvedRig) -> dict[str, list[CableType]]:
    """The cable types there are, those together that differ in length only, the shortest first."""
    makes: dict[str, list[CableType]] = defaultdict(list)
    for cable in sorted(rig.cables.values(), key=lambda one: (one.length_mm, one.id)):
        makes[cable.make].append(cable)
    return makes


def _found(
    rig: ResolvedRig, stock: Mapping[str, int], brought: Collection[str] | None = None, any_length: bool = False
) -> Iterator[Link]:
    at_hand = frozenset(key for key, count in rig.stock.items() if count)
    bag = _Bag([(rig.cables[key], count) for key, count in stock.items() if count], at_hand)
    pairs = combinations(rig.devices.values(), 2)
    for one, other in pairs:
        if brought is None or one.id in brought or other.id in brought:
            yield from (link for link in _links(rig, one, other, bag, any_length) if _suits_school(rig, link))


def _suits_school(rig: ResolvedRig, link: Link) -> bool:
    """Of the two ways to give one port both control and power, the one that the job has chosen."""
    school = rig.rig.schools.port
    if school == "either" or not any(use.is_power for use in link.uses):
        return True
    if any(rig[end.device].endpoint(end.endpoint).is_battery_bay for end in link.ends):
        return school == "dummy-battery"
    return link.lead is None or school == "splitter"


def _links(rig: ResolvedRig, one: Placed, other: Placed, bag: "_Bag", any_length: bool) -> Iterator[Link]:
    ports, radios = once_for_two(one.profile, other.profile, _meeting)
    for port_a, port_b, fitting in ports:
        ends = LinkEnd(device=one.id, endpoint=port_a.id), LinkEnd(device=other.id, endpoint=port_b.id)
        stages = one.stage_of(port_a.id), other.stage_of(port_b.id)
        least = 0.0 if any_length else least_mm(rig, *ends)
        yield from _port_links(ends, (port_a, port_b), stages, least, fitting, bag)
    for radio_a, radio_b, uses in radios:
        ends = LinkEnd(device=one.id, endpoint=radio_a.id), LinkEnd(device=other.id, endpoint=radio_b.id)
        if in_range(rig, *ends):
            yield Link(id=f"{ends[0]}--{ends[1]}", kind="radio", a=ends[0], b=ends[1], uses=uses)


Fitting = tuple[tuple[Role, Use], ...]
"""What two ends have to say to each other: the role at the first of them, and the use."""


def _meeting(
    one: Profile, other: Profile
) -> tuple[list[tuple[Port, Port, Fitting]], list[tuple[Radio, Radio, tuple[Use, ...]]]]:
    """The ports and the radios of two kinds of device that have anything to say to each other."""

    def fitting(a: Port | Radio, b: Port | Radio) -> Fitting:
        return tuple((role, _use(role, far)) for role, far in product(a.roles, b.roles) if role.fits(far))

    ports = [(a, b, fits) for a, b in product(one.ports, other.ports) if (fits := fitting(a, b))]
    radios = [
        (a, b, tuple(use for _, use in fits))
        for a, b in product(one.radios, other.radios)
        if a.system == b.system and (a.part, b.part) in _MEETS and (fits := fitting(a, b))
    ]
    return ports, radios


@dataclass(frozen=True)
class _Lay:
    """One way for a cable to lie between two sockets."""

    cable: CableType
    end_a: int
    end_b: int
    adapter_a: CableType | None = None
    adapter_b: CableType | None = None
    lead: str | None = None

    @property
    def adapters(self) -> list[CableType]:
        return [one for one in (self.adapter_a, self.adapter_b) if one is not None]

    @property
    def length_mm(self) -> float:
        """From plug to plug, adapters with it."""
        return self.cable.length_mm + sum(one.length_mm for one in self.adapters)

    @property
    def tail(self) -> str:
        """What tells this from other ways between the same ends."""
        if self.lead:
            return f"~{self.lead}:{self.end_a}-{self.end_b}"
        on = (("a", self.adapter_a), ("b", self.adapter_b))
        return f"~{self.cable.id}" + "".join(f"+{one.id}@{side}" for side, one in on if one is not None)

    def goes_in(self, port_a: Port, port_b: Port) -> bool:
        """Whether its plugs clear what stands beside the two sockets. An adapter's plug takes its place."""
        for port, number, adapter in ((port_a, self.end_a, self.adapter_a), (port_b, self.end_b, self.adapter_b)):
            lead = self.cable.ends[number - 1]
            plug = next(end for end in adapter.ends if end.gender == "plug") if adapter else lead
            if port.angles and plug.angle not in port.angles:
                return False
        return True

    def carries(self, a: Role) -> bool:
        """Whether it carries what role `a`, at its a end, has to say."""
        ends = (self.end_b, self.end_a) if a.gives is False else (self.end_a, self.end_b)
        return conducts(self.cable, self.adapters, ends, *a.conductor)


class _Bag:
    """The ways that its cables can lie, by the two connectors that they are to join."""

    def __init__(self, stock: list[tuple[CableType, int]], at_hand: frozenset[str]) -> None:
        self._at_hand = at_hand
        self._plain: dict[tuple[str, str], list[_Lay]] = defaultdict(list)
        self._adapted: dict[tuple[str, str], list[_Lay]] = defaultdict(list)
        self._adapted_twice: dict[tuple[str, str], list[_Lay]] = defaultdict(list)
        self._split: dict[tuple[str, str], list[_Lay]] = defaultdict(list)
        self._count = {cable.id: count for cable, count in stock}
        adapters = [(cable, *_faces(cable)) for cable, _ in stock if cable.is_adapter]
        for cable, count in stock:
            if cable.is_splitter:
                self._splitter(cable, count)
            elif not cable.is_adapter:
                self._cable(cable, [a for a in adapters if a[2] is not None])

    def lays(self, want_a: str, want_b: str) -> list[_Lay]:
        """A cable that fits with fewer adapters is not offered with more."""
        found: list[_Lay] = []
        for more in (self._plain, self._adapted, self._adapted_twice):
            fits = {lay.cable.id for lay in found}
            found += [lay for lay in more[want_a, want_b] if lay.cable.id not in fits]
        return [*found, *self._split[want_a, want_b]]

    def _cable(self, cable: CableType, adapters: list[tuple[CableType, str, str | None]]) -> None:
        same = cable.ends[0] == cable.ends[1] and not any(conductor.one_way for conductor in cable.carries)
        for end_a, end_b in ((1, 2),) if same else ((1, 2), (2, 1)):
            first, second = cable.ends[end_a - 1].connector, cable.ends[end_b - 1].connector
            self._plain[first, second].append(_Lay(cable, end_a, end_b))
            at_a = [(adapter, plug) for adapter, plug, socket in adapters if socket == first]
            at_b = [(adapter, plug) for adapter, plug, socket in adapters if socket == second]
            for adapter, plug in at_a:
                self._adapted[plug, second].append(_Lay(cable, end_a, end_b, adapter_a=adapter))
            for adapter, plug in at_b:
                self._adapted[first, plug].append(_Lay(cable, end_a, end_b, adapter_b=adapter))
            # Of leads to be got there is always one that fits: only those at hand are made to fit at both ends.
            for (one, here), (other, there) in product(at_a, at_b) if cable.id in self._at_hand else ():
                if one is not other or self._count[one.id] > 1:
                    lay = _Lay(cable, end_a, end_b, adapter_a=one, adapter_b=other)
                    self._adapted_twice[here, there].append(lay)

    def _splitter(self, cable: CableType, count: int) -> None:
        runs = {frozenset(conductor.between) for conductor in cable.carries}
        for piece in range(1, min(count, MAX_PIECES) + 1):
            for end_a, end_b in permutations(range(1, len(cable.ends) + 1), 2):
                if frozenset((end_a, end_b)) in runs:
                    ends = cable.ends[end_a - 1].connector, cable.ends[end_b - 1].connector
                    self._split[ends].append(_Lay(cable, end_a, end_b, lead=f"{cable.id}#{piece}"))


MAX_PIECES = 4
"""Of one kind of cable with three and more ends, so many are weighed in one rig."""


def _faces(adapter: CableType) -> tuple[str, str | None]:
    """The connector that an adapter plugs into, and the one that it offers instead."""
    plug = next(end.connector for end in adapter.ends if end.gender == "plug")
    return plug, next((end.connector for end in adapter.ends if end.gender == "receptacle"), None)


def _port_links(
    ends: tuple[LinkEnd, LinkEnd],
    ports: tuple[Port, Port],
    stages: tuple[Stage, Stage],
    least_mm: float,
    fitting: Fitting,
    bag: _Bag,
) -> Iterator[Link]:
    port_a, port_b = ports
    axes = axes_between(*stages)
    captive = (port_a.lead_mm is not None, port_b.lead_mm is not None)
    if port_a.is_direct or port_b.is_direct or any(captive):
        lead_mm = port_a.lead_mm or port_b.lead_mm
        # A lens stands wherever its body does.
        seats = any(use.is_seat for _, use in fitting)
        near = lead_mm >= least_mm if lead_mm else seats or stages[0] == stages[1]
        if port_a.mates(port_b) and not all(captive) and near:
            uses = tuple(use for _, use in fitting)
            crossed = axes if any(captive) else ()
            yield Link(id=f"{ends[0]}--{ends[1]}", kind="direct", a=ends[0], b=ends[1], uses=uses, axes=crossed)
        return
    for lay in bag.lays(port_a.connector, port_b.connector):
        if not lay.goes_in(port_a, port_b) or lay.length_mm < least_mm:
            continue
        carried = tuple(use for role, use in fitting if lay.carries(role))
        if carried:
            yield Link(
                id=f"{ends[0]}--{ends[1]}{lay.tail}",
                kind="cable",
                a=ends[0],
                b=ends[1],
                cable=lay.cable.id,
                adapter_a=lay.adapter_a.id if lay.adapter_a else None,
                adapter_b=lay.adapter_b.id if lay.adapter_b else None,
                end_a=lay.end_a,
                end_b=lay.end_b,
                lead=lay.lead,
                uses=carried,
                axes=axes,
            )


def _use(a: Role, b: Role) -> Use:
    return Use(kind=a.kind, role_a=a.name, role_b=b.name, flow=a.flow_from_here)


SPAN_JOINT = "|"


@dataclass(frozen=True, eq=False)
class Span:
    """Two ends and one thing that passes between them, whichever cable lies there.

    Ways are walked over spans: which of several like cables is taken is settled by stock, length and load.
    Cables that differ in the picture format they carry make different spans.
    """

    key: str
    a: LinkEnd
    b: LinkEnd
    use: Use
    max_format: str | None
    links: tuple[Link, ...]


def spans_of(rig: ResolvedRig, links: list[Link]) -> dict[str, Span]:
    """Every span that `links` make, by key, in the order of the links."""
    found: dict[str, tuple[Link, Use, str | None, list[Link]]] = {}
    for link in links:
        between = f"{link.a}--{link.b}"
        for use in link.uses:
            limit = _max_format(rig, link, use) if use.is_picture else None
            key = SPAN_JOINT.join((between, use.role_a, use.role_b, limit or ""))
            found.setdefault(key, (link, use, limit, []))[3].append(link)
    return {
        key: Span(key, link.a, link.b, use, limit, tuple(those)) for key, (link, use, limit, those) in found.items()
    }


def _max_format(rig: ResolvedRig, link: Link, use: Use) -> str | None:
    """The cable's limit, where it keeps out a format that both ends know: any other limit makes no difference."""
    limit = rig.cables[link.cable].max_format if link.cable else None
    if limit is None:
        return None
    one, other = (
        rig[link.a.device].role(link.a.endpoint, use.role_a),
        rig[link.b.device].role(link.b.endpoint, use.role_b),
    )
    both = [picture for picture in one.pictures if picture in other.pictures]
    return limit if any(pixels_rate(picture) > pixels_rate(limit) for picture in both) else None
