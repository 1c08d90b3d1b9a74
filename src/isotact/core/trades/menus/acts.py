"""What is done in menus: modes, settings, answers; and how they come to be wrong."""

from collections.abc import Iterator
from typing import ClassVar, Literal

from isotact.core.model.keys import Item, Key
from isotact.core.model.named_keys import mode_key
from isotact.core.model.ports import Upset
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.words import Id, JobStage, Version
from isotact.core.trades.base import Draft, HandAct, HandPlace, Mishap
from isotact.core.trades.menus.upsets import bring_about, restart_s, spoilt_by
from isotact.core.trades.waking.acts import AtDevice, off_draft
from isotact.core.world import Menus, Waking, World, now


class SetMode(AtDevice, HandAct):
    """Choose a mode."""

    kind: Literal["set-mode"] = "set-mode"
    mode: str
    where: ClassVar[HandPlace] = "menu"

    def says(self, rig: ResolvedRig) -> str:
        return f"{rig[self.device].name}: {rig[self.device].mode_name(self.mode)} mode"

    def why_not(self, world: World) -> str | None:
        placed = world.rig[self.device]
        modes = placed.profile.modes
        if modes and modes.needs_awake and self.device not in now(world).alive:
            return f"{placed.name} is off: its mode cannot be changed."
        return None

    def do(self, world: World) -> str:
        placed = world.rig[self.device]
        world[Menus].mode[self.device] = self.mode
        bring_about(world, self.device, self.upsets(world.rig))
        return f"{placed.name} says {placed.mode_name(self.mode)}."

    def waits_s(self, rig: ResolvedRig) -> float:
        return restart_s(rig, self.device, self.upsets(rig))

    def upsets(self, rig: ResolvedRig) -> list[Upset]:
        """What choosing the mode does besides."""
        return rig[self.device].upsets_of("mode", "", self.mode)

    def spoils(self, rig: ResolvedRig) -> tuple[Key, ...]:
        return (mode_key(self.device), *spoilt_by(self.device, self.upsets(rig)))


class Set(AtDevice, HandAct):
    """Change a setting."""

    kind: Literal["set"] = "set"
    setting: Id
    value: str
    where: ClassVar[HandPlace] = "menu"
    hand_s: ClassVar[float] = 15.0
    """Into the menu, to the line, and out again."""

    def says(self, rig: ResolvedRig) -> str:
        setting = rig[self.device].profile.setting(self.setting)
        return f"{rig[self.device].name}: {setting.name} to {setting.value_name(self.value)}"

    def part(self, device: str) -> str:
        return self.setting

    def why_not(self, world: World) -> str | None:
        placed = world.rig[self.device]
        if placed.profile.setting(self.setting).needs_awake and self.device not in now(world).alive:
            return f"{placed.name} is off: its menu cannot be opened."
        return None

    def do(self, world: World) -> str:
        setting = world.rig[self.device].profile.setting(self.setting)
        item = Item(self.device, self.setting)
        world[Menus].stored[item] = self.value
        if setting.takes_effect == "at-once" or world.rig[self.device].profile.wake is None:
            world[Menus].effective[item] = self.value
        bring_about(world, self.device, self.upsets(world.rig))
        return f"{setting.name} reads {setting.value_name(self.value)}."

    def waits_s(self, rig: ResolvedRig) -> float:
        return restart_s(rig, self.device, self.upsets(rig))

    def caution_stages(self, stage: JobStage) -> tuple[JobStage, ...]:
        """To choose a motor's axis turns nothing yet: what is warned of there stands where it runs."""
        return () if stage == "lens" else (stage,)

    def upsets(self, rig: ResolvedRig) -> list[Upset]:
        """What choosing the value does besides."""
        return rig[self.device].upsets_of("setting", self.setting, self.value)

    def spoils(self, rig: ResolvedRig) -> tuple[Key, ...]:
        return spoilt_by(self.device, self.upsets(rig))


class Answer(AtDevice, HandAct):
    """Answer a prompt."""

    kind: Literal["answer"] = "answer"
    prompt: Id
    answer: str
    warns: ClassVar[bool] = False
    where: ClassVar[HandPlace] = "menu"

    def says(self, rig: ResolvedRig) -> str:
        return f"{rig[self.device].name}: answer {rig[self.device].prompt(self.prompt).value_name(self.answer)}"

    def part(self, device: str) -> str:
        return self.prompt

    def why_not(self, world: World) -> str | None:
        if Item(self.device, self.prompt) not in world[Menus].asking:
            return f"{world.rig[self.device].name} asks nothing."
        return None

    def remedies(self, world: World) -> Iterator[Draft]:
        """It asks at its start and at no other time: one that is up, and asks nothing, is started again."""
        if world[Waking].is_on(self.device):
            yield off_draft(world, self.device)

    def do(self, world: World) -> str:
        item = Item(self.device, self.prompt)
        world[Menus].asking.discard(item)
        world[Menus].answers[item] = self.answer
        return f"Answered {self.answer}."


class SetWrong(Mishap):
    """A setting was changed behind one's back, or never made, and stands at another value in effect."""

    kind: Literal["set-wrong"] = "set-wrong"
    device: Id
    setting: Id
    value: str

    def do(self, world: World) -> str:
        item = Item(self.device, self.setting)
        world[Menus].stored[item] = world[Menus].effective[item] = self.value
        return "It looks as before."


class NotTaken(Mishap):
    """A setting was made and has not taken effect: the menu reads right, the device does as before."""

    kind: Literal["not-taken"] = "not-taken"
    device: Id
    setting: Id
    value: str

    def do(self, world: World) -> str:
        world[Menus].effective[Item(self.device, self.setting)] = self.value
        return "The menu reads right."


class ModeWrong(Mishap):
    """The device stands in another mode."""

    kind: Literal["mode-wrong"] = "mode-wrong"
    device: Id
    mode: str

    def do(self, world: World) -> str:
        world[Menus].mode[self.device] = self.mode
        return "It looks almost as before."


class SendAnother(Mishap):
    """The picture leaves in another format than the menu says: it follows what is recorded."""

    kind: Literal["send-another"] = "send-another"
    device: Id
    setting: Id
    value: str

    def do(self, world: World) -> str:
        world[Menus].sent[Item(self.device, self.setting)] = self.value
        return "The menu reads as before."


class AnswerMissed(Mishap):
    """The prompt was waved away, or answered otherwise."""

    kind: Literal["answer-missed"] = "answer-missed"
    device: Id
    prompt: Id
    answer: str | None = None

    def do(self, world: World) -> str:
        world[Menus].answers.pop(Item(self.device, self.prompt), None)
        if self.answer is not None:
            world[Menus].answers[Item(self.device, self.prompt)] = self.answer
        return "The question is gone."


class FirmwareOld(Mishap):
    """The firmware is older than it was thought to be."""

    kind: Literal["firmware-old"] = "firmware-old"
    device: Id
    version: Version

    def do(self, world: World) -> str:
        world[Menus].firmware[self.device] = self.version
        return "It looks as before."


class LicenceGone(Mishap):
    """A licence is not on the device."""

    kind: Literal["licence-gone"] = "licence-gone"
    device: Id
    licence: Id

    def do(self, world: World) -> str:
        world[Menus].licences.discard(Item(self.device, self.licence))
        return "It looks as before."
