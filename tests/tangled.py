"""Generated rigs in which starts, modes, prompts, menus and links get in each other's way."""

from typing import Any

from hypothesis import strategies as st

from isotact.core.model import Profile, ResolvedRig
from tests.rigs import cable, control, picture, port, power, profile, promise, rig_of, video
from tests.strategies import TAKES, WAKES, pieces, setting

MODES = ("film", "photo")
LEADS = (
    cable("data", "usb-c", "usb-c", {"medium": "usb-data"}, {"medium": "power", "max_a": 3}),
    cable("plain", "usb-c", "usb-c", {"medium": "usb-data"}),
    cable("feed", "usb-c", "usb-c", {"medium": "power", "max_a": 3}),
    cable("hdmi", "hdmi-a", "hdmi-a", {"medium": "hdmi"}),
)


@st.composite
def menus(draw: st.DrawFn, *keys: str) -> list[dict[str, Any]]:
    """Settings that take at once, at the next start or the next plug; some stand before a lead goes in."""
    return [
        {
            **setting(key, draw(st.sampled_from(TAKES)), draw(st.sampled_from(["off", "on"])), draw(st.booleans())),
            "before_lead": draw(st.sampled_from([False, False, True])),
        }
        for key in keys
    ]


@st.composite
def starting(draw: st.DrawFn, key: str) -> Profile:
    """A body that starts its own link in some modes only, and takes functions in others."""
    some = st.lists(st.sampled_from(MODES), min_size=1, max_size=1)
    perhaps = st.sampled_from([[], [], ["film"], ["photo"]])
    answers = [{"id": "yes", "name": "Yes"}, {"id": "no", "name": "No"}]
    asked = draw(st.sampled_from([None, "usb", "anything"]))
    prompts = [
        {
            "id": "ask",
            "asks": "Allow?",
            "answers": answers,
            "default": "no",
            **({"joined": "usb"} if asked == "usb" else {}),
        }
    ]

    def when() -> dict[str, Any]:
        found: dict[str, Any] = {"settings": {one: "on" for one in ("s1", "s2") if draw(st.booleans())}}
        if asked and draw(st.booleans()):
            found["answers"] = {"ask": "yes"}
        return {**found, "mode": draw(perhaps)}

    upsets = st.sampled_from([[], [], ["restarts"], ["drops-links"], ["forgets-pairing"], ["restarts-driver"]])
    inlet = [power("in", when={"settings": {"feed": "on"}})] if draw(st.booleans()) else []
    usb = control(
        "p", "device", wake=draw(st.sampled_from(WAKES)), joined_before_wake=draw(st.booleans()),
        when={"mode": draw(perhaps)} if draw(st.booleans()) else {},
    )  # fmt: skip
    return profile(
        key,
        ports=[port("usb", "usb-c", usb, *inlet), port("hdmi", "hdmi-a", video("out"))],
        radios=[
            {
                "id": "air", "name": "air", "system": "wifi", "part": "access-point",
                "joins_by": draw(st.sampled_from(["network", "pairing"])),
                "meets_in": draw(st.sampled_from([[], ["film"], ["photo"]])),
                "roles": [
                    {**video("out", "1080p25"), "signal": "air-picture"},
                    control("air-p", "device", medium="air", wake=draw(st.sampled_from(WAKES))),
                ],
            }
        ],
        modes={
            "how": "Turn to {name}.",
            "factory": draw(st.sampled_from(MODES)),
            "lapses": (lapses := draw(st.sampled_from([False, False, True]))),
            "needs_awake": draw(st.booleans()),
            "values": [
                # One that is forgotten at each start does not start the body itself.
                {"id": one, "name": one.capitalize(), "upsets": draw(upsets.filter(lambda those: not lapses or "restarts" not in those))}
                for one in MODES
            ],
        },
        settings=[*draw(menus("s1", "s2")), *draw(menus("feed"))],
        wake={"how": "Switch on.", "boot_s": 2, "prompts": prompts if asked else []},
        power={"draw_w": 5, "inner_battery": {"name": "battery", "energy_wh": 20} if draw(st.booleans()) or not inlet else None},
        accepts=[
            {"functions": ["record"], "over": "usb/p", "when": when()},
            {"functions": ["iso"], "over": "air/air-p", "when": when()},
            {"functions": ["focus"], "over": draw(st.sampled_from(["usb/p", "air/air-p"])), "when": when()},
        ],
        makes=[{"over": "hdmi", "delay_ms": 20}, {"over": "air/air-picture", "delay_ms": 40, "when": {"mode": draw(some)}}],
    )  # fmt: skip


