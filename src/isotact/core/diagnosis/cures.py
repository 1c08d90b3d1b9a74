"""The cure of what was found: the short sheet from the rig as it is with that fault."""

from collections.abc import Sequence

from isotact.core.diagnosis.hypotheses import UNFINISHED, put_into
from isotact.core.diagnosis.table import Table
from isotact.core.model.problems import NotFoundError
from isotact.core.runsheet import RunSheet, sheet_between
from isotact.core.trades import perform
from isotact.core.world import World


def world_with(table: Table, columns: Sequence[int]) -> World:
    """The rig as it is with one fault, or with several: the first as it came about, the others since."""
    first, *others = columns
    world, _ = put_into(table.situation, table.hypotheses[first])
    for other in others:
        for act in table.hypotheses[other].acts:
            perform(world, act)
    return world


def cure(table: Table, causes: Sequence[str]) -> RunSheet:
    """The least work that mends `causes`, one or two at once, and works again what they stopped.

    Half-way through a build it ends where the build was; of a rig that is not finished it is the rest of the work. What
    no hand on the cart can mend is a warning of the sheet. Raises NotFoundError for a cause that nobody thought of.
    """
    situation = table.situation
    for one in causes:
        if one not in table.causes:
            raise NotFoundError("cause", one, table.causes)
    world = world_with(table, [table.causes.index(one) for one in causes])
    standing = situation.conditions
    if not situation.is_finished and UNFINISHED not in causes:
        standing = tuple(one for one in standing if one.holds(situation.world))
    return sheet_between(world, situation.plan, standing)
