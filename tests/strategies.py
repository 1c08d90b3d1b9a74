"""Generated rigs: every difficulty that the bench knows, in small."""

from collections.abc import Iterator
from random import Random
from typing import Any

from hypothesis import strategies as st

from isotact.catalogue import shipped
from isotact.core.model import Profile, ResolvedRig, Rig, resolve
from tests.rigs import SHIPPED, cable, control, picture, port, power, profile, promise, rig_of, video

WAKES = ("any", "any", "peer-first", "self-first")
TAKES = ("at-once", "at-reconnect", "at-boot")
ON_OFF = [{"id": "off", "name": "Off"}, {"id": "on", "name": "On"}]


def setting(key: str, takes_effect: str, factory: str = "off", needs_awake: bool = True) -> dict[str, Any]:
    return {
        "id": key,
        "name": key,
        "path": ["Menu", key],
        "values": ON_OFF,
        "factory": factory,
        "takes_effect": takes_effect,
        "needs_awake": needs_awake,
    }


@st.composite
def batteries(draw: st.DrawFn, draw_w: float, always: bool = False) -> dict[str, Any]:
    own = {"name": "battery", "energy_wh": draw(st.sampled_from([5, 20, 40]))}
    return {"draw_w": draw_w, "inner_battery": own if always or draw(st.booleans()) else None}


@st.composite
def bodies(draw: st.DrawFn, key: str = "body") -> Profile:
    """A body that takes record in one mode and focus in any, over one port or two."""
    keys = draw(st.lists(st.sampled_from(["s1", "s2"]), max_size=2, unique=True))
    settings = [setting(key, draw(st.sampled_from(TAKES)), draw(st.sampled_from(["off", "on"]))) for key in keys]
    when: dict[str, Any] = {"settings": dict.fromkeys(keys, "on")}
    prompts = []
    if draw(st.booleans()):
        answers = [{"id": "yes", "name": "Yes"}, {"id": "no", "name": "No"}]
        prompts = [{"id": "ask", "asks": "Allow?", "joined": "usb", "answers": answers, "default": "no"}]
        when["answers"] = {"ask": "yes"}
    if draw(st.booleans()):
        when["firmware"] = "2.0"
    if draw(st.integers(0, 3)) == 0:
        when["licence"] = "pro"
    role = control("p", "device", wake=draw(st.sampled_from(WAKES)), joined_before_wake=draw(st.booleans()))
    inlet = power("in", when={"settings": {"feed": "on"}}) if draw(st.booleans()) else None
    if inlet:
        settings.append(setting("feed", "at-once", draw(st.sampled_from(["off", "on"]))))
    settings.append(
        {**setting("format", "at-once", "2160p25"), "values": [{"id": f, "name": f} for f in ("2160p25", "1080p25")]}
    )
    return profile(
        key,
        firmware="2.1",
        licences=["pro"],
        ports=[
            port("usb", "usb-c", role, *([inlet] if inlet else [])),
            port("hdmi", "hdmi-a", video("out", "2160p25", "1080p25", format_setting="format")),
            *draw(st.sampled_from([(), (), (port("aux", "usb-c", power("in", max_v=9)),)])),
        ],
        modes={
            "how": "Turn to {name}.",
            "factory": draw(st.sampled_from(["film", "photo"])),
            "lapses": draw(st.sampled_from([False, False, True])),
            "values": [{"id": "film", "name": "Film"}, {"id": "photo", "name": "Photo"}],
        },
        settings=settings,
        wake={"how": "Switch on.", "boot_s": 2, "prompts": prompts},
        power={
            **draw(batteries(5, always=inlet is None)),
            "peak_w": draw(st.sampled_from([None, None, 9])),
            "stall_w": draw(st.sampled_from([None, None, 11])),
        },
        surfaces=[{"id": "rear", "name": "rear screen", "kind": "screen", "dark_when_used": "hdmi"}],
        accepts=[
            {"functions": ["record"], "over": "usb/p", "when": {**when, "mode": ["film"]}},
            {"functions": ["iso"], "over": "usb/p", "when": {**when, "mode": ["photo"]}},
            {"functions": ["focus"], "over": "usb/p", "when": when},
        ],
        makes=[{"over": "hdmi", "delay_ms": 20}],
        shows=[{"screen": "rear", "delay_ms": 10}],
    )


