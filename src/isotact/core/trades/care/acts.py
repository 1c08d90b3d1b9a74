"""Looking, taking care, and working a promise or whatever else a surface has."""

from typing import ClassVar, Literal

from pydantic import Field

from isotact.core.model.keys import Item
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.rig import ControlPromise, Point, Promise
from isotact.core.model.vocabulary import vocabulary
from isotact.core.model.words import Id
from isotact.core.telling.phrases import promise_words
from isotact.core.trades.base import Act, HandAct, HandPlace
from isotact.core.world import Handled, Waking, World, now, prove, worked


class TakeCare(HandAct):
    """Look or take care; changes nothing on the bench."""

    kind: Literal["look"] = "look"
    rank: ClassVar[int] = 9
    leaves_all: ClassVar[bool] = True
    warns: ClassVar[bool] = False
    hand_s: ClassVar[float] = 30.0
    """As a sheet has it: read, looked at, done."""
    is_free: ClassVar[bool] = True

    def says(self, rig: ResolvedRig) -> str:
        return "Look it over"

    def is_like(self, other: Act) -> bool:
        """Never: which look it was only the sheet can say."""
        return False

    def do(self, world: World) -> str:
        return "Looked at."


class Prove(HandAct):
    """Work a promise and look."""

    kind: Literal["prove"] = "prove"
    promise: Id
    leaves_all: ClassVar[bool] = True
    is_free: ClassVar[bool] = True
    hand_s: ClassVar[float] = 15.0
    """As a sheet has it: worked once, and seen by who was promised it."""

    @property
    def proves(self) -> str | None:
        return self.promise

    def says(self, rig: ResolvedRig) -> str:
        return f"Prove: {promise_words(rig, rig.rig.promise(self.promise))}"

    def unknown(self, world: World) -> str | None:
        known = any(one.id == self.promise for one in world.rig.rig.promises)
        return None if known else f"{self.promise} is no promise of this rig"

    def do(self, world: World) -> str:
        proof = prove(world, self.promise)
        function = world.rig.rig.promise(self.promise).worked
        rolls = function is not None and vocabulary().functions[function].rolls
        if rolls and proof.ok and proof.at and proof.at not in world[Waking].recording:
            world[Waking].recording.add(proof.at)
            world[Waking].tested.add(proof.at)
        return proof.seen


class Work(HandAct):
    """Work a function at a surface: press its button, or turn its wheel. What it sets going goes on."""

    kind: Literal["work"] = "work"
    at: Point
    function: Id
    turn: int = Field(default=0, ge=-10, le=10, strict=True, description="by how many tenths of its way; 0: a press")
    where: ClassVar[HandPlace] = "control"
    hand_s: ClassVar[float] = 2.0
    """A press, or a turn of a wheel, and a look at what it does."""

    def touches(self) -> tuple[str, ...]:
        return (self.at.device,)

    def part(self, device: str) -> str:
        return self.at.surface

    def says(self, rig: ResolvedRig) -> str:
        name = vocabulary().functions[self.function].name
        way = f" {'up' if self.turn > 0 else 'down'}" if self.turn else ""
        return f"{rig[self.at.device].profile.surface(self.at.surface).name}: {name}{way}"

    def is_like(self, other: Act) -> bool:
        return isinstance(other, Work) and (other.at, other.function) == (self.at, self.function)

    def works(self, promise: Promise) -> bool:
        return promise.worked == self.function and promise.place == self.at.device and self._is_at(promise)

    def _is_at(self, promise: Promise) -> bool:
        return isinstance(promise, ControlPromise) and promise.at == self.at

    def do(self, world: World) -> str:
        asked = ControlPromise(id="by-hand", who="Whoever", function=self.function, at=self.at)
        proof = worked(world, asked)
        if not proof.ok:
            return proof.seen
        reached = dict.fromkeys(arrival.devices[-1] for arrival in now(world).functions(asked))
        return " ".join(self._at(world, device) for device in reached)

    def _at(self, world: World, device: str) -> str:
        """What it does at a device that it reaches."""
        function, name = vocabulary().functions[self.function], world.rig[device].name
        if function.rolls:
            rolling = world[Waking].recording
            is_rolling = device in rolling
            (rolling.discard if is_rolling else rolling.add)(device)
            return f"{name} stops." if is_rolling else f"{name} rolls."
        if not function.has_number:
            return f"{name}: {function.seen}."
        # A press of a button that steps is one step up.
        stands = world[Handled].turn(Item(device, self.function), self.turn or 1)
        return f"{name}: {function.name} stands at {stands} of 10."
