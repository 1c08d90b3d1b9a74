"""`python -m isotact`."""

import sys

from isotact.cli import main

sys.exit(main())
