"""Which links could be made: plugs that mate, roles that fit, cables that carry."""

import pytest

from isotact.core.planning import candidates
from tests.rigs import DATA, cable, camera, control, grip, picture, port, power, profile, rig_of, video


def ids(rig):
    return [link.id for link in candidates(rig)]


def two(one_roles, other_roles, cables, connectors=("usb-c", "usb-c")):
    one = profile("one", ports=[port("a", connectors[0], *one_roles)])
    other = profile("other", ports=[port("b", connectors[1], *other_roles)])
    return rig_of([one, other], [(item, 1) for item in cables], [])


def test_a_cable_that_carries_data_joins_host_and_device():
    assert ids(two([control("p", "host")], [control("p", "device")], [DATA])) == ["one.a--other.b~data"]


@pytest.mark.parametrize(
    ("one", "other"),
    [
        (control("p", "host"), control("p", "host")),
        (control("p", "host"), control("q", "device")),
        (control("p", "peer"), control("p", "device")),
        (video("out"), video("out")),
        (power("out", 5), power("in", 12)),
        (power("in"), power("in")),
        (control("p", "host"), power("in")),
    ],
)
def test_roles_that_have_nothing_to_say_to_each_other_are_not_joined(one, other):
    anything = cable("any", "usb-c", "usb-c", {"medium": "usb-data"}, {"medium": "hdmi"}, {"medium": "power"})
    assert ids(two([one], [other], [anything])) == []


def test_a_cable_only_fits_its_own_sockets():
    hdmi = cable("hdmi", "hdmi-a", "hdmi-a", {"medium": "usb-data"})
    assert ids(two([control("p", "host")], [control("p", "device")], [hdmi])) == []


def test_a_charge_only_cable_carries_the_feed_and_not_the_control():
    charge = cable("charge", "usb-c", "usb-c", {"medium": "power"})
    roles = [control("p", "host"), power("out")], [control("p", "device"), power("in")]
    link = candidates(two(*roles, [charge]))[0]
    assert [use.kind for use in link.uses] == ["power"]


def test_a_cable_wired_for_one_family_serves_only_that():
    wired = cable("wired", "usb-c", "usb-c", {"medium": "usb-data", "wired_for": ["q"]})
    assert ids(two([control("p", "host")], [control("p", "device")], [wired])) == []
    assert ids(two([control("q", "host")], [control("q", "device")], [wired])) != []


def test_a_one_way_cable_lies_only_one_way_round():
    one_way = cable("oneway", "tap", "power-2", {"medium": "power", "one_way": True})
    assert ids(two([power("out", 14)], [power("in", 14)], [one_way], ("tap", "power-2"))) != []
    assert ids(two([power("in", 14)], [power("out", 14)], [one_way], ("tap", "power-2"))) == []


def test_a_cable_with_unlike_ends_is_turned_to_fit():
    unlike = cable("unlike", "usb-a", "usb-c")
    link = candidates(two([control("p", "host")], [control("p", "device")], [unlike], ("usb-c", "usb-a")))[0]
    assert link.end_a == 2


def test_one_adapter_makes_a_cable_fit_that_does_not():
    adapter = cable(
        "adapter",
        "usb-micro-b",
        "usb-c",
        kind="adapter",
        ends=[{"connector": "usb-micro-b"}, {"connector": "usb-c", "gender": "receptacle"}],
    )
    rig = two([control("p", "host")], [control("p", "device")], [DATA, adapter], ("usb-c", "usb-micro-b"))
    link = candidates(rig)[0]
    assert (link.cable, link.adapter_a, link.adapter_b) == ("data", None, "adapter")


def test_no_adapter_is_offered_where_the_cable_fits_or_when_it_stops_the_medium():
    plug = [{"connector": "usb-c"}, {"connector": "usb-c", "gender": "receptacle"}]
    needless = cable("needless", "usb-c", "usb-c", kind="adapter", ends=plug)
    rig = two([control("p", "host")], [control("p", "device")], [DATA, needless])
    assert ids(rig) == ["one.a--other.b~data"]
    power_only = [{"medium": "power"}]
    ends = [{"connector": "usb-micro-b"}, {"connector": "usb-c", "gender": "receptacle"}]
    dumb = cable("dumb", "usb-micro-b", "usb-c", *power_only, kind="adapter", ends=ends)
    rig = two([control("p", "host")], [control("p", "device")], [DATA, dumb], ("usb-c", "usb-micro-b"))
    assert ids(rig) == []


