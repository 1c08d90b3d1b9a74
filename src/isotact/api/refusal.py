"""The one shape of every answer that says no."""

from pydantic import BaseModel

from isotact.core.model.problems import Problem


class ErrorAnswer(BaseModel):
    """What every refusal looks like. `problems` has each fault at its place."""

    code: str
    message: str
    path: str = ""
    hint: str = ""
    problems: list[Problem] = []
