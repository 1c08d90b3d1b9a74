"""Every way of every promise, before anything is chosen."""

from dataclasses import dataclass

from isotact.core.model.needed_pictures import with_needed_pictures
from isotact.core.model.plan import Link
from isotact.core.model.resolved import ResolvedRig
from isotact.core.planning.ways.candidates import candidates
from isotact.core.planning.ways.requirements import Requirements, obstacles, requirements
from isotact.core.planning.ways.simple_ways import MOST_LISTED, Ways
from isotact.core.planning.ways.way_graph import Walk, walk


@dataclass(frozen=True)
class Searched:
    """What the search turned up before anything was chosen."""

    links: list[Link]
    options: dict[str, list[Requirements]]
    ruled_out: dict[str, list[Requirements]]
    walks: dict[str, Walk]
    """Promises that have too many ways to list: `options` and `ruled_out` hold the simplest, the graph has all."""
    cut_short: bool = False
    """Whether the one that was to be listed has more ways than were."""


# Listing is cheap up to here; beyond it the graph of them is the smaller model.
MAX_ROUTES = 30
"""Per promise. One with more ways walks through their graph (`way_graph`)."""
SIMPLEST = 12
"""So many ways are listed of a promise that walks: enough to tell why, in words, when it cannot be kept."""


def search(rig: ResolvedRig, links: list[Link] | None = None, listed: str | None = None) -> Searched:
    """Every way of every promise, apart by whether something fixed rules it out.

    The promise `listed` does not walk: of its ways the simplest are listed, as many as are listed of any.
    """
    rig = with_needed_pictures(rig)
    links = candidates(rig) if links is None else links
    ways = Ways(rig, links)
    options: dict[str, list[Requirements]] = {}
    ruled_out: dict[str, list[Requirements]] = {}
    walks = {}
    cut_short = False
    for each in rig.rig.promises:
        options[each.id], ruled_out[each.id] = [], []
    for promise in rig.rig.routed:
        found, whole = ways.of(promise, MOST_LISTED if promise.id == listed else MAX_ROUTES)
        if not whole and promise.id == listed:
            cut_short = True
        elif not whole:
            walks[promise.id] = walk(rig, ways, promise)
            found = found[:SIMPLEST]
        for way in found:
            needs = requirements(rig, way)
            blocked = any(True for _ in obstacles(rig, promise, needs))
            (ruled_out if blocked else options)[promise.id].append(needs)
    return Searched(links, options, ruled_out, walks, cut_short)
