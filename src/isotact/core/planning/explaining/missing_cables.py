"""Why no way exists with the bag as it is: which cable is missing, and what is wrong with those that are there.

The nearest way is found in a rig where every cable could be had; what it lacks is named.
"""

from collections import Counter
from collections.abc import Collection, Iterator, Sequence
from weakref import WeakKeyDictionary

from isotact.core.model.cable import CableType
from isotact.core.model.legs import legs_of
from isotact.core.model.plan import Link, Obstacle, Unmet
from isotact.core.model.reach import claimed_m, distance_m, in_range
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.rig import ControlPromise, PicturePromise
from isotact.core.model.variants import beside_the_gimbal
from isotact.core.model.vocabulary import vocabulary
from isotact.core.planning.explaining.incompatible_ends import (
    apart,
    beside_the_point,
    says_of,
    unlike,
    ways_out,
    would_pass,
)
from isotact.core.planning.explaining.ruled_out import and_besides, by_school
from isotact.core.planning.explaining.sentences import sentence
from isotact.core.planning.explaining.trials import Trying
from isotact.core.planning.ways.candidates import by_make, would_be
from isotact.core.planning.ways.requirements import Requirements, obstacles, requirements
from isotact.core.planning.ways.simple_ways import Way, Ways
from isotact.core.telling.phrases import adapter_words, plain, together
from isotact.core.trades.balance.leads import least_mm


def no_way(
    rig: ResolvedRig,
    promise: ControlPromise | PicturePromise,
    dream: Ways,
    trying: Trying | None = None,
    kept: Collection[str] = (),
) -> Unmet:
    """No way with the bag as it is: what would a way need that is not here?

    With `trying`, what is to be got is named only if the promise then holds beside those that are `kept`.
    """
    if trying is not None:
        for obstacle, out in by_school(rig, promise, trying, kept):
            because = sentence(rig, promise, [obstacle])
            return Unmet(
                promise=promise.id, verdict="impossible", because=because, obstacles=(obstacle,), ways_out=(out,)
            )
    ways, _ = dream.of(promise)
    needed = [requirements(rig, way) for way in ways]
    open_ways = [needs for needs in needed if not any(True for _ in obstacles(rig, promise, needs))] or needed
    if open_ways:
        best = min(open_ways, key=lambda needs: (len(_missing(rig, needs.way)), len(needs.way.legs)))
        unmet, firsts = _cables_missing(rig, promise, best.way, open_ways)
        besides = list(obstacles(rig, promise, best))
        if besides:  # who gets the lead alone comes home twice
            return and_besides(rig, promise, unmet, besides)
        return unmet if trying is None else _tried(promise, unmet, firsts, trying, kept)
    if (far := _too_far(rig, promise)) is not None:
        helps = trying is None or trying.with_rig(beside_the_gimbal(rig), {*kept, promise.id})
        return far if helps else far.model_copy(update={"ways_out": ("Nearer is not enough: ask what it takes.",)})
    pair = unlike(rig, promise)
    if pair is None and not would_pass(rig, promise):
        pair = unlike(rig, promise, whatever_passes=True)
    if pair is not None and not beside_the_point(rig, promise, pair, trying, kept):
        named = says_of(rig, promise, pair)
        return Unmet(
            promise=promise.id,
            verdict="impossible",
            because=sentence(rig, promise, [named]),
            obstacles=(named,),
            ways_out=tuple(ways_out(rig, promise, pair, trying, kept)),
        )
    found = tuple(_not_taken(rig, promise))
    return Unmet(
        promise=promise.id,
        verdict="impossible",
        because=sentence(rig, promise, found),
        obstacles=found,
        ways_out=("Promise it from another device, or bring one that takes it.",),
    )


def _missing(rig: ResolvedRig, way: Way) -> list[str]:
    """The cable types of a way that the bag does not hold: over each span, of the link that lacks least."""
    lacking = []
    for crossing in way.crossings:
        each = [_not_there(rig, link) for link in crossing.span.links]
        lacking += min((len(missing), missing) for missing in each)[1]
    return lacking


# To get more than three of one lead is another rig.
MOST_PIECES = 3
ASK = "One lead more is not enough: ask what it takes."


