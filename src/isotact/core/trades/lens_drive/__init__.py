"""Lens drive: motors on rings, their ends, their axes, the lens's table."""

from isotact.core.trades.lens_drive.acts import AnotherTable, LoadTable, LoseEnds, MapEnds
from isotact.core.trades.lens_drive.conditions import AloneOnAxis, EndsKnown, TableLoaded
from isotact.core.trades.lens_drive.derive import care, derive
from isotact.core.trades.lens_drive.offers import offers
from isotact.core.trades.trade import Trade
from isotact.core.world.lens_drive import LensDrive

TRADE = Trade(
    name="lens drive",
    state=(LensDrive,),
    acts=(MapEnds, LoadTable, LoseEnds, AnotherTable),
    conditions=(EndsKnown, AloneOnAxis, TableLoaded),
    derive=derive,
    care=care,
    offers=offers,
)
