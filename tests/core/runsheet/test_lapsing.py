"""A mode that a device forgets when it is switched off: chosen once it is up for good, and again after each start."""

from isotact.catalogue import shipped
from isotact.core.bench import run
from isotact.core.model import ResolvedRig, resolve
from isotact.core.planning import plan
from isotact.core.runsheet import run_sheet, sheet_between
from isotact.core.trades import fresh_world, perform
from isotact.core.trades.waking.acts import Sleep
from isotact.core.world import Menus
from tests.core.planning.test_feeds import GRIP, ROLL, planned, rig
from tests.core.runsheet.careful import carefully


def lapsing() -> ResolvedRig:
    """A body on a grip; its dial is electronic and wakes at stills."""
    asked = rig(GRIP, ["usb-c-usb-c-data-30"], [ROLL], body={"mode": "video"})
    profiles = {placed.profile.id: placed.profile for placed in asked.devices.values()}
    body = profiles["hybrid-single-port"]
    assert body.modes is not None
    modes = body.modes.model_copy(update={"lapses": True, "needs_awake": True})
    profiles[body.id] = body.model_copy(update={"modes": modes})
    return resolve(asked.rig, profiles, shipped().cables)


def test_it_is_chosen_after_the_last_start():
    asked = lapsing()
    steps = [step.id for step in run_sheet(asked, planned(asked)).steps]
    assert steps.index("mode:body") > steps.index("wake:body")
    assert steps.index("menu-sleep:body") < steps.index("wake:body")


def test_after_a_restart_it_is_chosen_again():
    asked = lapsing()
    made = plan(asked)
    world = fresh_world(asked)
    carefully(world, run_sheet(asked, made).steps)
    assert world[Menus].mode["body"] == "video"
    perform(world, Sleep(device="body"))
    assert world[Menus].mode["body"] == "stills"
    short = sheet_between(world, made)
    assert {"wake:body", "mode:body"} <= {step.id for step in short.steps}
    ran = run(asked, short, world=world)
    assert [proof.ok for proof in ran.proofs] == [True]


def test_what_it_was_left_in_does_not_count():
    assert lapsing()["body"].mode_now == "stills"
