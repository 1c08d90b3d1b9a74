"""Candidate joins, routes, the choice between them, and the reasons for what cannot be kept.

Knows nothing of steps, worlds or screens.
"""

from isotact.core.wiring.candidates import candidates
from isotact.core.wiring.drawing import Drawing, draw
from isotact.core.wiring.planner import plan, search
from isotact.core.wiring.solving import warm_up
from isotact.core.wiring.wording import promise_words

__all__ = ["Drawing", "candidates", "draw", "plan", "promise_words", "search", "warm_up"]
