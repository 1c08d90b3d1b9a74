"""What every document of ours has in common."""

from pydantic import BaseModel, ConfigDict


class Part(BaseModel):
    """A piece of a document: no unknown keys, never changed in place."""

    model_config = ConfigDict(extra="forbid", frozen=True, populate_by_name=True)
