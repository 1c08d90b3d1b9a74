"""A device as it is drawn: what the profile says is where it says, and what nobody said is drawn in a row."""

from itertools import combinations

import pytest

from isotact.catalogue import shipped
from isotact.core.model.profile import Profile
from isotact.core.telling.faces import Face, FaceMark, FaceSide, Socket, face
from isotact.core.telling.outlines import OUTLINES, bounds, outline

PROFILES = shipped().profiles


def clear_of(one: Socket, other: Socket | FaceMark) -> bool:
    """Whether two do not lie on each other; a ring around a mount lies around it."""
    if isinstance(other, Socket) and any(
        ring.around_mm and ring.around_mm >= port.width_mm for ring, port in ((one, other), (other, one))
    ):
        return True
    across = abs(one.x_mm - other.x_mm) - (one.width_mm + other.width_mm) / 2
    down = abs(one.y_mm - other.y_mm) - (one.height_mm + other.height_mm) / 2
    return across >= 0 or down >= 0


def inside(one: Socket | FaceMark, side: FaceSide) -> bool:
    right, down = one.width_mm / 2, one.height_mm / 2
    return (
        one.x_mm - right >= -0.01
        and one.y_mm - down >= -0.01
        and one.x_mm + right <= side.width_mm + 0.01
        and one.y_mm + down <= side.height_mm + 0.01
    )


@pytest.mark.parametrize("key", sorted(PROFILES))
def test_everything_on_every_shipped_device_lies_inside_its_side_and_nothing_on_anything_else(key: str):
    drawn = face(PROFILES[key])
    assert drawn.to_scale, "its size is known"
    for side in drawn.sides:
        assert not side.in_a_row, "where its ports are is known"
        things = [*side.sockets, *side.marks]
        assert [one.id for one in things if not inside(one, side)] == []
        pairs = [(one.id, other.id) for one, other in combinations(side.sockets, 2) if not clear_of(one, other)]
        pairs += [(one.id, other.id) for one in side.sockets for other in side.marks if not clear_of(one, other)]
        assert pairs == [], side.side


@pytest.mark.parametrize("key", sorted(PROFILES))
def test_every_port_is_drawn_once_and_on_its_side(key: str):
    profile, drawn = PROFILES[key], face(PROFILES[key])
    sides = {socket.id: side.side for side in drawn.sides for socket in side.sockets}
    assert sides == {port.id: port.side for port in profile.ports}
    assert len([socket for side in drawn.sides for socket in side.sockets]) == len(profile.ports)


WORDS = {"upper": (0.0, 0.55), "lower": (0.45, 1.0)}
"""What the words of a place say of how far down it is."""


@pytest.mark.parametrize("key", sorted(PROFILES))
def test_a_port_is_drawn_where_its_words_say(key: str):
    """Of two that look alike the upper one is drawn above: a picture that says otherwise than the label is worse than none."""
    for side in face(PROFILES[key]).sides:
        said = {word: [one.y_mm for one in side.sockets if word in one.place] for word in WORDS}
        assert all(upper < lower for upper in said["upper"] for lower in said["lower"])
        left = [one.x_mm for one in side.sockets if one.place.endswith("left")]
        right = [one.x_mm for one in side.sockets if one.place.endswith("right")]
        assert all(one < other for one in left for other in right)


def side_of(drawn: Face, side: str) -> FaceSide:
    return next(one for one in drawn.sides if one.side == side)


def changed(key: str, **fields: object) -> Profile:
    return Profile.model_validate({**PROFILES[key].model_dump(), **fields})


def test_sides_are_as_large_as_one_sees_them():
    drawn = face(PROFILES["mirrorless-usb-c-micro-hdmi"])  # 131 wide, 96 high, 80 deep
    assert (side_of(drawn, "front").width_mm, side_of(drawn, "front").height_mm) == (131, 96)
    assert (side_of(drawn, "left").width_mm, side_of(drawn, "left").height_mm) == (80, 96)
    assert (side_of(drawn, "top").width_mm, side_of(drawn, "top").height_mm) == (131, 80)


