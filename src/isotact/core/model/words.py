"""The closed vocabularies of the trade: connectors, functions, stages, picture formats."""

import re
import unicodedata
from collections.abc import Container
from dataclasses import dataclass
from enum import StrEnum
from functools import cache
from typing import Annotated, Literal

from pydantic import AfterValidator, StringConstraints

from isotact.core.model.problems import nearest

ID_PATTERN = r"^[a-z0-9]+(-[a-z0-9]+)*$"
ID_LENGTH = 64
Id = Annotated[str, StringConstraints(pattern=ID_PATTERN, max_length=ID_LENGTH)]
Text = Annotated[str, StringConstraints(min_length=1, max_length=400, strip_whitespace=True)]
Day = Annotated[str, StringConstraints(pattern=r"^\d{4}-(0[1-9]|1[0-2])-(0[1-9]|[12]\d|3[01])$")]
"""A day as ISO 8601 writes it, such as 2026-05-04."""
VERSION_PATTERN = r"^\d+(\.\d+){0,3}$"
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


@dataclass(frozen=True)
class Connector:
    """A kind of socket. `direct` ones mate device to device with no cable between.

    `mated` is what tells that two are home; teeth of a `gear` mesh, and one end turns the other.
    """

    name: str
    direct: bool = False
    mated: str = ""
    gear: bool = False


MESHED = "The teeth mesh fully, the rod is tight, and nothing slips when you turn by hand."
CONNECTORS: dict[str, Connector] = {
    "usb-c": Connector("USB-C"),
    "usb-micro-b": Connector("USB Micro-B"),
    "usb-mini-b": Connector("USB Mini-B"),
    "usb-a": Connector("USB-A"),
    "hdmi-a": Connector("HDMI (A, full)"),
    "hdmi-c": Connector("mini HDMI (C)"),
    "hdmi-d": Connector("micro HDMI (D)"),
    "bnc": Connector("BNC"),
    "rj45": Connector("RJ45"),
    "jack-2-5-3": Connector("2.5 mm jack, 3-pole"),
    "jack-2-5-4": Connector("2.5 mm jack, 4-pole"),
    "jack-3-5-3": Connector("3.5 mm jack, 3-pole"),
    "multi-remote": Connector("multi-pin remote"),
    "serial-4": Connector("4-pin serial"),
    "driver-7": Connector("7-pin driver"),
    "remote-8": Connector("8-pin remote"),
    "lens-12": Connector("12-pin lens"),
    "extension-9": Connector("9-pin extension"),
    "motor-bus-4": Connector("4-pin motor bus"),
    "power-2": Connector("2-pin power"),
    "power-4": Connector("4-pin XLR power"),
    "power-8": Connector("8-pin power"),
    "tap": Connector("battery tap"),
    "barrel": Connector("barrel power"),
    "pwm-3": Connector("3-pin servo"),
    "battery-plate": Connector("battery plate", direct=True, mated="It clicks, and does not come off when you pull."),
    "battery-bay": Connector("battery bay", direct=True, mated="The latch holds it, and the door closes."),
    "bayonet-mount": Connector("bayonet lens mount", direct=True, mated="It clicks, and does not turn."),
    "pl-mount": Connector("PL lens mount", direct=True, mated="The collar is tight, and the lens does not turn."),
    "gear-0-8": Connector("0.8 module gear", direct=True, mated=MESHED, gear=True),
    "control-ring": Connector("body control ring", direct=True, mated=MESHED, gear=True),
    "module-bay": Connector("add-on module bay", direct=True, mated="Its screw is tight, and it does not rock."),
    "contact-shoe": Connector("shoe with contacts", direct=True, mated="The lock is closed, and it does not slide."),
}


def _known_connector(value: str) -> str:
    if value not in CONNECTORS:
        raise ValueError(f"found '{value}', which is no connector we know{nearest(value, CONNECTORS)}")
    return value


ConnectorId = Annotated[str, AfterValidator(_known_connector)]


@dataclass(frozen=True)
class Function:
    """Something that people ask to control, and how one sees that it works.

    `act` is what to do at the surface, `seen` what then shows at the device that carries it out.
    """

    name: str
    act: str
    seen: str
    rolls: bool = False
    """Whether working it leaves something rolling that has to be stopped again."""
    reads_table: bool = False
    """Whether it needs the lens's table, besides its ends."""


FUNCTIONS: dict[str, Function] = {
    "record": Function(
        "record",
        "press once, wait two seconds, press again",
        "the record lamp lights and the timecode runs, then both stop",
        rolls=True,
    ),
    "focus": Function(
        "focus", "turn from end to end", "the focus ring or distance scale moves both ways, the right way round"
    ),
    "iris": Function("iris", "step up, then down", "the iris number changes and comes back"),
    "iso": Function("ISO", "step up, then down", "the ISO number changes and comes back"),
    "gain": Function("gain", "step up, then down", "the gain in dB changes and comes back"),
    "shutter": Function("shutter", "step up, then down", "the shutter number changes and comes back"),
    "white-balance": Function("white balance", "step up, then down", "the kelvin number changes and comes back"),
    "frame-rate": Function("frame rate", "choose another, then go back", "the frame rate readout follows"),
    "nd": Function("ND", "step up, then down", "the ND readout and the picture's brightness follow"),
    "zoom": Function("zoom", "turn from end to end", "the picture zooms both ways"),
    "playback": Function("playback and clip list", "open the clip list and play one", "the clip plays"),
    "custom-buttons": Function("custom buttons", "press each", "the body does what the button is set to"),
    "exposure-tools": Function("exposure tools", "switch on, then off", "they come and go on the picture"),
    "monitor-out": Function("monitor-out settings", "change one, then go back", "the outgoing picture follows"),
    "stills": Function("stills", "press once", "the shutter fires and the frame counter moves"),
    "face-select": Function("face selection", "step to the next face", "the frame moves to the next face"),
    "record-place": Function("where a clip is recorded", "choose the other place", "the body names the other place"),
    "streaming": Function("streaming", "start, then stop", "the stream starts and stops"),
    "file-transfer": Function("file transfer", "send one clip", "the clip arrives"),
    "gimbal-move": Function("gimbal move", "push gently each way", "the gimbal follows each way"),
    "gimbal-mode": Function("gimbal mode", "choose another, then go back", "the mode lamp follows"),
    "recentre": Function("recentre", "press once", "the gimbal comes back to centre"),
    "tracking": Function("subject tracking", "frame a person and start", "the gimbal follows the person"),
    "lens-data": Function(
        "lens data in the clip", "turn the ring", "the readout shows the lens's numbers move", reads_table=True
    ),
}


def _known_function(value: str) -> str:
    if value not in FUNCTIONS:
        raise ValueError(f"found '{value}', which is no function we know{nearest(value, FUNCTIONS)}")
    return value


FunctionId = Annotated[str, AfterValidator(_known_function)]

_FORMAT = re.compile(r"^(480|576|720|1080|2160|4320)([ip])(\d{2,3}(?:\.\d{1,2})?)$")


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
