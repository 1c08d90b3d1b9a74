"""Conditions of one join: the right port, home, carrying data, wired for the family, a format both ends take."""

from typing import Literal

from isotact.core.conditions.base import Condition, Fault
from isotact.core.conditions.world import World
from isotact.core.model.plan import LinkEnd
from isotact.core.model.ports import Port, VideoRole
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.steps import LayOut, Plug, Step
from isotact.core.model.words import CONNECTORS, Id


class Joined(Condition):
    """A cable, or a part, is joined in the right port at both ends."""

    kind: Literal["joined"] = "joined"
    tag: str
    a: LinkEnd
    b: LinkEnd
    cable: Id | None = None
    adapter: Id | None = None
    adapter_at: Literal["a", "b"] | None = None
    end_a: int = 1
    end_b: int = 2
    lead: str | None = None
    outside: bool = False
    axes: tuple[str, ...] = ()
    avoid: tuple[str, ...] = ()
    before_wake_of: tuple[Id, ...] = ()

    @property
    def key(self) -> str:
        return f"joined:{self.a}--{self.b}"

    def holds(self, world: World) -> bool:
        plug = world.plug_between(self.a, self.b)
        if plug is None:
            return False
        for device in self.before_wake_of:
            started = world.devices[device].boot_started_s
            if started is not None and plug.at_s > started:
                return False
        return True

    def says(self, rig: ResolvedRig) -> str:
        one, other = (rig[end.device].port_words(end.endpoint) for end in (self.a, self.b))
        return f"{one} is joined with {other}."

    def made_by(self) -> str:
        return f"plug:{self.a}--{self.b}"

    def needs(self) -> tuple[str, ...]:
        return () if self.cable is None else (f"carries:{self.a}--{self.b}",)

    def step(self, rig: ResolvedRig) -> Step:
        return self._mount(rig) if self.cable is None else self._plug(rig)

    def _mount(self, rig: ResolvedRig) -> Step:
        one, other = rig[self.a.device], rig[self.b.device]
        return Step(
            id=self.made_by(),
            stage="build",
            title=f"Mount {other.name} on {one.name}",
            detail=(f"{one.port_words(self.a.endpoint)}", f"{other.port_words(self.b.endpoint)}"),
            device=self.b.device,
            tag=self.tag,
            expect="It clicks and does not turn.",
            takes_s=20,
            action=Plug(tag=self.tag, a=self.a, b=self.b, direct=True),
        )

    def _plug(self, rig: ResolvedRig) -> Step:
        cable = rig.cables[self.cable or ""]
        adapter = f" with {rig.cables[self.adapter].name}" if self.adapter else ""
        detail = [f"{cable.name}{adapter}.", *self._ends(rig)]
        if self.axes:
            detail.append(
                f"It crosses the {' and '.join(self.axes)} axis: leave a service loop, tie it, keep full travel."
            )
        return Step(
            id=self.made_by(),
            stage="outer-cables" if self.outside else "inner-cables",
            title=f"Plug {self.tag}: {rig[self.a.device].name} to {rig[self.b.device].name}",
            detail=(*detail, *(f"Look-alike! {words}." for words in self.avoid)),
            device=self.a.device,
            tag=self.tag,
            expect="Both plugs are fully home and hold when you tug gently.",
            takes_s=25,
            action=Plug(tag=self.tag, a=self.a, b=self.b, end_a=self.end_a, end_b=self.end_b),
        )

    def _ends(self, rig: ResolvedRig) -> list[str]:
        cable = rig.cables[self.cable or ""]
        ends = (cable.ends[self.end_a - 1], cable.ends[self.end_b - 1])
        words = []
        for side, end, plug in (("a", self.a, ends[0]), ("b", self.b, ends[1])):
            angle = {"right": "right-angle ", "coiled": "coiled ", "straight": ""}[plug.angle]
            via = ", through the adapter" if self.adapter_at == side else ""
            marked = f" marked “{plug.marking}”" if plug.marking else ""
            into = rig[end.device].port_words(end.endpoint)
            words.append(f"{angle}{CONNECTORS[plug.connector].name} plug{marked}{via} into {into}")
        return [f"{text[0].upper()}{text[1:]}." for text in words]

    def check(self, rig: ResolvedRig) -> str:
        avoid = f" {'; '.join(self.avoid)}." if self.avoid else ""
        return f"Follow flag {self.tag} with a finger to both ends and read the marking.{avoid}"

    def faults(self, rig: ResolvedRig) -> tuple[Fault, ...]:
        likely = 5.0 if self.avoid else 1.5
        return (Fault(says=f"{self.tag} is in the wrong port", weight=likely, look_s=10, mend_s=30),)

    def break_it(self, world: World) -> None:
        """Into the look-alike port where there is one, else out."""
        plug = world.plug_between(self.a, self.b)
        if plug is None:
            return
        for end in ("a", "b"):
            here: LinkEnd = getattr(plug, end)
            placed = world.rig[here.device]
            right = placed.endpoint(here.endpoint)
            if isinstance(right, Port) and plug.cable is not None:
                for other in placed.profile.ports:
                    if other.id != right.id and other.connector == right.connector:
                        setattr(plug, end, LinkEnd(device=here.device, endpoint=other.id))
                        return
        world.plugged.remove(plug)


