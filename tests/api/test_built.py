"""A rig that stands built: the short sheet beside the whole, flags that stay, and what comes of pulling something."""

from typing import Any

import pytest
from fastapi.testclient import TestClient

from tests.rigs import demo_rig


def planned(client: TestClient, document: dict[str, Any]) -> dict[str, Any]:
    answer = client.post("/api/plan", json={"document": document})
    assert answer.status_code == 200, answer.text
    return dict(answer.json())


def built(client: TestClient) -> dict[str, Any]:
    """The demo rig as its document stands once it is built."""
    document = demo_rig().model_dump(mode="json")
    flags = [{**flag, "plugged": True} for flag in planned(client, document)["flags"]]
    return {**document, "flags": flags, "built": {**document, "flags": flags}}


def test_in_its_cases_there_is_the_whole_sheet_only(client: TestClient):
    assert planned(client, demo_rig().model_dump(mode="json"))["since_built"] is None


def test_built_there_is_nothing_to_do_and_a_change_asks_for_what_it_spoils(client: TestClient):
    document = built(client)
    assert planned(client, document)["since_built"]["steps"] == []
    document["bag"] = [one for one in document["bag"] if one["cable"] != "usb-c-usb-c-data-30"]
    answer = planned(client, document)
    short, whole = answer["since_built"], answer["sheet"]
    assert 0 < len(short["steps"]) < len(whole["steps"])
    assert short["takes_s"] < whole["takes_s"]
    assert {step["act"]["kind"] for step in short["steps"]} >= {"take-out", "plug", "prove"}


def test_the_bench_carries_out_only_what_the_change_asks_for(client: TestClient):
    document = built(client)
    document["bag"] = [one for one in document["bag"] if one["cable"] != "usb-c-usb-c-data-30"]
    answer = planned(client, document)
    short, unmet = answer["since_built"], [one["promise"] for one in answer["plan"]["unmet"]]
    run = client.post("/api/bench", json={"document": document}).json()
    assert [frame["step"] for frame in run["frames"]] == [step["id"] for step in short["steps"]]
    assert run["frames"][0]["at_s"] < 60  # its clock starts with the change, not with the build
    assert (run["unproven"], run["broken"]) == (unmet, [])
    worked = {proof["promise"] for proof in run["proofs"]}
    assert {proof["promise"] for proof in run["standing"]} == {one["id"] for one in document["promises"]} - worked
    whole = client.post("/api/bench", json={"document": document, "whole": True}).json()
    assert len(whole["frames"]) == len(answer["sheet"]["steps"])
    assert whole["standing"] == []


def test_a_step_left_out_of_the_change_leaves_a_promise_failing(client: TestClient):
    document = built(client)
    document["bag"] = [one for one in document["bag"] if one["cable"] != "usb-c-usb-c-data-30"]
    plugs = [s["id"] for s in planned(client, document)["since_built"]["steps"] if s["act"]["kind"] == "plug"]
    run = client.post("/api/bench", json={"document": document, "skip": plugs}).json()
    assert set(run["unproven"]) > {"iso"}


def test_flags_stay_with_what_stays_and_a_number_is_given_once(client: TestClient):
    document = built(client)
    before = {flag["tag"]: (flag["a"], flag["b"], flag["cable"]) for flag in document["flags"]}
    document["promises"] = [one for one in document["promises"] if one["kind"] != "picture"]
    document["bag"] = [one for one in document["bag"] if one["cable"] != "usb-c-usb-c-data-30"]
    after = planned(client, document)["flags"]
    for flag in after:
        known = before.get(flag["tag"])
        assert known is None or known == (flag["a"], flag["b"], flag["cable"])
    assert {flag["tag"] for flag in after if flag["plugged"]} == {*before}  # what is in stays known


def test_only_the_last_build_is_kept(client: TestClient):
    document = built(client)
    twice = {**document, "built": {**document["built"], "built": document["built"]}}
    assert planned(client, twice)["since_built"]["steps"] == []


def ask(client: TestClient, **asked: Any):
    return client.post("/api/aftermath", json={"document": demo_rig().model_dump(mode="json"), **asked})


def test_before_the_gimbal_is_switched_off_it_says_what_goes_and_what_brings_it_back(client: TestClient):
    found = ask(client, what="switched-off", device="gimbal").json()
    assert set(found["lost"]) == {"roll", "focus"}
    assert "Brindle 2 woke after Tansy grip." in found["forgotten"]
    assert found["sheet"]["steps"][0]["id"] == "wake:gimbal"
    assert 0 < found["sheet"]["takes_s"] < 300


def test_a_battery_that_can_be_swapped_while_it_runs_costs_nothing(client: TestClient):
    found = ask(client, what="battery-changed", device="body").json()
    assert found["lost"] == []  # the body runs from the grip meanwhile


@pytest.mark.parametrize(
    ("asked", "says"),
    [
        ({"what": "pulled", "link": "x--y"}, "Found 'x--y', which is no join of this plan."),
        ({"what": "restarted", "device": "nobody"}, "Found 'nobody', which this plan does not use."),
        ({"what": "battery-changed", "device": "lens"}, "It has no battery of its own."),
    ],
)
def test_what_cannot_be_done_is_refused_with_its_reason(client: TestClient, asked: dict[str, Any], says: str):
    answer = ask(client, **asked)
    assert answer.status_code == 422
    assert says in answer.json()["message"]
