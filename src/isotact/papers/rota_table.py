"""A rota as a table (CSV): a line for everything that is to be done."""

from isotact.catalogue.tables import write_table
from isotact.core.day.rota_answers import DayRota

HEADINGS = ("time", "what", "camera", "device", "pack", "old pack", "minutes", "within a take", "when", "says")


def rota_table(rota: DayRota) -> str:
    """The table, in the order of time."""
    lines = [
        (
            act.clock,
            act.kind,
            act.camera,
            act.device or "",
            act.pack,
            act.old or "",
            str(act.takes_min),
            "yes" if act.spoils else "",
            act.where,
            act.says,
        )
        for act in rota.acts
    ]
    return write_table([HEADINGS, *lines])
