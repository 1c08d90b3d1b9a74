"""What must hold of a server that has room for one client: nobody else is on it."""

from typing import Literal, Self

from isotact.core.model.keys import Between, Item, Key
from isotact.core.model.plan import LinkEnd
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.words import Id
from isotact.core.trades.base import Check, Condition, Draft, Fault
from isotact.core.trades.radio.acts import ComeIn, ShowOut
from isotact.core.world import Radio, World
from isotact.core.world.observation import state


class NoGuest(Condition):
    """No client from outside the rig is on a server that serves one."""

    kind: Literal["no-guest"] = "no-guest"
    device: Id
    protocol: Id
    client: Id
    """Whom it is to serve."""
    a: LinkEnd
    b: LinkEnd
    by_radio: bool
    """How that one gets on: by joining a network, or by address over a lead."""
    taken: bool = False

    @property
    def key(self) -> Key:
        return Key.of("no-guest", self.server)

    @property
    def server(self) -> Item:
        return Item(self.device, self.protocol)

    def holds(self, world: World) -> bool:
        return self.server not in world[Radio].guests

    def says(self, rig: ResolvedRig) -> str:
        return f"{rig[self.device].name} serves {rig[self.client].name}, and nobody else is on it."

    def seen_in(self, world: World) -> Self:
        return self.model_copy(update={"taken": not self.holds(world)})

    def made_by(self) -> Key:
        return Key.of("show-out", self.server) if self.taken else self._connects()

    def _connects(self) -> Key:
        return Key.of("meet" if self.by_radio else "type-in", Between(self.a, self.b))

    def draft(self, rig: ResolvedRig) -> Draft | None:
        if not self.taken:
            return None
        server, client = rig[self.device].name, rig[self.client].name
        return Draft(
            key=self.made_by(),
            stage="pair",
            title=f"{server}: show the other client out",
            detail=(f"Close it where it runs, or in the list of clients of {server}.", f"It serves one: {client}."),
            device=self.device,
            expect=f"Its list of clients names {client} and nobody else.",
            # Whose phone it is has to be found out first.
            takes_s=20,
            act=ShowOut(device=self.device, protocol=self.protocol),
        )

    def check(self, rig: ResolvedRig) -> Check:
        return Check(
            id=Key.of("read-clients", self.server),
            says=f"Read the list of clients of {rig[self.device].name}: only {rig[self.client].name} may stand in it.",
            seconds=10,
            where=self.device,
            read=lambda world: state("nobody else" if self.holds(world) else "another name"),
        )

    def faults(self, rig: ResolvedRig) -> tuple[Fault, ...]:
        # A phone or tablet of yesterday that comes back by itself, or somebody who wants to help.
        says = f"another client is on {rig[self.device].name}, which serves one"
        act = ComeIn(device=self.device, protocol=self.protocol)
        return (Fault(id="guest", says=says, weight=2, mend_s=20, act=act),)
