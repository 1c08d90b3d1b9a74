"""Bad documents are refused whole, every error at its line, to the letter."""

from pathlib import Path

import pytest

from isotact.catalogue import load_text, read_document, read_entry, read_file
from isotact.core.model import Kit, Profile, RefusedError, Rig
from isotact.demo import FOLDER
from tests.rigs import DEMO

GOOD = (FOLDER / DEMO).read_text(encoding="utf-8")


def problems(text: str, kind=Rig) -> list[str]:
    with pytest.raises(RefusedError) as caught:
        read_document(text, kind, "rig.yaml")
    return [str(problem) for problem in caught.value.problems]


def test_the_good_document_is_read():
    assert read_document(GOOD, Rig).id == "night-ferry-b"


@pytest.mark.parametrize(
    ("old", "new", "says"),
    [
        (
            "version: 1",
            "version: 2",
            "rig.yaml:2 version: found 2; expected 1. It was written by a newer Isotact: update this one.",
        ),
        ("version: 1", "version: '1'", "rig.yaml:2 version: found '1'; expected 1. Write 'version: 1'."),
        ("version: 1\n", "", "rig.yaml:1 version: found no version; expected 1. Write 'version: 1'."),
        ("isotact/rig", "isotact/kit", "rig.yaml:1 format: found 'isotact/kit'; expected 'isotact/rig'."),
        ("camera: B", "camera: b2", "rig.yaml:5 camera: found 'b2'; expected one capital letter."),
        ("count: 2", "count: -2", "rig.yaml:17 bag[3].count: found -2; expected 0 or more."),
        ("count: 2", "count: many", "rig.yaml:17 bag[3].count: found 'many'; expected a whole number."),
        ("weight: 5", "weigth: 5", "rig.yaml:23 promises[0].weigth: found the field 'weigth', which does not belong here."),
        ("id: roll, ", "", "rig.yaml:23 promises[0].id: found no 'id'; it is needed here."),
        ("kind: picture", "kind: pictures", "rig.yaml:25 promises[2].kind: found kind 'pictures'; expected control, picture, power."),
        (
            "function: record",
            "function: recrod",
            "rig.yaml:23 promises[0].function: found 'recrod', which is no function we know. Did you mean 'record'?",
        ),
        (
            "within_ms: 100 ms",
            "within_ms: 100 kg",
            "rig.yaml:25 promises[2].within_ms: found '100 kg'; expected a number, or a quantity such as '1 ms'.",
        ),
        ("id: body,", "id: The Body,", "rig.yaml:8 devices[0].id: found 'The Body'; expected lower-case words joined by hyphens, such as 'focus-wheel'."),
        ('firmware: "2.1"', "firmware: 2.1", "rig.yaml:8 devices[0].firmware: found 2.1; expected text (put it in quotes)."),
    ],
)  # fmt: skip
def test_an_error_is_told_at_its_line_with_what_was_found_and_expected(old: str, new: str, says: str):
    assert problems(GOOD.replace(old, new, 1)) == [says]


def test_all_errors_are_told_at_once_in_the_order_of_the_lines():
    text = (
        GOOD.replace("camera: B", "camera: bb")
        .replace("count: 2", "count: 200")
        .replace("function: iso", "function: isoo")
    )
    found = problems(text)
    assert [line.split(":")[1].split()[0] for line in found] == ["5", "17", "26"]


def test_two_devices_with_one_id_and_a_dangling_reference():
    text = GOOD.replace("id: lens,", "id: body,").replace("device: phone, surface", "device: fone, surface", 1)
    assert problems(text) == [
        "rig.yaml:9 devices[1].id: found 'body' twice; give each its own.",
        "rig.yaml:25 promises[2].at.device: found 'fone', which is not in this rig. Did you mean 'phone'?",
    ]


