"""Where schools differ: what each would give on this rig and for this shot, in numbers, and which one fits.

Each school is tried: the rig is planned under it. The crew decides; what it fixes stands in the rig's `schools`.
"""

from collections.abc import Iterator
from typing import Literal

from isotact.core.calc.moments import residual_torque_nm
from isotact.core.calc.optics import depth_of_field
from isotact.core.calc.radio_paths import margin_db
from isotact.core.model.base import Struct
from isotact.core.model.calculation import Calculation, Given
from isotact.core.model.plan import Plan
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.variants import with_schools
from isotact.core.model.words import Id
from isotact.core.planning.model_access import plan_only
from isotact.core.progress import at
from isotact.core.telling.figures import Figures, figures

SchoolKind = Literal["focus", "port", "chain", "antennas", "motor"]
STEADY_S = 0.4
"""So long a subject has to be in the depth of field for a hand on an endless ring (common practice, no source)."""

SIDEWAYS_MM = 80
"""How far beside the lens axis a motor sits on its rod (common practice, no source)."""

TURNED_DB = 12
"""What an antenna loses when it is turned out of line with the other (common practice, no source)."""


class Option(Struct):
    """One school on this rig. `figures` and `kept` are those of the plan under it, where the plan depends on it."""

    id: str
    name: str
    says: str
    numbers: tuple[Calculation, ...] = ()
    figures: Figures | None = None
    kept: tuple[Id, ...] = ()


class Advice(Struct):
    """One choice between schools."""

    kind: SchoolKind
    question: str
    options: tuple[Option, ...]
    recommends: str
    because: str
    fixed: str
    """What the rig says now; `either` when the crew has not decided."""


def advise(rig: ResolvedRig) -> list[Advice]:
    """Advice on every choice that this rig leaves open, in the order of the work."""
    asked = (_focus, _port, _chain, _antennas, _motor)
    found: list[Advice] = []
    for number, school in enumerate(asked):
        at("Trying what each school would give", number, len(asked))
        found += school(rig)
    return found


def _tried(rig: ResolvedRig, kind: Literal["focus", "port", "chain"], school: str, name: str, says: str) -> Option:
    tried = with_schools(rig, **{kind: school})
    made = plan_only(tried)
    return Option(id=school, name=name, says=says, figures=figures(tried, made), kept=made.kept)


def _better(one: Option, other: Option) -> str | None:
    """Which of two keeps more by weight; None when they keep alike."""
    if one.figures is None or other.figures is None or one.figures.weight == other.figures.weight:
        return None
    return one.id if one.figures.weight > other.figures.weight else other.id


def _focus(rig: ResolvedRig) -> Iterator[Advice]:
    asked = [one for one in rig.rig.promises if one.worked == "focus"]
    if not asked or not any(placed.profile.motor for placed in rig.devices.values()):
        return
    shot = rig.rig.shot
    body = _tried(rig, "focus", "through-body", "through the body", "No motor, no marks: the ring is endless.")
    motor = _tried(rig, "focus", "motor", "a motor on the ring", "Repeats its marks on a ring with stops.")
    walk_mm_s = 1000 * abs(shot.far_m - shot.near_m) / max(shot.walk_s, 0.1)
    depth = depth_of_field(shot.focal_mm, shot.stop, 1000 * shot.near_m)
    inside_s = None if depth.total_mm is None or not walk_mm_s else depth.total_mm / walk_mm_s
    lens = (
        Given(name="focal length", value=shot.focal_mm, unit="mm"),
        Given(name="stop", value=shot.stop),
        Given(name="distance", value=shot.near_m, unit="m"),
    )
    why = (
        f"thin lens, {shot.focal_mm:g} mm at f/{shot.stop:g}, {shot.near_m:g} m, circle 0.025 mm: "
        f"{depth.near_mm / 1000:.2f} m to {'without end' if depth.far_mm is None else f'{depth.far_mm / 1000:.2f} m'}"
    )
    total = "without end" if depth.total_mm is None else f"{depth.total_mm:.0f} mm"
    numbers = [Calculation(name="depth of field at the near end", value=total, why=why, given=lens)]
    if inside_s is not None:
        walked = (
            Given(name="way", value=abs(shot.far_m - shot.near_m), unit="m"),
            Given(name="time", value=shot.walk_s, unit="s"),
        )
        walk = f"{abs(shot.far_m - shot.near_m):g} m in {shot.walk_s:g} s is {walk_mm_s:.0f} mm/s"
        numbers.append(
            Calculation(name="time inside it while walking", value=f"{inside_s:.2f} s", why=walk, given=walked)
        )
    recommends = _better(body, motor)
    if recommends:
        because = "It keeps more of what was promised on this rig."
    elif shot.marks:
        recommends, because = "motor", "Marks have to be hit again, and an endless ring does not repeat them."
    elif inside_s is not None and inside_s < STEADY_S:
        recommends = "motor"
        because = f"The subject is through the depth of field in {inside_s:.2f} s; by wire drops steps when spun fast."
    else:
        recommends, because = "through-body", "A slow walk without marks: the body does it, and nothing has to hang on."
    options = (body.model_copy(update={"numbers": tuple(numbers)}), motor)
    question = "Focus through the body, or by a motor on the ring?"
    yield Advice(
        kind="focus", question=question, options=options, recommends=recommends, because=because,
        fixed=rig.rig.schools.focus,
    )  # fmt: skip


