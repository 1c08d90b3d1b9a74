"""The vocabulary of the trade: connectors, functions, kinds of device. A pack may add to it; nothing else changes it.

A vocabulary is a value that nobody changes: documents are read with the one in force, wherever they come from. Another
one comes into force whole (`declare`), so nobody ever reads with half of it; for the time that a pack is looked at, its
words are known to whoever looks and to nobody else (`also_known`).
"""

import dataclasses
from collections.abc import Iterable, Iterator, Mapping
from contextlib import contextmanager
from contextvars import ContextVar
from functools import partial
from types import MappingProxyType
from typing import Annotated, Any, Literal, Self

from pydantic import AfterValidator, BaseModel, ConfigDict, model_validator
from pydantic.dataclasses import dataclass

from isotact.core.model.base import Document, flawed
from isotact.core.model.functions import FUNCTIONS, Function
from isotact.core.model.problems import Flaw, nearest
from isotact.core.model.words import Id, Name, Text

_STRICT = ConfigDict(extra="forbid")


@dataclass(frozen=True, config=_STRICT)
class Connector:
    """A kind of socket. `direct` ones mate device to device with no cable between.

    `mated` is what tells that two are home; teeth of a `gear` mesh, and one end turns the other.
    """

    name: Name
    direct: bool = False
    mated: str = ""
    gear: bool = False


MESHED = "Teeth fully in, rod tight, nothing slips when you turn it."
_CONNECTORS: dict[str, Connector] = {
    "usb-c": Connector("USB-C"),
    "usb-micro-b": Connector("USB Micro-B"),
    "usb-mini-b": Connector("USB Mini-B"),
    "usb-a": Connector("USB-A"),
    "hdmi-a": Connector("HDMI (A, full)"),
    "hdmi-c": Connector("mini HDMI (C)"),
    "hdmi-d": Connector("micro HDMI (D)"),
    "bnc": Connector("BNC"),
    "rj45": Connector("RJ45"),
    "jack-2-5-3": Connector("2.5 mm jack, 3-pole"),
    "jack-2-5-4": Connector("2.5 mm jack, 4-pole"),
    "jack-3-5-3": Connector("3.5 mm jack, 3-pole"),
    "multi-remote": Connector("multi-pin remote"),
    "serial-4": Connector("4-pin serial"),
    "driver-7": Connector("7-pin driver"),
    "remote-8": Connector("8-pin remote"),
    "lens-12": Connector("12-pin lens"),
    "extension-9": Connector("9-pin extension"),
    "motor-bus-4": Connector("4-pin motor bus"),
    "power-2": Connector("2-pin power"),
    "power-4": Connector("4-pin XLR power"),
    "power-8": Connector("8-pin power"),
    "tap": Connector("battery tap"),
    "barrel": Connector("barrel power"),
    "pwm-3": Connector("3-pin servo"),
    "battery-plate": Connector("battery plate", direct=True, mated="It clicks; a pull holds."),
    "battery-bay": Connector("battery bay", direct=True, mated="The latch holds; the door closes."),
    "bayonet-mount": Connector("bayonet lens mount", direct=True, mated="It clicks; it does not turn."),
    "pl-mount": Connector("PL lens mount", direct=True, mated="Collar tight; the lens does not turn."),
    "gear-0-8": Connector("0.8 module gear", direct=True, mated=MESHED, gear=True),
    "control-ring": Connector("body control ring", direct=True, mated=MESHED, gear=True),
    "module-bay": Connector("add-on module bay", direct=True, mated="Screw tight; it does not rock."),
    "contact-shoe": Connector("shoe with contacts", direct=True, mated="Lock closed; it does not slide."),
}


@dataclass(frozen=True, config=_STRICT)
class Kind:
    """A kind of device: what a crew calls it, and the kind of ours that it goes on and is fixed like."""

    name: Name
    like: Id | None = None


_KINDS: dict[str, Kind] = {
    "camera-body": Kind("body"),
    "lens": Kind("lens"),
    "gimbal": Kind("gimbal"),
    "transmitter": Kind("transmitter"),
    "receiver": Kind("receiver"),
    "monitor": Kind("monitor"),
    "phone": Kind("phone or tablet"),
    "motor": Kind("lens motor"),
    "driver": Kind("motor driver"),
    "hand-unit": Kind("hand unit"),
    "finger-wheel": Kind("finger wheel"),
    "battery": Kind("battery"),
    "power-bank": Kind("power bank"),
    "charger": Kind("charger"),
    "splitter": Kind("splitter"),
    "network-grip": Kind("network grip"),
    "radio-remote": Kind("radio remote"),
    "converter": Kind("converter"),
    "module": Kind("module"),
    "plate": Kind("plate"),
    "matte-box": Kind("matte box"),
    "counterweight": Kind("counterweight"),
    "controller": Kind("controller"),
}

Table = Literal["connectors", "functions", "kinds"]
Word = tuple[Table, str]
_TABLES: tuple[Table, ...] = ("connectors", "functions", "kinds")
_SINGULAR: Mapping[Table, str] = {"connectors": "connector", "functions": "function", "kinds": "kind of device"}


