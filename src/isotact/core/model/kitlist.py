"""A kit list as people keep it, in a table: which column is what, and what each line means to us.

No file is read here: rows of text come in, lines with their problems go out.
"""

import re
from collections import defaultdict
from collections.abc import Iterator, Mapping, Sequence
from difflib import SequenceMatcher
from typing import Literal

from isotact.core.model.base import Part
from isotact.core.model.cable import CableType
from isotact.core.model.kit import Kit, KitCable, KitDevice
from isotact.core.model.profile import Profile
from isotact.core.model.words import Id, version_key

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
CLOSE_ENOUGH = 0.86
"""A name so like one of ours is taken for it, and said so; anything less is asked."""


class KitLine(Part):
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


def read_lines(
    rows: Sequence[tuple[int, Sequence[str]]],
    columns: Sequence[Field],
    profiles: Mapping[str, Profile],
    cables: Mapping[str, CableType],
    chosen: Mapping[int, Id] | None = None,
) -> list[KitLine]:
    """Every row as a line of a kit. `rows` come with their line numbers; `chosen` says what some lines are."""
    names = {key: profile.name for key, profile in profiles.items()} | {key: c.name for key, c in cables.items()}
    lines = []
    for number, row in rows:
        cells: dict[Field, str] = defaultdict(str)
        for field, cell in zip(columns, row, strict=False):
            cells[field] = f"{cells[field]} {cell}".strip() if field in ("note",) else cell.strip()
        if any(cells[field] for field in cells if field != "ignore"):
            lines.append(_line(number, cells, names, profiles, (chosen or {}).get(number)))
    return lines


def _line(
    number: int,
    cells: Mapping[Field, str],
    names: Mapping[str, str],
    profiles: Mapping[str, Profile],
    chosen: str | None,
) -> KitLine:
    text = cells["item"]
    item, sure, near = (chosen, True, []) if chosen in names else _match(text, names)
    problems = [] if item else [f"found '{text}', which is no device or cable that we know; choose what it is."]
    if not text:
        problems = ["found no item; give its name, or leave the line out."]
    count, wrong = _count(cells["count"])
    problems += wrong
    profile = profiles.get(item or "")
    firmware = cells["firmware"] or None
    if firmware and not re.match(r"^\d+(\.\d+){0,3}$", firmware):
        problems.append(f"found firmware '{firmware}'; expected numbers with dots, such as 2.10.")
    licences = _several(cells["licences"])
    known = profile.licences if profile else []
    problems += [
        f"found licence '{one}'; {'this device has ' + ', '.join(known) if known else 'this has none'}."
        for one in licences
        if one not in known
    ]
    return KitLine(
        line=number,
        text=text,
        kind="nothing" if item is None else "device" if profile else "cable",
        item=item,
        name=names.get(item or "", ""),
        sure=sure,
        count=count,
        tags=tuple(_several(cells["tags"])),
        firmware=firmware,
        licences=tuple(licences),
        note=cells["note"] or None,
        problems=tuple(problems),
        near=tuple(near),
    )


def _match(text: str, names: Mapping[str, str]) -> tuple[str | None, bool, list[str]]:
    """The item that a text means, whether that is sure, and what else it might be."""
    plain = _plain(text)
    for key, name in names.items():
        if plain in (_plain(key), _plain(name)):
            return key, True, []
    scored = sorted(((_likeness(plain, _plain(name)), key) for key, name in names.items()), reverse=True)
    near = [key for score, key in scored[:4] if score > 0.4]
    if scored and scored[0][0] >= CLOSE_ENOUGH:
        return scored[0][1], False, near
    return None, False, near


def _likeness(one: str, other: str) -> float:
    return SequenceMatcher(None, one, other, autojunk=False).ratio()


def _plain(text: str) -> str:
    return " ".join(sorted(re.findall(r"[a-z]+|\d+", text.lower().replace("-", " "))))


def _count(text: str) -> tuple[int, list[str]]:
    if not text:
        return 1, []
    if re.fullmatch(r"\d{1,3}", text):
        return int(text), []
    return 1, [f"found count '{text}'; expected a whole number from 0 to 999."]


def _several(text: str) -> list[str]:
    return [part.strip() for part in re.split(r"[;,/]", text) if part.strip()]


def kit_of(lines: Sequence[KitLine], kit: Kit) -> Kit:
    """`kit` with what `lines` hold in place of what it held: lines of one item are put together."""
    devices: dict[tuple[str, str | None, tuple[str, ...]], KitDevice] = {}
    cables: dict[str, KitCable] = {}
    for line in lines:
        if line.kind == "device" and line.item:
            key = (line.item, line.firmware, line.licences)
            old = devices.get(key) or KitDevice(
                profile=line.item, count=0, firmware=line.firmware, licences=list(line.licences)
            )
            devices[key] = old.model_copy(update=_more(old, line))
        elif line.kind == "cable" and line.item:
            held = cables.get(line.item) or KitCable(cable=line.item, count=0)
            cables[line.item] = held.model_copy(update=_more(held, line))
    return kit.model_copy(update={"devices": list(devices.values()), "cables": list(cables.values())})


def _more(old: KitDevice | KitCable, line: KitLine) -> dict[str, object]:
    most = 99 if isinstance(old, KitDevice) else 999
    note = "; ".join(text for text in (old.note, line.note) if text) or None
    return {"count": min(most, old.count + line.count), "tags": [*old.tags, *line.tags], "note": note}


def table_of(kit: Kit, profiles: Mapping[str, Profile], cables: Mapping[str, CableType]) -> Iterator[tuple[str, ...]]:
    """The kit as rows, headings first; reading them back gives the same kit."""
    yield ("item", "name", "count", "tags", "firmware", "licences", "note")
    for device in sorted(kit.devices, key=lambda one: (one.profile, version_key(one.firmware or "0"))):
        name = profiles[device.profile].name if device.profile in profiles else ""
        yield (
            device.profile, name, str(device.count), "; ".join(device.tags), device.firmware or "",
            "; ".join(device.licences), device.note or "",
        )  # fmt: skip
    for cable in sorted(kit.cables, key=lambda one: one.cable):
        name = cables[cable.cable].name if cable.cable in cables else ""
        yield (cable.cable, name, str(cable.count), "; ".join(cable.tags), "", "", cable.note or "")
