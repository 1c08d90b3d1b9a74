"""Radio: networks joined, receivers paired, antennas."""

from isotact.core.trades.radio.acts import ComeIn, MeetByRadio, Mistype, PartRadios, Retune, ShowOut, Tune, TypeIn
from isotact.core.trades.radio.conditions import AddressTyped, NetworkJoined, OnChannel, Paired
from isotact.core.trades.radio.derive import care, derive
from isotact.core.trades.radio.lamps import LAMPS
from isotact.core.trades.radio.offers import offers
from isotact.core.trades.radio.order import arrange
from isotact.core.trades.radio.server_conditions import NoGuest
from isotact.core.trades.trade import Trade
from isotact.core.world import Radio

TRADE = Trade(
    name="radio",
    state=(Radio,),
    acts=(MeetByRadio, PartRadios, Tune, Retune, TypeIn, Mistype, ComeIn, ShowOut),
    conditions=(NetworkJoined, Paired, OnChannel, AddressTyped, NoGuest),
    lamps=LAMPS,
    derive=derive,
    care=care,
    arrange=arrange,
    offers=offers,
)
