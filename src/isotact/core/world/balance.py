"""Which gimbals are balanced."""

from dataclasses import dataclass, field
from typing import ClassVar

from isotact.core.model.keys import Key
from isotact.core.model.named_keys import ANY_BALANCE
from isotact.core.world.waking import Waking
from isotact.core.world.world import State, World


@dataclass
class Balance(State):
    """The devices whose payload is balanced and whose axes are free."""

    word: ClassVar[str] = "balance"
    balanced: set[str] = field(default_factory=set)

    def spoil(self, key: Key) -> None:
        if key == ANY_BALANCE:
            self.balanced.clear()

    def settle(self, world: World) -> bool:
        """A gimbal that is not balanced strains, warns and switches off."""
        straining = [
            device
            for device in world[Waking].boot_started_s
            if (wake := world.rig[device].profile.wake) and wake.needs_balance and device not in self.balanced
        ]
        for device in straining:
            world.sleep(device)
        return bool(straining)
