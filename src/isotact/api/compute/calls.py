"""One question about a rig, as it is handed to whoever answers it: a function, its body as JSON, known plans."""

from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any, get_type_hints

from pydantic import BaseModel, TypeAdapter

from isotact.api.compute.answers import AnswerContext
from isotact.core.planning import Watch, watched

Question = Callable[[AnswerContext, Any], Any]
"""A function of a module that takes the desk and the body, and gives what is answered. Its hints say of what kind."""


@dataclass(frozen=True)
class Call:
    """A question with its body. `known`: plans that were made before, pickled, by document."""

    function: Question
    body: str
    known: dict[str, bytes] = field(default_factory=dict)


@dataclass(frozen=True)
class Done:
    """An answer as JSON, and the plans that came up."""

    answer: bytes
    planned: dict[str, bytes]


def perform(call: Call, desk: AnswerContext, watch: Watch, offer: Callable[[Done], None]) -> Done:
    """Answer one question. `offer`: takes what is there already while the rest of it is looked for."""
    hints = get_type_hints(call.function)
    body: type[BaseModel] = hints["body"]

    def done(answer: object) -> Done:
        return Done(TypeAdapter(hints["return"]).dump_json(answer), desk.planned)

    desk.offer = lambda answer: offer(done(answer))
    with watched(watch):
        return done(call.function(desk, body.model_validate_json(call.body)))
