"""Who is awake since when, what rolls, and which screens are turned down."""

from dataclasses import dataclass, field
from typing import ClassVar

from isotact.core.model.keys import Item
from isotact.core.world.world import State, World


@dataclass
class Waking(State):
    """Times in seconds on the world's clock. A device is booting while it has started and is not awake yet."""

    word: ClassVar[str] = "waking"
    boot_started_s: dict[str, float] = field(default_factory=dict)
    awake_since_s: dict[str, float] = field(default_factory=dict)
    recording: set[str] = field(default_factory=set)
    tested: set[str] = field(default_factory=set)
    """Those of what rolls that a proof set going: it is stopped before the next thing is done."""
    dimmed: set[Item] = field(default_factory=set)
    hung: set[str] = field(default_factory=set)

    def is_awake(self, device: str) -> bool:
        return device in self.awake_since_s

    def is_on(self, device: str) -> bool:
        """Awake or on the way there: either draws power."""
        return device in self.boot_started_s

    def stop_test(self) -> None:
        """Press the button again, where a proof set something rolling: it toggles."""
        self.recording -= self.tested
        self.tested = set()

    def sleeps(self, world: World, device: str) -> None:
        self.boot_started_s.pop(device, None)
        self.awake_since_s.pop(device, None)
        self.recording.discard(device)
        self.tested.discard(device)
        self.hung.discard(device)
