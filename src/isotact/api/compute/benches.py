"""Benches under somebody's hands, each worked out once: another move goes on from where the last one left it."""

import hashlib
from collections import OrderedDict
from collections.abc import Callable
from itertools import accumulate
from threading import Lock

from pydantic import TypeAdapter

from isotact.core.bench import DoStep, HandBench, Move
from isotact.core.runsheet import Step

KEPT = 64
"""So many states are kept: the last moves of a few benches, so that undo and the next move are one step each."""
_MOVE: TypeAdapter[Move] = TypeAdapter(Move)


class BenchStates:
    """The last states of the benches of one rig, by how they began and what was done since."""

    def __init__(self) -> None:
        self._known: OrderedDict[bytes, HandBench] = OrderedDict()
        self._lock = Lock()

    def after(self, beginning: str, moves: list[str], begin: Callable[[], HandBench]) -> tuple[HandBench, bytes]:
        """The bench that `begin` makes once `moves` are done, and its key. Fork it, do not change it."""
        # One digest over the last one and the next move: of a long bench only what is new is worked out.
        keys = list(accumulate(moves, _next, initial=hashlib.sha256(beginning.encode()).digest()))
        with self._lock:
            start = next((number for number in range(len(moves), -1, -1) if keys[number] in self._known), None)
            bench = begin() if start is None else self._known[keys[start]]
        for number in range(start or 0, len(moves)):
            bench = bench.fork()
            bench.do(_MOVE.validate_json(moves[number]))
            if number >= len(moves) - KEPT // 2:
                self._keep(keys[number + 1], bench)
        self._keep(keys[-1], bench)
        return bench, keys[-1]

    def then(self, bench: HandBench, key: bytes, move: Move) -> HandBench:
        """The bench once one more move is done, found again by that move as it is kept."""
        after = bench.fork()
        after.do(move)
        self._keep(_next(key, as_kept(move, after.last_step)), after)
        return after

    def _keep(self, key: bytes, bench: HandBench) -> None:
        with self._lock:
            self._known[key] = bench
            self._known.move_to_end(key)
            while len(self._known) > KEPT:
                self._known.popitem(last=False)


def _next(before: bytes, move: str) -> bytes:
    return hashlib.sha256(before + move.encode()).digest()


def as_kept(move: Move, step: Step | None) -> str:
    """A move as it is kept, with what it did where it was a step by its name."""
    kept = move if step is None else DoStep(step=step.id, said=step)
    return _MOVE.dump_json(kept).decode()
