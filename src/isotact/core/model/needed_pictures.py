"""Functions that are worked on a picture, such as tracking: they hold only where that picture is on the screen.

While a rig is planned each such promise stands beside one of the picture that it needs, on no terms of its own: kept
just when the other is, worth nothing by itself.
"""

from isotact.core.model.plan import Route
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.rig import ControlPromise, PicturePromise, Point
from isotact.core.model.variants import with_promises
from isotact.core.model.vocabulary import vocabulary
from isotact.core.model.words import Id, free_id


class NeededPicture(PicturePromise):
    """The picture that another promise is worked on."""

    needed_by: Id


def screen_of(rig: ResolvedRig, promise: ControlPromise | PicturePromise) -> Point | None:
    """The screen on which a picture has to be for a promise to hold; None where it asks for none."""
    return promise.at if isinstance(promise, PicturePromise) else _needed(rig, promise)


def _needed(rig: ResolvedRig, promise: ControlPromise) -> Point | None:
    profile = rig[promise.at.device].profile
    given = [one for one in profile.emits if one.surface == promise.at.surface and promise.function in one.functions]
    on_page = bool(given) and all(one.on_picture for one in given)
    screens = [one.screen for one in profile.shows]
    if not screens or not (on_page or vocabulary().functions[promise.function].on_picture):
        return None
    surface = promise.at.surface if promise.at.surface in screens else screens[0]
    return Point(device=promise.at.device, surface=surface)


def with_needed_pictures(rig: ResolvedRig) -> ResolvedRig:
    """`rig` with a promise of each picture that another promise needs; itself where none does, or they are there."""
    there = {*needing(rig).values()}
    wanted = [
        (promise, at) for promise in rig.rig.controls if (at := _needed(rig, promise)) and promise.id not in there
    ]
    taken = {promise.id for promise in rig.rig.promises}
    more = [_picture(promise, at, free_id(f"{promise.id}-picture", taken)) for promise, at in wanted]
    return with_promises(rig, [*rig.rig.promises, *more]) if more else rig


def _picture(promise: ControlPromise, at: Point, key: str) -> NeededPicture:
    return NeededPicture.model_construct(id=key, who=promise.who, at=at, weight=0, needed_by=promise.id)


def needing(rig: ResolvedRig) -> dict[str, str]:
    """Needed picture -> the promise that needs it."""
    return {one.id: one.needed_by for one in rig.rig.promises if isinstance(one, NeededPicture)}


def merged(routes: list[Route], owner: dict[str, str]) -> list[Route]:
    """Each route with that of the picture on which its promise is worked, where it is worked on one.

    `owner`: needed picture -> the promise that needs it.
    """
    pictures = {owner[route.promise]: route for route in routes if route.promise in owner}
    found = []
    for route in routes:
        picture = pictures.get(route.promise)
        if picture is not None:
            wants = tuple(dict.fromkeys((*route.wants, *picture.wants)))
            found.append(route.model_copy(update={"picture": picture.hops, "wants": wants}))
        elif route.promise not in owner:
            found.append(route)
    return found
