"""A kit list as people keep it, in a table: which column is what, and what each line means to us.

No file is read here: rows of text come in, lines with their problems go out.
"""

import re
from collections import defaultdict
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Literal

from pydantic import ValidationError
from rapidfuzz import fuzz, process

from isotact.core.model.base import MOST, Struct
from isotact.core.model.cable import CableType
from isotact.core.model.kit import MOST_PIECES, Kit, KitCable, KitDevice
from isotact.core.model.profile import Profile
from isotact.core.model.words import VERSION_PATTERN, Id

Field = Literal["item", "count", "tags", "firmware", "licences", "note", "ignore"]
HEADINGS: dict[Field, tuple[str, ...]] = {
    "item": ("item", "name", "description", "what", "model", "type", "article", "profile", "cable", "equipment"),
    "count": ("count", "qty", "quantity", "number", "pieces", "pcs", "amount", "no"),
    "tags": ("tags", "tag", "asset", "asset tag", "label", "barcode", "serial", "serial number", "id"),
    "firmware": ("firmware", "fw", "software", "version"),
    "licences": ("licences", "licence", "licenses", "license", "keys"),
    "note": ("note", "notes", "remark", "remarks", "comment", "comments"),
    "ignore": (),
}
CLOSE_ENOUGH = 86
"""A name so like one of ours, in percent, is taken for it, and said so; anything less is asked."""
NEAR = 40
"""What is less like one of ours is not offered."""
LONGEST = 400
"""So many characters stand in a cell that we read; see `Text`."""
LIMITED: tuple[Field, ...] = ("item", "count", "firmware", "note")


class KitLine(Struct):
    """One line of the list: what it was taken for, or what is wrong with it."""

    line: int
    text: str
    kind: Literal["device", "cable", "nothing"]
    item: Id | None = None
    name: str = ""
    sure: bool = False
    count: int = 1
    tags: tuple[str, ...] = ()
    firmware: str | None = None
    licences: tuple[str, ...] = ()
    note: str | None = None
    problems: tuple[str, ...] = ()
    near: tuple[Id, ...] = ()
    """What it might be, the likeliest first."""


def guess_columns(headings: Sequence[str]) -> list[Field]:
    """What each column is, by its heading; the first that fits a field has it."""
    taken: set[Field] = set()
    columns: list[Field] = []
    for heading in headings:
        plain = re.sub(r"[^a-z ]", " ", heading.lower()).strip()
        found: Field = next(
            (field for field, names in HEADINGS.items() if plain in names and field not in taken), "ignore"
        )
        taken.add(found)
        columns.append(found)
    return columns


@dataclass
class _Known:
    """What a line can be taken for, and what texts were taken for before: lists say the same thing again and again."""

    profiles: Mapping[str, Profile]
    names: Mapping[str, str]
    plain: dict[str, str] = field(default_factory=dict)
    keys: tuple[str, ...] = ()
    plain_names: tuple[str, ...] = ()
    matched: dict[str, tuple[str | None, bool, list[str]]] = field(default_factory=dict)

    def __post_init__(self) -> None:
        self.keys = tuple(self.names)
        self.plain_names = tuple(_plain(name) for name in self.names.values())
        for key, name in zip(self.keys, self.plain_names, strict=True):
            self.plain.setdefault(_plain(key), key)
            self.plain.setdefault(name, key)

    def match(self, text: str) -> tuple[str | None, bool, list[str]]:
        """The item that a text means, whether that is sure, and what else it might be."""
        plain = _plain(text)
        if plain not in self.matched:
            self.matched[plain] = self._match(plain)
        return self.matched[plain]

    def _match(self, plain: str) -> tuple[str | None, bool, list[str]]:
        if plain in self.plain:
            return self.plain[plain], True, []
        found = process.extract(plain, self.plain_names, scorer=fuzz.ratio, limit=4, score_cutoff=NEAR) if plain else []
        near = [self.keys[place] for _, _, place in found]
        if found and found[0][1] >= CLOSE_ENOUGH:
            return near[0], False, near
        return None, False, near


def read_lines(
    rows: Sequence[tuple[int, Sequence[str]]],
    columns: Sequence[Field],
    profiles: Mapping[str, Profile],
    cables: Mapping[str, CableType],
    chosen: Mapping[int, Id] | None = None,
) -> list[KitLine]:
    """Every row as a line of a kit. `rows` come with their line numbers; `chosen` says what some lines are."""
    names = {key: profile.name for key, profile in profiles.items()} | {key: c.name for key, c in cables.items()}
    known = _Known(profiles, names)
    lines = []
    for number, row in rows:
        cells: dict[Field, str] = defaultdict(str)
        for column, cell in zip(columns, row, strict=False):
            cells[column] = f"{cells[column]} {cell}".strip() if column in ("note",) else cell.strip()
        if any(cells[column] for column in cells if column != "ignore"):
            lines.append(_line(number, cells, known, (chosen or {}).get(number)))
    return _with_sums(lines)


