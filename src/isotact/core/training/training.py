"""An exercise as it is worked at: each look and each mend told, and at the end what it was, and the finder's way."""

from collections.abc import Iterable
from dataclasses import dataclass, field

from isotact.core.diagnosis import CURED, STILL
from isotact.core.diagnosis.next_look import cost_s
from isotact.core.diagnosis.table import Table
from isotact.core.model.problems import NotFoundError
from isotact.core.telling import promise_words
from isotact.core.training.exercise import NoExerciseError
from isotact.core.training.hidden import Hidden, fallen, shown
from isotact.core.training.told import Answer, ExerciseState, Suspect, ToldInTraining
from isotact.core.training.trail import cured, finders_way, seconds_of_a_mend


@dataclass
class Training:
    """One exercise. `left`: what is still wrong, as columns of the table; `told`: what was done so far."""

    table: Table
    hidden: Hidden
    left: list[int] = field(init=False)
    told: list[ToldInTraining] = field(default_factory=list)
    given_up: bool = False

    def __post_init__(self) -> None:
        self.left = list(self.hidden.columns)

    def all(self, answers: Iterable[Answer]) -> "Training":
        """Do what was done. Raises NotFoundError, or NoExerciseError once it is over."""
        for one in answers:
            if self.is_over:
                raise NoExerciseError("This exercise is over. Begin another.")
            one.by(self)
        return self

    @property
    def is_over(self) -> bool:
        return self.given_up or not self.left

    def look(self, key: str) -> None:
        """Look at one thing: it takes the walk, itself, a gimbal to still, and what it undoes."""
        row = self.table.place.get(key)
        if row is None:
            raise NotFoundError("look at this rig", key, self.table.place)
        look = self.table.looks[row]
        here = next((where for one in reversed(self.told) if (where := self._where(one)) is not None), None)
        walk_s = self.table.walk_s(here, look.check.where)
        self.told.append(
            ToldInTraining(
                kind="look",
                id=key,
                says=look.check.says,
                seen=look.words[shown(self.table, row, tuple(self.left))],
                seconds=cost_s(look, walk_s),
                undoes_s=look.undoes_s,
            )
        )

    def mend(self, cause: str) -> None:
        """Mend one thing and work again what failed."""
        if cause not in self.table.causes:
            raise NotFoundError("cause", cause, self.table.causes)
        one = self.table.hypotheses[self.table.causes.index(cause)]
        helped = cured(self.table, self.left, (cause,))
        self.left = [column for column in self.left if column not in helped]
        self.told.append(
            ToldInTraining(
                kind="mend",
                id=cause,
                says=one.says,
                seen=STILL if self.left else CURED,
                seconds=seconds_of_a_mend(self.table, one.mend_s, helped),
                helped=bool(helped),
            )
        )

    def give_up(self) -> None:
        """Be told what it was."""
        self.given_up = True

    def standing(self) -> ExerciseState:
        """How it stands; all that was hidden, once it is over."""
        rumour = self.hidden.rumour
        seconds = sum(one.seconds for one in self.told)
        open_one = ExerciseState(
            status="given-up" if self.given_up else "open" if self.left else "mended",
            fails=self._in_words(self.hidden.columns),
            fails_now=self._in_words(tuple(self.left)) if self.left else (),
            rumour=rumour.says if rumour is not None else None,
            seconds=seconds,
            looks=len(self.told),
            undoes_s=sum(one.undoes_s for one in self.told),
            told=tuple(self.told),
        )
        if not self.is_over:
            return open_one
        was = [self.table.hypotheses[column] for column in self.hidden.columns]
        devices = {name for one in was for name in one.about} & self.table.situation.rig.devices.keys()
        finder = finders_way(self.table, self.hidden.columns)
        return open_one.model_copy(
            update={
                "was": tuple(one.says for one in was),
                "kinds": tuple(one.kind for one in was),
                "devices": tuple(sorted(devices)),
                "finder": finder,
                "points": 0 if self.given_up else points(seconds, finder.seconds),
            }
        )

    def _in_words(self, columns: tuple[int, ...]) -> tuple[str, ...]:
        rig = self.table.situation.rig
        return tuple(promise_words(rig, rig.rig.promise(one)) for one in fallen(self.table, columns))

    def _where(self, one: ToldInTraining) -> str | None:
        row = self.table.place.get(one.id)
        return None if row is None else self.table.looks[row].check.where


def suspects(table: Table) -> list[Suspect]:
    """All that could be wrong with a rig, each once, by the device that it is about."""
    devices = table.situation.rig.devices.keys()
    found = {
        one.cause: Suspect(id=one.cause, says=one.says, devices=tuple(sorted({*one.about} & devices)))
        for one in table.hypotheses
        if one.acts
    }
    return sorted(found.values(), key=lambda one: (one.devices, one.says))


LEAST_S = 10.0
"""What is found quicker than that is found at once: no clock on a cart tells more."""


def points(own_s: float, finder_s: float) -> int:
    """Of 100: the share of one's own time that the finder would have taken."""
    return round(100 * min(1.0, max(finder_s, LEAST_S) / max(own_s, LEAST_S)))
