"""Every way of every promise, before anything is chosen."""

from dataclasses import dataclass

from isotact.core.model.plan import Link
from isotact.core.model.resolved import ResolvedRig
from isotact.core.planning.finding.candidates import candidates
from isotact.core.planning.finding.requirements import Requirements, obstacles, requirements
from isotact.core.planning.finding.walks import Walk, walk
from isotact.core.planning.finding.ways import Ways


@dataclass(frozen=True)
class Searched:
    """What the search turned up before anything was chosen."""

    links: list[Link]
    options: dict[str, list[Requirements]]
    ruled_out: dict[str, list[Requirements]]
    walks: dict[str, Walk]
    """Promises that have too many ways to list: `options` and `ruled_out` hold the simplest, the graph has all."""


def search(rig: ResolvedRig, links: list[Link] | None = None) -> Searched:
    """Every way of every promise, apart by whether something fixed rules it out."""
    links = candidates(rig) if links is None else links
    ways = Ways(rig, links)
    options: dict[str, list[Requirements]] = {}
    ruled_out: dict[str, list[Requirements]] = {}
    walks = {}
    for each in rig.rig.promises:
        options[each.id], ruled_out[each.id] = [], []
    for promise in rig.rig.routed:
        found, whole = ways.of(promise)
        if not whole:
            walks[promise.id] = walk(rig, ways, promise)
        for way in found:
            needs = requirements(rig, way)
            blocked = any(True for _ in obstacles(rig, promise, needs))
            (ruled_out if blocked else options)[promise.id].append(needs)
    return Searched(links, options, ruled_out, walks)
