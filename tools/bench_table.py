"""Print the benchmark results as the table that stands in docs/benchmarks.md."""

import json
import sys
from pathlib import Path
from statistics import median

results = json.loads(Path(sys.argv[1]).read_text(encoding="utf-8"))
print("| what | median | worst | target |")
print("|---|---|---|---|")
for one in results["benchmarks"]:
    info, stats = one["extra_info"], one["stats"]
    target = f"{info['target_ms']:g} ms" if info.get("target_ms") else "none set"
    print(f"| {info['what']} | {1000 * stats['median']:.1f} ms | {1000 * stats['max']:.1f} ms | {target} |")
for name in dict.fromkeys(one["extra_info"].get("of") for one in results["benchmarks"]):
    those = [1000 * one["stats"]["median"] for one in results["benchmarks"] if one["extra_info"].get("of") == name]
    if name:
        print(f"| {name}: median of {len(those)} | {median(those):.1f} ms | {max(those):.1f} ms | 250 ms |")
cpu = results["machine_info"]["cpu"]
print(f"\nPython {results['machine_info']['python_version']}, {cpu['count']} cores.")
