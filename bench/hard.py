"""Rigs that are hard to choose for: many of a kind, thin feeds, loops, long lists of promises."""

from collections.abc import Callable
from typing import Any

from bench.rigs import CABLES, DEVICES, promises
from isotact.catalogue import shipped
from isotact.core.model import ResolvedRig, Rig, resolve

Devices = dict[str, str]
Wanted = list[dict[str, Any]]

LENS_DRIVE = {
    "body": "cine-body-large-panel", "lens": "lens-cine-zoom-pl", "hand": "hand-unit", "battery": "plate-battery",
}  # fmt: skip


def _rig(
    name: str,
    devices: Devices,
    bag: dict[str, int],
    wanted: Wanted,
    found: dict[str, dict[str, Any]] | None = None,
    **more: Any,
) -> ResolvedRig:
    catalogue = shipped()
    as_is = found or {}
    data = {
        "format": "isotact/rig", "version": 1, "id": name, "name": name, "camera": "A",
        "devices": [{"id": key, "profile": profile, **as_is.get(key, {})} for key, profile in devices.items()],
        "bag": [{"cable": key, "count": count} for key, count in bag.items()], "promises": wanted, **more,
    }  # fmt: skip
    return resolve(Rig.model_validate(data), catalogue.profiles, catalogue.cables)


def _several(count: int, name: str, profile: str) -> Devices:
    return {f"{name}-{number}": profile for number in range(1, count + 1)}


def _control(function: str, device: str, surface: str, weight: int = 3, **more: Any) -> dict[str, Any]:
    at = {"device": device, "surface": surface}
    key = f"{function}-{device}-{surface}"
    return {"kind": "control", "id": key, "who": "X", "function": function, "at": at, "weight": weight, **more}


def _picture(device: str, surface: str = "screen", weight: int = 3, **more: Any) -> dict[str, Any]:
    at = {"device": device, "surface": surface}
    return {"kind": "picture", "id": f"picture-{device}", "who": "X", "at": at, "weight": weight, **more}


def _hours(hours: float) -> dict[str, Any]:
    return {"kind": "power", "id": "hours", "who": "X", "hours_h": hours, "weight": 2}


AXES = [
    _control("focus", "hand", "knob", 5), _control("iris", "hand", "slider", 4), _control("zoom", "hand", "zoom-stick"),
]  # fmt: skip


def spare_motors_good_taps() -> ResolvedRig:
    """Three rings, eight motors, leads and taps to spare."""
    devices = LENS_DRIVE | {"driver": "driver-newer"} | _several(8, "motor", "lens-motor")
    bag = {"motor-bus-motor-bus-20": 8, "motor-bus-motor-bus-40": 4, "tap-power-2-50": 3, "driver-7-remote-8-40": 1}
    return _rig("spare-motors-good-taps", devices, bag, AXES)


def spare_motors_thin_taps() -> ResolvedRig:
    """The same with taps that cannot start three motors."""
    devices = LENS_DRIVE | {"driver": "driver-newer"} | _several(6, "motor", "lens-motor")
    bag = {"motor-bus-motor-bus-20": 8, "tap-power-2-thin-150": 3, "driver-7-lens-12-30": 1}
    return _rig("spare-motors-thin-taps", devices, bag, [*AXES, _hours(2)])


def four_motors_one_thin_tap() -> ResolvedRig:
    """A plain rig of ten devices."""
    devices = LENS_DRIVE | {"driver": "driver-newer", "hub": "tap-hub"} | _several(4, "motor", "lens-motor")
    bag = {"motor-bus-motor-bus-20": 5, "tap-power-2-thin-150": 1, "driver-7-remote-8-40": 1}
    return _rig("four-motors-one-thin-tap", devices, bag, [*AXES, _control("record", "hand", "record-button")])


def looped_monitors() -> ResolvedRig:
    """Seven monitors with loop-outs, all promised."""
    monitors = _several(7, "monitor", "on-board-monitor-loop")
    devices = {"body": "mirrorless-usb-c-full-hdmi"} | monitors
    bag = {"hdmi-a-hdmi-a-50": 5, "hdmi-a-hdmi-a-200": 3, "hdmi-a-hdmi-a-1080-50": 2}
    return _rig("looped-monitors", devices, bag, [_picture(key, within_ms=80) for key in monitors])


