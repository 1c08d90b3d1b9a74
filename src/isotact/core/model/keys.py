"""Names of conditions, steps and looks: a kind, and what it is about. Never glued, never taken apart again."""

from typing import NamedTuple

from pydantic_core import core_schema

from isotact.core.model.plan import LinkEnd


class Item(NamedTuple):
    """Something inside a device: a setting, a prompt, a screen."""

    device: str
    name: str

    def __str__(self) -> str:
        return f"{self.device}.{self.name}"

    @classmethod
    def parse(cls, text: object) -> "Item":
        """The item that `str` wrote. Ids hold no dots, so nothing else can be meant. Raises ValueError."""
        if isinstance(text, Item):
            return text
        device, dot, name = str(text).partition(".")
        if not (device and dot and name):
            raise ValueError(f"found '{text}'; expected device.name")
        return cls(device, name)

    @classmethod
    def __get_pydantic_core_schema__(cls, source: object, handler: object) -> core_schema.CoreSchema:
        """In JSON an item is its text, so that it can be a key."""
        return core_schema.no_info_plain_validator_function(
            cls.parse, serialization=core_schema.plain_serializer_function_ser_schema(str)
        )


class Between(NamedTuple):
    """Two ends that are joined, or could be, in the order in which the plan names them."""

    a: LinkEnd
    b: LinkEnd

    def __str__(self) -> str:
        return f"{self.a}--{self.b}"


Subject = str | LinkEnd | Item | Between


class Key:
    """What kind of thing, and what it is about. Its text is for people, files and addresses.

    Never changed once made. A run sheet asks for the same few keys thousands of times, so each knows its hash.
    """

    __slots__ = ("_hash", "about", "kind")

    def __init__(self, kind: str, about: tuple[Subject, ...]) -> None:
        self.kind = kind
        self.about = about
        self._hash = hash((kind, about))

    @classmethod
    def of(cls, kind: str, *about: Subject) -> "Key":
        return cls(kind, about)

    @property
    def names(self) -> frozenset[str]:
        """The ids of what it is about, the devices of ends, items and joins among them."""
        found: set[str] = set()
        for one in self.about:
            match one:
                case Between(a, b):
                    found |= {a.device, b.device}
                case LinkEnd(device=device) | Item(device, _):
                    found.add(device)
                case _:
                    found.add(one)
        return frozenset(found)

    @property
    def ends(self) -> tuple[LinkEnd, ...]:
        """The ends of the joins that it is about."""
        joins = [one for one in self.about if type(one) is Between]
        return tuple(end for join in joins for end in join)

    def __hash__(self) -> int:
        return self._hash

    def __eq__(self, other: object) -> bool:
        if self is other:
            return True
        return (
            isinstance(other, Key)
            and self._hash == other._hash
            and (self.kind, self.about) == (other.kind, other.about)
        )

    def __str__(self) -> str:
        return ":".join((self.kind, *map(str, self.about)))

    def __repr__(self) -> str:
        return f"Key({self})"
