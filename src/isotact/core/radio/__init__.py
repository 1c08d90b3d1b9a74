"""What a radio path costs. No rig, no device: numbers in, decibels out."""

from isotact.core.radio.paths import free_space_loss_db, margin_db

__all__ = ["free_space_loss_db", "margin_db"]
