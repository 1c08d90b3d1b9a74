"""What must hold of one join: in the right port at both ends, and home."""

from collections.abc import Iterator
from typing import Literal, Self

from isotact.core.model.cable import CableType
from isotact.core.model.keys import Between, Key
from isotact.core.model.named_keys import joined_key, plug_key
from isotact.core.model.plan import LinkEnd, in_order
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.vocabulary import vocabulary
from isotact.core.model.words import Id
from isotact.core.telling.build_words import base_and_hung
from isotact.core.telling.phrases import adapter_words
from isotact.core.trades.balance.leads_words import led_words, longer_words
from isotact.core.trades.base import Check, Condition, Draft, Fault, StepEnd, perform
from isotact.core.trades.cables.acts import Plug, PushHome, Unplug
from isotact.core.trades.cables.mishaps import HalfSeat, Misplug
from isotact.core.world import Cables, Plugged, Waking, World
from isotact.core.world.observation import Observation, state, text


class OfJoin(Condition):
    """A condition of one join. `tag` is its tape flag."""

    tag: str
    a: LinkEnd
    b: LinkEnd

    @property
    def between(self) -> Between:
        return Between(self.a, self.b)

    def plug(self, world: World) -> Plugged | None:
        return world[Cables].between(self.a, self.b)

    def flagged(self, world: World) -> Plugged | None:
        """What somebody finds who looks for its flag: the lead in its place, or in another socket than is planned."""
        return self.plug(world) or next((one for one in world[Cables].plugs.values() if one.tag == self.tag), None)

    def made_by(self) -> Key:
        return plug_key(self.between)

    def rests_on(self) -> tuple[Key, ...]:
        return (joined_key(self.between),)


def _plug_name(adapter: CableType) -> str:
    plug = next(end.connector for end in adapter.ends if end.gender == "plug")
    return vocabulary().connectors[plug].name


READY = "It is laid and tied, one plug at hand."


