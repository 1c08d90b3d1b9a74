"""Care: good manners that profiles ask for, and the proof of every promise at the end."""

from isotact.core.trades.care.acts import Prove, TakeCare, Work
from isotact.core.trades.care.derive import care
from isotact.core.trades.care.offers import offers
from isotact.core.trades.care.order import arrange
from isotact.core.trades.trade import Trade
from isotact.core.world import Handled

TRADE = Trade(name="care", state=(Handled,), acts=(TakeCare, Prove, Work), care=care, arrange=arrange, offers=offers)
