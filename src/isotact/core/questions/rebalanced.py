"""What a change does to balance, before anything is touched: new marks, what leaves its travel, how long it takes."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from typing import Self

from pydantic import Field, model_validator

from isotact.core.model.base import Struct
from isotact.core.model.gimbals import Carrier
from isotact.core.model.places import Fraction, Side
from isotact.core.model.plan import Plan
from isotact.core.model.problems import NotFoundError
from isotact.core.model.profile import Profile
from isotact.core.model.resolved import Placed, ResolvedRig
from isotact.core.model.rig import Device
from isotact.core.model.units import Grams
from isotact.core.model.words import Id, Name, Stage
from isotact.core.questions.balance_answers import CureRow, MarkMove, Rebalanced
from isotact.core.telling.phrases import together
from isotact.core.trades import Planned
from isotact.core.trades.balance.conditions import HEAVY_G, balancing_s
from isotact.core.trades.balance.marks import GimbalBalance, balance_of
from isotact.core.trades.balance.marks_words import OTHER_WAY, beyond_words, cure_words, in_order, mm
from isotact.core.trades.balance.trying import Extra, touched_by, tried


class PutOn(Struct):
    """Something to be tried on a gimbal: of a profile, or so many grams of something.

    `instead_of`: whose place it takes; else on a side of `on`, of what is on the plate where nothing is said.
    Invariant: a profile or a weight is given.
    """

    profile: Id | None = None
    name: Name | None = None
    mass_g: Grams | None = None
    on: Id | None = None
    side: Side = "top"
    from_left: Fraction = 0.5
    from_top: Fraction = 0.5
    instead_of: Id | None = None

    @model_validator(mode="after")
    def _weighs_something(self) -> Self:
        if self.profile is None and self.mass_g is None:
            raise ValueError("found neither profile nor mass_g; expected one, or both where it was weighed")
        return self


class BalanceTry(Struct):
    """What is to be tried: what comes off, and what goes on."""

    gimbal: Id
    off: tuple[Id, ...] = Field(default=(), max_length=40)
    on: tuple[PutOn, ...] = Field(default=(), max_length=20)


def try_balance(rig: ResolvedRig, plan: Plan, profiles: Mapping[str, Profile], attempt: BalanceTry) -> Rebalanced:
    """What the marks of a gimbal would become. Raises NotFoundError for what is not there."""
    planned = Planned(rig, plan)
    known = [device for device in planned.in_use if balance_of(planned, device) is not None]
    if attempt.gimbal not in known:
        raise NotFoundError("gimbal in use whose scales are known", attempt.gimbal, known)
    before = balance_of(planned, attempt.gimbal)
    assert before is not None  # it is among the known ones
    extras = [_extra(rig, profiles, one) for one in attempt.on]
    try:
        after = tried(before, attempt.off, extras)
    except LookupError as error:
        raise NotFoundError("device on this gimbal", str(error.args[0]), before.cage.boxes) from error
    payload_g = rig.payload_g(planned.in_use, (join.link for join in planned.joins))
    gone = {*attempt.off, *(one.instead_of for one in attempt.on if one.instead_of)}
    then_g = payload_g + after.raw.turned_g("tilt") - before.raw.turned_g("tilt")
    return rebalanced(before, after, (payload_g, then_g), touched_by(before, gone))


def _extra(rig: ResolvedRig, profiles: Mapping[str, Profile], one: PutOn) -> Extra:
    if one.profile is not None and one.profile not in profiles:
        raise NotFoundError("profile", one.profile, profiles)
    if one.profile is not None:
        profile = profiles[one.profile]
    elif (
        one.instead_of is not None and one.instead_of in rig.devices
    ):  # of nothing but its weight: as large as what it takes the place of
        profile = rig[one.instead_of].profile
    else:
        profile = _weight(one)
    device = Device(id="extra", profile=profile.id, name=one.name, mass_g=one.mass_g)
    placed = Placed(device, profile, rig.rig.energy)
    return Extra(placed, one.on, one.side, (one.from_left, one.from_top), one.instead_of)


def _weight(one: PutOn) -> Profile:
    """So many grams of something of which nothing else is known."""
    name = one.name or "something"
    return Profile(
        format="isotact/profile",
        version=1,
        id="weight",
        name=name,
        kind="plate",
        summary=name,
        mass_g=one.mass_g or 0,
        stage=Stage.TILT_CAGE,
    )


def rebalanced(
    before: GimbalBalance, after: GimbalBalance, payloads_g: tuple[float, float], touched: list[str]
) -> Rebalanced:
    """What became of a gimbal's marks. `payloads_g`: in its cage, before and then."""
    rig, gimbal = before.cage.rig, before.cage.gimbal
    moves = tuple(_moves(before, after))
    then_g = payloads_g[1]
    takes_s = balancing_s(then_g) if moves or after.beyond else 0
    return Rebalanced(
        gimbal=gimbal,
        name=rig[gimbal].name,
        says=_says(after, moves, takes_s),
        moves=moves,
        beyond=tuple(beyond_words(after, slide) for slide in after.beyond),
        cures=tuple(
            CureRow(sort=cure.sort, device=cure.device, says=cure_words(after, cure)) for cure in after.cures()
        ),
        takes_s=takes_s,
        payload_g=round(then_g, 1),
        remarks=tuple(_remarks(after.carrier, rig, payloads_g, touched)),
    )


