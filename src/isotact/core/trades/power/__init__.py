"""Power: what feeds whom, batteries, outlets and fuses. How much flows is worked out in `core.calc.power`."""

from isotact.core.trades.power.acts import BlowFuse, BlowOutlet, FitBattery, RunFlat
from isotact.core.trades.power.conditions import Fed, OutletGives
from isotact.core.trades.power.derive import care, derive
from isotact.core.trades.power.lamps import LAMPS
from isotact.core.trades.power.offers import offers
from isotact.core.trades.power.order import arrange
from isotact.core.trades.trade import Trade
from isotact.core.world import Power

TRADE = Trade(
    name="power",
    state=(Power,),
    acts=(FitBattery, RunFlat, BlowFuse, BlowOutlet),
    conditions=(Fed, OutletGives),
    lamps=LAMPS,
    derive=derive,
    care=care,
    arrange=arrange,
    offers=offers,
)
