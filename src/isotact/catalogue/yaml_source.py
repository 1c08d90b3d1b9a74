"""Reads YAML and JSON text with the line of every value, and refuses what could do harm.

YAML 1.2 core rules: only true and false are booleans, so `on` and `off` stay words. Anchors and
aliases are refused: no document of ours needs them, and they are how a small file becomes a huge one.
"""

import re
from dataclasses import dataclass, field
from typing import Any

import yaml

from isotact.core.model.problems import Path, Problem, RefusedError, path_text

# The largest rig that is planned is a twentieth of that.
MAX_BYTES = 1_000_000
# Documents of ours are nested ten deep; what is much deeper was made to be.
MAX_DEPTH = 40
_LOADER = getattr(yaml, "CSafeLoader", yaml.SafeLoader)
_INT = re.compile(r"^[-+]?[0-9]{1,18}$")
_FLOAT = re.compile(r"^[-+]?(\.[0-9]+|[0-9]+(\.[0-9]*)?)([eE][-+]?[0-9]+)?$")


@dataclass
class Source:
    """A parsed document: plain data, and the line on which each value stands."""

    data: Any
    file: str = ""
    lines: dict[Path, int] = field(default_factory=dict)

    def line_of(self, path: Path) -> int | None:
        """The line of `path`, or of the nearest thing around it."""
        while path and path not in self.lines:
            path = path[:-1]
        return self.lines.get(path)

    def problem(self, code: str, path: Path, message: str, hint: str = "") -> Problem:
        return Problem(
            code=code, path=path_text(path), message=message, hint=hint, line=self.line_of(path), file=self.file
        )


def read_text(text: str, file: str = "") -> Source:
    """Parse one YAML or JSON document. Raises RefusedError with the place of what is wrong."""
    size = len(text.encode("utf-8", errors="replace"))
    if size > MAX_BYTES:
        raise _refused(file, None, "too-large", f"found {size:,} bytes; a document has at most {MAX_BYTES:,}.")
    source = Source(None, file)
    try:
        builder = _Builder(source, yaml.parse(text, Loader=_LOADER))
        source.data = builder.document()
    except yaml.MarkedYAMLError as error:
        mark = error.problem_mark
        line = mark.line + 1 if mark else None
        raise _refused(file, line, "not-yaml", f"this is not YAML: {error.problem}.") from error
    except yaml.YAMLError as error:
        raise _refused(file, None, "not-yaml", f"this is not YAML text: {error}.") from error
    return source


def _refused(file: str, line: int | None, code: str, message: str) -> RefusedError:
    return RefusedError([Problem(code=code, path="", message=message, line=line, file=file)])


class _Builder:
    """Builds data from parser events, one pass, so that nothing is expanded before it is looked at."""

    def __init__(self, source: Source, events: Any) -> None:
        self.source, self.events = source, events

    def document(self) -> Any:
        data, seen = None, 0
        for event in self.events:
            if isinstance(event, yaml.DocumentStartEvent):
                seen += 1
                if seen > 1:
                    self._stop(event, "one-document", "found a second document; put one in each file.")
                data = self._value(next(self.events), ())
        if data is None:
            raise _refused(self.source.file, 1, "empty", "found nothing; expected a document.")
        return data

    def _value(self, event: Any, path: Path) -> Any:
        self.source.lines.setdefault(path, event.start_mark.line + 1)
        if isinstance(event, yaml.AliasEvent) or getattr(event, "anchor", None):
            self._stop(event, "alias", "found an anchor or alias; write the value out where it is needed.")
        if len(path) > MAX_DEPTH:
            self._stop(event, "too-deep", f"found more than {MAX_DEPTH} levels; expected far fewer.")
        if isinstance(event, yaml.ScalarEvent):
            return event.value if event.style else _scalar(event.value)
        if isinstance(event, yaml.SequenceStartEvent):
            return self._list(path)
        return self._mapping(path)

    def _list(self, path: Path) -> list[Any]:
        items: list[Any] = []
        while not isinstance(event := next(self.events), yaml.SequenceEndEvent):
            items.append(self._value(event, (*path, len(items))))
        return items

    def _mapping(self, path: Path) -> dict[str, Any]:
        found: dict[str, Any] = {}
        while not isinstance(event := next(self.events), yaml.MappingEndEvent):
            if not isinstance(event, yaml.ScalarEvent):
                self._stop(event, "key", "found a key that is not a word; expected a field's name.")
            key = str(event.value)
            if key in found:
                self._stop(event, "twice", f"found the field '{key}' twice; keep one.")
            self.source.lines[*path, key] = event.start_mark.line + 1
            found[key] = self._value(next(self.events), (*path, key))
        return found

    def _stop(self, event: Any, code: str, message: str) -> None:
        raise _refused(self.source.file, event.start_mark.line + 1, code, message)


def _scalar(text: str) -> Any:
    """A plain scalar by the YAML 1.2 core schema."""
    if text in ("", "~", "null", "Null", "NULL"):
        return None
    if text in ("true", "True", "TRUE"):
        return True
    if text in ("false", "False", "FALSE"):
        return False
    if _INT.match(text):
        return int(text)
    return float(text) if _FLOAT.match(text) and len(text) < 40 else text
