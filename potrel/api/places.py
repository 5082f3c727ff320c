"""Where in a request something is wrong, in the words of the screens: "the price of serving 1", not a path of keys."""

from __future__ import annotations

import re

_STEP = re.compile(r"([^.\[\]()]+)|\[(\d+)\]")
# What a request is about as a whole is on the screen already.
_WHOLE = frozenset({"recipe", "item", "settings", "body", "draft", "test", "offer"})
_CALLED = {
    "yield": "yield", "weighs": "weight", "per_hour": "share that boils off an hour", "kg_per_hour": "kilos an hour",
    "attended_minutes": "attended minutes", "temperature_c": "temperature", "energy_kwh": "energy", "size": "size",
    "composition": "composition", "salt_g": "salt", "energy_kcal": "energy", "fat_g": "fat", "saturates_g": "saturates",
    "carbohydrate_g": "carbohydrate", "sugars_g": "sugars", "protein_g": "protein", "fibre_g": "fibre",
    "abv": "alcohol by volume", "surface_m2": "open surface", "diameter_cm": "diameter", "power_kw": "power",
    "heat_source": "source of heat", "count": "how many there are", "cleanup_minutes": "minutes of cleaning",
    "altitude_m": "altitude", "room_c": "temperature of the kitchen", "air_speed": "draught", "lid_factors": "lids",
    "salt_target": "salt of a finished soup",
    "price_horizon_days": "days for which prices may move", "power_share": "share of the flame", "start_c": "start temperature",
    "open_minutes": "minutes without the lid", "taken_by": "share of the guests that take it", "hold_c": "holding temperature",
    "hold_hours": "hours of holding", "thickening": "strength of thickening", "origin": "origin",
    "bone_share": "share that is bone", "salt_kept": "share of salt that stays",
    "ready_litres_per_kg": "litres that a kilo makes", "price_ending": "price ending",
    "target_food_cost": "target share of food cost", "seasoning_allowance": "seasoning allowance",
    "to": "amount it comes to", "depth_cm": "depth", "came_out": "amount that came out", "measured_yield": "measured batch",
    "written_yield": "batch as written", "portioning_seconds": "seconds of portioning",
    "residue": "share that sticks to the pot",
    "minutes_per_kg": "minutes a kilo", "value_per_kg": "value of a kilo", "cook_yield": "cooking yield", "rows": "rows",
    "old_price_days": "days after which a price is old", "overhead_rate_per_hour": "overhead an hour",
    "labour_rate_per_hour": "labour rate", "energy_price_per_kwh": "price of a kWh", "take_out": "take-outs", "on": "date",
    "until": "last day", "gtin": "GTIN",
}  # fmt: skip
_ONE_OF = {
    "stages": "stage", "lines": "line", "servings": "serving", "preparations": "preparation", "cooking": "way of cooking",
    "byproducts": "by-product", "take_out": "take-out", "garnish": "garnish", "accompaniments": "thing served with it",
    "packaging": "packaging", "measures": "measure", "answers": "answer", "goods": "row of what is asked", "items": "item",
    "vessels": "vessel", "consumables": "thing used up by a batch", "from": "share taken from an earlier stage",
    "parts": "part",
}  # fmt: skip


def place_in_words(path: str) -> str:
    """A path of keys as a person would say it; what is not known is told with its own words.

    >>> place_in_words("recipe.servings[0].price"), place_in_words("recipe.stages[1].lines[2].quantity")
    ('the price of serving 1', 'the quantity of line 3 of stage 2')
    >>> place_in_words("item.measures.each.weighs"), place_in_words("settings.tax_rate"), place_in_words("recipe")
    ('the weight of measure each', 'the tax rate', '')
    """
    steps = [name or int(number) for name, number in _STEP.findall(path)]
    while steps and steps[0] in _WHOLE:
        steps.pop(0)
    parts: list[str] = []
    place = 0
    while place < len(steps):
        step, following = steps[place], steps[place + 1] if place + 1 < len(steps) else None
        if step == "change" and following is not None:
            # What happens at a stage is said by its parts: "what stage 2 comes to".
            place += 1
        elif isinstance(step, str) and isinstance(following, int):
            parts.append(f"{_ONE_OF.get(step, step.rstrip('s').replace('_', ' '))} {following + 1}")
            place += 2
        elif step == "measures" and isinstance(following, str):
            parts.append(f"measure {following}")
            place += 2
        else:
            name = str(step)
            parts.append(f"the {_CALLED.get(name, name.replace('_', ' '))}")
            place += 1
    return " of ".join(reversed(parts))
