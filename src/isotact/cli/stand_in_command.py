"""An example of a stand-in: a device of a bench as a program outside, its record lamp blinking in a terminal.

It speaks the protocol of `docs/stand-ins.md` and nothing else of the project: whoever writes one starts from here.
"""

import argparse
import json
import sys
import threading
import time
import urllib.error
import urllib.request
from collections.abc import Callable
from typing import Any, TextIO

from isotact.core.model import IsotactError

BLINK_S = 0.5
"""A record lamp blinks about once a second: half of it lit."""
KEYS = {"r": ("work", "record"), "w": ("wake", ""), "s": ("sleep", "")}
"""What a key does: the kind of act that is looked for among those that the state offers, and its function."""
HELP = "r: press record · w: switch on · s: switch off · q: leave"


def add_options(parser: argparse.ArgumentParser) -> None:
    """Where the bench is, and for which device to stand in."""
    parser.add_argument("device", help="the id of the device in its rig, such as body")
    parser.add_argument("--at", default="http://127.0.0.1:8000", metavar="ADDRESS", help="where Isotact is")
    parser.add_argument("--bench", metavar="ID", help="the bench; left out: the one begun last")


def stand_in(options: argparse.Namespace) -> int:
    """Stand in for a device until `q`, the end of the input, or the end of the bench."""
    from websockets.exceptions import ConnectionClosed, InvalidStatus
    from websockets.sync.client import connect

    bench = options.bench or _newest(options.at)
    address = options.at.replace("http", "ws", 1).rstrip("/")
    try:
        with connect(f"{address}/api/benches/{bench}/devices/{options.device}", open_timeout=10) as line:
            body = Body(line.send, sys.stdout)
            threading.Thread(target=_press, args=(sys.stdin, body, line.close), daemon=True).start()
            threading.Thread(target=body.blink, daemon=True).start()
            for text in line:
                body.hear(json.loads(text))
    except InvalidStatus as error:
        says = f"Isotact let nobody stand in for '{options.device}' at the bench '{bench}'"
        raise IsotactError(f"{says} ({error.response.status_code}). Give a device of its rig, by its id.") from error
    except (ConnectionClosed, OSError) as error:
        raise IsotactError(f"The line to {options.at} is gone: {error}. Is Isotact still running?") from error
    return 0


class Body:
    """How the device stands, as it was told last, and what a key makes of it."""

    def __init__(self, send: Callable[[str], Any], out: TextIO) -> None:
        self._send, self._out = send, out
        self._state: dict[str, Any] = {}
        self._lit = False

    def hear(self, message: dict[str, Any]) -> None:
        """Take in one message."""
        if message["kind"] == "state":
            if not self._state:
                print(HELP, file=self._out, flush=True)
            self._state = message
            device = message["device"]
            lamps = ", ".join(f"{lamp['name']} {lamp['looks']}" for lamp in device["lamps"])
            rolling = " ● REC" if device["rolling"] else ""
            print(f"{device['name']}: {device['state']}{rolling}. {lamps}", file=self._out, flush=True)
        elif message["kind"] == "done":
            print(message["seen"], file=self._out, flush=True)
        else:
            print(message["message"], file=self._out, flush=True)

    def press(self, key: str) -> None:
        """Send what a key stands for, if the device offers it."""
        kind, function = KEYS.get(key, ("", ""))
        offers = [one["act"] for one in self._state.get("offers", ())]
        act = next((one for one in offers if one["kind"] == kind and one.get("function", "") == function), None)
        if act is None:
            print(f"Nothing to do by '{key}' here. {HELP}", file=self._out, flush=True)
        else:
            self._send(json.dumps({"kind": "act", "act": act}))

    def blink(self) -> None:
        """Have the record lamp blink for as long as the device rolls."""
        while True:
            time.sleep(BLINK_S)
            if self._state.get("device", {}).get("rolling"):
                self._lit = not self._lit
                print("●" if self._lit else "○", end="\r", file=self._out, flush=True)


def _press(keys: TextIO, body: Body, leave: Callable[[], object]) -> None:
    for line in keys:
        key = line.strip()
        if key == "q":
            break
        if key:
            body.press(key)
    leave()


def _newest(at: str) -> str:
    """The bench that was begun last."""
    try:
        with urllib.request.urlopen(f"{at.rstrip('/')}/api/benches", timeout=10) as answer:
            benches = json.load(answer)
    except (urllib.error.URLError, OSError, ValueError) as error:
        raise IsotactError(f"There is no Isotact at {at}: {error}. Start it, or give its address with --at.") from error
    if not benches:
        raise IsotactError("There is no bench yet. Begin one on the screen Bench, by hand.")
    return str(benches[0]["id"])