@st.composite
def hosts(draw: st.DrawFn, key: str, functions: tuple[str, ...]) -> Profile:
    """A grip or box with buttons and one control port, which may also feed."""
    settings = [setting("family", draw(st.sampled_from(TAKES)))] if draw(st.booleans()) else []
    when = {"settings": {"family": "on"}} if settings else {}
    volts, most_a = draw(st.sampled_from([5, 5, 9])), draw(st.sampled_from([0.5, 1.2, 2]))
    moment_a = draw(st.sampled_from([None, 3]))
    outlet = [power("out", volts, max_a=most_a, peak_a=moment_a)] if draw(st.booleans()) else []
    return profile(
        key,
        stage=draw(st.sampled_from(["tilt-cage", "roll-arm", "handles"])),
        ports=[
            port("out", "usb-c", control("p", "host", wake=draw(st.sampled_from(WAKES))), *outlet),
            port("charge", "usb-c", power("in", feeds="charge")),
        ],
        settings=settings,
        wake={"how": "Switch on.", "boot_s": 3, "needs_balance": draw(st.booleans())},
        power=draw(batteries(4, always=True)),
        surfaces=[{"id": f, "name": f, "kind": "button"} for f in functions],
        emits=[{"functions": [f], "surface": f, "over": "out/p", "when": when} for f in functions],
    )


@st.composite
def links(draw: st.DrawFn, key: str = "link") -> Profile:
    """A picture transmitter that also passes control on."""
    return profile(
        key,
        ports=[
            port("in", "hdmi-a", video("in", "1080p25")),
            port("camera", "usb-c", control("p", "host")),
        ],
        radios=[
            {
                "id": "air",
                "name": "air",
                "system": "wifi",
                "part": "access-point",
                "joins_by": draw(st.sampled_from(["network", "pairing"])),
                "roles": [{**video("out", "1080p25"), "signal": "air-picture"}, control("air-p", "host", medium="air")],
            }
        ],
        wake={"how": "Switch on.", "boot_s": 5},
        power=draw(batteries(3, always=True)),
        relays=[{"functions": ["iso"], "over": "air/air-p", "to": "camera/p"}],
        passes=[{"over": "in", "to": "air/air-picture", "delay_ms": 40}],
    )


def watcher(joins_by: str, key: str = "phone") -> Profile:
    """A phone."""
    return profile(
        key,
        stage="off-gimbal",
        radios=[
            {
                "id": "air",
                "name": "air",
                "system": "wifi",
                "part": "station",
                "joins_by": joins_by,
                "roles": [
                    {**video("in", "1080p25"), "signal": "air-picture"},
                    control("air-p", "device", medium="air"),
                ],
            }
        ],
        settings=[setting("app", "at-once")],
        wake={"how": "Unlock.", "boot_s": 1},
        power={"draw_w": 3, "inner_battery": {"name": "battery", "energy_wh": 15}},
        surfaces=[{"id": "glass", "name": "glass", "kind": "touch"}],
        emits=[{"functions": ["iso"], "surface": "glass", "over": "air/air-p", "when": {"settings": {"app": "on"}}}],
        shows=[{"screen": "glass", "over": "air/air-picture", "delay_ms": 10, "when": {"settings": {"app": "on"}}}],
    )


CABLES = (
    (cable("data", "usb-c", "usb-c", {"medium": "usb-data"}, {"medium": "power", "max_a": 3}), 0, 2),
    (cable("thin", "usb-c", "usb-c", {"medium": "usb-data"}, length_mm=600), 0, 1),
    (cable("charge", "usb-c", "usb-c", {"medium": "power", "max_a": 3}), 0, 1),
    (cable("hdmi", "hdmi-a", "hdmi-a", {"medium": "hdmi"}), 0, 1),
)


