"""Two ends that a promise could go over if they were alike: the wrong module, another radio family, SDI into HDMI.

A function or picture is followed from where it starts as far as it gets, and back from where it ends; where the two
meet in ends that face each other and have nothing in common, that is what stands in the way.
"""

import json
from collections import defaultdict
from collections.abc import Collection, Iterator
from dataclasses import dataclass

from isotact.core.model.legs import Leg, ends, legs_of, starts
from isotact.core.model.plan import Obstacle
from isotact.core.model.profile import Profile
from isotact.core.model.resolved import Placed, ResolvedRig
from isotact.core.model.rig import ControlPromise, PicturePromise
from isotact.core.model.roles import Role
from isotact.core.model.variants import with_profile
from isotact.core.model.vocabulary import vocabulary
from isotact.core.planning.explaining.sentences import ASK
from isotact.core.planning.explaining.trials import Trying
from isotact.core.telling.phrases import plain, together

# A fourth name in one sentence is read by nobody.
MOST_NAMED = 3


@dataclass(frozen=True)
class _Reached:
    """An end at which a function is, on its way out or on its way in, after so many devices."""

    device: str
    endpoint: str
    name: str
    hops: int


@dataclass(frozen=True)
class Unlike:
    """The end that a function gets to, and the one from which it would get on."""

    out: _Reached
    into: _Reached


def unlike(rig: ResolvedRig, promise: ControlPromise | PicturePromise, whatever_passes: bool = False) -> Unlike | None:
    """The pair of ends that comes nearest; None where no two face each other.

    With `whatever_passes`, what lies between need not take or pass on just this function.
    """
    outs, intos = _both_ways(rig, promise, whatever_passes)
    pairs = [Unlike(out, into) for out in outs for into in intos if _face(rig, out, into)]
    # The one that leaves most of the way as it is: a link that is there is not done without.
    return min(pairs, key=lambda pair: (-_plugs_in(rig, pair), -pair.out.hops - pair.into.hops), default=None)


def beside_the_point(
    rig: ResolvedRig,
    promise: ControlPromise | PicturePromise,
    pair: Unlike,
    trying: Trying | None,
    kept: Collection[str],
) -> bool:
    """Whether two radios only happen to be here: the function gets further than that, and alike they would not do."""
    if not _on_air(rig, pair) or promise.is_picture:
        return False
    outs, _ = _both_ways(rig, promise)
    if max(at.hops for at in outs) <= pair.out.hops:
        return False
    alike = _alike(rig, pair.into, pair.out)
    return trying is None or not trying.with_devices([alike], {*kept, promise.id})


def would_pass(rig: ResolvedRig, promise: ControlPromise | PicturePromise) -> bool:
    """Whether there is a way, if everything on it took or passed on whatever it understands."""
    outs, _ = _both_ways(rig, promise, whatever_passes=True)
    taking = [leg for placed in rig.devices.values() for leg in legs_of(placed) if leg.enters and ends(leg, promise)]
    return any(
        leg.device != at.device and _understood(rig, (leg.device, *leg.enters), (at.device, at.endpoint, at.name))
        for leg in taking
        for at in outs
        if leg.enters is not None
    )


def apart(rig: ResolvedRig, promise: ControlPromise) -> Obstacle:
    """How far a function gets and where it is taken, when nothing in the rig goes between the two."""
    outs, intos = _both_ways(rig, promise)
    name = vocabulary().functions[promise.function].name
    if not intos:  # others may take it, but not the one that was asked for
        asked = rig[promise.to or promise.at.device]
        return Obstacle(kind="function", device=asked.id, says=f"{asked.name} takes no {name} from another.")
    if not outs:
        here = rig[promise.at.device]
        surface = here.profile.surface(promise.at.surface).name
        says = (
            f"{name[0].upper()}{name[1:]} from the {surface} of {here.name} is worked in {here.name} itself, and goes "
        )
        return Obstacle(kind="function", device=here.id, says=f"{says}out to nothing.")
    furthest = [at for at in outs if at.hops == max(one.hops for one in outs)]
    for at in furthest if would_pass(rig, promise) else ():
        for device, endpoint, functions in _heard_at(rig, at):
            takes = f"{rig[device].port_words(endpoint)} takes only {together(functions)}"
            return Obstacle(kind="function", device=device, says=f"{takes} from {rig[at.device].name}.")
    rings = [at for at in intos if rig[at.device].endpoint(at.endpoint).is_gear]
    if rings and len(rings) == len(intos):
        reaching = rig[promise.at.device].name
        says = f"{_words(rig, rings)} is turned by a motor only, and nothing that {reaching} reaches turns it."
    else:
        says = f"{name[0].upper()}{name[1:]} gets as far as {_words(rig, furthest)}, and is taken at "
        says += f"{_words(rig, intos)}: nothing in this rig goes between."
    return Obstacle(kind="function", device=intos[0].device, says=says)