def forty_promises() -> ResolvedRig:
    """Twenty-four devices, and everybody wants everything."""
    devices = dict(DEVICES)
    functions = ("record", "iris", "iso", "shutter", "stills")
    wanted = promises(set(devices))
    wanted += [_control(one, phone, "touch-screen", 1) for phone in ("phone-2", "phone-3") for one in functions]
    wanted += [_control(one, "phone", "touch-screen", 2) for one in ("iris", "shutter", "stills")]
    wanted += [_control(one, "hand", "camera-page", 2) for one in ("iris", "iso", "gain", "shutter", "white-balance")]
    wanted += [_control(one, "hand", "record-button", 2) for one in ("record",)]
    wanted += [_control("zoom", "hand", "zoom-stick"), _control("nd", "hand", "nd-wheel"), AXES[1]]
    wanted += [_picture("village-2", within_ms=90), _picture("phone-2", "touch-screen", 1), _picture("tablet")]
    wanted += [_control("focus", "grip", "wheel", 1), _control("zoom", "grip", "wheel", 1)]
    wanted += [_picture("phone-3", "touch-screen", 1), _picture("picture")]
    catalogue = shipped()
    real = [
        one
        for one in wanted
        if one["kind"] == "power"
        or any(s.id == one["at"]["surface"] for s in catalogue.profiles[devices[one["at"]["device"]]].surfaces)
    ]
    more = [
        _control(one, phone, "touch-screen", 1, id=f"{one}-again-{phone}")
        for phone in ("phone", "phone-2", "phone-3")
        for one in ("record", "iris", "iso", "shutter", "stills")
    ]
    return _rig("forty-promises", devices, dict.fromkeys(CABLES, 2), [*real, *more][:40])


def many_phones() -> ResolvedRig:
    """Eight phones, five links, one body."""
    phones = _several(8, "phone", "phone")
    devices = {"body": "mirrorless-usb-c-micro-hdmi"} | _several(5, "link", "phone-link-transmitter") | phones
    bag = {"usb-c-usb-c-data-30": 6, "hdmi-d-hdmi-c-30": 5, "hdmi-d-hdmi-a-30": 2}
    wanted = [_picture(key, "touch-screen", 2) for key in phones]
    wanted += [_control("record", key, "touch-screen", 1) for key in phones]
    return _rig("many-phones", devices, bag, wanted)


def two_drivers_many_leads() -> ResolvedRig:
    """Two drivers, six motors, and more bus leads than there are sockets."""
    devices = LENS_DRIVE | _several(2, "driver", "driver-newer") | _several(6, "motor", "lens-motor")
    bag = {
        "motor-bus-motor-bus-20": 9, "motor-bus-motor-bus-40": 9, "motor-bus-motor-bus-80": 6, "tap-power-2-50": 1,
        "tap-power-2-thin-150": 1, "driver-7-remote-8-40": 1, "driver-7-lens-12-30": 1,
    }  # fmt: skip
    data = _control("lens-data", "lens", "scale", 2, to="body")
    return _rig("two-drivers-many-leads", devices, bag, [*AXES, data, _control("record", "hand", "record-button")])


def many_banks() -> ResolvedRig:
    """Ten like power banks for whoever wants one."""
    devices = {"body": "hybrid-single-port", "grip": "gimbal-single-grip-two-usb-c", "phone": "phone"}
    devices |= {"link": "phone-link-transmitter"} | _several(10, "bank", "usb-power-bank")
    bag = {
        "usb-c-usb-c-data-30": 4, "usb-c-usb-c-charge-100": 4, "usb-a-usb-c-charge-30": 4, "usb-a-usb-c-data-100": 3,
        "hdmi-d-hdmi-c-30": 1, "hdmi-c-hdmi-c-30": 1, "usb-c-y-data-power-20": 1,
    }  # fmt: skip
    wanted = [_control("record", "grip", "record-button", 5), _picture("phone", "touch-screen"), _hours(4)]
    return _rig("many-banks", devices, bag, wanted)


