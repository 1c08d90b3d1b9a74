"""Radios meet, and lose each other; channels are set, addresses typed."""

from collections.abc import Iterator
from typing import ClassVar, Literal

from isotact.core.model.keys import Between, Item, Key
from isotact.core.model.plan import LinkEnd
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.words import Id
from isotact.core.trades.base import Act, Draft, HandAct, HandPlace, Mishap
from isotact.core.trades.menus.acts import SetMode
from isotact.core.world import Menus, Radio, World, now
from isotact.core.world.radio import pair, radio_at


class OfPair(Act):
    """An act at two radios."""

    a: LinkEnd
    b: LinkEnd

    where: ClassVar[HandPlace] = "radio"

    def touches(self) -> tuple[str, ...]:
        return (self.a.device, self.b.device)

    def part(self, device: str) -> str:
        return next((end.endpoint for end in (self.a, self.b) if end.device == device), "")

    def names(self, rig: ResolvedRig) -> str:
        """The two devices as one says them."""
        return " and ".join(rig[end.device].name for end in (self.a, self.b))


class MeetByRadio(OfPair, HandAct):
    """Join a network or pair two radios."""

    kind: Literal["meet-by-radio"] = "meet-by-radio"
    hand_s: ClassVar[float] = 30.0
    """Both into pairing, or the network chosen and its password typed."""

    def says(self, rig: ResolvedRig) -> str:
        word = "Join" if all(radio_at(rig, end).is_network for end in (self.a, self.b)) else "Pair"
        return f"{word} {self.names(rig)}"

    def why_not(self, world: World) -> str | None:
        for end in (self.a, self.b):
            placed, radio = world.rig[end.device], radio_at(world.rig, end)
            if end.device not in now(world).alive:
                return f"{placed.name} is off: nothing to join."
            if radio.meets_in and world[Menus].mode.get(end.device) not in radio.meets_in:
                modes = " or ".join(placed.mode_name(mode) for mode in radio.meets_in)
                return f"{placed.name} starts no link in this mode: it must be in {modes}."
            if len(self._others(world, end)) >= radio.takes:
                return f"{placed.name} takes {radio.takes} at a time: no room."
        return None

    def remedies(self, world: World) -> Iterator[Draft]:
        for end in (self.a, self.b):
            modes = radio_at(world.rig, end).meets_in
            if modes and world[Menus].mode.get(end.device) not in modes:
                yield mode_draft(world.rig, "mode-for-link", end.device, modes[0])
            # Sorted, so that the same one is parted in every run: a set has no order of its own.
            met = [two for two in sorted(world[Radio].met, key=str) if end in two and two != pair(self.a, self.b)]
            for two in met if len(met) >= radio_at(world.rig, end).takes else ():
                yield _leave_draft(world, two)

    def _others(self, world: World, end: LinkEnd) -> list[LinkEnd]:
        """What an end has met already, this pair left out."""
        met = [two for two in world[Radio].met if end in two and two != pair(self.a, self.b)]
        return [two.b if two.a == end else two.a for two in met]

    def do(self, world: World) -> str:
        # Asked before they meet: whoever was there goes dark while the new one is paired.
        others = [one for end in (self.a, self.b) for one in self._others(world, end)]
        world[Radio].met.add(pair(self.a, self.b))
        _close_others(world, self)
        dark = ", ".join(world.rig[one.device].name for one in others if not radio_at(world.rig, one).is_network)
        return f"Connected. {dark} was dark meanwhile, and is back by itself." if dark else "Connected."


def mode_draft(rig: ResolvedRig, kind: str, device: str, mode: str) -> Draft:
    """Into the mode in which a link is started, or (of the kind `mode`) back out of it."""
    placed = rig[device]
    modes = placed.profile.modes
    name = placed.mode_name(mode)
    why = "Back to it, now that the link stands." if kind == "mode" else "It starts this link in no other mode."
    return Draft(
        key=Key.of(kind, device),
        stage="pair",
        title=f"{placed.name}: {name} mode{'' if kind == 'mode' else ', to start the link'}",
        detail=((modes.how.replace("{name}", name),) if modes else ()) + (why,),
        device=device,
        expect=f"It says {name}.",
        takes_s=modes.takes_s if modes else 2,
        act=SetMode(device=device, mode=mode),
    )


