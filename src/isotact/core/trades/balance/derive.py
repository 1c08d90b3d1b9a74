"""Which gimbals of a plan have to be balanced, and what has to be fixed in its place before."""

from isotact.core.trades.balance.conditions import Balanced
from isotact.core.trades.balance.marks import balance_of
from isotact.core.trades.balance.marks_words import card_lines
from isotact.core.trades.mounting.derive import built_up
from isotact.core.trades.planned import Planned, Removal
from isotact.core.trades.trade import Derived


def derive(planned: Planned) -> Derived:
    """The conditions that a plan asks of this trade, each with the promises that need it."""
    for device in sorted(planned.in_use):
        wake = planned.rig[device].profile.wake
        if wake is not None and wake.needs_balance:
            needing = planned.lost_without(Removal(devices=frozenset((device,))))
            balance = balance_of(planned, device)
            yield Balanced(
                device=device,
                marks=tuple(card_lines(balance)) if balance is not None else (),
                carries=tuple(one for one in built_up(planned) if planned.rig[one].is_turned),
                payload_g=planned.rig.payload_g(planned.in_use, (join.link for join in planned.joins)),
                promises=needing,
            )
