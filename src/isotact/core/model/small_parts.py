"""Small parts: what devices are fixed with, and what a device says that it needs for that.

Threads by their nominal size as ISO 1222 has them (1/4-20 UNC and 3/8-16 UNC), rods by their diameter, plates by their
pattern of holes, keys by their width across flats.
"""

from collections.abc import Collection, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from types import MappingProxyType
from typing import Literal, Self

from pydantic import Field, model_validator

from isotact.core.model.base import Struct, flawed
from isotact.core.model.problems import nearest
from isotact.core.model.units import Grams, Millimetres
from isotact.core.model.words import Id, Name, Text

PartKind = Literal["plate", "screw", "rods", "clamp", "arm", "shoe", "strap", "key"]

TOOLS: frozenset[PartKind] = frozenset(("rods", "key", "plate"))
"""One of them serves all that need it: a pair of rods carries all clamps, a key turns every screw of its width."""


class SmallPart(Struct):
    """One kind of small part. `size`: of the thread, rod, pattern or key.

    `length_mm`: how far a screw stands out; how long rods are.
    """

    name: Name
    kind: PartKind
    size: Text
    length_mm: Millimetres | None = None
    mass_g: Grams

    @property
    def is_tool(self) -> bool:
        """Whether one of it serves all that need it."""
        return self.kind in TOOLS


class Fixing(Struct):
    """One thing that a device needs to be fixed: a part of one of some kinds, of a size.

    `least_mm` and `most_mm` are of a screw: how far it has to stand out to hold, and may before it meets the bottom.
    """

    by: list[PartKind] = Field(min_length=1, description="any one of these will do")
    size: Text
    least_mm: Millimetres | None = None
    most_mm: Millimetres | None = None

    def takes(self, part: SmallPart) -> bool:
        """Whether a part will do."""
        if part.kind not in self.by or part.size != self.size:
            return False
        long = part.length_mm
        return long is None or part.kind != "screw" or ((self.least_mm or 0.0) <= long <= (self.most_mm or long))

    @property
    def words(self) -> str:
        """What is needed, as one asks for it: `a 1/4-20 screw (4 to 5.5 mm out)`."""
        kinds = " or ".join(one for one in (", ".join(self.by[:-1]), self.by[-1]) if one)
        name = kinds if self.size == "any" else self.size if self.size.endswith(kinds) else f"{self.size} {kinds}"
        least, most = self.least_mm, self.most_mm
        out = f"{least or 0:g} to {most:g} mm out" if most is not None else f"{least or 0:g} mm out or more"
        article = "" if "rods" in self.by else "a "
        return f"{article}{name}{f' ({out})' if (least, most) != (None, None) else ''}"


def _part(name: str, kind: PartKind, size: str, mass_g: float, length_mm: float | None = None) -> SmallPart:
    return SmallPart(name=name, kind=kind, size=size, mass_g=mass_g, length_mm=length_mm)


