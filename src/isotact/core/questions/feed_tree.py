"""The feed tree: who runs from what, solved as a circuit; what is near its limit, and how each battery empties."""

from collections.abc import Iterator, Sequence
from itertools import pairwise

from isotact.core.calc.batteries import LOW_LEFT, Moment
from isotact.core.calc.loads import Lead
from isotact.core.calc.volts import Flowing
from isotact.core.model.calculation import Calculation, Given
from isotact.core.model.plan import Join, Plan
from isotact.core.model.resolved import Placed, ResolvedRig
from isotact.core.questions.feed_answers import (
    WHENS,
    CurvePoint,
    FeedTree,
    Flows,
    TreeBattery,
    TreeDevice,
    TreeLead,
    When,
)
from isotact.core.questions.feed_remarks import remarks
from isotact.core.telling.phrases import together
from isotact.core.trades import Planned
from isotact.core.trades.power.charging import charging
from isotact.core.trades.power.feeding import feeding_of
from isotact.core.trades.power.switching_once import switched_once
from isotact.core.world.circuit import ASSUMED_AWG

NEAR_SHARE = 0.03
"""So little of its lowest volts above them is near: as much as worn plugs lose. Common practice, no source."""


def feed_tree(rig: ResolvedRig, plan: Plan) -> FeedTree:
    """The feeds of `plan` as a circuit."""
    return _Tree(rig, plan).whole()


