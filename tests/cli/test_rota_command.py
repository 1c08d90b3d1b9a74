"""`isotact rota JOB`: as text, table and calendar; its rigs and its kit beside it."""

import json
import shutil
from pathlib import Path

import pytest

from isotact.cli import main
from isotact.demo import FOLDER

JOB = str(FOLDER / "night-ferry.job.yaml")


def test_it_says_what_to_do_when(capsys: pytest.CaptureFixture[str]):
    assert main(["rota", JOB]) == 0
    out = capsys.readouterr().out
    assert out.startswith("Nothing goes dark: 13 changes, none within a take.\nProven")
    assert "20:30  A, Plate battery: " in out
    assert "After the wrap 14 packs" in out


def test_a_calendar_and_a_table(capsys: pytest.CaptureFixture[str]):
    assert main(["rota", JOB, "--ics"]) == 0
    assert capsys.readouterr().out.startswith("BEGIN:VCALENDAR")
    assert main(["rota", JOB, "--csv"]) == 0
    assert capsys.readouterr().out.startswith("time,what,camera,device,pack")


def test_from_now_on_and_as_json(capsys: pytest.CaptureFixture[str]):
    main(["rota", JOB, "--now", "23:10", "--json"])
    assert json.loads(capsys.readouterr().out)["now_min"] == 310


def test_where_something_goes_dark_it_ends_with_one_and_says_what_it_would_take(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
):
    for file in FOLDER.glob("night-ferry*.yaml"):
        shutil.copy(file, tmp_path)
    assert main(["rota", str(tmp_path / "night-ferry.job.yaml")]) == 1
    out = capsys.readouterr().out
    assert "goes dark at" in out.splitlines()[0]
    assert "What it would take:" in out
    assert "No charger is in the kit: every pack is used once." in out


def test_what_is_missing_is_named(tmp_path: Path, capsys: pytest.CaptureFixture[str]):
    shutil.copy(JOB, tmp_path / "night.yaml")
    assert main(["rota", str(tmp_path / "night.yaml")]) == 2
    assert "night-ferry-a.yaml" in capsys.readouterr().err
    assert main(["rota", JOB, "--date", "2026-05-09"]) == 2
    assert "it has 2026-05-04" in capsys.readouterr().err
