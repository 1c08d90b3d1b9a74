"""SQLite through peewee: rigs as append-only revisions, ticks, migrations.

No rule of the job belongs here.
"""

from isotact.store.rigs import RevisionLine, SavedRig, Store

__all__ = ["RevisionLine", "SavedRig", "Store"]
