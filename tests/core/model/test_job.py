"""A job's days: a night is one day, blocks lie between call and wrap, a rig is in one place at a time; older documents."""

from typing import Any

import pytest
from pydantic import ValidationError

from isotact.core.model.job import Job, minutes_from
from isotact.core.model.older_versions import upgraded

NIGHT: dict[str, Any] = {
    "date": "2026-05-04",
    "call": "18:00",
    "wrap": "04:30",
    "place": "Pier 4",
    "temperature_c": -5.0,
    "meals": [{"begins": "23:30", "ends": "00:15"}],
    "blocks": [
        {
            "name": "Car deck",
            "begins": "19:00",
            "ends": "23:30",
            "rigs": [{"rig": "a"}, {"rig": "b", "use": "standby"}],
        },
        {"name": "Bridge", "begins": "00:15", "ends": "04:00", "rigs": [{"rig": "a", "rolling_percent": 60}]},
    ],
}


def job(*days: dict[str, Any], **more: Any) -> Job:
    return Job.model_validate(
        {
            "format": "isotact/job",
            "version": 2,
            "id": "ferry",
            "name": "Night ferry",
            "places": [{"name": "Pier 4", "mains": False}],
            "days": list(days),
            **more,
        }
    )


def said(day: dict[str, Any]) -> list[tuple[str, str]]:
    """What is wrong with a day: where, and in which words."""
    with pytest.raises(ValidationError) as caught:
        job(day)
    flaws = caught.value.errors()[0]["ctx"]["flaws"]
    return [(".".join(str(part) for part in path), words) for path, words in flaws]


def test_a_night_is_one_day():
    day = job(NIGHT).days[0]
    assert day.lasts_min == 10 * 60 + 30
    assert minutes_from("18:00", "18:00") == 0
    assert minutes_from("18:00", "03:20") == 9 * 60 + 20
    assert [block.rigs[0].rolling_percent for block in day.blocks] == [30, 60]


@pytest.mark.parametrize(
    ("change", "where", "words"),
    [
        ({"wrap": "03:00"}, "days.0.blocks.1.ends", "after the wrap at 03:00"),
        ({"call": None}, "days.0.call", "counted from the call"),
        ({"place": "Pier 5"}, "days.0.place", "no place of this job"),
        ({"meals": [{"begins": "23:30", "ends": "23:00"}]}, "days.0.meals.0.ends", "not after 23:30"),
    ],
)
def test_what_cannot_be_is_refused_at_its_place(change: dict[str, Any], where: str, words: str):
    flaws = said({**NIGHT, **change})
    assert any(path == where and words in says for path, says in flaws), flaws


def test_a_rig_is_in_one_block_at_a_time():
    late = {**NIGHT["blocks"][1], "begins": "23:00"}
    flaws = said({**NIGHT, "blocks": [NIGHT["blocks"][0], late]})
    assert flaws == [("days.0.blocks.1.rigs.0.rig", "found 'a' in two blocks at one time")]


def test_a_date_twice_is_refused():
    with pytest.raises(ValidationError) as caught:
        job(NIGHT, {"date": "2026-05-04"})
    assert caught.value.errors()[0]["ctx"]["flaws"] == [(("days", 1), "found 2026-05-04 twice; name each once")]


def test_a_job_of_before_had_dates_only():
    old = {"format": "isotact/job", "version": 1, "id": "ferry", "name": "Night ferry", "days": ["2026-05-04"]}
    new = upgraded(old)
    assert new["version"] == 2
    assert Job.model_validate(new).days[0].date == "2026-05-04"
    assert upgraded({**old, "days": []})["days"] == []