class OfJoin(Condition):
    """A condition of one cable, wherever it is plugged."""

    tag: str
    a: LinkEnd
    b: LinkEnd
    cable: Id | None = None

    @property
    def between(self) -> str:
        return f"{self.a}--{self.b}"


class Seated(OfJoin):
    """Both plugs are fully home."""

    kind: Literal["seated"] = "seated"

    @property
    def key(self) -> str:
        return f"seated:{self.between}"

    def holds(self, world: World) -> bool:
        plug = world.plug_between(self.a, self.b)
        return plug is not None and plug.seated

    def says(self, rig: ResolvedRig) -> str:
        return f"{self.tag} is fully home at both ends."

    def made_by(self) -> str:
        return f"plug:{self.between}"

    def check(self, rig: ResolvedRig) -> str:
        return f"Push both plugs of {self.tag} home; tug gently."

    def faults(self, rig: ResolvedRig) -> tuple[Fault, ...]:
        return (Fault(says=f"{self.tag} is half seated", weight=4, look_s=5, mend_s=5),)

    def break_it(self, world: World) -> None:
        plug = world.plug_between(self.a, self.b)
        if plug is not None:
            plug.seated = False


class Carries(OfJoin):
    """The cable is the right one and conducts what is asked of it."""

    kind: Literal["carries-data"] = "carries-data"
    adapter: Id | None = None
    lead: str | None = None
    media: tuple[tuple[str, str], ...]

    @property
    def key(self) -> str:
        return f"carries:{self.between}"

    def holds(self, world: World) -> bool:
        plug = world.plug_between(self.a, self.b)
        if plug is not None:
            return all(
                plug.conducts(medium, wired) or plug.conducts(medium, wired, False) for medium, wired in self.media
            )
        return self.tag in world.laid_out

    def says(self, rig: ResolvedRig) -> str:
        return f"{self.tag} carries {' and '.join(medium for medium, _ in self.media)}."

    def made_by(self) -> str:
        return f"lay-out:{self.lead or self.between}"

    def step(self, rig: ResolvedRig) -> Step:
        cable = rig.cables[self.cable or ""]
        notes = [cable.note] if cable.note else []
        if self.adapter:
            notes.append(f"And {rig.cables[self.adapter].name}.")
        return Step(
            id=self.made_by(),
            stage="gather",
            title=f"Lay out {self.tag}: {cable.name}",
            detail=(f"Flag {'every end' if self.lead else 'both ends'} {self.tag}.", *notes),
            tag=self.tag,
            expect=f"The marking says that it carries {' and '.join(medium for medium, _ in self.media)}.",
            takes_s=20,
            action=LayOut(tag=self.tag, cable=cable.id, adapter=self.adapter),
        )

    def check(self, rig: ResolvedRig) -> str:
        return f"Swap {self.tag} for another that is known to carry {self.media[0][0]}."

    def faults(self, rig: ResolvedRig) -> tuple[Fault, ...]:
        return (Fault(says=f"{self.tag} is charge-only or broken inside", weight=4, look_s=45, mend_s=45),)

    def break_it(self, world: World) -> None:
        plug = world.plug_between(self.a, self.b)
        if plug is not None:
            plug.data_dead = True


