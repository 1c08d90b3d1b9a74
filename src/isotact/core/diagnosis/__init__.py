"""Finding what is wrong: hypotheses, what each would show, what was seen, and the look that tells most a minute.

What reckons with arrays (`table`, `belief`, `next_look`, `finder`, `cures`, `sights`) is imported where it is used: the
application is there sooner without.
"""

from isotact.core.diagnosis.findings import CURED, STILL, Cause, Finding, LookOutcome, NextLook, Seen, Sight
from isotact.core.diagnosis.hitting_sets import minimal_diagnoses, minimal_hitting_sets
from isotact.core.diagnosis.hypotheses import UNFINISHED, Hypothesis
from isotact.core.diagnosis.situation import Happened, Situation, Standing

__all__ = [
    "CURED",
    "STILL",
    "UNFINISHED",
    "Cause",
    "Finding",
    "Happened",
    "Hypothesis",
    "LookOutcome",
    "NextLook",
    "Seen",
    "Sight",
    "Situation",
    "Standing",
    "minimal_diagnoses",
    "minimal_hitting_sets",
]