def _heard_at(rig: ResolvedRig, at: _Reached) -> Iterator[tuple[str, str, list[str]]]:
    """The ends that understand what comes out at `at`, each with the functions that it takes or passes on there."""
    for placed in rig.devices.values():
        taken: dict[tuple[str, str], set[str]] = defaultdict(set)
        for leg in legs_of(placed):
            if leg.enters is not None and placed.id != at.device:
                taken[leg.enters] |= {vocabulary().functions[one].name for one in leg.functions}
        for (end, role), names in taken.items():
            if names and _understood(rig, (placed.id, end, role), (at.device, at.endpoint, at.name)):
                yield placed.id, end, sorted(names)


def _words(rig: ResolvedRig, ends: list[_Reached]) -> str:
    words = list(dict.fromkeys(rig[at.device].port_words(at.endpoint) for at in ends))
    return together(words[:MOST_NAMED]) + (" and others" if len(words) > MOST_NAMED else "")


def _both_ways(
    rig: ResolvedRig, promise: ControlPromise | PicturePromise, whatever_passes: bool = False
) -> tuple[list[_Reached], list[_Reached]]:
    """The ends that it gets to from where it starts, and those from which it would get to where it ends."""
    every = [leg for placed in rig.devices.values() for leg in legs_of(placed) if leg.is_picture == promise.is_picture]
    of_it = [leg for leg in every if _is_for(leg, promise)]
    legs = every if whatever_passes else of_it
    outs = _reached(rig, legs, [leg for leg in of_it if starts(leg, promise)], forward=True)
    intos = _reached(rig, legs, [leg for leg in of_it if leg.enters and ends(leg, promise)], forward=False)
    return list(outs), list(intos)


def _is_for(leg: Leg, promise: ControlPromise | PicturePromise) -> bool:
    return promise.worked is None or promise.worked in leg.functions


def says_of(rig: ResolvedRig, promise: ControlPromise | PicturePromise, pair: Unlike) -> Obstacle:
    """What each of the two speaks or shows."""
    into, out = (rig[at.device].port_words(at.endpoint) for at in (pair.into, pair.out))
    if _on_air(rig, pair):
        says = (
            f"{into} is of the family {_air(rig, pair.into)}, and {out} of {_air(rig, pair.out)}: the two never meet."
        )
    elif promise.is_picture:
        says = f"{into} takes {pair.into.name.upper()}, and {out} gives {pair.out.name.upper()}."
    elif promise.worked is not None and rig[pair.out.device].endpoint(pair.out.endpoint).is_gear:
        names = vocabulary().functions
        turned = {one for leg in legs_of(rig[pair.out.device]) for one in leg.functions if _leaves_at(leg, pair.out)}
        rings = f"rings of {together(sorted(names[one].name for one in turned))}"
        says = f"{rig[pair.out.device].name} turns {rings} only, and {into} is of {names[promise.worked].name}."
    else:
        legs = [leg for leg in legs_of(rig[pair.out.device]) if _is_for(leg, promise)]
        spoken = dict.fromkeys(leg.leaves[1] for leg in legs if leg.leaves and _leaves_at(leg, pair.out))
        speaks = together([plain(one) for one in spoken] or [plain(pair.out.name)])
        says = f"{into} speaks {plain(pair.into.name)}, and {out} {speaks}: they do not understand each other."
    return Obstacle(kind="route", device=pair.into.device, says=says)


def _leaves_at(leg: Leg, at: _Reached) -> bool:
    return leg.leaves is not None and leg.leaves[0] == at.endpoint


