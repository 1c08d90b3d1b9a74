"""The demo scenario: rig documents of the made-up drama *Night ferry*. Data only."""

from pathlib import Path

FOLDER = Path(__file__).parent


def demo_files() -> list[Path]:
    """The rig documents of the demo, by name."""
    return sorted(FOLDER.glob("*.yaml"))
