"""What a schedule is made of: tasks that wait for each other, need resources, and are done by persons."""

from collections.abc import Mapping
from dataclasses import dataclass, field


@dataclass(frozen=True)
class Task:
    """One task. `takes`, `waits`: whole units of time, the second after its end, in which it holds no resource.

    `after`: the tasks that must be over, their wait too. `uses`: resource -> how much of it. `one_of`: those of whom it
    takes some entirely, such as persons; `count` of them. `from_`: the earliest moment at which it can begin.
    """

    key: str
    takes: int
    waits: int = 0
    after: tuple[str, ...] = ()
    uses: Mapping[str, int] = field(default_factory=dict)
    one_of: tuple[str, ...] = ()
    count: int = 0
    from_: int = 0
