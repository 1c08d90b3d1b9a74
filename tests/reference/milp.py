"""The planner's problem as a mixed integer program for HiGHS (scipy.optimize.milp), written apart from the planner.

It takes joins and paths from the list that the exhaustive search makes, which reads the profiles itself. Variables,
constraints and the way power flows are its own; only the price list is shared.
"""

from collections import defaultdict
from typing import Any

import numpy as np
from scipy.optimize import Bounds, LinearConstraint, milp
from scipy.sparse import lil_matrix

from isotact.core.model import ResolvedRig
from isotact.core.planning.optimising import price_list
from tests.core.planning.brute_force import (
    STAGES,
    Lead,
    Path,
    _price,
    _rank,
    _wants,
    could_feed,
    leads,
    ohm_of,
    paths,
    role,
    weighed,
)

AHEAD = 5000
"""One unit of weight outbids any cost of rigs of this size."""
BEFORE_HOURS = 10
"""One unit of what works outbids all hours: there is one promise of hours, of weight 9 at most."""


class Program:
    """Rows and columns by name."""

    def __init__(self) -> None:
        self.columns: dict[Any, int] = {}
        self.upper: list[float] = []
        self.whole: list[int] = []
        self.cost: dict[Any, float] = defaultdict(float)
        self.rows: list[tuple[dict[Any, float], float, float]] = []

    def var(self, key: Any, upper: float = 1, whole: bool = True) -> Any:
        if key not in self.columns:
            self.columns[key] = len(self.columns)
            self.upper.append(upper)
            self.whole.append(int(whole))
        return key

    def row(self, terms: list[tuple[float, Any]], low: float = -np.inf, high: float = np.inf) -> None:
        put: dict[Any, float] = defaultdict(float)
        for factor, key in terms:
            put[key] += factor
        self.rows.append((put, low, high))

    def solve(self) -> dict[Any, float]:
        """The columns at the optimum. Fails when HiGHS does not prove one."""
        matrix = lil_matrix((len(self.rows), len(self.columns)))
        for number, (terms, _, _) in enumerate(self.rows):
            for key, factor in terms.items():
                matrix[number, self.columns[key]] = factor
        costs_of = np.zeros(len(self.columns))
        for key, factor in self.cost.items():
            costs_of[self.columns[key]] += factor
        answer = milp(
            costs_of,
            constraints=LinearConstraint(matrix.tocsr(), [r[1] for r in self.rows], [r[2] for r in self.rows]),
            integrality=np.array(self.whole),
            bounds=Bounds(0, np.array(self.upper)),
            options={"mip_rel_gap": 0, "time_limit": 60},
        )
        assert answer.status == 0, answer.message
        return {key: float(answer.x[place]) for key, place in self.columns.items()}


def best(rig: ResolvedRig) -> tuple[int, int, int]:
    """The greatest weight of promises that can work, that of the hours kept beside them, and the least cost then."""
    p = Program()
    joins = leads(rig)
    feeds = [(lead, pair) for lead in joins for pair in lead.pairs if role(rig, lead.a, pair[0]).kind == "power"]
    useful: dict[Lead, list[Any]] = defaultdict(list)
    for device in rig.devices:
        p.cost[p.var(("awake", device))] += price_list.DEVICE
    for promise in rig.rig.promises:
        _promise(p, rig, promise, list(paths(rig, promise, joins)) if promise.kind != "power" else None, useful)
    _feeds(p, rig, [feed for feed in feeds if _can_run(rig, *feed)], useful)
    _volts(p, rig, [feed for feed in feeds if _can_run(rig, *feed)])
    _leads(p, rig, joins, useful)
    _knobs(p, rig)
    _weights(p, rig)
    values = p.solve()
    weight = weighed(rig, [one.id for one in rig.rig.promises if round(values["kept", one.id])])
    cost = sum(factor * round(values[key]) for key, factor in p.cost.items() if key[0] != "kept")
    return (*weight, round(cost))