def _tried(
    promise: ControlPromise | PicturePromise, unmet: Unmet, firsts: list[str], trying: Trying, kept: Collection[str]
) -> Unmet:
    """The same with ways out that hold: with one piece of the first cable of each, or with some more."""
    for pieces in range(1, MOST_PIECES + 1):
        if trying.with_cables(firsts * pieces, {*kept, promise.id}):
            several = ONE_OF if pieces == 1 else f"Get {pieces} of one kind: "
            return unmet.model_copy(update={"ways_out": tuple(out.replace(ONE_OF, several) for out in unmet.ways_out)})
    return unmet.model_copy(update={"ways_out": (ASK,)})


ONE_OF = "Get one of: "


def _cables_missing(
    rig: ResolvedRig, promise: ControlPromise | PicturePromise, way: Way, others: list[Requirements]
) -> tuple[Unmet, list[str]]:
    """What is wanting on `way`, and of each lead that is wanting the type named first."""
    have = {key for key, count in rig.stock.items() if count}
    says, outs, firsts = [], [], []
    for crossing in way.crossings:
        link = crossing.span.links[0]
        if not link.is_cable or any(not _not_there(rig, one) for one in crossing.span.links):
            continue
        there, here = rig[link.a.device].port_words(link.a.endpoint), rig[link.b.device].port_words(link.b.endpoint)
        least = least_mm(rig, *link.ends)
        fits = [rig.cables[key] for key in sorted(have) if _fits_plugs(rig, link, key)]
        # Of those that are too short the longest is named: the rest are shorter still.
        short = sorted((one for one in fits if one.length_mm < least), key=lambda one: one.length_mm)
        fits = [one for one in fits if one not in short[:-1]]
        medium = rig[link.a.device].role(link.a.endpoint, crossing.use.role_a).conductor[0]
        faults = _faults(rig, link, fits, medium, least)
        adapted = _with_adapters(rig, link, others)
        bare = f"“{adapted[1].name}” would, with {adapted[2]}" if adapted else "none in the bag fits"
        says.append(f"No cable joins {there} with {here}: {'; '.join(faults) or bare}.")
        same_ends = {
            one.cable
            for needs in others
            for other in needs.way.crossings
            for one in other.span.links
            if (one.a, one.b) == (link.a, link.b) and one.cable and not one.adapters and not one.lead
        }
        makes = {rig.cables[key].make for key in same_ends}
        types = [cable for make in makes for cable in by_make(rig)[make] if cable.length_mm >= least]
        types.sort(key=lambda cable: (cable.length_mm, cable.id))
        named = types[:3] or ([] if adapted else [rig.cables[link.cable or ""]])
        names = [cable.name for cable in named]
        if adapted:  # sooner found than a lead, and nothing else has to be laid
            names = [f"{adapter_words(rig, adapted[0])}, for “{adapted[1].name}”", *names[:2]]
        firsts += adapted[0] if adapted else [named[0].id]
        outs.append(f"{ONE_OF}{'; '.join(names)}.")
    obstacle = tuple(Obstacle(kind="cable", says=words) for words in says)
    unmet = Unmet(
        promise=promise.id,
        verdict="impossible",
        because=sentence(rig, promise, obstacle),
        obstacles=obstacle,
        ways_out=tuple(outs),
    )
    return unmet, firsts


def _not_there(rig: ResolvedRig, link: Link) -> list[str]:
    """What of a link the bag does not hold."""
    return sorted((Counter(link.stock) - Counter(rig.stock)).elements())


def _with_adapters(rig: ResolvedRig, link: Link, others: list[Requirements]) -> tuple[list[str], CableType, str] | None:
    """The adapters to get for a lead of the bag that would then go into both sockets, that lead, and where they go."""
    found = [
        (len(missing), [rig.cables[key].name for key in missing], missing, one.cable, len(one.adapters))
        for needs in others
        for crossing in needs.way.crossings
        for one in crossing.span.links
        if (one.a, one.b) == (link.a, link.b) and one.adapters
        if (missing := _not_there(rig, one)) and one.cable not in missing
    ]
    _, _, adapters, cable, count = min(found, default=(0, [], [], None, 0))
    return (adapters, rig.cables[cable], "an adapter at each end" if count > 1 else "an adapter") if cable else None


