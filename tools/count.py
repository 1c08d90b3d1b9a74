"""Lines of code and of tests, without blank lines and generated files, and the tests' share; comments; ladders."""

import ast
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

CORE = Path("src/isotact/core")
ASKED = {"kind", "connector", "source", "joins_by"}


def asks_for_a_kind(node: ast.AST) -> bool:
    """A match, an isinstance, or a comparison of something's kind: a rung of a ladder."""
    if isinstance(node, ast.Match):
        return True
    if isinstance(node, ast.Call):
        return getattr(node.func, "id", "") == "isinstance"
    return isinstance(node, ast.Compare) and any(
        getattr(side, "attr", "") in ASKED for side in (node.left, *node.comparators)
    )


ladders = comments = lines = 0
for file in CORE.rglob("*.py"):
    text = file.read_text(encoding="utf-8")
    rows = [row.strip() for row in text.splitlines() if row.strip()]
    lines += len(rows)
    comments += sum(row.startswith("#") for row in rows)
    if file.relative_to(CORE).parts[0] not in ("model", "trades"):
        ladders += sum(asks_for_a_kind(node) for node in ast.walk(ast.parse(text)))
print(f"core: {ladders} places ask what kind a thing is, outside model and trades (wanted: under 60)")
print(f"core: {lines} lines, {100 * comments / lines:.1f} % comments")
