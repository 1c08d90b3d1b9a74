"""What profiles warn of, ask to take care of and say beside a port reaches whoever holds the sheet, at its step."""

from collections.abc import Iterator

import pytest

from isotact.catalogue import shipped
from isotact.core.model import Profile
from isotact.core.runsheet import Step
from tests.rigs import SHIPPED, carried

USED = {carried(key).rig[feed.device].profile.id for key in SHIPPED for feed in carried(key).plan.feeds}
"""Of what stays in its case nothing is said."""
CABLES = {"inner-cables", "outer-cables"}


def steps() -> Iterator[Step]:
    for rig_id in SHIPPED:
        yield from carried(rig_id).sheet.steps


def said_at(words: str) -> set[str]:
    """The stages at which some sheet says so."""
    plain = words.lower().rstrip(".")
    return {
        step.stage
        for step in steps()
        if any(plain in line.lower() for line in (step.title, *step.detail, *step.cautions, *step.avoid))
    }


def wide(stage: str) -> set[str]:
    return CABLES if stage in CABLES else {stage}


used = pytest.mark.parametrize(
    "profile", [one for one in shipped().profiles.values() if one.id in USED], ids=lambda profile: profile.id
)


@used
def test_every_caution_and_care_line_is_said_at_its_stage(profile: Profile):
    for line in (*profile.cautions, *profile.care):
        wanted = wide(line.at)
        assert said_at(line.says) & wanted, f"{line.says} is said at {said_at(line.says)}"


@used
def test_every_port_note_is_said(profile: Profile):
    for port in profile.ports:
        assert port.note is None or said_at(port.note), port.note


@pytest.mark.parametrize("rig_id", SHIPPED)
def test_a_caution_is_said_once_and_no_two_steps_are_called_the_same(rig_id: str):
    done = carried(rig_id)
    titles = [step.title for step in done.sheet.steps]
    assert len(set(titles)) == len(titles)
    modes = {(one.device, one.value) for one in done.plan.choices if one.kind == "mode"}
    for device in {feed.device for feed in done.plan.feeds}:
        for caution in done.rig[device].profile.cautions:
            places = [step.id for step in done.sheet.steps if caution.says in step.cautions]
            wanted = caution.over is None and (caution.mode is None or (device, caution.mode) in modes)
            assert len(places) == 1 or (not wanted and not places), (caution.says, places)


def test_nothing_is_said_of_what_stays_in_its_case():
    done = carried("serial-body")
    (left,) = (step for step in done.sheet.steps if step.title.startswith("Leave in the case"))
    assert left.detail in (("This plan does not use it.",), ("This plan does not use them.",))
