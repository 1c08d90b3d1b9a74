"""Rigs that are drawn once for all properties, each with what follows from it: its plan, its sheet, the world at the end.

`make test` draws the same ones each time, `make test-deep` others, and more of them, by a seed that it prints.
"""

import inspect
import os
from collections.abc import Callable
from functools import cache, cached_property, wraps
from random import Random
from unittest.mock import patch

import pytest
from hypothesis import HealthCheck, Phase, given, seed, settings
from hypothesis.internal.conjecture import providers
from hypothesis.strategies import SearchStrategy

from isotact.core.model import Plan, ResolvedRig
from isotact.core.planning import plan
from tests.rigs import Carried
from tests.strategies import fed_twice, laden, mid_rigs, rigs, shaken_rigs, thin_leads
from tests.tangled import tangled

SEED = os.environ.get("ISOTACT_SEED")
TIMES = float(os.environ.get("ISOTACT_TIMES", "1"))
"""So many times as many rigs as `make test` draws."""
CORPORA: dict[str, tuple[int, SearchStrategy[ResolvedRig]]] = {
    "small": (220, rigs()),
    "small or shaken": (45, rigs() | shaken_rigs()),
    "mid-size": (30, mid_rigs()),
    "fed twice": (80, fed_twice()),
    "thin leads": (60, thin_leads()),
    "laden": (60, laden()),
    "tangled": (150, tangled()),
}
"""How many rigs are drawn, and from what."""


class Drawn:
    """A rig of a corpus. What follows from it is worked out once, for whichever property asks first: do not change it."""

    def __init__(self, name: str, rig: ResolvedRig) -> None:
        self.name, self.rig = name, rig

    @cached_property
    def plan(self) -> Plan:
        return plan(self.rig)

    @cached_property
    def done(self) -> Carried:
        """It and its sheet, carried out."""
        return Carried.out(self.rig, self.plan)

    def chance(self, property_: str) -> Random:
        """What else a property draws for this rig: the same for the same seed."""
        return Random(f"{SEED} {self.name} {property_}")


@cache
def corpus(name: str) -> list[Drawn]:
    """The rigs of a corpus, no two alike, in the order in which they are drawn."""
    count, strategy = CORPORA[name]
    wanted = round(TIMES * count)
    found: dict[str, ResolvedRig] = {}

    @settings(
        max_examples=2 * wanted, derandomize=SEED is None, database=None, deadline=None, phases=[Phase.generate],
        suppress_health_check=list(HealthCheck),
    )  # fmt: skip
    @given(strategy)
    def draw(rig: ResolvedRig) -> None:
        if len(found) < wanted:
            found.setdefault(repr(rig), rig)

    # Hypothesis tries the numbers that stand in whatever modules are loaded: the same rigs must come whoever asks first.
    providers.CONSTANTS_CACHE.cache.clear()
    with patch.object(providers, "_get_local_constants", providers.Constants):
        (draw if SEED is None else seed(SEED)(draw))()
    providers.CONSTANTS_CACHE.cache.clear()
    return [Drawn(f"rig {number} of the {name}", rig) for number, rig in enumerate(found.values())]


def every(name: str, count: int) -> Callable[[Callable[[Drawn], None]], Callable[[], None]]:
    """Make a property a test that holds it against the first rigs of a corpus. One that fails is named, and shown."""
    assert count <= CORPORA[name][0], "a corpus is drawn once: say there how many it has"

    def made(property_: Callable[[Drawn], None]) -> Callable[[], None]:
        @pytest.mark.drawn
        @wraps(property_)
        def test() -> None:
            for drawn in corpus(name)[: round(TIMES * count)]:
                try:
                    property_(drawn)
                except BaseException as error:
                    document = drawn.rig.rig.model_dump_json(exclude_defaults=True)
                    error.add_note(f"{drawn.name}, drawn with seed {SEED}; its document: {document}")
                    raise

        test.__signature__ = inspect.Signature()  # type: ignore[attr-defined]
        return test

    return made
