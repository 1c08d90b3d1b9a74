"""Small rigs for tests: profiles written in a few words, and variations of the demo rig."""

from collections.abc import Callable
from dataclasses import dataclass
from functools import cache
from typing import Any

from isotact.catalogue import read_file, shipped
from isotact.core.bench import carry_through
from isotact.core.faults import Covered, coverage
from isotact.core.model import CableType, Plan, Profile, ResolvedRig, Rig, resolve
from isotact.core.planning import plan
from isotact.core.runsheet import RunSheet, run_sheet
from isotact.core.trades import Condition, conditions_of
from isotact.core.world import World
from isotact.demo import FOLDER, demo_files
from isotact.examples import examples

DEMO = "night-ferry-b.yaml"


def demo_rig() -> Rig:
    return read_file(FOLDER / DEMO, Rig)


def demo(change: Callable[[dict[str, Any]], object] | None = None) -> ResolvedRig:
    """The demo rig, with its document changed by `change`."""
    data = demo_rig().model_dump(mode="json")
    if change:
        change(data)
    catalogue = shipped()
    return resolve(Rig.model_validate(data), catalogue.profiles, catalogue.cables)


SHIPPED: dict[str, Rig] = {
    rig.id: rig
    for rig in (*(read_file(file, Rig) for file in demo_files()), *(rig for one in examples() for rig in one.rigs))
}
"""Every rig of the demo and of the examples."""


@dataclass(frozen=True)
class Carried:
    """A rig, its plan, what that rests on, its sheet, and the world at the end of it: fork it, do not change it."""

    rig: ResolvedRig
    plan: Plan
    conditions: tuple[Condition, ...]
    sheet: RunSheet
    world: World

    @classmethod
    def out(cls, rig: ResolvedRig, made: Plan | None = None) -> "Carried":
        """Plan `rig`, where it is not planned yet, and carry it out."""
        made = plan(rig) if made is None else made
        conditions = conditions_of(rig, made)
        sheet = run_sheet(rig, made, conditions)
        return cls(rig, made, conditions, sheet, carry_through(rig, sheet))


@cache
def carried(rig_id: str) -> Carried:
    """A shipped rig, carried out once for all tests."""
    catalogue = shipped()
    return Carried.out(resolve(SHIPPED[rig_id], catalogue.profiles, catalogue.cables))


@cache
def covered(rig_id: str) -> list[Covered]:
    """Every fault of a shipped rig, put in once for all tests."""
    return coverage(carried(rig_id).rig, carried(rig_id).plan)


def promise_of(data: dict[str, Any], key: str) -> dict[str, Any]:
    found: dict[str, Any] = next(promise for promise in data["promises"] if promise["id"] == key)
    return found


def device_of(data: dict[str, Any], key: str) -> dict[str, Any]:
    found: dict[str, Any] = next(device for device in data["devices"] if device["id"] == key)
    return found


def without(data: dict[str, Any], key: str) -> None:
    """Drop a promise."""
    data["promises"] = [promise for promise in data["promises"] if promise["id"] != key]


def with_cables(data: dict[str, Any], **counts: int) -> None:
    """Set counts of cable types; underscores stand for hyphens."""
    wanted = {key.replace("_", "-"): count for key, count in counts.items()}
    data["bag"] = [item for item in data["bag"] if item["cable"] not in wanted]
    data["bag"] += [{"cable": key, "count": count} for key, count in wanted.items()]


def no_data_cables(data: dict[str, Any]) -> None:
    with_cables(data, usb_c_usb_c_data_30=0, usb_c_usb_c_data_60=0)


def hours(data: dict[str, Any], hours_h: float) -> None:
    data["promises"].append({"kind": "power", "id": "hours", "who": "Everybody", "hours_h": hours_h, "weight": 1})


def through_transmitter(data: dict[str, Any]) -> None:
    """Without record the body can be in stills mode, and the transmitter goes between grip and body."""
    without(data, "roll")


EXAMPLES: dict[str, Callable[[dict[str, Any]], object] | None] = {
    "as it is": None,
    "through the transmitter": through_transmitter,
    "no data cables": no_data_cables,
    "two and a half hours": lambda data: (without(data, "roll"), hours(data, 2.5)),
    "balance last": lambda data: data["schools"].update(balance="after-outer-cables"),
    "camera first": lambda data: data["schools"].update(wake="camera-first"),
}
"""One small set of example rigs for planner, run sheet, bench and conditions."""


def profile(key: str, **fields: Any) -> Profile:
    """A profile with everything that a test does not care about filled in."""
    base: dict[str, Any] = {
        "format": "isotact/profile",
        "version": 1,
        "id": key,
        "name": key,
        "kind": "module",
        "summary": "made for a test",
        "mass_g": 100,
        "stage": "tilt-cage",
    }
    return Profile.model_validate({**base, **fields})


