"""A field is renamed: files, documents within documents and stored revisions of before are read all the same."""

from dataclasses import replace
from pathlib import Path
from typing import Any, Literal

import pytest
from pydantic import Field, create_model

from isotact.catalogue import read_file, validation
from isotact.core.model import Rig
from isotact.core.model.older_versions import UPGRADES, newest, upgraded
from isotact.core.model.problems import RefusedError
from isotact.store import RIG, Store, UnreadableError
from tests.rigs import demo

Newer: Any = create_model("Newer", __base__=Rig, version=(Literal[2], ...), remark=(str | None, Field(default=None)))


WRITTEN = demo().rig.model_dump(mode="json")


def rename_note_to_remark(data: dict[str, Any]) -> dict[str, Any]:
    """Version 2 of rigs: what was `note` is `remark`."""
    return {("remark" if key == "note" else key): value for key, value in data.items()}


@pytest.fixture
def renamed(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setitem(UPGRADES, "isotact/rig", (rename_note_to_remark,))
    monkeypatch.setitem(validation.FORMATS, "rig", Newer)


def old(**more: Any) -> dict[str, Any]:
    return {**WRITTEN, "note": "tape on the left arm", **more}


@pytest.mark.usefixtures("renamed")
def test_a_file_of_before_is_read(tmp_path: Path):
    file = tmp_path / "rig.json"
    file.write_text(Newer.model_construct(**old()).model_dump_json(exclude={"remark"}, warnings=False))
    assert read_file(file, Newer).remark == "tape on the left arm"


@pytest.mark.usefixtures("renamed")
def test_a_document_within_a_document_is_brought_up_to_date_too():
    found = upgraded({"format": "isotact/example", "version": 1, "rigs": [old(built=old())]})
    assert found["version"] == 1
    assert [found["rigs"][0]["remark"], found["rigs"][0]["built"]["remark"]] == ["tape on the left arm"] * 2
    assert found["rigs"][0]["version"] == 2


@pytest.mark.usefixtures("renamed")
def test_a_stored_revision_of_before_is_read(tmp_path: Path):
    text = Newer.model_construct(**old()).model_dump_json(exclude={"remark"}, warnings=False)
    shelf: Any = Store(tmp_path / "rigs.sqlite")[RIG]
    with pytest.raises(UnreadableError, match="version"):
        shelf.read("ferry", 1, text)
    shelf.kind = replace(RIG, model=Newer)
    assert shelf.read("ferry", 1, text).remark == "tape on the left arm"


@pytest.mark.usefixtures("renamed")
def test_one_that_is_newer_still_is_refused_whole(tmp_path: Path):
    file = tmp_path / "rig.json"
    file.write_text(Newer.model_construct(**old(version=3)).model_dump_json(exclude={"remark"}, warnings=False))
    with pytest.raises(RefusedError, match=r"found 3; expected 2.") as refused:
        read_file(file, Newer)
    assert refused.value.problems[0].hint == "It was written by a newer Isotact: update this one."


def test_what_is_written_now_stays_as_it_is():
    assert upgraded(WRITTEN) == WRITTEN
    assert newest("isotact/rig") == WRITTEN["version"]