class Wired(OfJoin):
    """The cable is wired for the family of control that it has to carry."""

    kind: Literal["wiring"] = "wiring"
    medium: str
    protocol: Id

    @property
    def key(self) -> str:
        return f"wiring:{self.between}:{self.protocol}"

    def holds(self, world: World) -> bool:
        plug = world.plug_between(self.a, self.b)
        return plug is not None and plug.conducts(self.medium, self.protocol)

    def says(self, rig: ResolvedRig) -> str:
        return f"{self.tag} is wired for {self.protocol}."

    def made_by(self) -> str:
        return f"plug:{self.between}"

    def check(self, rig: ResolvedRig) -> str:
        return f"Read the family on the label of {self.tag}: {self.protocol}."

    def faults(self, rig: ResolvedRig) -> tuple[Fault, ...]:
        return (Fault(says=f"{self.tag} is wired for another family", weight=2, look_s=15, mend_s=45),)

    def break_it(self, world: World) -> None:
        plug = world.plug_between(self.a, self.b)
        if plug is not None:
            plug.wired_for = ("another-family",)


class FormatAccepted(Condition):
    """The picture format that is sent is one that the far end takes."""

    kind: Literal["format-accepted"] = "format-accepted"
    sender: LinkEnd
    receiver: LinkEnd
    signal: Id
    setting: Id

    @property
    def key(self) -> str:
        return f"format:{self.sender}--{self.receiver}"

    def holds(self, world: World) -> bool:
        return sent_format(world, self.sender, self.receiver, self.signal) is not None

    def says(self, rig: ResolvedRig) -> str:
        takes = ", ".join(_video_role(rig, self.receiver, self.signal).formats)
        return f"{rig[self.receiver.device].name} takes {takes}, and gets one of these."

    def made_by(self) -> str:
        return f"set:{self.sender.device}.{self.setting}"

    def check(self, rig: ResolvedRig) -> str:
        sender, receiver = rig[self.sender.device].name, rig[self.receiver.device].name
        return f"Read the format on {receiver}, or the output setting of {sender}."

    def faults(self, rig: ResolvedRig) -> tuple[Fault, ...]:
        says = f"{rig[self.sender.device].name} sends a format that {rig[self.receiver.device].name} does not take"
        return (Fault(says=says, weight=2, look_s=20, mend_s=30),)

    def break_it(self, world: World) -> None:
        """Set the output to something the far end does not take, if the sender can send such."""
        takes = _video_role(world.rig, self.receiver, self.signal).formats
        for value in world.rig[self.sender.device].profile.setting(self.setting).values:
            if value.id not in takes:
                world.devices[self.sender.device].effective[self.setting] = value.id
                return


def _video_role(rig: ResolvedRig, end: LinkEnd, signal: str) -> VideoRole:
    role = rig[end.device].role(end.endpoint, signal)
    if not isinstance(role, VideoRole):
        raise LookupError(f"{end} has no {signal}")
    return role


def sent_format(world: World, sender: LinkEnd, receiver: LinkEnd, signal: str) -> str | None:
    """The format that passes between two ends now, or None when they do not agree on one."""
    gives, takes = _video_role(world.rig, sender, signal), _video_role(world.rig, receiver, signal)
    offered = gives.formats
    if gives.format_setting is not None:
        offered = [world.devices[sender.device].effective[gives.format_setting]]
    return next((picture for picture in offered if picture in takes.formats), None)
