"""A rig as it stands planned, with what its promises rest on: what two moments of a rig are compared by."""

from dataclasses import dataclass

from isotact.core.model.plan import Plan
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.words import Id
from isotact.core.trades import Condition


@dataclass(frozen=True)
class BuiltRig:
    """A rig as it was planned, and what its promises rest on."""

    rig: ResolvedRig
    plan: Plan
    conditions: tuple[Condition, ...]

    def asks(self, promise: Id) -> dict[str, Condition]:
        """What `promise` rests on, by keys that are the same in every plan."""
        return {str(one.key): one for one in self.conditions if promise in one.promises}

    def on_the_way(self, promise: Id) -> list[Id]:
        """The devices on the way of `promise`, in its order."""
        hops = next((route.hops for route in self.plan.routes if route.promise == promise), ())
        return list(dict.fromkeys(hop.device for hop in hops))
