"""What we say of rigs and plans: words, figures, the drawing. No rule of the trade is decided here."""

from isotact.core.telling.drawing import Drawing, draw
from isotact.core.telling.figures import Figures, figures
from isotact.core.telling.words import promise_words

__all__ = ["Drawing", "Figures", "draw", "figures", "promise_words"]