SMALL_PARTS = MappingProxyType(
    {
        "screw-1-4-5": _part("camera screw 1/4-20, 5 mm out", "screw", "1/4-20", 6, 5),
        "screw-1-4-8": _part("screw 1/4-20, 8 mm out", "screw", "1/4-20", 7, 8),
        "screw-1-4-12": _part("screw 1/4-20, 12 mm out", "screw", "1/4-20", 8, 12),
        "screw-3-8-6": _part("camera screw 3/8-16, 6 mm out", "screw", "3/8-16", 14, 6),
        "screw-3-8-12": _part("screw 3/8-16, 12 mm out", "screw", "3/8-16", 17, 12),
        "plate-two-hole": _part("camera plate, two holes 38 mm apart", "plate", "38 mm", 160),
        "plate-long": _part("long plate, slots from end to end", "plate", "slotted", 310),
        "plate-controller": _part("controller plate with battery lock", "plate", "controller", 240),
        "rods-15-200": _part("pair of 15 mm rods, 200 mm", "rods", "15 mm", 190, 200),
        "rods-15-100": _part("pair of 15 mm rods, 100 mm", "rods", "15 mm", 95, 100),
        "rods-19-300": _part("pair of 19 mm rods, 300 mm", "rods", "19 mm", 620, 300),
        "clamp-15": _part("rod clamp 15 mm with a 1/4-20 screw", "clamp", "1/4-20", 65),
        "arm-1-4": _part("ball arm with a 1/4-20 screw", "arm", "1/4-20", 120),
        "arm-3-8": _part("heavy arm with a 3/8-16 screw", "arm", "3/8-16", 260),
        "shoe-1-4": _part("shoe adapter with a 1/4-20 screw", "shoe", "1/4-20", 30),
        "shoe-cold": _part("cold shoe, to be screwed on", "shoe", "cold shoe", 18),
        "strap": _part("cable strap", "strap", "any", 4),
        "strap-safety": _part("safety wire with two snaps", "strap", "safety", 35),
        "key-5-32": _part("hex key 5/32 in", "key", "5/32 in", 15),
        "key-3-16": _part("hex key 3/16 in", "key", "3/16 in", 20),
        "key-2-5": _part("hex key 2.5 mm", "key", "2.5 mm", 10),
    }
)
"""The small parts that are known, by id. What they weigh is of the size of such things; common practice, no source."""


class PartItem(Struct):
    """So many small parts of one kind.

    `made`: what it is, for one that is not among those that are known. Invariant: a name is known, or said what it is,
    and not both.
    """

    part: Id
    count: int = Field(ge=0, le=99, strict=True)
    made: SmallPart | None = Field(default=None, description="what it is, where its name is none that is known")

    @model_validator(mode="after")
    def _is_one_thing(self) -> Self:
        if self.made is None and self.part not in SMALL_PARTS:
            says = f"found '{self.part}', which is no small part we know{nearest(self.part, SMALL_PARTS)}"
            raise flawed([(("part",), says)])
        if self.made is not None and self.part in SMALL_PARTS:
            says = f"found a part of its own under '{self.part}', which is {SMALL_PARTS[self.part].name}"
            raise flawed([(("part",), f"{says}; expected a name of its own.")])
        return self


@dataclass(frozen=True)
class PartBag:
    """The small parts that lie in a bag. `counts`: part -> how many, in id order, none of which there is none.

    `kinds`: every part that could lie there; `known`: whether anybody said what does.
    """

    known: bool
    counts: Mapping[str, int]
    kinds: Mapping[str, SmallPart]

    def doing(self, fixing: Fixing, among: Collection[str] | None = None) -> list[str]:
        """The parts of the bag that will do, or of `among`, the lightest first."""
        those = [key for key in (self.counts if among is None else among) if fixing.takes(self.kinds[key])]
        return sorted(those, key=lambda key: (self.kinds[key].mass_g, key))

    def weights(self, needs: Iterable[tuple[str, Sequence[Fixing]]]) -> Iterator[tuple[str, str]]:
        """What each of some devices brings along, `(device, part)`: what serves all with the first that needs it.

        Of several that would do the lightest counts: screws of one thread differ by a gram. A key stays in the case.
        """
        served: set[str] = set()
        for device, fixings in needs:
            for part in (able[0] for fixing in fixings if (able := self.doing(fixing))):
                if self.kinds[part].kind != "key" and part not in served:
                    yield device, part
                served |= {part} if self.kinds[part].is_tool else set()

    def weights_g(self, needs: Iterable[tuple[str, Sequence[Fixing]]]) -> float:
        """What all of that weighs."""
        return sum(self.kinds[part].mass_g for _, part in self.weights(needs))


def bag_of(items: Iterable[PartItem] | None) -> PartBag:
    """The bag that some items are; None is one of which nobody spoke."""
    lying = sorted(items or (), key=lambda one: one.part)
    own = {item.part: item.made for item in lying if item.made is not None}
    counts = {item.part: item.count for item in lying if item.count}
    return PartBag(items is not None, counts, {**SMALL_PARTS, **own})
