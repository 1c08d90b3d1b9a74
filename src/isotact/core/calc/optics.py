"""Depth of field by the thin lens."""

from dataclasses import dataclass

CIRCLE_MM = 0.025
"""The circle of confusion usual for a 35 mm film frame (common practice, no source)."""


@dataclass(frozen=True)
class Depth:
    """From where to where it is sharp. `far_mm` is None when that is everywhere behind."""

    near_mm: float
    far_mm: float | None
    hyperfocal_mm: float

    @property
    def total_mm(self) -> float | None:
        return None if self.far_mm is None else self.far_mm - self.near_mm


def depth_of_field(focal_mm: float, stop: float, distance_mm: float, circle_mm: float = CIRCLE_MM) -> Depth:
    """The depth of field of a lens of `focal_mm` at f/`stop`, focused at `distance_mm` from the lens.

    Thin lens: H = f^2 / (N c) + f; near = s (H - f) / (H + s - 2 f); far = s (H - f) / (H - s), without end from
    s = H on. Raises ValueError when the distance is not beyond the focal length.
    """
    if distance_mm <= focal_mm:
        raise ValueError(f"found {distance_mm:g} mm; a {focal_mm:g} mm lens focuses beyond its focal length")
    hyperfocal = focal_mm**2 / (stop * circle_mm) + focal_mm
    near = distance_mm * (hyperfocal - focal_mm) / (hyperfocal + distance_mm - 2 * focal_mm)
    far = distance_mm * (hyperfocal - focal_mm) / (hyperfocal - distance_mm) if distance_mm < hyperfocal else None
    return Depth(near, far, hyperfocal)
