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
