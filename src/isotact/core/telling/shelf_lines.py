"""A profile on the shelf, in the few words by which it is chosen: mount, ports, feed, functions."""

from collections import Counter
from collections.abc import Iterator

from isotact.core.model.profile import Profile
from isotact.core.model.vocabulary import vocabulary


def what_matters(profile: Profile) -> Iterator[str]:
    """What somebody reaching for it asks, a line each; a line that would be empty is left out."""
    mates = [port.shown[2] for port in profile.ports if port.is_direct]
    sockets = [f"{port.marking} ({port.shown[2]})" for port in profile.ports if not port.is_direct]
    if mates:
        yield f"Mounts: {_counted(mates)}."
    if sockets:
        yield f"Ports: {', '.join(sockets)}."
    if profile.radios:
        yield f"Radio: {', '.join(radio.name for radio in profile.radios)}."
    yield from _feed(profile)
    taken = dict.fromkeys(f for one in profile.accepts for f in one.functions)
    given = dict.fromkeys(f for one in profile.emits for f in one.functions)
    if given:
        yield f"Gives: {_named(given)}."
    if taken:
        yield f"Takes: {_named(taken)}."
    if profile.shows:
        yield "Shows a picture."


def what_sets_apart(profile: Profile) -> str:
    """What tells a device from its neighbours on the shelf, in one line: mounts, sockets, screens, feed."""
    mates = [port.shown[2] for port in profile.ports if port.is_direct]
    sockets = [port.shown[2] for port in profile.ports if not port.is_direct]
    parts = [_counted(names) for names in (mates, sockets) if names]
    parts += [radio.name for radio in profile.radios]
    if profile.power:
        battery = profile.power.inner_battery
        parts.append(f"{profile.power.draw_w:g} W" + (f" from its own {battery.energy_wh:g} Wh" if battery else ""))
    elif not parts:
        parts = [profile.summary]
    return " · ".join(parts)


def _feed(profile: Profile) -> Iterator[str]:
    power = profile.power
    if power is None:
        return
    battery = power.inner_battery
    own = f", own battery {battery.energy_wh:g} Wh" if battery else ", no battery of its own"
    yield f"Feed: draws {power.draw_w:g} W{own}."


def _named(functions: dict[str, None]) -> str:
    return ", ".join(vocabulary().functions[key].name for key in functions)


def _counted(names: list[str]) -> str:
    counts = Counter(names)
    return ", ".join(f"{count} x {name}" if count > 1 else name for name, count in counts.items())
