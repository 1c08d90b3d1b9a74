"""From a plan to ordered steps: a sheet that can be carried out and stays carried out.

What a step does and what it makes true belongs to its trade; here they are only tied together and put in order.
"""

from isotact.core.runsheet.changed_rig import mid_day, moved_to
from isotact.core.runsheet.first_build import not_to_be_built, run_sheet
from isotact.core.runsheet.full_sheet import graph_of
from isotact.core.runsheet.partial_sheet import sheet_between
from isotact.core.runsheet.sheet import RunSheet, Step
from isotact.core.runsheet.topological_order import NoOrderError, in_order

__all__ = [
    "NoOrderError",
    "RunSheet",
    "Step",
    "graph_of",
    "in_order",
    "mid_day",
    "moved_to",
    "not_to_be_built",
    "run_sheet",
    "sheet_between",
]
