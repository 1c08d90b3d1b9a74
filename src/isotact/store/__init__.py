"""SQLite through peewee: rigs and kits as append-only revisions, ticks, migrations.

No rule of the job belongs here.
"""

from isotact.store.store import Removed, RevisionLine, SavedKit, SavedRig, Store

__all__ = ["Removed", "RevisionLine", "SavedKit", "SavedRig", "Store"]
