"""Every shipped sheet as somebody reads it with cold hands at night: its order, and its words.

Common practice, no source.
"""

import re
from collections import Counter
from collections.abc import Iterator

import pytest

from isotact.catalogue import shipped
from isotact.core.bench import run
from isotact.core.model.words import Stage
from isotact.core.runsheet import Step
from isotact.core.trades.balance.acts import BalanceIt
from isotact.core.trades.cables.acts import Plug
from isotact.core.trades.lens_drive.acts import MapEnds
from isotact.core.trades.mounting.acts import Fix
from isotact.core.trades.radio.acts import MeetByRadio
from tests.rigs import SHIPPED, Carried, carried

every_sheet = pytest.mark.parametrize("rig_id", SHIPPED)


def lines(done: Carried) -> Iterator[str]:
    """All that somebody reads of a rig."""
    for step in done.sheet.steps:
        yield from (step.title, *step.detail, *step.avoid, step.expect, *step.cautions)
    yield from done.plan.warnings
    for unmet in done.plan.unmet:
        yield from (unmet.because, *unmet.ways_out)


def ids() -> set[str]:
    """What the catalogue calls things for itself, as far as no person would."""
    found: set[str] = set()
    for profile in shipped().profiles.values():
        ends = [*profile.ports, *profile.radios]
        found |= {profile.id, *profile.licences, *(one.id for one in profile.settings), *(end.id for end in ends)}
        found |= {role.name for end in ends for role in end.roles} | {radio.system for radio in profile.radios}
        found |= {medium for end in ends for role in end.roles for medium in role.conductor}
    found |= {*shipped().cables}
    return {one for one in found if "-" in one}


IDS = ids()
NEVER = (
    "The marking says", "As the job has it", "left out knowingly", "Pass over any prompt", "directly or in a ring",
    "its cells in", "These steps wait",
)  # fmt: skip


@every_sheet
def test_no_id_reaches_a_sentence_and_nothing_that_nobody_says(rig_id: str):
    done = carried(rig_id)
    names = " ".join(placed.name.lower() for placed in done.rig.devices.values())
    for line in lines(done):
        words = {word.strip(".,:;()“”") for word in line.lower().split()}
        assert not {one for one in words & IDS if one not in names}, line
        assert not [phrase for phrase in NEVER if phrase in line], line


@every_sheet
def test_the_cage_is_named_only_where_there_is_a_gimbal(rig_id: str):
    done = carried(rig_id)
    if not done.rig.is_flown:
        assert not [line for step in done.sheet.steps for line in step.detail if line == "On the tilt cage."]


def places(done: Carried, kind: type) -> list[int]:
    return [number for number, step in enumerate(done.sheet.steps) if isinstance(step.act, kind)]


def is_gear(done: Carried, step: Step) -> bool:
    ends = (step.act.a, step.act.b) if isinstance(step.act, Plug) else ()
    return any(done.rig[end.device].endpoint(end.endpoint).is_gear for end in ends)


@every_sheet
def test_all_that_is_in_the_cage_is_there_before_it_is_balanced(rig_id: str):
    """Motors meshed too; and the lens is on before what hangs beside it."""
    done = carried(rig_id)
    balanced = places(done, BalanceIt)
    meshed = [number for number, step in enumerate(done.sheet.steps) if is_gear(done, step)]
    fixed = [n for n in places(done, Fix) if done.rig[done.sheet.steps[n].device or ""].stage == Stage.TILT_CAGE]
    for number in balanced:
        assert all(other < number for other in (*meshed, *fixed))
    seats = {device: placed.seat for device, placed in done.rig.devices.items() if placed.profile.lens is not None}
    lenses = [
        number
        for number, step in enumerate(done.sheet.steps)
        if isinstance(step.act, Plug)
        if any(seats.get(end.device) == end.endpoint for end in (step.act.a, step.act.b))
    ]
    motors = [n for n in places(done, Fix) if done.rig[done.sheet.steps[n].device or ""].profile.motor is not None]
    assert all(lens < motor for lens in lenses for motor in motors)


@every_sheet
def test_an_end_of_a_splitter_is_plugged_once(rig_id: str):
    done = carried(rig_id)
    told = Counter(
        (step.tag, line)
        for step in done.sheet.steps
        if isinstance(step.act, Plug)
        for line in step.detail
        if re.search(r" plug.* into ", line)
    )
    assert not [one for one, count in told.items() if count > 1]


