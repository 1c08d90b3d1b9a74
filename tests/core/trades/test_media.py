"""Cards: without one a body rolls nothing, and does all else."""

from isotact.core.faults import coverage
from isotact.core.model.keys import Item
from isotact.core.planning import plan
from isotact.core.trades import observe, perform
from isotact.core.trades.media.acts import InsertCard, TakeCardOut
from isotact.core.trades.planned import Planned, Removal
from isotact.core.world import prove
from tests.rigs import DATA, RECORD, Carried, camera, grip, rig_of

CARD = {"name": "an SDXC card", "place": "door on the right"}
ISO = {**RECORD, "id": "iso", "function": "iso"}


def cards(**camera_fields) -> Carried:
    """A body that records and whose sensitivity is set over the same cable."""
    body = camera(accepts=[{"functions": ["record", "iso"], "over": "usb"}], **{"card": CARD, **camera_fields})
    host = grip(emits=[{"functions": ["record", "iso"], "surface": "button", "over": "out"}])
    return Carried.out(rig_of([body, host], [(DATA, 1)], [RECORD, ISO]))


def test_the_sheet_says_to_put_one_in_before_it_is_proven():
    steps = [step.id for step in cards().sheet.steps]
    assert steps.index("insert-card:camera") < steps.index("prove:record")


def test_without_its_card_it_rolls_nothing_and_does_all_else():
    done = cards()
    world = done.world.fork()
    perform(world, TakeCardOut(device="camera"))
    assert {one: prove(world, one).ok for one in done.plan.kept} == {"record": False, "iso": True}


def test_a_body_of_which_no_card_is_known_asks_for_none():
    done = cards(card=None)
    assert not [step for step in done.sheet.steps if "card" in step.id]
    assert InsertCard(device="camera").why_not(done.world) == "camera takes no card."


def test_only_what_rolls_needs_it():
    (card,) = (one for one in cards().conditions if one.kind == "card-in")
    assert card.promises == ("record",)


def test_the_look_tells_it_from_all_other_faults():
    done = cards()
    (row,) = (row for row in coverage(done.rig, done.plan) if row.condition == "card-in:camera")
    assert (row.fallen, row.standing) == (("record",), ())
    assert "look-for-card:camera" in row.seen_by
    assert "prove:record" in row.seen_by


def test_what_the_look_reads():
    done = cards()
    (card,) = (one for one in done.conditions if one.kind == "card-in")
    world = done.world.fork()
    assert observe(world, card.check(done.rig)).words == "a card is in"
    perform(world, TakeCardOut(device="camera"))
    assert observe(world, card.check(done.rig)).words == "no card"


def test_a_function_taken_away_costs_its_promises_only():
    done = cards()
    planned = Planned(done.rig, plan(done.rig))
    assert planned.lost_without(Removal(functions=frozenset((Item("camera", "iso"),)))) == ("iso",)
    assert planned.lost_without(Removal(functions=frozenset((Item("grip", "record"),)))) == ()
