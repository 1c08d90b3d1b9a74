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


GET_CABLE = 25
GET_ADAPTER = 20
GET_SPLITTER = 35
GET_DEVICE = 80
GET_PER_100_G = 2
LOAD_FIRMWARE = 30
LOAD_LICENCE = 60
DROP_PER_WEIGHT = 40
"""What changes cost, beside each other: something small to get is better than a promise dropped; a device is dear."""


GET = {"cable": GET_CABLE, "adapter": GET_ADAPTER, "splitter": GET_SPLITTER}


def get_device(mass_g: float) -> int:
    """The price of bringing a device: what is heavy is a nuisance besides."""
    return GET_DEVICE + GET_PER_100_G * int(-(-mass_g // 100))