@st.composite
def rigs(draw: st.DrawFn) -> ResolvedRig:
    """A rig with a body, one or two hosts, perhaps a picture link and a phone, a bag, and promises."""
    body, link = draw(bodies()), draw(links())
    profiles = [body, draw(hosts("grip", ("record", "focus")))]
    wanted = [promise("record", "grip", "record"), promise("focus", "grip", "focus")]
    if draw(st.booleans()):
        profiles.append(draw(hosts("box", ("iso",))))
        wanted.append(promise("iso", "box", "iso", "iso-box"))
    if draw(st.booleans()):
        profiles += [link, watcher(link.radios[0].joins_by)]
        wanted.append(promise("iso", "phone", "glass", "iso-phone"))
        wanted.append(picture("phone", "glass", within_ms=draw(st.sampled_from([None, 60, 80]))))
    wanted.append(picture("body", "rear", "own-screen", look="any"))
    wanted.append(
        {
            "kind": "power",
            "id": "hours",
            "who": "All",
            "hours_h": draw(st.sampled_from([1, 3, 8])),
            "changes": draw(st.sampled_from([0, 0, 1])),
        }
    )
    chosen = draw(st.lists(st.sampled_from(wanted), min_size=1, max_size=4, unique_by=lambda one: one["id"]))
    for number, one in enumerate(chosen):
        one["weight"] = 1 + (number * 2) % 5
    bag = [(one, draw(st.integers(low, high))) for one, low, high in CABLES]
    return rig_of(
        profiles,
        bag,
        chosen,
        devices={"body": draw(pieces())},
        schools={"wake": draw(st.sampled_from(["profile", "host-first", "camera-first"]))},
    )


@st.composite
def fed_twice(draw: st.DrawFn) -> ResolvedRig:
    """A body that its grip's lead feeds unasked, and a bank that could feed it besides, at other volts."""
    volts = st.sampled_from([5, 7, 9])
    data = port("out", "usb-c", control("p", "host"), power("out", draw(volts), max_a=draw(st.sampled_from([0.4, 2]))))
    body = profile(
        "body",
        ports=[
            port("usb", "usb-c", control("p", "device"), power("in", 5, max_v=9)),
            port("aux", "usb-c", power("in", 5, max_v=9)),
        ],
        wake={"how": "Switch on.", "boot_s": 2},
        power={**draw(batteries(5, always=False)), "two_feeds": draw(st.sampled_from(["higher-volts", "never"]))},
        accepts=[{"functions": ["record"], "over": "usb/p"}],
    )
    held = st.sampled_from([10, 20, 40])
    grip = profile(
        "grip",
        ports=[data],
        wake={"how": "Switch on.", "boot_s": 3},
        power={"draw_w": 4, "inner_battery": {"name": "battery", "energy_wh": draw(held)}},
        surfaces=[{"id": "record", "name": "record", "kind": "button"}],
        emits=[{"functions": ["record"], "surface": "record", "over": "out/p"}],
    )
    bank = profile(
        "bank",
        ports=[port("give", "usb-c", power("out", draw(volts), max_a=draw(st.sampled_from([0.4, 2]))))],
        power={"draw_w": 0, "inner_battery": {"name": "battery", "energy_wh": draw(held)}},
    )
    hours = {
        "kind": "power",
        "id": "hours",
        "who": "All",
        "hours_h": draw(st.sampled_from([2, 3, 4, 6])),
        "changes": draw(st.sampled_from([0, 0, 1, 2])),
        "weight": 2,
    }
    bag = [(one, count) for (one, _, _), count in zip(CABLES, (1, 0, draw(st.integers(0, 1)), 0), strict=True)]
    return rig_of([body, grip, bank], bag, [promise("record", "grip", "record"), hours])