def ways_out(
    rig: ResolvedRig,
    promise: ControlPromise | PicturePromise,
    pair: Unlike,
    trying: Trying | None,
    kept: Collection[str],
) -> Iterator[str]:
    """Another device of that kind which understands, or a converter, where the promise would then hold."""
    changed, like = pair.into, pair.out
    if not (promise.is_picture or _on_air(rig, pair) or _is_the_point(rig[like.device])) and _is_the_point(
        rig[changed.device]
    ):
        changed, like = like, changed  # rather another driver, module or transmitter than another camera
    placed = rig[changed.device]
    kind = placed.kind_name
    if trying is None or not trying.with_devices([_alike(rig, changed, like)], {*kept, promise.id}):
        yield ASK
    elif _on_air(rig, pair):
        yield f"Bring a {kind} of the family {_air(rig, like)} in the place of {placed.name}."
    elif promise.is_picture:
        out, into = like.name.upper(), changed.name.upper()
        yield f"Bring a {kind} that takes {out} in the place of {placed.name}, or a converter from {out} to {into}."
    else:
        yield f"Bring a {kind} that speaks {plain(like.name)} in the place of {placed.name}."


def _is_the_point(placed: Placed) -> bool:
    """Whether the job was taken on with it: the camera, its lens, the gimbal."""
    profile = placed.profile
    return bool(profile.makes) or profile.lens is not None or profile.carrier is not None


def _reached(rig: ResolvedRig, legs: list[Leg], begun: list[Leg], forward: bool) -> Iterator[_Reached]:
    ahead, seen, hops = begun, set(begun), 0
    while ahead:
        here = []
        for leg in ahead:
            node = leg.leaves if forward else leg.enters
            if node is not None:
                here.append(_Reached(leg.device, *node, hops))
        yield from here
        known = {(at.device, at.endpoint, at.name) for at in here}
        ahead = [
            leg
            for leg in legs
            if leg not in seen and (node := leg.enters if forward else leg.leaves) is not None
            for device, endpoint, name in known
            if device != leg.device and _understood(rig, (leg.device, *node), (device, endpoint, name))
        ]
        ahead, hops = list(dict.fromkeys(ahead)), hops + 1
        seen.update(ahead)


def _role(rig: ResolvedRig, device: str, endpoint: str, name: str) -> Role:
    return rig[device].role(endpoint, name)


def _understood(rig: ResolvedRig, a: tuple[str, str, str], b: tuple[str, str, str]) -> bool:
    one, other = rig[a[0]].endpoint(a[1]), rig[b[0]].endpoint(b[1])
    return one.is_socket == other.is_socket and one.air == other.air and _role(rig, *a).fits(_role(rig, *b))


def _face(rig: ResolvedRig, out: _Reached, into: _Reached) -> bool:
    """Whether one end gives what the other takes, two sockets or two radios, but not of one sort."""
    one, other = rig[out.device].endpoint(out.endpoint), rig[into.device].endpoint(into.endpoint)
    ours, theirs = _role(rig, out.device, out.endpoint, out.name), _role(rig, into.device, into.endpoint, into.name)
    if out.device == into.device or one.is_socket != other.is_socket or not ours.faces(theirs):
        return False
    return not ours.fits(theirs) if one.is_socket else one.air != other.air


def _air(rig: ResolvedRig, at: _Reached) -> str:
    return str(rig[at.device].endpoint(at.endpoint).air)


def _on_air(rig: ResolvedRig, pair: Unlike) -> bool:
    return not rig[pair.out.device].endpoint(pair.out.endpoint).is_socket


def _plugs_in(rig: ResolvedRig, pair: Unlike) -> bool:
    """Whether something in the bag goes into both."""
    if _on_air(rig, pair):
        return False
    sockets = sorted(rig[at.device].port(at.endpoint).connector for at in (pair.out, pair.into))
    kinds = [rig.cables[key] for key, count in rig.stock.items() if count]
    return any(sorted(end.connector for end in kind.ends) == sockets for kind in kinds)


def _alike(rig: ResolvedRig, changed: _Reached, like: _Reached) -> Placed:
    """The device of one end, if that were of the sort of the other."""
    placed, near = rig[changed.device], rig[like.device].endpoint(like.endpoint)
    end, old, new = changed.endpoint, changed.name, like.name
    data = json.loads(placed.profile.model_dump_json())
    for found in (one for one in (*data["ports"], *data["radios"]) if one["id"] == end):
        for role in found["roles"]:
            role.update({key: new for key in ("protocol", "signal") if role.get(key) == old})
        if not near.is_socket:
            found["system"] = near.air
        elif any(role.get("signal") == new for role in found["roles"]):
            # A picture's plug goes with its signal; a lead for control may have two sorts.
            found["connector"] = rig[like.device].port(like.endpoint).connector
    text = json.dumps(data).replace(f'"{end}/{old}"', f'"{end}/{new}"')
    return with_profile(placed, Profile.model_validate_json(text))