def _moves(before: GimbalBalance, after: GimbalBalance) -> Iterator[MarkMove]:
    """Each scale that has to move, from where it stands, or would have to stand now where nobody noted that."""
    for slide in in_order(after):
        was, then = before.now.get(slide.id, before.marks[slide.id]), after.marks[slide.id]
        by = then - was
        if abs(by) < slide.step_mm / 2:
            continue
        way = slide.grows if by > 0 else OTHER_WAY[slide.grows]
        what = slide.both or slide.name
        yield MarkMove(
            slide=slide.id,
            name=slide.name,
            from_mm=round(was, 3),
            to_mm=round(then, 3),
            by_mm=round(by, 3),
            way=way,
            says=f"{what[0].upper()}{what[1:]} {mm(abs(by))} {way}, from {mm(was)} to {mm(then)}.",
        )


def _says(after: GimbalBalance, moves: tuple[MarkMove, ...], takes_s: int) -> str:
    minutes = f"balance it again, about {takes_s / 60:.0f} min"
    if after.beyond:
        return f"It would not balance: too little travel at the {together([one.name for one in after.beyond])}."
    if not moves:
        return "No scale moves: feel it, and go on."
    scales = "One scale moves" if len(moves) == 1 else f"{len(moves)} scales move"
    return f"{scales}: {minutes}."


def _remarks(carrier: Carrier, rig: ResolvedRig, payloads_g: tuple[float, float], touched: list[str]) -> Iterator[str]:
    was_g, then_g = payloads_g
    if then_g > carrier.max_payload_g:
        yield f"It would be {(then_g - carrier.max_payload_g) / 1000:.2f} kg over what the gimbal carries."
    if then_g < carrier.min_payload_g:
        yield f"It would be {(carrier.min_payload_g - then_g) / 1000:.2f} kg under what the gimbal wants."
    if was_g < HEAVY_G <= then_g:
        yield "From then on it takes two to balance it: one holds the cage."
    if touched:
        stays = "stays where it is" if len(touched) == 1 else "stay where they are"
        names = together([rig[key].name for key in touched])
        yield f"Reckoned as if {names}, fixed to what comes off, {stays}: look where it sits then."


def balances_of(rig: ResolvedRig, plan: Plan) -> dict[str, GimbalBalance]:
    """Each gimbal in use of which the scales are known."""
    planned = Planned(rig, plan)
    return {device: found for device in planned.in_use if (found := balance_of(planned, device)) is not None}


def balance_lines(before: Mapping[str, GimbalBalance], rig: ResolvedRig, plan: Plan) -> Iterator[str]:
    """What another plan does to the balance of each gimbal that both use, a sentence each; nothing where it stays."""
    for gimbal, after in balances_of(rig, plan).items():
        if gimbal not in before:
            continue
        was, planned = before[gimbal], after.cage.planned
        moves = [*_moves(was, after)]
        newly = {slide.id for slide in after.beyond} - {slide.id for slide in was.beyond}
        if not moves and not newly:
            continue
        then_g = rig.payload_g(planned.in_use, (join.link for join in planned.joins))
        marks = f": {', '.join(f'{one.name} {mm(one.from_mm)} to {mm(one.to_mm)}' for one in moves)}" if moves else ""
        yield f"{rig[gimbal].name} is balanced again, about {balancing_s(then_g) / 60:.0f} min{marks}."
        yield from (beyond_words(after, slide) for slide in after.beyond if slide.id in newly)
