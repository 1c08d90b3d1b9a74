"""What may become of a rig that stands: a change of mind, another piece, a mishap."""

from random import Random
from typing import Any

from isotact.core.model import ResolvedRig, Rig, resolve
from isotact.core.trades import perform
from isotact.core.trades.cables.acts import Unplug
from isotact.core.trades.power import RunFlat
from isotact.core.trades.waking import Sleep, WakeUp
from isotact.core.world import Cables, World


def edited(chance: Random, rig: ResolvedRig) -> ResolvedRig:
    """The same rig after a change of mind: a promise or a device less, a cable missing, a mode, a piece exchanged."""
    document = rig.rig.model_dump(mode="json")
    match chance.choice(["promise", "device", "bag", "mode", "exchange"]):
        case "promise" if document["promises"]:
            document["promises"].remove(chance.choice(document["promises"]))
        case "device":
            return without(rig, chance.choice(document["devices"])["id"])
        case "bag" if document["bag"]:
            chance.choice(document["bag"])["count"] = 0
        case "mode":
            device = chance.choice(document["devices"])
            modes = rig[device["id"]].profile.modes
            device["mode"] = chance.choice(modes.values).id if modes else None
        case "exchange":
            return exchanged(rig, chance.choice(document["devices"])["id"])
    return _resolved(rig, document)


def without(rig: ResolvedRig, device: str) -> ResolvedRig:
    """`rig` with a device less, and without what was promised of it."""
    document = rig.rig.model_dump(mode="json")
    document["devices"] = [one for one in document["devices"] if one["id"] != device]
    document["promises"] = [
        one
        for one in document["promises"]
        if device not in {one.get("to"), one.get("of"), one.get("at", {}).get("device")}
    ]
    return _resolved(rig, document)


def exchanged(rig: ResolvedRig, device: str) -> ResolvedRig:
    """`rig` with another piece of the same kind in the place of a device."""
    document = rig.rig.model_dump(mode="json")
    other = f"{device}-new"
    for one in document["devices"]:
        if one["id"] == device:
            one["id"] = other
    for one in document["promises"]:
        for field in ("to", "of"):
            if one.get(field) == device:
                one[field] = other
        if one.get("at", {}).get("device") == device:
            one["at"]["device"] = other
    return _resolved(rig, document)


def _resolved(rig: ResolvedRig, document: dict[str, Any]) -> ResolvedRig:
    changed = Rig.model_validate({**document, "pins": [], "recipes": []})
    profiles = {placed.profile.id: placed.profile for placed in rig.devices.values()}
    return resolve(changed, profiles, rig.cables)


def troubled(chance: Random, world: World) -> None:
    """One thing goes wrong in a built rig: a battery dies, a lead is pulled, a device is restarted or goes off."""
    device, plugs = chance.choice(sorted(world.out)), list(world[Cables].plugs.values())
    wakes = world.rig[device].profile.wake is not None
    match chance.choice(["flat", "pulled", "restarted", "off"]):
        case "flat":
            perform(world, RunFlat(device=device))
        case "pulled" if plugs:
            plug = chance.choice(plugs)
            perform(world, Unplug(a=plug.a, b=plug.b))
        case kind if wakes:
            perform(world, Sleep(device=device))
            if kind == "restarted":
                perform(world, WakeUp(device=device))
