"""The HTTP API: thin routes over the core and the store, Pydantic at the boundary, one table of problems."""
