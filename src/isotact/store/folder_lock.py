"""One owner per data folder: two servers over one folder would each show what the other has not heard of."""

import fcntl
import os
from pathlib import Path
from typing import IO

from isotact.core.model.problems import IsotactError
from isotact.store.storage_errors import in_words


class OwnedError(IsotactError):
    """Another Isotact has the data folder."""


def take(folder: Path) -> IO[str]:
    """Take the data folder for this process, until the answer is closed or the process ends. Raises OwnedError."""
    file = folder / ".owner"
    with in_words(folder / "isotact.sqlite"):
        folder.mkdir(parents=True, exist_ok=True)
        held = file.open("a+", encoding="utf-8")
    try:
        fcntl.flock(held, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except OSError as error:
        held.seek(0)
        who = held.read(80).strip() or "another program"
        held.close()
        raise OwnedError(
            f"{folder} belongs to an Isotact that runs already ({who}). Use that one, stop it, "
            "or give another folder with --data."
        ) from error
    held.truncate(0)
    held.write(f"process {os.getpid()}")
    held.flush()
    return held