@st.composite
def thin_leads(draw: st.DrawFn) -> ResolvedRig:
    """A pack that feeds a body and a lamp, by leads that lose volts, warm or cold; the lamp may hang on the body."""

    def fed(least: float) -> dict[str, Any]:
        return {"kind": "power", "flow": "in", "min_v": least, "max_v": 17}

    given = {"kind": "power", "flow": "out", "min_v": 11.9, "max_v": 16.8, "max_a": 8}
    held = draw(st.sampled_from([{}, {"min_v": 12, "max_v": 12, "efficiency": 0.85, "needs_v": 12.5}]))
    pack = profile(
        "pack",
        ports=[port("tap-1", "tap", given), port("tap-2", "tap", given)],
        power={
            "draw_w": 0,
            "inner_battery": {"name": "cells", "energy_wh": draw(st.sampled_from([49, 98])), "cells": 4},
        },
    )
    body = profile(
        "body",
        ports=[
            port("usb", "usb-c", control("p", "device")),
            port("dc", "tap", fed(11)),
            port("aux", "usb-a", {**given, **held, "max_a": 3}),
        ],
        wake={"how": "Switch on.", "boot_s": 2},
        power={"draw_w": draw(st.sampled_from([10, 30, 55]))},
        accepts=[{"functions": ["record"], "over": "usb/p"}],
    )
    lamp = profile(
        "lamp",
        ports=[
            port("usb", "usb-c", control("q", "device")),
            port("dc", "tap", fed(draw(st.sampled_from([11, 11.5])))),
            port("in", "usb-a", fed(draw(st.sampled_from([10, 11])))),
        ],
        wake={"how": "Switch on.", "boot_s": 2},
        power={
            "draw_w": draw(st.sampled_from([4, 12])),
            "stall_w": draw(st.sampled_from([None, 18, 30])),
            "draws": draw(st.sampled_from(["power", "current", "resistance"])),
            "rated_v": 14,
        },
        accepts=[{"functions": ["focus"], "over": "usb/q"}],
    )
    hand = profile(
        "hand",
        ports=[port("p", "usb-c", control("p", "host")), port("q", "usb-c", control("q", "host"))],
        wake={"how": "Switch on.", "boot_s": 2},
        power={"draw_w": 2, "inner_battery": {"name": "cell", "energy_wh": 9}},
        surfaces=[{"id": "key", "name": "key", "kind": "button"}],
        emits=[
            {"functions": ["record"], "surface": "key", "over": "p/p"},
            {"functions": ["focus"], "surface": "key", "over": "q/q"},
        ],
    )
    bag = [
        (cable("data", "usb-c", "usb-c", {"medium": "usb-data"}), 2),
        (cable("thick", "tap", "tap", {"medium": "power"}, length_mm=500, gauge_awg=18), draw(st.integers(0, 1))),
        (cable("thin", "tap", "tap", {"medium": "power"}, length_mm=2500, gauge_awg=28), draw(st.integers(0, 2))),
        (cable("jumper", "usb-a", "usb-a", {"medium": "power"}, length_mm=1500, gauge_awg=28), draw(st.integers(0, 1))),
    ]  # fmt: skip
    rig = rig_of([pack, body, lamp, hand], bag, [promise("record", "hand", "key"), promise("focus", "hand", "key")])
    energy = {"temperature_c": draw(st.sampled_from([20.0, 0.0, -15.0])), "margin_v": draw(st.sampled_from([0.0, 0.4]))}
    document = Rig.model_validate(rig.rig.model_dump() | {"energy": energy})
    profiles = {placed.profile.id: placed.profile for placed in rig.devices.values()}
    return resolve(document, profiles, rig.cables)


