"""The tables. Rows of `Revision` are only ever added."""

import peewee

database = peewee.DatabaseProxy()


class Table(peewee.Model):
    """What all our tables share: the database they live in."""

    class Meta:
        database = database


class Migration(Table):
    """Which named changes of the schema this database has had."""

    name = peewee.TextField(primary_key=True)
    done_at = peewee.TextField()


class Head(Table):
    """One document and the revision that is shown now. One that was removed keeps its history and can come back."""

    id = peewee.TextField(primary_key=True)
    head = peewee.IntegerField()
    removed_at = peewee.TextField(null=True)


class Version(Table):
    """One version of a document. `parent` is the revision that it was made from; 0 for the first."""

    number = peewee.IntegerField()
    parent = peewee.IntegerField()
    document = peewee.TextField()
    made_at = peewee.TextField()


class RigRow(Head):
    """One rig."""

    class Meta:
        table_name = "rig"


class Revision(Version):
    """One version of a rig."""

    of = peewee.ForeignKeyField(RigRow, backref="revisions", on_delete="CASCADE", column_name="rig_id")

    class Meta:
        primary_key = peewee.CompositeKey("of", "number")


class Tick(Table):
    """A step of the run sheet that somebody has done."""

    rig = peewee.ForeignKeyField(RigRow, backref="ticks", on_delete="CASCADE")
    step = peewee.TextField()
    ticked_at = peewee.TextField()

    class Meta:
        primary_key = peewee.CompositeKey("rig", "step")


class KitRow(Head):
    """One kit."""

    class Meta:
        table_name = "kit"


class KitRevision(Version):
    """One version of a kit."""

    of = peewee.ForeignKeyField(KitRow, backref="revisions", on_delete="CASCADE", column_name="kit_id")

    class Meta:
        primary_key = peewee.CompositeKey("of", "number")
        table_name = "kit_revision"
