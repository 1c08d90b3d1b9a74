"""Conditions of one radio link: the network is joined, the two ends are paired."""

from typing import Literal

from isotact.core.conditions.base import Condition, Fault
from isotact.core.conditions.world import World
from isotact.core.model.plan import LinkEnd
from isotact.core.model.ports import Radio
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.steps import MeetByRadio, Step


class OfRadios(Condition):
    """Two radios have met."""

    a: LinkEnd
    b: LinkEnd

    def holds(self, world: World) -> bool:
        return frozenset((self.a, self.b)) in world.met

    def made_by(self) -> str:
        return f"meet:{self.a}--{self.b}"

    def needs(self) -> tuple[str, ...]:
        return (f"awake:{self.a.device}", f"awake:{self.b.device}")

    def break_it(self, world: World) -> None:
        world.met.discard(frozenset((self.a, self.b)))

    def _radios(self, rig: ResolvedRig) -> tuple[LinkEnd, Radio, LinkEnd, Radio]:
        """The end that is joined first, the host; then the end at which a person does it."""
        ends = [(end, rig[end.device].endpoint(end.endpoint)) for end in (self.a, self.b)]
        ends.sort(key=lambda pair: isinstance(pair[1], Radio) and pair[1].part in ("station", "receiver"))
        (host, one), (guest, other) = ends
        if not isinstance(one, Radio) or not isinstance(other, Radio):
            raise LookupError(f"{self.a}--{self.b} is no radio link")
        return host, one, guest, other

    def _step(self, rig: ResolvedRig, title: str, detail: tuple[str, ...], expect: str, takes_s: float) -> Step:
        _, _, guest, _ = self._radios(rig)
        action = MeetByRadio(a=self.a, b=self.b)
        return Step(
            id=self.made_by(), stage="pair", title=title, detail=detail, device=guest.device, expect=expect,
            takes_s=takes_s, action=action,
        )  # fmt: skip


class NetworkJoined(OfRadios):
    """A device has joined another's network."""

    kind: Literal["network-joined"] = "network-joined"

    @property
    def key(self) -> str:
        return f"network:{self.a}--{self.b}"

    def says(self, rig: ResolvedRig) -> str:
        host, _, guest, _ = self._radios(rig)
        return f"{rig[guest.device].name} has joined the network of {rig[host.device].name}."

    def step(self, rig: ResolvedRig) -> Step:
        host, radio, guest, _ = self._radios(rig)
        label = f"Name and password: {radio.network_label}." if radio.network_label else "Type its name and password."
        return self._step(
            rig,
            f"{rig[guest.device].name}: join the network of {rig[host.device].name}",
            (label, f"{radio.band}, the least used channel." if radio.band else "The least used channel."),
            f"{rig[guest.device].name} says connected.",
            25,
        )

    def check(self, rig: ResolvedRig) -> str:
        _, _, guest, _ = self._radios(rig)
        return f"Read which network {rig[guest.device].name} is on."

    def faults(self, rig: ResolvedRig) -> tuple[Fault, ...]:
        _, _, guest, _ = self._radios(rig)
        says = f"{rig[guest.device].name} is on another network"
        return (Fault(says=says, weight=3, look_s=10, mend_s=25),)


class Paired(OfRadios):
    """Two radios are paired."""

    kind: Literal["paired"] = "paired"

    @property
    def key(self) -> str:
        return f"paired:{self.a}--{self.b}"

    def says(self, rig: ResolvedRig) -> str:
        return f"{rig[self.a.device].name} and {rig[self.b.device].name} are paired."

    def step(self, rig: ResolvedRig) -> Step:
        host, one, guest, other = self._radios(rig)
        detail = (
            f"{rig[guest.device].name}: {other.pairing or 'start pairing.'}",
            f"{rig[host.device].name}: {one.pairing or 'start pairing.'}",
            "An earlier receiver drops out for that time and comes back.",
        )
        title = f"Pair {rig[guest.device].name} with {rig[host.device].name}"
        return self._step(rig, title, detail, "Both link lamps are steady.", 30)

    def check(self, rig: ResolvedRig) -> str:
        return f"Look at the link lamps of {rig[self.a.device].name} and {rig[self.b.device].name}."

    def faults(self, rig: ResolvedRig) -> tuple[Fault, ...]:
        return (Fault(says="the pair has lost each other", weight=2, look_s=5, mend_s=30),)
