"""Rigs of a given size, made of archetypes, for measuring."""

from typing import Any

from isotact.catalogue import shipped
from isotact.core.model import Kit, ResolvedRig, Rig, resolve

CABLES = (
    "usb-c-usb-c-data-30", "usb-c-usb-c-data-60", "usb-c-usb-c-data-100", "usb-c-usb-c-data-right-30",
    "usb-c-usb-c-coiled-40", "usb-c-usb-c-charge-30", "usb-c-usb-c-charge-100", "usb-c-usb-c-panel-40",
    "usb-a-usb-c-data-100", "usb-a-usb-c-charge-30", "hdmi-d-hdmi-a-30", "hdmi-d-hdmi-a-50", "hdmi-d-hdmi-c-30",
    "hdmi-c-hdmi-a-30", "hdmi-a-hdmi-a-50", "hdmi-a-hdmi-a-200", "hdmi-a-hdmi-a-500", "hdmi-a-hdmi-a-1080-50",
    "hdmi-a-hdmi-a-right-30", "hdmi-a-plug-hdmi-c-socket", "tap-power-2-50", "tap-power-2-100",
    "power-2-power-2-50", "motor-bus-motor-bus-20", "bnc-bnc-50",
)  # fmt: skip
"""Twenty-five types."""

DEVICES = (
    ("body", "mirrorless-usb-c-micro-hdmi"), ("lens", "lens-by-wire-geared"), ("grip", "gimbal-single-grip-two-usb-c"),
    ("link", "phone-link-transmitter"), ("phone", "phone"), ("onboard", "on-board-monitor-loop"),
    ("tx", "video-transmitter-hdmi"), ("rx", "video-receiver-hdmi"), ("village", "large-monitor-hdmi"),
    ("battery", "plate-battery"), ("motor", "motor-with-driver"), ("hand", "hand-unit"), ("bank", "usb-power-bank"),
    ("pack", "power-pack"), ("phone-2", "phone"), ("rx-2", "video-receiver-hdmi"), ("village-2", "large-monitor-hdmi"),
    ("tablet", "tablet"), ("hub", "tap-hub"), ("battery-2", "plate-battery"), ("picture", "phone-link-picture"),
    ("phone-3", "phone"), ("motor-2", "lens-motor"), ("nd", "nd-matte-box"),
)  # fmt: skip


def promises(ids: set[str]) -> list[dict[str, Any]]:
    """Eight promises, as far as their devices are there."""

    def control(key: str, function: str, device: str, surface: str, weight: int) -> dict[str, Any]:
        at = {"device": device, "surface": surface}
        return {"kind": "control", "id": key, "who": "X", "function": function, "at": at, "weight": weight}

    def picture(key: str, device: str, surface: str, weight: int, within_ms: int | None = None) -> dict[str, Any]:
        at = {"device": device, "surface": surface}
        return {"kind": "picture", "id": key, "who": "X", "at": at, "within_ms": within_ms, "weight": weight}

    wanted = [
        control("roll", "record", "grip", "record-button", 5),
        control("focus", "focus", "hand", "knob", 4),
        picture("village", "village", "screen", 4, 120),
        picture("onboard", "onboard", "screen", 4, 60),
        picture("phone", "phone", "touch-screen", 2),
        {"kind": "power", "id": "hours", "who": "X", "hours_h": 2, "weight": 2},
        control("roll-2", "record", "phone", "touch-screen", 1),
        control("iso", "iso", "phone", "touch-screen", 1),
    ]
    return [one for one in wanted if one["kind"] == "power" or one["at"]["device"] in ids]


def one_camera(devices: int, camera: str = "A", promised: int = 8) -> ResolvedRig:
    """A camera of so many devices, two of each of the cable types, up to eight promises."""
    chosen = DEVICES[:devices]
    data = {
        "format": "isotact/rig", "version": 1, "id": f"cam-{camera.lower()}", "name": f"{camera} camera",
        "camera": camera, "devices": [{"id": key, "profile": profile} for key, profile in chosen],
        "bag": [{"cable": key, "count": 2} for key in CABLES],
        "promises": promises({key for key, _ in chosen})[:promised],
    }  # fmt: skip
    catalogue = shipped()
    return resolve(Rig.model_validate(data), catalogue.profiles, catalogue.cables)


def cameras(count: int) -> tuple[list[ResolvedRig], Kit]:
    """So many cameras of 15 devices and 6 promises, and a kit with one cable too few of every type."""
    rigs = [one_camera(15, letter, 6) for letter in "ABCDEFGH"[:count]]
    cables = [{"cable": key, "count": max(1, count - 1)} for key in CABLES]
    return rigs, Kit.model_validate(
        {"format": "isotact/kit", "version": 1, "id": "van", "name": "Van", "cables": cables}
    )