def test_parts_that_mate_directly_need_no_cable_and_no_cable_goes_between_them():
    roles = [control("p", "host", medium="contacts")], [control("p", "device", medium="contacts")]
    direct = candidates(two(*roles, [], ("bayonet-mount", "bayonet-mount")))
    assert [(link.kind, link.cable) for link in direct] == [("direct", None)]
    assert ids(two(*roles, [DATA], ("bayonet-mount", "pl-mount"))) == []


def test_radios_meet_when_of_one_family_and_opposite_parts():
    def radio(part, system, flow):
        role = {**video(flow), "signal": "air"}
        return {"id": "air", "name": "air", "system": system, "part": part, "joins_by": "network", "roles": [role]}

    def pair(part_one, part_other, system="wifi"):
        one = profile("one", radios=[radio(part_one, "wifi", "out")])
        other = profile("other", radios=[radio(part_other, system, "in")])
        return ids(rig_of([one, other], [], []))

    assert pair("access-point", "station") == ["one.air--other.air"]
    assert pair("access-point", "access-point") == []
    assert pair("access-point", "station", "bluetooth") == []


def test_axes_are_counted_between_the_stages_of_the_ports():
    host = grip(stage="handles")
    link = candidates(rig_of([camera(), host], [(DATA, 1)], []))[0]
    assert link.axes == ("tilt", "roll", "pan")
    inner = grip(stage="handles", ports=[port("out", "usb-c", control("p", "host"), stage="tilt-cage")])
    assert candidates(rig_of([camera(), inner], [(DATA, 1)], []))[0].axes == ()


def test_a_cable_that_is_not_in_the_bag_is_no_candidate():
    assert candidates(rig_of([camera(), grip()], [(DATA, 0)], [])) == []


def test_a_picture_in_a_format_that_the_cable_is_too_thin_for_takes_another():
    from isotact.core.planning import plan

    source = profile(
        "source",
        ports=[port("out", "hdmi-a", video("out", "2160p50", "1080p25", format_setting="format"))],
        makes=[{"over": "out", "delay_ms": 10}],
        settings=[
            {
                "id": "format", "name": "format", "path": ["Menu"], "factory": "2160p50",
                "values": [{"id": f, "name": f} for f in ("2160p50", "1080p25")],
            }
        ],
        wake={"how": "On.", "boot_s": 1},
    )  # fmt: skip
    screen = profile(
        "screen",
        ports=[port("in", "hdmi-a", video("in", "2160p50", "1080p25"))],
        surfaces=[{"id": "glass", "name": "glass", "kind": "screen"}],
        shows=[{"screen": "glass", "over": "in", "delay_ms": 5}],
    )
    thin = cable("thin", "hdmi-a", "hdmi-a", {"medium": "hdmi", "max_format": "2160p30"})
    made = plan(rig_of([source, screen], [(thin, 1)], [picture("screen", "glass")]))
    assert made.kept == ("picture",)
    assert [(c.key, c.value) for c in made.choices] == [("format", "1080p25")]


def test_a_plug_clears_what_stands_beside_its_socket():
    facing = profile("one", ports=[port("a", "usb-c", control("p", "host"), angles=["right"])])
    other = profile("other", ports=[port("b", "usb-c", control("p", "device"))])
    ends = [{"connector": "usb-c", "angle": "right"}, {"connector": "usb-c"}]
    bent = cable("bent", "usb-c", "usb-c", ends=ends)
    assert {link.cable for link in candidates(rig_of([facing, other], [(DATA, 1), (bent, 1)], []))} == {"bent"}


@pytest.mark.parametrize(
    ("length_mm", "stage", "reaches"), [(900, "off-gimbal", False), (1000, "off-gimbal", True), (300, "handles", True)]
)
def test_a_cable_that_leaves_the_gimbal_is_a_metre_long(length_mm: float, stage: str, reaches: bool):
    one = profile("one", ports=[port("a", "usb-c", control("p", "host"))])
    other = profile("other", stage=stage, ports=[port("b", "usb-c", control("p", "device"))])
    lead = cable("lead", "usb-c", "usb-c", length_mm=length_mm)
    assert bool(candidates(rig_of([one, other], [(lead, 1)], []))) is reaches
