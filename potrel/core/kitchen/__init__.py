"""The kitchen document as frozen dataclasses, and what must hold of it."""
