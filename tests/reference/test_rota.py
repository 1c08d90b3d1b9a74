"""Rotas against every possible one of small days, and charging against published job shops with known optima.

The search over all small days is written here from nothing: step by step, every pack wherever it could be. It shares no
code with the rota's own search.
"""

from dataclasses import dataclass, replace
from itertools import product
from pathlib import Path
from random import Random

import pytest

from isotact.core.day.overnight import ToCharge, full_by
from isotact.core.day.rota import ChargerIs, PackIs, Rotation, Rules, Seat, carried_out, rota_of

JOB_SHOPS = Path(__file__).parent / "jobshop"
DAYS, GROUPS = 200, 10


def small_day(seed: int) -> Rotation:
    """Four or five steps, one seat or two, up to three packs, a charger, mains that come and go."""
    draw = Random(seed)
    count = draw.choice([1, 1, 2])
    # All rotas of three packs over five steps are a hundred million.
    steps = draw.choice([4, 5]) if count == 1 else 4
    seats: list[Seat] = []
    packs: list[PackIs] = []
    for number in range(count):
        watts = draw.choice([2, 3, 4, 5])
        load = tuple(draw.choice([watts, watts, max(1, watts - 2), 0]) for _ in range(steps))
        rolls = [load[at] and load[at - 1] and draw.random() < 0.7 for at in range(1, steps)]
        full = draw.choice([6, 8, 10])
        seats.append(
            Seat(
                f"seat {number}",
                "x",
                load,
                (0, *(1 if one else 0 for one in rolls), 0),
                (0,) * (steps + 1),
                rig=f"rig {number}",
                pack=f"own {number}",
                fixed=draw.random() < 0.2,
                keeps_mwh=draw.choice([0, 0, 0, 1]),
            )
        )
        packs.append(PackIs(f"own {number}", "x", full, draw.choice([full, full, full // 2])))
    for number in range(draw.choice([0, 1, 1, 2]) if len(seats) == 1 else draw.choice([0, 1])):
        full = draw.choice([6, 8, 10])
        packs.append(PackIs(f"spare {number}", "x", full, draw.choice([full, full, full // 2, 0])))
    chargers = (ChargerIs("charger", 1, {"x": draw.choice([2, 3, 5])}, 60),) if draw.random() < 0.8 else ()
    watts_at = tuple(draw.choice([None, None, 0, 50, 90]) for _ in range(steps)) if draw.random() < 0.5 else ()
    rules = Rules(draw.random() < 0.7, draw.random() < 0.7, draw.choice([0, 0, 1]))
    never = frozenset([2]) if draw.random() < 0.2 else frozenset[int]()
    return Rotation(steps, tuple(seats), tuple(packs), chargers, watts_at, rules, never)


@dataclass(frozen=True)
class Where:
    """A pack: in a seat, on charge (in the seat where it is built in), or on the shelf."""

    place: str
    charge: int
    at_hand_from: int = 0
    was_charged: bool = False
    home: str | None = None
    is_flat: bool = False


Cost = tuple[int, int, int]


def least_of_all(day: Rotation) -> Cost:
    """What the best of all rotas costs: dark, spoilt, changes."""
    seats = {seat.key: seat for seat in day.seats}
    owner = {seat.pack: seat for seat in day.seats}
    first = tuple(
        Where(owner[pack.key].key if pack.key in owner else "shelf", pack.charge_mwh, home=_rig(owner.get(pack.key)))
        for pack in day.packs
    )
    level: dict[tuple[Where, ...], Cost] = {first: (0, 0, 0)}
    for step in range(day.steps):
        after: dict[tuple[Where, ...], Cost] = {}
        for state, cost in level.items():
            for places in product(*(_places(day, step, one, number) for number, one in enumerate(state))):
                moved = _moved(day, seats, step, state, places)
                if moved is None:
                    continue
                now, dark, spoilt, changes = moved
                total = (cost[0] + dark, cost[1] + spoilt, cost[2] + changes)
                if now not in after or total < after[now]:
                    after[now] = total
        level = after
    return min(level.values())


def _rig(seat: Seat | None) -> str | None:
    return seat.rig if seat is not None else None


def _places(day: Rotation, step: int, one: Where, number: int) -> list[str]:
    """Where a pack could be from this step on. `!`: in its seat, and switched off for good."""
    pack = day.packs[number]
    built_in = next((seat for seat in day.seats if seat.fixed and seat.pack == pack.key), None)
    chargers = [f"on {one.key}" for one in day.chargers]
    if built_in is not None:
        if built_in.load_mwh[step]:
            return [built_in.key, f"{built_in.key}!"]
        return [built_in.key, *(chargers if one.place in chargers or not one.was_charged else [])]
    fits = [
        seat.key
        for seat in day.seats
        if not seat.fixed and (day.rules.packs_move or one.home in (None, seat.rig)) and seat.key != one.place
    ]
    near = day.rules.walk_steps == 0
    if one.place in chargers:
        free = day.rules.part_charges or one.charge >= pack.full_mwh
        return [one.place, *(["shelf", *(fits if near else [])] if free else [])]
    if one.place == "shelf":
        return ["shelf", *([*fits, *([] if one.was_charged else chargers)] if one.at_hand_from <= step else [])]
    return [one.place, "shelf", *([*fits, *chargers] if near else [])]


def _moved(
    day: Rotation, seats: dict[str, Seat], step: int, state: tuple[Where, ...], places: tuple[str, ...]
) -> tuple[tuple[Where, ...], int, int, int] | None:
    """How all stands after the step, with what it cost; None where that cannot be."""
    plain = [place.rstrip("!") for place in places]
    if any(plain.count(place) > 1 for place in plain if place != "shelf"):
        return None
    given = day.watts[step] if day.watts else None
    on_charge = [place.startswith("on ") for place in plain]
    if any(on_charge) and given and given < day.chargers[0].watts:
        return None
    if step in day.no_charge_from and any(
        on and one.place != place for on, one, place in zip(on_charge, state, plain, strict=True)
    ):
        return None
    spoilt = changes = 0
    now: list[Where] = []
    for one, place, pack, full_place in zip(state, plain, day.packs, places, strict=True):
        charge, home, charged, flat, from_ = one.charge, one.home, one.was_charged, one.is_flat, one.at_hand_from
        if place != one.place:
            flat = False
            seat = seats.get(place)
            if seat is not None and not seat.fixed:
                changes, spoilt = changes + 1, spoilt + seat.spoils[step]
                home, charged = seat.rig, False
            if place == "shelf":
                from_ = step + day.rules.walk_steps
        if place.startswith("on "):
            charged = True
            charge = charge if given == 0 else min(pack.full_mwh, charge + day.chargers[0].gains_mwh["x"])
        flat = flat or full_place.endswith("!")
        now.append(Where(place, charge, from_ if place == "shelf" else 0, charged, home, flat))
    dark = 0
    for seat in day.seats:
        load = seat.load_mwh[step]
        at = next((number for number, one in enumerate(now) if one.place == seat.key), None)
        if not load:
            if at is not None and seat.fixed:
                now[at] = replace(now[at], is_flat=False)
        elif at is None or now[at].is_flat or now[at].charge - load < seat.keeps_mwh:
            dark += day.steps - step
            if at is not None:
                now[at] = replace(now[at], is_flat=True)
        else:
            now[at] = replace(now[at], charge=now[at].charge - load, was_charged=now[at].was_charged and not seat.fixed)
    return tuple(now), dark, spoilt, changes


@pytest.mark.parametrize("group", range(GROUPS))
def test_no_rota_of_a_small_day_is_better_than_the_one_found(group: int):
    for seed in range(group * DAYS // GROUPS, (group + 1) * DAYS // GROUPS):
        day = small_day(seed)
        found = rota_of(day)
        assert found.cost.ordered[:3] == least_of_all(day), seed
        assert found.least.ordered[:3] == found.cost.ordered[:3], seed
        played = carried_out(day, found, parts=5)
        assert not played.wrong, seed


def _job_shop(name: str) -> tuple[list[ToCharge], int]:
    """A job is a pack that is charged in one charger after another; a machine a charger with one slot."""
    lines = (JOB_SHOPS / f"{name}.txt").read_text().splitlines()
    optimum = next(int(line.split()[-1]) for line in lines if line.startswith("# optimum"))
    charges: list[ToCharge] = []
    for job, line in enumerate(line for line in lines if not line.startswith("#")):
        numbers = [int(one) for one in line.split()]
        for place, (machine, minutes) in enumerate(zip(numbers[::2], numbers[1::2], strict=True)):
            before = (f"{job} {place - 1}",) if place else ()
            charges.append(ToCharge(f"{job} {place}", minutes, (f"charger {machine}",), before))
    return charges, optimum


@pytest.mark.parametrize("name", ["ft06", "la01", "la02", "la03", "la05"])
def test_packs_that_go_through_chargers_like_a_published_job_shop_are_full_at_its_optimum(name: str):
    # FT06 by Fisher and Thompson (1963), LA01 to LA05 by Lawrence (1984): optima 55, 666, 655, 597, 593.
    charges, optimum = _job_shop(name)
    found = full_by(charges, work=8.0)
    assert (found.end, found.bound) == (optimum, optimum)
    ends = {one.key: found.starts[one.key] + one.minutes for one in charges}
    for one in charges:
        assert all(found.starts[one.key] >= ends[before] for before in one.after)
        alike = [other for other in charges if other.slots == one.slots and other.key != one.key]
        assert all(
            ends[other.key] <= found.starts[one.key] or ends[one.key] <= found.starts[other.key] for other in alike
        )
