"""`python -m isotact`."""

import sys

from isotact.cli.commands import main

sys.exit(main())
