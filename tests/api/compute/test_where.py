"""Nothing is computed in the server's own threads: what takes long has a share, a turn and an end."""

import inspect
from collections.abc import Iterator
from types import CodeType, FunctionType

import pytest
from fastapi.routing import APIRoute

from isotact.api.routes import ROUTERS
from isotact.core.planning import plan_only
from tests.rigs import demo

COMPUTES = (
    "isotact.core.planning", "isotact.core.questions", "isotact.core.day", "isotact.core.bench", "isotact.core.faults",
    "isotact.core.runsheet", "isotact.core.trades", "isotact.core.world", "isotact.core.model.kitlist",
    "isotact.core.telling.promise_parser", "isotact.core.solver", "isotact.catalogue",
)  # fmt: skip
"""What plans, carries out, searches or reads texts of others."""
IS_SOON_DONE = {"as_yaml", "write_table", "table_of", "kit_of", "shipped", "kind_of_entry"}
"""Writes out one document or list that is kept; how large that is was bounded when it came in."""
ROUTES = [route for router in ROUTERS for route in router.routes if isinstance(route, APIRoute)]


def named(code: CodeType) -> Iterator[str]:
    """Every name that a function looks up, in those within it too."""
    yield from code.co_names
    for constant in code.co_consts:
        if isinstance(constant, CodeType):
            yield from named(constant)


def computed(function: FunctionType, seen: set[object]) -> Iterator[str]:
    """What a function of ours computes where it is called, in what it calls of ours too; not in what it asks for."""
    if function in seen:
        return
    seen.add(function)
    for name in named(function.__code__):
        found = function.__globals__.get(name)
        if not isinstance(found, FunctionType) or hasattr(found, "is_long"):
            continue  # what is marked as a question is answered where long work is done
        if found.__module__.startswith(COMPUTES) and name not in IS_SOON_DONE:
            yield f"{function.__name__} calls {name}"
        elif found.__module__.startswith("isotact.api"):
            yield from computed(found, seen)


@pytest.mark.parametrize("route", ROUTES, ids=lambda route: f"{sorted(route.methods)[0]} {route.path}")
def test_no_route_computes_outside_of_it(route: APIRoute):
    endpoint = inspect.unwrap(route.endpoint)
    assert isinstance(endpoint, FunctionType)
    assert list(computed(endpoint, set())) == []


def helps() -> None:
    plan_only(demo())


def test_one_that_did_would_be_found():
    assert list(computed(helps, set())) == ["helps calls plan_only"]
