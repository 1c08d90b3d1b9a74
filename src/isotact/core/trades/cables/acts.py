"""What is done with cables: laid out, plugged, pulled."""

from collections import Counter
from collections.abc import Iterator
from dataclasses import replace
from typing import ClassVar, Literal

from isotact.core.model.keys import Between, Key
from isotact.core.model.named_keys import ANY_BALANCE, joined_key
from isotact.core.model.plan import LinkEnd
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.words import Id, JobStage, Stage
from isotact.core.telling.build_words import base_and_hung
from isotact.core.trades.base import Act, Draft, HandAct, HandPlace
from isotact.core.trades.cables.fit import goes_in, has_port
from isotact.core.trades.waking.acts import on_and_straining, put_in, still_first
from isotact.core.world import Cables, Menus, Plugged, Power, World
from isotact.core.world.cables import Laid

_CABLES: tuple[JobStage, ...] = ("inner-cables", "outer-cables")


class LayOut(HandAct):
    """Take a cable out of the bag and look at its marking."""

    kind: Literal["lay-out"] = "lay-out"
    tag: str
    cable: Id
    adapters: tuple[Id, ...] = ()
    rank: ClassVar[int] = 0
    where: ClassVar[HandPlace] = "bag"
    hand_s: ClassVar[float] = 15.0
    """Found by its marking, uncoiled, its flag on."""
    is_free: ClassVar[bool] = True

    def says(self, rig: ResolvedRig) -> str:
        on = "".join(f" with {rig.cables[one].name}" for one in self.adapters)
        return f"Lay out {self.tag}: {rig.cables[self.cable].name}{on}"

    def unknown(self, world: World) -> str | None:
        if self.tag in world[Cables].laid_out:
            return f"the flag {self.tag} is on a cable already"
        left = Counter(world[Cables].left_in_bag(world.rig))
        left.subtract((self.cable, *self.adapters))
        gone = next((key for key, count in left.items() if count < 0), None)
        return None if gone is None else f"there is no {gone} in the bag any more"

    def do(self, world: World) -> str:
        world[Cables].laid_out[self.tag] = Laid(self.cable, self.adapters)
        return f"{self.tag} lies ready."


class OfEnds(Act):
    """An act at a cable between two ends, or at the two ends themselves."""

    a: LinkEnd
    b: LinkEnd

    where: ClassVar[HandPlace] = "port"

    def touches(self) -> tuple[str, ...]:
        return (self.a.device, self.b.device)

    def part(self, device: str) -> str:
        return next((end.endpoint for end in (self.a, self.b) if end.device == device), "")

    def names(self, rig: ResolvedRig) -> str:
        """The two ports as one says them."""
        return " and ".join(
            f"“{rig[end.device].port(end.endpoint).marking}” of {rig[end.device].name}" for end in (self.a, self.b)
        )


