"""Media: the cards that devices record on. How much fits on one is not reckoned."""

from isotact.core.trades.media.acts import InsertCard, TakeCardOut
from isotact.core.trades.media.conditions import CardIn
from isotact.core.trades.media.derive import derive
from isotact.core.trades.media.offers import offers
from isotact.core.trades.trade import Trade
from isotact.core.world import Media

TRADE = Trade(
    name="media",
    state=(Media,),
    acts=(InsertCard, TakeCardOut),
    conditions=(CardIn,),
    derive=derive,
    offers=offers,
)
