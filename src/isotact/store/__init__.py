"""SQLite through peewee: documents as append-only revisions, one log of what became of them and was done; backups.

No rule of the job belongs here.
"""

from isotact.store.failing import StorageError
from isotact.store.kinds import CABLE, KINDS, KIT, OWN, PROFILE, RIG, WORDS, Kind
from isotact.store.log import Entry, Mark
from isotact.store.opening import NewerError
from isotact.store.own import OwnCatalogue
from isotact.store.shelf import PAGE, Kept, Removed, Saved, Shelf, Unreadable, UnreadableError
from isotact.store.store import Event, Store

__all__ = [
    "CABLE",
    "KINDS",
    "KIT",
    "OWN",
    "PAGE",
    "PROFILE",
    "RIG",
    "WORDS",
    "Entry",
    "Event",
    "Kept",
    "Kind",
    "Mark",
    "NewerError",
    "OwnCatalogue",
    "Removed",
    "Saved",
    "Shelf",
    "StorageError",
    "Store",
    "Unreadable",
    "UnreadableError",
]