def _leave_draft(world: World, two: Between) -> Draft:
    names = " and ".join(world.rig[end.device].name for end in two)
    return Draft(
        key=Key.of("leave", two),
        stage="pair",
        title=f"Part {names}",
        detail=("There is no room for one more.",),
        device=two.b.device,
        expect="It is free for another.",
        # Leave the network, or press until the lamp goes out.
        takes_s=10,
        act=PartRadios(a=two.a, b=two.b),
    )


class PartRadios(OfPair, HandAct):
    """The two lose each other: on another network, or the pairing is gone."""

    kind: Literal["part"] = "part"

    def says(self, rig: ResolvedRig) -> str:
        return f"Part {self.names(rig)}"

    def touches(self) -> tuple[str, ...]:
        return ()

    def do(self, world: World) -> str:
        world[Radio].met.discard(pair(self.a, self.b))
        return "Disconnected."


class OnChannelAct(Act):
    """An act by which a radio comes to stand on a channel."""

    end: LinkEnd
    channel: str

    def do(self, world: World) -> str:
        world[Radio].tune(world.rig, self.end, self.channel)
        return f"{world.rig[self.end.device].name} is on {self.channel}."


class Tune(OnChannelAct, HandAct):
    """Set a radio to a channel."""

    kind: Literal["tune"] = "tune"
    where: ClassVar[HandPlace] = "radio"

    def says(self, rig: ResolvedRig) -> str:
        return f"{rig[self.end.device].name}: channel {self.channel}"

    def part(self, device: str) -> str:
        return self.end.endpoint

    def touches(self) -> tuple[str, ...]:
        return (self.end.device,)

    def why_not(self, world: World) -> str | None:
        name = world.rig[self.end.device].name
        return None if self.end.device in now(world).alive else f"{name} is off: its channel cannot be set."

    def spoils(self, rig: ResolvedRig) -> tuple[Key, ...]:
        return (Key.of("channel", self.end),)


class Retune(OnChannelAct, Mishap):
    """A radio stands on another channel: the last job's, or somebody searched for a quiet one."""

    kind: Literal["retune"] = "retune"


class TypeIn(OfPair, HandAct):
    """Type the address and password of one end in at the other."""

    kind: Literal["type-in"] = "type-in"
    hand_s: ClassVar[float] = 30.0
    """An address and a password, letter by letter."""

    def says(self, rig: ResolvedRig) -> str:
        return f"Type in the address and password between {self.names(rig)}"

    def why_not(self, world: World) -> str | None:
        off = next((end.device for end in (self.a, self.b) if end.device not in now(world).alive), None)
        return None if off is None else f"{world.rig[off].name} is off."

    def do(self, world: World) -> str:
        world[Radio].typed.add(Between(*pair(self.a, self.b)))
        _close_others(world, self)
        return "The two name each other."


def _close_others(world: World, act: OfPair) -> None:
    """Whoever connects sees to it that nobody else is on."""
    radio = world[Radio]
    radio.guests = {server for server in radio.guests if server.device not in act.touches()}


class AtServer(Act):
    """An act at a server: a protocol of a device."""

    device: Id
    protocol: Id


class ComeIn(AtServer, Mishap):
    """Somebody's client from outside the rig gets onto a server that has room for one."""

    kind: Literal["come-in"] = "come-in"

    def do(self, world: World) -> str:
        world[Radio].guests.add(Item(self.device, self.protocol))
        return "Another name stands in its list of clients."


class ShowOut(AtServer, HandAct):
    """Close the client that is on a server and should not be."""

    kind: Literal["show-out"] = "show-out"

    where: ClassVar[HandPlace] = "menu"

    def says(self, rig: ResolvedRig) -> str:
        return f"{rig[self.device].name}: close the client that should not be on it"

    def touches(self) -> tuple[str, ...]:
        return (self.device,)

    def do(self, world: World) -> str:
        world[Radio].guests.discard(Item(self.device, self.protocol))
        return f"{world.rig[self.device].name} has room again."


class Mistype(OfPair, Mishap):
    """Address or password is not the one of the other end."""

    kind: Literal["mistype"] = "mistype"

    def touches(self) -> tuple[str, ...]:
        return ()

    def do(self, world: World) -> str:
        world[Radio].typed.discard(pair(self.a, self.b))
        return "It searches and finds nothing."
