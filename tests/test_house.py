"""The house rules that a machine can check."""

import ast
import json
import re
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[1]
SOURCES = sorted((ROOT / "src/isotact").rglob("*.py"))
ENGINES = [file for file in SOURCES if "core" in file.parts and "model" not in file.parts]


def name(file: Path) -> str:
    return str(file.relative_to(ROOT))


@pytest.mark.parametrize("file", ENGINES, ids=name)
def test_no_engine_asks_what_kind_of_device_it_has(file: Path):
    """Only the drawing passes the kind on, for the picture; a rule that needed it would belong in a profile."""
    text = file.read_text(encoding="utf-8")
    if file.name != "drawing.py":
        assert "profile.kind" not in text
    assert not re.search(r"[\"'](camera-body|gimbal|transmitter|phone|lens|monitor)[\"']", text)


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
