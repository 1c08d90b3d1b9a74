"""FastAPI: thin routers that parse, call core or store, and answer."""

from isotact.api.application import application

__all__ = ["application"]
