"""What somebody saw, and how likely that is where a thing is so: answers are noisy, so nothing is ever struck out."""

import numpy as np

MISREAD = 0.08
"""How often an answer is not what is there: a dark lamp taken for a blue one, a plug called home that is not. Common
practice, no source; the finder is tried with one wrong answer in ten."""
MISREAD_PROMISE = 0.03
"""The same of a promise that was worked: somebody waits for it, and looks twice."""
ELSE_SOUND = 0.85
"""How often a look shows what it should where the fault is not in the list: most of the rig is sound then as well."""
ELSE_ALIKE = 0.5
"""How far a fault that is not in the list shows as those do that are. Chosen by trial."""
ELSE_WORKS = 0.5
"""How often a promise works then: nothing is known of what such a fault stops."""


def likelihood(outcome: np.ndarray, answered: int, words: int, misread: float) -> np.ndarray:
    """P(answer | hypothesis), for each hypothesis, where outcome `answered` of `words` was named.

    `outcome`: what each would show, -1 where two faults at once leave open which of theirs is seen. What is not in the
    list of outcomes may be seen as well, so that one look of a single outcome tells a little.
    """
    wrong = misread / max(words, 1)
    likely = np.where(outcome == answered, 1.0 - misread, wrong)
    return np.where(outcome == -1, (1.0 - misread) / 2, likely)


def odd_likelihood(outcome: np.ndarray, good: int, misread: float) -> np.ndarray:
    """P(it is not as it should be | hypothesis)."""
    return np.where(outcome == good, misread, 1.0 - misread)


def else_likelihood(is_sound: bool, others: int, is_promise: bool, listed: float) -> float:
    """P(answer | a fault that is not in the list).

    Part of it behaves as those in the list do on average after what was seen (`listed`): a screen stays dark whatever
    it is that keeps the picture from it. The rest leaves the look sound, or spoils it in one of `others` ways.
    """
    sound = ELSE_WORKS if is_promise else ELSE_SOUND
    return ELSE_ALIKE * listed + (1.0 - ELSE_ALIKE) * (sound if is_sound else (1.0 - sound) / max(others, 1))
