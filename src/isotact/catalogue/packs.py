"""Packs: several documents in one text, set apart by lines of three hyphens."""

import json
from typing import Any

import yaml

from isotact.catalogue.validation import Entry, check_entry
from isotact.catalogue.yaml_source import read_text
from isotact.core.model.problems import Problem, RefusedError
from isotact.core.model.rig import Rig
from isotact.core.model.vocabulary import Words, also_known, vocabulary

# A rental house's whole shelf goes in as a few packs; one of more is a mistake.
MAX_DOCUMENTS = 100


def read_pack(text: str, file: str = "") -> list[Entry]:
    """Every document in `text`, its words first. Raises RefusedError with every flaw of all of them, at its line."""
    found: list[Entry] = []
    problems: list[Problem] = []
    words: list[Words] = []
    # What a pack declares is known to the whole of it, wherever in it that stands.
    for start, part in sorted(_parts(text), key=lambda one: "isotact/words" not in one[1]):
        try:
            with also_known(words):
                entry = check_entry(read_text(part, file), vocabulary().documents)
        except RefusedError as error:
            problems += [one.model_copy(update={"line": one.line and one.line + start}) for one in error.problems]
            continue
        found.append(entry)
        if isinstance(entry, Words):
            words.append(entry)
    problems.sort(key=lambda one: one.line or 0)
    ids = [one.id for one in found]
    twice = sorted({key for key in ids if ids.count(key) > 1})
    problems += [
        Problem(code="id-twice", path="id", message=f"found '{key}' twice; give each its own.", file=file)
        for key in twice
    ]
    if not found and not problems:
        problems = [Problem(code="empty", path="", message="found no document in it.", file=file)]
    if problems:
        raise RefusedError(problems)
    return found


def _parts(text: str) -> list[tuple[int, str]]:
    """The documents of a pack, each with the number of lines before it."""
    parts: list[tuple[int, list[str]]] = [(0, [])]
    for number, line in enumerate(text.splitlines(), start=1):
        if line.rstrip() == "---":
            parts.append((number, []))
        else:
            parts[-1][1].append(line)
    filled = [(start, "\n".join(lines) + "\n") for start, lines in parts if any(line.strip() for line in lines)]
    if len(filled) > MAX_DOCUMENTS:
        message = f"found {len(filled)} documents; a pack has at most {MAX_DOCUMENTS}."
        raise RefusedError([Problem(code="too-large", path="", message=message)])
    return filled


def as_yaml(document: Entry | Rig) -> str:
    """A document as YAML text, without what is left at its default."""
    full: dict[str, Any] = json.loads(document.model_dump_json())
    short: dict[str, Any] = json.loads(document.model_dump_json(exclude_defaults=True))
    return yaml.safe_dump(_kinds(short, full), sort_keys=False, allow_unicode=True, width=110)


def _kinds(short: Any, full: Any) -> Any:
    """Put the `kind` of unions back, which is a default of each of their members."""
    if isinstance(short, dict):
        kept = {key: _kinds(value, full[key]) for key, value in short.items()}
        head = {"kind": full["kind"]} if "kind" in full and "kind" not in kept else {}
        return {**head, **kept}
    if isinstance(short, list):
        return [_kinds(one, other) for one, other in zip(short, full, strict=True)]
    return short
