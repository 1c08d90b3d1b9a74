"""Loss over a free path, and what is left of a claimed range."""

import math

# Exact by definition (SI brochure, 9th edition).
SPEED_OF_LIGHT_M_S = 299_792_458


def free_space_loss_db(distance_m: float, frequency_hz: float) -> float:
    """The loss between isotropic antennas: 20 log10(4 pi d f / c), ITU-R P.525. Both arguments above nought."""
    return 20 * math.log10(4 * math.pi * distance_m * frequency_hz / SPEED_OF_LIGHT_M_S)


def margin_db(claimed_m: float, needed_m: float) -> float:
    """How many decibels stronger the signal is at `needed_m` than at the end of the claimed range, in the open."""
    return 20 * math.log10(claimed_m / needed_m)
