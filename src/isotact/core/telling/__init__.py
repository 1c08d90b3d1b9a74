"""What we say of rigs and plans: words, figures, the drawing. No rule of the trade is decided here."""

from isotact.core.telling.faces import Face, face
from isotact.core.telling.figures import Figures, battery_hours, figures
from isotact.core.telling.outlines import OUTLINES, UNKNOWN, Outline
from isotact.core.telling.phrases import promise_words
from isotact.core.telling.rig_map import Drawing, draw

__all__ = [
    "OUTLINES",
    "UNKNOWN",
    "Drawing",
    "Face",
    "Figures",
    "Outline",
    "battery_hours",
    "draw",
    "face",
    "figures",
    "promise_words",
]
