"""Searches played to their end, for tests and trials: tables of shipped rigs, and who answers as a fault would show."""

from dataclasses import dataclass

from isotact.core.diagnosis import Finding, Seen, Situation, Standing
from isotact.core.diagnosis.table import Table, outcome_table
from isotact.core.training.hidden import shown
from isotact.core.training.trail import MOST_LOOKS, Search, fails_of, faults, twins
from tests.rigs import Carried, carried

__all__ = ["Trail", "fallen", "faults", "search", "shown", "table_of", "twins"]


@dataclass(frozen=True)
class Trail:
    """How a search went: how it ended, what it took without the right cure itself, and every answer given."""

    finding: Finding
    seconds: float
    looks: int
    seen: tuple[Seen, ...]
    said_unknown: int
    """How often on the way it said that what is wrong is not in its list."""

    @property
    def is_mended(self) -> bool:
        """Whether all that was wrong was mended: by what was done, not by what is believed."""
        return self.finding.status == "mended"


def table_of(rig: Carried | str, standing: Standing = Standing()) -> Table:  # noqa: B008
    one = carried(rig) if isinstance(rig, str) else rig
    return outcome_table(Situation(one.rig, one.plan, one.conditions, one.sheet, standing))


def fallen(table: Table, columns: tuple[int, ...]) -> list[Seen]:
    """What the people who wait for them say: that these promises fail."""
    return fails_of(table, columns)


def search(
    table: Table,
    columns: tuple[int, ...],
    seen: list[Seen] | None = None,
    wrong: float = 0.0,
    seed: int = 0,
    most: int = MOST_LOOKS,
) -> Trail:
    """Look where the finder says until it is mended or given up. `wrong`: so often an answer is not what is there."""
    one = Search(table, columns, seen, wrong, seed, most)
    return Trail(one.finding, one.seconds, one.looks, tuple(one.seen), one.said_unknown)
