"""What must be set inside one device: mode, setting, prompt answered.

`allowed` are the values that will do for the promises named. Where two promises want different sets of values of one
mode or setting, each set is a condition of its own.
"""

from collections.abc import Iterator
from typing import ClassVar, Literal, Self

from isotact.core.model.keys import Item, Key
from isotact.core.model.named_keys import awake_key, mode_key
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.words import Id
from isotact.core.trades.base import Check, Condition, Draft, Fault
from isotact.core.trades.cables.acts import replug_draft
from isotact.core.trades.menus.acts import (
    Answer,
    AnswerMissed,
    ModeWrong,
    NotTaken,
    Set,
    SetMode,
    SetWrong,
)
from isotact.core.trades.menus.upsets import restart_words
from isotact.core.trades.waking.acts import Sleep, WakeUp, off_draft
from isotact.core.world import Cables, Menus, Plugged, World, now
from isotact.core.world.circuit import circuit_of
from isotact.core.world.observation import Observation, state, text
from isotact.core.world.power import live_feeds


def others_than(values: tuple[str, ...], allowed: tuple[str, ...]) -> list[str]:
    """Those of `values` that will not do."""
    return [value for value in values if value not in allowed]


def numbered(word: str, number: int) -> str:
    """Ids of like faults: the first by its plain word."""
    return word if number == 0 else f"{word}-{number + 1}"


class OfKnob(Condition):
    """A condition of one thing that can be turned to several values."""

    device: Id
    value: str
    """What the plan turns it to."""
    allowed: tuple[str, ...]
    before: str | None = None

    @property
    def _set_words(self) -> tuple[str, ...]:
        """Tells conditions of the same knob apart, where more than the plan's value would do."""
        return () if self.allowed == (self.value,) else ("+".join(self.allowed),)


class ModeIs(OfKnob):
    """The device is in a mode that will do."""

    kind: Literal["mode"] = "mode"
    is_remembered: ClassVar[bool] = True

    def seen_in(self, world: World) -> Self:
        return self.model_copy(update={"before": world[Menus].mode.get(self.device)})

    @property
    def key(self) -> Key:
        return mode_key(self.device, *self._set_words)

    def holds(self, world: World) -> bool:
        return world[Menus].mode.get(self.device) in self.allowed

    def says(self, rig: ResolvedRig) -> str:
        names = " or ".join(rig[self.device].mode_name(mode) for mode in self.allowed)
        return f"{rig[self.device].name} is in {names} mode."

    def made_by(self) -> Key:
        return mode_key(self.device)

    def draft(self, rig: ResolvedRig) -> Draft | None:
        modes = rig[self.device].profile.modes
        if modes is None or self.before == self.value:
            return None
        name, act = rig[self.device].mode_name(self.value), SetMode(device=self.device, mode=self.value)
        return Draft(
            key=self.made_by(),
            stage="menus",
            title=f"{rig[self.device].name}: {name} mode",
            detail=(modes.how.replace("{name}", name), *restart_words(rig, self.device, act.upsets(rig))),
            device=self.device,
            expect=f"It says {name}.",
            takes_s=modes.takes_s,
            act=act,
            care=not self.promises,
            card=f"Menus of {rig[self.device].name}",
        )

    def check(self, rig: ResolvedRig) -> Check:
        name = rig[self.device].mode_name(self.value)
        return Check(
            id=Key.of("read-mode", self.device),
            says=f"Read the mode of {rig[self.device].name}: {name}.",
            # It stands on the screen of the body.
            seconds=3,
            where=self.device,
            read=self._read,
        )

    def _read(self, world: World) -> Observation:
        return text(world.rig[self.device].mode_name(world[Menus].mode.get(self.device, "")))

    def faults(self, rig: ResolvedRig) -> tuple[Fault, ...]:
        modes = rig[self.device].profile.modes
        values = tuple(value.id for value in modes.values) if modes else ()
        return tuple(
            Fault(
                id=numbered("other", number),
                says=f"{rig[self.device].name} is in {rig[self.device].mode_name(mode)} mode",
                # A dial that a hand brushes; seen at once by who looks at the screen.
                weight=2,
                mend_s=5,
                act=ModeWrong(device=self.device, mode=mode),
            )
            for number, mode in enumerate(others_than(values, self.allowed))
        )


