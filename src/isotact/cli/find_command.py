"""The finder for scripts: answers as JSON lines in, how the search stands as JSON lines out."""

import argparse
import sys
from collections.abc import Callable, Iterable, Iterator
from pathlib import Path

from pydantic import ValidationError

from isotact.core.diagnosis import Seen, Situation, Standing
from isotact.core.diagnosis.findings import answered
from isotact.core.model import IsotactError, NotFoundError, ResolvedRig
from isotact.core.planning import plan
from isotact.core.runsheet import run_sheet
from isotact.core.trades import conditions_of


def add_options(parser: argparse.ArgumentParser) -> None:
    """What may be told before the first answer."""
    parser.add_argument("rig", type=Path)
    parser.add_argument("--fails", action="append", default=[], metavar="PROMISE", help="a promise that fails")
    parser.add_argument("--done", type=int, metavar="N", help="only the first N steps of the run sheet were done")
    parser.add_argument("--differs", metavar="STEP", help="the step that does not look as it should")


def finding(rig_of: Callable[[argparse.Namespace], ResolvedRig]) -> Callable[[argparse.Namespace], int]:
    """The command: a line of JSON out at once, and another after each answer, such as

        {"look": "lamp:body.rear", "saw": "dark"}

    until a line is empty or the input ends. 0 where it was found, 1 where the search goes on.
    """

    def run(options: argparse.Namespace) -> int:
        from isotact.core.diagnosis.finder import find
        from isotact.core.diagnosis.table import look_key, outcome_table

        situation = _situation(rig_of(options), options)
        known = [promise.id for promise in situation.rig.rig.promises]
        for promise in options.fails:
            if promise not in known:
                raise NotFoundError("promise in this rig", promise, known)
        table = outcome_table(situation)
        seen = [Seen(look=look_key(promise), answer="odd") for promise in options.fails]
        finding = find(table, seen)
        print(finding.model_dump_json(), flush=True)
        for one in _answers(sys.stdin):
            # A cure that was tried and what is said unasked are no looks of the table.
            if one.look not in table.place and not one.look.startswith(("cure:", "said:")):
                raise NotFoundError("look at this rig", one.look, table.place)
            seen = answered(seen, one)
            finding = find(table, seen)
            print(finding.model_dump_json(), flush=True)
        return 0 if finding.status in ("found", "mended") else 1

    return run


def _situation(rig: ResolvedRig, options: argparse.Namespace) -> Situation:
    made = plan(rig)
    conditions = conditions_of(rig, made)
    sheet = run_sheet(rig, made, conditions)
    steps = [step.id for step in sheet.steps]
    if options.differs is not None and options.differs not in steps:
        raise NotFoundError("step on this run sheet", options.differs, steps)
    done = None if options.done is None else tuple(steps[: max(options.done, 0)])
    return Situation(rig, made, conditions, sheet, Standing(done=done, differs=options.differs))


def _answers(lines: Iterable[str]) -> Iterator[Seen]:
    for number, line in enumerate(lines, start=1):
        if not line.strip():
            return
        try:
            yield Seen.model_validate_json(line)
        except ValidationError as error:
            first = error.errors()[0]
            place = ".".join(str(part) for part in first["loc"]) or "the line"
            raise IsotactError(
                f"Answer {number}, {place}: {first['msg']}. Found {line.strip()!r}; "
                'expected such as {"look": "lamp:body.rear", "saw": "dark"}. Send it again, mended.'
            ) from error