class Plug(OfEnds, HandAct):
    """Join two ends: by the cable laid out under `tag`, or directly."""

    kind: Literal["plug"] = "plug"
    tag: str
    end_a: int = 1
    end_b: int = 2
    direct: bool = False
    held: bool = False
    """Whether one plug stays out for now."""
    hand_s: ClassVar[float] = 15.0
    """Both plugs the right way round and home, the lead tied where it runs."""
    is_free: ClassVar[bool] = True

    def says(self, rig: ResolvedRig) -> str:
        if self.direct:
            return f"Put {self.names(rig)} together"
        return f"Plug {self.tag}: {self.names(rig)}{', one plug kept out' if self.held else ''}"

    def is_like(self, other: Act) -> bool:
        if not isinstance(other, Plug) or {self.a, self.b} != {other.a, other.b} or self.held != other.held:
            return False
        if self.direct or other.direct:
            return self.direct and other.direct
        return self.tag == other.tag and self._turned() == other._turned()

    def _turned(self) -> frozenset[tuple[LinkEnd, int]]:
        return frozenset(((self.a, self.end_a), (self.b, self.end_b)))

    def unknown(self, world: World) -> str | None:
        return next((f"{end} is no port of this rig" for end in (self.a, self.b) if not has_port(world.rig, end)), None)

    def caution_stages(self, stage: JobStage) -> tuple[JobStage, ...]:
        """Cautions about cables hold for every cable, whether it leaves the cage or not."""
        return _CABLES if stage in _CABLES else (stage,)

    def why_not(self, world: World) -> str | None:
        if not self.direct and self.tag not in world[Cables].laid_out:
            return f"{self.tag} is not at hand."
        if world[Cables].between(self.a, self.b) is not None:
            return f"{self.tag} is in already."
        taken = self._taken(world)
        if taken is not None:
            return taken
        if self.a.device == self.b.device:
            return "Both ends in one device: nothing comes of it."
        laid = None if self.direct else world[Cables].laid_out[self.tag]
        refused = goes_in(world.rig, laid, (self.a, self.b), (self.end_a, self.end_b))
        if refused is not None:
            return refused
        return on_and_straining(world, self.spoils(world.rig))

    def remedies(self, world: World) -> Iterator[Draft]:
        plug = world[Cables].between(self.a, self.b)
        if plug is not None:
            if plug.held and not self.held:
                yield _put_back_draft(world, plug)
            elif not plug.seated:
                yield _push_draft(world, plug)
            return
        for end in (self.a, self.b):
            for other in self._in_the_way(world, end):
                yield out_draft(world, other)
        yield from still_first(world, self.spoils(world.rig))

    def _taken(self, world: World) -> str | None:
        for end in (self.a, self.b):
            for other in self._in_the_way(world, end):
                return f"{world.rig[end.device].port_words(end.endpoint)} is taken by {other.tag}."
        return None

    def _in_the_way(self, world: World, end: LinkEnd) -> list[Plugged]:
        """What else is in a port; the ends of one splitter share theirs."""
        return [plug for plug in world[Cables].at(end.device, end.endpoint) if plug.tag != self.tag]

    def do(self, world: World) -> str:
        laid = Laid("") if self.direct else world[Cables].laid_out[self.tag]
        world[Cables].put(
            Plugged(
                a=self.a,
                b=self.b,
                tag=self.tag,
                cable=laid.cable or None,
                adapters=laid.adapters,
                end_a=self.end_a,
                end_b=self.end_b,
                at_s=world.clock_s,
                held=self.held,
            )
        )
        for end in (self.a, self.b):
            placed = world.rig[end.device]
            world[Menus].connected(placed, end.endpoint)
            if placed.endpoint(end.endpoint).is_battery_bay:
                world[Power].battery_wh.pop(end.device, None)  # its own makes room
        for key in self.spoils(world.rig):
            world.spoil(key)
        return f"{self.tag} lies ready." if self.held else f"{self.tag} holds at both ends."

    def spoils(self, rig: ResolvedRig) -> tuple[Key, ...]:
        """Whatever is added wholly inside the rig moves its centre; a lead that hangs out is tied off instead."""
        return (ANY_BALANCE,) if moves_centre(rig, self.a, self.b) else ()


def moves_centre(rig: ResolvedRig, a: LinkEnd, b: LinkEnd) -> bool:
    """Whether what lies between two ends hangs wholly on one stage of the gimbal: a motor that swings in as well."""
    stages = {rig[end.device].stage_of(end.endpoint) for end in (a, b)}
    return len(stages) == 1 and Stage.OFF_GIMBAL not in stages


def meshed_with(world: World, device: str, but: str = "") -> Iterator[Plugged]:
    """What is meshed with a device, or with what sits on it; `but`: on the side from which it comes off."""
    for plug in list(world[Cables].plugs.values()):
        for here, there in ((plug.a, plug.b), (plug.b, plug.a)):
            if here.device != device or there.device == but:
                continue
            if world.rig[here.device].endpoint(here.endpoint).is_gear:
                yield plug
            elif world.rig[there.device].seat == there.endpoint:
                yield from meshed_with(world, there.device, but=device)