def port(key: str, connector: str, *roles: dict[str, Any], **more: Any) -> dict[str, Any]:
    return {
        "id": key,
        "marking": key.upper(),
        "place": "left side",
        "side": "left",
        "connector": connector,
        "roles": list(roles),
        **more,
    }


def control(protocol: str, end: str = "peer", **more: Any) -> dict[str, Any]:
    return {"kind": "control", "protocol": protocol, "medium": "usb-data", "end": end, **more}


def video(flow: str, *formats: str, **more: Any) -> dict[str, Any]:
    return {"kind": "video", "flow": flow, "signal": "hdmi", "formats": list(formats or ("1080p25",)), **more}


def power(flow: str, volts: float = 5, **more: Any) -> dict[str, Any]:
    limit = {"max_a": 2} if flow == "out" else {}
    return {"kind": "power", "flow": flow, "min_v": volts, "max_v": volts, **limit, **more}


def cable(key: str, one: str, other: str, *carries: dict[str, Any], length_mm: float = 300, **more: Any) -> CableType:
    base: dict[str, Any] = {
        "format": "isotact/cable",
        "version": 1,
        "id": key,
        "name": key,
        "family": "control",
        "ends": [{"connector": one}, {"connector": other}],
        "carries": list(carries) or [{"medium": "usb-data"}],
        "length_mm": length_mm,
    }
    return CableType.model_validate({**base, **more})


def rig_of(
    profiles: list[Profile],
    cables: dict[CableType, int] | list[tuple[CableType, int]],
    promises: list[dict[str, Any]],
    **more: Any,
) -> ResolvedRig:
    """A rig with one device per profile, under the profile's id."""
    counted = list(cables.items()) if isinstance(cables, dict) else cables
    own = more.pop("devices", {})
    document = {
        "format": "isotact/rig",
        "version": 1,
        "id": "test",
        "name": "test",
        "devices": [{"id": one.id, "profile": one.id, **own.get(one.id, {})} for one in profiles],
        "bag": [{"cable": one.id, "count": count} for one, count in counted],
        "promises": promises,
        **more,
    }
    return resolve(Rig.model_validate(document), {one.id: one for one in profiles}, {one.id: one for one, _ in counted})


def promise(function: str, device: str, surface: str, key: str | None = None, **more: Any) -> dict[str, Any]:
    return {
        "kind": "control",
        "id": key or function,
        "who": "Operator",
        "function": function,
        "at": {"device": device, "surface": surface},
        **more,
    }


def picture(device: str, surface: str, key: str = "picture", **more: Any) -> dict[str, Any]:
    return {"kind": "picture", "id": key, "who": "Director", "at": {"device": device, "surface": surface}, **more}


def camera(**more: Any) -> Profile:
    """A body that takes record over one USB port."""
    fields: dict[str, Any] = {
        "ports": [port("usb", "usb-c", control("p", "device"))],
        "accepts": [{"functions": ["record"], "over": "usb"}],
        "wake": {"how": "Switch on.", "boot_s": 2},
        "power": {"draw_w": 5, "inner_battery": {"name": "battery", "energy_wh": 20}},
    }
    return profile("camera", **{**fields, **more})


def grip(**more: Any) -> Profile:
    """A grip with a record button and one control port."""
    fields: dict[str, Any] = {
        "ports": [port("out", "usb-c", control("p", "host"))],
        "surfaces": [{"id": "button", "name": "button", "kind": "button"}],
        "emits": [{"functions": ["record"], "surface": "button", "over": "out"}],
        "wake": {"how": "Switch on.", "boot_s": 3},
        "power": {"draw_w": 4, "inner_battery": {"name": "battery", "energy_wh": 30}},
    }
    return profile("grip", **{**fields, **more})


DATA = cable("data", "usb-c", "usb-c")
RECORD = promise("record", "grip", "button")
FOCUS = promise("focus", "box", "button", weight=1)


def second_button(**more: Any) -> Profile:
    """A box with a focus button and one control port."""
    return profile(
        "box",
        ports=[port("out", "usb-c", control("p", "host"))],
        surfaces=[{"id": "button", "name": "button", "kind": "button"}],
        emits=[{"functions": ["focus"], "surface": "button", "over": "out"}],
        **more,
    )


def server(clients: int | None) -> ResolvedRig:
    """A body with two sockets to one server, a grip that records and a box that focuses."""
    role = {**control("p", "device"), "clients": clients}
    ports = [port("usb", "usb-c", role), port("aux", "usb-c", role)]
    accepts = [{"functions": ["record"], "over": "usb"}, {"functions": ["focus"], "over": "aux"}]
    body = camera(ports=ports, accepts=accepts)
    return rig_of([body, grip(), second_button()], [(DATA, 2)], [RECORD, FOCUS])
