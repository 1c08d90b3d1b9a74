"""The functions that people ask to control, and how one sees that each works."""

from pydantic import ConfigDict
from pydantic.dataclasses import dataclass

from isotact.core.model.words import Name, Text

_STRICT = ConfigDict(extra="forbid")


@dataclass(frozen=True, config=_STRICT)
class Function:
    """Something that people ask to control, and how one sees that it works.

    `act` is what to do at the surface, `seen` what then shows at the device that carries it out.
    """

    name: Name
    act: Text
    seen: Text
    then: Text | None = None
    """What the button does from then on, for whoever was promised it."""
    rolls: bool = False
    """Whether working it leaves something rolling that has to be stopped again."""
    reads_table: bool = False
    """Whether it needs the lens's table, besides its ends."""
    on_picture: bool = False
    """Whether it is worked on a picture, and does nothing without."""
    has_ends: bool = False
    """Whether it goes from one end to another, each of which has to be reached, the right way round."""
    has_number: bool = False
    """Whether a number, or a ring, goes up and down with it."""


FUNCTIONS: dict[str, Function] = {
    "record": Function(
        "record",
        "press once, wait two seconds, press again",
        "the record lamp lights and the timecode runs, then both stop",
        rolls=True,
        then="one press rolls, the next one stops",
    ),
    "focus": Function(
        "focus",
        "turn from end to end",
        "ring or distance scale moves both ways, the right way round",
        has_ends=True,
        has_number=True,
        then="the ring follows the turn",
    ),
    "iris": Function(
        "iris",
        "step up, then down",
        "the iris number changes and comes back",
        then="each step is one value up or down",
        has_number=True,
    ),
    "iso": Function(
        "ISO",
        "step up, then down",
        "the ISO number changes and comes back",
        then="each step is one value up or down",
        has_number=True,
    ),
    "gain": Function(
        "gain",
        "step up, then down",
        "the gain in dB changes and comes back",
        then="each step is one value up or down",
        has_number=True,
    ),
    "shutter": Function(
        "shutter",
        "step up, then down",
        "the shutter number changes and comes back",
        then="each step is one value up or down",
        has_number=True,
    ),
    "white-balance": Function(
        "white balance",
        "step up, then down",
        "the kelvin number changes and comes back",
        then="each step is one value up or down",
        has_number=True,
    ),
    "frame-rate": Function(
        "frame rate", "choose another, then go back", "the frame rate readout follows", then="the next take has it"
    ),
    "nd": Function(
        "ND",
        "step up, then down",
        "the ND readout and the picture's brightness follow",
        then="each step is one value up or down",
        has_number=True,
    ),
    "zoom": Function(
        "zoom",
        "turn from end to end",
        "the picture zooms both ways",
        has_ends=True,
        has_number=True,
        then="it runs as long as it is turned",
    ),
    "playback": Function(
        "playback and clip list",
        "open the clip list and play one",
        "the clip plays",
        then="nothing rolls while a clip plays",
    ),
    "custom-buttons": Function(
        "custom buttons",
        "press each",
        "the body does what the button is set to",
        then="each does what the body's menu gives it",
    ),
    "exposure-tools": Function(
        "exposure tools",
        "switch on, then off",
        "they come and go on the picture",
        on_picture=True,
        then="they stay on this screen until they are switched off",
    ),
    "frame-guides": Function(
        "frame guides",
        "switch on, then off",
        "the lines come and go on the picture",
        on_picture=True,
        then="they stay on this screen until they are switched off",
    ),
    "monitor-out": Function(
        "monitor-out settings",
        "change one, then go back",
        "the outgoing picture follows",
        then="it stays as it was set last",
    ),
    "stills": Function(
        "stills", "press once", "the shutter fires and the frame counter moves", then="each press takes one picture"
    ),
    "face-select": Function(
        "face selection",
        "step to the next face",
        "the frame moves to the next face",
        on_picture=True,
        then="each step goes on to the next face",
    ),
    "record-place": Function(
        "where a clip is recorded",
        "choose the other place",
        "the body names the other place",
        then="the next take goes there",
    ),
    "streaming": Function(
        "streaming", "start, then stop", "the stream starts and stops", then="it runs until it is stopped"
    ),
    "file-transfer": Function(
        "file transfer", "send one clip", "the clip arrives", then="the body is busy while a clip is sent"
    ),
    "gimbal-move": Function(
        "gimbal move", "push gently each way", "the gimbal follows each way", then="it moves as long as it is pushed"
    ),
    "gimbal-mode": Function(
        "gimbal mode",
        "choose another, then go back",
        "the mode lamp follows",
        then="each press goes on to the next mode",
    ),
    "recentre": Function(
        "recentre", "press once", "the gimbal comes back to centre", then="one press brings it back to the middle"
    ),
    "tracking": Function(
        "subject tracking",
        "frame a person and start",
        "the gimbal follows the person",
        on_picture=True,
        then="it follows until it is stopped",
    ),
    "lens-data": Function(
        "lens data in the clip",
        "turn the ring",
        "the readout shows the lens's numbers move",
        has_number=True,
        reads_table=True,
        then="every clip carries it",
    ),
}
