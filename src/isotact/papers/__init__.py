"""Answers as documents for other programs: calendars and tables in open formats.

What is said is made up in `core`; here it is only set in the other format.
"""

from isotact.papers.rota_calendar import rota_calendar
from isotact.papers.rota_table import rota_table

__all__ = ["rota_calendar", "rota_table"]
