"""What every variable of a choice costs, and the aim: most promises first, then the least cost."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Iterator
from typing import TYPE_CHECKING

from isotact.core.model.plan import Link, LinkEnd
from isotact.core.model.resolved import ResolvedRig
from isotact.core.planning.optimising import price_list
from isotact.core.planning.optimising.choice_model import ChoiceModel
from isotact.core.planning.tape_flags import is_plugged
from isotact.core.planning.ways.feed_spans import FeedSpan
from isotact.core.planning.ways.requirements import knob_now
from isotact.core.solver import fix, most, weighted

if TYPE_CHECKING:
    from ortools.sat.python import cp_model

    Term = tuple[int, cp_model.IntVar]

FINE = 2000
"""Points are scaled by this, so that ties can be broken below one point by the order of the profile."""


def price(c: ChoiceModel) -> dict[str, list[Term]]:
    """Per kind of cost, how many units each variable stands for."""
    c.priced = c.priced or _priced(c)
    return c.priced


def _priced(c: ChoiceModel) -> dict[str, list[Term]]:
    lines: dict[str, list[Term]] = defaultdict(list)
    built = any(flag.plugged for flag in c.rig.rig.flags)
    for link in c.links.values():
        lines["axis"].append((len(link.axes), c.link[link.id]))
        if c.rig.is_leash(link):
            lines["leash"].append((1, c.link[link.id]))
        if built and not is_plugged(c.rig.rig, link):
            lines["change"].append((1, c.link[link.id]))
        # A piece with three ends is one piece, however many of them are plugged.
        if not link.lead:
            _price_of_piece(c, lines, link, c.link[link.id])
    for lead, var in c.lead.items():
        _price_of_piece(c, lines, next(link for link in c.links.values() if link.lead == lead), var)
    lines["thin"] = _thin(c)
    for knob, values in c.value.items():
        now = knob_now(c.rig[knob[0]], knob)
        for value, var in values.items():
            # To leave a knob as it stands costs nothing.
            if value != now:
                lines[knob[1]].append((1, var))
                undone = c.rig[knob[0]].upsets_of(knob[1], knob[2], value)
                lines["upset"].append((sum(price_list.UPSETS[one] for one in undone), var))
    # Weight is added because the gimbal wants it, and never but for that.
    lines["device"] += [(1, var) for device, var in c.awake.items() if not c.rig[device].profile.ballast]
    lines["bare"] += [(1, var) for var in c.bare.values()]
    lines["grounded"] += [(1, var) for var in c.grounded.values()]
    if any(promise.changes for promise in c.rig.rig.lasting):
        lines["dark"] += [(1, c.carries[key]) for key, feed in c.feeds.items() if _goes_dark(c.rig, feed)]
    lines["idle"] += [(1, var) for var in c.idle.values()]
    for promise in c.rig.rig.pictures:
        listed = c.options.get(promise.id, []) if promise.id not in c.paths else []
        for number, needs in enumerate(listed):
            lines["delay"].append((price_list.delay_units(needs.way.delay_ms), c.route[promise.id, number]))
    lines["delay"] += [(1, path.lag) for path in c.paths.values() if path.lag is not None]
    return lines


def _thin(c: ChoiceModel) -> list[Term]:
    """What is lost in each link over which anything could be fed."""
    ohms: dict[str, float] = defaultdict(float)
    for feed in c.feeds.values():
        for key, carried in feed.by_link.items():
            ohms[key] = max(ohms[key], carried.line.ohm)
    return [(price_list.thin_units(ohm), c.link[key]) for key, ohm in ohms.items()]


def _goes_dark(rig: ResolvedRig, feed: FeedSpan) -> bool:
    """Whether what a feed carries is lost while the battery before it is changed."""
    giver, taker = (rig[device].profile.power for device in (feed.giver, feed.taker))
    battery = giver.inner_battery if giver is not None else None
    changed = battery is not None and battery.fitted and not battery.hot_swap
    return changed and taker is not None and not taker.bridges


def _price_of_piece(c: ChoiceModel, lines: dict[str, list[Term]], link: Link, var: cp_model.IntVar) -> None:
    lines["join" if link.is_cable else link.kind].append((1, var))
    if link.adapters:
        lines["adapter"].append((len(link.adapters), var))
    length = sum(c.rig.cables[key].length_mm for key in link.stock)
    lines["length"].append((price_list.length_units(length), var))


def aim(c: ChoiceModel) -> None:
    """Obey the pins; keep the most promises by weight; among those the cheapest; then by the order of the profiles."""
    fix(c.aimed, 1)
    c.model.maximize(gain([c]))


def gain(several: list[ChoiceModel], *ahead: list[Term]) -> cp_model.LinearExpr:
    """What is to be made most of, over the rigs of one model; `ahead` of everything else, the least of it first."""
    cheap = [(-weight, var) for c in several for weight, var in points_of(c)]
    return stacked([cheap, *_tiers(several), *ahead])


def gained(c: ChoiceModel, worth: int) -> cp_model.BoundedLinearExpression | bool:
    """That pins and promises come to as much as in a plan whose gain is `worth`, whatever it costs."""
    unit = 1 + _bound(points_of(c))
    # Rounded up: points are taken off, and all of them together are less than one unit of the tiers.
    return stacked(_tiers([c])) == -(-worth // unit)


def cost_of(several: list[ChoiceModel]) -> cp_model.LinearExpr:
    """What all that is chosen costs."""
    return weighted([term for c in several for term in points_of(c)])


def stacked(tiers: Iterable[list[Term]]) -> cp_model.LinearExpr:
    """One sum in which a single unit of a tier outweighs all that the tiers before it could add up to.

    That is so by their bounds, whatever is chosen: no weight is guessed.
    """
    terms: list[Term] = []
    unit = 1
    for tier in tiers:
        terms += [(unit * weight, var) for weight, var in tier]
        unit *= 1 + _bound(tier)
    return weighted(terms)


def _bound(tier: list[Term]) -> int:
    """What a tier could add up to at the most."""
    return sum(abs(weight) * most(var) for weight, var in tier)


def _tiers(several: list[ChoiceModel]) -> Iterator[list[Term]]:
    """What counts, from the least to the most: hours, what is to work, pins.

    Hours that would cost another promise are no hours: they come after all that is to work for so long.
    """
    promised = [(promise, c.kept[promise.id]) for c in several for promise in c.rig.rig.promises]
    for first in (False, True):
        yield [(promise.weight, var) for promise, var in promised if promise.comes_first is first]
    yield [(1, var) for c in several for var in c.obeyed]


def points_of(c: ChoiceModel) -> list[Term]:
    """The price of everything that can be chosen, in thousandths of a point."""
    points = [
        (FINE * price_list.WORDS[kind][1] * count, var)
        for kind, items in price(c).items()
        for count, var in items
        if count
    ]
    # Of values at one price the first of the profile, where makers put what is usual. Nine at the most, so that all
    # knobs of a rig together stay below a point.
    points += [(min(place, 9), var) for values in c.value.values() for place, var in enumerate(values.values())]
    # Of lenses of which nothing decides the lightest, of weights the fewest that make up what lacks. All of it is less
    # than a point as well: no lens weighs 50 kg, and no gimbal lacks 10.
    sitting = [(device, placed) for device, placed in c.rig.devices.items() if placed.seat is not None]
    points += [(round(placed.mass_g / 100), c.awake[device]) for device, placed in sitting]
    points += [(1, var) for var in c.lacks.values()]
    points += [(1, c.awake[device]) for device, placed in c.rig.devices.items() if placed.profile.ballast]
    apart = _Likes(c.rig)
    return points + [(most, c.link[link.id]) for link in c.links.values() if (most := apart.of(link))]


class _Likes:
    """How far a link is from joining like devices in the order of the rig with like ports in the order of theirs.

    Of like ports of one device the first is taken first.

    Of three like motors any could turn any ring: the first turns the first, and the chain runs from the first on. By
    the square: where the first is kept off, each of the others moves up by one, rather than the last of them by three.
    """

    def __init__(self, rig: ResolvedRig) -> None:
        self._rig = rig
        self._likes: dict[str, list[str]] = defaultdict(list)
        documented = [device.id for device in rig.rig.devices]
        for device in (*documented, *(other for other in rig.devices if other not in documented)):
            self._likes[rig[device].profile.id].append(device)

    def of(self, link: Link) -> int:
        one, other = link.ends
        likes = [self._likes[self._rig[end.device].profile.id] for end in link.ends]
        if len(likes[0]) == len(likes[1]) == 1:
            return self._port(one) + self._port(other)  # of like ports the first
        places = [those.index(end.device) for those, end in zip(likes, link.ends, strict=True)]
        if likes[0] is likes[1]:
            return (places[0] - places[1]) ** 2
        far = (places[0] - self._port(other)) ** 2 if len(likes[0]) > 1 else 0
        return far + ((places[1] - self._port(one)) ** 2 if len(likes[1]) > 1 else 0)

    def _port(self, end: LinkEnd) -> int:
        ends = self._rig[end.device].profile.endpoints
        kind = ends[end.endpoint].shown[-1]
        return [key for key, one in ends.items() if one.shown[-1] == kind].index(end.endpoint)
