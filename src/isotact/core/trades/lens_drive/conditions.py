"""What must hold between motor and ring: both ends known, alone on the axis, the right table."""

from typing import ClassVar, Literal

from isotact.core.model.keys import Between, Item, Key
from isotact.core.model.named_keys import awake_key, joined_key, plug_key
from isotact.core.model.plan import LinkEnd
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.words import Id
from isotact.core.trades.base import Check, Condition, Draft, Fault
from isotact.core.trades.lens_drive.acts import AnotherTable, LoadTable, LoseEnds, MapEnds
from isotact.core.trades.menus.acts import SetWrong
from isotact.core.trades.menus.conditions import numbered
from isotact.core.world import World
from isotact.core.world.lens_drive import LensDrive, rivals
from isotact.core.world.observation import Observation, state, text


class EndsKnown(Condition):
    """The motor knows both ends of the ring that it turns."""

    kind: Literal["ends-known"] = "ends-known"
    is_remembered: ClassVar[bool] = True
    motor: LinkEnd
    ring: LinkEnd
    join: tuple[LinkEnd, LinkEnd]
    by: Literal["stops", "hand"]
    wakers: tuple[Id, ...] = ()
    """What is switched on so that motor and driver have power."""
    axis: Item | None = None
    """The setting that chooses the motor's axis."""
    repeats: bool = True
    """Whether the ring comes back to the same place for the same mark."""

    @property
    def between(self) -> Between:
        return Between(*self.join)

    @property
    def key(self) -> Key:
        return Key.of("ends-known", self.motor)

    def holds(self, world: World) -> bool:
        return world[LensDrive].knows(self.motor, self.ring)

    def says(self, rig: ResolvedRig) -> str:
        return f"{rig[self.motor.device].name} knows both ends of {_ring_words(rig, self.ring)}."

    def made_by(self) -> Key:
        return Key.of("map", self.motor)

    def needs(self) -> tuple[Key, ...]:
        turned = (Key.of("setting", self.axis),) if self.axis else ()
        return (joined_key(self.between), *(awake_key(one) for one in self.wakers), *turned)

    def rests_on(self) -> tuple[Key, ...]:
        """Power lost is ends lost; so is a gear that came off its ring."""
        awake = tuple(awake_key(one) for one in self.wakers)
        return (joined_key(self.between), Key.of("mapping"), *awake)

    def draft(self, rig: ResolvedRig) -> Draft:
        motor, ring = rig[self.motor.device].name, _ring_words(rig, self.ring)
        by_stops = self.by == "stops"
        detail: tuple[str, ...] = (
            ("It runs to both stops by itself, at low torque.",)
            if by_stops
            else ("This ring has no stops: never let it look for them. Turn to one end, set it; to the other, set it.",)
        )
        if not self.repeats and rig.rig.shot.marks:
            detail += ("It does not come back to the same mark: say so to whoever wants marks.",)
        return Draft(
            key=self.made_by(),
            stage="lens",
            title=f"{motor}: find the stops of {ring}" if by_stops else f"{motor}: set both ends of {ring} by hand",
            detail=detail,
            device=self.motor.device,
            expect="From end to end, the right way round, and no further.",
            # Both stops at low torque; without stops a hand turns to each end, looks, and presses.
            takes_s=20 if by_stops else 40,
            act=MapEnds(motor=self.motor, ring=self.ring, by=self.by),
            card="Map the ends",
        )

    def check(self, rig: ResolvedRig) -> Check:
        return Check(
            id=Key.of("run-ends", self.motor),
            says=f"Ask whether {rig[self.motor.device].name} is mapped: its lamp, or the lens page.",
            seconds=10,
            where=self.motor.device,
            read=lambda world: state("mapped" if self.holds(world) else "not mapped"),
        )

    def faults(self, rig: ResolvedRig) -> tuple[Fault, ...]:
        # A short dip of the feed is enough, and nobody sees it.
        says = f"{rig[self.motor.device].name} has lost its ends"
        # Every power-off of a motor loses its ends, and nobody sees it until the ring stops short.
        return (Fault(id="lost", says=says, weight=3, mend_s=40, act=LoseEnds(motor=self.motor)),)


