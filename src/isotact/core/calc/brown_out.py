"""Volts that are left at the end of every lead when motors are held at the end of a charge: who browns out.

A rule that is on the safe side and asks for no solving: every device is taken to draw as many amps as at its lowest
volts, where what draws steady watts draws most. For one device on one lead that is exact where it matters, since at the
brink it has just these volts; devices nearer to the battery have more and draw less, so that what passes here passes
`calc.volts` too (`tests/core/calc/test_brown_out.py`).
"""

from collections import defaultdict
from collections.abc import Mapping

from isotact.core.calc.loads import Drawing, Lead, Load, Source

ROUNDING_V = 1e-6
"""Less than this is rounding, not a brown-out."""


def browned_out(loads: Mapping[str, Load], sources: Mapping[str, Source], fed: Mapping[str, Lead | None]) -> set[str]:
    """The leads at whose end too few volts are left. `fed`: every device that has power -> the lead that feeds it."""
    lined = [lead for lead in fed.values() if lead is not None and lead.line is not None]
    if not lined:
        return set()
    order = _outwards(fed)
    amps, held = _amps(loads, sources, fed, order)
    volts: dict[str, float] = {}
    over: set[str] = set()
    for device in order:
        lead, source = fed[device], sources.get(device)
        if lead is None:
            if source is not None and source.open_v:
                volts[device] = source.open_v - source.ohm * (amps[device] + held[device])
            continue
        line, giver_v = lead.line, volts.get(lead.giver)
        if line is None:
            continue
        if line.held_v is not None:
            if giver_v is not None and giver_v < line.needs_v - ROUNDING_V:
                over.add(lead.id)
            giver_v = line.held_v
        if giver_v is None:
            continue  # nothing is known of the volts before it
        volts[device] = giver_v - line.ohm * (amps[device] + held[device])
        if volts[device] < line.lowest_v - ROUNDING_V:
            over.add(lead.id)
    return over


def _outwards(fed: Mapping[str, Lead | None]) -> list[str]:
    """Every device after the one that feeds it."""
    below: dict[str, list[str]] = defaultdict(list)
    order = []
    for device, lead in fed.items():
        if lead is None:
            order.append(device)
        else:
            below[lead.giver].append(device)
    for device in order:
        order += below[device]
    return order


def _amps(
    loads: Mapping[str, Load], sources: Mapping[str, Source], fed: Mapping[str, Lead | None], order: list[str]
) -> tuple[dict[str, float], dict[str, float]]:
    """Per device the amps that it and all below it take of a moment, and the most that one of them takes when held."""
    amps: dict[str, float] = defaultdict(float)
    held: dict[str, float] = defaultdict(float)
    for device in reversed(order):
        load, lead = loads[device], fed[device]
        line, source = (lead.line if lead is not None else None), sources.get(device)
        lowest_v = line.lowest_v if line is not None else source.floor_v if source is not None else 0.0
        highest_v = line.highest_v if line is not None else lowest_v
        if lowest_v:
            amps[device] += taken_a(load.moment_w, load.draws, load.rated_v, lowest_v, highest_v)
            own = taken_a(load.stall_w if load.draw_w else 0.0, load.held_draws, load.rated_v, lowest_v, highest_v)
            held[device] = max(held[device], own)
        if lead is None:
            continue
        share = 1.0
        if line is not None and line.held_v is not None:
            before_v = _lowest_before(lead.giver, sources, fed)
            share = line.held_v / line.efficiency / before_v if before_v else 0.0
        amps[lead.giver] += amps[device] * share
        held[lead.giver] = max(held[lead.giver], held[device] * share)
    return amps, held


def _lowest_before(giver: str, sources: Mapping[str, Source], fed: Mapping[str, Lead | None]) -> float:
    lead = fed[giver]
    if lead is not None and lead.line is not None:
        return max(lead.line.lowest_v, 0.0)
    return sources[giver].floor_v if giver in sources else 0.0


def taken_a(watts: float, draws: Drawing, rated_v: float | None, lowest_v: float, highest_v: float) -> float:
    """The most amps that are taken anywhere between two voltages, of what takes `watts` at `rated_v`."""
    if not watts:
        return 0.0
    rated = rated_v or (lowest_v + highest_v) / 2
    if draws == "power":
        return watts / lowest_v
    return watts / rated if draws == "current" else watts / rated**2 * highest_v
