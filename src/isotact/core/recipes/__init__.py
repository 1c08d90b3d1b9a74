"""Which recipes may help a rig, and how far their tally can be trusted. Never a sure thing; no plan is made here."""

from isotact.core.recipes.offering import Offer, offers
from isotact.core.recipes.tally import Rate, rate

__all__ = ["Offer", "Rate", "offers", "rate"]