def _faults(rig: ResolvedRig, link: Link, fits: list[CableType], medium: str, least: float) -> list[str]:
    """Why each cable of the bag whose plugs go in does not do here; those with one fault are named together."""
    alike: dict[tuple[str, str], list[str]] = {}
    for cable in fits:
        alike.setdefault(_wrong_with(rig, link, cable, medium, least), []).append(f"“{cable.name}”")
    return [f"{together(names)} {many if len(names) > 1 else one}" for (one, many), names in alike.items()]


def _wrong_with(rig: ResolvedRig, link: Link, cable: CableType, medium: str, least: float) -> tuple[str, str]:
    """What is wrong with a cable, said of one and of several."""
    if cable.length_mm < least:
        short = f"too short {length_words(rig, link, cable.length_mm)}"
        return f"is {short}", f"are {short}"
    carried = {conductor.medium for conductor in cable.carries}
    if medium not in carried:
        only = "power only" if carried == {"power"} else f"no {plain(medium)}"
        return f"carries {only}", f"carry {only}"
    angled = [port for end in link.ends if (port := rig[end.device].port(end.endpoint)).angles]
    plugs = {end.angle for end in cable.ends}
    if any(not plugs & {*port.angles} for port in angled):
        clears = "only a right-angled one clears what is beside"
        return (
            f"has a {together(sorted(plugs))} plug, and {clears}",
            f"have {together(sorted(plugs))} plugs, and {clears}",
        )
    wired = sorted({one for conductor in cable.carries for one in conductor.wired_for})
    for_ = together([plain(one) for one in wired])
    return (f"is wired for {for_}", f"are wired for {for_}") if wired else ("does not carry it", "do not carry it")


_NEAR: WeakKeyDictionary[ResolvedRig, Ways] = WeakKeyDictionary()
"""Every reason of a plan asks again."""


def _near_ways(rig: ResolvedRig) -> Ways:
    """The ways there would be with everything beside the gimbal, and no lead too short."""
    if rig not in _NEAR:
        near = beside_the_gimbal(rig)
        _NEAR[rig] = Ways(near, would_be(near, any_length=True))
    return _NEAR[rig]


def _too_far(rig: ResolvedRig, promise: ControlPromise | PicturePromise) -> Unmet | None:
    """Whether it is only the distance, which no cable there is can span and no radio that is here."""
    ways, _ = _near_ways(rig).of(promise)
    crossed = [crossing.span.links for way in ways for crossing in way.crossings]
    fading = [links[0] for links in crossed if links[0].is_radio and not in_range(rig, *links[0].ends)]
    stretched = [
        links
        for links in crossed
        if links[0].is_cable and _longest(rig, links).length_mm < least_mm(rig, *links[0].ends)
    ]
    if fading:
        obstacle, out = _out_of_range(rig, fading[0]), "Bring a link that reaches further, or stand it nearer."
    elif stretched:
        leaves = "off" in stretched[0][0].axes
        out = "Bring a transmitter and a receiver, or stand it nearer." if leaves else "Get a longer lead of that kind."
        obstacle = _too_short(rig, stretched[0])
    else:
        return None
    return Unmet(
        promise=promise.id,
        verdict="impossible",
        because=sentence(rig, promise, [obstacle]),
        obstacles=(obstacle,),
        ways_out=(out,),
    )


def _out_of_range(rig: ResolvedRig, link: Link) -> Obstacle:
    one, other = (rig[end.device].port_words(end.endpoint) for end in link.ends)
    claim = f"{claimed_m(rig, *link.ends) or 0:g} m is claimed for the two in the open"
    says = f"{one} and {other} do not reach each other: {claim}, too little {_distance_words(rig, link)}."
    return Obstacle(kind="radio", says=says)


def _too_short(rig: ResolvedRig, links: Sequence[Link]) -> Obstacle:
    longest = _longest(rig, links)
    why = length_words(rig, links[0], longest.length_mm)
    says = f"No cable reaches: the longest is {longest.name}, too short {why}."
    return Obstacle(kind="cable", says=says)


def _longest(rig: ResolvedRig, links: Sequence[Link]) -> CableType:
    """The longest cable there is that does what `links` do."""
    makes = by_make(rig)
    ends = [makes[rig.cables[one.cable].make][-1] for one in links if one.cable]
    return max(ends, key=lambda cable: cable.length_mm)


