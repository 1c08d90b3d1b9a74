"""What must hold of one cable besides: it carries, is wired for the family, was found at the start."""

from typing import ClassVar, Literal

from isotact.core.model.cable import conducts
from isotact.core.model.keys import Key
from isotact.core.model.named_keys import awake_key, joined_key, wake_key
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.words import Id
from isotact.core.telling.phrases import adapter_words, plain
from isotact.core.trades.base import Check, Draft, Fault
from isotact.core.trades.cables.acts import LayOut, SwapCable
from isotact.core.trades.cables.conditions import OfJoin
from isotact.core.trades.cables.mishaps import Miswire, PlugLate, WearOut
from isotact.core.trades.waking.acts import Sleep, WakeUp
from isotact.core.world import Cables, World, now
from isotact.core.world.observation import Observation, state, text

_KINDS = {"usb-data": "A data lead, not one that only charges. "}
"""What tells the right lead from the wrong one in the hand, by what it has to carry."""


class Carries(OfJoin):
    """The cable is the right one, and conducts one medium that is asked of it."""

    kind: Literal["carries"] = "carries"
    cable: Id
    adapters: tuple[Id, ...] = ()
    lead: str | None = None
    medium: Id
    wired: tuple[Id, ...]
    media: tuple[Id, ...]
    """All that is asked of this cable: what its marking should say."""

    @property
    def key(self) -> Key:
        return Key.of("carries", self.between, self.medium)

    def holds(self, world: World) -> bool:
        plug = self.plug(world)
        if plug is None:
            return self.tag in world[Cables].laid_out
        laid = plug.types(world.rig)
        both = (plug.end_a, plug.end_b), (plug.end_b, plug.end_a)
        runs = all(any(conducts(*laid, ends, self.medium, wired) for ends in both) for wired in self.wired)
        return runs and self.medium not in plug.dead

    def says(self, rig: ResolvedRig) -> str:
        return f"{self.tag} carries {plain(self.medium)}."

    def made_by(self) -> Key:
        return Key.of("lay-out", self.lead or self.between)

    def rests_on(self) -> tuple[Key, ...]:
        return ()

    def draft(self, rig: ResolvedRig) -> Draft:
        cable = rig.cables[self.cable]
        notes = [cable.note] if cable.note else []
        if self.adapters:
            notes.append(f"And {adapter_words(rig, self.adapters)}.")
        return Draft(
            key=self.made_by(),
            stage="gather",
            title=f"Lay out {self.tag}: {cable.name}",
            detail=(f"Flag {'every end' if self.lead else 'both ends'} {self.tag}.", *notes),
            tag=self.tag,
            expect=f"{''.join(_KINDS.get(one, '') for one in self.media)}Both ends fit, no pin bent.",
            # Found in the bag by its ends and length, and tape put round both ends.
            takes_s=20,
            act=LayOut(tag=self.tag, cable=cable.id, adapters=self.adapters),
            card="Lay out the cables, and flag them",
        )

    def check(self, rig: ResolvedRig) -> Check:
        return Check(
            id=Key.of("swap", self.between, self.medium),
            says=f"Swap {self.tag} for another that is known to carry {plain(self.medium)}.",
            # The dearest look at a lead: another has to be found, and both ends are plugged anew.
            seconds=45,
            where=self.a.device,
            disturbs=(SwapCable(a=self.a, b=self.b),),
            read=self._with_another,
        )

    def _with_another(self, world: World) -> Observation:
        plug = self.flagged(world)
        if plug is None:
            return state("nothing there to swap")
        return state("it comes alive with the other" if self.medium in plug.dead else "the same with the other")

    def faults(self, rig: ResolvedRig) -> tuple[Fault, ...]:
        # Charge-only cables look like any other; broken wires are as common on a set where leads are bent all day.
        dead = f"the {plain(self.medium).removeprefix('the ')} wires of {self.tag} are broken inside"
        says = dead if self.medium == "power" else f"{self.tag} is charge-only, or {dead}"
        act = WearOut(a=self.a, b=self.b, medium=self.medium)
        # Leads of a cage are bent every day at the same place: of all parts they die most often.
        return (Fault(id="dead", says=says, weight=4, mend_s=45, act=act),)


