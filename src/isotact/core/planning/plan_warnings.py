"""What a technician says of a plan that works all the same: the leash, weight to add, the lens that nobody named."""

from collections import defaultdict
from collections.abc import Iterator
from dataclasses import dataclass

from isotact.core.model.plan import Join, Link
from isotact.core.model.resolved import Placed, ResolvedRig
from isotact.core.model.words import Stage, told_apart
from isotact.core.telling.phrases import promise_words, together


@dataclass(frozen=True)
class Choices:
    """What a plan has chosen, and from what.

    `in_use`: the devices that it wakes, `on_ways`: those of them through which something promised goes; `links`: all
    that could be made.
    """

    rig: ResolvedRig
    joins: list[Join]
    in_use: list[str]
    on_ways: set[str]
    links: list[Link]
    through_body: tuple[str, ...] = ()
    """The promises of focus that no motor carries out."""

    @property
    def decided(self) -> set[str]:
        """The devices that a promise or a pin has chosen."""
        return self.on_ways.union(*(pin.devices for pin in self.rig.rig.pins if pin.leaves is None))

    def caged(self) -> list[Placed]:
        """The bodies in use that a gimbal could carry."""
        used = (self.rig[device] for device in self.in_use)
        return [placed for placed in used if placed.profile.makes and placed.stage == Stage.TILT_CAGE]

    def sitting_on(self, links: list[Link], body: str) -> list[str]:
        """The lenses that sit on a body by `links`, by mount adapters or without."""
        held: dict[str, set[str]] = defaultdict(set)
        for link in links:
            for here, there in (link.ends, link.ends[::-1]):
                if any(use.is_seat for use in link.uses) and there.endpoint == self.rig[there.device].seat:
                    held[here.device].add(there.device)
        ahead, found = [body], set[str]()
        while ahead:
            new = held[ahead.pop()] - found
            found |= new
            ahead += sorted(new)
        return sorted(device for device in found if not self.rig[device].is_holder)


def warnings_of(made: Choices) -> list[str]:
    """Every one, a sentence each."""
    rig, in_use = made.rig, made.in_use
    return [
        *_nothing_promised(rig),
        *_lenses(made),
        *_gimbals(made),
        *_leashes(rig, made.joins),
        *_too_light(rig, made),
        *_no_such_rods(rig, in_use),
        *_no_marks(made),
        *_not_counted(made),
    ]


def _nothing_promised(rig: ResolvedRig) -> Iterator[str]:
    if rig.devices and not rig.rig.promises:
        yield "Nothing is promised in this rig, so nothing is built: promise something to somebody."
    elif rig.rig.promises and not rig.rig.routed:
        yield "Only hours are promised: all that has power in this rig is taken to be on."


def _lenses(made: Choices) -> Iterator[str]:
    """A body is not shot with without a lens; which of several it is somebody has to say."""
    rig = made.rig
    bodies = [rig[device] for device in made.in_use if rig[device].profile.makes and rig[device].is_holder]
    on = {body.id: made.sitting_on([join.link for join in made.joins], body.id) for body in bodies}
    for body in bodies:
        fitting = made.sitting_on(made.links, body.id)
        free = [lens for lens in fitting if lens not in made.rig.rig.left_in_case]
        names = together([rig[lens].name for lens in free])
        if not on[body.id] and not fitting:
            yield f"No lens in this rig goes on {body.name}: it is balanced without one. Add the one that it carries."
        elif not on[body.id] and not free:
            yield f"{body.name} stands without a lens: what fits it is to stay in its case."
        elif not on[body.id]:
            yield f"No lens is left for {body.name}: {names} {'is' if len(free) == 1 else 'are'} on another body."
        elif made.decided.isdisjoint(on[body.id]) and (others := [one for one in free if one not in made.in_use]):
            other = " or ".join(rig[lens].name for lens in others)
            yield (
                f"Nothing promised says which lens {body.name} carries: {rig[on[body.id][0]].name} in this plan, "
                f"{other} fits too. Set what is not shot with to stay in its case."
            )


