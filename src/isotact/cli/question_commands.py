"""The command line's other questions: a sheet from a built rig, what it takes, the matrix, other ways, the day."""

import argparse
import json
from collections.abc import Callable, Sequence
from pathlib import Path
from typing import Any

from pydantic import BaseModel

from isotact.catalogue import Catalogue
from isotact.cli.find_command import add_options, finding
from isotact.cli.rota_command import add_options as rota_options
from isotact.cli.rota_command import rota
from isotact.core.model import Kit, ResolvedRig

Resolve = Callable[[argparse.Namespace, Path], ResolvedRig]
Known = Callable[[argparse.Namespace], Catalogue]
ReadKit = Callable[[Path], Kit]


def add_to(
    commands: "argparse._SubParsersAction[argparse.ArgumentParser]", resolve: Resolve, known: Known, read_kit: ReadKit
) -> None:
    """Add the commands; `resolve` reads a rig document and looks everything in it up."""

    def command(name: str, text: str, run: Callable[[argparse.Namespace], int]) -> argparse.ArgumentParser:
        parser = commands.add_parser(name, help=text)
        parser.add_argument("--profiles", type=Path, help="a folder with profiles and cable types of your own")
        parser.add_argument("--json", action="store_true", help="print the answer as JSON")
        parser.set_defaults(run=run, kit=None)
        return parser

    def rig_of(options: argparse.Namespace) -> ResolvedRig:
        return resolve(options, options.rig)

    sheet = command("sheet", "the run sheet: from the cases, or from the build of another document", _sheet(resolve))
    sheet.add_argument("rig", type=Path)
    sheet.add_argument("--from", dest="built", type=Path, help="the rig document that is built now")
    takes = command("takes", "what it would take to keep a promise, or each that is not kept", _takes(rig_of, known))
    takes.add_argument("rig", type=Path)
    takes.add_argument("promise", nargs="?")
    matrix = command("matrix", "every function of a body against every surface", _matrix(rig_of))
    matrix.add_argument("rig", type=Path)
    matrix.add_argument("device", help="the body")
    matrix.add_argument("--mode", help="hold it to one mode")
    ways = command("ways", "every way to the screen of a picture promise", _ways(rig_of))
    ways.add_argument("rig", type=Path)
    ways.add_argument("promise")
    finder = command("find", "what is wrong: answers as JSON lines in, what to look at next out", finding(rig_of))
    add_options(finder)
    power = command("power", "volts and watts from every battery to every device, and how each empties", _power(rig_of))
    power.add_argument("rig", type=Path)
    marks = command(
        "balance", "where every scale of a gimbal has to stand, and what cures what goes too far", _balance(rig_of)
    )
    marks.add_argument("rig", type=Path)
    packs = command("rota", "which pack goes where and when on a day of a job", rota(resolve, known))
    rota_options(packs)
    others = command("alternatives", "other plans, different in their routes", _alternatives(rig_of))
    others.add_argument("rig", type=Path)
    day = command("day", "the rigs of a day that share one kit", _day(resolve, known, read_kit))
    day.add_argument("kit_file", type=Path, metavar="KIT")
    day.add_argument("rigs", type=Path, nargs="+", metavar="RIG")


def _told(options: argparse.Namespace, answer: BaseModel | Sequence[BaseModel], lines: list[str]) -> None:
    if options.json:
        data: Any = (
            answer.model_dump(mode="json")
            if isinstance(answer, BaseModel)
            else [one.model_dump(mode="json") for one in answer]
        )
        print(json.dumps(data, indent=2))
    else:
        print("\n".join(lines))


def _sheet(resolve: Resolve) -> Callable[[argparse.Namespace], int]:
    def run(options: argparse.Namespace) -> int:
        from isotact.cli.reports import sheet_report
        from isotact.core.bench import carry_through
        from isotact.core.model import resolve as look_up
        from isotact.core.planning import flags_of, plan
        from isotact.core.runsheet import mid_day, run_sheet

        rig = resolve(options, options.rig)
        if options.built is None:
            made = plan(rig)
            sheet = run_sheet(rig, made)
        else:
            old = resolve(options, options.built)
            before = plan(old)
            flagged = rig.rig.model_copy(update={"flags": flags_of(before, plugged=True)})
            profiles = {placed.profile.id: placed.profile for placed in rig.devices.values()}
            rig = look_up(flagged, profiles, rig.cables)
            made = plan(rig)
            sheet = mid_day(carry_through(old, run_sheet(old, before)), rig, made)
        whole = None if options.built is None else run_sheet(rig, made)
        _told(options, sheet, sheet_report(rig, sheet, whole))
        return 0 if len(made.kept) == len(rig.rig.promises) else 1

    return run


