"""The example rigs that ship: listed, and opened as rigs of one's own."""

from typing import Annotated

from fastapi import APIRouter, Path
from pydantic import BaseModel

from isotact.api.dependencies import TheStore
from isotact.api.errors import MISSING, RESPONSES
from isotact.core.model import Rig
from isotact.core.model.example import Topic
from isotact.core.model.problems import NotFoundError
from isotact.core.model.words import ID_LENGTH, ID_PATTERN, free_id
from isotact.examples import examples
from isotact.store import Saved

router = APIRouter(prefix="/api/examples", tags=["examples"], responses=RESPONSES)
ExampleId = Annotated[str, Path(pattern=ID_PATTERN, max_length=ID_LENGTH)]


class ExampleLine(BaseModel):
    """An example, as much of it as choosing one needs."""

    id: str
    number: int
    name: str
    topic: Topic
    teaches: str
    rigs: list[str]
    kept: int
    promised: int


class Opened(BaseModel):
    """The rigs that an example was opened as, and the kit that came with it."""

    rigs: list[Saved[Rig]]
    kit: str | None


@router.get("")
def list_examples() -> list[ExampleLine]:
    """Every example, by its number."""
    return [
        ExampleLine(
            id=example.id,
            number=example.number,
            name=example.name,
            topic=example.topic,
            teaches=example.teaches,
            rigs=[rig.id for rig in example.rigs],
            kept=sum(len(wanted.kept) for wanted in example.expects.values()),
            promised=sum(len(rig.promises) for rig in example.rigs),
        )
        for example in examples()
    ]


@router.post("/{example_id}/open", status_code=201, responses=MISSING)
def open_example(example_id: ExampleId, store: TheStore) -> Opened:
    """Open an example as rigs of one's own; one that is open already is opened again as another copy."""
    found = {example.id: example for example in examples()}
    if example_id not in found:
        raise NotFoundError("example", example_id, found)
    example = found[example_id]
    taken = store.taken_ids()
    rigs = [
        rig.model_copy(update={"id": free_id(rig.id, taken), "note": example.teaches[:400]}) for rig in example.rigs
    ]
    kit = example.kit and example.kit.model_copy(update={"id": free_id(example.kit.id, taken)})
    return Opened(rigs=store.create_several(rigs, kit), kit=kit.id if kit else None)


ROUTERS = (router,)
