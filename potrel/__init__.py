"""Potrel costs soups and stews, from what is bought to the price of a portion.

`core` is the job: pure functions on frozen dataclasses, importing nothing of ours outside itself.
`apart` does work in processes of their own, which take nothing of the server with them; it may import `core`.
`formats` turns core dataclasses into open formats and back; it may import `core`.
`store` keeps them in PostgreSQL; it may import `core` and `formats`.
`deliveries` tells whose lines of a supplier's list are which items; it may import `core`, `formats` and
`apart`.
`devices` reaches services outside, and holds their simulated stand-ins; it may import `core` and `formats`.
`demo` is the demo kitchen, a kitchen document; it may import `core`, `formats`, `deliveries` and `store`.
`api` serves all of it over HTTP; it may import all of these but `demo`.
`postgres`, `settings`, `cli` and `bench` are the commands around it. The front end is in `web/`, and reaches all this
over HTTP only.
"""
