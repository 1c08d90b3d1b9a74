"""What follows from a document that never changes, worked out the first time that somebody asks."""

import weakref
from collections.abc import Callable
from typing import Any, TypeVar

from isotact.core.model.base import Struct

P = TypeVar("P", bound=Struct)
Q = TypeVar("Q", bound=Struct)
T = TypeVar("T")

# By identity: two equal profiles may be asked, but neither is compared field by field to find the answer.
_known: dict[int, tuple[weakref.ref[Struct], dict[object, Any]]] = {}


def _memory(part: Struct) -> dict[object, Any]:
    entry = _known.get(id(part))
    if entry is None or entry[0]() is not part:
        key = id(part)
        entry = _known[key] = weakref.ref(part, lambda _: _known.pop(key, None)), {}
    return entry[1]


def once(part: P, make: Callable[[P], T]) -> T:
    """`make(part)`, remembered for as long as `part` lives."""
    memory = _memory(part)
    if make not in memory:
        memory[make] = make(part)
    known: T = memory[make]
    return known


def once_for_two(one: P, other: Q, make: Callable[[P, Q], T]) -> T:
    """`make(one, other)`, remembered for as long as both live."""
    memory = _memory(one)
    key = (make, id(other))
    if key not in memory or memory[key][0]() is not other:
        memory[key] = weakref.ref(other), make(one, other)
    known: T = memory[key][1]
    return known
