"""What must hold of one link without a wire, or of one over a network: joined, paired, on the channel, typed in."""

from dataclasses import replace
from typing import ClassVar, Literal, Self

from isotact.core.model.keys import Between, Key
from isotact.core.model.named_keys import awake_key, joined_key, meet_key
from isotact.core.model.plan import LinkEnd
from isotact.core.model.ports import Radio as RadioEnd
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.words import Id
from isotact.core.trades.base import Check, Condition, Draft, Fault
from isotact.core.trades.radio.acts import MeetByRadio, Mistype, PartRadios, Retune, Tune, TypeIn
from isotact.core.world import Radio, World
from isotact.core.world.observation import state, text
from isotact.core.world.radio import pair, radio_at


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
        return meet_key(self.between)

    def needs(self) -> tuple[Key, ...]:
        return (awake_key(self.a.device), awake_key(self.b.device))

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
    is_remembered: ClassVar[bool] = True
    channel: str | None = None

    @property
    def key(self) -> Key:
        return Key.of("network", self.between)

    def rests_on(self) -> tuple[Key, ...]:
        """It is left when either end goes off."""
        ends = (self.a.device, self.b.device)
        return tuple(Key.of(kind, device) for kind in ("awake", "links", "pairing") for device in ends)

    def says(self, rig: ResolvedRig) -> str:
        host, _, guest, _ = self._radios(rig)
        return f"{rig[guest.device].name} has joined the network of {rig[host.device].name}."

    def draft(self, rig: ResolvedRig) -> Draft:
        host, radio, guest, _ = self._radios(rig)
        label = f"Name and password: {radio.network_label}." if radio.network_label else "Type its name and password."
        band = f"{radio.band}, " if radio.band else ""
        channel = f"{band}channel {self.channel}." if self.channel else f"{band}the least used channel."
        detail = [label, f"{channel[0].upper()}{channel[1:]}"]
        if radio.takes == 1:
            detail.append("It takes one at a time: whoever else is on it has to leave.")
        return self._draft(
            rig,
            f"{rig[guest.device].name}: join the network of {rig[host.device].name}",
            tuple(detail),
            radio.sign or f"{rig[guest.device].name} says connected.",
            25,
        )

    def check(self, rig: ResolvedRig) -> Check:
        host, _, guest, _ = self._radios(rig)
        return Check(
            id=Key.of("read-network", self.between),
            says=f"Read which network {rig[guest.device].name} is on.",
            seconds=10,
            where=guest.device,
            read=lambda world: text(
                f"that of {rig[host.device].name}" if world[Radio].have_met(self.a, self.b) else "another, or none"
            ),
        )

    def faults(self, rig: ResolvedRig) -> tuple[Fault, ...]:
        # Phones go back to the network they know best; receivers stay where they were put.
        _, _, guest, _ = self._radios(rig)
        says = f"{rig[guest.device].name} is on another network"
        return (Fault(id="elsewhere", says=says, weight=3, mend_s=25, act=PartRadios(a=self.a, b=self.b)),)


class Paired(OfRadios):
    """Two radios are paired."""

    kind: Literal["paired"] = "paired"
    is_remembered: ClassVar[bool] = True
    others: tuple[tuple[LinkEnd, LinkEnd], ...] = ()
    """The links that the same radios have besides."""
    standing: tuple[tuple[LinkEnd, LinkEnd], ...] = ()
    """Those of them that stand already."""

    def seen_in(self, world: World) -> Self:
        standing = tuple(link for link in self.others if world[Radio].have_met(*link))
        return self.model_copy(update={"standing": standing})

    def rests_on(self) -> tuple[Key, ...]:
        """It is kept when an end goes off, and lost when one is made to forget."""
        return (Key.of("pairing", self.a.device), Key.of("pairing", self.b.device))

    @property
    def key(self) -> Key:
        return Key.of("paired", self.between)

    def says(self, rig: ResolvedRig) -> str:
        return f"{rig[self.a.device].name} and {rig[self.b.device].name} are paired."

    def draft(self, rig: ResolvedRig) -> Draft:
        host, one, guest, other = self._radios(rig)
        detail = [
            f"First {rig[guest.device].name}: {other.pairing or 'start pairing.'}",
            f"Then {rig[host.device].name}: {one.pairing or 'start pairing.'}",
        ]
        wait_s = max(one.wait_s, other.wait_s)
        if wait_s:
            detail.append(f"Wait about {wait_s:g} s.")
        mine = {self.a, self.b}
        dark = {
            link: " and ".join(rig[end.device].name for end in link if end not in mine)
            + " is dark meanwhile, and comes back by itself."
            for link in self.others
        }
        detail += [dark[link] for link in self.standing]
        title = f"Pair {rig[guest.device].name} with {rig[host.device].name}"
        sign = one.sign or other.sign or "The link lamps of both are steady."
        draft = self._draft(rig, title, tuple(detail), sign, 15 + wait_s)
        # Of what is paired in the same sheet nobody is dark yet who comes after it.
        later = tuple((meet_key(Between(*link)), dark[link]) for link in self.others if link not in self.standing)
        return replace(draft, following=later)

    def check(self, rig: ResolvedRig) -> Check:
        _, _, guest, _ = self._radios(rig)
        return Check(
            id=Key.of("link-lamps", self.between),
            says=f"Look at the link lamps of {rig[self.a.device].name} and {rig[self.b.device].name}.",
            seconds=5,
            where=guest.device,
            read=lambda world: state("steady" if world[Radio].have_met(self.a, self.b) else "searching"),
        )

    def faults(self, rig: ResolvedRig) -> tuple[Fault, ...]:
        says = f"{rig[self.a.device].name} and {rig[self.b.device].name} have lost each other"
        # A body between two aerials, a neighbour who came up on the channel: pairs come apart without a hand.
        return (Fault(id="lost", says=says, weight=2, mend_s=30, act=PartRadios(a=self.a, b=self.b)),)


