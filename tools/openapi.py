"""Write the API's OpenAPI document to the file named on the command line."""

import json
import sys
import tempfile
from pathlib import Path

from isotact.api.application import application
from isotact.store import Store

target = Path(sys.argv[1])
target.parent.mkdir(parents=True, exist_ok=True)
with tempfile.TemporaryDirectory() as folder:
    document = application(Store(Path(folder) / "openapi.sqlite")).openapi()
target.write_text(json.dumps(document, indent=2) + "\n", encoding="utf-8")
