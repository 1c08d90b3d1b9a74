"""What a way or a role asks of knobs, firmware and licences."""

from isotact.core.model.plan import Want
from isotact.core.model.roles import Role
from isotact.core.model.words import version_key


def is_met(want: Want, value: str) -> bool:
    """Whether `value` is what is wanted; of firmware, that or a newer one."""
    if want.kind == "firmware":
        return version_key(value or "0") >= version_key(want.values[0])
    return value in want.values


def strictest(wants: tuple[Want, ...]) -> list[Want]:
    """`wants` so that of several firmwares asked of one device the newest comes last."""
    return sorted(wants, key=lambda want: version_key(want.values[0]) if want.kind == "firmware" else ())


def wants_of(device: str, role: Role) -> list[Want]:
    """What a role of a device asks of its knobs."""
    return [Want(device=device, kind=kind, key=key, values=values) for kind, key, values in role.when.knobs()]
