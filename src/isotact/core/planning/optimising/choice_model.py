"""The variables of one rig's constraint model, and its constraints by named groups."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from typing import TYPE_CHECKING

from isotact.core.model.plan import Link
from isotact.core.model.resolved import ResolvedRig
from isotact.core.planning.ways.candidates import Span
from isotact.core.planning.ways.feed_spans import FeedSpan
from isotact.core.planning.ways.requirements import Change, Knob, Requirements
from isotact.core.planning.ways.way_graph import Hop, Step, Walk
from isotact.core.solver import fix, new_model, release, without_aim

if TYPE_CHECKING:
    from ortools.sat.python import cp_model
Group = tuple[str, tuple[str, ...]]
"""What a constraint is about: a kind and a key."""


@dataclass(frozen=True)
class Terms:
    """On what terms a model is built.

    `guarded`: to be asked why. `extra`: so many more of each cable type and small part may be got. `own_stock`: the bag
    is this rig's alone; else whoever builds several rigs into one model shares it out. `walks`: promises that have too
    many ways to list, each with the graph of them. `apart`: devices that the asker tells from others like them.
    `recharged`: batteries may be charged, changed more often and brought besides.
    """

    guarded: bool = False
    extra: int = 0
    own_stock: bool = True
    walks: Mapping[str, Walk] = field(default_factory=dict)
    apart: frozenset[str] = frozenset()
    recharged: bool = False


PLAIN = Terms()
"""The terms of an ordinary plan."""


@dataclass
class Path:
    """The variables of one promise that walks."""

    walk: Walk
    steps: dict[Step, cp_model.IntVar]
    hops: dict[Hop, cp_model.IntVar]
    lag: cp_model.IntVar | None = None
    """How late the picture is, in tens of milliseconds."""


@dataclass
class ChoiceModel:
    """The variables of one rig's CP-SAT model, by what they stand for.

    All are booleans but `load_mw`, `got` and `parts_got` (pieces to buy), `spare`, `allowed`, `lacks` and `Path.lag`.

    Nothing is taken out of a table again. A knob has an entry only where some way or feed asks for it.

    What always holds once it is solved:

    - a span in use (`span`) lies on a link in use (`link`); a lead in use (`lead`) is laid once, for all its links;
    - a device that is `awake` runs from just one: of its feeds the one that `carries`, or its own battery;
    - a promise is `kept` just when one of its listed ways (`route`) or its path (`paths`) is taken whole;
    - each knob has exactly one `value`; `change` says that it is not the one at which the device stands;
    - a device through which a way goes is `awake`.

    `options` are the ways of a promise that are listed, numbered from 0 as in `route`; one that has too many of them
    walks instead (`paths`). Guards are made only where the terms say so: every group of constraints then hangs on one,
    so that the solver can be asked which groups cannot hold together. `wishes` are the groups that a person could give
    up, promises and pins; all others are the world.
    """

    rig: ResolvedRig
    links: dict[str, Link]
    options: dict[str, list[Requirements]]
    terms: Terms = PLAIN
    spans: dict[str, Span] = field(default_factory=dict)
    feeds: dict[str, FeedSpan] = field(default_factory=dict)
    """Those of the spans that feed, by their keys."""
    model: cp_model.CpModel = field(default_factory=new_model)
    link: dict[str, cp_model.IntVar] = field(default_factory=dict)
    """Link -> whether it is in the plan."""
    lead: dict[str, cp_model.IntVar] = field(default_factory=dict)
    """Pieces of cable that make several links at once, such as a splitter, by their key."""
    span: dict[str, cp_model.IntVar] = field(default_factory=dict)
    """Two ends and one thing that passes between them, whichever of several like cables lies there."""
    carries: dict[str, cp_model.IntVar] = field(default_factory=dict)
    """Per power span, whether its taker runs from it; `span` says only that it is live."""
    route: dict[tuple[str, int], cp_model.IntVar] = field(default_factory=dict)
    paths: dict[str, Path] = field(default_factory=dict)
    """Promise -> the path that it takes, for those that walk."""
    kept: dict[str, cp_model.IntVar] = field(default_factory=dict)
    value: dict[Knob, dict[str, cp_model.IntVar]] = field(default_factory=dict)
    awake: dict[str, cp_model.IntVar] = field(default_factory=dict)
    battery: dict[str, cp_model.IntVar] = field(default_factory=dict)
    load_mw: dict[str, cp_model.LinearExpr] = field(default_factory=dict)
    """Battery -> the milliwatts that hang on it: whole numbers, since the solver knows no others."""
    aimed: cp_model.IntVar = field(init=False)
    """Whether the best is looked for: then of plans that differ in names only one is enough."""
    guards: dict[Group, cp_model.IntVar] = field(default_factory=dict)
    wishes: dict[Group, cp_model.IntVar] = field(default_factory=dict)
    pieces: dict[str, list[cp_model.IntVar]] = field(default_factory=dict)
    """Cable type -> one variable per piece that could be laid."""
    got: dict[str, cp_model.IntVar] = field(default_factory=dict)
    parts_got: dict[str, cp_model.IntVar] = field(default_factory=dict)
    """Small part -> how many are to be had besides; only where more may be got."""
    charged: dict[str, cp_model.IntVar] = field(default_factory=dict)
    """Device -> whether its battery is charged first; only where the terms let one, as with the next two."""
    spare: dict[str, cp_model.IntVar] = field(default_factory=dict)
    """Device -> how many full batteries are brought for it besides."""
    allowed: dict[str, cp_model.IntVar] = field(default_factory=dict)
    """Promise of hours -> how many more changes of battery are allowed to it."""
    bare: dict[str, cp_model.IntVar] = field(default_factory=dict)
    """Body -> whether it is left without a lens though some would fit."""
    grounded: dict[str, cp_model.IntVar] = field(default_factory=dict)
    """Body -> whether it stays off the gimbal though there is one."""
    idle: dict[str, cp_model.IntVar] = field(default_factory=dict)
    """Device -> whether it stays in its case though a promise that is not kept rests on a recipe with it."""
    lacks: dict[str, cp_model.IntVar] = field(default_factory=dict)
    """Gimbal -> what it lacks of its least payload, in tens of grams; only where weight to add lies there."""
    change: dict[Change, cp_model.IntVar] = field(default_factory=dict)
    obeyed: list[cp_model.IntVar] = field(default_factory=list)
    """Per pin of the rig, whether it is obeyed."""
    priced: dict[str, list[tuple[int, cp_model.IntVar]]] = field(default_factory=dict)
    """What `objective.price` made of it, once somebody asked."""

    def __post_init__(self) -> None:
        self.aimed = self.model.new_bool_var("aimed")

    @property
    def guarded(self) -> bool:
        return self.terms.guarded

    def add(self, group: Group, constraint: cp_model.BoundedLinearExpression | bool) -> cp_model.Constraint:
        """Add a constraint under its group."""
        made = self.model.add(constraint)
        # Unguarded, the solver is given plain constraints, of which its presolve can make more.
        if self.guarded:
            made.only_enforce_if(self.guard(group))
        return made

    def clause(self, group: Group, literals: Iterable[cp_model.LiteralT]) -> None:
        """At least one of `literals` holds."""
        # One literal more switches a clause off: it need not be enforced besides.
        extra = [self.guard(group).negated()] if self.guarded else []
        self.model.add_bool_or([*literals, *extra])

    def guard(self, group: Group) -> cp_model.IntVar:
        """The literal that switches the constraints of `group` on; made at its first use."""
        if group not in self.guards:
            self.guards[group] = self.model.new_bool_var(f"guard {group}")
        return self.guards[group]

    def enforce_all(self) -> None:
        """Let every constraint hold, as in an ordinary plan."""
        for var in self.guards.values():
            fix(var, 1)

    def relax_guards(self) -> None:
        """Let every group of constraints be asked for by itself; nothing is aimed at any more."""
        without_aim(self.model)
        release(self.aimed)
        for var in self.guards.values():
            release(var)
