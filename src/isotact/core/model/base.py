"""What every document of ours has in common."""

from pydantic import BaseModel, ConfigDict
from pydantic_core import PydanticCustomError

from isotact.core.model.problems import Flaw


class Part(BaseModel):
    """A piece of a document: no unknown keys, never changed in place."""

    model_config = ConfigDict(extra="forbid", frozen=True, populate_by_name=True)


def flawed(flaws: list[Flaw]) -> PydanticCustomError:
    """What a validator raises for a document that makes no sense in itself: every flaw with its place."""
    return PydanticCustomError("references", "{count} wrong references", {"count": len(flaws), "flaws": flaws})
