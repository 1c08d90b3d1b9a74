"""What was read and checked before, by content: a rental house's shelf of thousands is not parsed again at each start.

A line of the file holds the digest of a text and the document that it was found to be. What is taken from it is
validated all the same; only the YAML with its line numbers is not walked again. A file that cannot be used is no more
than a slow start.
"""

import hashlib
import os
from pathlib import Path

from pydantic import ValidationError

from isotact.catalogue.checking import unknown_lamps
from isotact.core.model.cable import CableType
from isotact.core.model.profile import Profile

_KINDS: dict[str, type[Profile] | type[CableType]] = {"profile": Profile, "cable": CableType}


def digest(text: str) -> str:
    """The SHA-256 of a text, in hexadecimal."""
    return hashlib.sha256(text.encode("utf-8")).hexdigest()


class Remembered:
    """Documents by the digest of their text, kept in one file."""

    def __init__(self, file: Path) -> None:
        self._file = file
        self._known = self._read()
        self._asked: dict[str, str] = {}

    def _read(self) -> dict[str, str]:
        try:
            lines = self._file.read_text(encoding="utf-8").splitlines()
        except (OSError, UnicodeDecodeError):
            return {}
        return {line[:64]: line for line in lines if line[64:65] == " "}

    def find(self, text: str) -> Profile | CableType | None:
        """The document that `text` is known to be."""
        key = digest(text)
        line = self._known.get(key)
        if line is None:
            return None
        kind, _, data = line[65:].partition(" ")
        try:
            document = _KINDS[kind].model_validate_json(data)
        except (KeyError, ValidationError):
            return None
        if isinstance(document, Profile) and any(True for _ in unknown_lamps(document)):
            return None
        self._asked[key] = line
        return document

    def add(self, text: str, document: Profile | CableType) -> None:
        """Remember that `text` was found to be `document`."""
        key = digest(text)
        kind = "profile" if isinstance(document, Profile) else "cable"
        self._asked[key] = f"{key} {kind} {document.model_dump_json()}"

    def keep(self) -> None:
        """Write down what was asked for since, and nothing else, if that is something new."""
        if self._asked.keys() == self._known.keys():
            return
        new = self._file.with_name(f"{self._file.name}.{os.getpid()}.new")
        try:
            new.write_text("".join(f"{line}\n" for line in self._asked.values()), encoding="utf-8")
            new.replace(self._file)
        except OSError:
            new.unlink(missing_ok=True)
        self._known = self._asked