class Joined(OfJoin):
    """A cable, or a part, is joined in the right port at both ends."""

    kind: Literal["joined"] = "joined"
    cable: Id | None = None
    adapter_a: Id | None = None
    adapter_b: Id | None = None
    end_a: int = 1
    end_b: int = 2
    lead: str | None = None
    outside: bool = False
    axes: tuple[str, ...] = ()
    avoid: tuple[str, ...] = ()
    media: tuple[Id, ...] = ()
    wrong: tuple[LinkEnd, ...] = ()
    """The look-alikes in which it would do nothing at all."""
    wakes: Id | None = None
    """The device that wakes when this lead goes in, so that one plug of it stays out until then."""

    @property
    def key(self) -> Key:
        return joined_key(self.between)

    def seen_in(self, world: World) -> Self:
        """Into one that is up by another feed a lead goes at once: it waits for no start."""
        if self.wakes is None or not world[Waking].is_on(self.wakes):
            return self
        without = world
        if self.plug(world) is not None:
            # It may have to come out and go in again, and what is up meanwhile is not woken by it.
            without = world.fork()
            perform(without, Unplug(a=self.a, b=self.b))
        return self.model_copy(update={"wakes": None}) if without[Waking].is_on(self.wakes) else self

    def holds(self, world: World) -> bool:
        """With the very cable that is planned: another that would do as well carries another flag."""
        plug = self.plug(world)
        if plug is None or (plug.held and self.wakes is None):
            return False
        return (plug.cable, plug.adapters) == (self.cable, self.adapters)

    @property
    def adapters(self) -> tuple[Id, ...]:
        return in_order(self.adapter_a, self.adapter_b)

    def says(self, rig: ResolvedRig) -> str:
        one, other = (rig[end.device].port_words(end.endpoint) for end in (self.a, self.b))
        return f"{one} is joined with {other}."

    def needs(self) -> tuple[Key, ...]:
        return tuple(Key.of("carries", self.between, medium) for medium in self.media)

    def draft(self, rig: ResolvedRig) -> Draft:
        socket = rig[self.a.device].endpoint(self.a.endpoint)
        if self.cable is not None:
            return self._plug(rig)
        if socket.is_gear:
            return self._mesh(rig)
        return self._mount(rig, socket.mated) if socket.mated else self._plug_lead(rig)

    def _mount(self, rig: ResolvedRig, mated: str) -> Draft:
        base, hung = base_and_hung(rig, self.a, self.b)
        one, other = rig[base.device], rig[hung.device]
        return Draft(
            key=self.made_by(),
            stage="build",
            title=f"Mount {other.name} on {one.name}",
            detail=(
                *self._battery_out(rig),
                one.port_words(base.endpoint),
                other.port_words(hung.endpoint),
                *self._notes(rig),
            ),
            ends=tuple(
                StepEnd(
                    device=end.device, endpoint=end.endpoint, plug="", says=rig[end.device].port_words(end.endpoint)
                )
                for end in (base, hung)
            ),
            device=hung.device,
            tag=self.tag,
            expect=mated,
            # A click or a screw. What is tied to it and balanced afterwards has steps of its own.
            takes_s=20,
            act=Plug(tag=self.tag, a=self.a, b=self.b, direct=True, held=self.wakes is not None),
        )

    def _mesh(self, rig: ResolvedRig) -> Draft:
        turned, turning = base_and_hung(rig, self.a, self.b)
        return Draft(
            key=self.made_by(),
            stage="build",
            title=f"Mesh {rig[turning.device].name} with the {rig[turned.device].port(turned.endpoint).marking}"
            f" of {rig[turned.device].name}",
            detail=("Swing it in, press it home without bending the lens, tighten the rod.", *self._notes(rig)),
            device=turning.device,
            tag=self.tag,
            expect=rig[turned.device].endpoint(turned.endpoint).mated,
            takes_s=20,
            act=Plug(tag=self.tag, a=self.a, b=self.b, direct=True),
            card="Mesh the motors",
        )

    def _plug_lead(self, rig: ResolvedRig) -> Draft:
        """A lead that is part of its device."""
        lead, socket = sorted((self.a, self.b), key=lambda end: rig[end.device].endpoint(end.endpoint).lead_mm is None)
        into = f"Into {rig[socket.device].port_words(socket.endpoint)}."
        return Draft(
            key=self.made_by(),
            stage="outer-cables" if self.outside else "inner-cables",
            title=f"Plug the lead of {rig[lead.device].name} into {rig[socket.device].name}",
            detail=(
                into,
                *led_words(rig, (self.a, self.b), self.axes, self._length_mm(rig)),
                *self._waits(rig),
                *self._notes(rig),
            ),
            ends=(StepEnd(device=socket.device, endpoint=socket.endpoint, plug="", says=into),),
            avoid=self.avoid,
            device=lead.device,
            tag=self.tag,
            expect=READY if self.wakes else "The plug is home: a gentle tug holds.",
            takes_s=20,
            act=Plug(tag=self.tag, a=self.a, b=self.b, direct=True, held=self.wakes is not None),
        )

    def _length_mm(self, rig: ResolvedRig) -> float:
        """Of the cable with its adapters, or of the lead that is part of a device."""
        if self.cable is None:
            ports = (rig[end.device].endpoint(end.endpoint) for end in (self.a, self.b))
            return next((port.lead_mm for port in ports if port.lead_mm is not None), 0.0)
        return sum(rig.cables[key].length_mm for key in (self.cable, *self.adapters))

    def _notes(self, rig: ResolvedRig) -> Iterator[str]:
        """What profiles say beside the two ports."""
        for end in (self.a, self.b):
            advice = rig[end.device].endpoint(end.endpoint).advice
            if advice is not None:
                yield advice

    def _battery_out(self, rig: ResolvedRig) -> Iterator[str]:
        """A bay holds the body's own battery, or what stands in for it."""
        for end in (self.a, self.b):
            placed = rig[end.device]
            if placed.endpoint(end.endpoint).is_battery_bay and placed.runs_alone:
                yield f"Take the battery of {placed.name} out first."

    def _waits(self, rig: ResolvedRig) -> list[str]:
        if self.wakes is None:
            return []
        giver = self.b if self.a.device == self.wakes else self.a
        return [f"Leave the plug at {rig[giver.device].name} out for now: {rig[self.wakes].name} wakes with it."]

    def _plug(self, rig: ResolvedRig) -> Draft:
        cable = rig.cables[self.cable or ""]
        adapters = f" with {adapter_words(rig, self.adapters)}" if self.adapters else ""
        ends = self._ends(rig)
        detail = [f"{cable.name}{adapters}.", *(end.says for end in ends)]
        detail += led_words(rig, (self.a, self.b), self.axes, self._length_mm(rig))
        if self.axes and self.lead is None and not self.adapters:
            detail += longer_words(rig, (self.a, self.b), cable, self._length_mm(rig))
        detail += [*self._waits(rig), *self._notes(rig)]
        return Draft(
            key=self.made_by(),
            stage="outer-cables" if self.outside else "inner-cables",
            title=f"Plug {self.tag}: {rig[self.a.device].name} to {rig[self.b.device].name}",
            detail=tuple(detail),
            ends=ends,
            # A piece with several ends has a step for each join; what is in already is not plugged again.
            once=tuple((f"{self.lead} {end.device}.{end.endpoint}", end.says) for end in ends) if self.lead else (),
            avoid=self.avoid,
            device=self.a.device,
            tag=self.tag,
            expect=READY if self.wakes else "Both plugs home: a gentle tug holds.",
            # Two ports to find in a cage, one of them behind a door, and the lead pushed home at both.
            takes_s=25,
            act=Plug(
                tag=self.tag,
                a=self.a,
                b=self.b,
                end_a=self.end_a,
                end_b=self.end_b,
                held=self.wakes is not None,
            ),
        )

    def _ends(self, rig: ResolvedRig) -> tuple[StepEnd, ...]:
        cable = rig.cables[self.cable or ""]
        plugs = (cable.ends[self.end_a - 1], cable.ends[self.end_b - 1])
        ends = []
        for adapter, end, plug in ((self.adapter_a, self.a, plugs[0]), (self.adapter_b, self.b, plugs[1])):
            angle = {"right": "right-angle ", "coiled": "coiled ", "straight": ""}[plug.angle]
            via = f", through the {_plug_name(rig.cables[adapter])} adapter" if adapter else ""
            marked = f" marked “{plug.marking}”" if plug.marking else ""
            words = f"{angle}{vocabulary().connectors[plug.connector].name} plug{marked}{via}"
            words = f"{words[0].upper()}{words[1:]}"
            says = f"{words} into {rig[end.device].port_words(end.endpoint)}."
            ends.append(StepEnd(device=end.device, endpoint=end.endpoint, plug=words, says=says))
        return tuple(ends)

    def check(self, rig: ResolvedRig) -> Check:
        avoid = f" {'; '.join(self.avoid)}." if self.avoid else ""
        return Check(
            id=Key.of("follow", self.between),
            says=f"Follow flag {self.tag} with a finger to both ends and read the marking.{avoid}",
            # Both ends, by the flag, with nothing taken out: the cheapest look that there is at a lead.
            seconds=10,
            where=self.a.device,
            read=self._ends_seen,
        )

    def _ends_seen(self, world: World) -> Observation:
        """Where the two plugs of this flag sit: the one piece of a splitter that ends at either end of this join."""
        for plug in world[Cables].plugs.values():
            ends = (plug.end_a, plug.end_b)
            if plug.tag == self.tag and ends == (self.end_a, self.end_b) and {self.a, self.b} & {plug.a, plug.b}:
                where = " and ".join(world.rig[end.device].port_words(end.endpoint) for end in (plug.a, plug.b))
                return text(f"{where}, one plug out" if plug.held else where)
        return state("in no port")

    def faults(self, rig: ResolvedRig) -> tuple[Fault, ...]:
        # Look-alikes are what people fall for most; without one it is the plug that somebody pulled to pass by.
        wrong = [
            Fault(
                id=f"wrong-port-{number}" if number > 1 else "wrong-port",
                says=f"{self.tag} is in {rig[end.device].port_words(end.endpoint)}",
                # The commonest fault of all: two sockets that look alike, one of them the right one.
                weight=5.0,
                mend_s=30,
                act=Misplug(a=self.a, b=self.b, wrong=end),
            )
            for number, end in enumerate(self.wrong, start=1)
        ]
        # Pulled to pass by, or never plugged: rarer than the look-alike, since somebody would miss the cable.
        out = Fault(
            id="out",
            says=f"{self.tag} is not plugged" if self.cable else f"{rig[self.b.device].name} is not mounted",
            # Rare while the flags are counted, and seen at a glance once somebody looks.
            weight=1.5,
            mend_s=30,
            act=Unplug(a=self.a, b=self.b),
        )
        return (*wrong, out)


