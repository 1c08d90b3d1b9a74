"""The cure of what was found: the short sheet from the rig as it is with that fault."""

from collections.abc import Sequence

import numpy as np

from isotact.core.diagnosis.hypotheses import UNFINISHED, put_into
from isotact.core.diagnosis.situation import Situation
from isotact.core.diagnosis.table import Table
from isotact.core.model.problems import NotFoundError
from isotact.core.runsheet import RunSheet, sheet_between
from isotact.core.trades import perform
from isotact.core.world import World, prove


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


def mended_by(table: Table, cause: str) -> np.ndarray:
    """For each hypothesis whether all would be well if the cure of `cause` were carried out in it.

    A restart mends more than what hung, and a lead that is changed is home in both its ports. What no hand on the cart
    can mend counts as mended by its own cure.
    """
    if cause not in table.cured:
        mended = _tried(table, cause)
        mended[[one == cause for one in table.causes]] = True
        table.cured[cause] = mended
    return table.cured[cause]


def _tried(table: Table, cause: str) -> np.ndarray:
    sheet = cure(table, [cause])
    table.cure_s[cause] = sum(step.takes_s + step.waits_s for step in sheet.steps if step.act.proves is None)
    made = {key for step in sheet.steps for key in step.makes} | table.broken[table.causes.index(cause)]
    mended = np.zeros(len(table.hypotheses), dtype=bool)
    for column, one in enumerate(table.hypotheses):
        # To carry it out takes a millisecond, so that it is only done where all that is broken is made again.
        if not one.acts or not table.broken[column] <= made:
            continue
        world = table.worlds[column].fork()
        for step in sheet.steps:
            if step.act.proves is None:
                perform(world, step.act, step.takes_s)
        mended[column] = _is_well(table.situation, world)
    return mended


def _is_well(situation: Situation, world: World) -> bool:
    """Whether all that is promised works; half-way through a build, whether all is so that was so."""
    if situation.is_finished:
        return all(prove(world, promise).ok for promise in situation.plan.kept)
    return all(one.holds(world) for one in situation.standing_conditions)
