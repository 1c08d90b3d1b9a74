"""What has too many ways to list walks through their graph, and comes out as if every way had been listed."""

import pytest

from isotact.catalogue import shipped
from isotact.core.bench import run
from isotact.core.model import Plan, ResolvedRig, Rig, resolve
from isotact.core.planning import plan, planner
from isotact.core.planning.ways import all_ways
from isotact.core.runsheet import run_sheet
from tests.corpus import Drawn, every


def chain(monitors: int, **changes: object) -> ResolvedRig:
    """A body, a transmitter, a phone link, and so many monitors that can be looped in any order."""
    kinds = {
        "body": "mirrorless-usb-c-full-hdmi", "tx": "video-transmitter-hdmi", "rx": "video-receiver-hdmi",
        "village": "large-monitor-hdmi", "battery": "plate-battery", "link": "phone-link-picture", "phone": "phone",
    } | {f"m{number}": "on-board-monitor-loop" for number in range(monitors)}  # fmt: skip

    def picture(key: str, device: str, surface: str, look: str = "any") -> dict[str, object]:
        return {"kind": "picture", "id": key, "who": "X", "at": {"device": device, "surface": surface}, "look": look}

    wanted = [picture(f"p{number}", f"m{number}", "screen") for number in range(monitors)]
    wanted += [picture("village", "village", "screen", "with"), picture("phone", "phone", "touch-screen", "clean")]
    data = {
        "format": "isotact/rig", "version": 1, "id": "chain", "name": "Chain",
        "devices": [{"id": key, "profile": profile} for key, profile in kinds.items()],
        "bag": [{"cable": key, "count": 9} for key in ("hdmi-a-hdmi-a-50", "hdmi-a-hdmi-a-200", "tap-power-2-50")],
        "promises": wanted, **changes,
    }  # fmt: skip
    catalogue = shipped()
    return resolve(Rig.model_validate(data), catalogue.profiles, catalogue.cables)


def drive(motors: dict[str, str], **changes: object) -> ResolvedRig:
    """A driver with a hand unit, a lens of three rings, and `motors`."""
    kinds = {
        "body": "cine-body-large-panel", "lens": "lens-cine-zoom-pl", "hand": "hand-unit", "driver": "driver-newer",
        "battery": "plate-battery", **motors,
    }  # fmt: skip
    wanted = [
        {
            "kind": "control", "id": function, "who": "X", "function": function,
            "at": {"device": "hand", "surface": surface}, "weight": weight,
        }
        for function, surface, weight in (("focus", "knob", 5), ("iris", "slider", 4), ("zoom", "zoom-stick", 3))
    ]  # fmt: skip
    data = {
        "format": "isotact/rig", "version": 1, "id": "drive", "name": "Drive", "camera": "A",
        "devices": [{"id": key, "profile": profile} for key, profile in kinds.items()],
        "bag": [{"cable": key, "count": 9} for key in ("motor-bus-motor-bus-20", "tap-power-2-50")],
        "promises": wanted, **changes,
    }  # fmt: skip
    catalogue = shipped()
    return resolve(Rig.model_validate(data), catalogue.profiles, catalogue.cables)


def worth(rig: ResolvedRig, made: Plan) -> tuple[int, int]:
    weights = {promise.id: promise.weight for promise in rig.rig.promises}
    return sum(weights[key] for key in made.kept), sum(line.points for line in made.cost)


def test_a_chain_with_more_ways_than_are_listed_is_planned_and_proven():
    rig = chain(5)
    assert planner.search(rig).walks
    made = plan(rig)
    assert made.status == "proven-optimal"
    assert len(made.kept) == 6
    ran = run(rig, run_sheet(rig, made))
    assert set(ran.unproven) == {promise.id for promise in rig.rig.promises} - set(made.kept)


def test_the_graph_is_as_good_as_listing_every_way(monkeypatch: pytest.MonkeyPatch):
    rig = chain(2)
    monkeypatch.setattr(all_ways, "MAX_ROUTES", 100_000)
    assert not planner.search(rig).walks
    listed = worth(rig, plan(rig))
    monkeypatch.setattr(all_ways, "MAX_ROUTES", 2)
    assert planner.search(rig).walks
    assert worth(rig, plan(rig)) == listed


def test_a_school_that_asks_each_way_by_itself_is_kept_to():
    made = plan(chain(4, schools={"chain": "look"}))
    assert made.status == "proven-optimal"
    assert all(route.look for route in made.routes if route.promise == "village")


def test_a_school_of_focus_is_kept_to_where_the_ways_are_too_many_to_list():
    motors = {f"motor-{number}": "lens-motor" for number in range(6)}
    rig = drive(motors, schools={"focus": "through-body"})
    assert planner.search(rig).walks
    made = plan(rig)
    assert made.status == "proven-optimal"
    assert "focus" not in made.kept


@every("mid-size", 15)
def test_on_generated_rigs_walking_gives_what_the_list_gives(drawn: Drawn):
    rig = drawn.rig
    listed = worth(rig, drawn.plan)
    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(all_ways, "MAX_ROUTES", 0)
        made = plan(rig)
    assert made.status == "proven-optimal"
    assert worth(rig, made) == listed
