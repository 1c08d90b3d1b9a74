"""The feeds of a rig as a circuit: volts and amps at any charge and for any load, and how a charge is used up."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from math import inf

from isotact.core.calc.batteries import LOW_LEFT, Battery, Moment, discharged
from isotact.core.calc.loads import Drawing
from isotact.core.calc.power import Supply
from isotact.core.calc.volts import Cell, Flowing, Network, Taking, Wire
from isotact.core.model.resolved import ResolvedRig
from isotact.core.world.circuit import circuit_of


@dataclass(frozen=True)
class Feeding:
    """Who runs from what, and all that makes a circuit of it. `charging`: device -> watts that it charges with besides.

    Devices of whose battery nobody knows the volts hold what their outlets say, and lose nothing within.
    """

    rig: ResolvedRig
    supply: Supply
    charging: Mapping[str, float]

    @cached_property
    def batteries(self) -> tuple[str, ...]:
        """The devices that run from their own battery, or whose battery feeds others."""
        fed = self.supply.fed
        own = [device for device, lead in fed.items() if lead is None and self.supply.loads[device].draw_w is not None]
        return tuple(device for device in own if self.rig[device].battery is not None)

    @cached_property
    def wires(self) -> tuple[Wire, ...]:
        """Every lead that carries."""
        found = []
        for lead in self.supply.fed.values():
            if lead is not None and lead.line is not None:
                line = lead.line
                held = {"held_v": line.held_v, "efficiency": line.efficiency} if line.held_v is not None else {}
                found.append(Wire(lead.id, lead.giver, lead.taker, line.ohm, **held))
        return tuple(found)

    @cached_property
    def stalling(self) -> tuple[str, ...]:
        """What can be held at a stop."""
        return tuple(device for device in self.supply.fed if self.supply.loads[device].stall_w)

    def at_rule(self, left: float | None = None) -> Flowing | None:
        """What flows as a rule; `left`: the share of energy in every battery, None for as full as each is."""
        return self._network.flowing(self._at_rule, self._open_v(left))

    def at_start(self, left: float | None = None) -> Flowing | None:
        """What flows for a moment, with everything at its most."""
        return self._network.flowing(self._at_start, self._open_v(left))

    def when_held(self, device: str, left: float | None = LOW_LEFT) -> Flowing | None:
        """What flows for a moment while one device is held at a stop."""
        load = self.supply.loads[device]
        held = taking(load.stall_w, load.held_draws, load.rated_v or self._usual_v(device))
        taken = {**self._at_start, device: self._at_start[device].plus(held)}
        return self._network.flowing(taken, self._open_v(left))

    def charge_left(self, device: str) -> float:
        """The share of energy that is in a battery now."""
        placed = self.rig[device].device
        return (100 if placed.charge_percent is None else placed.charge_percent) / 100

    def lasts_h(self, device: str, changes: int = 0) -> float:
        """How long a battery lasts with up to so many full ones put in after it; without end where nothing draws."""
        placed = self.rig[device]
        own = placed.profile.power.inner_battery if placed.profile.power else None
        curve = self.curve(device)
        if own is None or not curve:
            return inf if own is None or self.at_rule() is not None else 0.0
        spares = changes if placed.device.spare_batteries is None else placed.device.spare_batteries
        fulls = min(changes, spares) if own.fitted else 0
        return curve[-1].hours_h + (fulls * self.curve(device, 1.0)[-1].hours_h if fulls else 0.0)

    def curve(self, device: str, start: float | None = None) -> Sequence[Moment]:
        """How the battery of a device empties, down to what is kept back, at what is drawn as a rule.

        `start`: the share that is in it; None for as full as it is.
        """
        placed = self.rig[device]
        battery = placed.battery
        if battery is None:
            return ()

        alone = self._only(device)

        def asked(left: float) -> tuple[float, float] | None:
            now = alone.at_rule(left)
            if now is None:
                return None
            return now.volts[device], battery.rest_v(left) * now.drawn_a[device]

        start = self.charge_left(device) if start is None else start
        # What is kept back is kept back of whatever is in it, as the planner counts it.
        return discharged(battery, asked, start, start * (1 - placed.used_share))

    def _only(self, root: str) -> "Feeding":
        """Just what runs from one battery: the rest makes no difference to it."""
        fed = {device: lead for device, lead in self.supply.fed.items() if self.supply.root(device) == root}
        return Feeding(self.rig, Supply(self.supply.loads, fed), self.charging)

    @cached_property
    def _at_rule(self) -> dict[str, Taking]:
        return {device: self._taken(device, self.supply.loads[device].draw_w or 0.0) for device in self.supply.fed}

    @cached_property
    def _at_start(self) -> dict[str, Taking]:
        return {device: self._taken(device, self.supply.loads[device].moment_w) for device in self.supply.fed}

    def _taken(self, device: str, watts: float) -> Taking:
        load = self.supply.loads[device]
        return taking(watts + self.charging.get(device, 0.0), load.draws, load.rated_v or self._usual_v(device))

    @cached_property
    def _network(self) -> Network:
        return Network([Cell(device, 0.0, ohm) for device, _, ohm in self._sources], self.wires)

    def _open_v(self, left: float | None) -> list[float]:
        return [
            battery.rest_v(self.charge_left(device) if left is None else left) for device, battery, _ in self._sources
        ]

    @cached_property
    def _sources(self) -> list[tuple[str, Battery, float]]:
        """Every battery in use, with its ohms where anybody knows its volts."""
        found = [(device, self.rig[device].battery) for device in self.batteries]
        return [
            (device, battery, battery.inner_ohm if self.is_known(device) else 0.0)
            for device, battery in found
            if battery is not None
        ]

    def is_known(self, device: str) -> bool:
        """Whether anybody knows the volts of its battery: by its cells, its curve, or what it gives."""
        placed = self.rig[device]
        own = placed.profile.power.inner_battery if placed.profile.power else None
        return own is not None and bool(own.cells or own.discharge or placed.outlets_through)

    def _usual_v(self, device: str) -> float:
        lead = self.supply.fed[device]
        if lead is not None and lead.line is not None:
            return (max(lead.line.lowest_v, lead.line.held_v or 0.0) + lead.line.highest_v) / 2
        battery = self.rig[device].battery
        return battery.rest_v(0.5) if battery is not None else 1.0


def taking(watts: float, draws: Drawing, rated_v: float) -> Taking:
    """What so many watts at `rated_v` are at any volts."""
    if draws == "power":
        return Taking(watts=watts)
    return Taking(amps=watts / rated_v) if draws == "current" else Taking(siemens=watts / rated_v**2)


def lasting_h(rig: ResolvedRig, supply: Supply, batteries: Iterable[str], changes: int) -> dict[str, float]:
    """How long each of `batteries` lasts, with up to so many changes; left out what has none. Asked again and again."""
    known = circuit_of(rig).lasting
    # A fault in a hundred changes who runs from what: for the others it is worked out already.
    fed = frozenset(
        # The whole lead: between the same two ports another cable loses other volts.
        (device, lead, supply.loads[device].draw_w)
        for device, lead in supply.fed.items()
    )
    those = known.setdefault((fed, changes), {})
    feeding = Feeding(rig, supply, {})
    wanted = [device for device in batteries if rig[device].battery is not None]
    those |= {device: feeding.lasts_h(device, changes) for device in wanted if device not in those}
    return {device: those[device] for device in wanted}