class SettingIs(OfKnob):
    """A menu setting has a value that will do, and it has taken effect."""

    kind: Literal["setting"] = "setting"
    is_remembered: ClassVar[bool] = True
    setting: Id

    def seen_in(self, world: World) -> Self:
        return self.model_copy(update={"before": world[Menus].effective.get(self.item)})

    @property
    def item(self) -> Item:
        return Item(self.device, self.setting)

    @property
    def key(self) -> Key:
        return Key.of("setting", self.item, *self._set_words)

    def holds(self, world: World) -> bool:
        return world[Menus].effective.get(self.item) in self.allowed

    def says(self, rig: ResolvedRig) -> str:
        setting = rig[self.device].profile.setting(self.setting)
        values = " or ".join(setting.value_name(value) for value in self.allowed)
        return f"“{setting.name}” of {rig[self.device].name} is {values}, and has taken effect."

    def made_by(self) -> Key:
        return Key.of("set", self.item)

    def mended_in(self, world: World) -> Iterator[Draft]:
        """By a new connection, where that is enough; by its feeds, where whoever wakes it is not the only one."""
        late = world.rig[self.device].profile.setting(self.setting).takes_effect
        if late == "at-once" or self.device not in now(world).alive:
            return
        feeds = live_feeds(world, self.device)
        if late == "at-reconnect":
            again = next((plug for plug in world[Cables].plugs.values() if self._takes_by(world, plug)), None)
            if again is not None:
                yield replug_draft(world, again)
        elif self.device in circuit_of(world.rig).by_feed and len(feeds) > 1 and all(plug.cable for plug in feeds):
            yield off_draft(world, self.device)

    def _takes_by(self, world: World, plug: Plugged) -> bool:
        """Whether it takes when that cable is plugged again, with no start and no power lost by it."""
        ends = (plug.a, plug.b)
        at = next((end.endpoint for end in ends if end.device == self.device), None)
        if at is None or plug.cable is None or self.setting not in world.rig[self.device].asked_at(at):
            return False
        roles = [role for end in ends for role in world.rig[end.device].endpoint(end.endpoint).roles]
        feeds = any(plug in live_feeds(world, end.device) for end in ends)
        return not (plug.held or feeds or any(role.notices_at_boot for role in roles))

    def rests_on(self) -> tuple[Key, ...]:
        """A mode may put every setting back."""
        return (Key.of("settings", self.device),)

    def draft(self, rig: ResolvedRig) -> Draft | None:
        if self.before == self.value:
            return None
        setting = rig[self.device].profile.setting(self.setting)
        late = {
            "at-once": (),
            "at-reconnect": ("Takes effect at the next connection.",),
            "at-boot": ("Takes effect only after a restart.",),
        }
        routed = {promise.id for promise in rig.rig.routed}
        counts = (
            ("The hours that were promised count on it.",) if self.promises and not routed & {*self.promises} else ()
        )
        name, value = setting.name, setting.value_name(self.value)
        act = Set(device=self.device, setting=self.setting, value=self.value)
        again = restart_words(rig, self.device, act.upsets(rig))
        note = [setting.note] if setting.note else []
        return Draft(
            key=self.made_by(),
            stage="menus",
            title=f"{rig[self.device].name}: set “{name}” to {value}",
            detail=(setting.words, *late[setting.takes_effect], *again, *note, *counts),
            device=self.device,
            expect=f"{name} reads {value}.",
            takes_s=setting.takes_s,
            act=act,
            care=not self.promises,
            card=f"Menus of {rig[self.device].name}",
        )

    def check(self, rig: ResolvedRig) -> Check:
        setting = rig[self.device].profile.setting(self.setting)
        return Check(
            id=Key.of("read-setting", self.item),
            says=f"Read {rig[self.device].name}: {setting.words}: {setting.name} is {setting.value_name(self.value)}.",
            # Two or three pages down, with the rig in the hands.
            seconds=20,
            where=self.device,
            read=self._read,
        )

    def _read(self, world: World) -> Observation:
        """What the menu reads, and whether a restart would change anything."""
        setting = world.rig[self.device].profile.setting(self.setting)
        stored, effective = world[Menus].stored[self.item], world[Menus].effective[self.item]
        waiting = "" if stored == effective else ", marked as waiting for a restart"
        return text(f"{setting.value_name(stored)}{waiting}")

    def faults(self, rig: ResolvedRig) -> tuple[Fault, ...]:
        setting = rig[self.device].profile.setting(self.setting)
        others = others_than(tuple(value.id for value in setting.values), self.allowed)
        named = f"“{setting.name}” of {rig[self.device].name}"
        # The likeliest of all faults inside a device: the last user, or a reset, set it otherwise.
        wrong = [
            Fault(
                id=numbered("wrong", number),
                says=f"{named} is {setting.value_name(value)}",
                weight=3,
                mend_s=30,
                act=SetWrong(device=self.device, setting=self.setting, value=value),
            )
            for number, value in enumerate(others)
        ]
        if setting.takes_effect == "at-once" or not others or self.before not in others:
            return tuple(wrong)
        # The menu reads right, so this one is believed longest.
        waiting = NotTaken(device=self.device, setting=self.setting, value=self.before or others[0])
        return (*wrong, Fault(id="waiting", says=f"{named} has not taken effect", weight=3, mend_s=30, act=waiting))