class Wired(OfJoin):
    """The cable is wired for the family of control that it has to carry."""

    kind: Literal["wiring"] = "wiring"
    medium: str
    protocol: Id

    @property
    def key(self) -> Key:
        return Key.of("wiring", self.between, self.protocol)

    def holds(self, world: World) -> bool:
        plug = self.plug(world)
        if plug is None or self.protocol in plug.miswired:
            return False
        cable, _ = plug.types(world.rig)
        return cable is None or any(one.conducts(self.medium, self.protocol) for one in cable.carries)

    def says(self, rig: ResolvedRig) -> str:
        return f"{self.tag} is wired for {plain(self.protocol)}."

    def check(self, rig: ResolvedRig) -> Check:
        return Check(
            id=Key.of("label", self.between, self.protocol),
            says=f"Read the family on the label of {self.tag}: {plain(self.protocol)}.",
            # The label is small, and the lead is tied.
            seconds=15,
            where=self.a.device,
            read=self._label,
        )

    def _label(self, world: World) -> Observation:
        plug = self.flagged(world)
        if plug is None:
            return state("no cable there")
        return text("another family" if self.protocol in plug.miswired else plain(self.protocol))

    def faults(self, rig: ResolvedRig) -> tuple[Fault, ...]:
        # Rarer than a dead cable: the label is read when it is laid out.
        says = f"{self.tag} is wired for another family"
        act = Miswire(a=self.a, b=self.b, protocol=self.protocol)
        # It needs two leads that look alike in one bag; then it is believed for long, since everything is plugged.
        return (Fault(id="family", says=says, weight=2, mend_s=45, act=act),)


class FoundAtStart(OfJoin):
    """The cable was in when the device that looks for it only at its start was woken."""

    kind: Literal["found-at-start"] = "found-at-start"
    is_remembered: ClassVar[bool] = True
    device: Id
    waker: Id

    @property
    def key(self) -> Key:
        return Key.of("found-at-start", self.between, self.device)

    def holds(self, world: World) -> bool:
        plug, began_s = self.plug(world), now(world).began_s(self.device)
        return plug is not None and began_s is not None and plug.at_s <= began_s

    def says(self, rig: ResolvedRig) -> str:
        return f"{rig[self.device].name} found {self.tag} when it started."

    def made_by(self) -> Key:
        return wake_key(self.waker)

    def needs(self) -> tuple[Key, ...]:
        return (joined_key(self.between),)

    def rests_on(self) -> tuple[Key, ...]:
        return (*super().rests_on(), awake_key(self.waker))

    def check(self, rig: ResolvedRig) -> Check:
        return Check(
            id=Key.of("restart-with", self.between, self.device),
            says=f"Restart {rig[self.device].name} with {self.tag} in.",
            # A start, and the look at what comes up with it.
            seconds=30,
            where=self.device,
            disturbs=(Sleep(device=self.waker), WakeUp(device=self.waker)),
            read=self._after_a_restart,
        )

    def _after_a_restart(self, world: World) -> Observation:
        plug, began_s = self.plug(world), now(world).began_s(self.device)
        if plug is None or began_s is None:
            return state("nothing to find")
        return state("it finds it now" if plug.at_s > began_s else "the same as before")

    def faults(self, rig: ResolvedRig) -> tuple[Fault, ...]:
        # People plug what they find missing without restarting anything.
        says = f"{self.tag} was plugged after {rig[self.device].name} had started"
        # Half as often as the wrong port: who knows the camera plugs first, and who is called away plugs last.
        return (Fault(id="late", says=says, weight=2.5, mend_s=30, act=PlugLate(a=self.a, b=self.b)),)
