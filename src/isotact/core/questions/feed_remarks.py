"""What is to be known of a rig's feeds, in sentences with their numbers."""

from collections.abc import Iterator, Sequence
from typing import Literal

from isotact.core.calc.batteries import LOW_LEFT
from isotact.core.questions.feed_answers import Remark, TreeBattery, TreeDevice, TreeLead
from isotact.core.trades.power.charging import Charging
from isotact.core.trades.power.switching_once import Switch
from isotact.core.world.feed_volts import Feeding

CLOSE = 0.8
"""A limit is near from here on: a fifth to spare is what one leaves for what nobody reckoned. Common practice."""


def remarks(
    feeding: Feeding,
    charging: Sequence[Charging],
    devices: Sequence[TreeDevice],
    leads: Sequence[TreeLead],
    batteries: Sequence[TreeBattery],
    switch: Switch | None,
) -> Iterator[Remark]:
    """What is over a limit or near it, who has few volts, what falls asleep or charges, and which battery to watch."""
    yield from _of_volts(feeding, devices)
    for lead in leads:
        yield from _of_lead(lead)
    for one in charging:
        yield _of_charging(feeding, one)
    for battery in batteries:
        yield from _of_battery(battery)
    if switch is not None:
        yield Remark(kind="switch", says=switch.says(feeding.rig), about=(switch.device,))


def _of_volts(feeding: Feeding, devices: Sequence[TreeDevice]) -> Iterator[Remark]:
    for one in devices:
        end = one.at["end"]
        if one.near and end is not None and end.volts is not None and one.lowest_v is not None:
            held = " with a motor held" if feeding.stalling else ""
            has = f"{one.name} has {end.volts:.1f} V{held} at {100 * LOW_LEFT:.0f} % charge"
            yield Remark(kind="volts", says=f"{has}, and needs {one.lowest_v:g} V.", about=(one.device,))


def _of_lead(lead: TreeLead) -> Iterator[Remark]:
    if lead.share >= CLOSE and lead.limit_a is not None:
        sort: Literal["over", "near"] = "over" if lead.share > 1 else "near"
        says = f"{lead.limited_by} is at {100 * lead.share:.0f} % of its {lead.limit_a:g} A."
        yield Remark(kind=sort, says=says, about=(lead.giver, lead.taker))
    if lead.asleep:
        yield Remark(kind="asleep", says=lead.asleep, about=(lead.giver, lead.taker))
    if lead.assumed:
        yield Remark(kind="unknown", says=lead.assumed, about=(lead.giver, lead.taker))


def _of_charging(feeding: Feeding, one: Charging) -> Remark:
    rig, supply = feeding.rig, feeding.supply
    taker, root = rig[one.taker].name, supply.root(one.giver)
    giver = rig[root or one.giver].name
    if one.watts is None:
        says = f"{taker} charges out of {giver}, nobody said by how much: it is empty sooner than reckoned."
        return Remark(kind="charges", says=says, about=(one.giver, one.taker))
    says = f"{taker} charges out of {giver}: {one.watts:g} W"
    flows, without = feeding.at_rule(), Feeding(rig, supply, {}).at_rule()
    if root is not None and flows is not None and without is not None and flows.drawn_a[root]:
        sooner = 1 - without.drawn_a[root] / flows.drawn_a[root]
        says += f", and {giver} is empty {100 * sooner:.0f} % sooner"
    return Remark(kind="charges", says=f"{says}.", about=(one.giver, one.taker))


def _of_battery(battery: TreeBattery) -> Iterator[Remark]:
    if battery.first and len(battery.feeds) > 1 and battery.curve:
        says = f"{battery.name} is the clock of the rig: have its volts in sight."
        if battery.lamp_left_min is not None:
            says += f" When its lamp warns, {battery.lamp_left_min:.0f} min are left."
        yield Remark(kind="clock", says=says, about=(battery.device,))
    if battery.stops:
        yield Remark(kind="volts", says=f"{battery.name}: {battery.stops}", about=(battery.device,))
    if not battery.volts_known:
        says = f"Nobody said how many cells {battery.name} has: its volts are not shown."
        yield Remark(kind="unknown", says=says, about=(battery.device,))
