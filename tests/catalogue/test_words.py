"""Connectors, functions and kinds of device of one's own: declared in a document, known from then on, no Python."""

from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from dataclasses import fields
from pathlib import Path

import pytest

from isotact.catalogue import SHIPPED, Catalogue, read_document, shipped
from isotact.catalogue.packs import as_yaml, read_pack
from isotact.cli.commands import main
from isotact.core.bench import run
from isotact.core.model import RefusedError, Rig, resolve
from isotact.core.model.vocabulary import (
    Connector,
    Function,
    Kind,
    Words,
    also_known,
    declare,
    vocabulary,
    words_used,
)
from isotact.core.planning import plan
from isotact.core.runsheet import run_sheet
from tests.house_pack import BODY, CABLE, PACK, PUCK, RIG, WORDS


@pytest.fixture(autouse=True)
def only_what_ships() -> Iterator[None]:
    """Leave the vocabulary as it was found."""
    before = vocabulary().documents
    declare([])
    yield
    declare(before)


@pytest.fixture
def folder(tmp_path: Path) -> Path:
    """A folder of one's own with the whole pack in it."""
    for text in (WORDS, PUCK, BODY, CABLE):
        name = text.split("id: ")[1].split("\n")[0]
        (tmp_path / f"{name}.yaml").write_text(text, encoding="utf-8")
    return tmp_path


def refusals(text: str) -> list[str]:
    with pytest.raises(RefusedError) as caught:
        read_pack(text, "pack.yaml")
    return [str(problem) for problem in caught.value.problems]


def test_a_rig_of_words_nobody_shipped_is_planned_and_proven(folder: Path):
    catalogue = shipped().with_folder(folder)
    assert catalogue.broken == {}
    rig = resolve(read_document(RIG, Rig), catalogue.profiles, catalogue.cables)
    made = plan(rig)
    assert made.kept == ("horizon",)
    sheet = run_sheet(rig, made)
    said = " ".join(line for step in sheet.steps for line in (step.title, *step.detail, step.expect))
    assert "6-pin round" in said
    assert "The line comes and goes on the picture" in said
    assert "Clamp Puck on the rods" in said
    ran = run(rig, sheet)
    assert ran.unproven == ()


def test_a_pack_knows_its_own_words_wherever_they_stand_and_leaves_nothing_behind():
    assert [one.id for one in read_pack(PACK)] == ["round-house", "puck", "round-round-30", "round-body"]
    assert "round-6" not in vocabulary().connectors
    assert "false-horizon" not in vocabulary().functions
    assert "horizon-puck" not in vocabulary().kinds


def test_without_its_words_a_profile_is_refused_at_their_places():
    assert refusals(PUCK) == [
        "pack.yaml:5 kind: found 'horizon-puck', which is no kind of device we know.",
        "pack.yaml:14 ports[0].connector: found 'round-6', which is no connector we know.",
        "pack.yaml:22 ports[1].connector: found 'snap-rail', which is no connector we know.",
        "pack.yaml:28 emits[0].functions[0]: found 'false-horizon', which is no function we know.",
    ]


@pytest.mark.parametrize(
    ("old", "new", "says"),
    [
        ("round-6: {", "usb-c: {", "6 connectors.usb-c: found the connector 'usb-c', which is 'USB-C' already; rename yours."),
        ("false-horizon:", "focus:", "9 functions.focus: found the function 'focus', which is 'focus' already; rename yours."),
        ("like: driver", "like: zzz", "14 kinds.horizon-puck.like: found 'zzz'; expected a kind that ships."),
        ("like: driver", "like: drivr", "14 kinds.horizon-puck.like: found 'drivr'; expected a kind that ships. Did you mean 'driver'?"),
        (', mated: "It snaps, and holds when you shake it."', "", "7 connectors.snap-rail: found 'snap-rail', which is made without a cable: say in 'mated' what shows that it is home."),
        ("{name: 6-pin round}", "{name: 6-pin round, mated: Click.}", "6 connectors.round-6: found 'round-6', which takes a cable: leave 'mated' out, or write that it is direct."),
        ("    seen: the line comes and goes on the picture\n", "", "9 functions.false-horizon.seen: found no 'seen'; it is needed here."),
        ("name: 6-pin round}", "name: 6-pin round, pins: 6}", "6 connectors.round-6.pins: found the field 'pins', which does not belong here."),
        ("round-6: {", "Round 6: {", "6 connectors.Round 6: found 'Round 6'; expected lower-case words joined by hyphens, such as 'focus-wheel'."),
    ],
)  # fmt: skip
def test_words_that_make_no_sense_are_refused_at_their_line(old: str, new: str, says: str):
    assert old in WORDS
    assert refusals(WORDS.replace(old, new)) == [f"pack.yaml:{says}"]


