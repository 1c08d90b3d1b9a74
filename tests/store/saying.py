"""What somebody says of a step, as a phone sends it."""

from itertools import count

from isotact.store import Entry, Stands, Store
from tests.store.earlier import FERRY

_numbers = count()


def said(
    store: Store, what: str, step: str, uid: str = "", revision: int = 1, ago_s: float = 0, person: str = ""
) -> Stands:
    """Say it of a step of the demo rig; gives how its steps stand."""
    entry = Entry.model_validate(
        {"uid": uid or f"entry-{next(_numbers):04}", "what": what, "subject": step, "ago_s": ago_s}
    )
    return store.log.add(FERRY.id, [entry], revision, person)
