"""What a plan costs, in points: one place, so that planner, explanation and tests agree on the price list."""

JOIN = 10
DIRECT = 2
RADIO = 6
ADAPTER = 6
AXIS = 4
PER_100_MM = 1
MODE = 5
SETTING = 3
ANSWER = 1
DEVICE = 5
PER_10_MS = 1

WORDS = {
    "join": ("cables to plug", JOIN),
    "direct": ("parts to mount", DIRECT),
    "radio": ("radio links to make", RADIO),
    "adapter": ("adapters", ADAPTER),
    "axis": ("axes crossed by cables", AXIS),
    "length": ("cable length, per 10 cm", PER_100_MM),
    "mode": ("modes to change", MODE),
    "setting": ("settings to change", SETTING),
    "answer": ("prompts to answer", ANSWER),
    "device": ("devices in use", DEVICE),
    "delay": ("picture delay, per 10 ms", PER_10_MS),
}


def length_units(length_mm: float) -> int:
    """Whole tenths of a metre, rounded up."""
    return int(-(-length_mm // 100))


def delay_units(delay_ms: float) -> int:
    """Whole tens of milliseconds, rounded up."""
    return int(-(-delay_ms // 10))
