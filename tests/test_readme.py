"""What the README shows is what happens."""

import re
from pathlib import Path

import pytest

from isotact.cli.commands import main

ROOT = Path(__file__).parents[1]
README = (ROOT / "README.md").read_text(encoding="utf-8")


def test_the_example_plans_as_shown(tmp_path: Path, capsys: pytest.CaptureFixture[str]):
    document = re.search(r"```yaml\n(format: isotact/rig.*?)```", README, re.DOTALL)
    shown = re.search(r"\$ \.venv/bin/isotact plan roof-shot\.yaml\n(.*?)\n\.\.\.\n```", README, re.DOTALL)
    assert document
    assert shown
    rig = tmp_path / "roof-shot.yaml"
    rig.write_text(document.group(1), encoding="utf-8")
    assert main(["plan", str(rig)]) == 0
    assert capsys.readouterr().out.startswith(shown.group(1))
    assert main(["prove", str(rig)]) == 0


@pytest.mark.parametrize("file", ["README.md", "docs/architecture.md", "docs/profile-format.md", "docs/benchmarks.md"])
def test_links_in_the_docs_lead_somewhere(file: str):
    text = (ROOT / file).read_text(encoding="utf-8")
    for target in re.findall(r"\]\(([^)#]+)\)", text):
        assert (ROOT / file).parent.joinpath(target).exists(), target


def test_every_make_target_that_the_readme_names_is_there():
    targets = set(re.findall(r"^([a-z]+):", (ROOT / "Makefile").read_text(encoding="utf-8"), re.MULTILINE))
    named = set(re.findall(r"(?:`|^)make ([a-z]+)", README, re.MULTILINE))
    assert {"demo", "test"} <= named <= targets


MODULES = {
    ".".join(file.relative_to(ROOT / "src").with_suffix("").parts).removesuffix(".__init__"): file.read_text("utf-8")
    for file in (ROOT / "src").rglob("*.py")
}


def is_there(name: str) -> bool:
    """Whether a module, or something that a module defines, is called so from some room on."""
    module, _, last = name.rpartition(".")
    return any(
        f".{path}".endswith(f".{name}") or (f".{path}".endswith(f".{module}") and re.search(rf"\b{last}\b", text))
        for path, text in MODULES.items()
    )


@pytest.mark.parametrize("page", ["architecture.md", "first-change.md", "rules.md", "reliability.md", "benchmarks.md"])
def test_what_the_pages_name_is_there(page: str):
    said = set(re.findall(r"`([a-z_]+(?:\.[a-zA-Z_]+)+)`", (ROOT / "docs" / page).read_text("utf-8")))
    names = {name for name in said if not name.endswith((".ts", ".toml", ".yaml", ".py", ".md", ".lock"))}
    assert [name for name in sorted(names) if not is_there(name)] == []


def test_a_name_that_is_nowhere_would_be_noticed():
    assert is_there("planner.chosen_for")
    assert not is_there("planning.flagging")
