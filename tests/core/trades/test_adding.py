"""Adding a condition, with its act, fault, look and lamp: one new file, and its line in its trade.

Done for real: on a copy of the source, with planner, run sheet, bench and coverage run on a rig that has it.
"""

import json
import os
import shutil
import subprocess
import sys
from pathlib import Path

import pytest

SOURCE = Path(__file__).parents[3] / "src"

NEW_FILE = '''"""Antennas: two radios hear each other only on the same one."""

from dataclasses import dataclass, field
from typing import ClassVar, Literal

from isotact.core.model.keys import Item, Key
from isotact.core.trades.base import Check, Condition, Draft, Fault, HandAct
from isotact.core.trades.planned import Removal
from isotact.core.trades.trade import Trade
from isotact.core.world import State, Waking
from isotact.core.world.observation import text

RIGHT = "17"


@dataclass
class Antennas(State):
    word: ClassVar[str] = "antennas"
    on: dict[Item, str] = field(default_factory=dict)

    def stopped(self, world, leg):
        ends = [node[0] for node in (leg.enters, leg.leaves) if node]
        radios = {radio.id for radio in world.rig[leg.device].profile.radios if radio.range_m}
        off = any(self.on.get(Item(leg.device, end)) != RIGHT for end in ends if end in radios)
        return leg.passing if off else frozenset()


class ScrewOn(HandAct):
    kind: Literal["screw-on"] = "screw-on"
    device: str
    radio: str
    antenna: str

    def touches(self):
        return (self.device,)

    def do(self, world):
        world[Antennas].on[Item(self.device, self.radio)] = self.antenna
        return f"It reads {self.antenna}."


class AntennaOn(Condition):
    kind: Literal["antenna-on"] = "antenna-on"
    device: str
    radio: str

    @property
    def key(self):
        return Key.of("antenna-on", Item(self.device, self.radio))

    def holds(self, world):
        return world[Antennas].on.get(Item(self.device, self.radio)) == RIGHT

    def says(self, rig):
        return f"{rig[self.device].name} is with antenna {RIGHT}."

    def made_by(self):
        return Key.of("screw-on", self.device)

    def needs(self):
        return (Key.of("awake", self.device),)

    def draft(self, rig):
        act = ScrewOn(device=self.device, radio=self.radio, antenna=RIGHT)
        return Draft(
            key=self.made_by(), stage="pair", title=f"{rig[self.device].name}: antenna {RIGHT}", expect="It is tight.",
            takes_s=10, act=act, device=self.device,
        )

    def check(self, rig):
        item = Item(self.device, self.radio)
        return Check(
            id=Key.of("look-antenna", item), says="Look for the antenna.", seconds=5, where=self.device,
            read=lambda world: text(world[Antennas].on.get(item, "none")),
        )

    def faults(self, rig):
        act = ScrewOn(device=self.device, radio=self.radio, antenna="18")
        return (Fault(id="other", says="it is on no antenna", weight=2, mend_s=10, act=act),)


def derive(planned):
    for join in planned.joins:
        for end in join.link.ends if join.link.is_radio else ():
            if planned.rig[end.device].endpoint(end.endpoint).claimed_m:
                needing = planned.lost_without(Removal(links=frozenset((join.link.id,))))
                yield AntennaOn(device=end.device, radio=end.endpoint, promises=needing)


def blinking(world, device, look):
    return world[Waking].is_awake(device) and world[Antennas].on.get(Item(device, look.over)) != RIGHT


PIECE = Trade(
    name="antennas", state=(Antennas,), acts=(ScrewOn,), conditions=(AntennaOn,), lamps={"antenna-off": blinking},
    derive=derive,
)
'''

