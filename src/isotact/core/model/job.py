"""A job: what the crew is out for, when, where, and who is on it."""

from typing import Annotated, Literal

from pydantic import Field, model_validator

from isotact.core.model.base import Document, Struct, flawed
from isotact.core.model.problems import Flaw
from isotact.core.model.words import Day, Id, Name, Text


class JobPlace(Struct):
    """Where a job is shot."""

    name: Name
    note: Text | None = None


class JobPerson(Struct):
    """Who is on a job, and as what."""

    name: Name
    does: Name | None = None


class Job(Document):
    """A job. A rig names its job by name (`production`), so that it can be handed to another crew by itself."""

    format: Literal["isotact/job"]
    version: Literal[1]
    id: Id
    name: Name = Field(description="the production")
    days: Annotated[list[Day], Field(max_length=400)] = []
    places: Annotated[list[JobPlace], Field(max_length=200)] = []
    people: Annotated[list[JobPerson], Field(max_length=200)] = []
    note: Text | None = None

    @model_validator(mode="after")
    def _each_once(self) -> "Job":
        listed: dict[str, list[str]] = {
            "days": self.days,
            "places": [one.name for one in self.places],
            "people": [one.name for one in self.people],
        }
        twice: list[Flaw] = [
            ((field, number), f"found {one} twice; name each once")
            for field, every in listed.items()
            for number, one in enumerate(every)
            if one in every[:number]
        ]
        if twice:
            raise flawed(twice)
        return self
