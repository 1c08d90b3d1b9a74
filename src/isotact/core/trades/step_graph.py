"""The steps of a sheet before they are in order: what each makes true, and what must come before it."""

from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass, field

from isotact.core.model.keys import Key
from isotact.core.model.words import JobStage
from isotact.core.trades.base import Act, Condition, Draft


@dataclass
class Node:
    """One step, and its place among the others. `makes` are conditions; `after` may name steps that no sheet has.

    Tables from key to nothing serve as sets that keep their order, so that the same rig gives the same sheet. `visit`
    orders a visit to a menu: in (0), what is done there (1), out (2).
    """

    draft: Draft
    stage: JobStage
    makes: dict[Key, None] = field(default_factory=dict)
    after: dict[Key, None] = field(default_factory=dict)
    promises: dict[str, None] = field(default_factory=dict)
    cautions: dict[str, None] = field(default_factory=dict)
    care: bool = False
    visit: int = 1

    @property
    def key(self) -> Key:
        return self.draft.key

    @property
    def act(self) -> Act:
        return self.draft.act


class StepGraph:
    """Steps by their keys. What several conditions ask of one step is put together in one node."""

    def __init__(self) -> None:
        self._nodes: dict[Key, Node] = {}
        self._wishes: list[tuple[Key, Key]] = []
        self._resting: dict[Key, list[Key]] = {}
        """What may be spoilt -> the steps that make what rests on it."""

    def add(self, draft: Draft, promises: Iterable[str] = ()) -> Node:
        """Add a step, or add to the one of that key: it is care only as long as everybody says so."""
        node = self._nodes.get(draft.key)
        if node is None:
            node = Node(draft, draft.stage, care=draft.care)
            self._nodes[draft.key] = node
        # Good manners to one, needed by another: then it is needed.
        node.care = node.care and draft.care
        node.promises |= dict.fromkeys((*draft.promises, *promises))
        node.cautions |= dict.fromkeys(draft.cautions)
        return node

    def get(self, key: Key) -> Node | None:
        return self._nodes.get(key)

    def __iter__(self) -> Iterator[Node]:
        return iter(list(self._nodes.values()))

    def __len__(self) -> int:
        return len(self._nodes)

    def order(self, earlier: Key, later: Key) -> None:
        """`earlier` comes before `later`, where the sheet has both."""
        if earlier in self._nodes and later in self._nodes and earlier != later:
            self._nodes[later].after[earlier] = None

    def wish(self, earlier: Key, later: Key) -> None:
        """`earlier` had better come before `later`: kept once all is tied, where nothing else says otherwise."""
        self._wishes.append((earlier, later))

    def grant_wishes(self) -> None:
        """Order what was wished for, one after the other, unless the two would then wait for each other.

        Each wish is weighed against all that stands by then, so that the steps never form a cycle: of two wishes that
        contradict each other the one that was uttered first is kept.
        """
        for earlier, later in self._wishes:
            if earlier in self._nodes and later in self._nodes and not self._waits(earlier, later):
                self.order(earlier, later)
        self._wishes.clear()

    def _waits(self, key: Key, goal: Key) -> bool:
        """Whether a step waits for `goal`, straight or by others."""
        ahead, seen = [key], {key}
        while ahead:
            here = ahead.pop()
            if here == goal:
                return True
            new = [one for one in self._nodes[here].after if one in self._nodes and one not in seen]
            seen.update(new)
            ahead += new
        return False

    def order_all(self, earlier: Iterable[Key], later: Node) -> None:
        """Every one of `earlier`, all of which the sheet has, comes before `later`."""
        later.after |= dict.fromkeys(earlier)
        # Whoever asks for all of a kind may be of it: nothing waits for itself.
        later.after.pop(later.key, None)

    def doing(self, kind: type[Act] | tuple[type[Act], ...], device: str | None = None) -> list[Node]:
        """The steps whose act is of that kind, or of one of those, perhaps at one device only."""
        return [
            node
            for node in self._nodes.values()
            if (device is None or node.draft.device == device) and isinstance(node.draft.act, kind)
        ]

    def tie(self, conditions: Iterable[Condition], spoils: Callable[[Act], Iterable[Key]]) -> None:
        """Tie each condition to the step that makes it, that step to those of its needs, and both to what spoils it."""
        # Keys are worked out once, and looked up below for every need.
        known = [(condition, condition.key, condition.made_by()) for condition in conditions]
        makers = {key: maker for _, key, maker in known}
        for condition, made, maker in known:
            node = self._nodes.get(maker)
            if node is None:
                continue
            node.makes[made] = None
            node.promises |= dict.fromkeys(condition.promises)
            for need in condition.needs():
                if need in makers:
                    self.order(makers[need], node.key)
            for ground in condition.rests_on():
                self._resting.setdefault(ground, []).append(node.key)
        for node in self:
            self.before_what_it_spoils(node, spoils(node.act))

    def before_what_it_spoils(self, node: Node, spoilt: Iterable[Key]) -> None:
        """What is spoilt has to be made afterwards: a cable laid in the cage comes before balancing, not after it."""
        for ground in spoilt:
            for maker in self._resting.get(ground, ()):
                # A step that both spoils and makes, as a restart does, is in order by itself.
                if node.key not in self._nodes[maker].after and maker not in node.after:
                    self.order(node.key, maker)