@pytest.mark.parametrize(("text", "says"), [("- a\n", "found a list"), ("hello\n", "found the single value 'hello'")])
def test_what_is_no_document_at_all(text: str, says: str):
    assert problems(text)[0].startswith(f"rig.yaml:1: {says}; expected fields such as 'format: isotact/rig'")


CABLE = (Path(FOLDER).parent / "catalogue/cables/usb-c-usb-c-data-30.yaml").read_text(encoding="utf-8")


@pytest.mark.parametrize(
    ("old", "new", "says"),
    [
        (
            "connector: usb-c,",
            "connector: usb-d,",
            "cable.yaml:8 ends[0].connector: found 'usb-d', which is no connector we know. Did you mean 'usb-c'?",
        ),
        ("mass_g: 14", "mass_g: -14", "cable.yaml:15 mass_g: found -14; expected 0 or more."),
        ("length_mm: 300", "length_mm: .inf", "cable.yaml:13 length_mm: found '.inf'; expected a number, or a quantity such as '1 mm'."),
        ("family: control", "family: contorl", "cable.yaml:6 family: found 'contorl'; expected one of control, video, power, motor-bus. Did you mean 'control'?"),
        (
            "{medium: usb-data}",
            "{medium: usb-data, between: [1, 3]}",
            "cable.yaml:5 : ",
        ),
    ],
)  # fmt: skip
def test_a_bad_cable(old: str, new: str, says: str, tmp_path: Path):
    file = tmp_path / "usb-c-usb-c-data-30.yaml"
    file.write_text(CABLE.replace(old, new, 1), encoding="utf-8")
    with pytest.raises(RefusedError) as caught:
        read_entry(file)
    found = str(caught.value.problems[0]).replace(str(file), "cable.yaml")
    if "between" in new:
        assert "found between [1, 3]; expected two different ends from 1 to 2." in found
    else:
        assert found == says


def test_the_file_name_must_be_the_id(tmp_path: Path):
    file = tmp_path / "other.yaml"
    file.write_text(CABLE, encoding="utf-8")
    with pytest.raises(RefusedError, match="found id 'usb-c-usb-c-data-30' in a file named 'other.yaml'"):
        read_entry(file)


def test_files_that_cannot_be_read(tmp_path: Path):
    with pytest.raises(RefusedError, match="cannot read it"):
        read_file(tmp_path / "none.yaml", Rig)
    latin = tmp_path / "latin.yaml"
    latin.write_bytes(b"name: caf\xe9")
    with pytest.raises(RefusedError, match="this is not UTF-8 text"):
        load_text(latin)
    large = tmp_path / "large.yaml"
    large.write_bytes(b"#" * 5_000_000)
    with pytest.raises(RefusedError, match="found 5,000,000 bytes"):
        load_text(large)


def test_a_kit_is_read_and_checked():
    head = "format: isotact/kit\nversion: 1\nid: van\nname: Van\n"
    kit = read_document(head + "cables:\n  - {cable: usb-c-usb-c-data-30, count: 3, tags: [C1, C2, C3]}\n", Kit)
    assert kit.cables[0].count == 3
    assert problems(head + "cables:\n  - {cable: x, count: -1}\n", Kit) == [
        "rig.yaml:6 cables[0].count: found -1; expected 0 or more."
    ]


def test_a_lamp_state_that_no_trade_can_tell_is_refused_at_its_line():
    text = """format: isotact/profile
version: 1
id: box
name: Box
kind: module
summary: a box
mass_g: 10
stage: tilt-cage
indicators:
  - id: lamp
    name: lamp
    place: top
    states:
      - {when: awaek, looks: green}
"""
    assert problems(text, Profile) == [
        "rig.yaml:14 indicators[0].states[0].when: found 'awaek'; expected one of asking, asleep, awake, booting, "
        "charging, linked, networked, recording, waiting. Did you mean 'awake'?"
    ]
    assert read_document(text.replace("awaek", "awake"), Profile).id == "box"
