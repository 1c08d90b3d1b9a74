"""What is known of feeds before anything is chosen: who gives, who takes, whether it can run from it, how much."""

from collections.abc import Iterable
from dataclasses import dataclass

from isotact.core.model.plan import LinkEnd
from isotact.core.model.power_role import PowerRole
from isotact.core.model.resolved import Placed, ResolvedRig
from isotact.core.planning.ways.candidates import Span
from isotact.core.world.circuit import Limits, limits_of

# No limit at all, for the solver's whole numbers: more than any set draws.
MOST_W = 100_000.0


def is_power(span: Span) -> bool:
    """Whether a span carries power."""
    return span.use.is_power


def power_ends(rig: ResolvedRig, span: Span) -> tuple[str, PowerRole, str, PowerRole]:
    """The giving device and its outlet, the taking device and its inlet."""
    role_a = rig[span.a.device].power_role(span.a.endpoint, span.use.role_a)
    role_b = rig[span.b.device].power_role(span.b.endpoint, span.use.role_b)
    if role_a.gives:
        return span.a.device, role_a, span.b.device, role_b
    return span.b.device, role_b, span.a.device, role_a


@dataclass(frozen=True, eq=False)
class FeedSpan:
    """A power span by which a device could be fed, and what each of its links can carry."""

    span: Span
    giver: str
    outlet: PowerRole
    taker: str
    inlet: PowerRole
    at: LinkEnd
    by_link: dict[str, Limits]

    @property
    def usual(self) -> Limits:
        return next(iter(self.by_link.values()))


def feeds_among(rig: ResolvedRig, spans: Iterable[Span]) -> dict[str, FeedSpan]:
    """The feeds among `spans`, by their keys."""
    return {span.key: _feed(rig, span) for span in spans if is_power(span) and is_feed(rig, span)}


def _feed(rig: ResolvedRig, span: Span) -> FeedSpan:
    giver, outlet, taker, inlet = power_ends(rig, span)
    at = span.a if span.a.device == taker else span.b
    by_link = {link.id: limits_of(rig, outlet, at, inlet, link.stock) for link in span.links}
    return FeedSpan(span, giver, outlet, taker, inlet, at, by_link)


def is_feed(rig: ResolvedRig, span: Span) -> bool:
    """Whether the taker of a power span could run from it: the rest only charges, or nothing."""
    giver, _, taker, inlet = power_ends(rig, span)
    return rig[taker].profile.power is not None and rig[giver].profile.power is not None and can_feed(rig, taker, inlet)


def can_feed(rig: ResolvedRig, taker: str, inlet: PowerRole) -> bool:
    """Whether `taker` can run from `inlet` at all.

    A device without a battery of its own cannot open its menu to let the feed in that would wake it, nor start for what
    takes effect at a start only.
    """
    placed = rig[taker]
    if inlet.feeds == "charge":
        return False
    if rig.runs_alone(taker):
        return True
    asked = [placed.profile.setting(key) for key in inlet.when.settings]
    locked = [one.id for one in asked if one.needs_awake or one.takes_effect == "at-boot"]
    return all(placed.setting_now(key) in inlet.when.allowed(key) for key in locked)


def milliwatts(watts: float) -> int:
    """Whole milliwatts, rounded down as limits are; where nothing limits, more than any rig draws."""
    return int(1000 * min(watts, MOST_W))


def draw_mw(placed: Placed) -> int:
    """What a device draws itself, in whole milliwatts."""
    return round(1000 * placed.profile.power.draw_w) if placed.profile.power else 0


def peak_mw(placed: Placed) -> int:
    """What a device draws for a moment, in whole milliwatts."""
    return round(1000 * placed.profile.power.moment_w) if placed.profile.power else 0


def stall_mw(placed: Placed) -> int:
    """What a device draws on top of that while it is held, in whole milliwatts."""
    return round(1000 * placed.profile.power.stalling_w) if placed.profile.power else 0
