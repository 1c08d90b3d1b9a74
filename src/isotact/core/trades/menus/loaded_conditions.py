"""What must be on a device before the day, and what leaves it: firmware, licence, picture format."""

from typing import Literal

from isotact.core.model.keys import Between, Item, Key
from isotact.core.model.plan import LinkEnd
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.words import Id, Version, version_key
from isotact.core.telling.phrases import plain
from isotact.core.trades.base import Check, Condition, Draft, Fault
from isotact.core.trades.care.acts import TakeCare
from isotact.core.trades.menus.acts import (
    FirmwareOld,
    LicenceGone,
    SendAnother,
)
from isotact.core.trades.menus.conditions import numbered
from isotact.core.world import Cables, Menus, World
from isotact.core.world.observation import Observation, state, text
from isotact.core.world.signals import formats_across, sent_formats


class FormatAccepted(Condition):
    """The picture format that is sent is one that gets across and that the far end takes."""

    kind: Literal["format-accepted"] = "format-accepted"
    sender: LinkEnd
    receiver: LinkEnd
    signal: Id
    setting: Id
    refused: tuple[str, ...]
    """What the sender could send and would not get across."""

    @property
    def key(self) -> Key:
        return Key.of("format", Between(self.sender, self.receiver))

    def holds(self, world: World) -> bool:
        mine = world.rig[self.sender.device].role(self.sender.endpoint, self.signal)
        theirs = world.rig[self.receiver.device].role(self.receiver.endpoint, self.signal)
        plug = world[Cables].between(self.sender, self.receiver)
        return bool(formats_across(world, self.sender, mine, theirs, plug))

    def says(self, rig: ResolvedRig) -> str:
        takes = ", ".join(rig[self.receiver.device].role(self.receiver.endpoint, self.signal).pictures)
        return f"{rig[self.receiver.device].name} takes {takes}, and gets one of these."

    def made_by(self) -> Key:
        return Key.of("set", Item(self.sender.device, self.setting))

    def check(self, rig: ResolvedRig) -> Check:
        sender, receiver = rig[self.sender.device].name, rig[self.receiver.device].name
        return Check(
            id=Key.of("read-format", Between(self.sender, self.receiver)),
            says=f"Read the format on {receiver}, or what {sender} says that it sends.",
            seconds=20,
            where=self.receiver.device,
            read=self._read,
        )

    def _read(self, world: World) -> Observation:
        role = world.rig[self.sender.device].role(self.sender.endpoint, self.signal)
        return text(" or ".join(sent_formats(world, self.sender, role)))

    def faults(self, rig: ResolvedRig) -> tuple[Fault, ...]:
        # Rarer than a wrong menu, and it shows only at the far end.
        named = rig[self.sender.device].name
        return tuple(
            Fault(
                id=numbered("sent", number),
                says=f"{named} sends {value} whatever its menu says: it follows what is recorded",
                weight=1,
                mend_s=30,
                act=SendAnother(device=self.sender.device, setting=self.setting, value=value),
            )
            for number, value in enumerate(self.refused)
        )


class FirmwareAtLeast(Condition):
    """The firmware is new enough."""

    kind: Literal["firmware"] = "firmware"
    device: Id
    firmware: Version

    @property
    def key(self) -> Key:
        return Key.of("firmware", self.device, self.firmware)

    def holds(self, world: World) -> bool:
        has = world[Menus].firmware.get(self.device)
        return has is not None and version_key(has) >= version_key(self.firmware)

    def says(self, rig: ResolvedRig) -> str:
        return f"{rig[self.device].name} has firmware {self.firmware} or newer."

    def made_by(self) -> Key:
        return Key.of("look-firmware", self.device)

    def draft(self, rig: ResolvedRig) -> Draft:
        known = rig[self.device].device.firmware
        return Draft(
            key=self.made_by(),
            stage="gather",
            title=f"Read the firmware of {rig[self.device].name}",
            detail=(f"It must be {self.firmware} or newer.", f"The rig says {known}." if known else "Not yet noted."),
            device=self.device,
            expect=f"It reads {self.firmware} or newer.",
            # The page of versions is deep, and one writes it down.
            takes_s=30,
            act=TakeCare(),
            care=True,
            card="Read what is loaded",
        )

    def check(self, rig: ResolvedRig) -> Check:
        return Check(
            id=Key.of("read-firmware", self.device),
            says=f"Read the firmware of {rig[self.device].name}.",
            seconds=30,
            where=self.device,
            read=self._read,
        )

    def _read(self, world: World) -> Observation:
        return text(world[Menus].firmware.get(self.device, "none that it tells"))

    def faults(self, rig: ResolvedRig) -> tuple[Fault, ...]:
        # Rare once prep day is over, and a quarter of an hour to mend.
        older = before(self.firmware)
        act = FirmwareOld(device=self.device, version=older)
        says = f"{rig[self.device].name} has firmware {older}"
        return (Fault(id="old", says=says, weight=1.5, mend_s=900, act=act),)


def before(version: str) -> str:
    """A version just older: one less at its last place that is not nought. 2.10 gives 2.9, 2.0 gives 1."""
    parts = list(version_key(version))
    parts[-1] -= 1
    return ".".join(str(max(part, 0)) for part in parts)


class LicenceLoaded(Condition):
    """The licence is on the device."""

    kind: Literal["licence"] = "licence"
    device: Id
    licence: Id

    @property
    def item(self) -> Item:
        return Item(self.device, self.licence)

    @property
    def key(self) -> Key:
        return Key.of("licence", self.item)

    def holds(self, world: World) -> bool:
        return self.item in world[Menus].licences

    def says(self, rig: ResolvedRig) -> str:
        return f"{rig[self.device].name} carries the licence “{plain(self.licence)}”."

    def made_by(self) -> Key:
        return Key.of("look-licence", self.item)

    def draft(self, rig: ResolvedRig) -> Draft:
        return Draft(
            key=self.made_by(),
            stage="gather",
            title=f"Read the licences of {rig[self.device].name}",
            detail=(f"“{plain(self.licence)}” must be there.",),
            device=self.device,
            expect=f"“{plain(self.licence)}” is listed.",
            takes_s=30,
            act=TakeCare(),
            care=True,
            card="Read what is loaded",
        )

    def check(self, rig: ResolvedRig) -> Check:
        return Check(
            id=Key.of("read-licence", self.item),
            says=f"Read the licence page of {rig[self.device].name}.",
            seconds=30,
            where=self.device,
            read=lambda world: state("listed" if self.item in world[Menus].licences else "not listed"),
        )

    def faults(self, rig: ResolvedRig) -> tuple[Fault, ...]:
        says = f"the licence “{plain(self.licence)}” of {rig[self.device].name} is not loaded"
        act = LicenceGone(device=self.device, licence=self.licence)
        # It was bought for another body, or ran out: rare, and nothing on set mends it quickly.
        return (Fault(id="gone", says=says, weight=1, mend_s=600, act=act),)
