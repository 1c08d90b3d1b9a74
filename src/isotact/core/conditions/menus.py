"""Conditions of one device's inside: mode, setting, prompt answered, firmware, licence."""

from typing import Literal

from isotact.core.conditions.base import Fault
from isotact.core.conditions.devices import OfDevice
from isotact.core.conditions.world import World
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.steps import Answer, Look, Set, SetMode, Step
from isotact.core.model.words import Id, version_key


class ModeIs(OfDevice):
    """The device is in the right mode."""

    kind: Literal["mode"] = "mode"
    mode: str
    before: str | None = None

    @property
    def key(self) -> str:
        return f"mode:{self.device}"

    def holds(self, world: World) -> bool:
        return world.devices[self.device].mode == self.mode

    def _name(self, rig: ResolvedRig) -> str:
        modes = rig[self.device].profile.modes
        return next(value.name for value in modes.values if value.id == self.mode) if modes else self.mode

    def says(self, rig: ResolvedRig) -> str:
        return f"{rig[self.device].name} is in {self._name(rig)} mode."

    def made_by(self) -> str:
        return f"mode:{self.device}"

    def step(self, rig: ResolvedRig) -> Step | None:
        modes = rig[self.device].profile.modes
        if modes is None or self.before == self.mode:
            return None
        return Step(
            id=self.made_by(),
            stage="menus",
            title=f"{rig[self.device].name}: {self._name(rig)} mode",
            detail=(modes.how.replace("{name}", self._name(rig)),),
            device=self.device,
            expect=f"It says {self._name(rig)}.",
            takes_s=modes.takes_s,
            action=SetMode(device=self.device, mode=self.mode),
        )

    def check(self, rig: ResolvedRig) -> str:
        return f"Read the mode of {rig[self.device].name}: {self._name(rig)}."

    def faults(self, rig: ResolvedRig) -> tuple[Fault, ...]:
        return (Fault(says=f"{rig[self.device].name} is in another mode", weight=2, look_s=3, mend_s=5),)

    def break_it(self, world: World) -> None:
        modes = world.rig[self.device].profile.modes
        others = [value.id for value in modes.values if value.id != self.mode] if modes else []
        world.devices[self.device].mode = others[0] if others else None


class SettingIs(OfDevice):
    """A menu setting has the right value, and it has taken effect."""

    kind: Literal["setting"] = "setting"
    setting: Id
    value: str
    before: str | None = None
    care: bool = False

    @property
    def key(self) -> str:
        return f"setting:{self.device}.{self.setting}"

    def holds(self, world: World) -> bool:
        return world.devices[self.device].effective.get(self.setting) == self.value

    def says(self, rig: ResolvedRig) -> str:
        setting, value = self._names(rig)
        return f"“{setting}” of {rig[self.device].name} is {value}, and has taken effect."

    def _names(self, rig: ResolvedRig) -> tuple[str, str]:
        setting = rig[self.device].profile.setting(self.setting)
        return setting.name, next(value.name for value in setting.values if value.id == self.value)

    def made_by(self) -> str:
        return f"set:{self.device}.{self.setting}"

    def step(self, rig: ResolvedRig) -> Step | None:
        if self.before == self.value:
            return None
        setting = rig[self.device].profile.setting(self.setting)
        name, value = self._names(rig)
        counts = ("The hours that were promised count on it.",) if self.care and self.promises else ()
        late = {
            "at-once": (),
            "at-reconnect": ("Takes effect at the next connection.",),
            "at-boot": ("Takes effect only after a restart.",),
        }
        return Step(
            id=self.made_by(),
            stage="menus",
            title=f"{rig[self.device].name}: set “{name}” to {value}",
            detail=(
                " › ".join(setting.path),
                *late[setting.takes_effect],
                *((setting.note,) if setting.note else ()),
                *counts,
            ),
            device=self.device,
            expect=f"{name} reads {value}.",
            takes_s=setting.takes_s,
            action=Set(device=self.device, setting=self.setting, value=self.value),
            care=self.care,
        )

    def check(self, rig: ResolvedRig) -> str:
        name, value = self._names(rig)
        path = " › ".join(rig[self.device].profile.setting(self.setting).path)
        return f"Read {rig[self.device].name}: {path}: {name} is {value}."

    def faults(self, rig: ResolvedRig) -> tuple[Fault, ...]:
        name, _ = self._names(rig)
        late = rig[self.device].profile.setting(self.setting).takes_effect != "at-once"
        says = f"“{name}” of {rig[self.device].name} is wrong" + (" or has not taken effect" if late else "")
        return (Fault(says=says, weight=3, look_s=20, mend_s=30),)

    def break_it(self, world: World) -> None:
        values = world.rig[self.device].profile.setting(self.setting).values
        world.devices[self.device].effective[self.setting] = next(v.id for v in values if v.id != self.value)


