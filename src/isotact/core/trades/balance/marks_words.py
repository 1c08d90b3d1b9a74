"""Marks and what is felt, in the crew's words: for the card of a gimbal, the screen and the command line."""

from collections.abc import Iterator

from isotact.core.model.gimbals import Slide, Way
from isotact.core.telling.phrases import together
from isotact.core.trades.balance.marks import Cure, GimbalBalance
from isotact.core.trades.balance.stood import ALONG, things

OTHER_WAY: dict[Way, Way] = {
    "forward": "back", "back": "forward", "right": "left", "left": "right", "up": "down", "down": "up"
}  # fmt: skip
WAYS = ("to the side", "fore and aft", "in height")
"""Each direction, as one is off in it."""
TWICE = 2.0
"""Two standard deviations: nineteen marks in twenty lie within."""


def in_order(balance: GimbalBalance) -> list[Slide]:
    """The slides in the order in which they are set: tilt roughly, roll, height of tilt, tilt finely, then pan."""

    def turn(slide: Slide) -> int:
        if slide.axis == "pan":
            return 4
        if slide.fine:
            return 3
        return {(0, "roll"): 1, (2, "tilt"): 2}.get((slide.along, slide.axis), 0 if slide.axis == "tilt" else 1)

    return sorted(balance.carrier.slides, key=turn)


def mm(value: float) -> str:
    """Millimetres as they are read from a scale."""
    return f"{round(value, 1):g} mm"


def set_words(balance: GimbalBalance, slide: Slide) -> str:
    """What to do with one scale."""
    mark, now, what = balance.marks[slide.id], balance.now.get(slide.id), slide.both or f"the {slide.name}"
    both = " both" if slide.both else ""
    if now is None:
        return f"Set {what}{both} to {mm(mark)}."
    by = mark - now
    if abs(by) < slide.step_mm / 2:
        return f"Leave {what} at {mm(mark)}."
    way = slide.grows if by > 0 else OTHER_WAY[slide.grows]
    return f"Slide {what}{both} {mm(abs(by))} {way}, from {mm(now)} to {mm(mark)}."


def card_lines(balance: GimbalBalance) -> Iterator[str]:
    """The marks for the card of a gimbal: a line for tilt and roll, one for pan, one for how well they are known."""
    marks = [(slide, _mark_words(balance, slide)) for slide in in_order(balance)]
    first = [words for slide, words in marks if slide.axis != "pan"]
    pan = [words for slide, words in marks if slide.axis == "pan"]
    if first:
        yield f"Start at these marks: {', '.join(first)}."
    if pan:
        yield f"Pan, its axis held level: {', '.join(pan)}."
    for slide in balance.beyond:
        yield beyond_words(balance, slide)
    known = max((TWICE * balance.spread_mm(slide) for slide in balance.carrier.slides), default=0.0)
    yield f"Known to {known:.0f} mm at the worst{taken_words(balance)}: then feel it."


def _mark_words(balance: GimbalBalance, slide: Slide) -> str:
    """A mark, and how far that is from where the scale was noted to stand."""
    mark, now = balance.marks[slide.id], balance.now.get(slide.id)
    if now is None or abs(mark - now) < slide.step_mm / 2:
        return f"{slide.name} {mm(mark)}"
    way = slide.grows if mark > now else OTHER_WAY[slide.grows]
    return f"{slide.name} {mm(mark)} ({mm(abs(mark - now))} {way})"


def taken_words(balance: GimbalBalance) -> str:
    """Whose place nobody said, to go on after a statement; nothing where every place is known."""
    rig = balance.cage.rig
    taken = [rig[box.key].name for box in balance.cage.boxes.values() if box.how == "assumed"]
    return f", nobody having said where {together(taken)} {'sits' if len(taken) == 1 else 'sit'}" if taken else ""


def beyond_words(balance: GimbalBalance, slide: Slide) -> str:
    """That a scale ends too soon, by how much, and what is left to the motor."""
    wanted, mark = balance.wanted(slide), balance.marks[slide.id]
    short, left = abs(wanted - mark), balance.left_nm(slide.axis)
    motor = balance.carrier.torque_of(slide.axis)
    of = f" of the {motor:g} N m that its motor holds" if motor else ""
    return f"The {slide.name} ends {mm(short)} too soon: {left:.2f} N m{of} would be left to {slide.axis}."


