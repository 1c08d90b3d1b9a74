"""Lines of code and of tests, without blank lines and generated files, and the tests' share."""

import subprocess
from pathlib import Path

ENDINGS = {".py", ".ts", ".tsx", ".css"}


def is_test(name: str) -> bool:
    """Tests and benchmarks count as tests."""
    return name.startswith(("tests/", "bench/")) or ".test." in name


listed = subprocess.run(["git", "ls-files"], capture_output=True, text=True, check=True).stdout.split()
counts = {True: 0, False: 0}
for name in listed:
    file = Path(name)
    if file.suffix in ENDINGS and "generated" not in name and file.is_file():
        counts[is_test(name)] += sum(1 for line in file.read_text(encoding="utf-8").splitlines() if line.strip())
total = sum(counts.values())
print(f"code {counts[False]}, tests {counts[True]}, tests' share {100 * counts[True] / total:.1f} % (wanted: 25 to 33)")
