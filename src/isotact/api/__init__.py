"""FastAPI: thin routers that parse, call core or store, and answer."""
