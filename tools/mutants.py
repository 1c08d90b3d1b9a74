"""Break the product on purpose, one line at a time, and see whether the tests of the room that it is in notice.

Each mutant is a copy of the source with one piece of text replaced. `make mutants` prints those that no test killed,
and what killed the others. With words behind it, only those whose names have them.
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
    tests: tuple[str, ...] = TESTS


DAY, LOG = (
    ("tests/core/day", "tests/reference/test_scheduling.py"),
    ("tests/store/test_log.py", "tests/api/test_log.py"),
)
PROOFS = ("tests/core/day", "tests/core/proofs", "tests/core/questions", "tests/api/test_log.py", "tests/api/routes")
JOINING = ("tests/api/security", "tests/store/test_sign_ins.py")
BODIES, WORK = ("tests/api/security",), ("tests/api/compute",)
STORE, PHOTOS, BACKUP = ("tests/store",), ("tests/store/test_photos.py",), ("tests/store/test_backup.py",)
LINES, STREAMS = ("tests/server/test_lines.py",), ("tests/api/test_listening.py",)
REACH = ("tests/core/planning/test_reach.py",)
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
        "passes = all(any(one.conducts(medium, wired) for one in adapter.carries) for adapter in adapters)",
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
    Mutant(
        "an adapter at either end is one in the bag",
        "core/model/plan.py",
        "return tuple(sorted(key for key in adapters if key))",
        "return tuple(sorted({key for key in adapters if key}))",
        ("tests/core/planning/test_adapters.py",),
    ),
    Mutant(
        "the limit of the range is not asked", "core/model/reach.py", "apart_m(rig, one, other) <= claim", "True", REACH
    ),
    Mutant(
        "another device is ignored when a proof lapses",
        "core/day/proof_validity.py",
        "    if old.profile != new.profile:",
        "    if False:",
        PROOFS,
    ),
    Mutant(
        "other firmware is ignored when a proof lapses",
        "core/day/proof_validity.py",
        'if was and is_now and was != is_now:\n            yield f"{new.name} had',
        'if False:\n            yield f"{new.name} had',
        PROOFS,
    ),
    Mutant(
        "what is asked besides spoils no proof",
        "core/day/proof_validity.py",
        "            told.append(condition.says(now.rig))",
        "            pass",
        PROOFS,
    ),
    Mutant(
        "another cable spoils no proof",
        "core/day/proof_validity.py",
        "    if was and is_now and was != is_now:\n        tag",
        "    if False:\n        tag",
        PROOFS,
    ),
    Mutant(
        "a promise that was changed is proven all the same",
        "core/day/proof_validity.py",
        "if before.model_dump(exclude=unasked) != asked.model_dump(exclude=unasked):",
        "if False:",
        PROOFS,
    ),
    Mutant(
        "a reading at its limit holds whatever its uncertainty",
        "core/proofs/judgement.py",
        "if all(one >= found.plus_minus for one in room):",
        "if all(one >= 0 for one in room):",
        PROOFS,
    ),
    Mutant(
        "what was not seen holds",
        "core/proofs/judgement.py",
        'verdict="holds" if reading.seen else "fails"',
        'verdict="holds"',
        PROOFS,
    ),
    Mutant(
        "fewer people are not tried",
        "core/day/crew.py",
        'for count in range(len(people) - 1, 0, -1) if found.status != "proven" else ():',
        "for count in ():",
        DAY,
    ),
    Mutant("what is under way is over", "core/day/crew.py", "max(0, round(step.waits_s - done[step.id]))", "0", DAY),
    Mutant(
        "who was given a step need not do it",
        "core/day/crew.py",
        "if one in people), None)\n",
        "if False), None)\n",
        DAY,
    ),
    Mutant(
        "two people work at one device",
        "core/day/crew.py",
        'uses={f"at {step.device}": 1} if step.device is not None else {},',
        "uses={},",
        DAY,
    ),
    Mutant(
        "what is taken back stays done",
        "store/log.py",
        '_OF_STEPS = ("done", "taken-back", "skipped", "differs", "spoilt")',
        '_OF_STEPS = ("done", "skipped", "differs", "spoilt")',
        LOG,
    ),
    Mutant(
        "what arrived last counts",
        "store/log.py",
        "ORDER BY at DESC, sequence DESC LIMIT 1",
        "ORDER BY sequence DESC LIMIT 1",
        LOG,
    ),
    Mutant("what is sent twice counts twice", "store/log.py", "if entry.uid not in known:", "if True:", LOG),
    Mutant(
        "an id that comes again may say something else",
        "store/log.py",
        "elif known[entry.uid] != said:",
        "elif False:",
        LOG,
    ),
    Mutant("a clock that was ahead is believed", "store/log.py", "        late.execute()", "        pass", LOG),
    Mutant(
        "a restart un-proves nothing",
        "store/log.py",
        "for number, step in enumerate(spoilt.steps if spoilt else ()):",
        "for number, step in ():",
        LOG,
    ),
    Mutant("what was never done is undone", "store/log.py", '(what != "spoilt" or was_said)', "True", LOG),
    Mutant("the bound of a week", "store/log.py", "7 * 24 * 3600.0", "70 * 24 * 3600.0", LOG),
    Mutant(
        "a day's report in UTC",
        "store/log_book.py",
        "start = datetime.combine(date.fromisoformat(wanted.day), time()).astimezone()",
        "start = datetime.combine(date.fromisoformat(wanted.day), time(), UTC)",
        ("tests/store/test_log_book.py", "tests/api/test_log.py"),
    ),
    Mutant("a sign-in that lasts a year", "store/sign_ins.py", "timedelta(days=7)", "timedelta(days=365)", JOINING),
    Mutant(
        "a sign-in that was ended holds",
        "store/sign_ins.py",
        "return self.ended_at is None and",
        "return",
        JOINING,
    ),
    Mutant("two of one name are one", "store/sign_ins.py", "while name.casefold() in taken:", "while False:", JOINING),
    Mutant(
        '"here" by address alone',
        "api/security/sharing.py",
        "client[0] in ITSELF and named.lower() in LOOPBACK",
        "client[0] in ITSELF",
        JOINING,
    ),
    Mutant("codes may be tried for ever", "api/security/sharing.py", "if len(tries) >= TRIES:", "if False:", JOINING),
    Mutant(
        "who was sent away comes back with the same code",
        "api/routes/sign_ins.py",
        "        found.renew(role)",
        "        pass",
        JOINING,
    ),
    Mutant(
        "a role may do what it does not say",
        "api/security/doorman.py",
        "if who.role not in _ENOUGH[needed]:",
        "if False:",
        JOINING,
    ),
    Mutant(
        "a route that is forgotten is open",
        "api/security/doorman.py",
        'return "look" if method in SAFE else "edit"',
        'return "nothing"',
        JOINING,
    ),
    Mutant(
        "a page of another site may ask",
        "api/security/guard.py",
        "        elif not ours:",
        "        elif False:",
        BODIES,
    ),
    Mutant(
        "any host is ours",
        "api/security/guard.py",
        "if named is None or named[1].lower() not in self._hosts:",
        "if named is None:",
        BODIES,
    ),
    Mutant(
        "a stranger's body is read whole",
        "api/security/bodies.py",
        "most = MOST_OF_STRANGERS if who is None else",
        "most =",
        BODIES,
    ),
    Mutant(
        "bodies of the network are held without end",
        "api/security/bodies.py",
        "if self._held + holds > MOST_AT_ONCE:",
        "if False:",
        BODIES,
    ),
    Mutant("any number of pixels", "store/photos.py", "if found.width * found.height >", "if 0 >", PHOTOS),
    Mutant(
        "a photo is decoded whole",
        "store/photos.py",
        "                found.draft(",
        "                print(",
        PHOTOS,
    ),
    Mutant(
        "a photo lies on its side",
        "store/photos.py",
        "return ImageOps.exif_transpose(picture)",
        "return picture",
        PHOTOS,
    ),
    Mutant(
        "a backup has its name before it is whole",
        "store/backup.py",
        "            copy(store.file, new)",
        "            copy(store.file, target)\n            copy(store.file, new)",
        BACKUP,
    ),
    Mutant(
        "a backup is believed as it is",
        "store/backup.py",
        "if found != (rows, digest):",
        "if False:",
        BACKUP,
    ),
    Mutant(
        "who joined elsewhere has joined here",
        "store/backup.py",
        'TABLES = ("document", "revision", "event", "taken_in")',
        'TABLES = ("document", "revision", "event", "taken_in", "sign_in")',
        BACKUP,
    ),
    Mutant(
        "a write on an old revision is taken",
        "store/shelf.py",
        "        if row.head != made_on:",
        "        if False:",
        STORE,
    ),
    Mutant(
        "a stream goes on after its sign-in ended",
        "api/listening.py",
        "one.sign_in is not None and one.sign_in not in live",
        "False",
        STREAMS,
    ),
    Mutant(
        "an event is heard twice",
        "api/listening.py",
        "return [event for event in self._recent if event.sequence > seen]",
        "return [event for event in self._recent if event.sequence >= seen]",
        STREAMS,
    ),
    Mutant(
        "one listens with any number of windows", "api/listening.py", ">= MOST_OF_ONE:", ">= MOST_OF_ONE + 99:", STREAMS
    ),
    Mutant(
        "one address has any number of lines",
        "server/lines.py",
        "if self.address and len(own) > MOST_OF_ONE:",
        "if False:",
        LINES,
    ),
    Mutant(
        "the network takes the laptop's lines",
        "server/lines.py",
        "group = [one for one in there if bool(one.address) == bool(self.address)]",
        "group = there",
        LINES,
    ),
    Mutant(
        "who reads nothing is waited for",
        "server/lines.py",
        "        if self._unread is None:",
        "        if False:",
        LINES,
    ),
    Mutant(
        "guests have every place",
        "api/compute/turns.py",
        "not one.asker.is_here and guests >= self._fewer",
        "False",
        WORK,
    ),
    Mutant(
        "who asks most is served first",
        "api/compute/turns.py",
        "(not one.asker.is_here, shares[one.asker], one.number)",
        "(not one.asker.is_here, one.number)",
        WORK,
    ),
    Mutant(
        "a search that is stopped shows nothing of what it has",
        "api/compute/work.py",
        "if search.offered is not None and",
        "if False and",
        WORK,
    ),
    Mutant(
        "what is ticked stands behind plans",
        "api/compute/work.py",
        "turns = self._quick if is_quick(search.function) else self._turns",
        "turns = self._turns",
        WORK,
    ),
)


def failing_test(change: Mutant | None) -> str | None:
    """The first test that fails on a copy with the change made to it, or None where all pass.

    Without a change all of them are run: one that fails anyway would seem to kill whatever it is shown.
    """
    tests = change.tests if change else dict.fromkeys(test for mutant in wanted for test in mutant.tests)
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
            [sys.executable, "-m", "pytest", "-x", "-q", *tests],
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


BASE = Path(tempfile.gettempdir())
"""Where the copy lies that is broken; a folder of its own once it is made."""

if __name__ == "__main__":
    wanted = [one for one in MUTANTS if any(words in one.says for words in sys.argv[1:] or [""])]
    # Work on a copy made once, so that whoever goes on writing meanwhile changes no answer.
    BASE = Path(tempfile.mkdtemp())
    for name in COPIED:
        if (ROOT / name).is_dir():
            shutil.copytree(ROOT / name, BASE / name, ignore=shutil.ignore_patterns("__pycache__"))
        else:
            shutil.copy(ROOT / name, BASE / name)
    for one in MUTANTS:
        times = (BASE / "src/isotact" / one.file).read_text(encoding="utf-8").count(one.old)
        if times != 1:
            sys.exit(f"'{one.says}': its text stands {times} times in {one.file}.")
    if (failed := failing_test(None)) is not None:
        sys.exit(f"The tests fail with nothing changed: {failed}")
    with ThreadPoolExecutor(max_workers=2) as pool:
        alive = sum(pool.map(survives, wanted))
    shutil.rmtree(BASE)
    print(f"{len(wanted)} mutants, {alive} survive")
    sys.exit(1 if alive else 0)