def _push_draft(world: World, plug: Plugged) -> Draft:
    return Draft(
        key=Key.of("push-home", Between(plug.a, plug.b)),
        stage="inner-cables",
        title=f"Push {plug.tag} home at both ends",
        device=plug.a.device,
        tag=plug.tag,
        expect="It gives way and clicks.",
        # A push with the thumb at each end; the device stands in front of one.
        takes_s=5,
        act=PushHome(a=plug.a, b=plug.b),
    )


def _put_back_draft(world: World, plug: Plugged) -> Draft:
    return Draft(
        key=Key.of("put-back", Between(plug.a, plug.b)),
        stage="inner-cables",
        # No new flag, no new way for the lead: it hangs beside its port.
        title=f"Put {plug.tag} back in",
        detail=tuple(f"At {world.rig[end.device].port_words(end.endpoint)}." for end in (plug.a, plug.b)),
        device=plug.a.device,
        tag=plug.tag,
        expect="Both plugs home: a gentle tug holds.",
        takes_s=10,
        act=PutBack(a=plug.a, b=plug.b),
        after=tuple(Key.of("sleep", end.device) for end in (plug.a, plug.b)),
    )


def replug_draft(world: World, plug: Plugged) -> Draft:
    """Pull a plug that is in, and put it in again."""
    return replace(
        _put_back_draft(world, plug),
        key=Key.of("replug", Between(plug.a, plug.b)),
        stage="menus",
        title=f"Pull {plug.tag} and plug it again",
        act=Replug(a=plug.a, b=plug.b),
        after=(),
    )


def out_draft(world: World, plug: Plugged, stays: bool = False) -> Draft:
    """Take out what is in a place that another needs, or that it should not be in; `stays`: to be plugged again."""
    rig = world.rig
    one, other = (rig[end.device].port_words(end.endpoint) for end in (plug.a, plug.b))
    names = f"{rig[plug.a.device].name} and {rig[plug.b.device].name}"
    title = f"Take out {plug.tag}: {names}" if plug.cable else f"Take {names} apart"
    detail: tuple[str, ...] = (f"Out of {one}.", f"Out of {other}.")
    expect = "Both ports are free."
    gear = next((end for end in (plug.a, plug.b) if rig[end.device].endpoint(end.endpoint).is_gear), None)
    if gear is not None:
        turned, turning = base_and_hung(rig, plug.a, plug.b)
        ring = rig[turned.device].port(turned.endpoint).marking
        title = f"Swing {rig[turning.device].name} away from the {ring} of {rig[turned.device].name}"
        detail, expect = ("Loosen it on its rod, and swing it clear of the ring.",), "The ring turns freely by hand."
    return Draft(
        key=Key.of("take-out", Between(plug.a, plug.b)),
        stage="build",
        title=title,
        detail=detail,
        device=plug.b.device,
        tag=plug.tag,
        expect=expect,
        takes_s=10,
        act=TakeOut(a=plug.a, b=plug.b, stays=stays),
    )


class Unplug(OfEnds, HandAct):
    """Pull a cable, or take off what was mounted."""

    kind: Literal["unplug"] = "unplug"

    def says(self, rig: ResolvedRig) -> str:
        return f"Pull what is between {self.names(rig)}"

    def why_not(self, world: World) -> str | None:
        if world[Cables].between(self.a, self.b) is None:
            return "There is nothing in between."
        return None

    def do(self, world: World) -> str:
        plug = world[Cables].between(self.a, self.b)
        if plug is not None:
            world[Cables].take(plug)
        return "It is out."

    def spoils(self, rig: ResolvedRig) -> tuple[Key, ...]:
        return (joined_key(Between(self.a, self.b)),)


