"""Where something is on a device: on which side, and where on that side."""

from typing import Annotated, Literal

from pydantic import Field

Side = Literal["left", "right", "front", "back", "top", "bottom"]
"""Front is where a lens looks, left where the left hand of whoever works it is."""

Fraction = Annotated[float, Field(ge=0, le=1)]
Spot = tuple[Fraction, Fraction]
"""The middle of something on its side: how far from the left and from the top, as one looks at that side.

Top and bottom are looked at with the front up.
"""

Turned = Literal[0, 90, 180, 270]
"""Degrees clockwise from how its outline is drawn: 90 stands upright what lies."""

Points = Literal["out", "left", "right", "up", "down"]
"""Which way a lead leaves: out of the side, or along it, as one looks at that side."""
