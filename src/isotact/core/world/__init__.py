"""The simulated rig at one moment: state, power flow, signals, and what a person sees.

Knows nothing of plans, conditions or steps: *what is* stands here, what ought to be stands in trades.
"""

from isotact.core.world.appearance import DeviceView, Lamps, LampView, NumberView, PluggedView, ScreenView, views_of
from isotact.core.world.balance import Balance
from isotact.core.world.cables import Cables, Plugged
from isotact.core.world.handled import Handled
from isotact.core.world.lens_drive import LensDrive
from isotact.core.world.media import Media
from isotact.core.world.menus import Menus
from isotact.core.world.mounting import Mounting
from isotact.core.world.observation import Observation
from isotact.core.world.power import Power
from isotact.core.world.proof import Proof, prove, worked
from isotact.core.world.radio import Radio
from isotact.core.world.signals import Arrival, now
from isotact.core.world.waking import Waking
from isotact.core.world.world import State, World, WorldError

PARTS: tuple[type[State], ...] = (
    Cables, Power, Waking, Menus, Radio, Balance, LensDrive, Mounting, Media, Handled,
)  # fmt: skip
"""The parts of the state on which power, signals and what is seen rest. A trade may add a part of its own."""

__all__ = [
    "PARTS",
    "Arrival",
    "Balance",
    "Cables",
    "DeviceView",
    "Handled",
    "LampView",
    "Lamps",
    "LensDrive",
    "Media",
    "Menus",
    "Mounting",
    "NumberView",
    "Observation",
    "Plugged",
    "PluggedView",
    "Power",
    "Proof",
    "Radio",
    "ScreenView",
    "State",
    "Waking",
    "World",
    "WorldError",
    "now",
    "prove",
    "views_of",
    "worked",
]
