"""Care: good manners that profiles ask for, and the proof of every promise at the end."""

from isotact.core.trades.care.acts import Prove, TakeCare
from isotact.core.trades.care.derive import care
from isotact.core.trades.care.order import arrange
from isotact.core.trades.trade import Trade

TRADE = Trade(name="care", acts=(TakeCare, Prove), care=care, arrange=arrange)
