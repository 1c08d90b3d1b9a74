"""The finder for scripts: JSON lines in, JSON lines out."""

import io
import json

import pytest

from isotact.cli.commands import main
from isotact.demo import FOLDER
from tests.rigs import DEMO

RIG = str(FOLDER / DEMO)


def told(
    monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str], lines: str, *options: str
) -> tuple[int, list]:
    monkeypatch.setattr("sys.stdin", io.StringIO(lines))
    code = main(["find", RIG, *options])
    return code, [json.loads(line) for line in capsys.readouterr().out.splitlines()]


def test_it_says_how_the_search_stands_after_each_answer(monkeypatch, capsys):
    answers = (
        '{"look": "lamp:gimbal.grip-lamp", "saw": "steady blue"}\n'
        '{"look": "read-setting:gimbal.wheel", "saw": "Roll axis"}\n'
        '{"look": "cure:setting:gimbal.wheel/wrong", "saw": "it works now"}\n\n'
        '{"look": "never read"}\n'
    )
    code, found = told(monkeypatch, capsys, answers, "--fails", "focus")
    assert code == 0
    assert [one["status"] for one in found] == ["looking", "looking", "looking", "mended"]
    assert found[2]["next"][0]["id"] == "cure:setting:gimbal.wheel/wrong"
    assert found[-1]["causes"][0]["ids"] == ["setting:gimbal.wheel/wrong"]


def test_it_begins_where_the_work_stopped(monkeypatch, capsys):
    code, found = told(monkeypatch, capsys, "", "--done", "12", "--fails", "focus")
    assert code in (0, 1)
    assert found[0]["causes"][0]["ids"] == ["unfinished"]


@pytest.mark.parametrize(
    ("options", "lines", "said"),
    [
        (["--fails", "zoom"], "", "There is no promise in this rig 'zoom'"),
        (["--differs", "wake:nobody"], "", "There is no step on this run sheet 'wake:nobody'"),
        ([], '{"look": "lamp:gimbal.grip-lump"}', "There is no look at this rig 'lamp:gimbal.grip-lump'"),
        ([], '{"saw": "blue"}', "Answer 1, look: Field required"),
        ([], "blue", "Answer 1, the line: Invalid JSON"),
    ],
)
def test_what_cannot_be_is_refused_with_what_to_do(monkeypatch, capsys, options, lines, said):
    monkeypatch.setattr("sys.stdin", io.StringIO(lines))
    assert main(["find", RIG, *options]) == 2
    assert said in capsys.readouterr().err
