"""Questions about one join: why it, what else, what hangs on it."""

import pytest

from isotact.core.model import NotFoundError
from isotact.core.planning import plan
from isotact.core.questions import ask_join
from tests.rigs import demo

RIG = demo()
MADE = plan(RIG)
DATA = next(join.link.id for join in MADE.joins if join.link.cable == "usb-c-usb-c-data-30")


def test_a_cable_says_why_and_what_else_would_do():
    answer = ask_join(RIG, MADE, DATA)
    assert answer.why == "It carries control and power and is 0.3 m long: 3 points better than the next."
    assert [(other.says, other.points) for other in answer.instead] == [("USB-C to USB-C, data, 0.6 m", 3)]
    assert answer.depends == (
        "record from the record button of Tansy grip",
        "focus from the focus wheel of Tansy grip",
        "the feed of Brindle 2",
    )
    assert answer.without == "Without it everything still holds another way, 4 points dearer."


def test_the_only_cable_that_fits_is_missed():
    hdmi = next(join.link.id for join in MADE.joins if join.link.cable == "hdmi-d-hdmi-c-30")
    answer = ask_join(RIG, MADE, hdmi)
    assert answer.why == "It is the only one in the bag that fits both ends and carries video."
    assert answer.without == "Without it you lose picture on the touch screen of Director's phone."


@pytest.mark.parametrize(("kind", "says"), [("radio", "radio that both ends share"), ("direct", "two parts mate")])
def test_what_is_no_cable_says_so(kind: str, says: str):
    link = next(join.link.id for join in MADE.joins if join.link.kind == kind)
    assert says in ask_join(RIG, MADE, link).why


def test_a_join_that_is_not_in_the_plan_cannot_be_asked():
    with pytest.raises(NotFoundError):
        ask_join(RIG, MADE, "body.usb--gimbal.charge")
