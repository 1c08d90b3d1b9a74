"""A whole simulated rig at one moment: the parts of its state, its clock, and what follows from them."""

from collections.abc import Callable, Iterable, Mapping
from typing import Any, ClassVar, Self, TypeVar

from pydantic import TypeAdapter, ValidationError

from isotact.core.model.keys import Key
from isotact.core.model.legs import Leg
from isotact.core.model.problems import IsotactError
from isotact.core.model.resolved import ResolvedRig

Found = TypeVar("Found")
PartOf = TypeVar("PartOf", bound="State")


class WorldError(IsotactError):
    """A written world is not one of this rig."""


class State:
    """One part of a world. Subclasses are dataclasses of dicts and sets whose members are never changed in place.

    So a fork is a handful of shallow copies; whoever changes a member puts a new one in its place.
    """

    word: ClassVar[str]

    @classmethod
    def fresh(cls, rig: ResolvedRig) -> Self:
        """Everything in its case."""
        return cls()

    def fork(self) -> Self:
        """A copy that can be changed without changing this one."""
        other = object.__new__(type(self))
        # Shallow: members are never changed in place, so that two worlds may share them.
        for name, value in self.__dict__.items():
            other.__dict__[name] = value.copy()
        return other

    def moved(self, rig: ResolvedRig) -> Self:
        """The same state, of a rig that was changed in between."""
        return self.fork()

    def settle(self, world: "World") -> bool:
        """Bring about what follows from the state as it is; whether anything changed."""
        return False

    def spoil(self, key: Key) -> None:
        """Forget what no longer stands once something of that name was spoilt."""

    def sleeps(self, world: "World", device: str) -> None:
        """Forget what `device` forgets when it goes off."""

    def until_s(self, world: "World") -> float | None:
        """The seconds until something happens here by itself; None: nothing will."""
        return None

    def passes(self, world: "World", seconds: float) -> None:
        """Let time go by, never past the moment that `until_s` told."""

    def stopped(self, world: "World", leg: Leg) -> frozenset[str]:
        """Those of what passes `leg` (`Leg.passing`) that this part keeps from getting through now."""
        return frozenset()

    def instead(self, world: "World", function: str) -> str | None:
        """What somebody sees who works `function`, where this part keeps it from arriving and more happens."""
        return None

    def to_data(self) -> dict[str, Any]:
        """Plain data, for JSON; sets in a fixed order, so that like worlds are written alike."""
        data: dict[str, Any] = _adapter(type(self)).dump_python(self, mode="json")
        for name, value in self.__dict__.items():
            if isinstance(value, set):
                data[name].sort(key=str)
        return data

    @classmethod
    def from_data(cls, data: Any) -> Self:
        """The state that `to_data` wrote. Raises pydantic's ValidationError where it is something else."""
        found: Self = _adapter(cls).validate_python(data)
        return found


_ADAPTERS: dict[type[State], TypeAdapter[Any]] = {}


def _adapter(kind: type[State]) -> TypeAdapter[Any]:
    if kind not in _ADAPTERS:
        _ADAPTERS[kind] = TypeAdapter(kind)
    return _ADAPTERS[kind]