def too_short(rig: ResolvedRig, links: Sequence[Link]) -> str | None:
    """The longest lead of the bag that would do for one of `links`, but for its length; None where there is none."""
    have = [rig.cables[key] for key, count in rig.stock.items() if count]
    found = [
        (cable.length_mm, link, cable)
        for link in links
        for cable in have
        if link.cable and cable.make == rig.cables[link.cable].make and cable.length_mm < least_mm(rig, *link.ends)
    ]
    if not found:
        return None
    length, link, cable = max(found, key=lambda one: (one[0], one[1].id))
    return f"“{cable.name}” is too short {length_words(rig, link, length)}"


def length_words(rig: ResolvedRig, link: Link, length_mm: float) -> str:
    """Why a lead of so many millimetres does not do between two ends: what is needed, and what it is."""
    numbers = f"{least_mm(rig, *link.ends) / 1000:g} m are needed, and it is {length_mm / 1000:g} m long"
    turning = [axis for axis in link.axes if axis != "off"]
    if turning and "off" not in link.axes:
        return f"to cross {together(turning)}: {numbers}"
    return f"{_distance_words(rig, link)}: {numbers}"


def _distance_words(rig: ResolvedRig, link: Link) -> str:
    """How far away it is that something has to reach."""
    away = [(far, rig[end.device].name) for end in link.ends if (far := distance_m(rig, end.device)) is not None]
    if not away:
        return "to leave the gimbal"
    far_m, name = max(away)
    return f"for {name}, {far_m:g} m from the gimbal"


def _fits_plugs(rig: ResolvedRig, link: Link, cable: str) -> bool:
    """Whether a cable of the bag would go into both sockets, whatever it carries."""
    kind = rig.cables[cable]
    sockets = [rig[end.device].port(end.endpoint).connector for end in link.ends]
    plugs = [end.connector for end in kind.ends]
    return not kind.is_adapter and not kind.is_splitter and sorted(plugs) == sorted(sockets)


def _no_picture(rig: ResolvedRig, promise: PicturePromise) -> str:
    placed = rig[promise.at.device]
    screen = placed.profile.surface(promise.at.surface).name
    legs = [leg for leg in legs_of(placed) if leg.ends_picture and leg.surface == promise.at.surface and leg.enters]
    ends = list(dict.fromkeys(placed.endpoint(leg.enters[0]).shown[0] for leg in legs if leg.enters))
    if not ends:
        return f"The {screen} of {placed.name} shows no picture from outside."
    if not any(leg.starts_picture for one in rig.devices.values() for leg in legs_of(one)):
        return "No device in this rig makes a picture."
    return f"The {screen} of {placed.name} takes a picture by {together(ends)} only, and nothing here sends one there."


def _not_taken(rig: ResolvedRig, promise: ControlPromise | PicturePromise) -> Iterator[Obstacle]:
    """Nothing that could be joined carries it: say which end lacks it."""
    if isinstance(promise, PicturePromise):
        yield Obstacle(kind="route", says=_no_picture(rig, promise))
        return
    name = vocabulary().functions[promise.function].name
    legs = [leg for placed in rig.devices.values() for leg in legs_of(placed)]
    starts = [leg for leg in legs if leg.device == promise.at.device and leg.surface == promise.at.surface]
    placed = rig[promise.at.device]
    surface = placed.profile.surface(promise.at.surface).name
    if not any(promise.function in leg.functions for leg in starts):
        offered = sorted({vocabulary().functions[f].name for leg in starts for f in leg.functions})
        gives = f"it gives only {', '.join(offered)}" if offered else "it gives no function at all"
        yield Obstacle(
            kind="function", device=placed.id, says=f"The {surface} of {placed.name} does not give {name}; {gives}."
        )
        return
    takers = [leg for leg in legs if leg.is_taken and promise.function in leg.functions]
    if not takers:
        own = sorted({rig[leg.device].name for leg in legs if leg.is_own and promise.function in leg.functions})
        only = f": {together(own)} only at its own controls" if own else ""
        yield Obstacle(kind="function", says=f"No device in this rig takes {name} from another{only}.")
        return
    yield apart(rig, promise)
