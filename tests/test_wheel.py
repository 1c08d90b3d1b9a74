"""A wheel has the front end in it, or is not built."""

import shutil
import subprocess
import sys
import zipfile
from pathlib import Path

ROOT = Path(__file__).parents[1]


def build(folder: Path) -> subprocess.CompletedProcess[str]:
    """A wheel of `folder`, by the tools that are installed."""
    command = [
        sys.executable,
        "-m",
        "pip",
        "wheel",
        "--no-deps",
        "--no-build-isolation",
        "--no-index",
        "-w",
        "out",
        ".",
    ]
    return subprocess.run(command, cwd=folder, capture_output=True, text=True, check=False)


def test_no_wheel_without_the_front_end(tmp_path: Path):
    for name in ("pyproject.toml", "setup.py", "README.md", "LICENSE"):
        shutil.copy(ROOT / name, tmp_path / name)
    left_out = shutil.ignore_patterns("static", "__pycache__", "*.egg-info")
    shutil.copytree(ROOT / "src", tmp_path / "src", ignore=left_out)
    refused = build(tmp_path)
    assert refused.returncode != 0
    assert "Found no front end at" in refused.stdout + refused.stderr
    assert "run 'make wheel'" in refused.stdout + refused.stderr

    page = tmp_path / "src/isotact/api/static/index.html"
    page.parent.mkdir()
    page.write_text("<!doctype html>", encoding="utf-8")
    assert build(tmp_path).returncode == 0
    (wheel,) = (tmp_path / "out").glob("*.whl")
    names = zipfile.ZipFile(wheel).namelist()
    assert "isotact/api/static/index.html" in names
    assert any(name.startswith("isotact/catalogue/profiles/") for name in names)
