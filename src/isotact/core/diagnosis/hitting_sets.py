"""Minimal diagnoses: the smallest sets of suspects that explain every conflict at once.

After R. Reiter, "A theory of diagnosis from first principles", Artificial Intelligence 32 (1987) 57-95, with the
correction by Greiner, Smith and Wilkerson (same journal 41, 1989): a set is only kept where none of its parts does.
"""

from collections.abc import Callable, Iterable, Iterator

Suspects = frozenset[str]
ConflictFinder = Callable[[Suspects], Suspects | None]
"""Given what is taken to be broken, a set of others of which at least one must be broken too; None: that explains all.
"""


def minimal_hitting_sets(conflicts: Iterable[Suspects], largest: int | None = None) -> list[Suspects]:
    """The minimal sets that share a member with each of `conflicts`, the smallest first, then by name.

    `largest`: no set of more members is looked for. No conflicts: the empty set alone. A conflict without members
    cannot be hit: no set at all.
    """
    known = [frozenset(one) for one in conflicts]

    def unhit(broken: Suspects) -> Suspects | None:
        return next((one for one in known if not one & broken), None)

    return minimal_diagnoses(unhit, largest)


def minimal_diagnoses(conflict: ConflictFinder, largest: int | None = None) -> list[Suspects]:
    """The minimal sets of suspects that leave no conflict, the smallest first, then by name.

    Goes level by level, so that what has fewer members is known before it would be found again inside a larger set.
    `conflict` need not return minimal conflicts: supersets of a diagnosis are never kept.
    """
    found: list[Suspects] = []
    level: list[Suspects] = [frozenset()]
    while level:
        further: dict[Suspects, None] = {}
        # Of those found at this level none is part of another: they are of one size.
        known = tuple(found)
        for broken in level:
            if any(smaller <= broken for smaller in known):
                continue
            clash = conflict(broken)
            if clash is None:
                found.append(broken)
            elif largest is None or len(broken) < largest:
                further |= dict.fromkeys(broken | {one} for one in clash)
        level = sorted(further, key=sorted)
    return found


def explained_by(diagnoses: Iterable[Suspects], size: int) -> Iterator[Suspects]:
    """Those of exactly `size` suspects."""
    return (one for one in diagnoses if len(one) == size)
