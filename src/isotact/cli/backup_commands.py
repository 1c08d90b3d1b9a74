"""On the command line: backup, restore, export and import of everything, while the application runs or not."""

import argparse
from pathlib import Path
from typing import Any

from isotact.core.model import IsotactError

DATABASE = "isotact.sqlite"


def add_to(commands: Any) -> None:
    """Add the commands."""
    for name, run, what, text in (
        ("backup", _backup, "FILE", "write everything to a new file"),
        ("restore", _restore, "FILE", "put a backup in the place of everything; what stands is backed up first"),
        ("export", _export, "FOLDER", "write everything to a new folder, in open formats"),
        ("import", _import, "FOLDER", "put an export in the place of everything; what stands is backed up first"),
    ):
        command = commands.add_parser(name, help=text)
        command.add_argument("target", type=Path, metavar=what)
        command.add_argument("--data", type=Path, default=Path("data"), help="the data folder")
        command.set_defaults(run=run)


def _store(options: argparse.Namespace, must_be: bool) -> Any:
    from isotact.store import Store

    file = options.data / DATABASE
    if must_be and not file.is_file():
        raise IsotactError(f"{file} is not there. Give the data folder with --data.")
    return Store(file)


def _backup(options: argparse.Namespace) -> int:
    from isotact.store.backup import backup

    size = backup(_store(options, must_be=True), options.target)
    print(f"Backed up to {options.target}, {size:,} bytes.")
    return 0


def _restore(options: argparse.Namespace) -> int:
    from isotact.store.backup import restore

    before = restore(_store(options, must_be=False), options.target)
    print(f"Restored from {options.target}. What stood before is kept in {before}.")
    return 0


def _export(options: argparse.Namespace) -> int:
    from isotact.store.backup import export

    counts = export(_store(options, must_be=True), options.target)
    print(f"Exported to {options.target}: {', '.join(f'{count} {kind}' for kind, count in counts.items())}.")
    return 0


def _import(options: argparse.Namespace) -> int:
    from isotact.store.backup import take_in_export

    before, changed = take_in_export(_store(options, must_be=False), options.target)
    more = f" {changed} changed by hand since came in as next revisions." if changed else ""
    print(f"Imported from {options.target}.{more} What stood before is kept in {before}.")
    return 0
