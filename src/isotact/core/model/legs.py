"""What goes on inside a device: legs from one of its ends to another, for functions and for pictures."""

from collections.abc import Iterable, Iterator
from dataclasses import dataclass, replace

from isotact.core.model.base_role import When
from isotact.core.model.memo import once
from isotact.core.model.profile import Profile
from isotact.core.model.resolved import Placed
from isotact.core.model.rig import ControlPromise, PicturePromise

Node = tuple[str, str]
"""An endpoint of a device and the role it takes there."""


_PICTURE = frozenset(("picture",))


@dataclass(frozen=True, eq=False)
class Leg:
    """A way through one device. Each is itself: two are never equal.

    `enters` is None where a signal starts (at `surface`, or as the camera's picture), `leaves` is
    None where it ends (carried out, or shown on `surface`).
    """

    device: str
    kind: str
    enters: Node | None
    leaves: Node | None
    whens: tuple[When, ...]
    functions: frozenset[str] = frozenset()
    surface: str | None = None
    delay_ms: float = 0
    look: str = "keeps"

    @property
    def passing(self) -> frozenset[str]:
        """What goes through: functions, or the picture by this word."""
        return self.functions or _PICTURE

    @property
    def is_picture(self) -> bool:
        """Whether it is a picture that goes through."""
        return self.kind in ("makes", "passes", "shows", "own-picture")

    @property
    def starts_picture(self) -> bool:
        """Whether the camera's picture starts here."""
        return self.kind in ("makes", "own-picture")

    @property
    def starts_outside(self) -> bool:
        """Whether a function is sent out from a surface here."""
        return self.enters is None and self.leaves is not None

    @property
    def is_own(self) -> bool:
        """Whether a function is worked here from the device's own surface."""
        return self.kind == "own"

    @property
    def is_taken(self) -> bool:
        """Whether a function from outside is carried out here."""
        return self.enters is not None and self.leaves is None and bool(self.functions)

    @property
    def ends_picture(self) -> bool:
        """Whether a picture is shown here."""
        return self.kind in ("shows", "own-picture")


def legs_of(placed: Placed) -> Iterator[Leg]:
    """Every leg that the profile of `placed` has, whatever its present state."""
    for leg in once(placed.profile, _legs):
        yield replace(leg, device=placed.id)


def _legs(profile: Profile) -> list[Leg]:
    """The legs of a profile, of no device yet."""
    # What asks for nothing is asked for at every look at every world: it is left out.
    legs = (*_function_legs(profile), *_picture_legs(profile))
    return [replace(leg, whens=tuple(when for when in leg.whens if when != When())) for leg in legs]


def _function_legs(profile: Profile) -> Iterator[Leg]:
    for emits in profile.emits:
        node, whens = _node(profile, emits.over, "control", "bus")
        functions = frozenset(emits.functions)
        yield Leg("", "emits", None, node, (emits.when, *whens), functions, emits.surface)
    for accepts in profile.accepts:
        functions = frozenset(accepts.functions)
        if accepts.over is None:
            yield Leg("", "own", None, None, (accepts.when,), functions, accepts.surface)
            continue
        node, whens = _node(profile, accepts.over, "control", "bus")
        yield Leg("", "accepts", node, None, (accepts.when, *whens), functions)
    for relays in profile.relays:
        enters, whens_in = _node(profile, relays.over, "control", "bus")
        leaves, whens_out = _node(profile, relays.to, "control", "bus")
        whens = (relays.when, *whens_in, *whens_out)
        yield Leg("", "relays", enters, leaves, whens, frozenset(relays.functions), delay_ms=relays.delay_ms)


def _picture_legs(profile: Profile) -> Iterator[Leg]:
    for makes in profile.makes:
        node, whens = _node(profile, makes.over, "video")
        look = "adds" if makes.look else "strips"
        yield Leg("", "makes", None, node, (makes.when, *whens), delay_ms=makes.delay_ms, look=look)
    for passes in profile.passes:
        enters, whens_in = _node(profile, passes.over, "video")
        leaves, whens_out = _node(profile, passes.to, "video")
        whens = (passes.when, *whens_in, *whens_out)
        yield Leg("", "passes", enters, leaves, whens, delay_ms=passes.delay_ms, look=passes.look)
    for shows in profile.shows:
        if shows.over is None:
            yield Leg("", "own-picture", None, None, (shows.when,), surface=shows.screen, delay_ms=shows.delay_ms)
            continue
        node, whens = _node(profile, shows.over, "video")
        shown = (shows.when, *whens)
        yield Leg("", "shows", node, None, shown, surface=shows.screen, delay_ms=shows.delay_ms, look=shows.look)


def _node(profile: Profile, ref: str, *kinds: str) -> tuple[Node, tuple[When, ...]]:
    found = profile.role(ref, *kinds)
    if found is None:
        raise LookupError(f"{profile.id}: '{ref}' names no single role")
    end, role = found
    whens = tuple(when for when in (role.when, *end.gates) if when != When())
    return (end.id, role.name), whens


def look_after(legs: Iterable[Leg]) -> bool:
    """Whether a picture that has gone through `legs` carries the look."""
    look = False
    for leg in legs:
        look = leg.look == "adds" or (look and leg.look == "keeps")
    return look


def starts(leg: Leg, promise: ControlPromise | PicturePromise) -> bool:
    """Whether a way of `promise` can begin with `leg`: a function at its surface, a picture at any camera."""
    if isinstance(promise, PicturePromise):
        return leg.starts_picture and promise.of in (None, leg.device)
    at_surface = (leg.device, leg.surface) == (promise.at.device, promise.at.surface)
    return leg.enters is None and at_surface and promise.function in leg.functions


def ends(leg: Leg, promise: ControlPromise | PicturePromise) -> bool:
    """Whether a way of `promise` can end with `leg`: a picture on its screen, a function where it is carried out."""
    if isinstance(promise, PicturePromise):
        return leg.ends_picture and (leg.device, leg.surface) == (promise.at.device, promise.at.surface)
    return leg.leaves is None and promise.function in leg.functions and promise.to in (None, leg.device)