def _takes(rig_of: Callable[[argparse.Namespace], ResolvedRig], known: Known) -> Callable[[argparse.Namespace], int]:
    def run(options: argparse.Namespace) -> int:
        from isotact.core.planning import plan
        from isotact.core.questions import what_it_takes

        rig = rig_of(options)
        made = plan(rig)
        asked = [options.promise] if options.promise else [one.promise for one in made.unmet]
        answers = [what_it_takes(rig, known(options).profiles, made, one) for one in asked]
        lines: list[str] = []
        for answer in answers:
            lines.append(f"{answer.promise}: {answer.says}")
            lines += [f"  {words}" for take in answer.takes[:1] for words in take.balance]
        _told(options, answers, lines or ["Every promise is kept."])
        return 0

    return run


def _matrix(rig_of: Callable[[argparse.Namespace], ResolvedRig]) -> Callable[[argparse.Namespace], int]:
    def run(options: argparse.Namespace) -> int:
        from isotact.core.planning import plan
        from isotact.core.questions import functions_matrix

        rig = rig_of(options)
        answer = functions_matrix(rig, plan(rig), options.device, options.mode)
        lines = [answer.says, *(f"  {answer.names[cell.function]}: {cell.says}" for cell in answer.cells)]
        _told(options, answer, lines)
        return 0

    return run


def _ways(rig_of: Callable[[argparse.Namespace], ResolvedRig]) -> Callable[[argparse.Namespace], int]:
    def run(options: argparse.Namespace) -> int:
        from isotact.core.questions import picture_ways

        found = picture_ways(rig_of(options), options.promise)
        lines = [f"  {way.says}{'' if way.possible else f' - no: {way.because}'}" for way in found]
        _told(options, found, lines or ["There is no way."])
        return 0

    return run


def _power(rig_of: Callable[[argparse.Namespace], ResolvedRig]) -> Callable[[argparse.Namespace], int]:
    def run(options: argparse.Namespace) -> int:
        from isotact.cli.power_report import power_report
        from isotact.core.bench import carry_through
        from isotact.core.planning import plan
        from isotact.core.questions import feed_tree, with_battery_changes
        from isotact.core.runsheet import run_sheet
        from isotact.core.trades import conditions_of

        rig = rig_of(options)
        made = plan(rig)
        conditions = conditions_of(rig, made)
        world = carry_through(rig, run_sheet(rig, made, conditions))
        tree = with_battery_changes(feed_tree(rig, made), world, made, conditions)
        _told(options, tree, power_report(tree))
        return 0

    return run


def _balance(rig_of: Callable[[argparse.Namespace], ResolvedRig]) -> Callable[[argparse.Namespace], int]:
    def run(options: argparse.Namespace) -> int:
        from isotact.cli.balance_report import balance_report
        from isotact.core.planning import plan
        from isotact.core.questions import balance_marks

        rig = rig_of(options)
        answer = balance_marks(rig, plan(rig))
        _told(options, answer, balance_report(answer))
        return 0

    return run


def _alternatives(rig_of: Callable[[argparse.Namespace], ResolvedRig]) -> Callable[[argparse.Namespace], int]:
    def run(options: argparse.Namespace) -> int:
        from isotact.core.questions import alternatives

        found = alternatives(rig_of(options))
        lines = []
        for number, other in enumerate(found, start=1):
            lines.append(f"  {number}. keeps {other.figures.kept}, {other.figures.points} points")
            lines += [f"     {words}" for words in other.differs]
        _told(options, found, lines)
        return 0

    return run


def _day(resolve: Resolve, known: Known, read_kit: ReadKit) -> Callable[[argparse.Namespace], int]:
    def run(options: argparse.Namespace) -> int:
        from isotact.core.day import plan_day

        rigs = [resolve(options, path) for path in options.rigs]
        day = plan_day(rigs, read_kit(options.kit_file), profiles=known(options).profiles)
        lines = []
        for rig, one in zip(rigs, day.rigs, strict=True):
            lines.append(f"{rig.rig.name}: {len(one.plan.kept)} of {len(rig.rig.promises)} hold")
        lines += [f"Ask for: {ask.says}" for ask in day.asks]
        lines += [f"Channel: {says}" for one in day.retuned for says in one.says]
        lines += [f"Channel: {clash}" for clash in day.clashes]
        _told(options, day, lines)
        return 0 if not day.asks else 1

    return run
