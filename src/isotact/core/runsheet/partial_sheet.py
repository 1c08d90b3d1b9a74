"""The sheet from any world to one in which a plan's conditions hold: only what is spoilt, and what it takes.

What is missing is found by trying: the steps that make what does not hold are carried out on a fork; a step that is
refused says what comes first, what is spoilt on the way is made again, until everything holds.
"""

from collections.abc import Collection, Sequence
from dataclasses import dataclass, field

from isotact.core.model.keys import Key
from isotact.core.model.named_keys import menu_sleep_key
from isotact.core.model.plan import Plan
from isotact.core.runsheet.full_sheet import graph_of, in_full_order, steps_of
from isotact.core.runsheet.sheet import RunSheet
from isotact.core.trades import TRADES, Condition, Draft, Node, Planned, StepGraph, conditions_of, perform
from isotact.core.world import World, prove

ROUNDS = 40
"""More than any rig has needed; a guard against going round in circles."""


@dataclass
class _Tried:
    """How the steps went: the world afterwards, and the world in which each refused step was refused."""

    world: World
    refused: dict[Key, World] = field(default_factory=dict)
    helped: set[Key] = field(default_factory=set)
    """The steps that made something true, then and there, that a promise needs."""


def sheet_between(
    world: World, plan: Plan, conditions: tuple[Condition, ...] | None = None, gone: Collection[str] = ()
) -> RunSheet:
    """The least work from `world`, which stays as it is, to one in which `plan` holds.

    `world` is of the plan's rig, perhaps with devices besides that are `gone` from it: these come off. From the cases
    it is the whole sheet. Where something cannot be mended by hand, a warning says so.
    """
    derived = conditions_of(world.rig, plan) if conditions is None else conditions
    known = tuple(_seen(condition, world) for condition in derived)
    planned = Planned(world.rig, plan)
    between = _Between(world, planned, known, graph_of(planned, known), gone)
    if not world.out:
        between.chosen = {node.key: None for node in between.graph}
        if between.stands():
            return between.sheet()
    return between.find()


def _seen(condition: Condition, world: World) -> Condition:
    """The condition as things stand; with the step of a first build, where none is wanted now but may be again.

    What was set and is lost at a restart has to be set once more, if this sheet restarts the device.
    """
    seen = condition.seen_in(world)
    if seen is condition or not world.out or seen.draft(world.rig) is not None:
        return seen
    return condition if condition.draft(world.rig) is not None and condition.made_by() == seen.made_by() else seen


