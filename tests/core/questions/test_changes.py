"""What became different between two revisions, in the words of the trade, with the way from one to the other."""

from collections.abc import Callable
from typing import Any

from isotact.core.questions import BuiltRig, Compared, compared
from isotact.core.runsheet import moved_to, sheet_between
from tests.rigs import Carried, carried, demo, device_of, promise_of


def after(change: Callable[[dict[str, Any]], object]) -> Compared:
    then, now = Carried.out(demo()), Carried.out(demo(change))
    world, gone = moved_to(then.world, now.rig)
    sheet = sheet_between(world, now.plan, now.conditions, gone)
    return compared(BuiltRig(then.rig, then.plan, then.conditions), BuiltRig(now.rig, now.plan, now.conditions), sheet)


def rows(found: Compared, of: str) -> list[tuple[str, str, str]]:
    return [(one.what, one.then, one.now) for one in found.different if one.of == of]


def test_nothing_is_different_from_itself_and_nothing_is_to_be_done():
    found = after(lambda data: None)
    assert (found.different, found.sheet.steps) == ((), ())


def test_another_firmware():
    def change(data: dict[str, Any]) -> None:
        device_of(data, "transmitter").update(firmware="1.4")

    found = after(change)
    assert rows(found, "firmware") == [("Quillon link", "firmware 1.3", "firmware 1.4")]
    assert {one.of for one in found.different} == {"firmware"}


def test_a_dropped_promise_a_stricter_one_and_what_that_re_routes():
    def change(data: dict[str, Any]) -> None:
        data["promises"] = [one for one in data["promises"] if one["id"] != "roll"]
        promise_of(data, "picture")["within_ms"] = 400

    found = after(change)
    was = {what: (then, now) for what, then, now in rows(found, "promise")}
    assert was["Operator: record from the record button of Tansy grip"][1] == ""
    assert was["Director: picture on the touch screen of Director's phone"][1].endswith("at most 400 ms late")
    assert was["Director: ISO from the touch screen of Director's phone"][0].endswith("; cannot be kept")
    assert ("Brindle 2", "Video mode", "Stills mode") in rows(found, "setting")
    assert rows(found, "join")
    assert found.sheet.steps
    assert len(found.sheet.steps) < len(carried("night-ferry-b").sheet.steps)


def test_a_device_that_goes_and_one_that_comes():
    def change(data: dict[str, Any]) -> None:
        device_of(data, "phone").update(id="tablet", name="Tablet")
        for one in data["promises"]:
            if one.get("at", {}).get("device") == "phone":
                one["at"]["device"] = "tablet"

    found = after(change)
    assert [(what, bool(then), bool(now)) for what, then, now in rows(found, "device")] == [
        ("Director's phone", True, False),
        ("Tablet", False, True),
    ]
