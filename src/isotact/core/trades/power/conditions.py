"""What must hold of feeds: the device has power, the outlet gives it."""

from typing import ClassVar, Literal

from isotact.core.model.keys import Between, Key
from isotact.core.model.named_keys import fit_key, joined_key, plug_key, wake_key
from isotact.core.model.plan import LinkEnd
from isotact.core.model.resolved import Placed, ResolvedRig
from isotact.core.model.words import Id
from isotact.core.telling.build_words import full_words
from isotact.core.trades.base import Check, Condition, Draft, Fault
from isotact.core.trades.cables.acts import Replug
from isotact.core.trades.power.acts import BlowFuse, BlowOutlet, FitBattery, RunFlat
from isotact.core.world import Power, World, now
from isotact.core.world.observation import Observation, number, state

GAUGE_PERCENT = 1.0
"""A gauge shows whole per cents. Common practice, no source."""


class Fed(Condition):
    """The device has power, from its own battery or a join.

    A feed is live only while its giver is awake, so a device without a battery is seen to be fed when it wakes.
    """

    kind: Literal["fed"] = "fed"
    lasts_while_up: ClassVar[bool] = True
    device: Id
    join: tuple[LinkEnd, LinkEnd] | None = None
    join_words: str = ""
    giver: Id | None = None
    """The device at the other end of `join`: without power itself it gives none."""
    has_battery: bool = True
    wakes_with: Id | None = None
    """The device whose waking brings the power, when it is not the device itself."""
    lasts: str = ""
    """How long its own battery lasts with all that hangs on it, in words."""

    @property
    def key(self) -> Key:
        return Key.of("fed", self.device)

    def holds(self, world: World) -> bool:
        return now(world).supply.has_power(self.device)

    def says(self, rig: ResolvedRig) -> str:
        return f"{rig[self.device].name} has power{f' by {self.join_words}' if self.join else ''}."

    def made_by(self) -> Key:
        if self.has_battery:
            return fit_key(self.device)
        if self.wakes_with is None and self.join is not None:
            return plug_key(Between(*self.join))
        return wake_key(self.wakes_with or self.device)

    def needs(self) -> tuple[Key, ...]:
        if self.has_battery or self.join is None or self.giver is None:
            return ()
        return (joined_key(Between(*self.join)), Key.of("fed", self.giver))

    def draft(self, rig: ResolvedRig) -> Draft | None:
        return None if self.join else battery_draft(rig, self.device, lasts=self.lasts)

    def check(self, rig: ResolvedRig) -> Check:
        return Check(
            id=Key.of("power-lamp", self.device),
            says=f"Read the battery level of {rig[self.device].name}; look for its power lamp.",
            seconds=5,
            where=self.device,
            read=self._level,
        )

    def _level(self, world: World) -> Observation:
        usable, charge = world.rig[self.device].usable_wh, world[Power].battery_wh.get(self.device)
        lamp = "power is there" if now(world).supply.has_power(self.device) else "no power"
        if usable is None:
            return state(lamp)
        if charge is None or charge <= 0:
            return state(f"{'no battery' if charge is None else 'empty'}, {lamp}")
        percent = round(100 * charge / usable)
        return number(percent, "%", f"{percent} %, {lamp}", plus_minus=GAUGE_PERCENT)

    def faults(self, rig: ResolvedRig) -> tuple[Fault, ...]:
        name = rig[self.device].name
        # Fuses and contacts fail seldom beside flat batteries, and cannot be mended on the cart.
        fuse = Fault(
            id="fuse",
            says=f"{name} takes no power: its fuse has gone, or its contacts are dirty",
            # Rare, and tried last: it is believed only when everything that feeds it has been changed.
            weight=0.5,
            mend_s=300,
            act=BlowFuse(device=self.device),
        )
        if self.join is not None:
            return (fuse,)  # its lead and outlet are conditions of their own, and a flat battery is carried by these
        # As often as a wrong mode: batteries come back from a charger that was not on.
        flat = Fault(id="flat", says=f"{name} has run flat", weight=2, mend_s=60, act=RunFlat(device=self.device))
        return (flat, fuse)


class OutletGives(Condition):
    """The outlet that feeds a device gives what it should."""

    kind: Literal["outlet"] = "outlet"
    outlet: LinkEnd
    join: tuple[LinkEnd, LinkEnd]

    @property
    def key(self) -> Key:
        return Key.of("outlet", self.outlet)

    def holds(self, world: World) -> bool:
        return self.outlet not in world[Power].dead_outlets

    def says(self, rig: ResolvedRig) -> str:
        return f"{rig[self.outlet.device].port_words(self.outlet.endpoint)} gives power."

    def made_by(self) -> Key:
        return plug_key(Between(*self.join))

    def check(self, rig: ResolvedRig) -> Check:
        return Check(
            id=Key.of("measure", self.outlet),
            says=f"Hold a tester to {rig[self.outlet.device].port_words(self.outlet.endpoint)}.",
            # A tester has to be fetched, and the plug is out meanwhile.
            seconds=30,
            where=self.outlet.device,
            disturbs=(Replug(a=self.join[0], b=self.join[1]),),
            read=self._volts,
        )

    def _volts(self, world: World) -> Observation:
        """No volts are simulated yet: the tester tells whether there are any."""
        if not now(world).supply.has_power(self.outlet.device):
            return state("nothing: what it is part of has no power")
        return state("nothing" if self.outlet in world[Power].dead_outlets else "volts as written")

    def faults(self, rig: ResolvedRig) -> tuple[Fault, ...]:
        # Outlets share a fuse with their neighbours and go when something with a short is tried on them.
        says = f"the outlet {rig[self.outlet.device].port_words(self.outlet.endpoint)} is dead"
        # Outlets die of a short, once in a rig's life; a lead is far likelier.
        return (Fault(id="dead", says=says, weight=0.7, mend_s=120, act=BlowOutlet(outlet=self.outlet)),)


def _so(placed: Placed) -> str:
    """What takes of a battery beside what is kept back: cold, and age."""
    battery = placed.battery
    if battery is None:
        return ""
    taken = [
        f"at {battery.celsius:g} °C" if battery.cold_share < 1 else "",
        f"at {100 * battery.health:.0f} % of new" if battery.health < 1 else "",
    ]
    return "".join(f", {one}" for one in taken if one)


def battery_draft(rig: ResolvedRig, device: str, spare: str = "", lasts: str = "") -> Draft:
    """Fit or charge the device's own battery; one that is only `spare`, for the reason given, is care."""
    placed = rig[device]
    battery = placed.profile.power.inner_battery if placed.profile.power else None
    if battery is None:
        raise LookupError(f"{device} has no battery of its own")
    energy = f"{battery.energy_wh:g} Wh, {placed.full_wh or 0.0:.1f} Wh usable{_so(placed)}."
    spares = placed.device.spare_batteries
    more = (f"And {spares} spare, charged.",) if spares else ()
    return Draft(
        key=fit_key(device),
        stage="gather",
        title=f"{placed.name}: {full_words(placed, battery)}",
        detail=tuple(line for line in (energy, lasts, spare, *more) if line),
        device=device,
        expect="Its level reads full.",
        # One battery looked at, put in, and its gauge read once more under load.
        takes_s=30,
        act=FitBattery(device=device),
        care=bool(spare),
        card="Batteries in, and full",
        cautions=("Only its own charger; a swollen or wet pack goes aside.",),
    )