def _line(number: int, cells: Mapping[Field, str], known: _Known, chosen: str | None) -> KitLine:
    long = [
        f"found {len(cells[one]):,} characters of {one}; at most {LONGEST:,}."
        for one in LIMITED
        if len(cells[one]) > LONGEST
    ]
    if long:
        return KitLine(line=number, text=f"{cells['item'][:60]}…", kind="nothing", problems=tuple(long))
    text = cells["item"]
    item, sure, near = (chosen, True, []) if chosen in known.names else known.match(text)
    problems = [] if item else [f"found '{text}', which is no device or cable that we know; choose what it is."]
    if not text:
        problems = ["found no item; give its name, or leave the line out."]
    count, wrong = _count(cells["count"])
    problems += wrong
    profile = known.profiles.get(item or "")
    firmware = cells["firmware"] or None
    if firmware and not re.fullmatch(VERSION_PATTERN, firmware):
        problems.append(f"found firmware '{firmware}'; expected numbers with dots, such as 2.10.")
    licences = _several(cells["licences"])
    loadable = profile.licences if profile else []
    problems += [
        f"found licence '{one}'; {'this device has ' + ', '.join(loadable) if loadable else 'this has none'}."
        for one in licences
        if one not in loadable
    ]
    line = KitLine(
        line=number,
        text=text,
        kind="nothing" if item is None else "device" if profile else "cable",
        item=item,
        name=known.names.get(item or "", ""),
        sure=sure,
        count=count,
        tags=tuple(_several(cells["tags"])),
        firmware=firmware,
        licences=tuple(licences),
        note=cells["note"] or None,
        problems=tuple(problems),
        near=tuple(near),
    )
    return line.model_copy(update={"problems": (*line.problems, *_not_to_be_kept(line))}) if not problems else line


def _not_to_be_kept(line: KitLine) -> Iterator[str]:
    """What a kit could not keep of a line, whatever its own words for that are."""
    try:
        _piece(line)
    except ValidationError as error:
        for one in error.errors(include_url=False):
            yield f"{one['msg'].removeprefix('Value error, ')}, in {one['loc'][0]}."


def _with_sums(lines: Sequence[KitLine]) -> list[KitLine]:
    """The lines, those with which an item comes to more pieces or tags than a kit can hold refused."""
    counts: dict[object, int] = defaultdict(int)
    tags: dict[object, int] = defaultdict(int)
    told = []
    for line in lines:
        key = _sort_of(line)
        counts[key] += line.count
        tags[key] += len(line.tags)
        problems = list(line.problems)
        if line.item and counts[key] > MOST_PIECES:
            problems.append(f"found {counts[key]:,} of these together; a kit holds at most {MOST_PIECES} of a sort.")
        if line.item and tags[key] > MOST:
            problems.append(f"found {tags[key]:,} tags of these together; a kit holds at most {MOST} of a sort.")
        told.append(line.model_copy(update={"problems": tuple(problems)}))
    return told


def _plain(text: str) -> str:
    return " ".join(sorted(re.findall(r"[a-z]+|[0-9]+", text.lower().replace("-", " "))))


def _count(text: str) -> tuple[int, list[str]]:
    if not text:
        return 1, []
    if re.fullmatch(r"[0-9]{1,3}", text):
        return int(text), []
    return 1, [f"found count '{text[:20]}'; expected a whole number from 0 to {MOST_PIECES}."]


_ONE = re.compile(r'\s*(?:"((?:[^"]|"")*)"|([^;,]*))\s*(?:[;,]|$)')


def _several(text: str) -> list[str]:
    """The parts of a cell, between semicolons or commas; one that holds such a mark itself stands in double quotes."""
    found = [(quoted.replace('""', '"') if quoted else plain).strip() for quoted, plain in _ONE.findall(text)]
    return [part for part in found if part]


def _joined(parts: Sequence[str]) -> str:
    """Parts as one cell, from which `_several` has them again."""
    return "; ".join('"' + part.replace('"', '""') + '"' if re.search('[;,"]', part) else part for part in parts)


def _sort_of(line: KitLine) -> tuple[object, ...]:
    """What is counted together: the same item, known to be alike."""
    return (line.item, line.firmware, line.licences, line.note) if line.kind == "device" else (line.item, line.note)


def _piece(line: KitLine) -> KitDevice | KitCable:
    item, tags = line.item or "", list(line.tags)
    if line.kind == "cable":
        return KitCable(cable=item, count=line.count, tags=tags, note=line.note)
    return KitDevice(
        profile=item, count=line.count, tags=tags, firmware=line.firmware, licences=list(line.licences), note=line.note
    )


def kit_of(lines: Sequence[KitLine], kit: Kit) -> Kit:
    """`kit` with what `lines` hold in place of what it held: lines of one sort are put together.

    The lines have no problems: what a kit cannot hold was told when they were read.
    """
    sorts: dict[tuple[object, ...], KitDevice | KitCable] = {}
    for line in lines:
        if line.item is None:
            continue
        key, piece = _sort_of(line), _piece(line)
        old = sorts.get(key)
        more = {"count": old.count + piece.count, "tags": [*old.tags, *piece.tags]} if old else {}
        sorts[key] = piece.model_copy(update=more)
    devices = [piece for piece in sorts.values() if isinstance(piece, KitDevice)]
    cables = [piece for piece in sorts.values() if isinstance(piece, KitCable)]
    return kit.model_copy(update={"devices": devices, "cables": cables})


def table_of(kit: Kit, profiles: Mapping[str, Profile], cables: Mapping[str, CableType]) -> Iterator[tuple[str, ...]]:
    """The kit as rows, headings first; reading them back gives the same kit."""
    yield ("item", "name", "count", "tags", "firmware", "licences", "note")
    for device in kit.devices:
        name = profiles[device.profile].name if device.profile in profiles else ""
        yield (
            device.profile, name, str(device.count), _joined(device.tags), device.firmware or "",
            _joined(device.licences), device.note or "",
        )  # fmt: skip
    for cable in kit.cables:
        name = cables[cable.cable].name if cable.cable in cables else ""
        yield (cable.cable, name, str(cable.count), _joined(cable.tags), "", "", cable.note or "")
