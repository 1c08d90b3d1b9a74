"""The stand-in that ships: a body in a terminal whose record lamp blinks while it rolls."""

import io
import json
import threading
import time
from pathlib import Path

import pytest

from isotact.cli.commands import main
from isotact.cli.stand_in_command import Body
from tests.e2e.conftest import RIG, answering
from tests.rigs import SHIPPED

STATE = {
    "kind": "state",
    "device": {"name": "Body", "state": "awake", "rolling": False, "lamps": [{"name": "lamp", "looks": "green"}]},
    "offers": [{"act": {"kind": "work", "function": "record"}}, {"act": {"kind": "sleep", "device": "body"}}],
}


def test_a_key_sends_the_act_that_is_offered_for_it():
    sent, out = [], io.StringIO()
    body = Body(sent.append, out)
    body.hear(STATE)
    for key in ("r", "s", "w"):
        body.press(key)
    assert [json.loads(one)["act"]["kind"] for one in sent] == ["work", "sleep"]
    assert "Body: awake. lamp green" in out.getvalue()
    assert "Nothing to do by 'w' here" in out.getvalue()


def test_its_record_lamp_blinks_for_as_long_as_it_rolls(monkeypatch):
    out, slept = io.StringIO(), []

    def sleep(seconds: float) -> None:
        slept.append(seconds)
        if len(slept) > 4:
            raise StopIteration

    monkeypatch.setattr(time, "sleep", sleep)
    body = Body(lambda _: None, out)
    body.hear({**STATE, "device": {**STATE["device"], "rolling": True}})
    with pytest.raises(StopIteration):
        body.blink()
    assert out.getvalue().endswith("●\r○\r●\r○\r")


class Keys:
    """Keys that somebody presses, each once the bench has come so far."""

    def __init__(self, *keys: tuple[threading.Event, str]) -> None:
        self._keys = keys

    def __iter__(self):
        for when, key in self._keys:
            assert when.wait(60)
            yield f"{key}\n"


class Screen(io.StringIO):
    """A terminal that tells when it has read something."""

    def __init__(self, **events: threading.Event) -> None:
        super().__init__()
        self._events = events

    def write(self, text: str) -> int:
        written = super().write(text)
        for words, event in self._events.items():
            if words in self.getvalue():
                event.set()
        return written


def test_it_stands_in_for_a_body_of_a_running_server(tmp_path: Path, monkeypatch):
    import urllib.request

    up, rolls = threading.Event(), threading.Event()
    screen = Screen(awake=up, REC=rolls)
    monkeypatch.setattr("sys.stdin", Keys((up, "r"), (rolls, "q")))
    monkeypatch.setattr("sys.stdout", screen)
    with answering(tmp_path) as address:
        rig = SHIPPED[RIG.rpartition("/")[2]].model_dump(mode="json")
        request = urllib.request.Request(
            f"{address}/api/benches",
            json.dumps({"document": rig, "start": "standing"}).encode(),
            {"Content-Type": "application/json", "Origin": address},
        )
        urllib.request.urlopen(request).read()
        assert main(["stand-in", "body", "--at", address]) == 0
    assert "● REC" in screen.getvalue()


def test_without_a_server_a_bench_or_the_device_it_says_what_to_do(tmp_path: Path, capsys):
    assert main(["stand-in", "body", "--at", "http://127.0.0.1:9"]) == 2
    assert "There is no Isotact at http://127.0.0.1:9" in capsys.readouterr().err
    with answering(tmp_path) as address:
        assert main(["stand-in", "body", "--at", address]) == 2
        assert "There is no bench yet" in capsys.readouterr().err
        assert main(["stand-in", "body", "--bench", "0a", "--at", address]) == 2
        assert "let nobody stand in for 'body'" in capsys.readouterr().err
