"""What breaks, and what it shows. So far every single fault of a rig put in once; finder and training come here."""

from isotact.core.faults.coverage import Covered, checks_of, coverage

__all__ = ["Covered", "checks_of", "coverage"]