class PromptAnswered(Condition):
    """The prompt at waking got the right answer."""

    kind: Literal["prompt-answered"] = "prompt-answered"
    is_remembered: ClassVar[bool] = True
    device: Id
    prompt: Id
    answer: str
    allowed: tuple[str, ...]

    @property
    def item(self) -> Item:
        return Item(self.device, self.prompt)

    @property
    def key(self) -> Key:
        return Key.of("answered", self.item)

    def holds(self, world: World) -> bool:
        return world[Menus].answers.get(self.item) in self.allowed

    def says(self, rig: ResolvedRig) -> str:
        prompt = rig[self.device].prompt(self.prompt)
        return f"{rig[self.device].name} asked “{prompt.asks}” and got “{prompt.value_name(self.answer)}”."

    def made_by(self) -> Key:
        return Key.of("answer", self.item)

    def needs(self) -> tuple[Key, ...]:
        return (awake_key(self.device),)

    def rests_on(self) -> tuple[Key, ...]:
        return (awake_key(self.device),)

    def draft(self, rig: ResolvedRig) -> Draft:
        prompt = rig[self.device].prompt(self.prompt)
        return Draft(
            key=self.made_by(),
            stage="wake",
            title=f"{rig[self.device].name} asks: answer {prompt.value_name(self.answer)}",
            detail=(f"“{prompt.asks}”", "It asks at every start."),
            device=self.device,
            expect="The question goes away and the picture comes back.",
            # One press, but within the seconds in which it asks.
            takes_s=4,
            act=Answer(device=self.device, prompt=self.prompt, answer=self.answer),
        )

    def check(self, rig: ResolvedRig) -> Check:
        return Check(
            id=Key.of("watch-prompt", self.item),
            says=f"Restart {rig[self.device].name} and watch for the question.",
            seconds=15,
            where=self.device,
            disturbs=(Sleep(device=self.device), WakeUp(device=self.device)),
            read=self._given,
        )

    def _given(self, world: World) -> Observation:
        given = world[Menus].answers.get(self.item)
        if given is None:
            return state("nobody had answered")
        return text(world.rig[self.device].prompt(self.prompt).value_name(given))

    def faults(self, rig: ResolvedRig) -> tuple[Fault, ...]:
        prompt, name = rig[self.device].prompt(self.prompt), rig[self.device].name
        # The prompt is missed twice as often as it is answered wrongly: it comes while hands are at the next device.
        missed = Fault(
            id="missed",
            says=f"the prompt of {name} was missed",
            weight=3,
            mend_s=15,
            act=AnswerMissed(device=self.device, prompt=self.prompt),
        )
        others = others_than(tuple(value.id for value in prompt.answers), self.allowed)
        wrong = [
            Fault(
                id=numbered("answer", number),
                says=f"the prompt of {name} was answered {prompt.value_name(value)}",
                weight=1.5,
                mend_s=15,
                act=AnswerMissed(device=self.device, prompt=self.prompt, answer=value),
            )
            for number, value in enumerate(others)
        ]
        return (missed, *wrong)
