"""The acts of which an incident is made up: on the bench it is done as it would be done by hand."""

from isotact.core.model.incidents import Incident
from isotact.core.model.plan import Link
from isotact.core.trades.base import HandAct
from isotact.core.trades.cables.acts import Unplug
from isotact.core.trades.power.acts import FitBattery
from isotact.core.trades.radio.acts import PartRadios
from isotact.core.trades.waking.acts import Sleep, WakeUp


def acts_at_device(incident: Incident, device: str) -> tuple[HandAct, ...]:
    """What is done at `device`. Raises LookupError for what happens to joins only."""
    match incident:
        case Incident.SWITCHED_OFF:
            return (Sleep(device=device),)
        case Incident.RESTARTED:
            return (Sleep(device=device), WakeUp(device=device))
        case Incident.BATTERY_CHANGED:
            return (FitBattery(device=device),)
        case Incident.PULLED:
            raise LookupError("a join is pulled, not a device")


def acts_at_link(link: Link) -> tuple[HandAct, ...]:
    """How a cable is pulled, a part taken off, or two radios parted."""
    return (PartRadios(a=link.a, b=link.b),) if link.is_radio else (Unplug(a=link.a, b=link.b),)
