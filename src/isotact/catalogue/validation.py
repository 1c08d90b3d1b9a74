"""Turns parsed text into documents of ours, and every flaw into a problem at its line."""

from collections.abc import Iterable, Iterator, Sequence
from typing import Any, TypeVar

from pydantic import BaseModel, ValidationError

from isotact.catalogue.yaml_source import Source, read_text
from isotact.core.model.cable import CableType
from isotact.core.model.example import Example
from isotact.core.model.job import Job
from isotact.core.model.kit import Kit
from isotact.core.model.older_versions import newest, upgraded
from isotact.core.model.plan import Plan
from isotact.core.model.problems import Path, Problem, RefusedError, nearest
from isotact.core.model.profile import Profile
from isotact.core.model.recipe import Recipe
from isotact.core.model.rig import Rig
from isotact.core.model.vocabulary import Words, clashes
from isotact.core.model.words import ID_PATTERN, VERSION_PATTERN
from isotact.core.trades import lamps

Document = TypeVar("Document", bound=BaseModel)
FORMATS: dict[str, type[BaseModel]] = {
    "rig": Rig,
    "job": Job,
    "kit": Kit,
    "recipe": Recipe,
    "profile": Profile,
    "cable": CableType,
    "words": Words,
    "plan": Plan,
    "example": Example,
}
Entry = Profile | CableType | Words
"""What the catalogue holds, a document each."""
_TAGS = {"control", "picture", "power", "video", "bus", "cable", "keep-out", "off", "way"}


def read_document(text: str, kind: type[Document], file: str = "") -> Document:
    """Read `text` as one document of `kind`. Raises RefusedError with every flaw in it."""
    return check_document(read_text(text, file), kind)


def check_entry(source: Source, beside: Iterable[Words] = ()) -> Entry:
    """Check parsed data as one document of the catalogue: a profile, if it does not say otherwise.

    Raises RefusedError with every flaw in it; words that mean something else in a document `beside` are flaws too.
    """
    said = source.data.get("format") if isinstance(source.data, dict) else None
    entry = check_document(source, kind_of_entry(str(said)))
    if isinstance(entry, Words):
        taken = [source.problem("id-taken", path, says) for path, says in clashes(entry, beside)]
        if taken:
            raise RefusedError(taken)
    return entry


def kind_of_entry(said: str) -> type[Entry]:
    """What a document of the catalogue is, by its `format`: a profile, if it does not say otherwise."""
    kinds: dict[str, type[Entry]] = {"isotact/cable": CableType, "isotact/words": Words}
    return kinds.get(said, Profile)


def check_document(source: Source, kind: type[Document]) -> Document:
    """Check parsed data as one document of `kind`. Raises RefusedError with every flaw in it."""
    _check_head(source, kind)
    try:
        document = kind.model_validate(upgraded(source.data))
    except ValidationError as error:
        raise RefusedError(problems_of(error.errors(include_url=False), source)) from error
    if isinstance(document, Profile):
        unknown = [source.problem("not-allowed", path, says) for path, says in unknown_lamps(document)]
        if unknown:
            raise RefusedError(unknown)
    return document


def unknown_lamps(profile: Profile) -> Iterator[tuple[Path, str]]:
    """States of indicators that no trade can tell: such a lamp would be dark for ever."""
    known = lamps()
    for number, indicator in enumerate(profile.indicators):
        for place, look in enumerate(indicator.states):
            if look.when not in known:
                says = f"found '{look.when}'; expected one of {', '.join(sorted(known))}{nearest(look.when, known)}"
                yield ("indicators", number, "states", place, "when"), _stopped(says)


def _check_head(source: Source, kind: type[BaseModel]) -> None:
    name = next(name for name, model in FORMATS.items() if model is kind)
    data = source.data
    if not isinstance(data, dict):
        says = f"found {_kind_of(data)}; expected fields such as 'format: isotact/{name}'."
        raise RefusedError([source.problem("not-a-document", (), says)])
    wanted = f"isotact/{name}"
    if data.get("format") != wanted:
        found = f"found '{data['format']}'" if "format" in data else "found no format"
        raise RefusedError([source.problem("wrong-format", ("format",), f"{found}; expected '{wanted}'.")])
    version = data.get("version")
    latest = newest(wanted)
    if isinstance(version, bool) or not isinstance(version, int) or not 1 <= version <= latest:
        newer = isinstance(version, int) and version > latest
        hint = "It was written by a newer Isotact: update this one." if newer else f"Write 'version: {latest}'."
        found = f"found {version!r}" if "version" in data else "found no version"
        raise RefusedError([source.problem("wrong-version", ("version",), f"{found}; expected {latest}.", hint)])


