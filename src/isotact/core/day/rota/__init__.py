"""Which pack is in which seat and which charger when: the terms, the search, and a rota carried out by the minute.

What a day and its rigs make of it belongs to `day`; nothing here knows of rigs.
"""

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
    "ChargerIs",
    "Charging",
    "Cost",
    "Dark",
    "Found",
    "PackIs",
    "Rotation",
    "Rules",
    "Seat",
    "Stint",
    "rota_of",
]
