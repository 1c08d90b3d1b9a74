"""A recipe: a workaround that somebody found for a combination that nobody lists, with its steps and what it gives."""

from typing import Annotated, Literal

from pydantic import Field, model_validator

from isotact.core.model.base import Document, Struct, flawed
from isotact.core.model.rig import Promise
from isotact.core.model.vocabulary import FunctionId
from isotact.core.model.words import Id, LongText, Name, Text, Version


class RecipeDevice(Struct):
    """One device of the combination. `firmware`: with which it was found to work; left out: nobody looked."""

    profile: Id
    firmware: Version | None = None


class RecipeStep(Struct):
    """One thing to do, and what is seen when it is done."""

    says: Text
    expect: Text | None = None


class Gives(Struct):
    """What comes of it: a function that is controlled, or a picture."""

    kind: Literal["control", "picture"]
    function: FunctionId | None = Field(default=None, description="of a control; a picture has none")

    @model_validator(mode="after")
    def _has_what_it_needs(self) -> "Gives":
        if (self.kind == "control") != (self.function is not None):
            says = "name the function that it controls" if self.kind == "control" else "a picture has no function"
            raise flawed([(("function",), f"found {self.function!r}; {says}")])
        return self

    def covers(self, promise: Promise) -> bool:
        """Whether a promise is of what this is."""
        if promise.is_picture:
            return self.kind == "picture"
        return promise.worked is not None and self.function == promise.worked


class Recipe(Document):
    """A workaround, tried so many times; the tries stand in the log."""

    format: Literal["isotact/recipe"]
    version: Literal[1]
    id: Id
    name: Name
    devices: Annotated[list[RecipeDevice], Field(min_length=1, max_length=12)]
    gives: Annotated[list[Gives], Field(min_length=1, max_length=20)]
    steps: Annotated[list[RecipeStep], Field(min_length=1, max_length=60)]
    conditions: LongText | None = Field(default=None, description="what else it seems to depend on")
