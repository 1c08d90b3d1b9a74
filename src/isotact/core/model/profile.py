"""A profile: what a kind of device is. One YAML file each; `docs/profile-format.md` explains every field."""

from pydantic import model_validator

from isotact.core.model.base import flawed
from isotact.core.model.profile_fields import ProfileFields
from isotact.core.model.references import profile_flaws


class Profile(ProfileFields):
    """What a kind of device is. `kind` is for words and pictures only: no engine looks at it."""

    @model_validator(mode="after")
    def _refers_to_what_exists(self) -> "Profile":
        flaws = list(profile_flaws(self))
        if flaws:
            # Several flaws travel in one validation error; the loader gives each its own line.
            raise flawed(flaws)
        return self
