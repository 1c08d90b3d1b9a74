"""What building a wheel asks for besides what pyproject.toml says: the front end, which a wheel without is no use."""

from pathlib import Path

from setuptools import setup
from setuptools.command.build_py import build_py

FRONT_END = Path(__file__).parent / "src/isotact/api/static/index.html"


class BuildWithFrontEnd(build_py):
    """Refuses to build where the front end was not built first. An editable install may do without it."""

    def run(self) -> None:
        """Build, or end with what to do."""
        if not self.editable_mode and not FRONT_END.is_file():
            raise SystemExit(f"Found no front end at {FRONT_END}; run 'make wheel', which builds it first.")
        super().run()


setup(cmdclass={"build_py": BuildWithFrontEnd})
