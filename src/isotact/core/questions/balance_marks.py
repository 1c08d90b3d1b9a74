"""Balance of a plan: where each scale has to stand, in which order, what is left, and what cures what goes too far."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Literal, get_args

from isotact.core.calc.moments import GRAVITY_M_S2, Mass, Place
from isotact.core.model.calculation import Calculation, Given
from isotact.core.model.gimbals import Axis, Slide
from isotact.core.model.plan import Plan
from isotact.core.model.resolved import ResolvedRig
from isotact.core.questions.balance_answers import (
    Attitude,
    AxisRow,
    BalanceAnswer,
    CureRow,
    GimbalMarks,
    Item,
    MarkRow,
    three,
)
from isotact.core.questions.balance_leads import led_leads, pull_on
from isotact.core.questions.balance_pole import pole_row
from isotact.core.telling.phrases import together
from isotact.core.trades import Planned
from isotact.core.trades.balance.conditions import HEAVY_G
from isotact.core.trades.balance.marks import GimbalBalance, balance_of
from isotact.core.trades.balance.marks_words import (
    OTHER_WAY,
    TWICE,
    beyond_words,
    cure_words,
    feels,
    in_order,
    learned_words,
    mm,
    set_words,
)
from isotact.core.trades.balance.places import How
from isotact.core.trades.balance.stood import readings_now

ALONG: tuple[Literal["right", "forward", "up"], ...] = ("right", "forward", "up")


def balance_marks(rig: ResolvedRig, plan: Plan) -> BalanceAnswer:
    """Every gimbal in use, with the marks of its scales."""
    planned = Planned(rig, plan)
    gimbals = [device for device in planned.in_use if rig[device].profile.carrier is not None]
    found = tuple(_gimbal(planned, device) for device in gimbals)
    if not found:
        return BalanceAnswer(says="No gimbal is in use: nothing to balance.", gimbals=())
    return BalanceAnswer(says=found[0].says, gimbals=found)


def _gimbal(planned: Planned, gimbal: str) -> GimbalMarks:
    rig, balance = planned.rig, balance_of(planned, gimbal)
    payload_g = rig.payload_g(planned.in_use, (join.link for join in planned.joins))
    name = rig[gimbal].name
    if balance is None:
        says = f"The profile of {name} does not say what slides on it: balance it by feel, or add its slides there."
        return GimbalMarks(
            gimbal=gimbal, name=name, says=says, known=False, balanced=False, payload_g=round(payload_g, 1)
        )
    marks = tuple(_mark(balance, slide) for slide in in_order(balance))
    leads = [*led_leads(planned)]
    axes = tuple(_axis(balance, axis, pull_on(axis, leads)) for axis in balance.carrier.axes)
    items = tuple(_items(balance))
    boxes = balance.cage.boxes.values()
    return GimbalMarks(
        gimbal=gimbal,
        name=name,
        says=_says(balance),
        known=True,
        balanced=all(axis.holds for axis in axes),
        payload_g=round(payload_g, 1),
        marks=marks,
        pole=pole_row(balance),
        axes=axes,
        items=items,
        leads=tuple(lead for _, lead in leads),
        centre=three(_centre(balance)),
        pan_forward_mm=round(-_arm_mm(balance), 1),
        feels=tuple(feels(balance)),
        cures=tuple(
            CureRow(sort=cure.sort, device=cure.device, says=cure_words(balance, cure)) for cure in balance.cures()
        ),
        attitudes=tuple(_attitudes(balance)),
        assumed=tuple(box.key for box in boxes if box.how == "assumed"),
        remarks=(*_remarks(balance, payload_g), *_pulls(axes)),
        readings=tuple(readings_now(balance.cage, balance.raw)),
        learned=tuple(learned_words(balance)),
    )


def _says(balance: GimbalBalance) -> str:
    if balance.beyond:
        short = together([slide.name for slide in balance.beyond])
        return f"It does not balance as it is built: too little travel at the {short}."
    unheld = [axis for axis in balance.carrier.axes if not balance.holds(axis)]
    if unheld:
        return f"{together(list(unheld)).capitalize()} cannot be brought into balance by what slides."
    to_go = [slide for slide in balance.carrier.slides if _by(balance, slide)]
    if len(balance.now) == len(balance.carrier.slides):
        return "It stands as it should." if not to_go else f"{len(to_go)} of {len(balance.marks)} scales have to move."
    return "Set the scales to these marks, in this order."


def _by(balance: GimbalBalance, slide: Slide) -> float | None:
    now = balance.now.get(slide.id)
    if now is None:
        return None
    by = balance.marks[slide.id] - now
    return by if abs(by) >= slide.step_mm / 2 else 0.0


def _mark(balance: GimbalBalance, slide: Slide) -> MarkRow:
    by, sliding = _by(balance, slide), balance.sliding(slide)
    moved_g = balance.balancing.sliding_g(sliding)
    still = balance.balancing.moment_g_mm(slide.axis, slide.along, {**balance.marks, slide.id: slide.zero_mm})
    wanted = balance.wanted(slide)
    why = Calculation(
        name=f"mark of the {slide.name}",
        value=mm(balance.marks[slide.id]),
        why=f"{slide.zero_mm:g} mm − ({still / 1000:.1f} kg mm ÷ {moved_g / 1000:.2f} kg) × {sliding.sign:+d} "
        f"= {wanted:.1f} mm, to the nearest {slide.step_mm:g} mm of its travel",
        given=(
            Given(name="zero of its scale", value=slide.zero_mm, unit="mm"),
            Given(name="moment without it", value=round(still, 1), unit="g mm"),
            Given(name="what slides", value=round(moved_g, 1), unit="g"),
        ),
        also=(f"Known to {TWICE * balance.spread_mm(slide):.0f} mm, nineteen times in twenty.",),
    )
    return MarkRow(
        slide=slide.id,
        name=slide.name,
        both=slide.both,
        axis=slide.axis,
        along=ALONG[slide.along],
        grows=slide.grows,
        from_mm=slide.from_mm,
        to_mm=slide.to_mm,
        step_mm=slide.step_mm,
        mark_mm=round(balance.marks[slide.id], 3),
        now_mm=balance.now.get(slide.id),
        wanted_mm=round(wanted, 1),
        within_mm=round(TWICE * balance.spread_mm(slide), 1),
        by_mm=None if by is None else round(by, 3),
        way=None if not by else slide.grows if by > 0 else OTHER_WAY[slide.grows],
        says=set_words(balance, slide),
        beyond=beyond_words(balance, slide) if balance.is_beyond(slide) else None,
        why=why,
    )


def _axis(balance: GimbalBalance, axis: Axis, pull_nm: float) -> AxisRow:
    left, allowed, motor = balance.left_nm(axis), balance.allowed_nm(axis), balance.carrier.torque_of(axis)
    share = f", {100 * left / motor:.0f} % of what its motor holds" if motor else "; what its motor holds nobody said"
    pulls = f"; leads across it may pull {pull_nm:.2f} more" if pull_nm >= SEEN_NM else ""
    return AxisRow(
        axis=axis,
        left_nm=round(left, 4),
        allowed_nm=round(allowed, 4),
        motor_nm=motor,
        holds=balance.holds(axis),
        pull_nm=round(pull_nm, 4),
        inertia_kg_m2=round(balance.balancing.inertia_kg_m2(axis, balance.marks), 5),
        says=f"{left:.2f} N m left to {axis}{share}{pulls}.",
    )


SEEN_NM = 0.005
"""What leads pull less than this is not said: it would read as nought."""


def _pulls(axes: tuple[AxisRow, ...]) -> Iterator[str]:
    """The axes of which leads may take all that a balanced one has left: on a light rig they are felt."""
    those = [one for one in axes if one.holds and one.left_nm + one.pull_nm > one.allowed_nm]
    if those:
        most = max(one.pull_nm for one in those)
        axes_words = together([one.axis for one in those])
        yield (
            f"Leads may pull as much as {axes_words} can be off, {most:.2f} N m by a rule of thumb: balance with them "
            "plugged, their loops wide and loose, thin leads before thick ones."
        )


def _arm_mm(balance: GimbalBalance) -> float:
    """How far forwards all that roll turns has been slid along the pan arm."""
    return sum(
        one.sign * (balance.marks[one.key] - one.zero)
        for one in balance.balancing.slides
        if (one.axis, one.along) == ("pan", 1)
    )


def _at_tilt(balance: GimbalBalance) -> Iterator[tuple[Mass, Place]]:
    """Each mass that tilt turns, and where it is with the scales at their marks."""
    for mass in balance.balancing.masses:
        if mass.rides in balance.balancing.carried["tilt"]:
            yield mass, _moved(balance, mass.rides, mass.at_mm)


def _centre(balance: GimbalBalance) -> Place:
    """Of all that tilt turns, with the scales at their marks; at the crossing of the axes where there is nothing."""
    turned_g = balance.balancing.turned_g("tilt")
    right, forward, up = (
        sum(mass.mass_g * at[along] for mass, at in _at_tilt(balance)) / turned_g if turned_g else 0.0
        for along in range(3)
    )
    return right, forward, up


def _moved(balance: GimbalBalance, rides: str, at: Place) -> Place:
    """Where something is with the scales at their marks, from the crossing of tilt and roll."""
    shifted = [one + balance.balancing.shift_mm(rides, along, "roll", balance.marks) for along, one in enumerate(at)]
    if rides == "pan-base":
        shifted[1] -= _arm_mm(balance)
    return shifted[0], shifted[1], shifted[2]


def _items(balance: GimbalBalance) -> Iterator[Item]:
    boxes = balance.cage.boxes
    for mass in balance.balancing.masses:
        box = boxes.get(mass.key)
        name, how = _named(balance, mass)
        centre = _moved(balance, mass.rides, mass.at_mm)
        right, forward, up = centre
        newton = GRAVITY_M_S2 * mass.mass_g / 1e6
        yield Item(
            key=mass.key,
            name=name,
            mass_g=mass.mass_g,
            how=how,
            rides=mass.rides,
            on=box.on if box is not None else None,
            middle=three(_moved(balance, mass.rides, box.middle) if box is not None else centre),
            size=three(box.size if box is not None else (0.0, 0.0, 0.0)),
            centre=three(centre),
            spread=three(mass.spread_mm),
            moments_nm=three((newton * right, newton * forward, newton * up), 4),
            says=f"{mass.mass_g:.0f} g, its weight {_place_words(centre)} the crossing of the axes: "
            f"{abs(newton * forward):.2f} N m on tilt, {abs(newton * right):.2f} N m on roll.",
        )


def _named(balance: GimbalBalance, mass: Mass) -> tuple[str, How]:
    """What a mass is called, and by what its place is known."""
    cage = balance.cage
    if mass.key in cage.boxes:
        return cage.rig[mass.key].name, cage.boxes[mass.key].how
    if mass.key in {part.name for part in balance.carrier.parts}:
        return mass.key, "part"
    held = next((one for one in cage.held if one.mass.key == mass.key), None)
    return (held.part.name, "fixing") if held is not None else (f"lead {mass.key}", "lead")


def _place_words(at: Place) -> str:
    right, forward, up = at
    along = ((forward, "in front of", "behind"), (right, "right of", "left of"), (up, "above", "below"))
    words = [f"{abs(value):.0f} mm {more if value > 0 else less}" for value, more, less in along if abs(value) >= 1]
    return together(words) if words else "at"


def _attitudes(balance: GimbalBalance) -> Iterator[Attitude]:
    """Upright and underslung ask the same of tilt and roll; held low at the side, weight turns pan as well."""
    yield Attitude(id="upright", name="upright", says="These marks of tilt and roll. Weight does not turn pan.")
    says = "The same marks: tilt and roll stay balanced upside down. Look at the screen and at the leads."
    yield Attitude(id="underslung", name="underslung", says=says)
    if "pan" not in balance.carrier.axes:
        return
    left = balance.left_nm("pan")
    slide = next((one for one in balance.carrier.slides if one.axis == "pan"), None)
    mark = f"the {slide.name} at {mm(balance.marks[slide.id])} counts now" if slide else "nothing slides it"
    yield Attitude(
        id="low",
        name="low at the side",
        says=f"Its axis lies nearly level, and weight turns pan: {mark}; {left:.2f} N m are left to it.",
    )


def _remarks(balance: GimbalBalance, payload_g: float) -> Iterator[str]:
    rig, carrier = balance.cage.rig, balance.carrier
    if payload_g > carrier.max_payload_g:
        over = (payload_g - carrier.max_payload_g) / 1000
        yield f"It is {over:.2f} kg over what it carries: take weight off before anything else."
    if payload_g < carrier.min_payload_g:
        under = (carrier.min_payload_g - payload_g) / 1000
        yield f"It is {under:.2f} kg under what it wants: a heavier plate brings its scales to the middle."
    taken = [rig[box.key].name for box in balance.cage.boxes.values() if box.how == "assumed"]
    if taken:
        yield f"Nobody said where {together(taken)} {'sits' if len(taken) == 1 else 'sit'}: say so, or feel for it."
    odd = [rig[box.key].name for box in balance.cage.boxes.values() if rig[box.key].profile.size_mm is None]
    if odd:
        yield f"Nobody knows the size of {together(odd)}: taken for a small body."
    unmoved = [axis for axis in get_args(Axis) if axis not in carrier.axes]
    if unmoved:
        yield f"It has no {together(unmoved)} axis."
    if not rig.part_bag.known and any(rig[key].profile.fixed_by for key in balance.cage.boxes):
        yield "Nobody said which small parts lie in the bag: rods, plates, arms and screws are not weighed here."
    if payload_g >= HEAVY_G:
        yield "Two people: one holds the cage while the other slides. Motors off, axes free, hands clear of the arms."
    else:
        yield "Motors off while hands are in the cage; free axes swing and pinch."
