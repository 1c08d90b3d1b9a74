"""A pole's front part against its back part, in the crew's words."""

from collections.abc import Iterator

from isotact.core.telling.phrases import together
from isotact.core.trades.balance.marks_words import mm
from isotact.core.trades.balance.pole import PoleBalance


def pole_says(pole: PoleBalance) -> str:
    """What to do with the holder."""
    mark, now = pole.mark_mm, pole.now_mm
    if now is None:
        return f"Set the {pole.pole.holder} to {mm(mark)} behind the grip."
    if abs(mark - now) < pole.pole.step_mm / 2:
        return f"Leave the {pole.pole.holder} at {mm(mark)}."
    way = "back" if mark > now else "forward"
    return f"Slide the {pole.pole.holder} {mm(abs(mark - now))} {way}, from {mm(now)} to {mm(mark)}."


def pole_beyond(pole: PoleBalance) -> str | None:
    """Which end sinks, and with how much; None where neither does."""
    if not pole.is_beyond:
        return None
    end = "front" if pole.left_g_mm > 0 else "back"
    return f"The {pole.pole.holder} ends too soon: the {end} sinks with {abs(pole.left_nm):.1f} N m."


def pole_cures(pole: PoleBalance) -> Iterator[str]:
    """What brings it into balance: weight, or another place to hold it."""
    if not pole.is_beyond:
        return
    if pole.weight_g is not None:
        yield f"Put {pole.weight_g:.0f} g on the {pole.pole.holder}, at its end."
    way = "front" if pole.hold_mm > 0 else "back"
    yield f"Hold it {mm(5 * round(abs(pole.hold_mm) / 5))} nearer to the {way} than the middle of its grip."


def pole_lines(pole: PoleBalance) -> Iterator[str]:
    """For the card: what to do, what it comes short of, what was taken to be so."""
    yield pole_says(pole)
    if (beyond := pole_beyond(pole)) is not None:
        yield beyond
        yield from pole_cures(pole)
    if (taken := pole_taken(pole)) is not None:
        yield taken


def pole_taken(pole: PoleBalance) -> str | None:
    """What is taken to be at the back, nobody having said so."""
    rig = pole.balance.cage.rig
    unsaid = [rig[key].name for key, at in pole.held.items() if at is None and rig[key].device.sits is None]
    return f"{together(unsaid)} taken to be at the {pole.pole.holder}: nobody said so." if unsaid else None
