"""Isotact: will everything that was promised work, with which cable in which port, set how, woken in which order."""
