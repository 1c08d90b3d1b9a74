"""The house rules that a machine can check."""

import ast
import json
import re
import subprocess
import sys
from pathlib import Path

import grimp
import networkx
import pytest

from isotact.core.trades import TRADES

ROOT = Path(__file__).parents[1]
SOURCES = sorted((ROOT / "src/isotact").rglob("*.py"))
ENGINES = [file for file in SOURCES if "core" in file.parts and "model" not in file.parts]


def name(file: Path) -> str:
    return str(file.relative_to(ROOT))


@pytest.mark.parametrize("file", ENGINES, ids=name)
def test_no_engine_asks_what_kind_of_device_it_has(file: Path):
    """Only drawing and the words of building up pass the kind on; a rule that needed it would belong in a profile.

    A lens is left out of the words that are looked for: a stage of the job is called so.
    """
    text = file.read_text(encoding="utf-8")
    if file.parent.name == "telling" and file.name in ("rig_map.py", "build_words.py"):
        return
    assert "profile.kind" not in text
    assert not re.search(r"[\"'](camera-body|gimbal|transmitter|phone|hand-unit|monitor)[\"']", text)


MOST_LADDERS = 30
"""Places outside model and trades that ask what kind a thing is. Each that stays is named in docs/architecture.md."""
ASKED = {"kind", "connector", "source", "joins_by"}


def ladders(file: Path) -> list[int]:
    """The lines on which `file` asks what kind a thing is: isinstance, match, or comparing a kind."""
    found = []
    for node in ast.walk(ast.parse(file.read_text(encoding="utf-8"))):
        asks = isinstance(node, ast.Match) or (
            isinstance(node, ast.Call) and isinstance(node.func, ast.Name) and node.func.id == "isinstance"
        )
        if isinstance(node, ast.Compare):
            sides = (node.left, *node.comparators)
            asks = any(isinstance(side, ast.Attribute) and side.attr in ASKED for side in sides)
        if asks:
            found.append(node.lineno)
    return found


def test_few_places_outside_the_trades_ask_what_kind_a_thing_is():
    outside = [file for file in ENGINES if "trades" not in file.parts]
    assert sum(len(ladders(file)) for file in outside) <= MOST_LADDERS


def test_a_ladder_is_seen_where_there_is_one(tmp_path: Path):
    """The count would be worth nothing if it did not find what it looks for."""
    file = tmp_path / "engine.py"
    file.write_text(
        "def ask(thing):\n"
        "    if isinstance(thing, str): return 1\n"
        "    if thing.kind == 'fed': return 2\n"
        "    if 'bus' in (thing.connector, 1) or thing.source != 'join': return 3\n"
        "    match thing:\n"
        "        case 4: return 5\n",
        encoding="utf-8",
    )
    assert ladders(file) == [5, 2, 3, 4]


WORDS_OF_TRADES = {
    kind.model_fields["kind"].default
    for trade in TRADES
    for kind in (*trade.conditions, *trade.acts)
    if "-" in kind.model_fields["kind"].default
}


@pytest.mark.parametrize("file", [file for file in ENGINES if "trades" not in file.parts], ids=name)
def test_no_engine_names_a_condition_or_an_act(file: Path):
    """Of those whose word is no everyday one."""
    text = file.read_text(encoding="utf-8")
    assert not [word for word in WORDS_OF_TRADES if f'"{word}"' in text]


def test_the_count_of_ladders_is_printed_with_the_lines_of_code():
    ran = subprocess.run([sys.executable, "tools/count.py"], cwd=ROOT, capture_output=True, text=True, check=True)
    outside = [file for file in ENGINES if "trades" not in file.parts]
    assert f"{sum(len(ladders(file)) for file in outside)} places ask what kind a thing is" in ran.stdout


def test_modules_import_each_other_in_no_ring():
    """Imports for type checking only are counted too."""
    graph = grimp.build_graph("isotact")
    arrows = networkx.DiGraph(
        (one, other) for one in graph.modules for other in graph.find_modules_directly_imported_by(one)
    )
    assert [ring for ring in networkx.strongly_connected_components(arrows) if len(ring) > 1] == []


@pytest.mark.parametrize("file", SOURCES, ids=name)
def test_modules_and_functions_stay_short(file: Path):
    text = file.read_text(encoding="utf-8")
    assert len(text.splitlines()) <= 400
    for node in ast.walk(ast.parse(text)):
        if isinstance(node, ast.FunctionDef | ast.AsyncFunctionDef):
            assert (node.end_lineno or 0) - node.lineno < 60, node.name


@pytest.mark.parametrize("file", [file for file in SOURCES if file.name == "__init__.py"], ids=name)
def test_every_room_says_what_belongs_there(file: Path):
    assert ast.get_docstring(ast.parse(file.read_text(encoding="utf-8")))
    assert not {"utils", "helpers", "common", "misc"} & set(file.parts)


def test_lock_files_pin_by_hash_and_name_no_host():
    for lock in sorted((ROOT / "requirements").glob("*.lock")):
        text = lock.read_text(encoding="utf-8")
        pins = re.findall(r"^[a-z0-9._-]+==", text, re.MULTILINE)
        assert pins
        assert text.count("--hash=sha256:") >= len(pins)
        assert "://" not in text
    packages = json.loads((ROOT / "web/package-lock.json").read_text(encoding="utf-8"))["packages"]
    assert all("resolved" not in package for package in packages.values())
    assert all("integrity" in package for key, package in packages.items() if key)


def test_the_front_end_has_no_colour_outside_the_theme():
    for file in sorted((ROOT / "web/src").rglob("*.tsx")):
        assert not re.search(r"#[0-9a-fA-F]{6}\b", file.read_text(encoding="utf-8")), name(file)


def test_the_script_that_the_first_page_loads_is_small():
    """Compressed, without the layout engine, which is loaded when the first map is drawn."""
    import gzip

    assets = ROOT / "src/isotact/api/static/assets"
    first = [file for file in assets.glob("*.js") if not file.name.startswith("elk")]
    assert first
    assert sum(len(gzip.compress(file.read_bytes())) for file in first) < 350_000
    assert list(assets.glob("elk*.js"))


def test_every_test_that_the_docs_name_is_there():
    found = {
        name
        for file in (ROOT / "tests").rglob("test_*.py")
        for name in re.findall(r"^def (test_\w+)", file.read_text("utf-8"), re.M)
    }
    named = set(re.findall(r"`(test_\w+)`", (ROOT / "docs/rules.md").read_text("utf-8")))
    assert len(named) > 15
    assert named <= found


def test_every_limit_says_why_it_is_what_it_is():
    """A number with a name has a reason: in a comment above it, or in words below it."""
    bare = []
    for file in sorted((ROOT / "src").rglob("*.py")):
        rows = ["", *file.read_text(encoding="utf-8").split("\n"), ""]
        for number, row in enumerate(rows):
            if re.match(r"_?[A-Z][A-Z_]+(: [^=]+)? = -?[\d.]", row):
                told = rows[number + 1].startswith('"""') or rows[number - 1].startswith("#")
                bare += [] if told else [f"{file.name}:{number}: {row}"]
    assert bare == []
