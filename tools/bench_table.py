"""Print the benchmark results as the table that stands in docs/benchmarks.md."""

import json
import sys
from pathlib import Path

results = json.loads(Path(sys.argv[1]).read_text(encoding="utf-8"))
print("| what | median | worst | target |")
print("|---|---|---|---|")
for one in results["benchmarks"]:
    info, stats = one["extra_info"], one["stats"]
    target = f"{info['target_ms']:g} ms" if info.get("target_ms") else "none set"
    print(f"| {info['what']} | {1000 * stats['median']:.1f} ms | {1000 * stats['max']:.1f} ms | {target} |")
cpu = results["machine_info"]["cpu"]
print(f"\nPython {results['machine_info']['python_version']}, {cpu['count']} cores.")
