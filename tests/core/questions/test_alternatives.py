"""Other plans differ in their routes and come best first; every way to a picture is listed and can be adopted."""

import pytest

from isotact.catalogue import shipped
from isotact.core.model import NotFoundError, ResolvedRig, resolve
from isotact.core.planning import plan
from isotact.core.planning.ways.all_ways import search
from isotact.core.questions import alternatives, picture_ways
from isotact.core.questions.alternatives import way_class
from isotact.examples import examples
from tests.rigs import demo


def example(number: int) -> ResolvedRig:
    catalogue = shipped()
    found = next(one for one in examples() if one.number == number)
    return resolve(found.rigs[0], catalogue.profiles, catalogue.cables)


RIGS = {"demo": demo(), "all ways": example(16), "body or motor": example(5), "receivers": example(15)}
each = pytest.mark.parametrize("rig", RIGS.values(), ids=RIGS.keys())


@each
def test_the_first_is_the_plan_itself(rig: ResolvedRig):
    first, made = alternatives(rig)[0], plan(rig)
    assert (first.plan.joins, first.plan.kept) == (made.joins, made.kept)
    assert first.differs == ()


@each
def test_they_come_best_first(rig: ResolvedRig):
    values = [(-one.figures.weight, one.figures.points) for one in alternatives(rig)]
    assert values == sorted(values)


@each
def test_each_has_a_way_of_some_promise_that_those_before_it_do_not_have(rig: ResolvedRig):
    ways = {promise: {frozenset(w.spans): way_class(rig, w.way) for w in found} for promise, found in search(rig).options.items()}  # fmt: skip

    def classes(over: dict[str, tuple[str, ...]]) -> set[tuple[str, object]]:
        return {
            (promise, kind)
            for promise, joins in over.items()
            for spans, kind in ways[promise].items()
            if {span.split("|")[0] for span in spans} == set(joins)
        }

    seen = [classes(one.over) for one in alternatives(rig)]
    for number, here in enumerate(seen):
        assert all(here - before for before in seen[:number])


@each
def test_pinning_the_ways_of_one_brings_it_about(rig: ResolvedRig):
    other = alternatives(rig)[1]
    pins = [{"kind": "way", "promise": key, "over": list(over)} for key, over in other.over.items()]
    document = type(rig.rig).model_validate({**rig.rig.model_dump(mode="json"), "pins": pins})
    made = plan(ResolvedRig(document, rig.cables, rig.devices))
    assert all(answer.obeyed for answer in made.pins)
    assert set(other.plan.kept) <= set(made.kept)


def test_figures_are_those_of_the_plan():
    figures = alternatives(RIGS["demo"])[0].figures
    assert (figures.kept, figures.cables, figures.axes, figures.worst_delay_ms) == (3, 2, 1, 77)
    # body 610, lens 420, grip 1340, transmitter 125 g and two cables of 14 and 18 g
    assert figures.mass_g == 610 + 420 + 1340 + 125 + 14 + 18
    assert figures.load_w == pytest.approx(5.4 + 5.0 + 3.1 + 3.2)


def test_every_way_to_the_picture_is_there_the_simplest_first():
    ways = picture_ways(example(16), "village")
    assert ways[0].says == "Body to Director monitor"
    assert [len(way.devices) for way in ways] == sorted(len(way.devices) for way in ways)
    assert len({way.says for way in ways}) == 12
    relayed = next(way for way in ways if way.says == "Body to Transmitter to Receiver to Director monitor")
    assert (relayed.delay_ms, relayed.lost) == (50, ())


def test_a_way_that_is_too_late_is_listed_with_the_reason():
    rig = demo(lambda data: [p.update(within_ms=70) for p in data["promises"] if p["kind"] == "picture"])
    way = picture_ways(rig, "picture")[0]
    assert not way.possible
    assert "77 ms late; 70 ms was promised" in way.because


def test_only_pictures_have_ways_to_a_screen():
    with pytest.raises(NotFoundError):
        picture_ways(RIGS["demo"], "roll")