@st.composite
def laden(draw: st.DrawFn) -> ResolvedRig:
    """A gimbal that carries so much, a server with two sockets, and a motor that may hang on electronics only."""
    few = draw(st.sampled_from([None, 1, 2]))
    weigh = st.sampled_from([100, 300, 600])
    server = control("p", "device", **({"clients": few} if few else {}))
    body = profile(
        "body",
        mass_g=1000,
        ports=[
            port("one", "usb-c", server),
            port("two", "usb-c", server),
            port("dc", "usb-c", power("in")),
            port("hdmi", "hdmi-a", video("out")),
        ],
        wake={"how": "Switch on.", "boot_s": 2},
        power={**draw(batteries(5)), "peak_w": 5},
        accepts=[{"functions": ["record", "iso"], "over": over} for over in ("one/p", "two/p")],
        makes=[{"over": "hdmi", "delay_ms": 20}],
    )
    grip = profile(
        "grip",
        stage="handles",
        ports=[port("out", "usb-c", control("p", "host"))],
        carrier={
            "axes": ["tilt"],
            "max_payload_g": draw(st.sampled_from([1000, 1400, 2500])),
            "min_payload_g": 0,
            "loops_mm": draw(st.sampled_from([{"tilt": 100, "roll": 100, "pan": 100}, {"pan": 100}])),
        },
        wake={"how": "Switch on.", "boot_s": 3},
        power=draw(batteries(4, always=True)),
        surfaces=[{"id": "record", "name": "record", "kind": "button"}],
        emits=[{"functions": ["record"], "surface": "record", "over": "out/p"}],
    )
    box = profile(
        "box",
        mass_g=draw(weigh),
        ports=[port("out", "usb-c", control("p", "host"))],
        wake={"how": "Switch on.", "boot_s": 3},
        power=draw(batteries(2, always=True)),
        surfaces=[{"id": "iso", "name": "iso", "kind": "button"}],
        emits=[{"functions": ["iso"], "surface": "iso", "over": "out/p"}],
    )
    light = draw(st.sampled_from(["anything", "electronics"]))
    knob = profile(
        "knob",
        stage="handles",
        ports=[port("out", "usb-c", control("q", "host"), power("out", good_for=light))],
        wake={"how": "Switch on.", "boot_s": 3},
        power=draw(batteries(2, always=True)),
        surfaces=[{"id": "focus", "name": "focus", "kind": "wheel"}],
        emits=[{"functions": ["focus"], "surface": "focus", "over": "out/q"}],
    )
    motor = profile(
        "motor",
        mass_g=draw(weigh),
        ports=[port("in", "usb-c", control("q", "device"), power("in")), port("dc", "usb-c", power("in"))],
        wake={"how": "It wakes with its feed.", "boot_s": 1, "with_feed": True},
        power={"draw_w": 3, "peak_w": draw(st.sampled_from([3, 8])), "stall_w": draw(st.sampled_from([None, 9, 16]))},
        motor={"axes": ["focus"], "torque_nm": 0.5},
        accepts=[{"functions": ["focus"], "over": "in/q"}],
    )
    bank = profile(
        "bank",
        mass_g=draw(weigh),
        ports=[port("give", "usb-c", power("out", max_a=draw(st.sampled_from([1, 2]))))],
        power={"draw_w": 0, "inner_battery": {"name": "battery", "energy_wh": draw(st.sampled_from([10, 40]))}},
    )
    wanted = [
        promise("record", "grip", "record", weight=draw(st.sampled_from([2, 5]))),
        promise("iso", "box", "iso", weight=3),
        promise("focus", "knob", "focus", weight=4),
    ]
    bag = [(one, count) for (one, _, _), count in zip(CABLES, (draw(st.integers(1, 3)), 1, 1, 0), strict=True)]
    return rig_of([body, grip, box, knob, motor, bank], bag, wanted)


@st.composite
def pieces(draw: st.DrawFn) -> dict[str, Any]:
    """What is known of one piece: its firmware, and whether the licence is loaded."""
    firmware = draw(st.sampled_from([None, "1.9", "2.0", "2.10"]))
    return {"firmware": firmware, "licences": ["pro"] if draw(st.booleans()) else []}


@st.composite
def mid_rigs(draw: st.DrawFn) -> ResolvedRig:
    """Two bodies, three hosts, two picture links and two phones, a fuller bag, six promises and more."""
    link, other = draw(links()), draw(links("link-2"))
    profiles = [
        draw(bodies()),
        draw(bodies("body-2")),
        draw(hosts("grip", ("record", "focus"))),
        draw(hosts("box", ("iso",))),
        draw(hosts("spare", ("record",))),
        link,
        other,
        watcher(link.radios[0].joins_by),
        watcher(other.radios[0].joins_by, "phone-2"),
    ]
    wanted = [
        promise("record", "grip", "record"),
        promise("focus", "grip", "focus"),
        promise("iso", "box", "iso", "iso-box"),
        promise("record", "spare", "record", "record-spare"),
        promise("iso", "phone", "glass", "iso-phone"),
        picture("phone", "glass", "see", within_ms=draw(st.sampled_from([None, 60, 80]))),
        picture("phone-2", "glass", "see-2"),
        picture("body", "rear", "own-screen", look="any"),
        {
            "kind": "power",
            "id": "hours",
            "who": "All",
            "hours_h": draw(st.sampled_from([1, 3, 8])),
            "changes": draw(st.sampled_from([0, 0, 1])),
        },
    ]
    chosen = draw(st.lists(st.sampled_from(wanted), min_size=6, max_size=9, unique_by=lambda one: one["id"]))
    for number, one in enumerate(chosen):
        one["weight"] = 1 + (number * 2) % 5
    bag = [(one, draw(st.integers(low, high + 2))) for one, low, high in CABLES]
    return rig_of(profiles, bag, chosen, devices={"body": draw(pieces()), "body-2": draw(pieces())})