@every_sheet
def test_no_sheet_ends_rolling(rig_id: str):
    done = carried(rig_id)
    ran = run(done.rig, done.sheet)
    looks = {look.device: look for frame in ran.frames for look in frame.changed}
    assert not [look for look in looks.values() if any(lamp.state == "recording" for lamp in look.lamps)]


@every_sheet
def test_fingers_are_warned_where_the_motor_runs(rig_id: str):
    done = carried(rig_id)
    warned = [step for step in done.sheet.steps if any("ingers" in line for line in step.cautions)]
    assert all(isinstance(step.act, MapEnds) for step in warned)


@every_sheet
def test_whoever_was_promised_a_button_is_told_what_it_does_then(rig_id: str):
    done = carried(rig_id)
    for step in done.sheet.steps:
        promise = done.rig.rig.promise(step.act.proves) if step.act.proves is not None else None
        if promise is not None and promise.worked is not None:
            assert [line for line in step.detail if line.startswith("After that ")], step.title


def test_the_hobby_set_is_bound_then_seen_to_rest_then_joined_and_the_body_starts_last():
    done = carried("hobby")
    titles = [step.title for step in done.sheet.steps]
    wakes = [title for title in titles if title.startswith(("Wake ", "Feed "))]
    order = ["Pair Set with Receiver", "Set: see that every stick and switch rests where it must", "Wake Body"]
    assert [title for title in titles if title in order] == order
    assert titles.index(order[1]) < next(n for n, title in enumerate(titles) if title.endswith("Body to Converter"))
    assert wakes[-1] == "Wake Body"


def test_the_gimbal_tunes_itself_after_all_else():
    for rig_id in SHIPPED:
        # A recipe is followed when all stands, with the proofs: nothing is put on by it.
        titles = [step.title for step in carried(rig_id).sheet.steps if not step.id.startswith("recipe:")]
        tuning = [number for number, title in enumerate(titles) if "tune itself" in title]
        assert all(title.startswith("Prove") or number <= tuning[-1] for number, title in enumerate(titles) if tuning)


def test_the_other_is_dark_only_where_there_is_another_already():
    done = carried("two-receivers")
    pairs = [step for step in done.sheet.steps if isinstance(step.act, MeetByRadio)]
    dark = [any("is dark meanwhile, and comes back by itself" in line for line in step.detail) for step in pairs]
    assert dark == [False, True]


def test_what_is_built_off_the_gimbal_has_steps():
    done = carried("two-receivers")
    stood = {step.device for step in done.sheet.steps if step.title.startswith("Stand ")}
    off = {f.device for f in done.plan.feeds if done.rig[f.device].stage == Stage.OFF_GIMBAL}
    assert off
    assert off <= stood


def test_a_restart_that_a_mode_asks_for_is_waited_for_and_said():
    (step,) = (step for step in carried("panel-mode").sheet.steps if step.title == "Body: Panel mode")
    assert step.waits_s == 25
    assert "It starts over by itself: wait about 25 s." in step.detail


def test_what_is_heavy_takes_longer_to_put_up():
    steps = carried("night-ferry-a").sheet.steps
    takes = {step.device: step.takes_s for step in steps if isinstance(step.act, Fix)}
    assert takes["village"] > takes["receiver"]


def test_only_where_something_waits_for_a_start_it_is_said_to_take_effect_at_the_next():
    said = 0
    for rig_id in SHIPPED:
        done = carried(rig_id)
        steps = done.sheet.steps
        told = [step for step in steps if "Its changes take effect at the next start." in step.detail]
        set_here = [step.act for step in steps if step.act.kind == "set"]
        late = [act for act in set_here if done.rig[act.device].profile.setting(act.setting).takes_effect != "at-once"]
        assert not told or late, rig_id
        said += len(told)
    assert said


def test_nothing_is_warned_of_that_is_not_joined_and_no_charger_twice():
    """No motor on the lens, no network in the body: nobody is warned of either. With motors the stop is warned of."""
    still = [line for step in carried("change-bridged").sheet.steps for line in step.cautions]
    assert not [line for line in still if "motor" in line or "network" in line]
    assert sum("charger" in line for line in still) == 1
    warned = [step for step in carried("three-axes").sheet.steps if "past the stop" in " ".join(step.cautions)]
    assert [step.title for step in warned] == ["Motor F: find the stops of the focus gear of Lens"]


def test_only_what_turns_a_ring_is_left_loose_on_its_rods():
    for rig_id in SHIPPED:
        done = carried(rig_id)
        for step in done.sheet.steps:
            if "Loose enough to swing away" in " ".join(step.detail):
                assert done.rig[step.device or ""].profile.motor is not None, (rig_id, step.title)
