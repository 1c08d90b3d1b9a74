"""The finder over HTTP: what is asked, what is answered, what is kept in the log, and what is refused."""

import pytest
from fastapi.testclient import TestClient

from isotact.core.model.named_keys import prove_key

B = "night-ferry-b"
FOCUS = str(prove_key("focus"))
LOOK_ALIKE = "joined:body.usb--gimbal.camera/wrong-port"


@pytest.fixture
def rig(client: TestClient) -> dict:
    return client.get(f"/api/rigs/{B}").json()["document"]


def entry(number: int, what: str, subject: str, **more: object) -> dict:
    return {"uid": f"finder-{number:04}", "what": what, "subject": subject, **more}


def say(client: TestClient, *entries: dict) -> dict:
    answer = client.post(f"/api/rigs/{B}/log", json={"revision": 1, "entries": [*entries]})
    assert answer.status_code == 200, answer.text
    return answer.json()


def find(client: TestClient, rig: dict, *seen: dict, **standing: object) -> dict:
    answer = client.post("/api/find", json={"document": rig, "seen": [*seen], **standing})
    assert answer.status_code == 200, answer.text
    return answer.json()


def test_from_a_promise_that_fails_to_its_cause(client: TestClient, rig: dict):
    seen = [{"look": FOCUS, "answer": "odd"}]
    first = find(client, rig, *seen)["finding"]
    assert first["status"] == "looking"
    assert first["next"][0]["outcomes"]
    seen += [
        {"look": "lamp:gimbal.grip-lamp", "saw": "steady green"},
        {
            "look": "follow:body.usb--gimbal.camera",
            "saw": next(
                words
                for one in client.post("/api/find/sights", json={"document": rig}).json()
                if one["id"] == "follow:body.usb--gimbal.camera"
                for words in one["words"]
                if "small bolt" in words
            ),
        },
    ]
    found = find(client, rig, *seen)
    assert found["finding"]["causes"][0]["ids"] == [LOOK_ALIKE]
    assert found["finding"]["next"][0]["id"] == f"cure:{LOOK_ALIKE}"
    assert found["crew"][0] == "wrong port"
    sheet = client.post("/api/find/cure", json={"document": rig, "causes": [LOOK_ALIKE]}).json()
    assert (sheet["steps"][0]["act"]["kind"], sheet["steps"][0]["tag"]) == ("plug", "B2")


def test_what_people_say_is_known_by_its_words(client: TestClient):
    assert len(client.get("/api/symptoms").json()) > 10
    assert client.get("/api/symptoms", params={"text": "two rings move"}).json()[0]["id"] == "two-rings"
    assert client.get("/api/symptoms", params={"text": "zxqw"}).json() == []


class TestRefused:
    def test_a_cause_that_nobody_thought_of(self, client: TestClient, rig: dict):
        answer = client.post("/api/find/cure", json={"document": rig, "causes": ["no:such"]})
        assert answer.status_code == 404
        assert "There is no cause 'no:such'" in answer.json()["message"]

    @pytest.mark.parametrize(
        "seen", [{"look": "x", "answer": "perhaps"}, {"saw": "blue"}, {"look": "x" * 301}, {"look": "x", "times": 0}]
    )
    def test_an_answer_that_is_none(self, client: TestClient, rig: dict, seen: dict):
        assert client.post("/api/find", json={"document": rig, "seen": [seen]}).status_code == 422

    def test_a_look_without_an_answer_in_the_log(self, client: TestClient):
        answer = client.post(
            f"/api/rigs/{B}/log", json={"revision": 1, "entries": [entry(1, "looked", "lamp:gimbal.grip-lamp")]}
        )
        assert answer.status_code == 422
        assert "found a look without its 'answer'" in answer.text


class TestInTheLog:
    def test_nobody_searches_until_somebody_says_so(self, client: TestClient):
        assert client.get(f"/api/rigs/{B}/steps").json()["search"] is None

    def test_answers_of_all_phones_come_together_the_last_of_each_look(self, client: TestClient):
        stands = say(
            client,
            entry(1, "looked", FOCUS, answer="odd"),
            entry(2, "looked", "lamp:gimbal.grip-lamp", answer="seen", reason="steady blue"),
            entry(3, "looked", "lamp:gimbal.grip-lamp", answer="seen", reason="steady green"),
            entry(4, "looked", "lamp:gimbal.grip-lamp", answer="seen", reason="steady green"),
        )
        assert [(one["look"], one["saw"], one["times"]) for one in stands["search"]] == [
            (FOCUS, "", 1),
            ("lamp:gimbal.grip-lamp", "steady green", 2),
        ]

    def test_what_was_seen_before_a_cure_in_vain_stays_beside_what_is_seen_after_it(self, client: TestClient):
        lamp = "lamp:gimbal.grip-lamp"
        entries = [
            entry(1, "looked", lamp, answer="seen", reason="dark"),
            entry(2, "looked", f"cure:{LOOK_ALIKE}", answer="seen", reason="it still fails"),
            entry(3, "looked", lamp, answer="seen", reason="steady blue"),
        ]
        assert [(one["look"], one["saw"]) for one in say(client, *entries)["search"]] == [
            (lamp, "dark"),
            (f"cure:{LOOK_ALIKE}", "it still fails"),
            (lamp, "steady blue"),
        ]
        stands = say(client, entry(4, "unlooked", lamp))
        assert [one["saw"] for one in stands["search"]] == ["dark", "it still fails"]

    def test_an_answer_is_taken_back(self, client: TestClient):
        say(client, entry(1, "looked", FOCUS, answer="odd"))
        stands = say(client, entry(2, "unlooked", FOCUS))
        assert stands["search"] == []

    @pytest.mark.parametrize("end", ["found", "given-up"])
    def test_an_end_is_an_end_and_stays_in_the_book(self, client: TestClient, end: str):
        say(client, entry(1, "looked", FOCUS, answer="odd"))
        stands = say(client, entry(2, end, LOOK_ALIKE, reason="B2 was in the small bolt port"))
        assert stands["search"] is None
        lines = client.get("/api/log", params={"rig": B}).json()
        assert (lines[0]["what"], lines[0]["text"]) == (end, "B2 was in the small bolt port")
        assert lines[1]["words"].startswith("Prove: focus")

    def test_a_new_day_has_no_search(self, client: TestClient):
        say(client, entry(1, "looked", FOCUS, answer="odd"))
        client.delete(f"/api/rigs/{B}/steps")
        assert client.get(f"/api/rigs/{B}/steps").json()["search"] is None

    def test_what_befell_a_device_is_there_in_its_order(self, client: TestClient):
        stands = say(client, entry(1, "restarted", "body"), entry(2, "battery-changed", "gimbal"))
        assert [(one["what"], one["device"]) for one in stands["happened"]] == [
            ("restarted", "body"),
            ("battery-changed", "gimbal"),
        ]

    def test_what_was_found_here_counts_in_the_next_search(self, client: TestClient, rig: dict):
        seen = {"look": FOCUS, "answer": "odd"}
        before = find(client, rig, seen)
        for number in range(12):
            say(client, entry(number, "found", LOOK_ALIKE, reason="again", fault_kind="joined/wrong-port"))
        after = find(client, rig, seen)
        assert after["finds"] == {"joined/wrong-port": 12}
        assert before["finds"] == {}
        assert after["finding"]["causes"][0]["ids"] == [LOOK_ALIKE]
        assert after["finding"]["causes"][0]["share"] > 2 * before["finding"]["causes"][0]["share"]
