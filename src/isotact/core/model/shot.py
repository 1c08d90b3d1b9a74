"""Where crews differ, and what the shot asks: what a choice between the two rests on."""

from typing import Annotated, Literal

from pydantic import Field

from isotact.core.model.base import Struct
from isotact.core.model.units import Celsius, Metres, Millimetres, Seconds


class Schools(Struct):
    """Where crews differ. `profile` and `either` leave it to the devices and to the planner."""

    wake: Literal["profile", "host-first", "camera-first"] = "profile"
    balance: Literal["before-outer-cables", "after-outer-cables"] = "before-outer-cables"
    focus: Literal["either", "through-body", "motor"] = Field(
        default="either", description="whether focus goes through the body or a motor turns the ring"
    )
    port: Literal["either", "splitter", "dummy-battery"] = Field(
        default="either", description="how a body with one port gets both control and power"
    )
    chain: Literal["either", "clean", "look"] = Field(
        default="either", description="whether a monitor with a look stands before or after what sends the picture on"
    )
    antennas: Literal["upright", "inward"] = "upright"
    motor: Literal["above", "beside"] = Field(default="above", description="where motors hang on the rods")


class Energy(Struct):
    """What the crew reckons with where batteries are concerned."""

    temperature_c: Celsius = Field(default=20.0, description="how cold it is where the batteries are")
    reserve_percent: Annotated[int, Field(ge=0, le=90, strict=True)] | None = Field(
        default=None, description="of a full battery, what is kept back; left out: what its profile keeps"
    )
    margin_v: Annotated[float, Field(ge=0, le=5, strict=True)] = Field(
        default=0.0, description="so many volts above its lowest every device is to have"
    )


class Shot(Struct):
    """What the shot asks of focus, frame and field: what a choice between schools depends on."""

    marks: bool = Field(default=False, description="focus marks have to be hit again on every take")
    near_m: Metres = 1.2
    far_m: Metres = 1.8
    walk_s: Seconds = Field(default=4, description="how long the subject takes from far to near")
    focal_mm: Millimetres = 35
    stop: Annotated[float, Field(gt=0.5, le=64, strict=True)] = 2.8
    range_m: Metres = Field(default=20, description="how far away the furthest radio is")
    screens_m: Metres | None = Field(
        default=None, description="how far from the gimbal the crew's screens stand; left out: beside it"
    )
