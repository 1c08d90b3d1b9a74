"""A way that was chosen, written down as a route: hop by hop, with what it asks of each device on it."""

from collections.abc import Iterator

from isotact.core.model.plan import Hop, Route, Want
from isotact.core.model.resolved import ResolvedRig
from isotact.core.planning.ways.requirements import Requirements
from isotact.core.planning.ways.simple_ways import has_look


def route_of(rig: ResolvedRig, promise: str, needs: Requirements, chosen: set[str]) -> Route:
    """A way as a route over those of its links that are chosen."""
    way = needs.way
    hops = []
    for number, leg in enumerate(way.legs):
        placed = rig[leg.device]
        enters = "/".join(leg.enters) if leg.enters else None
        leaves = "/".join(leg.leaves) if leg.leaves else None
        words = f"{placed.name}: {placed.profile.surface(leg.surface).name}" if leg.surface else placed.name
        hops.append(Hop(device=leg.device, enters=enters, leaves=leaves, delay_ms=leg.delay_ms, words=words))
        if number < len(way.crossings):
            crossing = way.crossings[number]
            link = next(link.id for link in crossing.span.links if link.id in chosen)
            hops.append(
                Hop(
                    device=crossing.to.device,
                    link=link,
                    use=crossing.use,
                    words=f"out by {placed.endpoint(crossing.at.endpoint).words}",
                )
            )
    wants = tuple(dict.fromkeys(_wants(needs)))
    return Route(promise=promise, hops=tuple(hops), delay_ms=way.delay_ms, look=has_look(way), wants=wants)


def _wants(needs: Requirements) -> Iterator[Want]:
    for (device, kind, key), values in needs.knobs.items():
        yield Want(device=device, kind=kind, key=key, values=values)
    for leg in needs.way.legs:
        for when in leg.whens:
            if when.firmware is not None:
                yield Want(device=leg.device, kind="firmware", values=(when.firmware,))
            if when.licence is not None:
                yield Want(device=leg.device, kind="licence", key=when.licence, values=(when.licence,))
