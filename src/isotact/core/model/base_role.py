"""What every role answers, and what must be set for it."""

from collections.abc import Iterator
from typing import Literal

from pydantic import Field

from isotact.core.model.base import Struct
from isotact.core.model.words import Id, Version


class When(Struct):
    """What must be true of this device for something in its profile to work."""

    mode: list[Id] = Field(default=[], description="works in any one of these modes; empty: in all")
    settings: dict[Id, Id | list[Id]] = Field(
        default={}, description="setting -> value, or values any of which will do"
    )
    answers: dict[Id, Id] = Field(default={}, description="boot prompt -> the answer that must have been given")
    firmware: Version | None = Field(default=None, description="at least this firmware, quoted")
    licence: Id | None = None

    def allowed(self, setting: str) -> tuple[str, ...]:
        """The values of `setting` that will do, in order of preference."""
        value = self.settings[setting]
        return (value,) if isinstance(value, str) else tuple(value)

    def knobs(self) -> Iterator[tuple[Literal["mode", "setting", "answer"], str, tuple[str, ...]]]:
        """What it asks for that can be turned: kind (mode, setting or answer), key, the values that will do."""
        if self.mode:
            yield "mode", "", tuple(self.mode)
        for key in self.settings:
            yield "setting", key, self.allowed(key)
        for key, answer in self.answers.items():
            yield "answer", key, (answer,)


Flow = Literal["a-to-b", "b-to-a", "both"]


class BaseRole(Struct):
    """What every role answers, so that nobody has to ask which kind it is.

    `gives` is True at the end that sends, False at the one that takes, None where it goes both ways. `conductor` is
    the medium that it needs of a cable, and the name that the conductor must be wired for.
    """

    @property
    def name(self) -> str:
        """What a reference calls it."""
        raise NotImplementedError

    @property
    def conductor(self) -> tuple[str, str]:
        raise NotImplementedError

    def fits(self, other: "BaseRole") -> bool:
        """Whether the two have anything to say to each other."""
        raise NotImplementedError

    def faces(self, _other: "BaseRole") -> bool:
        """Whether one end gives what the other takes, of whatever sort that is."""
        return False

    @property
    def spoken(self) -> tuple[str, ...]:
        """What two roles must share to have anything to say to each other."""
        return (type(self).__name__, self.name)

    @property
    def gives(self) -> bool | None:
        return None

    @property
    def is_inlet(self) -> bool:
        """Whether power comes in here."""
        return False

    @property
    def keeps_going(self) -> bool:
        """Whether a device runs from what comes in here; another inlet only charges."""
        return False

    @property
    def is_outlet(self) -> bool:
        """Whether power goes out here."""
        return False

    @property
    def is_control(self) -> bool:
        """Whether functions are spoken of here, so that a lamp can tell that the other end was found."""
        return False

    @property
    def wake_rule(self) -> Literal["any", "peer-first", "self-first"]:
        """Who must be awake first for the two ends to find each other."""
        return "any"

    @property
    def notices_at_boot(self) -> bool:
        """Whether this end looks for a cable only while it boots."""
        return False

    @property
    def is_host(self) -> bool:
        return False

    @property
    def holds(self) -> bool:
        """Whether a lens can sit here."""
        return False

    @property
    def sits(self) -> bool:
        """Whether its device is of no use until this end sits on another."""
        return False

    @property
    def turns(self) -> bool:
        """Whether this is the end of a gear that turns the other."""
        return False

    @property
    def is_addressed(self) -> bool:
        """Whether address and password of one end have to be typed in at the other."""
        return False

    @property
    def serves(self) -> int | None:
        """How many clients it serves at one time, over all ends of its device; None: as many as there are sockets."""
        return None

    @property
    def pictures(self) -> tuple[str, ...]:
        """The picture formats that it takes or gives, best first; none where no picture passes."""
        return ()

    @property
    def picture_setting(self) -> str | None:
        """The setting that chooses the format."""
        return None

    @property
    def flow_from_here(self) -> Flow:
        """Which way something goes when this role is at end a."""
        if self.gives is None:
            return "both"
        return "a-to-b" if self.gives else "b-to-a"
