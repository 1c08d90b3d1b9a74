"""Invariants over every profile and cable type that ships, and over those that the format must be able to say."""

import re
from pathlib import Path

import pytest
from pydantic import BaseModel

from isotact.catalogue import SHIPPED, Catalogue, read_entry
from isotact.core.model import CableType, Kit, Profile, RefusedError, Rig
from isotact.core.model.example import Example
from isotact.core.model.legs import legs_of
from isotact.core.model.power_role import PowerRole
from isotact.core.model.resolved import Placed
from isotact.core.model.rig import Device

FILES = sorted(SHIPPED.rglob("*.yaml"))
PROFILES = [file for file in FILES if file.parent.name == "profiles"]
CABLES = [file for file in FILES if file.parent.name == "cables"]
REACH = sorted((Path(__file__).parent / "reach").glob("*.yaml"))
GUIDE = (SHIPPED.parents[2] / "docs/profile-format.md").read_text(encoding="utf-8")
named = pytest.mark.parametrize


def by_name(file: Path) -> str:
    return file.stem


def test_there_is_enough_to_choose_from():
    assert len(PROFILES) >= 40
    assert len(CABLES) >= 60


@named("file", [*FILES, *REACH], ids=by_name)
def test_each_loads_and_its_id_is_its_file_name(file: Path):
    assert read_entry(file).id == file.stem


@named("file", [*PROFILES, *REACH], ids=by_name)
def test_every_leg_of_a_profile_leads_to_a_role(file: Path):
    profile = read_entry(file)
    assert isinstance(profile, Profile)
    placed = Placed(Device(id="x", profile=profile.id), profile)
    legs = list(legs_of(placed))
    assert legs or profile.power is not None or placed.seat is not None or placed.is_plain


@named("file", PROFILES, ids=by_name)
def test_units_are_sane(file: Path):
    profile = read_entry(file)
    assert isinstance(profile, Profile)
    assert 10 < profile.mass_g < 10_000
    if profile.power:
        assert 0 <= profile.power.draw_w < 100
    for port in profile.ports:
        for role in port.roles:
            if isinstance(role, PowerRole):
                assert 3 < role.min_v <= role.max_v < 40
    for item in (*profile.makes, *profile.passes, *profile.shows):
        assert item.delay_ms < 500


@named("file", PROFILES, ids=by_name)
def test_a_device_that_wakes_has_something_to_tell_it_by(file: Path):
    profile = read_entry(file)
    assert isinstance(profile, Profile)
    if profile.wake:
        assert profile.indicators
        assert any(look.when == "awake" for indicator in profile.indicators for look in indicator.states)


@named("file", PROFILES, ids=by_name)
def test_ports_that_take_the_same_plug_have_different_markings(file: Path):
    profile = read_entry(file)
    assert isinstance(profile, Profile)
    marks = [(port.connector, port.marking) for port in profile.ports]
    assert len(set(marks)) == len(marks)


@named("file", CABLES, ids=by_name)
def test_a_cable_type_is_sane(file: Path):
    cable = read_entry(file)
    assert isinstance(cable, CableType)
    assert cable.length_mm > 0
    assert len(cable.ends) == 2 if cable.kind != "splitter" else len(cable.ends) > 2
    if cable.kind == "adapter":
        assert sorted(end.gender for end in cable.ends) == ["plug", "receptacle"]
    for conductor in cable.carries:
        if conductor.medium == "power":
            assert conductor.max_a is not None


def models(kind: type[BaseModel], seen: set[type[BaseModel]] | None = None) -> set[type[BaseModel]]:
    """`kind` and every model inside it."""
    seen = seen if seen is not None else set()
    if kind in seen:
        return seen
    seen.add(kind)
    for field in kind.model_fields.values():
        for part in re.findall(r"isotact\.core\.model\.\w+\.(\w+)", str(field.annotation)):
            found = next((m for m in _all_models() if m.__name__ == part), None)
            if found:
                models(found, seen)
    return seen


def _all_models() -> list[type[BaseModel]]:
    from isotact.core.model import behaviour, cable, example, kit, ports, profile, rig

    return [
        value
        for module in (behaviour, cable, example, kit, ports, profile, rig)
        for value in vars(module).values()
        if isinstance(value, type) and issubclass(value, BaseModel)
    ]


@named("kind", [Profile, CableType, Rig, Kit, Example], ids=lambda kind: kind.__name__)
def test_every_field_is_documented(kind: type[BaseModel]):
    missing = [
        f"{model.__name__}.{name}" for model in models(kind) for name in model.model_fields if f"`{name}`" not in GUIDE
    ]
    assert missing == []


def test_the_documented_example_loads(tmp_path: Path):
    blocks = re.findall(r"```yaml\n(format: .*?)```", GUIDE, re.DOTALL)
    assert blocks
    for block in blocks:
        key = re.search(r"^id: (\S+)", block, re.MULTILINE)
        assert key
        if "isotact/profile" in block or "isotact/cable" in block:
            file = tmp_path / f"{key.group(1)}.yaml"
            file.write_text(block, encoding="utf-8")
            assert read_entry(file).id == key.group(1)


def test_a_users_broken_file_is_listed_and_the_others_load(tmp_path: Path, catalogue: Catalogue):
    good = (SHIPPED / "profiles/phone.yaml").read_text(encoding="utf-8")
    (tmp_path / "my-phone.yaml").write_text(good.replace("id: phone", "id: my-phone", 1), encoding="utf-8")
    (tmp_path / "bad.yaml").write_text("format: isotact/profile\nversion: 1\nid: bad\n", encoding="utf-8")
    more = catalogue.with_folder(tmp_path)
    assert "my-phone" in more.profiles
    assert list(more.broken) == [str(tmp_path / "bad.yaml")]
    assert "my-phone" not in catalogue.profiles


def test_an_unreadable_profile_is_explained_at_every_line(tmp_path: Path):
    text = (SHIPPED / "profiles/phone.yaml").read_text(encoding="utf-8")
    text = text.replace("kind: phone", "kind: fone", 1).replace("draw_w: 3.2", "draw_w: 3.2 V")
    file = tmp_path / "phone.yaml"
    file.write_text(text, encoding="utf-8")
    with pytest.raises(RefusedError) as caught:
        read_entry(file)
    assert [problem.line for problem in caught.value.problems] == [5, 56]
