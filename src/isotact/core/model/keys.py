"""Names of conditions, steps and looks: a kind, and what it is about. Never glued, never taken apart again."""

from typing import NamedTuple

from isotact.core.model.plan import LinkEnd


class Item(NamedTuple):
    """Something inside a device: a setting, a prompt, a screen."""

    device: str
    name: str

    def __str__(self) -> str:
        return f"{self.device}.{self.name}"


class Between(NamedTuple):
    """Two ends that are joined, or could be, in the order in which the plan names them."""

    a: LinkEnd
    b: LinkEnd

    def __str__(self) -> str:
        return f"{self.a}--{self.b}"


Subject = str | LinkEnd | Item | Between


class Key(NamedTuple):
    """What kind of thing, and what it is about. Its text is for people, files and addresses."""

    kind: str
    about: tuple[Subject, ...]

    @classmethod
    def of(cls, kind: str, *about: Subject) -> "Key":
        return cls(kind, about)

    def __str__(self) -> str:
        return ":".join((self.kind, *(str(one) for one in self.about)))
