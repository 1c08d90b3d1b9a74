"""What must hold of one radio link: the network is joined, the two ends are paired."""

from typing import Literal

from isotact.core.model.keys import Between, Key
from isotact.core.model.plan import LinkEnd
from isotact.core.model.ports import Radio as RadioEnd
from isotact.core.model.resolved import ResolvedRig
from isotact.core.trades.base import Condition, Draft, Fault, Look
from isotact.core.trades.radio.acts import MeetByRadio, Part
from isotact.core.world import Radio, World


class OfRadios(Condition):
    """Two radios have met."""

    a: LinkEnd
    b: LinkEnd

    @property
    def between(self) -> Between:
        return Between(self.a, self.b)

    def holds(self, world: World) -> bool:
        return world[Radio].have_met(self.a, self.b)

    def made_by(self) -> Key:
        return Key.of("meet", self.between)

    def needs(self) -> tuple[Key, ...]:
        return (Key.of("awake", self.a.device), Key.of("awake", self.b.device))

    def _radios(self, rig: ResolvedRig) -> tuple[LinkEnd, RadioEnd, LinkEnd, RadioEnd]:
        """The end that is joined first, the host; then the end at which a person does it."""
        ends = [(end, rig[end.device].endpoint(end.endpoint)) for end in (self.a, self.b)]
        ends.sort(key=lambda pair: isinstance(pair[1], RadioEnd) and pair[1].is_guest)
        (host, one), (guest, other) = ends
        if not isinstance(one, RadioEnd) or not isinstance(other, RadioEnd):
            raise LookupError(f"{self.between} is no radio link")
        return host, one, guest, other

    def _draft(self, rig: ResolvedRig, title: str, detail: tuple[str, ...], expect: str, takes_s: float) -> Draft:
        _, _, guest, _ = self._radios(rig)
        return Draft(
            key=self.made_by(), stage="pair", title=title, detail=detail, device=guest.device, expect=expect,
            takes_s=takes_s, act=MeetByRadio(a=self.a, b=self.b),
        )  # fmt: skip


class NetworkJoined(OfRadios):
    """A device has joined another's network."""

    kind: Literal["network-joined"] = "network-joined"

    @property
    def key(self) -> Key:
        return Key.of("network", self.between)

    def rests_on(self) -> tuple[Key, ...]:
        """It is left when either end goes off."""
        return (Key.of("awake", self.a.device), Key.of("awake", self.b.device))

    def says(self, rig: ResolvedRig) -> str:
        host, _, guest, _ = self._radios(rig)
        return f"{rig[guest.device].name} has joined the network of {rig[host.device].name}."

    def draft(self, rig: ResolvedRig) -> Draft:
        host, radio, guest, _ = self._radios(rig)
        label = f"Name and password: {radio.network_label}." if radio.network_label else "Type its name and password."
        return self._draft(
            rig,
            f"{rig[guest.device].name}: join the network of {rig[host.device].name}",
            (label, f"{radio.band}, the least used channel." if radio.band else "The least used channel."),
            f"{rig[guest.device].name} says connected.",
            25,
        )

    def look(self, rig: ResolvedRig) -> Look:
        host, _, guest, _ = self._radios(rig)
        return Look(
            id=Key.of("read-network", self.between),
            says=f"Read which network {rig[guest.device].name} is on.",
            seconds=10,
            where=guest.device,
            read=lambda world: (
                f"that of {rig[host.device].name}" if world[Radio].have_met(self.a, self.b) else "another, or none"
            ),
        )

    def faults(self, rig: ResolvedRig) -> tuple[Fault, ...]:
        # Phones go back to the network they know best; receivers stay where they were put.
        _, _, guest, _ = self._radios(rig)
        says = f"{rig[guest.device].name} is on another network"
        return (Fault(id="elsewhere", says=says, weight=3, mend_s=25, act=Part(a=self.a, b=self.b)),)


class Paired(OfRadios):
    """Two radios are paired."""

    kind: Literal["paired"] = "paired"

    @property
    def key(self) -> Key:
        return Key.of("paired", self.between)

    def says(self, rig: ResolvedRig) -> str:
        return f"{rig[self.a.device].name} and {rig[self.b.device].name} are paired."

    def draft(self, rig: ResolvedRig) -> Draft:
        host, one, guest, other = self._radios(rig)
        detail = (
            f"{rig[guest.device].name}: {other.pairing or 'start pairing.'}",
            f"{rig[host.device].name}: {one.pairing or 'start pairing.'}",
            "An earlier receiver drops out for that time and comes back.",
        )
        title = f"Pair {rig[guest.device].name} with {rig[host.device].name}"
        return self._draft(rig, title, detail, "Both link lamps are steady.", 30)

    def look(self, rig: ResolvedRig) -> Look:
        _, _, guest, _ = self._radios(rig)
        return Look(
            id=Key.of("link-lamps", self.between),
            says=f"Look at the link lamps of {rig[self.a.device].name} and {rig[self.b.device].name}.",
            seconds=5,
            where=guest.device,
            read=lambda world: "steady" if world[Radio].have_met(self.a, self.b) else "searching",
        )

    def faults(self, rig: ResolvedRig) -> tuple[Fault, ...]:
        says = f"{rig[self.a.device].name} and {rig[self.b.device].name} have lost each other"
        return (Fault(id="lost", says=says, weight=2, mend_s=30, act=Part(a=self.a, b=self.b)),)
