"""What is fixed in its place."""

from dataclasses import dataclass, field
from typing import ClassVar

from isotact.core.world import State


@dataclass
class Mounting(State):
    """The devices that are fixed in their place on the gimbal or on the camera."""

    word: ClassVar[str] = "mounting"
    fixed: set[str] = field(default_factory=set)
