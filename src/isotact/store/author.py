"""Who is at work: the name that what is written now goes into the log under."""

from contextvars import ContextVar

person: ContextVar[str] = ContextVar("person", default="")
"""Empty where nobody said who they are."""
