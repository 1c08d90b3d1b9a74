"""SQLite through peewee: documents as append-only revisions, one log of what became of them and was done; backups.

No rule of the job belongs here.
"""

from isotact.store.author import person
from isotact.store.benches import BenchHistory, BenchLine
from isotact.store.kinds import CABLE, JOB, KINDS, KIT, OWN, PROFILE, RECIPE, RIG, WORDS, Kind
from isotact.store.log import About, Entry, Looked, Mark, PhotoId, Spoiling, Stands
from isotact.store.log_book import Choices, Event, Line, Wanted, as_csv, as_json_lines
from isotact.store.own_catalogue import OwnCatalogue
from isotact.store.photos import Photo
from isotact.store.recovery import NewerError
from isotact.store.revisions import Kept, Removed, Saved, Unreadable, UnreadableError
from isotact.store.shelf import PAGE, Shelf
from isotact.store.sign_ins import Role, SignIn
from isotact.store.storage_errors import StorageError
from isotact.store.store import Store

__all__ = [
    "CABLE",
    "JOB",
    "KINDS",
    "KIT",
    "OWN",
    "PAGE",
    "PROFILE",
    "RECIPE",
    "RIG",
    "WORDS",
    "About",
    "BenchHistory",
    "BenchLine",
    "Choices",
    "Entry",
    "Event",
    "Kept",
    "Kind",
    "Line",
    "Looked",
    "Mark",
    "NewerError",
    "OwnCatalogue",
    "Photo",
    "PhotoId",
    "Removed",
    "Role",
    "Saved",
    "Shelf",
    "SignIn",
    "Spoiling",
    "Stands",
    "StorageError",
    "Store",
    "Unreadable",
    "UnreadableError",
    "Wanted",
    "as_csv",
    "as_json_lines",
    "person",
]
