"""What we say of rigs and plans: words, figures, the drawing. No rule of the trade is decided here."""

from isotact.core.telling.figures import Figures, battery_hours, figures
from isotact.core.telling.phrases import promise_words
from isotact.core.telling.rig_map import Drawing, draw

__all__ = ["Drawing", "Figures", "battery_hours", "draw", "figures", "promise_words"]
