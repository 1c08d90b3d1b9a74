"""What is known of feeds before anything is chosen: who gives, who takes, whether it can run from it, how much."""

from isotact.core.model.plan import Link
from isotact.core.model.ports import PowerRole
from isotact.core.model.resolved import Placed, ResolvedRig
from isotact.core.wiring.candidates import Span


def is_power(span: Span) -> bool:
    """Whether a span carries power."""
    return span.use.kind == "power"


def power_ends(rig: ResolvedRig, span: Span) -> tuple[str, PowerRole, str, PowerRole]:
    """The giving device and its outlet, the taking device and its inlet."""
    role_a = rig[span.a.device].role(span.a.endpoint, span.use.role_a)
    role_b = rig[span.b.device].role(span.b.endpoint, span.use.role_b)
    if not isinstance(role_a, PowerRole) or not isinstance(role_b, PowerRole):
        raise LookupError(f"{span.key} is no feed")
    if span.use.flow == "a-to-b":
        return span.a.device, role_a, span.b.device, role_b
    return span.b.device, role_b, span.a.device, role_a


def is_feed(rig: ResolvedRig, span: Span) -> bool:
    """Whether the taker of a power span could run from it: the rest only charges, or nothing."""
    giver, _, taker, inlet = power_ends(rig, span)
    return rig[taker].profile.power is not None and rig[giver].profile.power is not None and can_feed(rig, taker, inlet)


def can_feed(rig: ResolvedRig, taker: str, inlet: PowerRole) -> bool:
    """Whether `taker` can run from `inlet` at all.

    A device without a battery of its own cannot open its menu to let the feed in that would wake it.
    """
    placed = rig[taker]
    if inlet.feeds == "charge":
        return False
    if rig.runs_alone(taker):
        return True
    locked = [key for key in inlet.when.settings if placed.profile.setting(key).needs_awake]
    return all(placed.setting_now(key) in inlet.when.allowed(key) for key in locked)


def limit_mw(rig: ResolvedRig, span: Span, link: Link) -> int:
    """The most that a feed carries: the smallest of the outlet's, inlet's and cable's amps, at the outlet's volts."""
    _, outlet, _, inlet = power_ends(rig, span)
    amps = [role.max_a for role in (outlet, inlet) if role.max_a is not None]
    for key in (link.cable, link.adapter):
        if key:
            amps += [c.max_a for c in rig.cables[key].carries if c.medium == "power" and c.max_a is not None]
    return int(1000 * outlet.min_v * min(amps))


def draw_mw(placed: Placed) -> int:
    """What a device draws itself, in whole milliwatts."""
    return round(1000 * placed.profile.power.draw_w) if placed.profile.power else 0
