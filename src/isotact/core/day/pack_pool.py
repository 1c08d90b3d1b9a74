"""The packs of a day, sorted by what they fit into, and what charges them."""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from math import floor

from isotact.core.day.battery_seats import STEP_MIN, BatterySeat
from isotact.core.day.rota import ChargerIs
from isotact.core.model.behaviour import Charger, InnerBattery
from isotact.core.model.kit import Kit, KitDevice, Pack
from isotact.core.model.profile import Profile

CHARGED_SHARE = 0.85
"""What arrives in the cells of what a charger's slot gives: the rest is heat, and the slow end of a charge. Common
practice, no source."""
WALL_SHARE = 0.85
"""What a charger gives of what it takes from the wall. Common practice, no source."""
SOONEST_FULL_H = 1.5
"""From empty to full no sooner than this where nobody said: two thirds of its amp hours in amps. Common practice, no
source."""
LOST_A_YEAR = 0.05
"""What a lithium pack holds less for every year of its age. Common practice, no source: a reading says more."""
LEAST_HEALTH = 0.5
"""An older pack than that nobody takes out any more."""
UNSAID = "nobody said, taken as new"
"""What stands by the health of a pack of which nothing is known."""
BY_USB = "usb"
"""Among what a charger charges: whatever has its battery built in and a USB inlet."""


@dataclass(frozen=True)
class OnePack:
    """A pack of the day. `of`: what it is; `charge`: the share that is in it at the call; `seat`: where it is then."""

    key: str
    sort: str
    of: InnerBattery
    energy_wh: float
    health: float
    charge: float
    seat: str | None = None
    said: str = ""


@dataclass
class PackPool:
    """All packs of a day by sort, and what was left out or taken to be so, in words."""

    packs: list[OnePack] = field(default_factory=list)
    assumed: list[str] = field(default_factory=list)


def sort_of(profile: Profile, battery: InnerBattery, profiles: Mapping[str, Profile]) -> str:
    """What packs go by: two of one sort go into the same seats.

    A battery that is called as a pack of the catalogue is one: a monitor's “plate battery” is a `plate-battery`.
    """
    if is_pack(profile):
        return profile.id
    known = profiles.get(battery.name.replace(" ", "-"))
    if battery.fitted and known is not None and is_pack(known):
        return known.id
    return f"{battery.name}, {battery.energy_wh:g} Wh"


def is_pack(profile: Profile) -> bool:
    """Whether it is a pack itself: it is never switched on, and takes nothing."""
    power = profile.power
    return profile.wake is None and power is not None and power.inner_battery is not None and not power.draw_w


def health_by_age(bought: str, date: str) -> float:
    """What is left of a pack that was new on one date, on another."""
    (year, month), (now_year, now_month) = ((int(day[:4]), int(day[5:7])) for day in (bought, date))
    years = max(0.0, now_year - year + (now_month - month) / 12)
    return max(LEAST_HEALTH, 1 - LOST_A_YEAR * years)


def pool_of(seats: Sequence[BatterySeat], kit: Kit | None, profiles: Mapping[str, Profile], date: str) -> PackPool:
    """The packs in the seats, those of the kit, and where the kit has none of a sort, the spares that a rig counts."""
    return _Pooling(seats, kit, profiles, date).pool()