@st.composite
def shaken_rigs(draw: st.DrawFn) -> ResolvedRig:
    """A shipped rig, shaken: a device less or some more of the catalogue, other modes, settings, promises and cables."""
    chance = draw(st.randoms(use_true_random=False))
    catalogue = shipped()
    document = SHIPPED[chance.choice(list(SHIPPED))].model_dump(mode="json")
    devices = document["devices"]
    if chance.random() < 0.3 and len(devices) > 3:
        devices.remove(chance.choice(devices))
    profiles = list(catalogue.profiles)
    devices += [{"id": f"more-{number}", "profile": chance.choice(profiles)} for number in range(chance.randint(0, 3))]
    for device in devices:
        _as_found(chance, device, catalogue.profiles[device["profile"]])
    here = {device["id"] for device in devices}
    for device in devices:  # what it sat on may have stayed behind
        if (device.get("sits") or {}).get("on") not in (None, *here):
            device["sits"] = None
    kept = [one for one in document["promises"] if "at" not in one or one["at"]["device"] in here]
    kept = [one for one in kept if {one.get("to"), one.get("of")} <= {None, *here}]
    more = [one for device in devices for one in _promisable(chance, device, catalogue.profiles[device["profile"]])]
    chance.shuffle(more)
    kept += [{**one, "id": f"asked-{number}"} for number, one in enumerate(more[: chance.randint(0, 4)])]
    if chance.random() < 0.6:
        hours = {
            "kind": "power",
            "id": "lasts",
            "who": "All",
            "hours_h": chance.choice([0.5, 1, 1.5, 2, 3, 5]),
            "changes": chance.choice([0, 0, 1]),
        }
        kept = [*(one for one in kept if one["kind"] != "power"), hours]
    bag = {item["cable"]: item["count"] for item in document["bag"]}
    for cable_id in catalogue.cables:
        if chance.random() < 0.25:
            bag[cable_id] = bag.get(cable_id, 0) + chance.randint(0, 2)
    changed = {
        **document,
        "promises": kept,
        "pins": [],
        "recipes": [],
        "bag": [{"cable": key, "count": count} for key, count in bag.items()],
        "schools": {
            "wake": chance.choice(["profile", "host-first", "camera-first"]),
            "balance": chance.choice(["before-outer-cables", "after-outer-cables"]),
        },
    }
    return resolve(Rig.model_validate(changed), catalogue.profiles, catalogue.cables)


def _as_found(chance: Random, device: dict[str, Any], profile: Profile) -> None:
    """Licences, mode and settings as somebody may have left them."""
    if profile.licences and chance.random() < 0.6:
        device["licences"] = profile.licences
    if profile.modes and chance.random() < 0.3:
        device["mode"] = chance.choice(profile.modes.values).id
    for one in profile.settings:
        if chance.random() < 0.2:
            device.setdefault("settings", {})[one.id] = chance.choice(one.values).id


def _promisable(chance: Random, device: dict[str, Any], profile: Profile) -> Iterator[dict[str, Any]]:
    """Everything that could be promised at one device."""
    shared = {"who": "Somebody", "weight": chance.randint(1, 9)}
    for emits in profile.emits:
        at = {"device": device["id"], "surface": emits.surface}
        yield from ({**shared, "kind": "control", "function": key, "at": at} for key in emits.functions)
    for surface in profile.surfaces:
        if surface.is_screen:
            at = {"device": device["id"], "surface": surface.id}
            look, within = chance.choice(["any", "any", "with", "clean"]), chance.choice([None, None, 150])
            yield {**shared, "kind": "picture", "at": at, "look": look, "within_ms": within}