def test_words_without_a_word_are_refused():
    assert refusals("format: isotact/words\nversion: 1\nid: none\nname: None\n") == [
        "pack.yaml:1: found no connector, function or kind of device in it; add one."
    ]


def test_two_documents_may_say_the_same_but_not_different_things(folder: Path):
    twin = WORDS.replace("id: round-house", "id: other-house")
    (folder / "other-house.yaml").write_text(twin, encoding="utf-8")
    assert shipped().with_folder(folder).broken == {}
    (folder / "other-house.yaml").write_text(twin.replace("6-pin round", "six-pole"), encoding="utf-8")
    broken = shipped().with_folder(folder).broken
    assert [str(one) for found in broken.values() for one in found] == [
        f"{folder}/round-house.yaml:6 connectors.round-6: "
        "found the connector 'round-6', which is 'six-pole' already; rename yours."
    ]


def test_a_folder_whose_words_have_gone_lists_what_used_them(folder: Path):
    assert shipped().with_folder(folder).broken == {}
    (folder / "round-house.yaml").unlink()
    assert {Path(file).name for file in shipped().with_folder(folder).broken} == {
        "puck.yaml",
        "round-body.yaml",
        "round-round-30.yaml",
    }
    assert vocabulary().documents == ()


def test_words_of_a_pack_are_known_to_whoever_looks_at_it_and_to_nobody_else():
    words = [one for one in read_pack(PACK) if isinstance(one, Words)]
    with ThreadPoolExecutor(1) as somebody_else, also_known(words):
        assert "round-6" in vocabulary().connectors
        assert "round-6" not in somebody_else.submit(vocabulary).result().connectors
        declare([])
        assert "round-6" in vocabulary().connectors, "what others declare meanwhile takes nothing away here"
    assert vocabulary().documents == ()


def test_a_vocabulary_that_somebody_reads_with_is_never_changed_under_him():
    before = vocabulary()
    declare([one for one in read_pack(PACK) if isinstance(one, Words)])
    assert "round-6" not in before.connectors
    with pytest.raises(TypeError):
        before.connectors["round-6"] = before.connectors["bnc"]  # type: ignore[index]
    assert "round-6" in vocabulary().connectors


def test_words_go_out_as_yaml_and_come_back_the_same():
    words = read_document(WORDS, Words)
    assert read_pack(as_yaml(words)) == [words]


def test_a_document_tells_which_words_it_uses():
    with_words = read_pack(PACK)
    declare([one for one in with_words if isinstance(one, Words)])
    assert words_used(with_words[1]) == {
        ("kinds", "horizon-puck"),
        ("connectors", "round-6"),
        ("connectors", "snap-rail"),
        ("functions", "false-horizon"),
    }
    assert words_used(with_words[2]) == {("connectors", "round-6")}


def test_the_command_line_checks_and_plans_with_words_of_a_folder(folder: Path, capsys: pytest.CaptureFixture[str]):
    assert main(["check-profile", str(folder / "round-house.yaml")]) == 0
    assert main(["check-profile", str(folder / "puck.yaml"), "--profiles", str(folder)]) == 0
    rig = folder.parent / "round-rig.yaml"
    rig.write_text(RIG, encoding="utf-8")
    assert main(["plan", str(rig), "--profiles", str(folder)]) == 0
    assert "6-pin round" in capsys.readouterr().out


@pytest.mark.parametrize("field", [one.name for kind in (Connector, Function, Kind) for one in fields(kind)])
def test_the_guide_explains_every_field(field: str):
    guide = (SHIPPED.parents[2] / "docs/profile-format.md").read_text(encoding="utf-8")
    about = guide[guide.index("## Words") : guide.index("## Rig")]
    assert f"`{field}`" in about


def test_the_guides_example_is_read():
    guide = (SHIPPED.parents[2] / "docs/profile-format.md").read_text(encoding="utf-8")
    about = guide[guide.index("## Words") : guide.index("## Rig")]
    assert read_pack(about.split("```yaml\n")[1].split("```")[0])[0].id == "round-house"


def test_what_ships_declares_nothing():
    assert shipped().words == {}
    assert isinstance(shipped(), Catalogue)
