"""Every route by every role, with whatever is made up for it: never a fault of our own. `make contract`, ten minutes.

What each answer has to look like is held by the tests; here it is tried for longer, and by those who joined.
"""

import argparse
import re
import sys
import tempfile
import time
import traceback
from collections import Counter
from pathlib import Path
from typing import Any

import schemathesis
from hypothesis import HealthCheck, settings
from hypothesis import seed as seeded
from schemathesis.checks import load_all_checks, not_a_server_error
from schemathesis.generation.case import Case
from schemathesis.generation.feedback import FeedbackSources
from schemathesis.pytest._test_builder import build_operation_test

sys.path.insert(0, str(Path(__file__).parents[1]))

from tests.api.test_contract import ENDLESS, _with_pool
from tests.rigs import demo_rig

from isotact.api.application import application
from isotact.api.security.doorman import COOKIE
from isotact.api.security.sharing import Sharing
from isotact.store import RIG, Store
from isotact.store.sign_ins import ROLES

HOSTS = ("localhost", "127.0.0.1", "testserver")
ASKERS = ("nobody", *ROLES, "laptop")
EXAMPLES = 12
"""So many are made up for a route at a time; which, is told by the seed."""


def asked(folder: Path, asker: str, seed: int) -> tuple[Counter[int], list[str]]:
    """Every route asked by somebody; how often which status came, and what went wrong."""
    store = Store(folder / f"{asker}-{seed}.sqlite")
    store[RIG].create(demo_rig())
    sharing = None if asker == "laptop" else Sharing(8000, addresses=list)
    app = application(store, hosts=HOSTS, sharing=sharing)
    load_all_checks()
    schema = schemathesis.openapi.from_dict(_with_pool(app.openapi()))
    schema.app = app
    schema.config.phases.coverage.enabled = False
    headers = {"Origin": "http://testserver"}
    if asker in ROLES:
        headers["Cookie"] = f"{COOKIE}={store.sign_ins.begin('Bo', asker)[0]}"  # type: ignore[arg-type]
    found: Counter[int] = Counter()
    wrong: list[str] = []

    @seeded(seed)
    @settings(max_examples=EXAMPLES, deadline=None, database=None, suppress_health_check=list(HealthCheck))
    def holds(case: Case) -> None:
        answer: Any = case.call(headers=headers)
        found[answer.status_code] += 1
        case.validate_response(answer, checks=[not_a_server_error])

    for path, methods in app.openapi()["paths"].items():
        for method in methods:
            label = f"{method.upper()} {path}"
            if re.search(ENDLESS, path) or (asker != "laptop" and path == "/api/sign-in"):
                continue
            try:
                build_operation_test(
                    config=schema.config,
                    operation=schema.find_operation_by_label(label),  # type: ignore[arg-type]
                    test_func=holds,
                    given_kwargs={},
                    feedback=FeedbackSources(),
                )()
            except (Exception, BaseExceptionGroup) as error:  # whatever it is, it is told, and the next route is asked
                wrong.append(f"{asker}: {label}: {_told(error)}")
    app.state.work.close()
    return found, wrong


def _told(error: BaseException) -> str:
    """What went wrong, with the request that it went wrong with."""
    told = "".join(traceback.format_exception(error))
    return told[told.find("Reproduce with") :][:3000] if "Reproduce with" in told else told[-3000:]


def main() -> int:
    """Ask for so many minutes, each time something else."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--minutes", type=float, default=10)
    options = parser.parse_args()
    until, seed = time.monotonic() + 60 * options.minutes, 1
    found: dict[str, Counter[int]] = {asker: Counter() for asker in ASKERS}
    wrong: list[str] = []
    with tempfile.TemporaryDirectory() as folder:
        while time.monotonic() < until:
            for asker in ASKERS:
                statuses, more = asked(Path(folder), asker, seed)
                found[asker] += statuses
                wrong += more
            seed += 1
    for asker, statuses in found.items():
        print(f"{asker}: {', '.join(f'{count} × {status}' for status, count in sorted(statuses.items()))}")
    for one in wrong:
        print(f"WRONG {one}")
    print(f"{sum(map(sum, (one.values() for one in found.values())))} requests, {len(wrong)} wrong")
    return 1 if wrong else 0


if __name__ == "__main__":
    sys.exit(main())
