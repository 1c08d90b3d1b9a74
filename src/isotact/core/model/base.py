"""What every document of ours has in common."""

from typing import Any

from pydantic import BaseModel, ConfigDict, GetCoreSchemaHandler
from pydantic_core import CoreSchema, PydanticCustomError

from isotact.core.model.problems import Flaw

MOST = 200
"""No list or table in a document is longer, unless its field says so: what is read must be able to be planned."""


def _bound(schema: Any) -> None:
    if isinstance(schema, dict):
        if schema.get("type") in ("list", "dict"):
            schema.setdefault("max_length", MOST)
        for part in schema.values():
            _bound(part)
    elif isinstance(schema, list):
        for part in schema:
            _bound(part)


class Struct(BaseModel):
    """A piece of a document: no unknown keys, never changed in place, every number a number."""

    model_config = ConfigDict(extra="forbid", frozen=True, populate_by_name=True, allow_inf_nan=False)


class Document(Struct):
    """A whole document, as it is read, kept and handed on: nothing in it goes on without end."""

    @classmethod
    def __get_pydantic_core_schema__(cls, source: Any, handler: GetCoreSchemaHandler) -> CoreSchema:
        """The schema with a bound on every list and table in it."""
        schema = handler(source)
        _bound(schema)
        return schema


def flawed(flaws: list[Flaw]) -> PydanticCustomError:
    """What a validator raises for a document that makes no sense in itself: every flaw with its place."""
    return PydanticCustomError("references", "{count} wrong references", {"count": len(flaws), "flaws": flaws})
