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


class RigRow(Table):
    """One rig and the revision that is shown now."""

    id = peewee.TextField(primary_key=True)
    head = peewee.IntegerField()

    class Meta:
        table_name = "rig"


class Revision(Table):
    """One version of a rig. `parent` is the revision that it was made from; 0 for the first."""

    of = peewee.ForeignKeyField(RigRow, backref="revisions", on_delete="CASCADE", column_name="rig_id")
    number = peewee.IntegerField()
    parent = peewee.IntegerField()
    document = peewee.TextField()
    made_at = peewee.TextField()

    class Meta:
        primary_key = peewee.CompositeKey("of", "number")


class Tick(Table):
    """A step of the run sheet that somebody has done."""

    rig = peewee.ForeignKeyField(RigRow, backref="ticks", on_delete="CASCADE")
    step = peewee.TextField()
    ticked_at = peewee.TextField()

    class Meta:
        primary_key = peewee.CompositeKey("rig", "step")


class KitRow(Table):
    """One kit and the revision that is shown now."""

    id = peewee.TextField(primary_key=True)
    head = peewee.IntegerField()

    class Meta:
        table_name = "kit"


class KitRevision(Table):
    """One version of a kit."""

    of = peewee.ForeignKeyField(KitRow, backref="revisions", on_delete="CASCADE", column_name="kit_id")
    number = peewee.IntegerField()
    parent = peewee.IntegerField()
    document = peewee.TextField()
    made_at = peewee.TextField()

    class Meta:
        primary_key = peewee.CompositeKey("of", "number")
        table_name = "kit_revision"
