"""Days for tests of rotas: drawn ones, and a plain one."""

from random import Random

from isotact.core.day.rota import ChargerIs, PackIs, Rotation, Rules, Seat


def seat(load: tuple[int, ...], key: str = "a", spoils: tuple[int, ...] | None = None, fixed: bool = False) -> Seat:
    """A seat with a pack `own KEY` in it."""
    nothing = (0,) * (len(load) + 1)
    return Seat(key, "x", load, spoils or nothing, nothing, f"rig {key}", f"own {key}", fixed)


def day_of(
    seats: tuple[Seat, ...],
    full: int = 10,
    spares: int = 0,
    charger: ChargerIs | None = None,
    watts: tuple[int | None, ...] = (),
    rules: Rules | None = None,
) -> Rotation:
    """A day with one full pack in each seat and so many on the shelf."""
    keys = [f"own {one.key}" for one in seats] + [f"spare {number}" for number in range(spares)]
    packs = tuple(PackIs(key, "x", full, full) for key in keys)
    return Rotation(len(seats[0].load_mwh), seats, packs, (charger,) if charger else (), watts, rules or Rules())


def drawn_day(seed: int, steps: int = 36) -> Rotation:
    """Three or four rigs of two sorts of packs over half a day, with meals, takes, and a charger or two."""
    draw = Random(seed)
    meal = range(steps // 2, steps // 2 + 3)
    seats: list[Seat] = []
    packs: list[PackIs] = []
    for number in range(draw.choice([3, 4])):
        sort = draw.choice(["plate", "clip"])
        watts = draw.choice([300, 500, 900])
        load = tuple(0 if step in meal or step < 2 else watts for step in range(steps))
        spoils = tuple(1 if at % 4 and at not in meal else 0 for at in range(steps + 1))
        likes = tuple(0 if at % 4 == 0 else 1 for at in range(steps + 1))
        key = f"seat {number}"
        fixed = draw.random() < 0.15
        seats.append(Seat(key, sort, load, spoils, likes, f"rig {number // 2}", f"own {number}", fixed))
        full = draw.choice([6000, 8000])
        packs.append(PackIs(f"own {number}", sort, full, draw.choice([full, full // 2])))
    for number in range(draw.choice([2, 4, 6])):
        full = draw.choice([6000, 8000])
        packs.append(PackIs(f"spare {number}", draw.choice(["plate", "clip"]), full, full))
    gains = {"plate": draw.choice([600, 1500]), "clip": draw.choice([400, 900])}
    chargers = tuple(ChargerIs(f"charger {number}", 2, gains, 60) for number in range(draw.choice([0, 1, 2])))
    given = tuple(draw.choice([None, None, 0]) for _ in range(steps)) if draw.random() < 0.4 else ()
    rules = Rules(draw.random() < 0.8, draw.random() < 0.8, draw.choice([0, 1]))
    return Rotation(steps, tuple(seats), tuple(packs), chargers, given, rules)
