"""What devices are set to: mode, settings chosen and settings that have taken, answers, firmware, licences."""

from dataclasses import dataclass, field
from typing import ClassVar, Self

from isotact.core.model.base_role import When
from isotact.core.model.keys import Item
from isotact.core.model.resolved import Placed, ResolvedRig
from isotact.core.model.words import version_key
from isotact.core.world.world import State, World


@dataclass
class Menus(State):
    """`stored` settings are chosen, `effective` ones have taken. `sent` is a format that leaves in spite of them."""

    word: ClassVar[str] = "menus"
    mode: dict[str, str] = field(default_factory=dict)
    stored: dict[Item, str] = field(default_factory=dict)
    effective: dict[Item, str] = field(default_factory=dict)
    asking: set[Item] = field(default_factory=set)
    answers: dict[Item, str] = field(default_factory=dict)
    firmware: dict[str, str] = field(default_factory=dict)
    licences: set[Item] = field(default_factory=set)
    sent: dict[Item, str] = field(default_factory=dict)

    @classmethod
    def fresh(cls, rig: ResolvedRig) -> Self:
        placed = rig.devices.items()
        settings = {Item(d, one.id): p.setting_now(one.id) for d, p in placed for one in p.profile.settings}
        return cls(
            mode={d: p.mode_now for d, p in placed if p.mode_now is not None},
            stored=settings,
            effective=dict(settings),
            firmware={d: p.firmware_now for d, p in placed if p.firmware_now is not None},
            licences={Item(d, licence) for d, p in placed for licence in p.device.licences},
        )

    def moved(self, rig: ResolvedRig) -> Self:
        """What was set stays set; devices that came are as found; what is loaded is as the rig now says."""
        fresh = type(self).fresh(rig)
        other = self.fork()
        other.mode = fresh.mode | self.mode
        other.stored = fresh.stored | self.stored
        other.effective = fresh.effective | self.effective
        other.firmware, other.licences = fresh.firmware, fresh.licences
        return other

    def allows(self, device: str, when: When) -> bool:
        """Whether mode, settings, answers, firmware and licence are as `when` wants them."""
        if when.mode and self.mode.get(device) not in when.mode:
            return False
        if any(self.effective.get(Item(device, key)) not in when.allowed(key) for key in when.settings):
            return False
        if any(self.answers.get(Item(device, key)) != answer for key, answer in when.answers.items()):
            return False
        if when.firmware and version_key(self.firmware.get(device, "0")) < version_key(when.firmware):
            return False
        return when.licence is None or Item(device, when.licence) in self.licences

    def asks(self, device: str) -> str | None:
        """The prompt that a device shows now, the first by name."""
        return min((item.name for item in self.asking if item.device == device), default=None)

    def take(self, device: str) -> None:
        """What was stored takes effect, as it does at a start."""
        self.effective |= {item: value for item, value in self.stored.items() if item.device == device}

    def connected(self, placed: Placed, endpoint: str) -> None:
        """What waited for the next connection takes effect where something was plugged in."""
        for setting in placed.profile.settings:
            if setting.takes_effect == "at-reconnect" and setting.id in placed.asked_at(endpoint):
                item = Item(placed.id, setting.id)
                self.effective[item] = self.stored[item]

    def reset(self, placed: Placed) -> None:
        """Every setting is as from the factory again."""
        for setting in placed.profile.settings:
            item = Item(placed.id, setting.id)
            self.stored[item] = self.effective[item] = setting.factory

    def sleeps(self, world: World, device: str) -> None:
        modes = world.rig[device].profile.modes
        if modes is not None and modes.lapses:
            self.mode[device] = modes.factory
        self.asking = {item for item in self.asking if item.device != device}
        self.answers = {item: given for item, given in self.answers.items() if item.device != device}