class _Tree:
    def __init__(self, rig: ResolvedRig, plan: Plan) -> None:
        self.rig = rig
        self.planned = Planned(rig, plan)
        self.charging = tuple(charging(self.planned))
        self.feeding = feeding_of(self.planned, charges=self.charging)
        self.supply = self.feeding.supply
        self.joins = {join.link.id: join for join in plan.joins}
        held = self.feeding.stalling
        self.flows: dict[When, list[Flowing | None]] = {
            "rule": [self.feeding.at_rule()],
            "start": [self.feeding.at_start()],
            "held": [self.feeding.when_held(one, None) for one in held] or [self.feeding.at_start()],
            "end": [self.feeding.when_held(one) for one in held] or [self.feeding.at_start(LOW_LEFT)],
        }
        self.in_use = [device for device in self._outwards() if self.supply.loads[device].draw_w is not None]

    def whole(self) -> FeedTree:
        batteries = sorted(self._batteries(), key=lambda one: (one.hours_h is None, one.hours_h))
        if batteries and batteries[0].hours_h is not None:
            batteries[0] = batteries[0].model_copy(update={"first": True})
        leads = list(self._leads())
        most = max((one.share for one in leads), default=0.0)
        leads = [one.model_copy(update={"closest": one.share == most and most > 0}) for one in leads]
        devices = tuple(self._device(device) for device in self.in_use)
        switch = switched_once(self.planned)
        known = tuple(remarks(self.feeding, self.charging, devices, leads, batteries, switch))
        return FeedTree(
            says=self._says(batteries),
            devices=devices,
            leads=tuple(leads),
            batteries=tuple(batteries),
            remarks=known,
            stalls=bool(self.feeding.stalling),
            temperature_c=self.rig.rig.energy.temperature_c,
            margin_v=self.rig.rig.energy.margin_v,
        )

    def _says(self, batteries: Sequence[TreeBattery]) -> str:
        if not batteries:
            return "Nothing in use has power yet."
        first = batteries[0]
        if first.hours_h is None:
            return "Nothing draws on any battery."
        return f"{first.name} is empty first, after {first.hours_h:.1f} h."

    def _outwards(self) -> list[str]:
        fed = self.supply.fed
        order = [device for device, lead in fed.items() if lead is None]
        for device in order:
            order += [other for other, lead in fed.items() if lead is not None and lead.giver == device]
        return order

    def _lead(self, device: str) -> Lead | None:
        return self.supply.fed.get(device)

    def _at(self, device: str, when: When) -> Flows | None:
        """The worst of what could be held: the fewest volts, the most amps."""
        lead = self._lead(device)
        found = []
        for flow in self.flows[when]:
            if flow is None:
                return None
            volts = flow.volts.get(device)
            if volts is None:
                return None
            amps = flow.amps.get(lead.id, 0.0) if lead is not None else flow.drawn_a.get(device, 0.0)
            found.append((volts, amps))
        volts, amps = min(one for one, _ in found), max(one for _, one in found)
        watts = max(one * other for one, other in found)
        known = self._volts_known(device)
        return Flows(volts=round(volts, 3) if known else None, amps=round(amps, 3), watts=round(watts, 2))

    def _volts_known(self, device: str) -> bool:
        lead = self._lead(device)
        if lead is None:
            return self.feeding.is_known(device)
        return (lead.line is not None and lead.line.held_v is not None) or self._volts_known(lead.giver)

    def _device(self, device: str) -> TreeDevice:
        placed, lead = self.rig[device], self._lead(device)
        lowest_v = lead.line.lowest_v if lead is not None and lead.line is not None else None
        at = {when: self._at(device, when) for when in WHENS}
        end = at["end"]
        near = (
            lowest_v is not None
            and end is not None
            and end.volts is not None
            and end.volts < lowest_v * (1 + NEAR_SHARE)
        )
        return TreeDevice(
            device=device,
            name=placed.name,
            draws_w=self.supply.loads[device].draw_w or 0.0,
            lowest_v=lowest_v,
            join=lead.id if lead is not None else None,
            giver=lead.giver if lead is not None else None,
            at=at,
            near=near,
        )

    def _leads(self) -> Iterator[TreeLead]:
        for device in self.in_use:
            lead = self._lead(device)
            if lead is None or lead.line is None:
                continue
            join = self.joins[lead.id]
            rule, held = self._at(device, "rule"), self._at(device, "held")
            rule_w = rule.watts if rule is not None else 0.0
            held_w = held.watts if held is not None else 0.0
            share = max(rule_w / lead.limit_w, held_w / lead.peak_w)
            limit_a, limited_by = self._tightest(join, device)
            flows = {when: now for when in WHENS if (now := self._at(device, when)) is not None}
            lost = {when: round(lead.line.ohm * now.amps, 3) for when, now in flows.items()}
            yield TreeLead(
                join=lead.id,
                tag=join.tag,
                giver=lead.giver,
                taker=device,
                words=self._lead_words(join),
                ohm=round(lead.line.ohm, 4),
                lost_v=lost,
                limit_w=round(lead.limit_w, 1) if limit_a is not None else None,
                limit_a=limit_a,
                limited_by=limited_by,
                share=round(share, 3),
                asleep=self._asleep(join, device, rule_w),
                assumed=self._assumed(join),
            )

    def _lead_words(self, join: Join) -> str:
        if join.link.cable is None:
            return "straight into each other" if join.link.is_direct else join.tag
        return together([self.rig.cables[key].name for key in join.link.stock])

    def _assumed(self, join: Join) -> str | None:
        unknown = [self.rig.cables[key].name for key in join.link.stock if self.rig.cables[key].gauge_awg is None]
        return f"Nobody said how thick {together(unknown)} is: taken as AWG {ASSUMED_AWG}." if unknown else None

    def _roles(self, join: Join, taker: str) -> Iterator[tuple[str, float | None]]:
        """What has a limit on a lead: in words, with its amps."""
        for use in join.link.uses:
            for end, role in self.planned.roles(join, use):
                if role.is_inlet and end.device == taker:
                    yield self.rig[taker].port_words(end.endpoint), getattr(role, "max_a", None)
                elif role.is_outlet and end.device != taker:
                    yield self.rig[end.device].port_words(end.endpoint), getattr(role, "max_a", None)
        for key in join.link.stock:
            yield f"“{self.rig.cables[key].name}”", self.rig.cables[key].limit_of("power")

    def _tightest(self, join: Join, taker: str) -> tuple[float | None, str]:
        known = [(amps, words) for words, amps in self._roles(join, taker) if amps is not None]
        return min(known) if known else (None, "")

    def _asleep(self, join: Join, taker: str, watts: float) -> str | None:
        giver = join.link.far(taker)
        outlets = self.rig[giver.device].outlets_at(giver.endpoint)
        least_w = max((role.least_w or 0.0 for role in outlets), default=0.0)
        if watts >= least_w:
            return None
        where = self.rig[giver.device].port_words(giver.endpoint)
        return f"{where} falls asleep below {least_w:g} W, and {self.rig[taker].name} takes {watts:.1f} W."

    def _batteries(self) -> Iterator[TreeBattery]:
        for device in self.feeding.batteries:
            placed = self.rig[device]
            battery = placed.battery
            if battery is None:
                continue
            own = placed.profile.power.inner_battery if placed.profile.power else None
            curve = self.feeding.curve(device)
            flows = self.flows["rule"][0]
            drawn_w = battery.rest_v(self.feeding.charge_left(device)) * flows.drawn_a[device] if flows else 0.0
            load_w = self.supply.roots().get(device, 0.0)
            lasts_h = curve[-1].hours_h if curve else 0.0 if load_w else None
            end = self.feeding.charge_left(device) * (1 - placed.used_share)
            stops = None
            if not curve and load_w:
                stops = "It cannot feed what hangs on it."
            elif curve and curve[-1].left > end + 1e-9:
                stops = f"At {100 * curve[-1].left:.0f} % it can no longer feed all that hangs on it."
            lamp_h = _hours_at(curve, own.low_lamp_percent / 100) if own and own.low_lamp_percent else None
            yield TreeBattery(
                device=device,
                name=placed.name,
                pack=f"{battery.energy_wh:g} Wh",
                chemistry=battery.chemistry.name,
                feeds=tuple(one for one in self.in_use if self.supply.root(one) == device),
                watts=round(drawn_w, 2),
                hours_h=lasts_h,
                by_watts_h=placed.usable_wh / load_w if load_w and placed.usable_wh is not None else None,
                curve=tuple(
                    CurvePoint(hours_h=round(at.hours_h, 4), percent=round(100 * at.left, 1), volts=round(at.volts, 3))
                    for at in curve
                ),
                volts_known=self.feeding.is_known(device),
                lamp_h=lamp_h,
                lamp_left_min=round(60 * (lasts_h - lamp_h)) if lasts_h is not None and lamp_h is not None else None,
                stops=stops,
                source=battery.chemistry.source,
                why=_why(placed, lasts_h, drawn_w, load_w),
            )


