"""Profiles, cable types and words of one's own, as documents: listed, opened, undone, removed and brought back."""

from collections.abc import Callable
from typing import Any

from fastapi import APIRouter

from isotact.api.errors import RESPONSES
from isotact.api.routes.documents import Rules, add_routes
from isotact.catalogue import Catalogue
from isotact.core.model import Profile, RefusedError
from isotact.core.model.cable import CableType
from isotact.core.model.problems import Problem
from isotact.core.model.vocabulary import Word, also_known, words_used
from isotact.store import OWN, RIG, Kind, Store
from isotact.store.own_catalogue import read_words, users_of


def still_known(before: Catalogue, store: Store) -> None:
    """Refuse a change that lets a word go which something names: that could not be read any more.

    Stands inside the transaction of the change.
    """
    known = {(table, key) for words in read_words(store) for table, key, _ in words.declared()}
    gone: dict[Word, str] = {
        (table, key): what.name
        for words in before.words.values()
        for table, key, what in words.declared()
        if (table, key) not in known
    }
    problems = [
        Problem(
            code="in-use",
            path=".".join(word),
            message=f"found '{gone[word]}' in use in {', '.join(names)}.",
            hint="Take it out of these first; a rig's history counts too.",
        )
        for word, names in _users_of_words(gone, before, store).items()
        if names
    ]
    if problems:
        raise RefusedError(problems)


def _users_of_words(gone: dict[Word, str], before: Catalogue, store: Store) -> dict[Word, list[str]]:
    found = {(table, key): _askers(store, key) if table == "functions" else [] for table, key in gone}
    entries: list[Profile | CableType] = [*before.profiles.values(), *before.cables.values()] if gone else []
    # Read with the words of before: those that are to go are in them.
    with also_known(before.words.values()):
        for entry in entries:
            for word in words_used(entry) & gone.keys():
                found[word].append(entry.name)
    return found


def _askers(store: Store, function: str) -> list[str]:
    return sorted(store[RIG].naming(f'"function":"{function}"'))


def _not_in_use(store: Store, kind: Kind[Any], key: str) -> None:
    users = [user for field in _FIELDS.get(kind.name, ()) for user in users_of(store, field, key)]
    if users:
        hint = "Take it out of these first; history and the bin count too."
        message = f"found it in use in {', '.join(dict.fromkeys(users))}."
        raise RefusedError([Problem(code="in-use", path="id", message=message, hint=hint)])


_FIELDS = {"profile": ("profile",), "cable": ("cable", "adapter")}
"""The fields of rigs and kits in which a document of one's own is named."""


def _may_go(kind: Kind[Any]) -> Callable[[Catalogue, Store, str], None]:
    def check(catalogue: Catalogue, store: Store, key: str) -> None:
        _not_in_use(store, kind, key)
        still_known(catalogue, store)

    return check


def _router_of(kind: Kind[Any]) -> APIRouter:
    part = APIRouter(prefix=f"/api/own/{kind.folder}", tags=["own"], responses=RESPONSES)
    rules = Rules[Any](may_stand=still_known, may_go=_may_go(kind))
    add_routes(part, kind, rules, but=["add", "save", "aside"])
    return part


ROUTERS = tuple(_router_of(kind) for kind in OWN)
