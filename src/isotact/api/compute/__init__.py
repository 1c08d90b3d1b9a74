"""Where questions about rigs are answered: in a few processes, followed and stopped by name, with a cache of plans."""
