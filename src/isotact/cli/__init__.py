"""The command line: one module for each group of commands, and the texts that they print."""

from isotact.cli.commands import main

__all__ = ["main"]
