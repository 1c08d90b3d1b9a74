"""The command line."""

import json
import subprocess
import sys
from pathlib import Path

import jsonschema
import pytest

from isotact.catalogue import FORMATS, SHIPPED
from isotact.cli.commands import main
from isotact.demo import FOLDER
from tests.rigs import DEMO
from tests.rigs import SHIPPED as SHIPPED_RIGS

RIG = str(FOLDER / DEMO)


def test_plan_tells_a_person_what_holds_how_and_why_not(capsys: pytest.CaptureFixture[str]):
    assert main(["plan", RIG]) == 1
    out = capsys.readouterr().out
    assert out.startswith("Night ferry, B camera: 3 of 4 promises hold (proven optimal).")
    assert "  NO   ISO from the touch screen of Director's phone (for Director)" in out
    assert "Way out: Give up" not in out, "record weighs more than ISO"
    assert "       Look-alike! Tansy grip: not “small bolt” (right side of the roll arm, lower of two)" in out
    assert "  Brindle 2: Set-up › Connections › USB mode: Tether" in out
    assert "  Tansy grip before Brindle 2" in out


def test_plan_as_json_keeps_to_the_published_schema(capsys: pytest.CaptureFixture[str]):
    main(["plan", RIG, "--json"])
    made = json.loads(capsys.readouterr().out)
    main(["schema", "plan"])
    jsonschema.validate(made, json.loads(capsys.readouterr().out))
    assert made["format"] == "isotact/plan"


def test_prove_shows_each_promise_proven(capsys: pytest.CaptureFixture[str]):
    assert main(["prove", RIG]) == 1
    out = capsys.readouterr().out
    assert out.count("  PROVEN  ") == 3
    assert "  NOT KEPT  ISO from the touch screen" in out


def test_a_rig_whose_promises_all_hold_ends_with_nought(tmp_path: Path, capsys: pytest.CaptureFixture[str]):
    text = (FOLDER / DEMO).read_text(encoding="utf-8")
    kept = tmp_path / "rig.yaml"
    kept.write_text("\n".join(line for line in text.splitlines() if "id: iso," not in line), encoding="utf-8")
    assert main(["plan", str(kept)]) == 0
    assert main(["prove", str(kept), "--json"]) == 0
    assert json.loads(capsys.readouterr().out.partition("\n{")[2].join(["{", ""]))["unproven"] == []


def test_a_kit_takes_the_place_of_the_bag(tmp_path: Path, capsys: pytest.CaptureFixture[str]):
    kit = tmp_path / "kit.yaml"
    kit.write_text(
        "format: isotact/kit\nversion: 1\nid: van\nname: Van\ncables:\n  - {cable: hdmi-d-hdmi-c-30}\n",
        encoding="utf-8",
    )
    assert main(["plan", RIG, "--kit", str(kit)]) == 1
    assert "1 of 4 promises hold" in capsys.readouterr().out


def test_a_kit_of_small_parts_takes_the_place_of_those_in_the_bag(tmp_path: Path, capsys: pytest.CaptureFixture[str]):
    """A kit with all its cables and no screw: the body stays in its case, and nothing holds."""
    kit = tmp_path / "kit.yaml"
    text = (FOLDER / "ferry-van.kit.yaml").read_text(encoding="utf-8")
    kit.write_text(f"{text}\nparts: []\n", encoding="utf-8")
    assert main(["plan", RIG, "--kit", str(kit)]) == 1
    told = capsys.readouterr().out
    assert "0 of 4 promises hold" in told
    assert "the bag of small parts has none" in told


def test_own_profiles_are_found_in_a_folder_and_broken_ones_refuse(tmp_path: Path, capsys: pytest.CaptureFixture[str]):
    folder = tmp_path / "own"
    folder.mkdir()
    phone = (SHIPPED / "profiles/phone.yaml").read_text(encoding="utf-8")
    (folder / "my-phone.yaml").write_text(phone.replace("id: phone", "id: my-phone", 1), encoding="utf-8")
    rig = tmp_path / "rig.yaml"
    text = (FOLDER / DEMO).read_text(encoding="utf-8").replace("profile: phone,", "profile: my-phone,")
    rig.write_text(text, encoding="utf-8")
    assert main(["plan", str(rig)]) == 2
    assert "found 'my-phone', which is no profile" in capsys.readouterr().err
    assert main(["plan", str(rig), "--profiles", str(folder)]) == 1
    (folder / "bad.yaml").write_text("a: [", encoding="utf-8")
    assert main(["plan", str(rig), "--profiles", str(folder)]) == 2
    assert main(["plan", str(rig), "--profiles", str(tmp_path / "none")]) == 2


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("a: [", "this is not YAML"),
        ("a: &x 1\nb: *x\n", "found an anchor or alias"),
        ("format: isotact/rig\nversion: 7\n", "found 7; expected 1"),
        ("#" * 5_000_000, "found 5,000,000 bytes"),
    ],
)
def test_bad_input_is_refused_whole_with_its_place(
    text: str, says: str, tmp_path: Path, capsys: pytest.CaptureFixture[str]
):
    file = tmp_path / "rig.yaml"
    file.write_text(text, encoding="utf-8")
    for command in ("plan", "prove", "check-profile"):
        assert main([command, str(file)]) == 2
        err = capsys.readouterr().err
        assert str(file) in err
        assert command == "check-profile" or says in err
        assert err.strip().endswith("Nothing was changed.")