class AloneOnAxis(Condition):
    """No other motor of the same driver turns the same axis."""

    kind: Literal["alone-on-axis"] = "alone-on-axis"
    motor: LinkEnd
    others: tuple[tuple[Id, Id, str], ...]
    """Motors that could come in its way: each a device, the setting, and its value that would."""
    axis: Item | None
    join: tuple[LinkEnd, LinkEnd]

    @property
    def key(self) -> Key:
        return Key.of("alone-on-axis", self.motor)

    def holds(self, world: World) -> bool:
        return not rivals(world, self.motor)

    def says(self, rig: ResolvedRig) -> str:
        return f"{rig[self.motor.device].name} is alone on its axis."

    def made_by(self) -> Key:
        return plug_key(Between(*self.join)) if self.axis is None else Key.of("set", self.axis)

    def check(self, rig: ResolvedRig) -> Check:
        return Check(
            id=Key.of("read-axes", self.motor),
            says=f"Read the axis on every motor: none but {rig[self.motor.device].name} has its own.",
            seconds=10,
            where=self.motor.device,
            read=self._beside_it,
        )

    def _beside_it(self, world: World) -> Observation:
        others = ", ".join(world.rig[one].name for one in rivals(world, self.motor))
        return text(others) if others else state("alone")

    def faults(self, rig: ResolvedRig) -> tuple[Fault, ...]:
        # Buttons on motors are pressed by whoever reaches past them.
        return tuple(
            Fault(
                id=numbered("two", number),
                says=f"{rig[device].name} is on the axis of {rig[self.motor.device].name}",
                # It takes two motors of one kind, of which one was set for another job.
                weight=2,
                mend_s=10,
                act=SetWrong(device=device, setting=setting, value=value),
            )
            for number, (device, setting, value) in enumerate(self.others)
        )


class TableLoaded(Condition):
    """The table of the lens that is on is loaded where the driver reads it."""

    kind: Literal["table-loaded"] = "table-loaded"
    is_remembered: ClassVar[bool] = True
    at: Id
    lens: Id

    @property
    def item(self) -> Item:
        return Item(self.at, self.lens)

    @property
    def key(self) -> Key:
        return Key.of("table", self.item)

    def holds(self, world: World) -> bool:
        return Item(self.at, world.rig[self.lens].profile.id) in world[LensDrive].tables

    def says(self, rig: ResolvedRig) -> str:
        return f"{rig[self.at].name} has the table of {rig[self.lens].name}."

    def made_by(self) -> Key:
        return Key.of("load-table", self.item)

    def needs(self) -> tuple[Key, ...]:
        return (awake_key(self.at),)

    def draft(self, rig: ResolvedRig) -> Draft:
        return Draft(
            key=self.made_by(),
            stage="lens",
            title=f"{rig[self.at].name}: load the table of {rig[self.lens].name}",
            detail=("A new lens wants its own table: name, focal length, marks.",),
            device=self.at,
            expect=f"It names {rig[self.lens].name}.",
            # A list of lenses in a menu, by maker and length.
            takes_s=30,
            act=LoadTable(at=self.at, lens=self.lens),
            care=not self.promises,
        )

    def check(self, rig: ResolvedRig) -> Check:
        return Check(
            id=Key.of("read-table", self.item),
            says=f"Read which lens {rig[self.at].name} names.",
            seconds=10,
            where=self.at,
            read=lambda world: text(world.rig[self.lens].name if self.holds(world) else "another, or none"),
        )

    def faults(self, rig: ResolvedRig) -> tuple[Fault, ...]:
        # The table of the lens before: nothing but the numbers tells.
        says = f"{rig[self.at].name} has the table of another lens"
        # The lens was changed, the table was not: the marks are then another lens's.
        return (Fault(id="other", says=says, weight=2, mend_s=30, act=AnotherTable(at=self.at, lens=self.lens)),)


def _ring_words(rig: ResolvedRig, ring: LinkEnd) -> str:
    return f"the {rig[ring.device].port(ring.endpoint).marking} of {rig[ring.device].name}"
