"""What builds that were in balance say of where things sit, and what the build that stands now says."""

from __future__ import annotations

from collections.abc import Mapping
from typing import TYPE_CHECKING, Literal
from zlib import crc32

from isotact.core.calc.moments import Balancing
from isotact.core.model.gimbals import StoodReading
from isotact.core.model.resolved import Placed, ResolvedRig
from isotact.core.trades.balance.places import Cage

if TYPE_CHECKING:
    from isotact.core.calc.centres import Centres

ALONG: tuple[Literal["right", "forward", "up"], ...] = ("right", "forward", "up")


def thing(placed: Placed) -> str:
    """A device as it is described now: described otherwise, what was learned of it no longer counts."""
    device = placed.device
    told = (device.profile, device.mass_g, device.centre, device.sits, placed.stage)
    return f"{device.id}:{crc32(repr(told).encode()):08x}"


def things(cage: Cage) -> dict[str, str]:
    """Device -> what it is called where something is learned of it, for all that is carried."""
    return {device: thing(cage.rig[device]) for device in cage.boxes}


def readings_now(cage: Cage, raw: Balancing) -> list[StoodReading]:
    """What the scales say where they stand now, taken to be in balance; of the directions whose scales were noted."""
    now = cage.rig[cage.gimbal].device.marks_mm
    names, found = things(cage), []
    for axis, along in dict.fromkeys((one.axis, one.along) for one in cage.carrier.slides):
        needed = [one.key for one in raw.slides if one.along == along and _turns(raw, axis, one.axis)]
        weight = raw.turned_g(axis)
        if not weight or not all(key in now for key in needed):
            continue
        shares = {
            names[one.key]: one.mass_g / weight
            for one in raw.masses
            if one.key in names and one.rides in raw.carried[axis]
        }
        # What is there is where the moments add up to nought: it is off by as much as the reckoned ones do not.
        off_mm = -raw.moment_g_mm(axis, along, now) / weight
        found.append(StoodReading(axis=axis, along=ALONG[along], off_mm=round(off_mm, 3), shares=shares))
    return found


def _turns(raw: Balancing, axis: str, other: str) -> bool:
    """Whether one axis turns another, or is it."""
    return raw.carried[other] <= raw.carried[axis]


def learned_from(cage: Cage) -> Mapping[int, Centres]:
    """Direction -> what the builds that were noted on this gimbal say of it; nothing from fewer than two."""
    rig: ResolvedRig = cage.rig
    stood = [one for one in rig.rig.stood if one.gimbal == cage.gimbal]
    if len(stood) < 2:
        return {}
    # Its arrays take longer to load than everything else that a plan needs, and most rigs have nothing to learn from.
    from isotact.core.calc.centres import Reading, learned

    names, found = things(cage), {}
    for along, word in enumerate(ALONG):
        readings = [Reading(one.off_mm, one.shares) for build in stood for one in build.readings if one.along == word]
        if readings:
            spreads = {names[key]: max(box.spread[along], 0.1) for key, box in cage.boxes.items()}
            others = {key for one in readings for key in one.shares} - {*spreads}
            # What is not here any more, or is described otherwise now, was known no better than what is.
            usual = max(spreads.values(), default=1.0)
            found[along] = learned(readings, {**spreads, **dict.fromkeys(others, usual)})
    return found