def problems_of(errors: Sequence[Any], source: Source) -> list[Problem]:
    """Every flaw that pydantic found, at its place in `source`, in the order of the lines."""
    problems: list[Problem] = []
    for item in errors:
        path = _document_path(tuple(item["loc"]), source.data)
        if item["type"] == "references":
            problems += [
                source.problem("wrong-reference", (*path, *at), _stopped(says)) for at, says in item["ctx"]["flaws"]
            ]
        else:
            problems.append(_problem(item, path, source))
    return sorted(problems, key=lambda problem: problem.line or 0)


def _document_path(loc: Path, data: Any) -> Path:
    """pydantic's place without the tags of unions, which stand nowhere in the document."""
    path: list[str | int] = []
    here = data
    for part in loc:
        if part == "[key]":
            continue
        if isinstance(part, str) and part in _TAGS and isinstance(here, dict) and part not in here:
            continue
        path.append(part)
        try:
            here = here[part]
        except (KeyError, IndexError, TypeError):
            here = None
    return tuple(path)


def _problem(item: Any, path: Path, source: Source) -> Problem:
    kind, ctx, found = item["type"], item.get("ctx", {}), item.get("input")
    field = str(path[-1]) if path else ""
    if kind == "missing":
        return source.problem("missing", path, f"found no '{field}'; it is needed here.")
    if kind in ("extra_forbidden", "unexpected_keyword_argument"):
        return source.problem("unknown-field", path, f"found the field '{field}', which does not belong here.")
    if kind == "literal_error":
        words = [word.strip(" '") for word in str(ctx.get("expected", "")).replace(" or ", ", ").split(",")]
        close = nearest(str(found), words)
        return source.problem(
            "not-allowed", path, _stopped(f"found '{found}'; expected one of {', '.join(words)}{close}")
        )
    if kind in ("union_tag_invalid", "union_tag_not_found"):
        known = str(ctx.get("expected_tags", "")).replace("'", "") or "a known kind"
        return source.problem("not-allowed", (*path, "kind"), f"found kind '{ctx.get('tag', '')}'; expected {known}.")
    if kind == "value_error":
        return source.problem("not-allowed", path, _stopped(str(ctx["error"])))
    return source.problem("not-allowed", path, f"found {_shown(found)}; expected {_wanted(kind, ctx, item['msg'])}.")


def _wanted(kind: str, ctx: dict[str, Any], message: str) -> str:
    match kind:
        case "greater_than_equal":
            return f"{ctx['ge']:g} or more"
        case "greater_than":
            return f"more than {ctx['gt']:g}"
        case "less_than_equal":
            return f"{ctx['le']:g} or less"
        case "string_pattern_mismatch":
            return _PATTERNS.get(ctx["pattern"], f"text like {ctx['pattern']}")
        case "float_type" | "float_parsing":
            return "a number"
        case "int_type" | "int_parsing" | "int_from_float":
            return "a whole number"
        case "string_type":
            return "text (put it in quotes)"
        case "list_type" | "tuple_type":
            return "a list"
        case "model_type" | "model_attributes_type" | "dict_type":
            return "fields below it"
    return message[0].lower() + message[1:]


_PATTERNS = {
    ID_PATTERN: "lower-case words joined by hyphens, such as 'focus-wheel'",
    VERSION_PATTERN: "a version such as '2.10'",
    r"^[a-z0-9-]+(/[a-z0-9-]+)?$": "a port or radio, or port/role",
    r"^[A-Z]$": "one capital letter",
}


def _stopped(sentence: str) -> str:
    return sentence if sentence.endswith(("?", ".")) else f"{sentence}."


def _kind_of(data: Any) -> str:
    if isinstance(data, list):
        return "a list"
    return "nothing" if data is None else f"the single value {_shown(data)}"


def _shown(found: Any) -> str:
    if isinstance(found, dict | list):
        return "a list" if isinstance(found, list) else "a group of fields"
    text = str(found)
    return f"'{text[:60]}…'" if len(text) > 60 else (f"'{text}'" if isinstance(found, str) else text)