class PushHome(OfEnds, HandAct):
    """Push both plugs home."""

    kind: Literal["push-home"] = "push-home"

    def says(self, rig: ResolvedRig) -> str:
        return f"Push both plugs home: {self.names(rig)}"

    def do(self, world: World) -> str:
        world[Cables].change(self.a, self.b, seated=True)
        return "Both plugs are home."


class PutBack(OfEnds, HandAct):
    """Put in the plug that was kept at hand."""

    kind: Literal["put-back"] = "put-back"
    hand_s: ClassVar[float] = 10.0
    """It hangs beside its port."""

    def says(self, rig: ResolvedRig) -> str:
        return f"Put the plug back in: {self.names(rig)}"

    def do(self, world: World) -> str:
        plug = world[Cables].between(self.a, self.b)
        if plug is not None:
            put_in(world, plug)
        return "It holds at both ends."


class Replug(PutBack):
    """Pull a plug and put it in again: what waits for the next connection takes."""

    kind: Literal["replug"] = "replug"  # type: ignore[assignment]

    def says(self, rig: ResolvedRig) -> str:
        return f"Pull it and plug it again: {self.names(rig)}"

    def do(self, world: World) -> str:
        plug = world[Cables].between(self.a, self.b)
        if plug is not None:
            world[Cables].hold(plug, held=True)
            world.settle()
        return super().do(world)


class SwapCable(OfEnds, HandAct):
    """Put a cable of the same type that is known to be good in the place of this one, under the same flag."""

    kind: Literal["swap-cable"] = "swap-cable"
    hand_s: ClassVar[float] = 30.0
    """Both ends out, another of its kind from the bag, both ends in."""

    def says(self, rig: ResolvedRig) -> str:
        return f"Put another cable of its kind in its place: {self.names(rig)}"

    def do(self, world: World) -> str:
        plug = world[Cables].between(self.a, self.b)
        if plug is not None:
            world[Cables].hold(plug, held=True)
            world.settle()
            world[Cables].change(self.a, self.b, dead=frozenset(), miswired=frozenset())
            put_in(world, replace(plug, dead=frozenset(), miswired=frozenset()))
        return "Another lies in its place."


class TakeOut(OfEnds, HandAct):
    """Unplug a cable and put it away, or take off what was mounted."""

    kind: Literal["take-out"] = "take-out"
    stays: bool = False
    """Whether it lies ready with its flag afterwards, to go in elsewhere."""
    warns: ClassVar[bool] = False
    hand_s: ClassVar[float] = 10.0
    """Untied, out at both ends, put away."""

    def says(self, rig: ResolvedRig) -> str:
        return f"Take out what is between {self.names(rig)}{'' if self.stays else ', and put it away'}"

    def why_not(self, world: World) -> str | None:
        if world[Cables].between(self.a, self.b) is None:
            return "There is nothing in between."
        meshed = next(self._meshed(world), None)
        if meshed is not None:
            return f"{meshed.tag} is meshed: swing it away first."
        return on_and_straining(world, self.spoils(world.rig))

    def _meshed(self, world: World) -> Iterator[Plugged]:
        """What is meshed with a lens that comes off with this."""
        for end, other in ((self.a, self.b), (self.b, self.a)):
            if world.rig[end.device].seat == end.endpoint:
                yield from meshed_with(world, end.device, but=other.device)

    def remedies(self, world: World) -> Iterator[Draft]:
        for plug in self._meshed(world):
            yield out_draft(world, plug)
        yield from still_first(world, self.spoils(world.rig))

    def do(self, world: World) -> str:
        plug = world[Cables].between(self.a, self.b)
        if plug is not None:
            world[Cables].take(plug)
            if not self.stays:
                world[Cables].laid_out.pop(plug.tag, None)
        for key in self.spoils(world.rig):
            world.spoil(key)
        return "It is out."

    def spoils(self, rig: ResolvedRig) -> tuple[Key, ...]:
        centre = (ANY_BALANCE,) if moves_centre(rig, self.a, self.b) else ()
        return (joined_key(Between(self.a, self.b)), *centre)
