"""An example: rigs that teach one situation of the trade, and the answer that is expected of each."""

from typing import Annotated, Literal

from pydantic import Field, model_validator

from isotact.core.model.base import Struct
from isotact.core.model.kit import Kit
from isotact.core.model.rig import Rig
from isotact.core.model.words import Id, Name, Text

Long = Annotated[str, Field(min_length=1, max_length=1200)]


Topic = Literal["control", "lens", "pictures", "sockets", "power", "gimbal", "several"]


class Expectation(Struct):
    """What the plan of one rig must say; what is left out may be as it likes."""

    kept: list[Id] = Field(default=[], description="the promises that hold, every one and no other")
    unmet: dict[Id, Text] = Field(default={}, description="promise -> words that its reason holds")
    maybe: dict[Id, Text] = Field(default={}, description="unmet promise -> words of how sure its recipe is")
    joins: list[Text] = Field(
        default=[], description="joins that are there: `device.port--device.port`, with ` by CABLE` where it matters"
    )
    not_joined: list[Text] = Field(default=[], description="ports that stay empty: `device.port`")
    choices: dict[str, str] = Field(default={}, description="`device.mode` or `device.setting` -> its value")
    wakes: list[Text] = Field(default=[], description="`device before device`")
    fed: dict[Id, Id] = Field(default={}, description="device -> what feeds it")
    takes: dict[Id, Text] = Field(default={}, description="unmet promise -> words of what it takes")
    ways: dict[Id, int] = Field(default={}, description="picture promise -> how many ways to its screen are told apart")
    marks: dict[str, float] = Field(default={}, description="`device.scale` of a gimbal -> where it has to stand")
    beyond: list[Text] = Field(default=[], description="the scales that have too little travel, every one and no other")
    cures: list[Text] = Field(default=[], description="words of what is named to bring those into their travel")


class Example(Struct):
    """One situation: what it teaches, its rigs, and what is expected."""

    format: Literal["isotact/example"]
    version: Literal[1]
    id: Id
    number: int = Field(ge=1, le=99)
    name: Name
    topic: Topic = Field(description="what one wants to learn who opens it")
    teaches: Long
    rigs: list[Rig] = Field(min_length=1, max_length=8)
    kit: Kit | None = Field(default=None, description="what several rigs share")
    expects: dict[Id, Expectation]

    @model_validator(mode="after")
    def _expects_of_its_rigs(self) -> "Example":
        ids = {rig.id for rig in self.rigs}
        if set(self.expects) != ids:
            raise ValueError(f"found expectations of {sorted(self.expects)}; expected one for each of {sorted(ids)}")
        return self
