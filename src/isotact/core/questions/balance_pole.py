"""A pole on the screen: its front part against its back part."""

from math import isfinite

from isotact.core.model.calculation import Calculation, Given
from isotact.core.model.gimbals import POLE_SCALE
from isotact.core.questions.balance_answers import PoleRow
from isotact.core.trades.balance.marks import GimbalBalance
from isotact.core.trades.balance.marks_words import TWICE, mm
from isotact.core.trades.balance.pole import PoleBalance, pole_of
from isotact.core.trades.balance.pole_words import pole_beyond, pole_cures, pole_says, pole_taken


def pole_row(balance: GimbalBalance) -> PoleRow | None:
    """The pole that a gimbal sits at the front of; None where there is none."""
    found = pole_of(balance)
    return None if found is None else _row(found)


def _row(found: PoleBalance) -> PoleRow:
    pole, wanted = found.pole, found.wanted_mm if isfinite(found.wanted_mm) else None
    return PoleRow(
        device=found.device.id,
        name=found.device.name,
        holder=pole.holder,
        slide=POLE_SCALE,
        from_mm=pole.from_mm,
        to_mm=pole.to_mm,
        step_mm=pole.step_mm,
        front_mm=pole.front_mm,
        front_g=round(found.front_g, 1),
        back_g=round(found.back_g, 1),
        mark_mm=found.mark_mm,
        now_mm=found.now_mm,
        wanted_mm=None if wanted is None else round(wanted, 1),
        within_mm=round(TWICE * found.within_mm, 1),
        left_nm=round(found.left_nm, 3),
        says=pole_says(found),
        beyond=pole_beyond(found),
        cures=tuple(pole_cures(found)),
        assumed=pole_taken(found),
        why=_why(found),
    )


def _why(found: PoleBalance) -> Calculation:
    moment = sum(grams * at for grams, at in found.weights) / 1000
    asks = f"{moment:.0f} kg mm ÷ {found.back_g / 1000:.2f} kg" if found.back_g else f"{moment:.0f} kg mm, no weight"
    return Calculation(
        name=f"mark of the {found.pole.holder}",
        value=mm(found.mark_mm),
        why=f"{asks}, to the nearest {found.pole.step_mm:g} mm of its travel",
        given=(
            Given(name="gimbal with all that it carries", value=round(found.front_g, 1), unit="g"),
            Given(name="grip to pan axis", value=found.pole.front_mm, unit="mm"),
            Given(name="the pole's own weight", value=round(found.weights[1][0], 1), unit="g"),
            Given(name="where that sits, forwards", value=found.pole.centre_mm, unit="mm"),
            Given(name="at the back", value=round(found.back_g, 1), unit="g"),
        ),
        also=(f"Known to {TWICE * found.within_mm:.0f} mm, nineteen times in twenty.",),
    )
