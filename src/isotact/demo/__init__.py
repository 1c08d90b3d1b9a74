"""The demo scenario: rigs and the kit of the made-up drama *Night ferry*. Data only."""

from pathlib import Path

FOLDER = Path(__file__).parent


def demo_files() -> list[Path]:
    """The rig documents of the demo, by name."""
    return sorted(file for file in FOLDER.glob("*.yaml") if not file.name.endswith(".kit.yaml"))


def demo_kit() -> Path:
    """The kit document of the demo."""
    return FOLDER / "ferry-van.kit.yaml"