class World:
    """State, cheap to fork. Whoever changes it settles it: what has lost power sleeps, what sleeps forgets.

    `world[Cables]` is one part of the state. `out` holds the devices that somebody has taken out of their case. What
    follows from the state is worked out when first asked for (`once`) and dropped when anything changes.
    """

    def __init__(
        self, rig: ResolvedRig, parts: Mapping[type[State], State], clock_s: float = 0, out: Iterable[str] = ()
    ) -> None:
        self.rig = rig
        self.clock_s = clock_s
        self.parts = dict(parts)
        self.out = set(out)
        # Keyed by the function that worked it out, so that a trade can keep what it derives here as well.
        self._known: dict[Callable[[World], Any], Any] = {}

    @classmethod
    def fresh(cls, rig: ResolvedRig, kinds: Iterable[type[State]]) -> Self:
        """Everything in its case: unplugged, asleep, batteries out, settings as the rig says they are now."""
        return cls(rig, {kind: kind.fresh(rig) for kind in kinds})

    def __getitem__(self, kind: type[PartOf]) -> PartOf:
        return self.parts[kind]  # type: ignore[return-value]

    def once(self, work_out: Callable[["World"], Found]) -> Found:
        """What `work_out` makes of this world, worked out once until something changes."""
        if work_out not in self._known:
            self._known[work_out] = work_out(self)
        found: Found = self._known[work_out]
        return found

    def fork(self) -> Self:
        """A world of its own that starts as this one is."""
        return type(self)(self.rig, {kind: part.fork() for kind, part in self.parts.items()}, self.clock_s, self.out)

    def moved(self, rig: ResolvedRig) -> Self:
        """This world, once the rig's document was changed: what was built stands as it stood."""
        parts = {kind: part.moved(rig) for kind, part in self.parts.items()}
        return type(self)(rig, parts, self.clock_s, self.out)

    def settle(self) -> None:
        """Bring about all that follows from the state, until nothing more does."""
        self.changed()
        # A list, not a generator: every part has its turn before it is asked whether any changed.
        while any([part.settle(self) for part in self.parts.values()]):
            self.changed()

    def changed(self) -> None:
        """Drop what was worked out."""
        self._known.clear()

    def spoil(self, key: Key) -> None:
        """Something was done that undoes what was made before: every part forgets what it must."""
        for part in self.parts.values():
            part.spoil(key)
        self.changed()

    def sleep(self, device: str) -> None:
        """A device goes off, and forgets what it forgets then."""
        for part in self.parts.values():
            part.sleeps(self, device)
        self.changed()

    def pass_time(self, seconds: float) -> None:
        """Let time go by, from one moment at which something happens by itself to the next.

        In between nothing changes but levels that are read at the moment itself, so nothing is worked out again.
        """
        while seconds > 0:
            # Asked anew each time: what happened by itself may have put off or brought on what comes next.
            moments = [moment for part in self.parts.values() if (moment := part.until_s(self)) is not None]
            step = min([seconds, *moments])
            for part in self.parts.values():
                part.passes(self, step)
            self.clock_s += step
            seconds -= step
            if step in moments:
                self.settle()

    def to_data(self) -> dict[str, Any]:
        """Plain data, for JSON."""
        parts = {kind.word: part.to_data() for kind, part in self.parts.items()}
        return {"rig": self.rig.rig.id, "clock_s": self.clock_s, "out": sorted(self.out), "parts": parts}

    @classmethod
    def from_data(cls, rig: ResolvedRig, data: Mapping[str, Any], kinds: Iterable[type[State]]) -> Self:
        """The world that `to_data` wrote.

        Raises WorldError where it was of another rig, lacks a part, or is no world at all.
        """
        if data.get("rig") != rig.rig.id:
            raise WorldError(f"Found a world of '{data.get('rig')}'; expected one of '{rig.rig.id}'.")
        parts: dict[type[State], State] = {}
        for kind in kinds:
            if kind.word not in data.get("parts", {}):
                raise WorldError(f"Found no part '{kind.word}' in this world. Start the bench afresh.")
            try:
                parts[kind] = kind.from_data(data["parts"][kind.word])
            except ValidationError as error:
                first = error.errors()[0]
                place = ".".join(str(one) for one in ("parts", kind.word, *first["loc"]))
                raise WorldError(f"{place}: {first['msg']}. Start the bench afresh.") from error
        world = cls(rig, parts, float(data.get("clock_s", 0)), data.get("out", ()))
        gone = sorted(device for device in world.out if device not in rig.devices)
        if gone:
            raise WorldError(f"Found {', '.join(gone)}, which the rig no longer has. Start the bench afresh.")
        return world
