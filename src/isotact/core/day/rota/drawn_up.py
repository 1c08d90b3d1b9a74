"""A rota as it is found, told as who is where from when to when; each pack by its own name."""

from collections.abc import Callable
from typing import Any

from isotact.core.day.rota.stints_model import Piece, StintsModel
from isotact.core.day.rota.terms import Charging, Dark, Rotation, Stint

Value = Callable[[Any], int]


def drawn_up(
    day: Rotation, built: StintsModel, value: Value
) -> tuple[tuple[Stint, ...], tuple[Charging, ...], tuple[Dark, ...]]:
    """Stints, charges and times in the dark of a solved model."""
    packs = _packs(built, value)
    stints = tuple(
        Stint(piece.seat.key, packs[piece.key], value(piece.begins), value(piece.ends))
        for piece in built.pieces
        if piece.seat is not None and value(piece.here) and value(piece.ends) > value(piece.begins)
    )
    charges = tuple(
        Charging(charger, packs[piece.key], value(begins), value(ends))
        for piece, charger, one, begins, ends in built.charges
        if value(one) and value(ends) > value(begins) and piece.key in packs
    )
    return stints, charges, tuple(_dark(day, stints))


def _packs(built: StintsModel, value: Value) -> dict[str, str]:
    """Which pack is in which piece. Of full ones that are alike each is taken in the order in which they stand."""
    left = {one.key: list(one.packs) for one in built.classes}
    found: dict[str, str] = {}

    def of(piece: Piece) -> str | None:
        if piece.key in found:
            return found[piece.key]
        if piece.of is not None:
            found[piece.key] = piece.of
            return piece.of
        for key, link in piece.before.items():
            if value(link):
                pack = left[key].pop(0) if key in left else of(next(one for one in built.pieces if one.key == key))
                if pack is not None:
                    found[piece.key] = pack
                return pack
        return None

    for piece in sorted(built.pieces, key=lambda one: (value(one.begins), one.key)):
        of(piece)
    return found


def _dark(day: Rotation, stints: tuple[Stint, ...]) -> list[Dark]:
    found: list[Dark] = []
    for seat in day.seats:
        own = [one for one in stints if one.seat == seat.key]
        for step, load in enumerate(seat.load_mwh):
            if not load or any(one.begins <= step < one.ends for one in own):
                continue
            if found and found[-1].seat == seat.key and found[-1].ends == step:
                found[-1] = Dark(seat.key, found[-1].begins, step + 1)
            else:
                found.append(Dark(seat.key, step, step + 1))
    return found