def test_check_profile_says_that_all_is_well(capsys: pytest.CaptureFixture[str]):
    file = SHIPPED / "profiles/phone.yaml"
    assert main(["check-profile", str(file)]) == 0
    assert capsys.readouterr().out == f"{file}: Phone with the link app. No errors.\n"


@pytest.mark.parametrize("kind", sorted(FORMATS))
def test_schemas_are_valid_schemas(kind: str, capsys: pytest.CaptureFixture[str]):
    assert main(["schema", kind]) == 0
    jsonschema.Draft202012Validator.check_schema(json.loads(capsys.readouterr().out))


def test_it_runs_as_a_module():
    done = subprocess.run([sys.executable, "-m", "isotact", "plan", RIG], capture_output=True, text=True, check=False)
    assert done.returncode == 1
    assert "3 of 4 promises hold" in done.stdout


def test_coverage_tells_of_every_fault_of_a_rig(capsys: pytest.CaptureFixture[str]):
    assert main(["coverage", RIG]) == 0
    out = capsys.readouterr().out
    assert out.startswith("night-ferry-b: ")
    assert "  joined:body.usb--gimbal.camera/wrong-port: B2 is in Tansy grip, port marked “small bolt”" in out
    assert "      falls: roll, focus\n" in out
    assert "are told apart by what can be looked at." in out
    assert out.rstrip().endswith("0 leave their condition true, or a promise standing that needs it.")


def test_coverage_as_json_is_a_list_of_rows(capsys: pytest.CaptureFixture[str]):
    assert main(["coverage", RIG, str(FOLDER / "night-ferry-c.yaml"), "--json"]) == 0
    rows = json.loads(capsys.readouterr().out)
    assert {row["rig"] for row in rows} == {"night-ferry-b", "night-ferry-c"}
    wanted = {"rig", "condition", "fault", "still_holds", "standing", "seen_by", "alike"}
    assert all(wanted <= set(row) for row in rows)


def test_coverage_without_a_rig_takes_all_that_ship(
    capsys: pytest.CaptureFixture[str], monkeypatch: pytest.MonkeyPatch
):
    # What it finds in each is the matter of tests/core/faults; here, that none is passed over.
    asked: list[str] = []
    monkeypatch.setattr("isotact.core.faults.coverage", lambda rig, _: asked.append(rig.rig.id) or [])
    assert main(["coverage", "--json"]) == 0
    assert json.loads(capsys.readouterr().out) == []
    assert set(asked) == set(SHIPPED_RIGS)


def test_coverage_of_a_file_that_is_wrong_is_refused_at_its_line(capsys: pytest.CaptureFixture[str], tmp_path: Path):
    wrong = tmp_path / "wrong.yaml"
    wrong.write_text(Path(RIG).read_text(encoding="utf-8").replace("camera: B", "camera: b"), encoding="utf-8")
    assert main(["coverage", str(wrong)]) == 2
    assert "wrong.yaml:" in capsys.readouterr().err


A_RIG = str(FOLDER / "night-ferry-a.yaml")


def test_the_sheet_from_the_cases_and_from_the_build_of_another_document(tmp_path, capsys):
    main(["sheet", RIG])
    whole = capsys.readouterr().out
    assert whole.startswith("Night ferry, B camera: 39 steps, about ")
    assert "\nMenus\n" in whole
    assert "CAUTION: Never power it with locked axes or out of balance." in whole
    changed = tmp_path / "changed.yaml"
    text = Path(RIG).read_text(encoding="utf-8")
    changed.write_text(text.replace("usb-c-usb-c-data-30, count: 1", "usb-c-usb-c-data-30, count: 0"), encoding="utf-8")
    assert changed.read_text(encoding="utf-8") != text
    main(["sheet", str(changed), "--from", RIG])
    short = capsys.readouterr().out
    assert "a full build takes 39 steps" in short.splitlines()[0]
    assert "Take out B2: " in short
    main(["sheet", RIG, "--from", RIG, "--json"])
    assert json.loads(capsys.readouterr().out)["steps"] == []


@pytest.mark.parametrize(
    ("arguments", "says"),
    [
        (["takes", RIG], "iso: "),
        (["takes", RIG, "iso"], "It would hold only without record"),
        (["matrix", RIG, "body"], "ISO: "),
        (["ways", RIG, "picture"], "Brindle 2"),
        (["alternatives", RIG], "1. keeps 3"),
        (["day", str(FOLDER / "ferry-van.kit.yaml"), RIG, A_RIG], "Night ferry, A camera: 8 of 8 hold"),
    ],
    ids=lambda value: value[0] if isinstance(value, list) else "",
)
def test_what_the_screens_ask_the_command_line_asks_too(arguments: list[str], says: str, capsys):
    main(arguments)
    assert says in capsys.readouterr().out
    main([*arguments, "--json"])
    assert json.loads(capsys.readouterr().out)


def test_a_pipe_that_is_closed_early_is_no_error():
    command = f'"{sys.executable}" -m isotact coverage "{RIG}" | head -1'
    done = subprocess.run(["bash", "-c", f"set -o pipefail; {command}"], capture_output=True, text=True, check=False)
    assert done.returncode == 0
    assert done.stderr == ""
