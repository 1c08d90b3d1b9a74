"""Batteries on a flight: watt hours of each, and the limits that most carriers keep. The carrier and the law decide.

The limits are those of the IATA Dangerous Goods Regulations, table 2.3.A, for passengers (from memory): up to 100 Wh in
the cabin, over 100 to 160 Wh with the carrier's approval and two spares at most, more than that as cargo only.
"""

from collections.abc import Iterator, Mapping

from isotact.core.day.rota_answers import CarryRow
from isotact.core.model.behaviour import InnerBattery
from isotact.core.model.kit import Kit
from isotact.core.model.profile import Profile

CABIN_WH = 100.0
"""Up to so much each goes into the cabin unasked. IATA DGR table 2.3.A, from memory."""
ASK_WH = 160.0
"""Up to so much each where the carrier agrees, two spares a person at most. The same table."""
LITHIUM = ("li-ion", "li-iron")
"""The chemistries that the limits are for."""

_SAYS = {
    "cabin": "In the cabin: spares one by one, their terminals covered. Ask the carrier.",
    "ask": "Only where the carrier agrees beforehand: two spares a person at most, terminals covered.",
    "cargo": "Not with passengers: as cargo, by who is licensed for it.",
    "other": "No lithium: terminals covered. Ask the carrier.",
}


def transport(kit: Kit | None, profiles: Mapping[str, Profile]) -> tuple[CarryRow, ...]:
    """A row for each sort of battery of the kit, the ones that are hardest to fly first."""
    counted: dict[tuple[str, float, str], int] = {}
    for name, each_wh, count, chemistry in _batteries(kit, profiles):
        key = (name, round(each_wh, 1), chemistry)
        counted[key] = counted.get(key, 0) + count
    rows = [_row(name, count, each_wh, chemistry) for (name, each_wh, chemistry), count in counted.items()]
    return tuple(sorted(rows, key=lambda one: (-one.each_wh, one.name)))


def _row(name: str, count: int, each_wh: float, chemistry: str) -> CarryRow:
    if chemistry not in LITHIUM:
        return CarryRow(name=name, count=count, each_wh=each_wh, carry="other", says=_SAYS["other"])
    if each_wh <= CABIN_WH:
        return CarryRow(name=name, count=count, each_wh=each_wh, carry="cabin", says=_SAYS["cabin"])
    if each_wh <= ASK_WH:
        return CarryRow(name=name, count=count, each_wh=each_wh, carry="ask", says=_SAYS["ask"])
    return CarryRow(name=name, count=count, each_wh=each_wh, carry="cargo", says=_SAYS["cargo"])


def _batteries(kit: Kit | None, profiles: Mapping[str, Profile]) -> Iterator[tuple[str, float, int, str]]:
    """Name, watt hours of each, how many, and chemistry: those in devices, and the packs with a mark of their own."""
    if kit is None:
        return
    tags = {tag for item in kit.devices for tag in item.tags}
    for item in kit.devices:
        battery = _inner(profiles.get(item.profile))
        if battery is not None and item.count:
            name = f"{profiles[item.profile].name}: {battery.name}"
            yield name, battery.energy_wh / battery.packs, item.count * battery.packs, battery.chemistry
    for pack in kit.packs:
        if pack.tag in tags:
            continue  # counted among the devices
        named = _inner(profiles.get(pack.battery)) if pack.battery is not None else _fitting(pack.fits, kit, profiles)
        each_wh = pack.energy_wh or (named.energy_wh / named.packs if named is not None else None)
        if each_wh is not None:
            known = profiles.get(pack.battery) if pack.battery is not None else None
            name = f"Spare: {known.name if known is not None else pack.fits}"
            yield name, each_wh, 1, named.chemistry if named is not None else LITHIUM[0]


def _inner(profile: Profile | None) -> InnerBattery | None:
    return profile.power.inner_battery if profile is not None and profile.power is not None else None


def _fitting(name: str | None, kit: Kit, profiles: Mapping[str, Profile]) -> InnerBattery | None:
    """The battery of that name in a device of the kit; of several the one of most watt hours, to be safe."""
    found = [inner for item in kit.devices if (inner := _inner(profiles.get(item.profile))) and inner.name == name]
    return max(found, key=lambda one: one.energy_wh, default=None)
