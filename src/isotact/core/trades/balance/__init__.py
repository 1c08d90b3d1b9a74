"""Balance: the gimbal's axes are free and its payload is balanced. The arithmetic of moments is in `core.balance`."""

from isotact.core.trades.balance.acts import BalanceIt, Unbalance
from isotact.core.trades.balance.conditions import Balanced
from isotact.core.trades.mounting import built_up
from isotact.core.trades.planned import Planned, Removal
from isotact.core.trades.trade import Derived, Trade
from isotact.core.world import Balance


def _derive(planned: Planned) -> Derived:
    for device in sorted(planned.in_use):
        wake = planned.rig[device].profile.wake
        if wake is not None and wake.needs_balance:
            needing = planned.lost_without(Removal(devices=frozenset((device,))))
            yield Balanced(
                device=device,
                carries=tuple(built_up(planned)),
                payload_g=planned.rig.payload_g(planned.in_use),
                promises=needing,
            )


TRADE = Trade(name="balance", state=(Balance,), acts=(BalanceIt, Unbalance), conditions=(Balanced,), derive=_derive)