def _promise(p: Program, rig: ResolvedRig, promise: Any, found: list[Path] | None, useful: Any) -> None:
    kept = p.var(("kept", promise.id))
    p.cost[kept] -= AHEAD * promise.weight * (1 if promise.kind == "power" else BEFORE_HOURS)
    if found is None:  # hours of nothing that is on are none
        p.row([(1, kept), *((-1, p.var(("kept", one.id))) for one in rig.rig.routed)], high=0)
        return
    p.row([(1, kept), *((-1, p.var(("path", promise.id, n))) for n in range(len(found)))], 0, 0)
    for number, path in enumerate(found):
        taken = ("path", promise.id, number)
        if promise.kind == "picture":
            p.cost[taken] += price_list.PER_10_MS * -(-int(path.delay_ms) // 10)
        for device in path.devices:
            p.row([(1, taken), (-1, ("awake", device))], high=0)
        for lead, pair in path.leads:
            _asks(p, rig, lead, pair, taken)
            useful[lead].append(taken)
            p.row([(1, taken), (-1, p.var(("lead", lead)))], high=0)
            _order(p, rig, lead, pair, taken)
        for knob, allowed in path.knobs.items():
            p.row([(1, taken), *((-1, p.var(("knob", knob, value))) for value in allowed)], high=0)
        for port in path.dark:
            p.rows.append(({("dark", port): 1, taken: 1}, -np.inf, 1))


def _asks(p: Program, rig: ResolvedRig, lead: Lead, pair: tuple[int, int], taken: Any) -> None:
    """A server has so much room, over all its sockets."""
    for end, number in ((lead.a, pair[0]), (lead.b, pair[1])):
        serves = role(rig, end, number)
        if getattr(serves, "clients", None):
            server = ("asked", end[0], serves.protocol)
            asks = p.var(("asks", lead, pair))
            p.row([(1, taken), (-1, asks)], high=0)
            if server not in p.columns:
                p.rows.append(({p.var(server, 0): 1}, -np.inf, serves.clients))
            whole = next(terms for terms, _, _ in p.rows if server in terms)
            whole[asks] = 1


def _hangs(p: Program, rig: ResolvedRig, giver: str, outlet: Any, taker: str, fed: Any) -> None:
    """Where a motor hangs on something, it hangs on what feeds that as well; never on electronics only."""
    hung = p.var(("hung", taker))
    if rig[taker].profile.motor:
        p.row([(1, hung), (-1, fed)], low=0)
    p.row([(1, p.var(("hung", giver))), (-1, hung), (-1, fed)], low=-1)
    if outlet.good_for == "electronics":
        p.row([(1, fed), (1, hung)], high=1)


def _weights(p: Program, rig: ResolvedRig) -> None:
    cage = {device: placed.profile for device, placed in rig.devices.items() if placed.stage == "tilt-cage"}
    heavy = sum(profile.mass_g for profile in cage.values())
    cameras = [device for device, profile in cage.items() if profile.makes]
    for device, placed in rig.devices.items():
        carrier, flown = placed.profile.carrier, ("awake", device)
        if carrier is not None:
            carried = [(profile.mass_g, ("awake", other)) for other, profile in cage.items()]
            p.row([*carried, (heavy, flown)], high=carrier.max_payload_g + heavy)
            if cameras:
                p.row([(1, flown), *((-1, ("awake", camera)) for camera in cameras)], high=0)
            for camera in cameras:
                grounded = p.var(("grounded", camera))
                p.cost[grounded] += price_list.GROUNDED
                p.row([(1, ("awake", camera)), (-1, flown), (-1, grounded)], high=0)


def _order(p: Program, rig: ResolvedRig, lead: Lead, pair: tuple[int, int], taken: Any) -> None:
    for mine, peer, number in ((lead.a, lead.b, pair[0]), (lead.b, lead.a, pair[1])):
        wake = getattr(role(rig, mine, number), "wake", "any")
        if wake != "any":
            first, second = (peer[0], mine[0]) if wake == "peer-first" else (mine[0], peer[0])
            _before(p, rig, first, second, taken)


def _before(p: Program, rig: ResolvedRig, first: str, second: str, taken: Any) -> None:
    most = len(rig.devices)
    one, other = p.var(("rank", first), most, False), p.var(("rank", second), most, False)
    p.row([(1, other), (-1, one), (-(most + 1), taken)], low=-most)


def _can_run(rig: ResolvedRig, lead: Lead, pair: tuple[int, int]) -> bool:
    _, _, inlet, taker = _ends(rig, lead, pair)
    own = rig[taker].profile.power.inner_battery
    locked = own is None and any(rig[taker].setting_now(key) != value for key, value in inlet.when.settings.items())
    return inlet.feeds != "charge" and not locked


def _ends(rig: ResolvedRig, lead: Lead, pair: tuple[int, int]) -> tuple[Any, str, Any, str]:
    one, other = role(rig, lead.a, pair[0]), role(rig, lead.b, pair[1])
    return (one, lead.a[0], other, lead.b[0]) if one.flow == "out" else (other, lead.b[0], one, lead.a[0])


def _feeds(p: Program, rig: ResolvedRig, feeds: list[Any], useful: Any) -> None:
    powers = [placed.profile.power for placed in rig.devices.values() if placed.profile.power]
    most = sum(power.draw_w for power in powers)
    high = sum(max(power.draw_w, power.peak_w or 0, power.stall_w or 0) for power in powers)
    into, out, moments, stalls = defaultdict(list), defaultdict(list), defaultdict(list), defaultdict(list)
    for lead, pair in feeds:
        outlet, giver, inlet, taker = _ends(rig, lead, pair)
        fed, flow = p.var(("fed", lead, pair)), p.var(("flow", lead, pair), most, False)
        into[taker].append(fed)
        battery = rig[giver].profile.power.inner_battery
        changed = battery is not None and battery.fitted and not battery.hot_swap
        if changed and any(one.changes for one in rig.rig.lasting) and not rig[taker].profile.power.bridges:
            p.cost[fed] += price_list.DARK
        _hangs(p, rig, giver, outlet, taker, fed)
        out[giver].append(flow)
        useful[lead].append(fed)
        load = p.var(("load", taker), most, False)
        p.row([(1, fed), (-1, p.var(("lead", lead)))], high=0)
        for device in (giver, taker):
            p.row([(1, fed), (-1, ("awake", device))], high=0)
        p.row([(1, flow), (-most, fed)], high=0)
        p.row([(1, flow), (-1, load)], high=0)
        p.row([(1, flow), (-1, load), (-most, fed)], low=-most)
        amps = [a for a in (outlet.max_a, inlet.max_a) if a is not None]
        amps += [c.max_a for c in rig.cables[lead.cable].carries if c.medium == "power" and c.max_a]
        p.row([(1, flow)], high=min(amps) * outlet.min_v + 1e-7)
        amps[0] = outlet.peak_a or outlet.max_a
        moment, peak = p.var(("moment", lead, pair), high, False), p.var(("peak", taker), high, False)
        moments[giver].append(moment)
        # of all that hangs on a lead the one that stalls worst comes on top
        stall, held = p.var(("stall over", lead, pair), high, False), p.var(("stall", taker), high, False)
        stalls[giver].append(stall)
        p.row([(1, moment), (1, stall)], high=min(amps) * outlet.min_v + 1e-7)
        p.row([(1, stall), (-1, held), (-high, fed)], low=-high)
        p.row([(1, moment), (-1, peak), (-high, fed)], low=-high)
        unless = []
        for device, end in ((giver, outlet), (taker, inlet)):
            for knob, allowed in _wants(device, end.when).items():
                p.row([(1, fed), *((-1, p.var(("knob", knob, value))) for value in allowed)], high=0)
                unless += [("off", knob, value) for value in allowed]
        # plugged and both awake, and no setting against it: it feeds
        blocked = [p.var(("not", key[1])) for key in unless]
        for key, block in zip(unless, blocked, strict=True):
            p.row([(1, block), (1, p.var(("knob", key[1], key[2])))], high=1)
        asked = [(1, ("lead", lead)), (1, ("awake", giver)), (1, ("awake", taker)), (-1, fed)]
        better = [
            (-1, p.var(("fed", *other)))
            for other in feeds
            if _ends(rig, *other)[3] == taker and _rank(rig, *other) < _rank(rig, lead, pair)
        ]
        p.row([*asked, *((-1, block) for block in blocked), *better], high=2)
        if rig[taker].profile.power.inner_battery is None:
            _before(p, rig, giver, taker, fed)
    for device, placed in rig.devices.items():
        power = placed.profile.power
        if power is None:
            continue
        if power.two_feeds == "never":  # made for profiles whose feeds ask for no setting
            p.row([(1, ("lead", lead)) for lead, pair in feeds if _ends(rig, lead, pair)[3] == device], high=1)
        own, load = p.var(("own", device)), p.var(("load", device), most, False)
        if power.inner_battery is None:
            p.row([(1, own)], high=0)
        p.row([(1, own), *((1, fed) for fed in into[device]), (-1, ("awake", device))], 0, 0)
        p.row([(1, load), (-power.draw_w, ("awake", device)), *((-1, flow) for flow in out[device])], 0, 0)
        most_w, peak = power.peak_w or power.draw_w, p.var(("peak", device), high, False)
        p.row([(1, peak), (-most_w, ("awake", device)), *((-1, flow) for flow in moments[device])], low=0)
        more, held = max(0, (power.stall_w or 0) - most_w), p.var(("stall", device), high, False)
        p.row([(1, held), (-more, ("awake", device))], low=0)
        for stall in stalls[device]:
            p.row([(1, held), (-1, stall)], low=0)
        for promise in rig.rig.promises:
            if promise.kind == "power" and power.inner_battery is not None:
                spares = placed.device.spare_batteries
                fulls = 1 + (promise.changes if spares is None else min(promise.changes, spares))
                holds = fulls * power.inner_battery.energy_wh * power.inner_battery.usable / promise.hours_h
                p.row([(1, load), (most, ("kept", promise.id)), (most, own)], high=holds + 2 * most + 1e-7)


HIGH_A, HIGH_V = 200.0, 100.0


def _amps(rig: ResolvedRig, device: str, lowest: float, highest: float) -> tuple[float, float]:
    """Amps at the most of a moment, and what is added while it is held."""
    power = rig[device].profile.power
    rated, most = power.rated_v or (lowest + highest) / 2, max(power.draw_w, power.peak_w or 0)
    per_watt = {"power": 1 / lowest, "current": 1 / rated, "resistance": highest / rated**2}
    return most * per_watt[power.draws], max(0, (power.stall_w or 0) - most) * per_watt[power.held_draws]


def _volts(p: Program, rig: ResolvedRig, feeds: list[Any]) -> None:
    """With a fifth of the charge left and one motor held, nobody has fewer volts than it needs."""
    floors = {
        key: min(given, default=None)
        for key, placed in rig.devices.items()
        for given in [[r.min_v for r in _outlets(placed) if r.min_v != r.max_v]]
    }
    drawn = defaultdict(list)

    def lowest_of(outlet: Any, inlet: Any) -> float:
        return (0.9 if inlet.min_v >= outlet.min_v else 1) * inlet.min_v + rig.rig.energy.margin_v

    for lead, pair in feeds:
        outlet, giver, inlet, taker = _ends(rig, lead, pair)
        fed, lowest = p.var(("fed", lead, pair)), lowest_of(outlet, inlet)
        amps, held = _amps(rig, taker, lowest, outlet.max_v)
        before = [lowest_of(o, i) for o, g, i, t in (_ends(rig, *other) for other in feeds) if t == giver]
        before_v = min([*before, *([floors[giver]] if floors[giver] else [])], default=None)
        holds = outlet.min_v == outlet.max_v
        share = outlet.min_v / (outlet.efficiency or 0.9) / before_v if holds and before_v else 0 if holds else 1
        total, most = p.var(("amps", taker), HIGH_A, False), p.var(("held amps", taker), HIGH_A, False)
        passing, above = p.var(("amps over", lead, pair), HIGH_A, False), p.var(("held amps", giver), HIGH_A, False)
        drawn[taker].append((amps, fed))
        drawn[giver].append((1, passing))
        p.row([(1, most), (-held, fed)], low=0)
        p.row([(1, passing), (-share, total), (-HIGH_A * share, fed)], low=-HIGH_A * share)
        p.row([(1, above), (-share, most), (-HIGH_A * share, fed)], low=-HIGH_A * share)
        cable = rig.cables[lead.cable]
        ohm = ohm_of(cable)
        volts, given = p.var(("volts", taker), HIGH_V, False), p.var(("volts", giver), HIGH_V, False)
        source = [] if holds else [(-1, given)]
        slack = 3 * HIGH_V + 2 * HIGH_A * ohm
        start = outlet.min_v if holds else 0
        p.row([(1, volts), *source, (ohm, total), (ohm, most), (slack, fed)], high=start + slack)
        p.row([(1, volts), (-lowest, fed)], low=-1e-7)
        p.row([(1, given), (-(outlet.needs_v or 0), fed)], low=-1e-7)
    for device, floor in floors.items():
        battery, own = rig[device].battery, p.var(("own", device))
        total, most = p.var(("amps", device), HIGH_A, False), p.var(("held amps", device), HIGH_A, False)
        if battery and floor:
            drawn[device].append((_amps(rig, device, floor, floor)[0], own))
            volts, slack = p.var(("volts", device), HIGH_V, False), HIGH_V + 2 * HIGH_A * battery.inner_ohm
            lost = (battery.inner_ohm, total), (battery.inner_ohm, most)
            p.row([(1, volts), *lost, (slack, own)], high=battery.rest_v(0.2) + slack)
        p.row([(1, total), *((-factor, var) for factor, var in drawn[device])], low=0)


def _outlets(placed: Any) -> list[Any]:
    roles = [r for end in placed.profile.endpoints.values() for r in end.roles if r.kind == "power"]
    return [r for r in roles if r.flow == "out"]


def _leads(p: Program, rig: ResolvedRig, joins: list[Lead], useful: Any) -> None:
    at, of = defaultdict(list), defaultdict(list)
    for lead in joins:
        if lead not in useful:
            continue
        made = p.var(("lead", lead))
        p.row([(1, made), *((-1, use) for use in useful[lead])], high=0)
        for end in (lead.a, lead.b):
            at[end].append(made)
        if lead.cable is None:
            p.cost[made] += price_list.RADIO
            continue
        of[lead.cable].append(made)
        here, there = (STAGES.index(rig[end[0]].stage_of(end[1])) for end in (lead.a, lead.b))
        length = -(-int(rig.cables[lead.cable].length_mm) // 100)
        p.cost[made] += price_list.JOIN + price_list.AXIS * abs(here - there) + price_list.PER_100_MM * length
        p.cost[made] += price_list.THIN * int(ohm_of(rig.cables[lead.cable]) * 20) * could_feed(rig, lead)
    for end, those in at.items():
        p.row([(1, made) for made in those], high=1)
        if any(("dark", end) in terms for terms, _, _ in p.rows):
            p.var(("dark", end))
            p.row([(len(those), ("dark", end)), *((-1, made) for made in those)], low=0)
    for cable, those in of.items():
        p.row([(1, made) for made in those], high=rig.stock.get(cable, 0))
    for terms, _, _ in p.rows:
        for key in terms:
            if key[0] == "dark" and key not in p.columns:
                p.var(key)


def _knobs(p: Program, rig: ResolvedRig) -> None:
    asked: dict[Any, set[str]] = defaultdict(set)
    for key in list(p.columns):
        if key[0] == "knob":
            asked[key[1]].add(key[2])
    for key in [key for key in p.columns if key[0] == "not"]:
        asked.setdefault(key[1], set())
    for knob, values in asked.items():
        device, kind, name = knob
        if kind != "answer":
            profile = rig[device].profile
            every = profile.modes.values if kind == "mode" else profile.setting(name).values
            values = values | {value.id for value in every}
        terms = [(1.0, p.var(("knob", knob, value))) for value in sorted(values)]
        p.row(terms, low=0 if kind == "answer" else 1, high=1)
        for value in values:
            p.cost["knob", knob, value] += _price(rig, knob, value)
