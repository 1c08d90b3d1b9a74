"""What may be done to a rig that is up and working: switched off, restarted, pulled, its battery changed."""

from typing import Literal

from isotact.core.model.plan import Link
from isotact.core.trades.base import Act
from isotact.core.trades.cables.acts import Unplug
from isotact.core.trades.power.acts import FitBattery
from isotact.core.trades.radio.acts import PartRadios
from isotact.core.trades.waking.acts import Sleep, WakeUp

DeviceMishap = Literal["switch-off", "restart", "swap-battery"]


def to_device(what: DeviceMishap, device: str) -> tuple[Act, ...]:
    """The acts by which it is done to a device."""
    match what:
        case "switch-off":
            return (Sleep(device=device),)
        case "restart":
            return (Sleep(device=device), WakeUp(device=device))
        case "swap-battery":
            return (FitBattery(device=device),)


def to_link(link: Link) -> tuple[Act, ...]:
    """The acts by which a cable is pulled, a part taken off, or two radios parted."""
    return (PartRadios(a=link.a, b=link.b),) if link.is_radio else (Unplug(a=link.a, b=link.b),)
