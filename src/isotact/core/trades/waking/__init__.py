"""Waking: what is switched on, after whom, and whether its screen is lit."""

from isotact.core.trades.trade import Trade
from isotact.core.trades.waking.acts import Dim, Hang, Sleep, TurnUp, WakeTooEarly, WakeUp
from isotact.core.trades.waking.conditions import Awake, Responds, ScreenLive, WokenAfter
from isotact.core.trades.waking.derive import derive
from isotact.core.trades.waking.lamps import LAMPS
from isotact.core.trades.waking.offers import offers
from isotact.core.trades.waking.order import arrange
from isotact.core.world import Waking

TRADE = Trade(
    name="waking",
    state=(Waking,),
    acts=(WakeUp, Sleep, Hang, Dim, TurnUp, WakeTooEarly),
    conditions=(Awake, Responds, WokenAfter, ScreenLive),
    lamps=LAMPS,
    derive=derive,
    arrange=arrange,
    offers=offers,
)  # fmt: skip
