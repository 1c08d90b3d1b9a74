"""One setting of a feed, changed once during the day where that lasts longer than either way by itself.

A body that runs from the grip leaves its own battery full, and one that runs from its own leaves the grip's: first the
one and then the other uses both up. What hangs on each battery is taken to draw the same all day.
"""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from math import inf

from isotact.core.calc.loads import Lead
from isotact.core.calc.power import changed_over
from isotact.core.model.resolved import ResolvedRig
from isotact.core.telling.phrases import hours_words
from isotact.core.trades.planned import Knob, Planned, Removal
from isotact.core.trades.power.feeding import feeding_of
from isotact.core.world.feed_volts import Feeding

WORTH = 1.1
"""For less than a tenth longer nobody opens a menu in the middle of a day."""


@dataclass(frozen=True)
class Switch:
    """A setting that is changed once. `after_h`: since the start of a full day; `instead_h`: left as it is."""

    device: str
    setting: str
    then: str
    after_h: float
    lasts_h: float
    instead_h: float

    def says(self, rig: ResolvedRig) -> str:
        """What the crew is told."""
        words = rig[self.device].knob_words("setting", self.setting, self.then)
        return (
            f"After {hours_words(self.after_h)} set {words} on {rig[self.device].name}: the first battery in use is "
            f"then empty after {hours_words(self.lasts_h)}; left as it is, after {hours_words(self.instead_h)}."
        )


def switched_once(planned: Planned) -> Switch | None:
    """The switch with which it lasts longest, where it is worth one; None where hours are promised or nothing is."""
    rig = planned.rig
    if rig.rig.lasting or not planned.plan.kept:
        return None
    settings = list(_settings(planned))
    if not settings:
        return None
    as_planned = feeding_of(planned)
    now = _used_up(planned, as_planned, {})
    if not now:
        return None
    known = {_hanging(as_planned, device): used for device, used in now.items()}
    instead_h = 1 / max(now.values())
    best: Switch | None = None
    for knob, value in settings:
        without = Removal(knobs=((knob, value),))
        other = {} if planned.lost_without(without) else _used_up(planned, feeding_of(planned, without), known)
        if not other:
            continue
        after_h, lasts_h = changed_over(now, other)
        # What lasts longer at once is no switch: the plan itself says it where it is worth it.
        at_least_h = best.lasts_h if best else WORTH * max(instead_h, 1 / max(other.values()))
        if 0 < after_h < lasts_h and lasts_h > at_least_h:
            best = Switch(knob[0], knob[2], value, after_h, lasts_h, instead_h)
    return best


def _settings(planned: Planned) -> Iterator[tuple[Knob, str]]:
    """The other values of each setting that a feed of the plan asks for, or could ask for over what is plugged."""
    seen: set[Knob] = set()
    for join in planned.joins:
        for use in join.link.uses:
            if not use.is_power:
                continue
            for end, role in planned.roles(join, use):
                for kind, key, _ in role.when.knobs():
                    knob = (end.device, kind, key)
                    if kind != "setting" or knob in seen or end.device not in planned.in_use:
                        continue
                    seen.add(knob)
                    yield from _other_values(planned, knob)


def _other_values(planned: Planned, knob: Knob) -> Iterator[tuple[Knob, str]]:
    placed = planned.rig[knob[0]]
    setting = placed.profile.setting(knob[2])
    now = planned.now.get(knob, placed.setting_now(knob[2]))
    for value in setting.values:
        # Nobody restarts a camera, or takes a lead out and in again, while it is shot with.
        if value.id != now and setting.takes_effect == "at-once" and not placed.upsets_of("setting", knob[2], value.id):
            yield knob, value.id


Hanging = tuple[str, frozenset[tuple[str, Lead | None, float]]]


def _hanging(feeding: Feeding, battery: str) -> Hanging:
    """A battery and all that runs from it, with what charges there besides: what makes its hours."""
    fed, charging = feeding.supply.fed, feeding.charging
    those = ((one, lead) for one, lead in fed.items() if feeding.supply.root(one) == battery)
    return battery, frozenset((one, lead, charging.get(one, 0.0)) for one, lead in those)


def _used_up(planned: Planned, feeding: Feeding, known: Mapping[Hanging, float]) -> dict[str, float]:
    """The share of each battery that is used in an hour; nothing where something in use would have no power."""
    if any(not feeding.supply.has_power(device) for device in planned.in_use):
        return {}
    found: dict[str, float] = {}
    for device, load_w in feeding.supply.roots().items():
        used = known.get(_hanging(feeding, device))
        hours = (feeding.lasts_h(device) if load_w else inf) if used is None else 1 / used
        if 0 < hours < inf:
            found[device] = 1 / hours
    return found
