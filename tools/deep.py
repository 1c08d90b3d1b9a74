"""Draw new random rigs and hold every property of the tests against them. The same seed draws the same."""

import argparse
import os
import subprocess
import sys

DRAWN = 40
"""About so many rigs of a corpus does a property take in `make test`."""

options = argparse.ArgumentParser()
options.add_argument("--seed", type=int, required=True)
options.add_argument("--rigs", type=int, default=400)
asked = options.parse_args()
times = asked.rigs / DRAWN
print(f"seed {asked.seed}, {times:g} times as many rigs as in `make test`", flush=True)
sys.exit(
    subprocess.call(
        [sys.executable, "-m", "pytest", "-m", "drawn", "-n", "2", "--dist", "worksteal"],
        env={**os.environ, "ISOTACT_SEED": str(asked.seed), "ISOTACT_TIMES": str(times)},
    )
)