def six_batteries_for_hours() -> ResolvedRig:
    """Batteries, hubs and packs enough to last, if they are shared out well."""
    devices = LENS_DRIVE | {"driver": "driver-newer", "tx": "video-transmitter-sdi", "near": "monitor-network"}
    devices |= (
        _several(3, "motor", "lens-motor") | _several(3, "hub", "tap-hub") | _several(5, "other", "plate-battery")
    )
    bag = {"motor-bus-motor-bus-20": 4, "tap-power-2-50": 6, "tap-power-2-100": 3, "bnc-bnc-50": 3}
    return _rig("six-batteries-for-hours", devices, bag, [*AXES, _picture("near"), _hours(3)])


def many_receivers() -> ResolvedRig:
    """Three transmitters, six receivers, six monitors."""
    far = _several(6, "far", "large-monitor-hdmi")
    devices = {"body": "mirrorless-usb-c-full-hdmi", "onboard": "on-board-monitor-loop"}
    devices |= _several(3, "tx", "video-transmitter-hdmi") | _several(6, "rx", "video-receiver-hdmi") | far
    bag = {"hdmi-a-hdmi-a-50": 8, "hdmi-a-hdmi-a-200": 3, "hdmi-a-hdmi-a-500": 2, "tap-power-2-50": 4}
    wanted = [_picture(key, within_ms=100) for key in far]
    return _rig("many-receivers", devices, bag, [*wanted, _picture("onboard", within_ms=40)])


def nothing_to_spare() -> ResolvedRig:
    """Twenty-four devices, one cable of each kind, hours that cannot be kept: all is in the reasons."""
    return _rig("nothing-to-spare", dict(DEVICES), dict.fromkeys(CABLES, 1), [
        *[one for one in promises({key for key, _ in DEVICES}) if one["kind"] != "power"], _hours(9),
        _picture("village-2", within_ms=60), _picture("phone-2", "touch-screen"), _picture("phone-3", "touch-screen"),
        _control("iris", "hand", "slider"), _control("zoom", "hand", "zoom-stick"),
    ])  # fmt: skip


def adapters_everywhere() -> ResolvedRig:
    """Pictures by leads and adapters that could be put together in many ways."""
    devices = {"body": "mirrorless-usb-c-mini-hdmi", "link": "phone-link-transmitter", "phone": "phone"}
    devices |= {"tx": "video-transmitter-hdmi", "rx": "video-receiver-hdmi", "far": "large-monitor-hdmi"}
    devices |= _several(4, "monitor", "on-board-monitor-loop")
    bag = {
        "hdmi-a-hdmi-a-50": 3, "hdmi-c-hdmi-a-30": 2, "hdmi-c-hdmi-a-50": 2, "hdmi-c-hdmi-c-30": 2,
        "hdmi-c-plug-hdmi-a-socket": 3, "hdmi-a-plug-hdmi-c-socket": 3, "hdmi-d-plug-hdmi-a-socket": 2,
        "hdmi-d-hdmi-a-50": 2, "usb-c-usb-c-data-30": 2, "hdmi-a-hdmi-a-right-30": 2,
    }  # fmt: skip
    monitors = [f"monitor-{number}" for number in range(1, 5)]
    wanted = [*(_picture(key) for key in monitors), _picture("far", within_ms=90), _picture("phone", "touch-screen")]
    return _rig("adapters-everywhere", devices, bag, wanted)


def an_hour_by_spare_motors() -> ResolvedRig:
    """Five like motors, two lenses, three rings, one battery that is short by a little: why, is what takes long."""
    devices = LENS_DRIVE | {"driver": "driver-newer", "near": "monitor-network", "breakout": "breakout-9"}
    devices |= {"other-lens": "lens-cine-zoom-pl"}
    bag = {
        "motor-bus-motor-bus-20": 6, "tap-power-2-50": 2, "tap-power-2-100": 2, "driver-7-serial-4-40": 2,
        "driver-7-serial-4-old-40": 2, "driver-7-serial-4-tap-y-50": 1, "rj45-rj45-1000": 2,
        "hdmi-a-hdmi-a-right-30": 2, "hdmi-a-hdmi-a-1080-50": 1, "hdmi-c-hdmi-c-30": 1, "usb-a-usb-c-data-100": 2,
        "usb-a-usb-micro-b-charge-60": 2,
        "usb-c-usb-c-coiled-40": 1, "usb-c-usb-c-data-60": 1, "usb-c-usb-c-panel-40": 2, "usb-c-y-data-power-20": 2,
        "usb-c-usb-micro-b-control-40": 2,
    }  # fmt: skip
    wanted = [*AXES, _picture("near", weight=6), _hours(1)]
    return _rig("an-hour-by-spare-motors", devices | _several(5, "motor", "lens-motor"), bag, wanted)


