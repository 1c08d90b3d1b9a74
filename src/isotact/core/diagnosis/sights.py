"""What can be said of a rig unasked: each look with what it can show, as far as that tells anything apart."""

from isotact.core.diagnosis.findings import Sight
from isotact.core.diagnosis.table import Table


def sights(table: Table) -> list[Sight]:
    """Every look that shows something else in some hypothesis: glances first, then by how long they take."""
    telling = [look for look in table.looks if len(look.words) > 1]
    ordered = sorted(telling, key=lambda look: (not look.is_glance, look.check.seconds, look.id))
    return [
        Sight(
            id=look.id,
            says=look.check.says,
            device=look.check.where,
            is_promise=look.is_promise,
            is_glance=look.is_glance,
            words=tuple(look.words),
        )
        for look in ordered
    ]