class _Between:
    """The search for the steps that lead from a world to a plan.

    `chosen` are the steps of the sheet so far, each out of the full sheet's `graph`; `extra` those that stand in no
    full sheet, such as to switch off what strains. Both only grow, until `_drop_needless`. `place`: where a step stands
    in the full order, which a short sheet keeps. `makers` and `made` lead from a condition to the steps that make it
    true and back; `resting` from what an act may spoil to the steps of what rests on it; `spoilers` from a step to what
    undoes what it makes, which therefore comes before it is done again. Every trial is carried out on a fork of
    `start`, which itself stays as it is.
    """

    def __init__(
        self,
        world: World,
        planned: Planned,
        conditions: tuple[Condition, ...],
        graph: StepGraph,
        gone: Collection[str],
    ) -> None:
        self.start, self.planned, self.conditions, self.graph = world, planned, conditions, graph
        full = in_full_order(planned, graph, torn=True)
        self.place = {node.key: float(number) for number, node in enumerate(full)}
        self.makers: dict[Key, list[Key]] = {}
        for node in full:
            for made in node.makes:
                self.makers.setdefault(made, []).append(node.key)
        self.made: dict[Key, list[Condition]] = {}
        """Step -> the conditions that it makes true."""
        for condition in conditions:
            for key in {condition.made_by(), *self.makers.get(condition.key, ())}:
                self.made.setdefault(key, []).append(condition)
        self.resting: dict[Key, list[Key]] = {}
        for condition in conditions:
            for ground in condition.rests_on():
                self.resting.setdefault(ground, []).append(condition.made_by())
        self.spoilers: dict[Key, dict[Key, None]] = {}
        """Step -> those besides the full sheet's that undo what it makes, so that it comes after them."""
        self.chosen: dict[Key, None] = {}
        self.extra: dict[Key, None] = {}
        self.warnings: list[str] = []
        for trade in TRADES:
            for draft in trade.tidy(planned, world, gone):
                # Of one flag the old lead comes out before the new one is laid out.
                anew = [node.key for node in graph if draft.tag is not None and node.draft.tag == draft.tag]
                self._bring(draft, [key for key in anew if self._node(key).stage == "gather"])

    def stands(self) -> bool:
        """Whether everything holds once the chosen steps are carried out, none of them refused."""
        tried = self._try()
        return not tried.refused and self._all_hold(tried.world)

    def find(self) -> RunSheet:
        """Choose steps until everything holds, and drop those that turned out to do nothing."""
        tried = self._settled()
        if not self._all_hold(tried.world):
            self._clear_what_is_left()
            tried = self._settled()
        tried = self._drop_needless(tried)
        self._prove_again()
        self._care_for_what_is_new()
        broken = [one for one in self.conditions if one.promises and not one.holds(tried.world)]
        self.warnings += [f"Not to be mended by any step here: {one.says(self.start.rig)}" for one in broken]
        return self.sheet()

    def _settled(self) -> _Tried:
        """Try until nothing more is learnt."""
        tried = self._try()
        for _ in range(ROUNDS):
            if not self._learn(tried):
                break
            tried = self._try()
        for key in tried.refused:
            self.chosen.pop(key, None)
        return tried

    def _clear_what_is_left(self) -> None:
        """Something in the world stands against the plan and is no part of it: what is not used comes off."""
        for trade in TRADES:
            for draft in trade.tidy(self.planned, self.start, self.start.out - {*self.planned.in_use}):
                self._bring(draft, ())

    def sheet(self) -> RunSheet:
        ordered = self._ordered()
        steps = tuple(steps_of(self.planned, ordered))
        warnings = (*self.planned.plan.warnings, *self.warnings)
        return RunSheet(
            rig=self.planned.plan.rig, steps=steps, takes_s=sum(step.takes_s for step in steps), warnings=warnings
        )

    def _learn(self, tried: _Tried) -> bool:
        """Take what was seen into account; whether that asks for anything more."""
        before = self._state()
        for key, world in tried.refused.items():
            if self._is_done(key, tried.world):
                self.chosen.pop(key, None)  # something else did it
            else:
                self._clear_the_way(key, world)
        for condition in self.conditions:
            if not condition.holds(tried.world):
                self._make(condition)
        return before != self._state()

    def _state(self) -> tuple[frozenset[Key], int]:
        return frozenset(self.chosen), sum(len(self._node(key).after) for key in self.chosen)

    def _make(self, condition: Condition) -> None:
        mends = list(condition.mended_in(self.start))
        for draft in mends:
            self._bring(draft, ())
            self._node(draft.key).after[condition.made_by()] = None
        for key in (condition.made_by(), *(() if mends else self.makers.get(condition.key, ()))):
            if self.graph.get(key) is not None:
                self.chosen[key] = None

    def _clear_the_way(self, key: Key, world: World) -> None:
        """A step was refused: what has to be done first, by its own word, or as the full sheet has it before it."""
        node = self._node(key)
        remedies = list(node.act.remedies(world))
        for draft in remedies:
            self._bring(draft, (key,))
        if not remedies:
            for earlier in node.after:
                if earlier not in self.chosen and self.graph.get(earlier) is not None and self._lacks(earlier, world):
                    self.chosen[earlier] = None

    def _is_done(self, key: Key, world: World) -> bool:
        making = self.made.get(key, ())
        return bool(making) and all(one.holds(world) for one in making)

    def _lacks(self, key: Key, world: World) -> bool:
        """Whether a step would do something now that it makes true, or opens the way."""
        node = self._node(key)
        making = [one for one in self.conditions if one.key in node.makes]
        if making:
            return any(not one.holds(world) for one in making)
        return node.act.why_not(world) is None

    def _bring(self, draft: Draft, before: Sequence[Key]) -> None:
        """Add a step that the full sheet has not; what makes the device ready stands between."""
        known = self.graph.get(draft.key)
        node = self.graph.add(draft)
        care = draft.care or (bool(before) and all(self._node(key).care for key in before))
        node.care = care if known is None else node.care and care
        node.after |= dict.fromkeys(draft.after)
        for ground in node.act.spoils(self.start.rig):
            for maker in self.resting.get(ground, ()):
                if maker != node.key and maker not in node.after:
                    self.spoilers.setdefault(maker, {})[node.key] = None
        self.extra[node.key] = None
        self.chosen[node.key] = None
        for key in before:
            self._node(key).after[node.key] = None
        # What the full sheet does in its menus before it is switched off again comes before this as well.
        twin = self.graph.get(menu_sleep_key(draft.device)) if draft.key.kind == "sleep" and draft.device else None
        if twin is not None:
            node.after |= twin.after

    def _node(self, key: Key) -> Node:
        node = self.graph.get(key)
        if node is None:
            raise LookupError(f"{key} is no step")
        return node

    def _ordered(self) -> list[Node]:
        """The chosen steps as the full sheet has them; what it has not, as late as what waits for it allows."""
        waiting = {
            key: [one for one in (*self._node(key).after, *self.spoilers.get(key, ())) if one in self.chosen]
            for key in self.chosen
        }
        place = dict(self.place)
        # What is needed is gathered before anything is switched off, pulled or taken off for it.
        gathered = max((self.place[one.key] for one in self.graph if self._is_gathered(one)), default=-1.0)
        for key in self.extra:
            # Of all that wait for it, chosen or not: so that dropping one step never moves another.
            followers = [self.place[one.key] for one in self.graph if one.key in self.place and key in one.after]
            first = min(followers, default=gathered + 1.0)
            place[key] = first - 0.5 if first <= gathered else max(first - 0.5, gathered + 0.5)
        ordered: dict[Key, None] = {}

        def visit(key: Key, path: tuple[Key, ...]) -> None:
            if key not in ordered and key not in path:
                for earlier in sorted(waiting[key], key=lambda one: (place[one], str(one))):
                    visit(earlier, (*path, key))
                ordered[key] = None

        for key in sorted(self.chosen, key=lambda one: (place[one], str(one))):
            visit(key, ())
        return [self._node(key) for key in ordered]

    def _is_gathered(self, node: Node) -> bool:
        return node.stage == "gather" and node.key in self.place

    def _try(self, skip: Key | None = None) -> _Tried:
        world = self.start.fork()
        tried = _Tried(world)
        for node in self._ordered():
            if node.key == skip:
                continue
            if node.act.leaves_all:
                # It changes nothing but the hour, and a battery may be empty by then.
                world.pass_time(node.draft.takes_s)
                continue
            if node.act.why_not(world) is not None:  # it will not be in the sheet, so it takes no time either
                tried.refused[node.key] = world.fork()
                continue
            making = self.made.get(node.key, ()) if skip is None else ()
            lacking = [one for one in making if one.promises and not one.holds(world)]
            perform(world, node.act, node.draft.takes_s)
            if any(one.holds(world) for one in lacking):
                tried.helped.add(node.key)
        return tried

    def _prove_again(self) -> None:
        """Prove what had failed, and what the steps took in hand."""
        touched = {promise for key in self.chosen for promise in self._node(key).promises}
        for node in self.graph:
            promise = node.act.proves
            if promise is not None and (promise in touched or not prove(self.start, promise).ok):
                self.chosen[node.key] = None

    def _drop_needless(self, tried: _Tried) -> _Tried:
        """Leave out whatever the promises hold without; how the rest goes.

        What made something true that nothing else did is needed.
        """
        dropped = True
        while dropped:
            dropped = False
            for key in [*self.chosen]:
                node = self._node(key)
                if node.care or node.act.leaves_all or key in tried.helped or self._opens_the_way(key):
                    continue
                if key in tried.refused:
                    self._drop(key)
                    dropped = True
                elif key in self.chosen and self._all_hold((without := self._try(skip=key)).world):
                    self._drop(key, *without.refused)  # what was refused did nothing for it
                    dropped = True
            if dropped:
                tried = self._try()
        return tried

    def _drop(self, *keys: Key) -> None:
        for key in keys:
            self.chosen.pop(key, None)

    def _opens_the_way(self, key: Key) -> bool:
        """Whether a step that is needed was refused without this one.

        Going off and coming on again may be idle together, so whatever only makes room for a start is tried without.
        """
        waiting = (self._node(one) for one in self.chosen if key in self._node(one).after)
        return key in self.extra and any(not (node.care or node.key.kind == "wake") for node in waiting)

    def _all_hold(self, world: World) -> bool:
        needed = (one.holds(world) for one in self.conditions if one.promises)
        return all(needed) and all(prove(world, promise).ok for promise in self.planned.plan.kept)

    def _care_for_what_is_new(self) -> None:
        for node in self.graph:
            device = node.draft.device
            if node.care and node.act.leaves_all and device is not None and device not in self.start.out:
                self.chosen[node.key] = None