@dataclasses.dataclass(frozen=True)
class Vocabulary:
    """Every connector, function and kind of device that is known, by id: those that ship, and those of `documents`."""

    connectors: Mapping[str, Connector]
    functions: Mapping[str, Function]
    kinds: Mapping[str, Kind]
    documents: "tuple[Words, ...]" = ()
    """The documents of one's own words in it, by id."""

    def __getitem__(self, table: Table) -> Mapping[str, Any]:
        words: Mapping[str, Any] = getattr(self, table)
        return words


OURS = Vocabulary(MappingProxyType(_CONNECTORS), MappingProxyType(FUNCTIONS), MappingProxyType(_KINDS))
"""What ships."""
_standing = OURS
_known_here: ContextVar[Vocabulary | None] = ContextVar("known_here", default=None)
_looked_up: ContextVar[set[Word] | None] = ContextVar("looked_up", default=None)


def vocabulary() -> Vocabulary:
    """The vocabulary in force."""
    return _known_here.get() or _standing


def _known(table: Table, value: str) -> str:
    words = vocabulary()[table]
    if value not in words:
        raise ValueError(f"found '{value}', which is no {_SINGULAR[table]} we know{nearest(value, words)}")
    looked_up = _looked_up.get()
    if looked_up is not None:
        looked_up.add((table, value))
    return value


ConnectorId = Annotated[str, AfterValidator(partial(_known, "connectors"))]
FunctionId = Annotated[str, AfterValidator(partial(_known, "functions"))]
DeviceKind = Annotated[str, AfterValidator(partial(_known, "kinds"))]


def kind_like(kind: DeviceKind) -> str:
    """The kind of ours that a kind of device stands for: itself, where it is ours."""
    return vocabulary().kinds[kind].like or kind


class Words(Document):
    """Connectors, functions and kinds of device of one's own: a document beside the profiles that use them."""

    format: Literal["isotact/words"]
    version: Literal[1]
    id: Id
    name: Name
    connectors: dict[Id, Connector] = {}
    functions: dict[Id, Function] = {}
    kinds: dict[Id, Kind] = {}
    notes: Text | None = None

    @model_validator(mode="after")
    def _make_sense(self) -> Self:
        flaws: list[Flaw] = []
        for key, connector in self.connectors.items():
            if connector.direct != bool(connector.mated):
                wants = "is made without a cable: say in 'mated' what shows that it is home"
                other = "takes a cable: leave 'mated' out, or write that it is direct"
                flaws.append((("connectors", key), f"found '{key}', which {wants if connector.direct else other}."))
        for key, kind in self.kinds.items():
            if kind.like is not None and kind.like not in OURS.kinds:
                says = f"found '{kind.like}'; expected a kind that ships{nearest(kind.like, OURS['kinds'])}"
                flaws.append((("kinds", key, "like"), says))
        if not any(self.declared()):
            flaws.append(((), "found no connector, function or kind of device in it; add one."))
        if flaws:
            raise flawed(flaws)
        return self

    def declared(self) -> Iterator[tuple[Table, str, Any]]:
        """Every word of it: its table, its id and what it is."""
        for table in _TABLES:
            for key, what in getattr(self, table).items():
                yield table, key, what


def clashes(words: Words, beside: Iterable[Words]) -> list[Flaw]:
    """Words of a document that ship as something else, or are something else in a document beside it."""
    theirs = [word for other in beside if other.id != words.id for word in other.declared()]
    known = {(table, key): what for table, key, what in theirs}
    known |= {(table, key): what for table in _TABLES for key, what in OURS[table].items()}
    return [
        (
            (table, key),
            f"found the {_SINGULAR[table]} '{key}', which is '{known[table, key].name}' already; rename yours.",
        )
        for table, key, what in words.declared()
        if known.get((table, key), what) != what
    ]


def declare(documents: Iterable[Words]) -> None:
    """From now on everybody knows what ships and the words of these documents, and nothing that was declared before."""
    global _standing
    _standing = _with(documents)


@contextmanager
def also_known(documents: Iterable[Words]) -> Iterator[None]:
    """Know these words too for as long as this lasts, here alone: a pack is read with its own."""
    token = _known_here.set(_with([*vocabulary().documents, *documents]))
    try:
        yield
    finally:
        _known_here.reset(token)


def _with(documents: Iterable[Words]) -> Vocabulary:
    """What ships and the words of documents; of two with one id, the later."""
    by_id = {document.id: document for document in documents}
    ordered = tuple(by_id[key] for key in sorted(by_id))
    tables: dict[Table, dict[str, Any]] = {table: dict(OURS[table]) for table in _TABLES}
    for document in ordered:
        for table, key, what in document.declared():
            tables[table][key] = what
    return Vocabulary(**{table: MappingProxyType(words) for table, words in tables.items()}, documents=ordered)


def words_used(document: BaseModel) -> frozenset[Word]:
    """Every connector, function and kind of device that a document names."""
    token = _looked_up.set(set())
    try:
        type(document).model_validate_json(document.model_dump_json())
        return frozenset(_looked_up.get() or ())
    finally:
        _looked_up.reset(token)
