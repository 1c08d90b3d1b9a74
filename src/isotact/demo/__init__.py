"""The demo scenario: rigs, kit and job of the made-up drama *Night ferry*. Data only."""

from pathlib import Path

FOLDER = Path(__file__).parent


def demo_files() -> list[Path]:
    """The rig documents of the demo, by name."""
    return sorted(file for file in FOLDER.glob("*.yaml") if not file.name.endswith((".kit.yaml", ".job.yaml")))


def demo_kit() -> Path:
    """The kit document of the demo."""
    return FOLDER / "ferry-van.kit.yaml"


def demo_job() -> Path:
    """The job document of the demo: a night of ten hours."""
    return FOLDER / "night-ferry.job.yaml"
