"""The kinds of document that are kept, an entry each: to keep another kind takes a line here."""

from dataclasses import dataclass
from typing import Any, Generic, TypeVar

from pydantic import BaseModel

from isotact.catalogue.validation import Entry
from isotact.core.model.cable import CableType
from isotact.core.model.job import Job
from isotact.core.model.kit import Kit
from isotact.core.model.profile import Profile
from isotact.core.model.recipe import Recipe
from isotact.core.model.rig import Rig
from isotact.core.model.vocabulary import Words

D = TypeVar("D", bound=BaseModel)


@dataclass(frozen=True)
class Kind(Generic[D]):
    """A kind of document: its name in the tables, what a person calls one, and its model."""

    name: str
    says: str
    model: type[D]
    folder: str

    def __str__(self) -> str:
        return self.name


RIG = Kind("rig", "rig", Rig, "rigs")
RECIPE = Kind("recipe", "recipe", Recipe, "recipes")
JOB = Kind("job", "job", Job, "jobs")
KIT = Kind("kit", "kit", Kit, "kits")
PROFILE = Kind("profile", "profile of your own", Profile, "profiles")
CABLE = Kind("cable", "cable type of your own", CableType, "cables")
WORDS = Kind("words", "words of your own", Words, "words")

OWN: tuple[Kind[Any], ...] = (WORDS, PROFILE, CABLE)
"""What makes up one's own catalogue: words first, since the others use them."""
KINDS: tuple[Kind[Any], ...] = (*OWN, JOB, KIT, RECIPE, RIG)
"""All of them, each after what it may name."""


def kind_of(entry: Entry) -> Kind[Any]:
    """The kind of a document of one's own catalogue."""
    return next(kind for kind in OWN if isinstance(entry, kind.model))
