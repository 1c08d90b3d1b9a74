"""An exercise: which rig, how hard, and the seed from which all that is hidden in it follows; and its short code."""

import hashlib
from typing import Literal

from pydantic import Field

from isotact.core.model.base import Struct
from isotact.core.model.problems import IsotactError
from isotact.core.model.rig import Rig

Level = Literal[1, 2, 3, 4]
LEVELS: dict[Level, tuple[str, str]] = {
    1: ("One thing is wrong", "The rig stood and worked; now something is wrong."),
    2: ("Half-way through", "The rig was just built and nothing is proven yet; something crept in on the way."),
    3: ("Two things at once", "Mending the first does not bring it all back."),
    4: ("A colleague has looked already", "One thing is wrong, and what the colleague says is not so."),
}
"""Each with its name and what is to be expected."""

LETTERS = "0123456789ABCDEFGHJKMNPQRSTVWXYZ"
"""Of a code: none that is taken for another when it is read out (Crockford's base 32)."""
MISREAD = str.maketrans("OIL", "011")
RIG_BITS, LEVEL_BITS, SEED_BITS = 20, 3, 17
"""Forty bits in all, eight letters. Two rigs of a cart share their twenty one time in a million."""


class NoExerciseError(IsotactError):
    """No exercise can be made of what was asked for."""


class Exercise(Struct):
    """What an exercise follows from, besides its rig: the same on every machine."""

    level: Level
    seed: int = Field(ge=0, lt=2**SEED_BITS, strict=True)


def code_of(rig: Rig, exercise: Exercise) -> str:
    """Eight letters, in two groups, by which somebody else gets the same exercise."""
    number = (rig_bits(rig) << LEVEL_BITS | exercise.level) << SEED_BITS | exercise.seed
    letters = "".join(LETTERS[number >> shift & 31] for shift in range(35, -1, -5))
    return f"{letters[:4]}-{letters[4:]}"


def from_code(code: str) -> tuple[int, Exercise]:
    """The bits of its rig, and the exercise. Raises NoExerciseError for what is no code."""
    letters = code.upper().replace("-", "").replace(" ", "").translate(MISREAD)
    if len(letters) != 8 or any(letter not in LETTERS for letter in letters):
        raise NoExerciseError(f"Found '{code[:40]}'; a code has eight letters and digits, such as 7K2M-0Q4D.")
    number = 0
    for letter in letters:
        number = number << 5 | LETTERS.index(letter)
    level = number >> SEED_BITS & 2**LEVEL_BITS - 1
    for known in LEVELS:
        if known == level:
            return number >> SEED_BITS + LEVEL_BITS, Exercise(level=known, seed=number & 2**SEED_BITS - 1)
    raise NoExerciseError(f"Found '{code[:40]}', which is the code of no exercise. Have it read out once more.")


def rig_bits(rig: Rig) -> int:
    """What stands in a code for a rig, just as it is now: of another, or once it is changed, it is something else."""
    return int.from_bytes(hashlib.sha256(rig.model_dump_json().encode()).digest()[:4]) >> 32 - RIG_BITS