class PromptAnswered(OfDevice):
    """The prompt at waking got the right answer."""

    kind: Literal["prompt-answered"] = "prompt-answered"
    prompt: Id
    answer: str

    @property
    def key(self) -> str:
        return f"answered:{self.device}.{self.prompt}"

    def holds(self, world: World) -> bool:
        return world.devices[self.device].answers.get(self.prompt) == self.answer

    def _names(self, rig: ResolvedRig) -> tuple[str, str]:
        wake = rig[self.device].profile.wake
        prompt = next(prompt for prompt in (wake.prompts if wake else []) if prompt.id == self.prompt)
        return prompt.asks, next(value.name for value in prompt.answers if value.id == self.answer)

    def says(self, rig: ResolvedRig) -> str:
        asks, answer = self._names(rig)
        return f"{rig[self.device].name} asked “{asks}” and got “{answer}”."

    def made_by(self) -> str:
        return f"answer:{self.device}.{self.prompt}"

    def needs(self) -> tuple[str, ...]:
        return (f"awake:{self.device}",)

    def step(self, rig: ResolvedRig) -> Step:
        asks, answer = self._names(rig)
        return Step(
            id=self.made_by(),
            stage="wake",
            title=f"{rig[self.device].name} asks: answer {answer}",
            detail=(f"“{asks}”", "It asks at every start."),
            device=self.device,
            expect="The question goes away and the picture comes back.",
            takes_s=4,
            action=Answer(device=self.device, prompt=self.prompt, answer=self.answer),
        )

    def check(self, rig: ResolvedRig) -> str:
        return f"Restart {rig[self.device].name} and watch for the question."

    def faults(self, rig: ResolvedRig) -> tuple[Fault, ...]:
        return (Fault(says=f"the prompt of {rig[self.device].name} was missed", weight=3, look_s=15, mend_s=15),)

    def break_it(self, world: World) -> None:
        world.devices[self.device].answers.pop(self.prompt, None)


class FirmwareAtLeast(OfDevice):
    """The firmware is new enough."""

    kind: Literal["firmware"] = "firmware"
    firmware: str

    @property
    def key(self) -> str:
        return f"firmware:{self.device}"

    def holds(self, world: World) -> bool:
        has = world.devices[self.device].firmware
        return has is not None and version_key(has) >= version_key(self.firmware)

    def says(self, rig: ResolvedRig) -> str:
        return f"{rig[self.device].name} has firmware {self.firmware} or newer."

    def made_by(self) -> str:
        return f"look-firmware:{self.device}"

    def step(self, rig: ResolvedRig) -> Step:
        known = rig[self.device].device.firmware
        return Step(
            id=self.made_by(),
            stage="gather",
            title=f"Read the firmware of {rig[self.device].name}",
            detail=(f"It must be {self.firmware} or newer.", f"The rig says {known}." if known else "Not yet noted."),
            device=self.device,
            expect=f"It reads {self.firmware} or newer.",
            takes_s=30,
            action=Look(),
            care=True,
        )

    def check(self, rig: ResolvedRig) -> str:
        return f"Read the firmware of {rig[self.device].name}."

    def faults(self, rig: ResolvedRig) -> tuple[Fault, ...]:
        return (Fault(says=f"{rig[self.device].name} has old firmware", weight=1.5, look_s=30, mend_s=900),)

    def break_it(self, world: World) -> None:
        world.devices[self.device].firmware = "0"


class LicenceLoaded(OfDevice):
    """The licence is on the device."""

    kind: Literal["licence"] = "licence"
    licence: Id

    @property
    def key(self) -> str:
        return f"licence:{self.device}.{self.licence}"

    def holds(self, world: World) -> bool:
        return self.licence in world.devices[self.device].licences

    def says(self, rig: ResolvedRig) -> str:
        return f"{rig[self.device].name} carries the licence “{self.licence}”."

    def made_by(self) -> str:
        return f"look-licence:{self.device}.{self.licence}"

    def step(self, rig: ResolvedRig) -> Step:
        return Step(
            id=self.made_by(),
            stage="gather",
            title=f"Read the licences of {rig[self.device].name}",
            detail=(f"“{self.licence}” must be there.",),
            device=self.device,
            expect=f"“{self.licence}” is listed.",
            takes_s=30,
            action=Look(),
            care=True,
        )

    def check(self, rig: ResolvedRig) -> str:
        return f"Read the licence page of {rig[self.device].name}."

    def faults(self, rig: ResolvedRig) -> tuple[Fault, ...]:
        return (Fault(says=f"the licence of {rig[self.device].name} is not loaded", weight=1, look_s=30, mend_s=600),)

    def break_it(self, world: World) -> None:
        state = world.devices[self.device]
        state.licences = tuple(licence for licence in state.licences if licence != self.licence)
