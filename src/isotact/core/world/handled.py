"""What hands have turned: the numbers and rings that follow a wheel."""

from dataclasses import dataclass, field
from typing import ClassVar

from isotact.core.model.keys import Item
from isotact.core.world.world import State

MIDDLE, LOWEST, HIGHEST = 5, 0, 10
"""Where a number stands that nobody has turned yet, and how far it goes: tenths of its way. No device says its own."""


@dataclass
class Handled(State):
    """By device and function, at which tenth of its way a number or ring stands. Left out: in the middle."""

    word: ClassVar[str] = "handled"
    tenths: dict[Item, int] = field(default_factory=dict)

    def turn(self, item: Item, by: int) -> int:
        """Turn what follows a wheel, never past its ends; where it stands then."""
        self.tenths[item] = max(LOWEST, min(HIGHEST, self.tenths.get(item, MIDDLE) + by))
        return self.tenths[item]
