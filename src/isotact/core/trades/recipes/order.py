"""A recipe is followed in one go, when all else stands and before anything is proven: it may upset what held."""

from itertools import pairwise

from isotact.core.model.named_keys import wake_key
from isotact.core.trades.care.acts import Prove
from isotact.core.trades.planned import Planned
from isotact.core.trades.recipes.acts import FollowStep, TryRecipe
from isotact.core.trades.recipes.conditions import recipe_key
from isotact.core.trades.step_graph import StepGraph


def arrange(planned: Planned, graph: StepGraph) -> None:
    """One recipe after the other, each in its own order, after what is built and before what is proven."""
    blocks = [
        [key for number in range(len(taken.recipe.steps) + 1) if graph.get(key := recipe_key(taken.promise, number))]
        for taken in planned.rig.rig.recipes
    ]
    line = [key for block in blocks for key in block]
    if not line:
        return
    doing = [node.key for node in graph if not isinstance(node.act, (Prove, FollowStep, TryRecipe)) and not node.care]
    first = next(node for node in graph if node.key == line[0])
    graph.order_all(doing, first)
    for taken in planned.rig.rig.recipes:
        for device in taken.devices:
            graph.order(wake_key(device), line[0])
    for earlier, later in pairwise(line):
        graph.order(earlier, later)
    for proof in graph.doing(Prove):
        graph.order(line[-1], proof.key)
