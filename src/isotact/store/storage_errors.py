"""What the disk and the database can do to a write, in words that say what to do; once it is done, the work goes on."""

import sqlite3
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import peewee

from isotact.core.model.problems import IsotactError


class StorageError(IsotactError):
    """Something could not be read or written, though nothing was wrong with it. What was kept before is as it was."""

    def __init__(self, code: str, message: str, hint: str) -> None:
        self.code, self.hint = code, hint
        super().__init__(message)


_SIGNS: tuple[tuple[str, str, str, str], ...] = (
    ("disk is full", "disk-full", "The disk of this laptop is full.", "Make room on it, then try again."),
    ("no space left", "disk-full", "The disk of this laptop is full.", "Make room on it, then try again."),
    (
        "readonly",
        "read-only",
        "The data folder {folder} cannot be written to.",
        "Give this user the right to write there, then try again.",
    ),
    (
        "locked",
        "locked",
        "Another program holds the database {file}.",
        "Close what else has it open, then try again.",
    ),
    (
        "unable to open",
        "no-folder",
        "The database {file} is not there, or cannot be opened.",
        "Put the data folder back, or give the right to read it, then try again.",
    ),
    (
        "no such table",
        "damaged",
        "The database {file} was changed under us.",
        "Put back the file that was there, then start Isotact anew.",
    ),
    (
        "malformed",
        "damaged",
        "The database {file} is damaged.",
        "Start Isotact anew: it sets the file aside and saves what can be read.",
    ),
    (
        "not a database",
        "damaged",
        "The database {file} is damaged.",
        "Start Isotact anew: it sets the file aside and saves what can be read.",
    ),
    (
        "disk i/o",
        "disk",
        "The disk did not do what was asked of it.",
        "Look whether it is still plugged in and has room, then try again.",
    ),
)


def storage_error(error: BaseException, file: Path) -> StorageError:
    """What `error` of the database or the disk means, for `file`."""
    said = str(error).lower()
    for sign, code, message, hint in _SIGNS:
        if sign in said:
            return StorageError(code, message.format(file=file, folder=file.parent), hint)
    if isinstance(error, FileExistsError | NotADirectoryError):
        return StorageError("no-folder", f"{file.parent} is no folder.", "Give a folder with --data.")
    if isinstance(error, PermissionError):
        return StorageError(
            "read-only",
            f"The data folder {file.parent} cannot be written to.",
            "Give this user the right to write there.",
        )
    return StorageError("disk", f"The database {file} answered: {error}.", "Nothing was changed. Try again.")


@contextmanager
def in_words(file: Path) -> Iterator[None]:
    """Turn what the database and the disk raise into a StorageError."""
    try:
        yield
    except (peewee.DatabaseError, peewee.InterfaceError, sqlite3.Error, OSError) as error:
        # A disk that is full ends the transaction; to end it once more is an error too, and hides the first.
        first: BaseException = error
        while isinstance(first.__context__, peewee.DatabaseError | sqlite3.Error):
            first = first.__context__
        raise storage_error(first, file) from error
