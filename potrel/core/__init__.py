"""The job: pure functions on frozen dataclasses, importing nothing of ours outside itself.

Its rooms, each importing only those before it:

- `numbers`: arithmetic, units, rounding, formulas.
- `kitchen`: the kitchen document (items, recipes, servings, settings, supply, tests at the bench) and what must hold of it.
- `buy`: what an offer costs by weight, suppliers' packs and lists, odd prices, seasons, what was paid.
- `trim`: by-products, own tests, test sheets, what is known of ingredients.
- `pot`: the day's view, inputs by name, the mass balance, needs, typed lines.
- `cost`: costed recipes and their one cache, portions, pricing, drift, effects, confidence.
- `rooms`: what each room shows.
- `tell`: figures with their workings, the cost sheet, explanations, practice.

Beside them, for all: `errors`, `sentences` (what is said to a person, with its code) and `tables` (facts that ship with it).
"""
