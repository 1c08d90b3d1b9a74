"""The atom: one small class per kind of condition, and the list of them that a plan stands on.

A new kind of trouble is a new class here and a line in `deriving`; no engine changes.
"""

from typing import Annotated

from pydantic import Field

from isotact.core.conditions.base import Condition, Fault
from isotact.core.conditions.cables import Carries, FormatAccepted, Joined, Seated, Wired
from isotact.core.conditions.deriving import conditions_of
from isotact.core.conditions.devices import (
    Awake,
    Balanced,
    Fed,
    ScreenLive,
    WokenAfter,
    battery_step,
)
from isotact.core.conditions.menus import FirmwareAtLeast, LicenceLoaded, ModeIs, PromptAnswered, SettingIs
from isotact.core.conditions.radios import NetworkJoined, Paired
from isotact.core.conditions.world import DeviceState, Plugged, World, feeder_of, fresh_world

AnyCondition = Annotated[
    Joined | Seated | Carries | Wired | FormatAccepted | Fed | Balanced | Awake | WokenAfter | ModeIs | SettingIs
    | PromptAnswered | FirmwareAtLeast | LicenceLoaded | ScreenLive | NetworkJoined | Paired,
    Field(discriminator="kind"),
]  # fmt: skip

__all__ = [
    "AnyCondition",
    "Condition",
    "DeviceState",
    "Fault",
    "Plugged",
    "World",
    "battery_step",
    "conditions_of",
    "feeder_of",
    "fresh_world",
]
