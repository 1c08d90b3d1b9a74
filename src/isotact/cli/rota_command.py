"""`isotact rota JOB`: which pack goes where and when on a day, as text, table or calendar."""

import argparse
from collections.abc import Callable, Iterator
from pathlib import Path

from isotact.catalogue import Catalogue, read_file
from isotact.core.day import DayRig, DayRota, RotaDay, day_rig, day_rota, on_that_day
from isotact.core.model import IsotactError, Kit, ResolvedRig, Rig, resolve
from isotact.core.model.job import Job, JobDay

Resolve = Callable[[argparse.Namespace, Path], ResolvedRig]


def add_options(command: argparse.ArgumentParser) -> None:
    """The options of the command."""
    command.add_argument("job", type=Path, metavar="JOB", help="a job document; its rigs and kit lie beside it")
    command.add_argument("rigs", type=Path, nargs="*", metavar="RIG", help="rig documents, where they lie elsewhere")
    command.add_argument("--kit", type=Path, help="the kit with packs and chargers, where it lies elsewhere")
    command.add_argument("--date", help="which of its days; left out: the first")
    command.add_argument("--now", help="a time such as 22:15: from then on the day is planned again")
    command.add_argument("--csv", action="store_true", help="print it as a table")
    command.add_argument("--ics", action="store_true", help="print it as a calendar (iCalendar)")


def rota(resolve_at: Resolve, known: Callable[[argparse.Namespace], Catalogue]) -> Callable[[argparse.Namespace], int]:
    """The command: 0 where nothing goes dark, else 1."""

    def run(options: argparse.Namespace) -> int:
        from isotact.papers import rota_calendar, rota_table

        job = read_file(options.job, Job)
        number = _number(job, options.date)
        catalogue = known(options)
        documents = {
            rig.rig.id: rig for rig in (resolve_at(options, path) for path in _rig_files(options, job, number))
        }
        rigs = [_day_rig(rig, catalogue, job.days[number]) for rig in documents.values()]
        kit = _kit(options, job)
        found = day_rota(RotaDay(job, number, rigs, kit, catalogue.profiles), options.now)
        if options.csv:
            print(rota_table(found), end="")
        elif options.ics:
            print(rota_calendar(found, job.name), end="")
        elif options.json:
            print(found.model_dump_json(indent=2))
        else:
            print("\n".join(rota_report(found)))
        return 1 if found.first_dark else 0

    return run


def _number(job: Job, date: str | None) -> int:
    dates = [day.date for day in job.days]
    if not dates:
        raise IsotactError(f"Found no day in {job.name}; give it one.")
    if date is None:
        return 0
    if date not in dates:
        raise IsotactError(f"Found no {date} among the days of {job.name}: it has {', '.join(dates)}.")
    return dates.index(date)


def _rig_files(options: argparse.Namespace, job: Job, number: int) -> list[Path]:
    if options.rigs:
        return list(options.rigs)
    named = dict.fromkeys(used.rig for block in job.days[number].blocks for used in block.rigs)
    files = [options.job.parent / f"{rig}.yaml" for rig in named]
    missing = [file.name for file in files if not file.is_file()]
    if missing:
        raise IsotactError(f"Found no {', '.join(missing)} beside {options.job.name}; give the rigs' files as well.")
    return files


def _kit(options: argparse.Namespace, job: Job) -> Kit | None:
    if options.kit is not None:
        return read_file(options.kit, Kit)
    beside = [options.job.parent / f"{job.kit}{ending}" for ending in (".kit.yaml", ".yaml")] if job.kit else []
    return next((read_file(file, Kit) for file in beside if file.is_file()), None)


def _day_rig(rig: ResolvedRig, catalogue: Catalogue, day: JobDay) -> DayRig:
    from isotact.core.bench import carry_through
    from isotact.core.planning import plan
    from isotact.core.runsheet import run_sheet
    from isotact.core.trades import conditions_of

    made = plan(rig)
    conditions = conditions_of(rig, made)
    world = carry_through(rig, run_sheet(rig, made, conditions))
    document: Rig = on_that_day(rig.rig, day)
    return day_rig(resolve(document, catalogue.profiles, catalogue.cables), world, made, conditions)


def rota_report(found: DayRota) -> list[str]:
    """What it comes to, what is to be done when, what would help, what was taken to be so."""
    after = ["", *found.packs_says, *([found.overnight_says] if found.overnight_says else [])]
    return [found.says, found.least_says, found.clock_says, "", *_acts(found), *after, *_rest(found)]


def _acts(found: DayRota) -> Iterator[str]:
    for act in found.acts:
        told = ", ".join(
            one
            for one in (
                act.where,
                f"{act.takes_min} min" if act.takes_min else "",
                "within a take" if act.spoils else "",
            )
            if one
        )
        yield f"{act.clock}  {act.says}" + (f" ({told})" if told else "")


def _rest(found: DayRota) -> Iterator[str]:
    for title, several in (
        ("What it would take:", [one.says for one in found.remedies]),
        ("So far:", list(found.noted)),
        ("Taken to be so:", list(found.assumed)),
        ("Take care:", list(found.cautions)),
    ):
        if several:
            yield from ("", title, *(f"  {one}" for one in several))
