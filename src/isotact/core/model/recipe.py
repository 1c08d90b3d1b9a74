"""A recipe: a workaround that somebody found for a combination that nobody lists, with its steps and what it gives."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from typing import Annotated, Literal, Protocol

from pydantic import Field, model_validator

from isotact.core.model.base import Document, Struct, flawed
from isotact.core.model.problems import Flaw
from isotact.core.model.vocabulary import FunctionId
from isotact.core.model.words import Id, LongText, Name, Text, Version

# A body, its link, what is at either end of it, and their feeds: more is no workaround but a rig.
MOST_DEVICES = 12


class Asked(Protocol):
    """What a recipe has to know of a promise; see `rig.Promise`."""

    @property
    def is_picture(self) -> bool: ...
    @property
    def worked(self) -> str | None: ...
    @property
    def place(self) -> str | None: ...
    @property
    def also_names(self) -> dict[str, str]: ...


class RecipeDevice(Struct):
    """One device of the combination. `firmware`: with which it was found to work; left out: nobody looked."""

    profile: Id
    firmware: Version | None = None


class RecipeStep(Struct):
    """One thing to do, and what is seen when it is done."""

    says: Text
    expect: Text | None = None


class Gives(Struct):
    """What comes of it: a function that is controlled, or a picture, and between which of its devices."""

    kind: Literal["control", "picture"]
    function: FunctionId | None = Field(default=None, description="of a control; a picture has none")
    at: Id | None = Field(
        default=None,
        description="the profile, of those of the recipe, at which it is worked or seen; left out: any of them",
    )
    to: Id | None = Field(
        default=None,
        description="the profile that carries it out, or whose picture it is; left out: any of them",
    )

    @model_validator(mode="after")
    def _has_what_it_needs(self) -> Gives:
        if (self.kind == "control") != (self.function is not None):
            says = "name the function that it controls" if self.kind == "control" else "a picture has no function"
            raise flawed([(("function",), f"found {self.function!r}; {says}")])
        return self

    def covers(self, promise: Asked) -> bool:
        """Whether a promise is of what this is, wherever it is worked."""
        if promise.is_picture:
            return self.kind == "picture"
        return promise.worked is not None and self.function == promise.worked


class Recipe(Document):
    """A workaround, tried so many times; the tries stand in the log."""

    format: Literal["isotact/recipe"]
    version: Literal[1]
    id: Id
    name: Name
    devices: Annotated[list[RecipeDevice], Field(min_length=1, max_length=MOST_DEVICES)]
    gives: Annotated[list[Gives], Field(min_length=1, max_length=20)]
    steps: Annotated[list[RecipeStep], Field(min_length=1, max_length=60)]
    conditions: LongText | None = Field(default=None, description="what else it seems to depend on")

    @model_validator(mode="after")
    def _gives_between_its_devices(self) -> Recipe:
        known = [device.profile for device in self.devices]
        flaws: list[Flaw] = [
            (("gives", number, field), f"found '{found}', which is none of its devices: {', '.join(known)}")
            for number, gives in enumerate(self.gives)
            for field, found in (("at", gives.at), ("to", gives.to))
            if found is not None and found not in known
        ]
        if flaws:
            raise flawed(flaws)
        return self

    def bound(self, promise: Asked, profiles: Mapping[str, str]) -> list[str] | None:
        """For each device of the recipe the one of a rig that stands for it, so that it is about `promise`.

        `profiles`: the devices of the rig, with the profile of each. Whatever carries the promise out, where it says,
        belongs to what is bound, and where it is worked where the recipe says. None where it cannot be so: a recipe is
        of one way and of no other.
        """
        named = [*dict.fromkeys((*([promise.place] if promise.place else []), *promise.also_names.values()))]
        taken: list[str] = []
        for device in self.devices:
            of_it = [key for key, profile in profiles.items() if profile == device.profile and key not in taken]
            if not of_it:
                return None
            taken.append(next((key for key in named if key in of_it), of_it[0]))
        return taken if self.keeps(promise, taken) else None

    def keeps(self, promise: Asked, devices: list[str]) -> bool:
        """Whether it is about `promise`, with these devices in the place of its own."""
        stands_for = {key: device.profile for key, device in zip(devices, self.devices, strict=True)}
        others = [stands_for.get(key) for key in promise.also_names.values()]
        return any(
            gives.covers(promise)
            and gives.at in (None, stands_for.get(promise.place or ""))
            and all(other is not None and gives.to in (None, other) for other in others)
            for gives in self.gives
        )


class TakenRecipe(Struct):
    """A recipe on which a promise of a rig is to rest: *maybe*, never more.

    It is carried whole, so that whoever is handed the rig has it too. `devices`: for each device of the recipe, in its
    order, the one of the rig that stands for it. It had `worked` so many times of its `tries` when it was taken.
    """

    promise: Id
    recipe: Recipe
    devices: Annotated[list[Id], Field(min_length=1, max_length=MOST_DEVICES)]
    worked: int = Field(default=0, ge=0, le=10_000, strict=True)
    tries: int = Field(default=0, ge=0, le=10_000, strict=True)

    @property
    def token(self) -> str:
        """What tells it from another recipe, or the same with other devices."""
        return ":".join((self.promise, self.recipe.id, *self.devices))

    @property
    def says(self) -> str:
        """How sure it is: `maybe, 1 of 2 tries, firmware 1.1`."""
        firmware = [*dict.fromkeys(device.firmware for device in self.recipe.devices if device.firmware)]
        count = (
            f"{self.worked} of {self.tries} {'try' if self.tries == 1 else 'tries'}" if self.tries else "never tried"
        )
        return ", ".join(("maybe", count, *([f"firmware {' and '.join(firmware)}"] if firmware else [])))

    def flaws(self, promises: Mapping[str, Asked], profiles: Mapping[str, str]) -> Iterator[Flaw]:
        """What does not fit the rig that it stands in, by field; `profiles` as for `Recipe.bound`."""
        if self.worked > self.tries:
            yield (
                ("worked",),
                f"found {self.worked} of {self.tries}; it cannot have worked more often than it was tried",
            )
        if len(self.devices) != len(self.recipe.devices):
            yield ("devices",), f"found {len(self.devices)}; expected {len(self.recipe.devices)}, as the recipe has"
            return
        whole = len({*self.devices}) == len(self.devices)
        if not whole:
            yield ("devices",), "found one device twice; each of the recipe is another one"
        for number, (key, wanted) in enumerate(zip(self.devices, self.recipe.devices, strict=True)):
            if profiles.get(key) != wanted.profile:
                whole = False
                found = f"a {profiles[key]}" if key in profiles else "not in this rig"
                yield ("devices", number), f"found '{key}', which is {found}; the recipe wants a {wanted.profile}"
        promise = promises.get(self.promise)
        if promise is None:
            yield ("promise",), f"found '{self.promise}', which is not promised in this rig"
        elif whole and not self.recipe.keeps(promise, self.devices):
            yield ("promise",), f"found '{self.promise}', which is nothing that the recipe gives between these devices"
