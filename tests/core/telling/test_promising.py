"""Promises from typed words: what a crew writes, and what it means in the demo rigs."""

import pytest

from isotact.catalogue import shipped
from isotact.core.model import Rig, resolve
from isotact.core.telling.promise_parser import Suggestion, suggest
from tests.rigs import SHIPPED


def asked(rig: Rig, text: str, who: str = ""):
    known = shipped()
    return suggest(resolve(rig, known.profiles, known.cables), text, who)


def offered(rig: str, text: str) -> list[str]:
    known = shipped()
    resolved = resolve(SHIPPED[rig], known.profiles, known.cables)
    return [one.profile for one in suggest(resolved, text, "", known.profiles.values()).take]


def test_what_no_device_here_gives_is_offered_from_the_shelf_the_nearest_first():
    first_of = offered("night-ferry-b", "zoom")
    assert "hand-unit" in first_of
    assert len(first_of) <= 3
    assert offered("night-ferry-b", "focus") == [], "the grip gives it"
    assert offered("night-ferry-b", "anvil") == []


def test_hours_without_a_person_are_everybodys():
    assert first("1.5 h", who="Director").promises[0].who == "Everybody"
    assert first("Gaffer: 1.5 h", who="Director").promises[0].who == "Gaffer"
    assert first("everybody 2 h", who="Director").promises[0].who == "Everybody"
    assert first("record", who="Director").promises[0].who == "Director"


def first(text: str, rig: str = "night-ferry-b", who: str = "") -> Suggestion:
    return asked(SHIPPED[rig], text, who).suggestions[0]


@pytest.mark.parametrize(
    ("text", "who", "function", "surface"),
    [
        ("Operator: record from gimbal", "Operator", "record", "record-button"),
        ("operator controls focus on the Tansy grip", "Operator", "focus", "wheel"),
        ("director: iris from phone", "Director", "iris", "touch-screen"),
        ("the best boy: iso", "The best boy", "iso", "touch-screen"),
        ("shuter from phone", "Somebody", "shutter", "touch-screen"),
        ("gim mod", "Somebody", "gimbal-mode", "mode-button"),
    ],
)
def test_a_control_is_found_by_what_it_is_called(text: str, who: str, function: str, surface: str):
    made = first(text, who="Somebody").promises[0]
    assert (made.who, made.function, made.at.surface) == (who, function, surface)


def test_a_picture_takes_its_limit_and_its_look():
    made = first("director sees picture on phone under 100 ms").promises[0]
    assert (made.kind, made.who, made.at.device, made.within_ms) == ("picture", "Director", "phone", 100)
    assert first("clean picture on phone").promises[0].look == "clean"
    assert first("picture with the look on phone, at most 80ms").promises[0].look == "with"


@pytest.mark.parametrize(
    ("text", "hours_h", "changes"),
    [
        ("8 h with 2 changes", 8, 2),
        ("6 hours with one battery change", 6, 1),
        ("3h with a change", 3, 1),
        ("3 h", 3, 0),
    ],
)
def test_hours_with_changes_of_battery(text: str, hours_h: float, changes: int):
    made = first(text).promises[0]
    assert (made.hours_h, made.changes) == (hours_h, changes)


def test_hours_are_a_promise_of_their_own():
    made = first("Everybody: 2,5 h").promises[0]
    assert (made.kind, made.hours_h, made.who) == ("power", 2.5, "Everybody")


def test_several_come_from_one_device_where_one_has_them_all():
    made = first("Focus puller: focus, iris and record", "night-ferry-a").promises
    assert [one.function for one in made] == ["focus", "iris", "record"]
    assert {one.at.device for one in made} == {"hand"}
    assert len({one.id for one in made}) == 3
    spread = first("focus, iris").promises  # the grip has no iris
    assert [one.at.device for one in spread] == ["gimbal", "phone"]


def test_every_suggestion_can_be_promised_as_it_stands():
    for rig in SHIPPED.values():
        for one in asked(rig, "").suggestions:
            taken = [*rig.promises, *one.promises]
            Rig.model_validate(rig.model_copy(update={"promises": taken}).model_dump())


def test_what_is_promised_already_is_said_and_comes_last():
    found = asked(SHIPPED["night-ferry-b"], "record").suggestions
    assert [one.promised for one in found] == sorted(one.promised for one in found)
    assert found[-1].promised


def test_without_words_all_that_could_be_asked_for_is_offered():
    bare = SHIPPED["night-ferry-b"].model_copy(update={"promises": []})
    found = asked(bare, "").suggestions
    assert len(found) == 8
    assert not any(one.promised for one in found)


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("zoom", "Nothing in this rig is called “zoom”. It has: record, focus"),
        ("focus from phone", "No one device has all that"),
        ("99 h", "Found 99 h; from above 0 to 48 h can be promised."),
        ("0 h", "Found 0 h"),
        ("9 h with 30 changes", "Found 30 battery changes; at most 20 can be promised."),
        ("picture under 90000 ms", "at most 60000 ms can be promised"),
    ],
)
def test_what_is_not_understood_is_said(text: str, says: str):
    found = asked(SHIPPED["night-ferry-b"], text)
    assert found.suggestions == ()
    assert says in found.says


def test_an_empty_rig_says_where_to_begin():
    empty = Rig.model_validate({"format": "isotact/rig", "version": 1, "id": "new", "name": "New"})
    assert "take some from the shelf first" in asked(empty, "focus").says


def test_a_name_inside_another_word_is_no_person():
    """“Director's phone” names a device: nothing is promised to the director by it."""
    assert first("director's phone record", who="Operator").promises[0].who == "Operator"
