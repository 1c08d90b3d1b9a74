"""The example rigs that ship: one document per situation of the trade. Data only, and the reader of it."""

from functools import cache
from pathlib import Path

from isotact.catalogue import read_file
from isotact.core.model.example import Example

FOLDER = Path(__file__).parent


@cache
def examples() -> tuple[Example, ...]:
    """Every example, by its number. Raises RefusedError when one that ships is broken."""
    found = [read_file(file, Example) for file in sorted(FOLDER.glob("*.yaml"))]
    return tuple(sorted(found, key=lambda example: example.number))
