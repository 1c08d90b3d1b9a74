"""Walks folders of YAML and keeps what is right and what is wrong apart."""

from dataclasses import dataclass, field
from functools import cache
from pathlib import Path as FilePath

from isotact.catalogue.checking import Document, check_document
from isotact.catalogue.reading import MAX_BYTES, read_text
from isotact.catalogue.remembered import Remembered
from isotact.core.model.cable import CableType
from isotact.core.model.problems import Problem, RefusedError
from isotact.core.model.profile import Profile

SHIPPED = FilePath(__file__).parent


@dataclass
class Catalogue:
    """Profiles and cable types by id, and the files that could not be read."""

    profiles: dict[str, Profile] = field(default_factory=dict)
    cables: dict[str, CableType] = field(default_factory=dict)
    broken: dict[str, list[Problem]] = field(default_factory=dict)

    def with_folder(self, folder: FilePath, remembered: Remembered | None = None) -> "Catalogue":
        """This catalogue and what is in `folder`; a user's broken file is listed, not skipped and not fatal."""
        more = Catalogue(dict(self.profiles), dict(self.cables), dict(self.broken))
        for file in sorted(folder.rglob("*.yaml")) if folder.is_dir() else []:
            try:
                document = _read(file, remembered)
            except RefusedError as error:
                more.broken[str(file)] = error.problems
                continue
            if isinstance(document, Profile):
                more.profiles[document.id] = document
            else:
                more.cables[document.id] = document
        if remembered is not None:
            remembered.keep()
        return more


@cache
def shipped() -> Catalogue:
    """What ships. A broken file here stops the start: raises RefusedError with every problem."""
    catalogue = Catalogue().with_folder(SHIPPED / "profiles").with_folder(SHIPPED / "cables")
    problems = [problem for found in catalogue.broken.values() for problem in found]
    if problems:
        raise RefusedError(problems)
    return catalogue


def load_text(file: FilePath) -> str:
    """The text of a file, refused when it is too large or not UTF-8."""
    try:
        size = file.stat().st_size
        if size > MAX_BYTES:
            words = f"found {size:,} bytes; a document has at most {MAX_BYTES:,}."
            raise RefusedError([Problem(code="too-large", path="", message=words, file=str(file))])
        return file.read_text(encoding="utf-8")
    except UnicodeDecodeError as error:
        words = "this is not UTF-8 text; save it as UTF-8."
        raise RefusedError([Problem(code="not-text", path="", message=words, file=str(file))]) from error
    except OSError as error:
        words = f"cannot read it: {error.strerror}."
        raise RefusedError([Problem(code="unreadable", path="", message=words, file=str(file))]) from error


def _read(file: FilePath, remembered: Remembered | None) -> Profile | CableType:
    if remembered is None:
        return read_profile_or_cable(file)
    text = load_text(file)
    known = remembered.find(text)
    if known is not None and known.id == file.stem:
        return known
    document = read_profile_or_cable(file, text)
    remembered.add(text, document)
    return document


def read_profile_or_cable(file: FilePath, text: str | None = None) -> Profile | CableType:
    """Read one file of the catalogue, or its `text`. Raises RefusedError with every flaw at its line."""
    source = read_text(load_text(file) if text is None else text, str(file))
    is_cable = isinstance(source.data, dict) and source.data.get("format") == "isotact/cable"
    document = check_document(source, CableType) if is_cable else check_document(source, Profile)
    if document.id != file.stem:
        words = f"found id '{document.id}' in a file named '{file.name}'; make the two the same."
        raise RefusedError([source.problem("id-and-file-differ", ("id",), words)])
    return document


def read_file(file: FilePath, kind: type[Document]) -> Document:
    """Read one document of `kind` from a file. Raises RefusedError with every flaw at its line."""
    return check_document(read_text(load_text(file), str(file)), kind)
