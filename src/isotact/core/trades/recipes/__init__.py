"""Recipes: what somebody found to work, carried out as a block of steps; the bench does not know what comes of it."""

from isotact.core.trades.recipes.acts import FollowStep, LoseTheThread, TryRecipe
from isotact.core.trades.recipes.conditions import Followed
from isotact.core.trades.recipes.derive import derive
from isotact.core.trades.recipes.offers import offers
from isotact.core.trades.recipes.order import arrange
from isotact.core.trades.recipes.state import Recipes
from isotact.core.trades.trade import Trade

TRADE = Trade(
    name="recipes",
    state=(Recipes,),
    acts=(FollowStep, TryRecipe, LoseTheThread),
    conditions=(Followed,),
    derive=derive,
    arrange=arrange,
    offers=offers,
)