class _Pooling:
    def __init__(
        self, seats: Sequence[BatterySeat], kit: Kit | None, profiles: Mapping[str, Profile], date: str
    ) -> None:
        self.seats, self.kit, self.profiles, self.date = seats, kit, profiles, date
        self.found = PackPool()
        self.sorts = {seat.key: sort_of(seat.placed.profile, seat.battery, profiles) for seat in seats}

    def pool(self) -> PackPool:
        named = {pack.tag: pack for pack in self.kit.packs} if self.kit else {}
        for seat in self.seats:
            self._in_the_seat(seat, named)
        from_kit: set[str] = set()
        if self.kit is not None:
            for sort, of, packs in self._kit_packs():
                from_kit.add(sort)
                self._as_sets(sort, of, packs)
            from_kit |= set(self._kit_devices())
        self._spares(from_kit)
        return self.found

    def _in_the_seat(self, seat: BatterySeat, named: dict[str, Pack]) -> None:
        device, of = seat.placed.device, seat.battery
        key = device.tag if is_pack(seat.placed.profile) and device.tag else f"{seat.placed.name}'s own"
        if any(one.key == key for one in self.found.packs):
            key = f"{key}, {seat.of.rig.rig.camera}"
        pack = named.get(device.tag or "")
        health, said = (1.0, UNSAID) if pack is None else self._health(pack)
        if device.health_percent is not None:
            health, said = device.health_percent / 100, ""
        charge = (100 if device.charge_percent is None else device.charge_percent) / 100
        energy = (pack.energy_wh if pack is not None else None) or of.energy_wh
        self.found.packs.append(OnePack(key, self.sorts[seat.key], of, energy, health, charge, seat.key, said))

    def _health(self, pack: Pack) -> tuple[float, str]:
        """What is taken for the health of a pack, and what that rests on, where nobody said it outright."""
        if pack.health_percent is not None:
            return pack.health_percent / 100, ""
        return (1.0, UNSAID) if pack.bought is None else (health_by_age(pack.bought, self.date), "by its age")

    def _kit_packs(self) -> Iterator[tuple[str, InnerBattery, list[Pack]]]:
        """The kit's packs with a mark of their own, by sort; those that are in a seat left out."""
        tags = {seat.placed.device.tag for seat in self.seats}
        by_sort: dict[str, tuple[InnerBattery, list[Pack]]] = {}
        for pack in self.kit.packs if self.kit else ():
            if pack.tag in tags:
                continue
            fits = {
                self.sorts[seat.key]: seat.battery
                for seat in self.seats
                if (pack.fits is not None and seat.battery.fitted and seat.battery.name == pack.fits)
                or (pack.battery is not None and self._sort_of_profile(pack.battery) == self.sorts[seat.key])
            }
            if len(fits) > 1 and pack.energy_wh is not None:
                each = {sort: of for sort, of in fits.items() if of.energy_wh == pack.energy_wh * of.packs}
                fits = each or fits
            if len(fits) > 1:
                several = " or ".join(sorted(fits))
                self.found.assumed.append(f"Pack {pack.tag} could be {several}: say its watt hours. Not counted.")
            elif fits:
                (sort, of), *_ = fits.items()
                by_sort.setdefault(sort, (of, []))[1].append(pack)
        for sort, (of, packs) in by_sort.items():
            yield sort, of, packs

    def _sort_of_profile(self, profile: str) -> str | None:
        known = self.profiles.get(profile)
        battery = known.power.inner_battery if known is not None and known.power is not None else None
        return None if known is None or battery is None else sort_of(known, battery, self.profiles)

    def _as_sets(self, sort: str, of: InnerBattery, packs: Sequence[Pack]) -> None:
        """Where a seat takes several at a time they go as a set."""
        for number in range(len(packs) // of.packs):
            those = packs[number * of.packs : (number + 1) * of.packs]
            energy = sum(one.energy_wh or of.energy_wh / of.packs for one in those)
            health, said = min(self._health(one) for one in those)
            charge = min(1.0 if one.charge_percent is None else one.charge_percent / 100 for one in those)
            key = "+".join(one.tag for one in those)
            self.found.packs.append(OnePack(key, sort, of, energy, health, charge, said=said))
        rest = packs[len(packs) // of.packs * of.packs :]
        for one in rest:
            self.found.assumed.append(f"Pack {one.tag} makes no set of {of.packs}: not counted.")

    def _kit_devices(self) -> Iterator[str]:
        """Packs that the kit has as devices, beyond those in the rigs of the day."""
        wanted = set(self.sorts.values())
        for item in self.kit.devices if self.kit else ():
            profile = self.profiles.get(item.profile)
            battery = profile.power.inner_battery if profile is not None and profile.power is not None else None
            if profile is None or battery is None or not is_pack(profile) or profile.id not in wanted:
                continue
            yield profile.id
            for key in self._beyond(item):
                self.found.packs.append(OnePack(key, profile.id, battery, battery.energy_wh, 1.0, 1.0, said=UNSAID))

    def _beyond(self, item: KitDevice) -> list[str]:
        own = [seat.placed.device for seat in self.seats if seat.placed.profile.id == item.profile]
        in_use = {device.tag for device in own}
        marked = {pack.tag for pack in self.kit.packs} - in_use if self.kit else set()
        tags = [tag for tag in item.tags if tag not in in_use and tag not in marked]
        several = max(0, item.count - len(own) - len(marked & set(item.tags)))
        numbered = [f"{item.profile} {number + 1}" for number in range(several)]
        return [*tags, *numbered][:several]

    def _spares(self, from_kit: set[str]) -> None:
        for seat in self.seats:
            spares, sort = seat.placed.device.spare_batteries, self.sorts[seat.key]
            if sort in from_kit or not seat.battery.fitted:
                continue
            for number in range(spares or 0):
                key = f"{seat.placed.name}'s spare {number + 1}"
                self.found.packs.append(OnePack(key, sort, seat.battery, seat.battery.energy_wh, 1.0, 1.0, said=UNSAID))
            if spares is None and not any(one.sort == sort and one.seat is None for one in self.found.packs):
                self.found.assumed.append(f"Nobody said of spares for {seat.placed.name}: reckoned with none.")


def chargers_of(kit: Kit | None, profiles: Mapping[str, Profile], seats: Sequence[BatterySeat]) -> list[ChargerIs]:
    """The kit's chargers, each with what it puts into a pack of every sort that it is made for."""
    found = []
    for item in kit.devices if kit else ():
        profile = profiles.get(item.profile)
        if profile is None or profile.charger is None:
            continue
        gains = gains_of(profile.charger, seats, profiles)
        pieces = {sort_of(seat.placed.profile, seat.battery, profiles): seat.battery.packs for seat in seats}
        for number in range(item.count):
            mark = item.tags[number] if number < len(item.tags) else f"{profile.name} {number + 1}"
            watts = round(profile.charger.gives_w / WALL_SHARE)
            found.append(ChargerIs(mark, profile.charger.at_once, gains, watts, pieces))
    return found


def gains_of(charger: Charger, seats: Sequence[BatterySeat], profiles: Mapping[str, Profile]) -> dict[str, int]:
    """What one of its slots puts into a pack in a step, by sort, in thousandths of a watt hour."""
    gains: dict[str, int] = {}
    for seat in seats:
        profile, battery = seat.placed.profile, seat.battery
        names = {profile.id, sort_of(profile, battery, profiles), *((battery.name,) if battery.fitted else ())}
        if names & set(charger.charges) or (BY_USB in charger.charges and _charges_by_usb(profile, battery)):
            soonest_h = SOONEST_FULL_H if battery.charge_h is None else battery.charge_h
            together = min(charger.at_once, battery.packs)
            watts = min(CHARGED_SHARE * charger.gives_w * together, battery.energy_wh / soonest_h)
            gains[sort_of(profile, battery, profiles)] = floor(watts * 1000 * STEP_MIN / 60)
    return {sort: gain for sort, gain in gains.items() if gain}


def _charges_by_usb(profile: Profile, battery: InnerBattery) -> bool:
    inlets = [
        port for port in profile.ports for role in port.roles if role.is_inlet and port.connector.startswith("usb")
    ]
    return not battery.fitted and bool(inlets)
