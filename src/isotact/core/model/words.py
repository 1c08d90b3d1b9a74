"""The small words of every document: ids, versions, stages, picture formats."""

import re
import unicodedata
from collections.abc import Container
from enum import StrEnum
from functools import cache, partial
from typing import Annotated, Literal

from pydantic import AfterValidator, StringConstraints

ID_PATTERN = r"^[a-z0-9]+(-[a-z0-9]+)*$"
# Long enough for a maker, a model and a number; short enough for a line of an address.
ID_LENGTH = 64
Id = Annotated[str, StringConstraints(pattern=ID_PATTERN, max_length=ID_LENGTH)]
_DIRECTIONS = frozenset("\u061c\u200e\u200f\u202a\u202b\u202c\u202d\u202e\u2066\u2067\u2068\u2069")
"""Marks that turn the direction of writing: a name with one of them does not show what it is (Unicode TR 36)."""


def _printed(text: str, also: str = "") -> str:
    for mark in text:
        kind = unicodedata.category(mark)
        if (kind in ("Cc", "Cs", "Zl", "Zp") and mark not in also) or mark in _DIRECTIONS:
            raise ValueError(f"found the character U+{ord(mark):04X}, which is not printed; take it out")
    return text


_Short = StringConstraints(min_length=1, max_length=400, strip_whitespace=True)
Name = Annotated[str, _Short, AfterValidator(_printed)]
"""What a thing or a person is called: one line of what can be seen."""
Text = Annotated[str, _Short, AfterValidator(partial(_printed, also="\n\t"))]
"""What somebody wrote down: may have several lines."""
LongText = Annotated[
    str,
    StringConstraints(min_length=1, max_length=4000, strip_whitespace=True),
    AfterValidator(partial(_printed, also="\n\t")),
]
"""A note: a page at most."""
Day = Annotated[str, StringConstraints(pattern=r"^[0-9]{4}-(0[1-9]|1[0-2])-(0[1-9]|[12][0-9]|3[01])$")]
"""A day as ISO 8601 writes it, such as 2026-05-04."""
VERSION_PATTERN = r"^[0-9]{1,6}(\.[0-9]{1,6}){0,3}$"
Version = Annotated[str, StringConstraints(pattern=VERSION_PATTERN)]
"""A dotted firmware version. Quote it in YAML: 2.10 unquoted is the number 2.1."""


class Stage(StrEnum):
    """Where a thing sits, from the camera outwards. A cable crosses one axis per stage between its ends."""

    TILT_CAGE = "tilt-cage"
    ROLL_ARM = "roll-arm"
    PAN_BASE = "pan-base"
    HANDLES = "handles"
    OFF_GIMBAL = "off-gimbal"


JobStage = Literal[
    "gather", "build", "inner-cables", "balance", "outer-cables", "menus", "wake", "pair", "lens", "prove"
]
JOB_STAGES: tuple[JobStage, ...] = (
    "gather", "build", "inner-cables", "balance", "outer-cables", "menus", "wake", "pair", "lens", "prove",
)  # fmt: skip
"""The stages of the job in their order: each step belongs to one."""

STAGES = tuple(Stage)
AXES = ("tilt", "roll", "pan", "off")


_FORMAT = re.compile(r"^(480|576|720|1080|2160|4320)([ip])([0-9]{2,3}(?:\.[0-9]{1,2})?)\Z")


def _picture_format(value: str) -> str:
    if not _FORMAT.match(value):
        raise ValueError(f"found '{value}'; expected lines, p or i, and rate, such as '1080p25'")
    return value


PictureFormat = Annotated[str, AfterValidator(_picture_format)]


def axes_between(one: Stage, other: Stage) -> tuple[str, ...]:
    """The axes that a cable from one stage to the other crosses, camera side first."""
    low, high = sorted((STAGES.index(one), STAGES.index(other)))
    return AXES[low:high]


def version_key(version: str) -> tuple[int, ...]:
    """Versions in order: 2.10 comes after 2.9, 2.0 equals 2."""
    parts = [int(part) for part in version.split(".")]
    while len(parts) > 1 and parts[-1] == 0:
        parts.pop()
    return tuple(parts)


@cache
def pixels_rate(picture: str) -> float:
    """Lines squared times rate: orders formats by how much picture a second they carry."""
    lines, _, rate = picture.replace("i", "p").partition("p")
    return int(lines) ** 2 * float(rate)


def id_from(name: str, otherwise: str) -> str:
    """An id that reads like `name`: small letters, digits and dashes; `otherwise` where it holds none of these."""
    plain = unicodedata.normalize("NFKD", name).encode("ascii", "ignore").decode().lower()
    return re.sub(r"[^a-z0-9]+", "-", plain).strip("-")[:ID_LENGTH].rstrip("-") or otherwise


def free_id(stem: str, taken: Container[str]) -> str:
    """`stem`, or `stem-2` and so on where that is taken already; never longer than an id may be."""
    key, number = stem[:ID_LENGTH], 2
    while key in taken:
        tail = f"-{number}"
        key, number = f"{stem[: ID_LENGTH - len(tail)].rstrip('-')}{tail}", number + 1
    return key


def told_apart(value: float, limit: float, decimals: int = 1) -> str:
    """A number as it is said beside its limit: with so many decimals, three at most, that it is on its side of it.

    A battery that is short of an hour by a minute is empty after 0.98 h, not after 1.0.
    """
    said = ""
    for places in range(decimals, max(decimals, 3) + 1):
        said = f"{value:.{places}f}"
        if (float(said) < limit, float(said) > limit) == (value < limit, value > limit):
            break
    return said


AnswerKind = Literal["seen", "odd", "now-and-then", "cannot-tell"]
"""What somebody says who was asked to look: what he saw; that it is not as it should be, always or now and then."""