@st.composite
def tangled(draw: st.DrawFn) -> ResolvedRig:
    """A body with a link of its own, a grip on its port, a phone on its link, a driver that wakes with one of two feeds."""
    body = draw(starting("body"))
    grip = profile(
        "grip",
        stage="roll-arm",
        ports=[
            port("out", "usb-c", control("p", "host", wake=draw(st.sampled_from(WAKES))), *draw(st.sampled_from([[], [power("out")]]))),
            port("bus", "usb-c", control("q", "host", wake=draw(st.sampled_from(WAKES))), power("out")),
        ],
        settings=draw(menus("family")),
        wake={"how": "Switch on.", "boot_s": 3, "needs_balance": draw(st.booleans())},
        power={"draw_w": 4, "inner_battery": {"name": "battery", "energy_wh": 40}},
        surfaces=[{"id": key, "name": key, "kind": "button"} for key in ("record", "focus")],
        emits=[
            {"functions": ["record"], "surface": "record", "over": "out/p", "when": {"settings": {"family": "on"}}},
            {"functions": ["focus"], "surface": "focus", "over": draw(st.sampled_from(["out/p", "bus/q"]))},
        ],
    )  # fmt: skip
    driver = profile(
        "driver",
        ports=[
            port("in", "usb-c", control("q", "device", joined_before_wake=draw(st.booleans())), power("in")),
            port("dc", "usb-c", power("in")),
            port("cam", "usb-c", control("p", "host", wake=draw(st.sampled_from(WAKES)))),
        ],
        settings=draw(menus("kind")),
        wake={"how": "It wakes with its feed.", "boot_s": 1, "with_feed": draw(st.booleans())},
        power={"draw_w": 2},
        relays=[{"functions": ["focus"], "over": "in/q", "to": "cam/p", "when": {"settings": {"kind": "on"}}}],
    )
    bank = profile(
        "bank",
        ports=[port("give", "usb-c", power("out", draw(st.sampled_from([5, 9]))))],
        power={"draw_w": 0, "inner_battery": {"name": "battery", "energy_wh": 40}},
    )
    phone = profile(
        "phone",
        stage="off-gimbal",
        radios=[
            {
                "id": "air", "name": "air", "system": "wifi", "part": "station", "joins_by": body.radios[0].joins_by,
                "roles": [{**video("in", "1080p25"), "signal": "air-picture"}, control("air-p", "host", medium="air")],
            }
        ],
        settings=draw(menus("app")),
        wake={"how": "Unlock.", "boot_s": 1},
        power={"draw_w": 3, "inner_battery": {"name": "battery", "energy_wh": 15}},
        surfaces=[{"id": "glass", "name": "glass", "kind": "touch"}],
        emits=[{"functions": ["iso", "focus"], "surface": "glass", "over": "air/air-p"}],
        shows=[{"screen": "glass", "over": "air/air-picture", "delay_ms": 10, "when": {"settings": {"app": "on"}}}],
    )  # fmt: skip
    wanted = [
        promise("record", "grip", "record", weight=draw(st.sampled_from([2, 5]))),
        promise("focus", "grip", "focus", weight=4),
        promise("iso", "phone", "glass", weight=3),
        promise("focus", "phone", "glass", "focus-phone", weight=2),
        picture("phone", "glass", "see", weight=3),
    ]
    chosen = draw(st.lists(st.sampled_from(wanted), min_size=2, max_size=5, unique_by=lambda one: one["id"]))
    bag = [(one, draw(st.integers(0, 2))) for one in LEADS]
    school = draw(st.sampled_from(["profile", "host-first", "camera-first"]))
    own = {"mode": draw(st.sampled_from(MODES)), **draw(pieces())}
    own.pop("licences")
    return rig_of([body, grip, driver, bank, phone], bag, chosen, devices={"body": own}, schools={"wake": school})
