"""Mounting: what is fixed where, in the order in which a rig is built up."""

from isotact.core.trades.mounting.acts import ComeLoose, Fix
from isotact.core.trades.mounting.conditions import InPlace
from isotact.core.trades.mounting.derive import derive
from isotact.core.trades.mounting.offers import offers
from isotact.core.trades.mounting.order import arrange
from isotact.core.trades.trade import Trade
from isotact.core.world.mounting import Mounting

TRADE = Trade(
    name="mounting",
    state=(Mounting,),
    acts=(Fix, ComeLoose),
    conditions=(InPlace,),
    derive=derive,
    arrange=arrange,
    offers=offers,
)
