"""Which pack is in which seat and which charger when: the terms, the search, and a rota carried out by the minute.

What a day and its rigs make of it belongs to `day`; nothing here knows of rigs.
"""

from isotact.core.day.rota.parts import parts
from isotact.core.day.rota.simulation import CarriedOut, carried_out
from isotact.core.day.rota.so_far import Level, PutIn, SoFar, as_one_day, so_far, the_rest, with_health
from isotact.core.day.rota.solving import rota_of
from isotact.core.day.rota.terms import (
    ChargerIs,
    Charging,
    Cost,
    Dark,
    Found,
    PackIs,
    Rotation,
    Rules,
    Seat,
    Stint,
)

__all__ = [
    "CarriedOut",
    "ChargerIs",
    "Charging",
    "Cost",
    "Dark",
    "Found",
    "Level",
    "PackIs",
    "PutIn",
    "Rotation",
    "Rules",
    "Seat",
    "SoFar",
    "Stint",
    "as_one_day",
    "carried_out",
    "parts",
    "rota_of",
    "so_far",
    "the_rest",
    "with_health",
]
