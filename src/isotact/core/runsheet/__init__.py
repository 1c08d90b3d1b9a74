"""Conditions put in an order in which each can be made true and stays true.

Reads conditions and steps only; what a step does to a rig is the bench's affair.
"""

from isotact.core.runsheet.building import run_sheet
from isotact.core.runsheet.ordering import NoOrderError

__all__ = ["NoOrderError", "run_sheet"]
