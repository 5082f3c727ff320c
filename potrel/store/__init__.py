"""The kitchen in PostgreSQL: plain SQL in, core dataclasses out. One module per aggregate."""