class Seated(OfJoin):
    """Both plugs are fully home."""

    kind: Literal["seated"] = "seated"

    @property
    def key(self) -> Key:
        return Key.of("seated", self.between)

    def holds(self, world: World) -> bool:
        plug = self.plug(world)
        return plug is not None and plug.seated

    def says(self, rig: ResolvedRig) -> str:
        return f"{self.tag} is fully home at both ends."

    def check(self, rig: ResolvedRig) -> Check:
        return Check(
            id=Key.of("push", self.between),
            says=f"Push both plugs of {self.tag} home; tug gently.",
            seconds=5,
            where=self.a.device,
            # Looking mends it: whoever pushes feels whether there was anything left to push.
            disturbs=(PushHome(a=self.a, b=self.b),),
            read=self._felt,
        )

    def _felt(self, world: World) -> Observation:
        plug = self.flagged(world)
        if plug is None:
            return state("nothing there to push")
        return state("it was home" if plug.seated else "it gave way and clicked")

    def faults(self, rig: ResolvedRig) -> tuple[Fault, ...]:
        # Nearly as often as the wrong port, and it takes five seconds to look: so it comes early in every search.
        says = f"{self.tag} is half seated"
        # Nearly as common as the wrong port: a plug in a cage wants more force than one dares, and slips out while one
        # balances.
        return (Fault(id="half", says=says, weight=4, mend_s=5, act=HalfSeat(a=self.a, b=self.b)),)
