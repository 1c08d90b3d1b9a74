"""What must hold of a gimbal before it is woken."""

from collections.abc import Iterator
from typing import ClassVar, Literal

from isotact.core.model.keys import Key
from isotact.core.model.named_keys import ANY_BALANCE, balance_key
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.words import Id
from isotact.core.trades.balance.acts import BalanceIt, Unbalance
from isotact.core.trades.base import Check, Condition, Draft, Fault
from isotact.core.trades.waking.acts import Sleep
from isotact.core.world import Balance, World
from isotact.core.world.observation import state

HEAVY_G = 5000.0
"""What is heavier in its cage is held by one while another balances it. Common practice, no source."""


AXES_S = 240.0
"""Four minutes for all axes, by hands that know the gimbal. Common practice, no source."""
LIGHT_G = 3000.0
"""So much one holds in one hand while the other slides the plate. Common practice, no source."""
S_PER_KG = 30.0
"""What is heavier is slid in smaller steps, and held at each. Common practice, no source."""


def balancing_s(payload_g: float) -> int:
    """How long balancing so much takes, all axes, in seconds."""
    return round(AXES_S + S_PER_KG * max(0.0, payload_g - LIGHT_G) / 1000)


class Balanced(Condition):
    """The gimbal's axes are free and its whole payload is balanced."""

    kind: Literal["balanced"] = "balanced"
    is_remembered: ClassVar[bool] = True
    device: Id
    carries: tuple[Id, ...] = ()
    """What has to be fixed in its place first."""
    payload_g: float = 0
    marks: tuple[str, ...] = ()
    """Where its scales have to stand, in words; nothing where its profile does not say what slides."""

    @property
    def key(self) -> Key:
        return Key.of("balanced", self.device)

    def holds(self, world: World) -> bool:
        return self.device in world[Balance].balanced

    def says(self, rig: ResolvedRig) -> str:
        return f"{rig[self.device].name} is balanced, its axes free."

    def made_by(self) -> Key:
        return balance_key(self.device)

    def needs(self) -> tuple[Key, ...]:
        return tuple(Key.of("in-place", device) for device in self.carries)

    def rests_on(self) -> tuple[Key, ...]:
        return (ANY_BALANCE,)

    def draft(self, rig: ResolvedRig) -> Draft:
        placed = rig[self.device]
        return Draft(
            key=self.made_by(),
            stage="balance",
            title=f"Balance {placed.name}",
            detail=(
                *self._weight(rig),
                "Complete: battery, card, lens, cap off, leads in.",
                *self.marks,
                "Tilt fore and aft, roll, tilt height; tilt and roll again; then pan.",
            ),
            device=self.device,
            expect="It stays as you leave it, any way up.",
            takes_s=balancing_s(self.payload_g),
            people=2 if self.payload_g >= HEAVY_G else 1,
            act=BalanceIt(device=self.device, carries=self.carries),
        )

    def _weight(self, rig: ResolvedRig) -> Iterator[str]:
        carrier = rig[self.device].profile.carrier
        if carrier is not None:
            sits, least, most = (g / 1000 for g in (self.payload_g, carrier.min_payload_g, carrier.max_payload_g))
            yield f"In its cage about {sits:.1f} kg, leads and plates with it; it carries {least:g} to {most:g} kg."

    def check(self, rig: ResolvedRig) -> Check:
        return Check(
            id=Key.of("tip", self.device),
            says=f"Switch {rig[self.device].name} off and tip it: it must neither fall nor swing back.",
            seconds=15,
            where=self.device,
            disturbs=(Sleep(device=self.device),),
            read=lambda world: state("it stays" if self.device in world[Balance].balanced else "it falls away"),
        )

    def faults(self, rig: ResolvedRig) -> tuple[Fault, ...]:
        says = f"{rig[self.device].name} is out of balance or locked"
        # A filter, a cap, a lead that slipped: it holds, strains, and runs warm before anybody asks.
        return (Fault(id="lost", says=says, weight=1, mend_s=240, act=Unbalance(device=self.device)),)