def cure_words(balance: GimbalBalance, cure: Cure) -> str:
    """One way out, with the marks that it leads to where they change."""
    what = _change_words(balance, cure)
    if cure.first is not None:
        what = f"{_change_words(balance, cure.first)}, and {what[0].lower()}{what[1:]}"
    changed = [slide for slide in in_order(balance) if abs(cure.marks[slide.id] - balance.marks[slide.id]) > 1e-9]
    marks = ", ".join(f"{slide.name} {mm(cure.marks[slide.id])}" for slide in changed)
    return f"{what}{f': {marks}' if marks else ''}."


def _change_words(balance: GimbalBalance, cure: Cure) -> str:
    rig, device = balance.cage.rig, cure.device or ""
    match cure.sort:
        case "hole":
            return f"Screw {rig[device].name} to the hole {mm(abs(cure.amount))} further {cure.where}"
        case "move":
            on = balance.cage.boxes[device].on
            of = rig[on].name if on is not None else "its place"
            return f"Move {rig[device].name} ({cure.amount:.0f} g) to the {cure.where} of {of}"
        case _:
            return f"Put {cure.amount:.0f} g on the {cure.where}"


def feels(balance: GimbalBalance) -> list[str]:
    """What a hand feels at the marks that were noted, axis by axis; nothing where not all of them were."""
    if any(slide.id not in balance.now for slide in balance.carrier.slides):
        return []
    found = []
    for axis in balance.carrier.axes:
        if balance.balancing.torque_nm(axis, balance.now) <= balance.allowed_nm(axis):
            found.append(f"{axis.capitalize()} stays where you leave it.")
            continue
        parts = [_falls(axis, along, balance) for along in (1, 0, 2)]
        words = [part for part in parts if part]
        found.append(f"{axis.capitalize()} {', then '.join(words)}.")
    return found


_FALLS = {
    ("tilt", 1): ("falls forward", "falls back"),
    ("tilt", 2): ("turns over, too heavy above", "swings back to level, too heavy below"),
    ("roll", 0): ("falls to the right", "falls to the left"),
    ("roll", 2): ("turns over, too heavy above", "swings back to level, too heavy below"),
    ("pan", 1): ("swings, its front down, with its axis level", "swings, its back down, with its axis level"),
    ("pan", 0): ("swings to the right with its axis level", "swings to the left with its axis level"),
}


def _falls(axis: str, along: int, balance: GimbalBalance) -> str:
    if (axis, along) not in _FALLS:
        return ""
    moment = balance.balancing.moment_g_mm(axis, along, balance.now)
    if abs(moment) < balance.balancing.turned_g(axis) * 1.0:  # a millimetre of all that it turns is not felt
        return ""
    return _FALLS[axis, along][0 if moment > 0 else 1]


def learned_words(balance: GimbalBalance) -> Iterator[str]:
    """What the builds that were noted have told: how many, what contradicts the rest, what is not told apart."""
    rig, gimbal = balance.cage.rig, balance.cage.gimbal
    stood = [one for one in rig.rig.stood if one.gimbal == gimbal]
    if stood and not balance.centres:
        yield "One build was noted: from two on, the marks are learned from them."
    if not balance.centres:
        return
    reads = max(one.read_mm for one in balance.centres.values())
    yield f"Learned from {len(stood)} builds, each scale read to {reads:g} mm."
    for along, centres in balance.centres.items():
        # Of each direction the builds that say something of it, in the order in which they were noted.
        whose = [number for number, one in enumerate(stood) for read in one.readings if read.along == ALONG[along]]
        odd: dict[int, float] = {}
        for place, off in centres.odd:  # the worst first; tilt and pan both tell of the same
            odd.setdefault(whose[place], off)
        for number, off in odd.items():
            which = stood[number].note or f"build {number + 1}"
            yield f"The marks of {which} contradict the rest by {mm(abs(off))} {WAYS[along]}: read them again."
    names = {name: rig[key].name for key, name in things(balance.cage).items()}
    untold = {name for one in balance.centres.values() for key in one.untold if (name := names.get(key))}
    if len(untold) > 1:
        yield f"These builds do not tell {together(sorted(untold))} apart: their sum is known, not each centre."
