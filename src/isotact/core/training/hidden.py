"""What is hidden in an exercise: drawn from the table of outcomes by its seed, weighed as in real life."""

from dataclasses import dataclass
from random import Random

from isotact.core.diagnosis.cures import world_with
from isotact.core.diagnosis.situation import Standing
from isotact.core.diagnosis.table import Look, Table, look_key
from isotact.core.runsheet import RunSheet, sheet_between
from isotact.core.trades import perform
from isotact.core.training.exercise import Exercise, NoExerciseError
from isotact.core.world import prove


@dataclass(frozen=True)
class Rumour:
    """What a colleague says he saw, and did not."""

    look: Look
    words: str

    @property
    def says(self) -> str:
        return f"{self.look.check.says.rstrip('.')}: {self.words}"


@dataclass(frozen=True)
class Hidden:
    """The faults, as columns of the table; and perhaps a rumour."""

    columns: tuple[int, ...]
    rumour: Rumour | None


def standing_for(exercise: Exercise, sheet: RunSheet) -> Standing:
    """How far the rig was built: all of its sheet, or all but what is proven at its end."""
    if exercise.level != 2:
        return Standing()
    return Standing(done=tuple(step.id for step in sheet.steps if step.act.proves is None))


def hide(table: Table, exercise: Exercise) -> Hidden:
    """Draw what is wrong. Raises NoExerciseError where nothing could be that somebody would notice."""
    chance = Random(exercise.seed)
    known = [column for column in range(len(table.hypotheses)) if is_noticed(table, (column,))]
    if not known:
        raise NoExerciseError("Nothing that could be wrong with this rig would be noticed: promise something first.")
    first = _drawn(table, known, chance, ())
    columns: tuple[int, ...] = (first,)
    if exercise.level == 3:
        others = [column for column in known if _is_apart(table, first, column)]
        if not others:
            raise NoExerciseError("No two things that are wrong with this rig could be told apart. Try another level.")
        columns = (first, _drawn(table, others, chance, columns))
    rumour = _rumour(table, columns, chance) if exercise.level == 4 else None
    return Hidden(columns, rumour)


def is_noticed(table: Table, columns: tuple[int, ...]) -> bool:
    """Whether something is broken, and a promise falls with it."""
    return all(table.hypotheses[column].acts for column in columns) and bool(fallen(table, columns))


def fallen(table: Table, columns: tuple[int, ...]) -> list[str]:
    """The promises that fail."""
    kept = table.situation.plan.kept
    return [one for one in kept if shown(table, table.place[look_key(one)], columns) != 0]


def shown(table: Table, row: int, columns: tuple[int, ...]) -> int:
    """What a look shows with all of these faults: of two that show the one that is not as it should be, the first."""
    base = int(table.base[row])
    return next((one for column in columns if (one := int(table.outcome[row, column])) != base), base)


def _drawn(table: Table, columns: list[int], chance: Random, beside: tuple[int, ...]) -> int:
    """One by weight that a hand can mend on the cart, with those that were drawn before."""
    left = list(columns)
    while left:
        column = chance.choices(left, weights=[table.hypotheses[one].weight for one in left])[0]
        if is_mended_by_hand(table, (*beside, column)):
            return column
        left.remove(column)
    raise NoExerciseError("Nothing that could be wrong with this rig could be mended on the cart. Train on another.")


def is_mended_by_hand(table: Table, columns: tuple[int, ...]) -> bool:
    """Whether the short sheet from the rig with these faults brings back all that was kept."""
    plan, conditions = table.situation.plan, table.situation.conditions
    world = world_with(table, columns)
    for step in sheet_between(world, plan, conditions).steps:
        perform(world, step.act, step.takes_s)
    return all(prove(world, promise).ok for promise in plan.kept)


def _is_apart(table: Table, one: int, other: int) -> bool:
    """Whether two faults are at different things, and neither hides behind the other's failing promises."""
    first, second = table.hypotheses[one], table.hypotheses[other]
    return not first.about & second.about and fallen(table, (one,)) != fallen(table, (other,))


def _rumour(table: Table, columns: tuple[int, ...], chance: Random) -> Rumour | None:
    """A look whose answer is wrong, at what is wrong itself where that can be: it sounds right, and misleads."""
    telling = [
        (row, look)
        for row, look in enumerate(table.looks)
        if len(look.words) > 1 and not look.is_promise and shown(table, row, columns) != table.base[row]
    ]
    others = [(row, look) for row, look in enumerate(table.looks) if len(look.words) > 1 and not look.is_promise]
    row, look = chance.choice(telling or others) if telling or others else (0, None)
    if look is None:
        return None
    true = shown(table, row, columns)
    # That all is well there is the commonest wrong sentence of all.
    wrong = (
        int(table.base[row])
        if true != table.base[row]
        else chance.choice([*range(true), *range(true + 1, len(look.words))])
    )
    return Rumour(look, look.words[wrong])
