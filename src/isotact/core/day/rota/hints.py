"""A rota that is known already, as a place for the solver to begin."""

from collections.abc import Sequence
from typing import Any

from isotact.core.day.rota.stints_model import Piece, StintsModel
from isotact.core.day.rota.terms import Charging, Stint


def hint(built: StintsModel, stints: Sequence[Stint], charges: Sequence[Charging]) -> None:
    """Begin where this rota stands; where it has more changes than the model knows, with as much of it as fits."""
    placed = _placed(built, stints)
    packs = {key: stint.pack for key, stint in placed.items()}
    packs |= {piece.key: piece.of for piece in built.pieces if piece.of is not None}
    hints: list[tuple[Any, int]] = []
    for piece in built.pieces:
        if piece.seat is not None and not piece.seat.fixed:
            hints += _times(piece, placed.get(piece.key), built.day.steps)
        before = _before(built, piece, packs, placed)
        hints += [(link, 1 if key == before else 0) for key, link in piece.before.items()]
    for piece, charger, one, begins_at, ends_at in built.charges:
        after = _charge_after(piece, charges, packs, placed)
        if after is not None and after.charger == charger:
            hints += [(one, 1), (begins_at, after.begins), (ends_at, after.ends)]
        else:
            hints.append((one, 0))
    # A constant stands for itself, and may stand in many places: each variable is hinted once.
    for variable, value in {one.index: (one, value) for one, value in hints}.values():
        built.model.add_hint(variable, value)


def _times(piece: Piece, stint: Stint | None, steps: int) -> list[tuple[Any, int]]:
    if stint is not None:
        return [(piece.here, 1), (piece.begins, stint.begins), (piece.ends, stint.ends)]
    if piece.number == 0:
        return [(piece.ends, 0)]
    return [(piece.here, 0), (piece.begins, steps), (piece.ends, steps)]


def _placed(built: StintsModel, stints: Sequence[Stint]) -> dict[str, Stint]:
    """By piece, the stint that it is."""
    found: dict[str, Stint] = {}
    for seat in built.day.seats:
        own = sorted((one for one in stints if one.seat == seat.key), key=lambda one: one.begins)
        pieces = [one for one in built.pieces if one.seat is seat]
        if pieces and own and own[0].begins > 0 and not seat.fixed:
            pieces = pieces[1:]
        found |= {piece.key: stint for piece, stint in zip(pieces, own, strict=False)}
    return found


def _before(built: StintsModel, piece: Piece, packs: dict[str, str], placed: dict[str, Stint]) -> str | None:
    """Where the pack of a piece comes from: a piece before it, or the shelf."""
    stint, pack = placed.get(piece.key), packs.get(piece.key)
    if stint is None or pack is None:
        return None
    earlier = [
        other
        for other in built.pieces
        if other is not piece
        and packs.get(other.key) == pack
        and (other.seat is None or (other.key in placed and placed[other.key].ends <= stint.begins))
    ]
    if earlier:
        last = max(earlier, key=lambda one: placed[one.key].ends if one.key in placed else 0)
        return last.key
    return next((one.key for one in built.classes if pack in one.packs), None)


def _charge_after(
    piece: Piece, charges: Sequence[Charging], packs: dict[str, str], placed: dict[str, Stint]
) -> Charging | None:
    """The charge that comes next after a piece, before its pack is put in again."""
    pack = packs.get(piece.key)
    ends = placed[piece.key].ends if piece.key in placed else 0
    if pack is None:
        return None
    again = min((one.begins for one in placed.values() if one.pack == pack and one.begins >= ends), default=None)
    after = [one for one in charges if one.pack == pack and one.begins >= ends and (again is None or one.ends <= again)]
    return min(after, key=lambda one: one.begins, default=None)