RUN = """
import json
from isotact.catalogue import read_document
from isotact.core.bench import run
from isotact.core.faults import coverage
from isotact.core.model import Profile, Rig, resolve
from isotact.core.planning import plan
from isotact.core.runsheet import RunSheet, run_sheet
from isotact.core.trades import conditions_of

radio = {"id": "air", "name": "air", "system": "x", "part": "peer", "joins_by": "pairing", "range_m": 20,
         "roles": [{"kind": "control", "protocol": "p", "medium": "air", "end": "peer"}]}
shared = {"format": "isotact/profile", "version": 1, "summary": "s", "mass_g": 1, "stage": "tilt-cage",
          "radios": [radio], "wake": {"how": "On.", "boot_s": 1},
          "power": {"draw_w": 1, "inner_battery": {"name": "b", "energy_wh": 9}},
          "indicators": [{"id": "lamp", "name": "lamp", "place": "top", "states": [
              {"when": "antenna-off", "over": "air", "looks": "blinks"}, {"when": "awake", "looks": "steady"}]}]}
body = {**shared, "id": "body", "name": "Body", "kind": "camera-body",
        "accepts": [{"functions": ["record"], "over": "air"}]}
hand = {**shared, "id": "hand", "name": "Hand", "kind": "hand-unit",
        "surfaces": [{"id": "button", "name": "button", "kind": "button"}],
        "emits": [{"functions": ["record"], "surface": "button", "over": "air"}]}
profiles = {one["id"]: read_document(json.dumps(one), Profile) for one in (body, hand)}
rig = resolve(Rig.model_validate({
    "format": "isotact/rig", "version": 1, "id": "r", "name": "r",
    "devices": [{"id": "body", "profile": "body"}, {"id": "hand", "profile": "hand"}],
    "promises": [{"kind": "control", "id": "roll", "who": "me", "function": "record",
                  "at": {"device": "hand", "surface": "button"}}]}), profiles, {})
made = plan(rig)
sheet = run_sheet(rig, made)
ran = run(rig, sheet, conditions=conditions_of(rig, made))
frames = {frame.step: frame for frame in ran.frames}
left_out = run(rig, sheet, skip={"screw-on:body"})
print(json.dumps({
    "kept": made.kept,
    "conditions": [str(c.key) for c in conditions_of(rig, made) if c.kind == "antenna-on"],
    "steps": [step.id for step in sheet.steps],
    "again": RunSheet.model_validate_json(sheet.model_dump_json()) == sheet,
    "unproven": ran.unproven, "broken": ran.broken, "without": left_out.unproven,
    "lamps": [frames["wake:body"].changed[0].lamps[0].looks, frames["screw-on:body"].changed[0].lamps[0].looks],
    "coverage": [row.model_dump() for row in coverage(rig, made) if row.condition == "antenna-on:body.air"],
}))
"""


@pytest.fixture(scope="module")
def answer(tmp_path_factory) -> dict:
    folder = tmp_path_factory.mktemp("adding")
    shutil.copytree(SOURCE, folder, ignore=shutil.ignore_patterns("static", "__pycache__"), dirs_exist_ok=True)
    radio = folder / "isotact/core/trades/radio"
    (radio / "antennas.py").write_text(NEW_FILE, encoding="utf-8")
    trade = radio / "__init__.py"
    line = "from isotact.core.trades.radio import antennas; TRADE = TRADE.plus(antennas.PIECE)\n"
    trade.write_text(trade.read_text(encoding="utf-8") + line, encoding="utf-8")
    ran = subprocess.run(
        [sys.executable, "-c", RUN], env={**os.environ, "PYTHONPATH": str(folder)}, capture_output=True, text=True
    )
    assert ran.returncode == 0, ran.stderr
    found: dict = json.loads(ran.stdout)
    return found


def test_the_planner_keeps_what_it_kept_and_the_condition_is_derived(answer):
    assert answer["kept"] == ["roll"]
    assert answer["conditions"] == ["antenna-on:body.air", "antenna-on:hand.air"]


def test_the_run_sheet_has_its_step_in_its_place_and_reads_it_back(answer):
    steps = answer["steps"]
    assert steps.index("wake:body") < steps.index("screw-on:body") < steps.index("prove:roll")
    assert answer["again"] is True


def test_the_bench_carries_it_out_and_misses_it_when_it_is_left_out(answer):
    assert (answer["unproven"], answer["broken"]) == ([], [])
    assert answer["without"] == ["roll"]


def test_its_lamp_shows_it(answer):
    assert answer["lamps"] == ["blinks", "steady"]


def test_coverage_puts_its_fault_in_and_finds_it_by_its_look(answer):
    (row,) = answer["coverage"]
    assert (row["fault"], row["still_holds"], row["standing"], row["fallen"]) == ("other", False, [], ["roll"])
    assert {"look-antenna:body.air", "lamp:body.lamp", "prove:roll"} <= set(row["seen_by"])
    assert row["alike"] == []
