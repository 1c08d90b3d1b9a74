"""The OpenAPI document: what FastAPI makes of the routes, with every answer that says no written once and named."""

import json
from typing import Any

from fastapi import FastAPI

FIRST_REFUSAL = 400
"""From this status on an answer is a refusal (RFC 9110, 15.5)."""
_made: dict[str, Any] = {}


def describe(app: FastAPI) -> None:
    """Have `app` describe itself so. The document is made when it is first asked for: that takes seconds.

    Every application of a process has the same routes, and so the same document: read it, do not change it.
    """
    plain = app.openapi

    def described() -> dict[str, Any]:
        if not _made:
            document = plain()
            _name_refusals(document)
            _as_numbers(document)
            _made.update(document)
        return _made

    app.openapi = described  # type: ignore[method-assign]


def _name_refusals(document: dict[str, Any]) -> None:
    """Put like refusals of all routes in one place, and a reference to it in theirs (OpenAPI 3.1, 4.8.7 and 4.8.23)."""
    named: dict[str, str] = {}
    kept = document.setdefault("components", {}).setdefault("responses", {})
    for methods in document["paths"].values():
        for operation in methods.values():
            answers = operation["responses"]
            for status in [status for status in answers if status.isdigit() and int(status) >= FIRST_REFUSAL]:
                text = json.dumps(answers[status], sort_keys=True)
                if text not in named:
                    alike = sum(name.startswith(f"Refused{status}") for name in kept)
                    named[text] = f"Refused{status}" + (f"-{alike + 1}" if alike else "")
                    kept[named[text]] = answers[status]
                answers[status] = {"$ref": f"#/components/responses/{named[text]}"}


def _as_numbers(part: Any) -> None:
    """A quantity is a number here: that it may be written with its unit is for files that people write."""
    if isinstance(part, dict):
        either = part.get("anyOf", ())
        if any(str(one.get("description", "")).startswith("a quantity in") for one in either):
            part["anyOf"] = [one for one in either if one.get("type") != "string"]
        for one in part.values():
            _as_numbers(one)
    elif isinstance(part, list):
        for one in part:
            _as_numbers(one)
