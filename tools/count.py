"""What can be counted of the house: lines and the tests' share, rooms and files, the longest, names, prose, ladders."""

import ast
import subprocess
from collections.abc import Iterator
from pathlib import Path

ENDINGS = {".py", ".ts", ".tsx", ".css"}
SOURCE = Path("src/isotact")
CORE = SOURCE / "core"
ASKED = {"kind", "connector", "source", "joins_by"}
Function = ast.FunctionDef | ast.AsyncFunctionDef


def is_test(name: str) -> bool:
    """Tests and benchmarks count as tests."""
    return name.startswith(("tests/", "bench/")) or ".test." in name


def rows_of(file: Path) -> list[str]:
    """The lines of a file that are not blank."""
    return [row.strip() for row in file.read_text(encoding="utf-8").splitlines() if row.strip()]


def asks_for_a_kind(node: ast.AST) -> bool:
    """A match, an isinstance, or a comparison of something's kind: a rung of a ladder."""
    if isinstance(node, ast.Match):
        return True
    if isinstance(node, ast.Call):
        return getattr(node.func, "id", "") == "isinstance"
    return isinstance(node, ast.Compare) and any(
        getattr(side, "attr", "") in ASKED for side in (node.left, *node.comparators)
    )


def docstring_lines(tree: ast.Module) -> int:
    """The lines of all docstrings, those below an assignment too."""
    strings = (
        node.value
        for node in ast.walk(tree)
        if isinstance(node, ast.Expr) and isinstance(node.value, ast.Constant) and isinstance(node.value.value, str)
    )
    return sum(
        len([row for row in one.value.splitlines() if row.strip()]) for one in strings if isinstance(one.value, str)
    )


def functions(tree: ast.Module) -> Iterator[Function]:
    """Every function and method."""
    return (node for node in ast.walk(tree) if isinstance(node, Function))


def say_shares() -> None:
    """Lines of code and of tests."""
    listed = subprocess.run(["git", "ls-files"], capture_output=True, text=True, check=True).stdout.split()
    counts = {True: 0, False: 0}
    for name in listed:
        file = Path(name)
        if file.suffix in ENDINGS and "generated" not in name and file.is_file():
            counts[is_test(name)] += len(rows_of(file))
    share = 100 * counts[True] / sum(counts.values())
    print(f"code {counts[False]}, tests {counts[True]}, tests' share {share:.1f} % (wanted: 25 to 33)")


def say_rooms() -> None:
    """Rooms, files, the longest file and function, and names that are gerunds."""
    files = sorted(SOURCE.rglob("*.py"))
    named = [file for file in files if file.stem != "__init__"]
    longest = max(files, key=lambda file: len(rows_of(file)))
    length, where = max(
        ((node.end_lineno or node.lineno) - node.lineno + 1, f"{file.relative_to(SOURCE)} {node.name}")
        for file in files
        for node in functions(ast.parse(file.read_text(encoding="utf-8")))
    )
    gerunds = [file.stem for file in named if file.stem.endswith("ing")]
    print(f"rooms {len({file.parent for file in files})}, files {len(named)}")
    print(
        f"longest file {longest.relative_to(SOURCE)}, {len(rows_of(longest))} lines; longest function {where}, {length}"
    )
    print(f"gerunds {len(gerunds)} of {len(named)} modules (wanted: under 15): {', '.join(gerunds)}")


def say_prose() -> None:
    """Ladders, comments and docstrings of the core."""
    ladders = comments = docs = lines = 0
    for file in CORE.rglob("*.py"):
        rows, tree = rows_of(file), ast.parse(file.read_text(encoding="utf-8"))
        lines += len(rows)
        comments += sum(row.startswith("#") for row in rows)
        docs += docstring_lines(tree)
        if file.relative_to(CORE).parts[0] not in ("model", "trades"):
            ladders += sum(asks_for_a_kind(node) for node in ast.walk(tree))
    print(f"core: {ladders} places ask what kind a thing is, outside model and trades (wanted: under 60)")
    print(f"core: {lines} lines, {100 * comments / lines:.1f} % comments, {100 * docs / lines:.1f} % docstrings")


say_shares()
say_rooms()
say_prose()
