"""Balance: the gimbal's axes are free, its payload balanced. The arithmetic of moments is in `core.calc.moments`."""

from isotact.core.trades.balance.acts import BalanceIt, Unbalance
from isotact.core.trades.balance.conditions import Balanced
from isotact.core.trades.balance.derive import derive
from isotact.core.trades.balance.offers import offers
from isotact.core.trades.trade import Trade
from isotact.core.world import Balance

TRADE = Trade(
    name="balance", state=(Balance,), acts=(BalanceIt, Unbalance), conditions=(Balanced,), derive=derive, offers=offers
)