def _port(rig: ResolvedRig) -> Iterator[Advice]:
    """Only where a port is wanted twice: it takes control and power, and the rig has something for either school."""
    twice = any(
        any(role.is_control for role in port.roles)
        and any(role.is_inlet for role in port.roles)
        and port.connector.startswith("usb")
        for placed in rig.devices.values()
        for port in placed.profile.ports
    )
    bays = any(
        port.is_battery_bay and any(role.is_outlet for role in port.roles)
        for placed in rig.devices.values()
        for port in placed.profile.ports
    )
    if not twice or not bays:
        return
    splitter = _tried(rig, "port", "splitter", "splitter", "Light; keeps data and power, but feeds may drop.")
    dummy = _tried(rig, "port", "dummy-battery", "dummy battery", "Robust; wants a regulated feed and a lead.")
    recommends = _better(splitter, dummy)
    because = "It keeps more of what was promised on this rig."
    if recommends is None:
        hours = [one.hours_h for one in rig.rig.lasting]
        if hours:
            recommends = "dummy-battery"
            because = f"{max(hours):g} h were promised: a feed that renegotiates must not end a take."
        else:
            recommends, because = "splitter", "No hours were promised: the lighter one will do."
    yield Advice(
        kind="port", question="One port, two wishes: splitter or dummy battery?", options=(splitter, dummy),
        recommends=recommends, because=because, fixed=rig.rig.schools.port,
    )  # fmt: skip


def _chain(rig: ResolvedRig) -> Iterator[Advice]:
    pictures = rig.rig.pictures
    adds = any(passes.look == "adds" for placed in rig.devices.values() for passes in placed.profile.passes)
    if not adds or not pictures:
        return
    look = _tried(rig, "chain", "look", "look down the line", "Monitor first: everybody sees the look.")
    clean = _tried(rig, "chain", "clean", "clean down the line", "Transmitter first: everybody gets it clean.")
    want = {kind: sum(one.weight for one in pictures if one.look == kind) for kind in ("with", "clean")}
    recommends = _better(look, clean)
    because = "It keeps more of what was promised on this rig."
    if recommends is None and want["with"] != want["clean"]:
        recommends = "look" if want["with"] > want["clean"] else "clean"
        because = f"Promised with the look: weight {want['with']}; clean: weight {want['clean']}."
    if recommends is None:
        shorter = look if _points(look) < _points(clean) else clean
        recommends, because = shorter.id, "Nobody asked for either; this one takes less cable."
    yield Advice(
        kind="chain", question="The look down the line, or clean?", options=(look, clean), recommends=recommends,
        because=because, fixed=rig.rig.schools.chain,
    )  # fmt: skip


def _points(option: Option) -> int:
    return option.figures.points if option.figures else 0


def _antennas(rig: ResolvedRig) -> Iterator[Advice]:
    made = plan_only(rig)
    ranges = list(_claimed(rig, made))
    if not ranges:
        return
    name, claimed_m = min(ranges, key=lambda pair: pair[1])
    needed_m = rig.rig.shot.range_m
    margin = margin_db(claimed_m, needed_m)
    ranges_m = (
        Given(name="claimed", value=claimed_m, unit="m"),
        Given(name="needed", value=needed_m, unit="m"),
    )
    why = f"20 log10({claimed_m:g} m claimed / {needed_m:g} m needed), weakest link: {name}"
    upright = Option(
        id="upright", name="upright and spread", says="Clear of motors and body.",
        numbers=(Calculation(name="margin in the open", value=f"{margin:.1f} dB", why=why, given=ranges_m),),
    )  # fmt: skip
    turned = f"the same less {TURNED_DB} dB for antennas out of line"
    inward = Option(
        id="inward", name="turned inward", says="Only where the HDMI plug would not fit otherwise. Test the range.",
        numbers=(
            Calculation(name="margin in the open", value=f"{margin - TURNED_DB:.1f} dB", why=turned, given=ranges_m),
        ),
    )  # fmt: skip
    because = f"{margin:.1f} dB in the open; bodies, trees and walls take of it, and turning takes {TURNED_DB} dB more."
    yield Advice(
        kind="antennas", question="Antennas upright, or turned inward?", options=(upright, inward),
        recommends="upright", because=because, fixed=rig.rig.schools.antennas,
    )  # fmt: skip


def _claimed(rig: ResolvedRig, made: Plan) -> Iterator[tuple[str, float]]:
    for join in made.joins:
        for end in join.link.ends:
            range_m = rig[end.device].endpoint(end.endpoint).claimed_m
            if range_m:
                yield rig[end.device].name, range_m


def _motor(rig: ResolvedRig) -> Iterator[Advice]:
    motors = [placed for placed in rig.devices.values() if placed.profile.motor and placed.stage == "tilt-cage"]
    if not motors:
        return
    beside = residual_torque_nm([(placed.mass_g, SIDEWAYS_MM) for placed in motors])
    grams = sum(placed.mass_g for placed in motors)
    holds = [
        torque
        for placed in rig.devices.values()
        if placed.profile.carrier and (torque := placed.profile.carrier.torque_of("roll"))
    ]
    share = f", {100 * beside / holds[0]:.0f} % of what the roll motor holds" if holds else ""
    why = f"{grams:g} g of motors {SIDEWAYS_MM} mm beside the lens axis, times standard gravity"
    options = (
        Option(
            id="above", name="above the lens", says="The roll axis stays on the lens.",
            numbers=(Calculation(name="torque on the roll axis", value="0.00 N m", why="on the axis"),),
        ),
        Option(
            id="beside", name="beside the lens", says="Only to counter a body that is heavy on the other side.",
            numbers=(Calculation(name="torque on the roll axis", value=f"{beside:.2f} N m", why=why),),
        ),
    )  # fmt: skip
    because = f"Beside, they pull {beside:.2f} N m to one side{share}, and the horizon rocks."
    yield Advice(
        kind="motor", question="Motors above the lens, or beside it?", options=options, recommends="above",
        because=because, fixed=rig.rig.schools.motor,
    )  # fmt: skip
