"""The command line: plan, prove, coverage, serve, demo, check-profile, schema; more in `*_cli`."""

import argparse
import json
import os
import sys
from collections.abc import Sequence
from pathlib import Path

from isotact.catalogue import FORMATS, Catalogue, read_entry, read_file, shipped
from isotact.cli import backup_commands, question_commands, stand_in_command
from isotact.core.model import IsotactError, Kit, Plan, RefusedError, ResolvedRig, Rig, resolve
from isotact.core.model.rig import BagItem


def main(arguments: Sequence[str] | None = None) -> int:
    """Run one command; 0 when all is well, 1 when a promise is not kept, 2 when something is refused."""
    options = _parser().parse_args(arguments)
    try:
        code: int = options.run(options)
        sys.stdout.flush()
        return code
    except BrokenPipeError:
        # Whoever read has seen enough. What is left in the buffer must not be written at exit.
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
        return 0
    except RefusedError as error:
        for problem in error.problems:
            print(problem, file=sys.stderr)
        count = len(error.problems)
        print(f"Refused: {count} {'problem' if count == 1 else 'problems'}. Nothing was changed.", file=sys.stderr)
        return 2
    except IsotactError as error:
        hint = getattr(error, "hint", "")
        print(f"{error} {hint}".rstrip(), file=sys.stderr)
        return 2


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="isotact", description="Will everything that was promised work, and how.")
    commands = parser.add_subparsers(required=True, metavar="COMMAND")
    for name, run, text in (
        ("plan", _plan, "which cable in which port, fed from where, set how; and what cannot be kept, and why"),
        ("prove", _prove, "carry the run sheet out on the simulated rig and show each promise proven"),
    ):
        command = commands.add_parser(name, help=text)
        command.add_argument("rig", type=Path, help="a rig document (YAML or JSON)")
        command.add_argument("--kit", type=Path, help="take cables and small parts from this kit, not the bag")
        command.add_argument("--profiles", type=Path, help="a folder with profiles and cable types of your own")
        command.add_argument("--json", action="store_true", help="print the answer as JSON")
        command.set_defaults(run=run)
    question_commands.add_to(commands, _resolved_at, _known, lambda path: read_file(path, Kit))
    covering = commands.add_parser(
        "coverage", help="put every single fault into a rig: what breaks, which promises fall, which looks show it"
    )
    covering.add_argument("rigs", nargs="*", type=Path, metavar="RIG", help="rig documents; none: all that ship")
    covering.add_argument("--profiles", type=Path, help="a folder with profiles and cable types of your own")
    covering.add_argument("--json", action="store_true", help="print the rows as JSON")
    covering.set_defaults(run=_coverage, kit=None)
    check = commands.add_parser("check-profile", help="explain every error in a profile, a cable type or words")
    check.add_argument("file", type=Path)
    check.add_argument("--profiles", type=Path, help="a folder of your own, whose words the file may use")
    check.set_defaults(run=_check)
    schema = commands.add_parser("schema", help="print the JSON Schema of a document")
    schema.add_argument("kind", choices=sorted(FORMATS))
    schema.set_defaults(run=_schema)
    backup_commands.add_to(commands)
    standing_in = commands.add_parser("stand-in", help="be a device of a bench, as an example of a program that is one")
    stand_in_command.add_options(standing_in)
    standing_in.set_defaults(run=stand_in_command.stand_in)
    for name, text in (("serve", "serve the application"), ("demo", "serve it with the demo rigs in it")):
        command = commands.add_parser(name, help=text)
        command.add_argument("--port", type=int, default=8000)
        command.add_argument("--data", type=Path, default=Path("data"), help="folder of the database and own profiles")
        command.add_argument(
            "--share", action="store_true", help="serve the set's network too: who has a code of the screen Share joins"
        )
        command.set_defaults(run=_serve, demo=name == "demo")
    return parser


def _known(options: argparse.Namespace) -> Catalogue:
    catalogue: Catalogue = shipped()
    if options.profiles:
        if not options.profiles.is_dir():
            raise IsotactError(
                f"{options.profiles}: there is no such folder. Give the folder that holds your profiles."
            )
        catalogue = catalogue.with_folder(options.profiles)
        problems = [problem for found in catalogue.broken.values() for problem in found]
        if problems:
            raise RefusedError(problems)
    return catalogue


def _resolved(options: argparse.Namespace) -> ResolvedRig:
    catalogue = _known(options)
    rig = read_file(options.rig, Rig)
    if options.kit:
        kit = read_file(options.kit, Kit)
        rig = rig.model_copy(update={"bag": [BagItem(cable=c.cable, count=min(c.count, 99)) for c in kit.cables]})
        rig = rig if kit.parts is None else rig.model_copy(update={"parts": kit.parts})
    try:
        return resolve(rig, catalogue.profiles, catalogue.cables)
    except RefusedError as error:
        placed = [problem.model_copy(update={"file": str(options.rig)}) for problem in error.problems]
        raise RefusedError(placed) from error


def _resolved_at(options: argparse.Namespace, rig: Path) -> ResolvedRig:
    return _resolved(argparse.Namespace(**{**vars(options), "rig": rig}))


def _plan(options: argparse.Namespace) -> int:
    from isotact.cli.reports import plan_report
    from isotact.core.planning import plan

    rig = _resolved(options)
    made = plan(rig)
    print(made.model_dump_json(indent=2) if options.json else plan_report(rig, made))
    return _code(rig, made)


def _prove(options: argparse.Namespace) -> int:
    from isotact.cli.reports import proof_report
    from isotact.core.bench import run
    from isotact.core.planning import plan
    from isotact.core.runsheet import run_sheet

    rig = _resolved(options)
    made = plan(rig)
    sheet = run_sheet(rig, made)
    ran = run(rig, sheet)
    print(ran.model_dump_json(indent=2) if options.json else proof_report(rig, made, sheet, ran))
    return 1 if ran.unproven else 0


def _code(rig: ResolvedRig, made: Plan) -> int:
    return 0 if len(made.kept) == len(rig.rig.promises) else 1


def _coverage(options: argparse.Namespace) -> int:
    from isotact.cli.reports import coverage_report
    from isotact.core.faults import coverage
    from isotact.core.planning import plan

    rows = [row for rig in _all_resolved(options) for row in coverage(rig, plan(rig))]
    if options.json:
        print(json.dumps([row.model_dump(mode="json") for row in rows], indent=1))
    else:
        print(coverage_report(rows))
    return 1 if any(row.still_holds or row.standing for row in rows) else 0


def _all_resolved(options: argparse.Namespace) -> list[ResolvedRig]:
    if options.rigs:
        return [_resolved_at(options, rig) for rig in options.rigs]
    from isotact.demo import demo_files
    from isotact.examples import examples

    catalogue = _known(options)
    rigs = [read_file(file, Rig) for file in demo_files()] + [rig for one in examples() for rig in one.rigs]
    return [resolve(rig, catalogue.profiles, catalogue.cables) for rig in rigs]


def _check(options: argparse.Namespace) -> int:
    _known(options)
    document = read_entry(options.file)
    print(f"{options.file}: {document.name}. No errors.")
    return 0


def _schema(options: argparse.Namespace) -> int:
    print(json.dumps(FORMATS[options.kind].model_json_schema(), indent=2))
    return 0


def _serve(options: argparse.Namespace) -> int:
    from isotact.server.serve import serve

    return serve(options)