def motors_left_as_they_were() -> ResolvedRig:
    """Five motors, two of which somebody set to an axis: they are told apart, and an hour is short by a minute."""
    devices = LENS_DRIVE | {"driver": "driver-newer"} | _several(5, "motor", "lens-motor")
    found: dict[str, dict[str, Any]] = {
        "driver": {"firmware": "4.1"}, "motor-3": {"settings": {"axis": "none"}},
        "motor-4": {"settings": {"axis": "zoom"}},
    }  # fmt: skip
    bag = {
        "motor-bus-motor-bus-20": 6, "tap-power-2-50": 1, "tap-power-2-100": 2, "driver-7-lens-12-30": 1,
        "driver-7-serial-4-40": 1, "power-2-power-2-100": 1, "serial-4-serial-4-wheel-100": 1, "bnc-bnc-50": 2,
    }  # fmt: skip
    return _rig("motors-left-as-they-were", devices, bag, [*AXES, _hours(1)], found)


def twenty_phones_on_a_chain() -> ResolvedRig:
    """Twenty like phones behind a chain of looped monitors and several links, and twenty-four pictures on them."""
    phones = _several(20, "phone", "phone")
    devices = {"body": "mirrorless-usb-c-full-hdmi", "grip": "gimbal-single-grip-two-usb-c", "lens": "lens-stills-ring"}
    devices |= _several(5, "link", "phone-link-picture") | _several(3, "monitor", "on-board-monitor-loop") | phones
    bag = {key: 12 for key in shipped().cables if key.startswith("hdmi")} | {"usb-c-usb-c-data-30": 3}
    wanted = [_picture(key, "touch-screen") for key in phones]
    wanted += [_picture(key, "touch-screen", look="with", id=f"look-{key}") for key in list(phones)[:4]]
    return _rig("twenty-phones-on-a-chain", devices, bag, wanted)


def six_impossible_of_sixty_devices() -> ResolvedRig:
    """Sixty devices, most of them spare, and six promises that nothing here can keep, each for a reason of its own."""
    more = {
        "motor": (8, "lens-motor"), "phone": (6, "phone"), "big": (5, "large-monitor-hdmi"),
        "receiver": (4, "video-receiver-hdmi"), "cell": (4, "plate-battery"), "bank": (3, "usb-power-bank"),
        "screen": (4, "on-board-monitor-loop"), "driver": (2, "driver-newer"),
    }  # fmt: skip
    devices = dict(DEVICES)
    for name, (count, profile) in more.items():
        devices |= _several(count, f"spare-{name}", profile)
    late, wheel, knob = {"within_ms": 5, "id": "late"}, ("grip", "wheel", 2), ("hand", "knob", 2)
    wanted = [_control("record", "grip", "record-button", 5), _control("focus", "hand", "knob", 4)]
    wanted += [_picture("village", weight=4), _picture("onboard", weight=4)]
    wanted += [_control("zoom", *knob), _picture("spare-big-1", within_ms=1), _control("shutter", *wheel)]
    wanted += [_control("gain", "phone", "touch-screen", 2), _picture("spare-big-2", weight=2, look="with", **late)]
    wanted += [_control("iris", *wheel), _hours(9)]
    return _rig("six-impossible-of-sixty-devices", devices, dict.fromkeys(CABLES, 2), wanted)


HARD: tuple[Callable[[], ResolvedRig], ...] = (
    spare_motors_good_taps, spare_motors_thin_taps, four_motors_one_thin_tap, looped_monitors, forty_promises,
    many_phones, two_drivers_many_leads, many_banks, six_batteries_for_hours, many_receivers, nothing_to_spare,
    adapters_everywhere, an_hour_by_spare_motors, motors_left_as_they_were, twenty_phones_on_a_chain,
    six_impossible_of_sixty_devices,
)  # fmt: skip
