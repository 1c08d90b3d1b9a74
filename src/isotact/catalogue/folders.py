"""Walks folders of YAML and keeps what is right and what is wrong apart."""

from collections.abc import Iterable
from dataclasses import dataclass, field
from functools import cache
from pathlib import Path as FilePath

from isotact.catalogue.validation import Document, Entry, check_document, check_entry
from isotact.catalogue.yaml_source import MAX_BYTES, read_text
from isotact.core.model.cable import CableType
from isotact.core.model.problems import Problem, RefusedError
from isotact.core.model.profile import Profile
from isotact.core.model.vocabulary import Words, declare, vocabulary

SHIPPED = FilePath(__file__).parent


@dataclass
class Catalogue:
    """Profiles, cable types and words of one's own by id, and the files that could not be read."""

    profiles: dict[str, Profile] = field(default_factory=dict)
    cables: dict[str, CableType] = field(default_factory=dict)
    words: dict[str, Words] = field(default_factory=dict)
    broken: dict[str, list[Problem]] = field(default_factory=dict)

    def with_folder(self, folder: FilePath) -> "Catalogue":
        """This catalogue and what is in `folder`; a user's broken file is listed, not skipped and not fatal.

        Its words are known from then on, and no others of one's own: whatever is read later is read with them.
        """
        more = Catalogue(dict(self.profiles), dict(self.cables), dict(self.words), dict(self.broken))
        texts: dict[FilePath, str] = {}
        for file in sorted(folder.rglob("*.yaml")) if folder.is_dir() else []:
            try:
                texts[file] = load_text(file)
            except RefusedError as error:
                more.broken[str(file)] = error.problems
        for file in [file for file, text in texts.items() if "isotact/words" in text]:
            more._take(file, texts.pop(file))
        declare(more.words.values())
        for file, text in texts.items():
            more._take(file, text)
        return more

    def _take(self, file: FilePath, text: str) -> None:
        try:
            entry = checked(file, text, self.words.values())
        except RefusedError as error:
            self.broken[str(file)] = error.problems
            return
        if isinstance(entry, Profile):
            self.profiles[entry.id] = entry
        elif isinstance(entry, Words):
            self.words[entry.id] = entry
        else:
            self.cables[entry.id] = entry


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
        if file.exists() and not file.is_file():
            words = "this is no file but a folder, a device or a pipe; give a file."
            raise RefusedError([Problem(code="no-file", path="", message=words, file=str(file))])
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


def read_entry(file: FilePath) -> Entry:
    """Read one file of the catalogue, with the words in force. Raises RefusedError with every flaw at its line."""
    return checked(file, load_text(file), vocabulary().documents)


def checked(file: FilePath, text: str, beside: Iterable[Words]) -> Entry:
    """The document in the text of a file, whose name is its id. Raises RefusedError with every flaw at its line."""
    source = read_text(text, str(file))
    entry = check_entry(source, beside)
    if entry.id != file.stem:
        words = f"found id '{entry.id}' in a file named '{file.name}'; make the two the same."
        raise RefusedError([source.problem("id-and-file-differ", ("id",), words)])
    return entry


def read_file(file: FilePath, kind: type[Document]) -> Document:
    """Read one document of `kind` from a file. Raises RefusedError with every flaw at its line."""
    return check_document(read_text(load_text(file), str(file)), kind)