def test_an_upright_socket_stands():
    usb = side_of(face(PROFILES["mirrorless-usb-c-full-hdmi"]), "left").sockets[0]
    assert (usb.turned, usb.width_mm, usb.height_mm) == (90, 2.4, 8.25)


def test_a_device_of_unknown_size_has_its_ports_in_a_row_and_says_so():
    bare = changed("video-transmitter-control", size_mm=None)
    drawn = face(bare)
    assert not drawn.to_scale
    left = side_of(drawn, "left")
    assert left.in_a_row
    assert [one.id for one in left.sockets] == ["hdmi-in", "ctrl"]
    assert all(inside(one, left) for one in left.sockets)
    assert clear_of(*left.sockets)
    assert left.marks == ()


def test_one_port_without_a_place_puts_its_side_in_a_row_and_no_other():
    ports = [
        port.model_copy(update={"at": None}) if port.id == "ctrl" else port
        for port in PROFILES["video-transmitter-control"].ports
    ]
    drawn = face(PROFILES["video-transmitter-control"].model_copy(update={"ports": ports}))
    assert {side.side: side.in_a_row for side in drawn.sides} == {
        "left": True,
        "right": False,
        "bottom": False,
        "top": False,
    }


def test_twelve_ports_of_unknown_place_fit_a_small_side():
    one = PROFILES["phone"].ports[0]
    ports = [one.model_copy(update={"id": f"p-{number}", "at": None}) for number in range(12)]
    side = side_of(face(PROFILES["phone"].model_copy(update={"ports": ports})), "bottom")
    xs = [socket.x_mm for socket in side.sockets]
    assert xs == sorted(xs)
    assert xs[0] > 0
    assert xs[-1] < side.width_mm


def test_the_gear_of_a_lens_goes_right_around_it():
    ring = side_of(face(PROFILES["lens-cine-pl"]), "top").sockets[0]
    assert ring.is_band
    assert ring.width_mm == PROFILES["lens-cine-pl"].size_mm[0]


def test_a_captive_lead_is_known_as_one():
    profile = PROFILES["phone-onward-adapter"]
    leads = {one.id for side in face(profile).sides for one in side.sockets if one.is_lead}
    assert leads == {port.id for port in profile.ports if port.captive_mm is not None} != set()


@pytest.mark.parametrize(
    ("field", "value", "words"),
    [("at", [1.2, 0.5], "less than or equal to 1"), ("turned", 45, "0, 90, 180 or 270"), ("points", "away", "'out'")],
)
def test_a_place_that_is_none_is_refused(field: str, value: object, words: str):
    ports = [port.model_dump() for port in PROFILES["phone"].ports]
    with pytest.raises(ValueError, match=words):
        changed("phone", ports=[{**ports[0], field: value}])


def test_every_connector_that_ships_has_an_outline_of_its_own():
    used = {port.connector for profile in PROFILES.values() for port in profile.ports}
    used |= {end.connector for cable in shipped().cables.values() for end in cable.ends}
    assert used <= set(OUTLINES)
    assert outline("somebodys-own").source.startswith("nobody")


@pytest.mark.parametrize("key", sorted(OUTLINES))
def test_contacts_lie_in_their_shell_and_not_on_each_other(key: str):
    drawn = OUTLINES[key]
    left, top, right, bottom = bounds([shape for shape in drawn.shapes if shape.part != "contact"])
    boxes = [bounds([shape]) for shape in drawn.shapes if shape.part == "contact"]
    assert all(left <= x and top <= y and z <= right and w <= bottom for x, y, z, w in boxes)
    for one, other in combinations(boxes, 2):
        assert one[2] <= other[0] or other[2] <= one[0] or one[3] <= other[1] or other[3] <= one[1]
