"""The keys that more than one place has to make: of the steps and conditions that others wait for, spoil or ask about.

A key that only its own condition makes is made there, by `Key.of`.
"""

from isotact.core.model.keys import Between, Key, Subject

ANY_BALANCE = Key.of("balance")
"""What is spoilt when a weight is moved: the balance of whatever carries it."""


def awake_key(device: str) -> Key:
    """The condition that `device` is up."""
    return Key.of("awake", device)


def joined_key(between: Between) -> Key:
    """The condition that two ends are joined."""
    return Key.of("joined", between)


def mode_key(device: str, *words: Subject) -> Key:
    """The condition that a device stands in its mode, and the step that sets it; `words`: what is set with it."""
    return Key.of("mode", device, *words)


def wake_key(device: str) -> Key:
    """The step that wakes `device`."""
    return Key.of("wake", device)


def menu_sleep_key(device: str) -> Key:
    """The step that switches `device` off again after its menus were visited."""
    return Key.of("menu-sleep", device)


def plug_key(between: Between) -> Key:
    """The step that joins two ends."""
    return Key.of("plug", between)


def meet_key(between: Between) -> Key:
    """The step by which two radios meet."""
    return Key.of("meet", between)


def fit_key(device: str) -> Key:
    """The step that puts a battery into `device`."""
    return Key.of("fit", device)


def balance_key(device: str) -> Key:
    """The step that balances a gimbal."""
    return Key.of("balance", device)


def prove_key(promise: str) -> Key:
    """The step that works a promise; a tick of it is the proof by hand."""
    return Key.of("prove", promise)
