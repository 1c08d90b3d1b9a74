"""Where packs sit in the rigs of a day, what each gives in every minute, and when it can be changed at what price."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from math import ceil

from isotact.core.calc.power import Supply
from isotact.core.model.behaviour import InnerBattery
from isotact.core.model.job import BlockRig, JobDay, Span, minutes_from
from isotact.core.model.plan import Plan
from isotact.core.model.resolved import Placed, ResolvedRig
from isotact.core.model.rig import Rig
from isotact.core.questions.battery_changes import battery_change
from isotact.core.questions.feed_answers import BatteryChange
from isotact.core.trades import Condition, Planned
from isotact.core.trades.power.acts import FitBattery
from isotact.core.trades.power.feeding import feeding_of
from isotact.core.world import World
from isotact.core.world.feed_volts import Feeding

STEP_MIN = 5
"""A rota is drawn up by five minutes: nobody keeps times closer than that."""


@dataclass(frozen=True)
class DayRig:
    """A rig of a day, as cold as that day, with its plan, and what the change of each battery comes to."""

    rig: ResolvedRig
    plan: Plan
    changes: Mapping[str, BatteryChange | None]


@dataclass(frozen=True)
class Used:
    """How a rig is used from one minute to another after the call. `pauses`: when nothing is taken meanwhile."""

    begins: int
    ends: int
    use: BlockRig
    block: str
    pauses: tuple[tuple[int, int], ...] = ()

    @property
    def rolls(self) -> bool:
        return self.use.use == "rolling"

    @property
    def is_up(self) -> bool:
        return self.use.use != "off"


def uses_of(day: JobDay, rig: str) -> list[Used]:
    """How a rig is used over a day, in the order of time."""
    if day.call is None:
        return []
    call = day.call

    def from_to(span: Span) -> tuple[int, int]:
        return minutes_from(call, span.begins), minutes_from(call, span.ends)

    found = [
        Used(*from_to(block), one, block.name, tuple(from_to(pause) for pause in block.pauses))
        for block in day.blocks
        for one in block.rigs
        if one.rig == rig
    ]
    return sorted(found, key=lambda one: one.begins)


@dataclass(frozen=True)
class BatterySeat:
    """The battery of a device, and what hangs on it."""

    of: DayRig
    device: str
    feeding: Feeding
    uses: Sequence[Used]

    @property
    def key(self) -> str:
        return f"{self.of.rig.rig.id}/{self.device}"

    @property
    def placed(self) -> Placed:
        return self.of.rig[self.device]

    @property
    def lamp_share(self) -> float | None:
        """What is left of what may be used when its lamp comes on; None where nobody says when it does."""
        percent = self.battery.low_lamp_percent
        return None if percent is None else max(0.0, self.usable(percent / 100))

    def usable(self, left: float) -> float:
        """The share that is left of what may be used, of the share of the whole that is left."""
        return (left - 1 + self.placed.used_share) / self.placed.used_share

    @property
    def battery(self) -> InnerBattery:
        power = self.placed.profile.power
        assert power is not None
        assert power.inner_battery is not None
        return power.inner_battery

    @property
    def change(self) -> BatteryChange | None:
        return self.of.changes.get(self.device)

    @property
    def is_changed_in_use(self) -> bool:
        """Whether it is changed without anybody noticing."""
        if self.battery.hot_swap and self.change is None:
            return True
        return self.change is not None and not self.change.lost and self.change.takes_s <= FitBattery.hand_s

    @property
    def change_min(self) -> int:
        """For how many minutes nobody can take with it when it is changed."""
        seconds = self.change.takes_s if self.change is not None else FitBattery.hand_s
        return max(1, ceil(seconds / 60))

    @cached_property
    def rolling_w(self) -> float:
        """The watts that its cells give as a rule, what is lost on the way in them."""
        return self._watts(self.feeding)

    @cached_property
    def waiting_w(self) -> float:
        """The same while everything is up and waits."""
        supply, rig = self.feeding.supply, self.of.rig
        loads = {}
        for device, load in supply.loads.items():
            power = rig[device].profile.power
            loads[device] = load if power is None or load.draw_w is None else replace(load, draw_w=power.idle_w)
        return self._watts(Feeding(rig, Supply(loads, supply.fed), self.feeding.charging))

    @cached_property
    def floor_share(self) -> float:
        """The share of a full charge with which it no longer feeds what hangs on it; that of the reserve at least."""
        curve = self.feeding.curve(self.device, 1.0)
        return max(1 - self.placed.used_share, curve[-1].left) if curve else 1.0

    def _watts(self, feeding: Feeding) -> float:
        curve = feeding.curve(self.device, 1.0)
        battery = self.placed.battery
        if not curve or battery is None or curve[-1].hours_h <= 0:
            # It cannot feed what hangs on it, as in great cold: that is no load of nothing, and it is dark at once.
            return feeding.supply.roots().get(self.device, 0.0)
        return battery.there_wh * (curve[0].left - curve[-1].left) / curve[-1].hours_h

    def watts(self, use: BlockRig) -> float:
        """What it gives in a block in which its rig is used so."""
        if use.use == "off":
            return 0.0
        share = {"rolling": use.rolling_percent / 100, "standby": 0.0, "moving": 1.0}[use.use]
        return share * self.rolling_w + (1 - share) * self.waiting_w

    def loads_mwh(self, steps: int) -> tuple[int, ...]:
        """What it gives in every step of the day, in thousandths of a watt hour."""
        given = [0.0] * steps
        for used in self.uses:
            per_minute = self.watts(used.use) * 1000 / 60
            for minute in range(used.begins, min(used.ends, steps * STEP_MIN)):
                given[minute // STEP_MIN] += per_minute
        return tuple(ceil(one - 1e-6) for one in given)

    def spoils(self, steps: int) -> tuple[int, ...]:
        """For every moment, whether a change there costs a take: where it is rolling, and not between two blocks."""
        if self.is_changed_in_use:
            return (0,) * (steps + 1)
        return tuple(self._spoils_at(moment * STEP_MIN) for moment in range(steps + 1))

    def _spoils_at(self, minute: int) -> int:
        until = minute + self.change_min
        over = [one for one in self.uses if one.rolls and minute < one.ends and one.begins < until]
        free = [pause for one in over for pause in one.pauses]
        if any(begins <= minute and until <= ends for begins, ends in free):
            return 0
        return 0 if all(one.begins == minute for one in over) else 1

    def likes(self, steps: int) -> tuple[int, ...]:
        """For every moment, how badly a change suits: best while the rig is off or between blocks, worst in a take."""
        bounds = {minute for one in self.uses for minute in (one.begins, one.ends)}
        bounds |= {begins for one in self.uses for begins, _ in one.pauses}
        found = []
        for moment in range(steps + 1):
            minute = moment * STEP_MIN
            here = [one for one in self.uses if one.begins <= minute < one.ends and one.is_up]
            found.append(0 if not here or minute in bounds else 2 if any(one.rolls for one in here) else 1)
        return tuple(found)


def seats_of(day: JobDay, rigs: Sequence[DayRig]) -> list[BatterySeat]:
    """Every battery that anything runs from on this day."""
    found = []
    for one in rigs:
        uses = uses_of(day, one.rig.rig.id)
        feeding = feeding_of(Planned(one.rig, one.plan))
        drawn = feeding.supply.roots()
        found += [BatterySeat(one, device, feeding, uses) for device in feeding.batteries if drawn.get(device)]
    return found


def day_rig(cold: ResolvedRig, world: World, plan: Plan, conditions: tuple[Condition, ...]) -> DayRig:
    """A rig of a day. `cold`: as cold as the day is; `world`: where its plan stands, for what a change comes to."""
    feeding = feeding_of(Planned(cold, plan))
    changes = {device: battery_change(world, plan, conditions, device) for device in feeding.batteries}
    return DayRig(cold, plan, changes)


def on_that_day(rig: Rig, day: JobDay) -> Rig:
    """A rig as cold as the day is expected to be."""
    if day.temperature_c is None:
        return rig
    return rig.model_copy(update={"energy": rig.energy.model_copy(update={"temperature_c": day.temperature_c})})