class OnChannel(Condition):
    """A radio stands on the channel of its link."""

    kind: Literal["on-channel"] = "on-channel"
    is_remembered: ClassVar[bool] = True
    end: LinkEnd
    channel: str
    with_whom: tuple[Id, ...]
    others: tuple[str, ...] = ()
    """The other channels that it has."""

    @property
    def key(self) -> Key:
        return Key.of("on-channel", self.end)

    def holds(self, world: World) -> bool:
        return world[Radio].channel(self.end) == self.channel

    def says(self, rig: ResolvedRig) -> str:
        return f"{rig[self.end.device].port_words(self.end.endpoint)}, is on channel {self.channel}."

    def made_by(self) -> Key:
        return Key.of("tune", self.end)

    def needs(self) -> tuple[Key, ...]:
        return (awake_key(self.end.device),)

    def draft(self, rig: ResolvedRig) -> Draft:
        radio, name = radio_at(rig, self.end), rig[self.end.device].name
        names = " and ".join(rig[device].name for device in self.with_whom)
        return Draft(
            key=self.made_by(),
            stage="pair",
            title=f"{name}: {radio.name} on channel {self.channel}",
            detail=(radio.pairing or "In its menu.", f"The same as {names}: nothing is paired."),
            device=self.end.device,
            expect=radio.sign or f"It shows {self.channel}.",
            # Two buttons at a receiver; at a sender on a gimbal one turns it to see the number.
            takes_s=15,
            act=Tune(end=self.end, channel=self.channel),
        )

    def check(self, rig: ResolvedRig) -> Check:
        return Check(
            id=Key.of("read-channel", self.end),
            says=f"Read the channel of {rig[self.end.device].port_words(self.end.endpoint)}: {self.channel}.",
            seconds=5,
            where=self.end.device,
            read=lambda world: text(world[Radio].channel(self.end) or "none yet"),
        )

    def faults(self, rig: ResolvedRig) -> tuple[Fault, ...]:
        # Hired sets come back on the channel of the last job.
        says = f"{rig[self.end.device].port_words(self.end.endpoint)}, is on another channel"
        other = self.others[0] if self.others else "another"
        return (Fault(id="other", says=says, weight=3, mend_s=15, act=Retune(end=self.end, channel=other)),)


class AddressTyped(OfRadios):
    """Address and password of one end are typed in at the other."""

    kind: Literal["address-typed"] = "address-typed"
    is_remembered: ClassVar[bool] = True
    at: Id
    """Where they are typed in."""
    one_client: bool = False

    @property
    def key(self) -> Key:
        return Key.of("address-typed", self.between)

    def holds(self, world: World) -> bool:
        return pair(self.a, self.b) in world[Radio].typed

    def _far(self) -> str:
        return self.b.device if self.a.device == self.at else self.a.device

    def says(self, rig: ResolvedRig) -> str:
        return f"{rig[self.at].name} has the address and password of {rig[self._far()].name}."

    def made_by(self) -> Key:
        return Key.of("type-in", self.between)

    def needs(self) -> tuple[Key, ...]:
        return (*super().needs(), joined_key(self.between))

    def draft(self, rig: ResolvedRig) -> Draft:
        near, far = rig[self.at].name, rig[self._far()].name
        return Draft(
            key=self.made_by(),
            stage="pair",
            title=f"{near}: type in address and password of {far}",
            detail=(
                f"As they stand in the network menu of {far}.",
                *(("It serves one client: close any other first.",) if self.one_client else ()),
            ),
            device=self.at,
            expect=f"{near} names {far}.",
            # An address and a password on a small screen, read from another.
            takes_s=30,
            act=TypeIn(a=self.a, b=self.b),
        )

    def check(self, rig: ResolvedRig) -> Check:
        return Check(
            id=Key.of("read-address", self.between),
            says=f"Read address and password on {rig[self.at].name}: those of {rig[self._far()].name}.",
            seconds=15,
            where=self.at,
            read=lambda world: state("the same" if self.holds(world) else "not the same"),
        )

    def faults(self, rig: ResolvedRig) -> tuple[Fault, ...]:
        says = f"{rig[self.at].name} has another address or password than {rig[self._far()].name}"
        # One digit in a dozen, and it stays wrong until somebody reads it aloud.
        return (Fault(id="mistyped", says=says, weight=2, mend_s=30, act=Mistype(a=self.a, b=self.b)),)
