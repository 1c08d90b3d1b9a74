"""A battery changed, a device restarted: what has to be proven again is what rested on it, and nothing else."""

import pytest

from isotact.core.day import Spoilt, spoilt_by
from isotact.core.model.incidents import Incident
from isotact.core.questions import BuiltRig, CannotAskError
from isotact.core.trades import perform
from isotact.core.trades.incident_acts import acts_at_device
from isotact.core.world import prove
from tests.corpus import Drawn, every
from tests.rigs import Carried, carried


def spoilt(done: Carried, what: Incident, device: str) -> Spoilt:
    return spoilt_by(BuiltRig(done.rig, done.plan, done.conditions), done.world, acts_at_device(what, device))


CASES = [
    # A hand unit whose cell changes while it stays up spoils nothing.
    ("night-ferry-a", Incident.BATTERY_CHANGED, "hand", set(), set()),
    # The receiver goes dark and is switched on again: the picture that comes by it, and the hours of what is on.
    ("night-ferry-a", Incident.BATTERY_CHANGED, "receiver", {"village", "hours"}, {"wake:receiver"}),
    # A motor driver forgets the ends of every lens axis.
    (
        "night-ferry-a",
        Incident.RESTARTED,
        "driver",
        {"focus", "iris", "zoom", "roll", "iso", "hours"},
        {"map:motor-focus.gear", "map:motor-iris.gear", "map:motor-zoom.gear"},
    ),
    # A body that comes back by itself asks its question again, and everything that it did is to be seen again.
    ("night-ferry-b", Incident.RESTARTED, "body", {"roll", "focus", "picture"}, {"answer:body.usb-question"}),
    # The link leaves the phone's network when it goes off; focus and record go another way.
    ("night-ferry-b", Incident.RESTARTED, "transmitter", {"picture"}, {"meet:phone.wifi--transmitter.wifi"}),
]


@pytest.mark.parametrize(("rig", "what", "device", "promises", "steps"), CASES)
def test_what_a_battery_and_a_restart_spoil(rig: str, what: Incident, device: str, promises: set[str], steps: set[str]):
    found = spoilt(carried(rig), what, device)
    assert set(found.promises) == promises
    assert {step for step in found.steps if not step.startswith("prove:")} == steps
    assert all(says for says in found.promises.values())


def test_what_cannot_be_done_is_said():
    with pytest.raises(CannotAskError, match="no battery of its own"):
        spoilt(carried("night-ferry-a"), Incident.BATTERY_CHANGED, "body")


@every("small", 40)
def test_what_fails_afterwards_is_among_what_is_to_be_proven_again(drawn: Drawn):
    done, chance = drawn.done, drawn.chance("an incident")
    what = chance.choice([Incident.RESTARTED, Incident.BATTERY_CHANGED])
    in_use = [feed.device for feed in done.plan.feeds]
    if not in_use:
        return
    device = chance.choice(in_use)
    try:
        found = spoilt(done, what, device)
    except CannotAskError:
        return
    after = done.world.fork()
    for act in acts_at_device(what, device):
        perform(after, act)
    failed = {key for key in done.plan.kept if prove(done.world, key).ok and not prove(after, key).ok}
    assert failed <= set(found.promises)
    assert all(step in {one.id for one in done.sheet.steps} or step.startswith("sleep:") for step in found.steps)