def _gimbals(made: Choices) -> Iterator[str]:
    """A body flies; on which gimbal, where there are several, somebody has to say."""
    rig, caged = made.rig, made.caged()
    able = [
        one
        for one in rig.devices.values()
        if one.profile.carrier is not None and one.id not in made.rig.rig.left_in_case
    ]
    flown = [one for one in able if one.id in made.in_use]
    bodies = together([body.name for body in caged])
    if not caged or not able:
        return
    if not flown:
        yield from _grounded(made, bodies, able)
    elif len(caged) > len(flown):
        where = together([one.name for one in flown])
        yield f"{bodies} all sit in the cage of {where}, and a gimbal carries one body: set where the others stand."
    elif len(able) > len(flown) and made.decided.isdisjoint(one.id for one in flown):
        others = " or ".join(one.name for one in able if one not in flown)
        yield (
            f"Nothing promised says on which gimbal {bodies} flies: {flown[0].name} in this plan, {others} could too. "
            "Set the other to stay in its case."
        )


def _grounded(made: Choices, bodies: str, able: list[Placed]) -> Iterator[str]:
    """Why it does not fly, from what stands as planned: too heavy for each, or nothing to run them from."""
    weight = made.rig.payload_g(made.in_use, (join.link for join in made.joins))
    for one in able:
        most = one.profile.carrier.max_payload_g if one.profile.carrier else 0.0
        if weight > most:
            kg = f"{told_apart(weight / 1000, most / 1000)} kg for the cage, and it carries {most / 1000:g} kg"
            yield f"{bodies} does not fly on {one.name}: {kg}. Fly lighter, or on a larger gimbal."
        else:
            yield f"{bodies} does not fly on {one.name}: nothing is left to run it from. Add its battery, and the lead."


def _no_marks(made: Choices) -> Iterator[str]:
    """Marks that are hit again want a motor on a ring with stops: the body counts steps, and drops some."""
    for promise in made.through_body if made.rig.rig.shot.marks else ():
        words = promise_words(made.rig, made.rig.rig.promise(promise))
        yield (
            f"{words[0].upper()}{words[1:]} goes through the body: turned fast it drops steps, and marks do not come "
            "back. This shot has marks to be hit again: a motor on a ring with stops repeats them."
        )


def _not_counted(made: Choices) -> Iterator[str]:
    """Hours are about what stands there: what stays in its case is named, for somebody may put it on after all."""
    left = [
        placed.name
        for device, placed in made.rig.devices.items()
        if device not in made.in_use and device not in made.rig.rig.left_in_case
        if placed.profile.power is not None and placed.profile.power.draw_w
    ]
    if left and made.rig.rig.lasting and made.rig.rig.routed:
        yield f"The hours are reckoned without what no promise uses: {together(left)}."


def _leashes(rig: ResolvedRig, joins: list[Join]) -> Iterator[str]:
    """Nobody who operates likes to hear of it only when the camera rolls."""
    for join in joins:
        if rig.is_leash(join.link):
            end = next(end for end in join.link.ends if rig[end.device].stage_of(end.endpoint) == Stage.OFF_GIMBAL)
            length_m = rig.cables[join.link.cable or ""].length_mm / 1000
            yield (
                f"{join.tag} ties the gimbal to {rig[end.device].name} by {length_m:g} m of cable: whoever "
                f"carries it goes no further. A radio link in its place sets them free."
            )


def _too_light(rig: ResolvedRig, made: Choices) -> Iterator[str]:
    """A payload below the gimbal's range cannot be slid to the middle: it is flown all the same, with weight added."""
    weight = rig.payload_g(made.in_use, (join.link for join in made.joins))
    for device in made.in_use:
        carrier = rig[device].profile.carrier
        if carrier is not None and weight < carrier.min_payload_g:
            least, lacks = carrier.min_payload_g / 1000, (carrier.min_payload_g - weight) / 1000
            yield (
                f"{rig[device].name} wants a payload of {least:g} kg at least; this one weighs "
                f"{told_apart(weight / 1000, least)} kg: add {told_apart(lacks, 0)} kg, such as a heavier plate, "
                "near its middle."
            )


def _no_such_rods(rig: ResolvedRig, in_use: list[str]) -> Iterator[str]:
    """A clamp goes on rods of its own size. Of rods that nobody named nothing is known."""
    mounts = [(placed, mount) for placed in rig.devices.values() for mount in placed.profile.mounts]
    rods = {mount.size: placed.name for placed, mount in mounts if mount.is_rods}
    for placed, mount in mounts:
        if mount.is_clamp and placed.id in in_use and rods and mount.size not in rods:
            there = together([f"{name} has {size} rods" for size, name in rods.items()])
            yield f"{placed.name} clamps on {mount.size} rods, and {there}: bring bushings, or rods of that size."
