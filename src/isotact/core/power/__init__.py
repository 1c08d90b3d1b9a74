"""Small calculators of power: numbers and names in, numbers out. No devices, no documents, no worlds."""

from isotact.core.power.supply import Lead, Rank, Supply, hours, supply

__all__ = ["Lead", "Rank", "Supply", "hours", "supply"]
