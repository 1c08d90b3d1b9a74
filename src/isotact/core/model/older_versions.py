"""Old documents brought up to date: one named function for each change of a format.

Each takes a document of one version, as plain data, and returns it as the next version is written. Files, packs and
stored revisions all come through here, so that a renamed field never makes a history unreadable.
"""

from collections.abc import Callable
from typing import Any

Upgrade = Callable[[dict[str, Any]], dict[str, Any]]


def days_of_a_job_hold_more(data: dict[str, Any]) -> dict[str, Any]:
    """Version 2 of a job: a day was its date alone."""
    days = data.get("days")
    if not isinstance(days, list):
        return data
    return {**data, "days": [{"date": day} if isinstance(day, str) else day for day in days]}


UPGRADES: dict[str, tuple[Upgrade, ...]] = {"isotact/job": (days_of_a_job_hold_more,)}
"""Format -> its changes in their order; the first makes version 2 of version 1."""


def newest(name: str) -> int:
    """The version in which documents of the format `name` are written now."""
    return 1 + len(UPGRADES.get(name, ()))


def upgraded(data: Any) -> Any:
    """`data` with every document in it, at any depth, in its newest version. What is newer than that stays as it is."""
    if isinstance(data, list):
        return [upgraded(one) for one in data]
    if not isinstance(data, dict):
        return data
    found = {key: upgraded(value) for key, value in data.items()}
    name, version = found.get("format"), found.get("version")
    if isinstance(name, str) and isinstance(version, int) and not isinstance(version, bool) and version >= 1:
        for number, change in enumerate(UPGRADES.get(name, ())[version - 1 :], start=version + 1):
            found = {**change(found), "version": number}
    return found
