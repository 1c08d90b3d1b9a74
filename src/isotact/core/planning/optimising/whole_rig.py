"""The part of the choice that is about the rig as a whole, whatever was promised of it.

A body carries a lens, flies on its gimbal, and has on it what nobody would leave off; a gimbal carries its camera, no
more than it can, and so much weight besides as it wants; hours are about something that is on.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator
from typing import TYPE_CHECKING

from isotact.core.model.words import Stage
from isotact.core.planning.optimising.choice_model import ChoiceModel, Group
from isotact.core.solver import added, weighted
from isotact.core.trades.mounting.small_parts import needs_of

if TYPE_CHECKING:
    from ortools.sat.python import cp_model

    from isotact.core.model.resolved import Placed

LACKS_G = 10
"""Weight that a gimbal wants is added up to so much: what a strip of tape weighs."""


def add_whole_rig(c: ChoiceModel) -> None:
    """Add what holds of every rig, whatever was promised."""
    # What makes a picture is a body, whatever its kind is called.
    off = c.rig.rig.left_in_case
    bodies = [device for device, placed in c.rig.devices.items() if placed.profile.makes]
    _hold_lenses(c, bodies)
    _fly(c, bodies, off)
    for device, placed in c.rig.devices.items():
        added_at_need = placed.profile.ballast and placed.stage == Stage.TILT_CAGE
        if placed.is_plain and not added_at_need and device not in off:
            for body in bodies:  # nobody leaves a plate in its case, nor the weight of a pole
                c.model.add_implication(c.awake[body], c.awake[device])
    _serve_recipes(c)
    _fix(c)
    _weigh(c, bodies)
    _are_on(c, off)


def _can_run(c: ChoiceModel, device: str) -> bool:
    return c.rig.runs_alone(device) or any(feed.taker == device for feed in c.feeds.values())


def _seated(c: ChoiceModel) -> dict[str, dict[str, cp_model.IntVar]]:
    """Holder -> what could sit on it -> whether it does."""
    seats: dict[str, dict[str, cp_model.IntVar]] = defaultdict(dict)
    for span in c.spans.values():
        for end, other, name in ((span.a, span.b, span.use.role_a), (span.b, span.a, span.use.role_b)):
            if span.use.is_seat and c.rig[end.device].role(end.endpoint, name).holds:
                seats[end.device][other.device] = c.span[span.key]
    return seats


def _hold_lenses(c: ChoiceModel, bodies: list[str]) -> None:
    """A body in use has a lens on, by an adapter or without, as far as there are any that fit."""
    seats = _seated(c)
    for holder, placed in c.rig.devices.items():
        # An adapter with nothing on it only adds weight; a body may go bare, at a price.
        if placed.is_holder and holder not in bodies:
            c.model.add_bool_or([c.awake[holder].negated(), *seats[holder].values()])
    for body in bodies:
        if seats[body]:
            bare = c.bare[body] = c.model.new_bool_var(f"bare {body}")
            c.model.add_bool_or([c.awake[body].negated(), *seats[body].values(), bare])


def _fly(c: ChoiceModel, bodies: list[str], off: set[str]) -> None:
    """A body that sits in the cage flies on a gimbal, where one can run and carries it; none is flown empty."""
    caged = [body for body in bodies if c.rig[body].stage == Stage.TILT_CAGE]
    carriers = [device for device, placed in c.rig.devices.items() if placed.profile.carrier is not None]
    able = [one for one in carriers if one not in off and _can_run(c, one)]
    for body in caged if able else ():
        grounded = c.grounded[body] = c.model.new_bool_var(f"grounded {body}")
        c.model.add_bool_or([c.awake[body].negated(), *(c.awake[gimbal] for gimbal in able), grounded])
    for gimbal in carriers if caged else ():
        c.clause(("aloft", (gimbal,)), [c.awake[gimbal].negated(), *(c.awake[body] for body in caged)])
    # Of several gimbals no more fly than there are bodies to carry.
    if len(carriers) > 1 and caged:
        flown, flying = (added(c.awake[one] for one in those) for those in (carriers, caged))
        c.add(("aloft", (carriers[0],)), flown <= flying)


def _serve_recipes(c: ChoiceModel) -> None:
    """What a recipe needs is out and on, where its promise is kept in no other way."""
    for taken in c.rig.rig.recipes:
        for device in taken.devices:
            if device not in c.idle:
                # One for all recipes that name it: it lies in its case once.
                c.idle[device] = c.model.new_bool_var(f"idle {device}")
            c.model.add_bool_or([c.awake[device], c.kept[taken.promise], c.idle[device]])


def _weigh(c: ChoiceModel, bodies: list[str]) -> None:
    """Add what each gimbal carries: all that is in use and sits in its cage, and the leads that hang there."""
    cage = {device: placed for device, placed in c.rig.devices.items() if placed.stage == Stage.TILT_CAGE}
    ballast = [device for device, placed in cage.items() if placed.profile.ballast]
    most = sum(placed.mass_g for placed in cage.values())
    most += sum(c.rig.cables[key].mass_g * count for key, count in c.rig.stock.items())
    most += c.rig.part_bag.weights_g((device, placed.profile.fixed_by) for device, placed in cage.items())
    most += sum(c.rig.part_bag.kinds[part].mass_g * c.terms.extra for part in c.parts_got)
    carriers = {gimbal: one for gimbal, placed in c.rig.devices.items() if (one := placed.profile.carrier)}
    # Written down only where it could matter: most gimbals carry whatever could come together.
    if not ballast and all(most <= carrier.max_payload_g for carrier in carriers.values()):
        return
    # Whole grams: the solver knows no others, and half a gram turns no gimbal.
    weights = [(round(placed.mass_g), c.awake[device]) for device, placed in cage.items()]
    carried = weighted([*weights, *_parts(c, cage), *_leads(c), *_bare(c, [body for body in bodies if body in cage])])
    for gimbal, carrier in carriers.items():
        if most > carrier.max_payload_g:
            group: Group = ("payload", (gimbal,))
            made = c.model.add(carried <= int(carrier.max_payload_g))
            made.only_enforce_if([c.awake[gimbal], *([c.guard(group)] if c.guarded else [])])
        if ballast:
            _make_up(c, gimbal, int(carrier.min_payload_g), carried, ballast)
    for device in ballast:
        c.model.add_bool_or([c.awake[device].negated(), *(c.awake[gimbal] for gimbal in carriers)])


def _fix(c: ChoiceModel) -> None:
    """What is in use has what it is fixed with, where somebody said which small parts lie in the bag."""
    bag = c.rig.part_bag
    if not bag.known:
        return
    among = bag.kinds if c.terms.extra else bag.counts
    used: dict[str, list[cp_model.IntVar]] = defaultdict(list)
    for (device, number), fixing in needs_of(c.rig, [*c.awake]).items():
        if any(bag.kinds[part].is_tool for part in bag.doing(fixing)):
            continue
        by = {part: c.model.new_bool_var(f"{device} {number} by {part}") for part in bag.doing(fixing, among)}
        c.clause(("fixing", (device, str(number))), [c.awake[device].negated(), *by.values()])
        for part, var in by.items():
            used[part].append(var)
    for part, those in used.items():
        lie = bag.counts.get(part, 0)
        if not c.terms.extra:
            if len(those) > lie:
                c.model.add(added(those) <= lie)
            continue
        got = c.parts_got[part] = c.model.new_int_var(0, c.terms.extra, f"got {part}")
        if bag.kinds[part].is_tool:  # only where none lies there: then one that is got serves all
            c.model.add_max_equality(got, those)
        else:
            c.model.add(added(those) <= lie + got)


def _parts(c: ChoiceModel, cage: dict[str, Placed]) -> Iterator[tuple[int, cp_model.IntVar]]:
    """What the small parts in the cage weigh; what serves all weighs once, as soon as one thing needs it."""
    bag, shared = c.rig.part_bag, defaultdict[str, list["cp_model.IntVar"]](list)
    for device, placed in cage.items():
        for _, part in bag.weights([(device, placed.profile.fixed_by)]):
            if bag.kinds[part].is_tool:
                shared[part].append(c.awake[device])
            else:
                yield round(bag.kinds[part].mass_g), c.awake[device]
    for part, users in shared.items():
        used = c.model.new_bool_var(f"{part} in the cage")
        c.model.add_max_equality(used, users)
        yield round(bag.kinds[part].mass_g), used
    for part, got in c.parts_got.items():
        yield round(bag.kinds[part].mass_g), got


def _make_up(c: ChoiceModel, gimbal: str, least_g: int, carried: cp_model.LinearExpr, ballast: list[str]) -> None:
    """Weight that lies there goes on where the gimbal wants more, and not a piece more than that."""
    lacks = c.lacks[gimbal] = c.model.new_int_var(0, -(-least_g // LACKS_G), f"lacks {gimbal}")
    c.model.add(LACKS_G * lacks + carried >= least_g).only_enforce_if(c.awake[gimbal])
    for device in ballast:
        # Without this very piece it would still lack: so no piece goes on that another makes needless.
        without = carried - round(c.rig[device].mass_g)
        c.model.add(without <= least_g - 1).only_enforce_if(c.awake[device], c.awake[gimbal])


def _leads(c: ChoiceModel) -> Iterator[tuple[int, cp_model.IntVar]]:
    """What the leads weigh that hang in the cage; a piece with several ends counts once."""
    told: set[str] = set()
    for link in c.links.values():
        grams = round(c.rig.hung_g(link))
        # The links of a splitter are one lead, and weigh once.
        if grams and link.lead not in told:
            yield grams, c.lead[link.lead] if link.lead else c.link[link.id]
            told |= {link.lead} if link.lead else set()


def _bare(c: ChoiceModel, bodies: list[str]) -> Iterator[tuple[int, cp_model.IntVar]]:
    """What goes on a body that is left without a lens: nobody flies it so, and the lightest counts."""
    seats = _seated(c)

    def lenses(holder: str, been: tuple[str, ...] = ()) -> Iterator[float]:
        """What a lens that could sit on it weighs, with the mount adapters between, each of them once."""
        for one in sorted({*seats[holder]} - {*been}):
            if c.rig[one].is_holder:
                yield from lenses(one, (*been, one))
            else:
                yield sum(c.rig[each].mass_g for each in (*been, one))

    for body in bodies:
        if body in c.bare and (fitting := list(lenses(body))):
            yield round(min(fitting)), c.bare[body]


def _are_on(c: ChoiceModel, off: set[str]) -> None:
    """Hours are about what is on: what the other promises put in use, and where there are none all that can run."""
    powered = [device for device, placed in c.rig.devices.items() if placed.profile.power is not None]
    running = [device for device in powered if device not in off and _can_run(c, device)]
    for promise in c.rig.rig.lasting:
        group: Group = ("on", (promise.id,))
        if c.rig.rig.routed:
            c.clause(group, [c.kept[promise.id].negated(), *(c.kept[one.id] for one in c.rig.rig.routed)])
        for device in running if not c.rig.rig.routed else ():
            c.clause(group, [c.kept[promise.id].negated(), c.awake[device]])
        # Where nothing can be on there is nothing that could last.
        if not running:
            c.clause(group, [c.kept[promise.id].negated()])
