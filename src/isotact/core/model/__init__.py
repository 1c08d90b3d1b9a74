"""The documents of Isotact: profiles, cable types, kits, rigs, plans. Plain data, checked when read.

No engine belongs here; nothing here reads files.
"""

from isotact.core.model.cable import CableType
from isotact.core.model.kit import Kit
from isotact.core.model.plan import Plan
from isotact.core.model.problems import IsotactError, NotFoundError, Problem, RefusedError, StaleWriteError
from isotact.core.model.profile import Profile
from isotact.core.model.resolved import Placed, ResolvedRig, resolve
from isotact.core.model.rig import Rig

__all__ = [
    "CableType",
    "IsotactError",
    "Kit",
    "NotFoundError",
    "Placed",
    "Plan",
    "Problem",
    "Profile",
    "RefusedError",
    "ResolvedRig",
    "Rig",
    "StaleWriteError",
    "resolve",
]