def _hours_at(curve: Sequence[Moment], left: float) -> float | None:
    """When so much is left; None where it was less from the beginning, or stops before."""
    for before, after in pairwise(curve):
        if before.left >= left >= after.left and before.left > after.left:
            share = (before.left - left) / (before.left - after.left)
            return before.hours_h + share * (after.hours_h - before.hours_h)
    return None


def _why(placed: Placed, lasts_h: float | None, drawn_w: float, load_w: float) -> Calculation | None:
    battery, usable_wh = placed.battery, placed.usable_wh
    if not lasts_h or battery is None or usable_wh is None:
        return None
    lost_w = drawn_w - load_w
    given = [
        Given(name="usable energy", value=round(usable_wh, 2), unit="Wh"),
        Given(name="taken by devices", value=round(load_w, 2), unit="W"),
        Given(name="lost in leads, outlets and cells", value=round(lost_w, 2), unit="W"),
        Given(name="within it", value=round(battery.inner_ohm, 3), unit="ohm"),
    ]
    also = [f"Volts by charge: {battery.chemistry.source}."]
    if battery.cold_share < 1:
        also.append(f"At {battery.celsius:g} °C {100 * battery.cold_share:.0f} % of it are there.")
    if battery.health < 1:
        also.append(f"Full it holds {100 * battery.health:.0f} % of what it held when new.")
    return Calculation(
        name=placed.name,
        value=f"{lasts_h:.1f} h",
        why=f"{usable_wh:.1f} Wh usable ÷ {usable_wh / lasts_h:.1f} W on the whole = {lasts_h:.1f} h",
        given=tuple(given),
        also=tuple(also),
    )
