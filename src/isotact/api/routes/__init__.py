"""One module for each feature: it reads a request, asks core or store, and answers. Nothing is computed here.

A feature that is added is named once, in `FEATURES`.
"""

from fastapi import APIRouter

from isotact.api.routes import (
    balance,
    benches,
    catalogue,
    crew,
    events,
    examples,
    finder,
    jobs,
    kits,
    log,
    own_documents,
    photos,
    plans,
    power,
    proofs,
    questions,
    recipes,
    rigs,
    rota,
    searches,
    sign_ins,
    stand_ins,
    training,
    workshop,
)

FEATURES = (
    rigs,
    log,
    proofs,
    photos,
    crew,
    plans,
    power,
    rota,
    questions,
    finder,
    balance,
    benches,
    stand_ins,
    training,
    recipes,
    kits,
    jobs,
    searches,
    examples,
    workshop,
    events,
    sign_ins,
    catalogue,
    own_documents,
)
ROUTERS: tuple[APIRouter, ...] = tuple(router for feature in FEATURES for router in feature.ROUTERS)
"""Every router of every feature, in the order in which addresses are looked up."""
