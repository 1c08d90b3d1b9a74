"""Cables and ports: what is plugged where, whether it is home, what it carries, for whom it is wired.

Radios belong to `radio`, what flows through the power wires to `power`.
"""

from isotact.core.trades.cables.acts import (
    LayOut,
    Plug,
    PushHome,
    PutBack,
    Replug,
    SwapCable,
    TakeOut,
    Unplug,
)
from isotact.core.trades.cables.conditions import Joined, Seated
from isotact.core.trades.cables.derive import derive
from isotact.core.trades.cables.lamps import LAMPS
from isotact.core.trades.cables.mishaps import HalfSeat, Misplug, Miswire, PlugLate, WearOut
from isotact.core.trades.cables.offers import offers
from isotact.core.trades.cables.removal import TakeOff, tidy
from isotact.core.trades.cables.wiring_conditions import Carries, FoundAtStart, Wired
from isotact.core.trades.trade import Trade
from isotact.core.world import Cables

TRADE = Trade(
    name="cables",
    state=(Cables,),
    acts=(
        LayOut,
        Plug,
        Unplug,
        Misplug,
        HalfSeat,
        PushHome,
        PutBack,
        Replug,
        SwapCable,
        WearOut,
        Miswire,
        PlugLate,
        TakeOut,
        TakeOff,
    ),
    conditions=(Joined, Seated, Carries, Wired, FoundAtStart),
    lamps=LAMPS,
    derive=derive,
    tidy=tidy,
    offers=offers,
)
