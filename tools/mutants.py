"""Break the product on purpose, one line at a time, and see whether the tests of core, examples and catalogue notice.

Each mutant is a copy of the source with one piece of text replaced. `make mutants` prints those that no test killed.
"""

import os
import shutil
import subprocess
import sys
import tempfile
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path

ROOT = Path(__file__).parents[1]
FIRST = ("world", "trades", "bench", "planning")
"""Where most of them die, within seconds."""
_ROOMS = sorted(room.name for room in (ROOT / "tests/core").iterdir() if (room / "__init__.py").exists())
TESTS = (
    *(f"tests/core/{room}" for room in (*FIRST, *(room for room in _ROOMS if room not in FIRST))),
    "tests/examples",
    "tests/catalogue",
)
COPIED = ("src", "tests", "docs", "tools", "README.md", "pyproject.toml")
LIMIT_S = 900


@dataclass(frozen=True)
class Mutant:
    """What is done wrong, and where."""

    says: str
    file: str
    old: str
    new: str


MUTANTS = (
    Mutant(
        "a pairing is lost at power-off",
        "core/world/radio.py",
        "return by_network and any(",
        "return any(",
    ),
    Mutant(
        "a late picture is proven",
        "core/world/proof.py",
        "on_time = promise.within_ms is None or best.delay_ms <= promise.within_ms",
        "on_time = True",
    ),
    Mutant("batteries drain half as fast", "core/world/power.py", "load_w * seconds / 3600", "load_w * seconds / 7200"),
    Mutant(
        "a one-way cable works backwards",
        "core/model/cable.py",
        "return self.between == (first, second) or (not self.one_way and self.between == (second, first))",
        "return set(self.between) == {first, second}",
    ),
    Mutant("a cable's format limit is ignored", "core/world/signals.py", "if limit is None:", "if True:"),
    Mutant(
        "an adapter conducts anything",
        "core/model/cable.py",
        "passes = adapter is None or any(one.conducts(medium, wired) for one in adapter.carries)",
        "passes = True",
    ),
    Mutant(
        "a radio takes any number of peers",
        "core/trades/radio/acts.py",
        ">= radio.takes:",
        ">= radio.takes + 99:",
    ),
    Mutant(
        "a half-seated plug still feeds",
        "core/world/cables.py",
        "if not self.seated or self.held or medium in self.dead",
        "if self.held or medium in self.dead",
    ),
    Mutant("nothing browns out", "core/calc/power.py", "if not over:", "if True:"),
    Mutant(
        "what sleeps remembers its answers",
        "core/world/menus.py",
        "self.answers = {item: given for item, given in self.answers.items() if item.device != device}",
        "pass",
    ),
    Mutant(
        "whoever wakes first is found all the same",
        "core/world/signals.py",
        '        return began_s is not None and up_s is not None and began_s >= up_s\n    if rule == "self-first":',
        '        return began_s is not None and up_s is not None\n    if rule == "self-first":',
    ),
    Mutant(
        "a cable plugged too late is found",
        "core/world/signals.py",
        "if role.notices_at_boot and plug is not None and (began_s is None or plug.at_s > began_s):",
        "if False:",
    ),
    Mutant(
        "a look once on a picture is never taken off",
        "core/model/legs.py",
        'look = leg.look == "adds" or (look and leg.look == "keeps")',
        'look = leg.look == "adds" or look',
    ),
    Mutant(
        "a setting that takes at the next start takes at once",
        "core/trades/menus/acts.py",
        'if setting.takes_effect == "at-once" or ',
        "if True or ",
    ),
    Mutant(
        "a device runs from an inlet that only charges",
        "core/world/circuit.py",
        'return inlet.feeds == "run" and inlet.fits(outlet)',
        "return inlet.fits(outlet)",
    ),
    Mutant(
        "the bag holds one more of each cable",
        "core/planning/optimising/constraints.py",
        "have = c.rig.stock.get(cable, 0)",
        "have = c.rig.stock.get(cable, 0) + 1",
    ),
    Mutant(
        "other ways that are live are forgotten",
        "core/planning/spare_routes.py",
        'return plan.model_copy(update={"spares": tuple(spares)})',
        "return plan",
    ),
    Mutant(
        "an unbalanced gimbal stays on",
        "core/world/balance.py",
        "wake.needs_balance and device not in self.balanced",
        "wake.needs_balance and device in ()",
    ),
    Mutant(
        "a card that is missing stops everything",
        "core/world/media.py",
        "return frozenset(one for one in leg.functions if vocabulary().functions[one].rolls)",
        "return frozenset(leg.functions)",
    ),
    Mutant(
        "a look never disturbs what it says it disturbs",
        "core/trades/base.py",
        "for act in check.disturbs:",
        "for act in ():",
    ),
)


def failing_test(change: Mutant | None) -> str | None:
    """The first test that fails on a copy with the change made to it, or None where all pass."""
    with tempfile.TemporaryDirectory() as folder:
        there = Path(folder)
        for name in COPIED:
            one = BASE / name
            if one.is_dir():
                shutil.copytree(one, there / name)
            else:
                shutil.copy(one, there / name)
        if change is not None:
            file = there / "src/isotact" / change.file
            file.write_text(file.read_text(encoding="utf-8").replace(change.old, change.new), encoding="utf-8")
        ran = subprocess.run(
            [sys.executable, "-m", "pytest", "-x", "-q", *TESTS],
            cwd=there,
            env={**os.environ, "PYTHONPATH": str(there / "src")},
            capture_output=True,
            text=True,
            timeout=LIMIT_S,
        )
    if ran.returncode == 0:
        return None
    return next((line for line in ran.stdout.splitlines() if line.startswith(("FAILED", "ERROR"))), ran.stdout[-300:])


def survives(mutant: Mutant) -> bool:
    """Whether no test noticed."""
    failed = failing_test(mutant)
    print(f"{'SURVIVES' if failed is None else 'killed  '}  {mutant.says}  {(failed or '')[:120]}", flush=True)
    return failed is None


# Work on a copy made once, so that whoever goes on writing meanwhile changes no answer.
BASE = Path(tempfile.mkdtemp())
for name in COPIED:
    if (ROOT / name).is_dir():
        shutil.copytree(ROOT / name, BASE / name, ignore=shutil.ignore_patterns("static", "__pycache__"))
    else:
        shutil.copy(ROOT / name, BASE / name)
for one in MUTANTS:
    times = (BASE / "src/isotact" / one.file).read_text(encoding="utf-8").count(one.old)
    if times != 1:
        sys.exit(f"'{one.says}': its text stands {times} times in {one.file}.")
if (failed := failing_test(None)) is not None:
    sys.exit(f"The tests fail with nothing changed: {failed}")
with ThreadPoolExecutor(max_workers=2) as pool:
    alive = sum(pool.map(survives, MUTANTS))
shutil.rmtree(BASE)
print(f"{len(MUTANTS)} mutants, {alive} survive")
sys.exit(1 if alive else 0)
