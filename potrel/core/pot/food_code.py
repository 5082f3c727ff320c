"""The limits of temperature of the food code that a kitchen goes by, as they stand in its cautions: aids, never clearance.

UK Food Standards Agency, guidance for caterers; US FDA Food Code 2022 (3-401.11, 3-403.11, 3-501.16); both from memory.
"""

from __future__ import annotations

from functools import cache

from potrel.core.kitchen.settings import FoodCode, Settings
from potrel.core.tables import table

_CODES: tuple[FoodCode, ...] = ("fsa", "fda")


@cache
def _limits() -> dict[str, dict[str, str]]:
    return {row["limit"]: row for row in table("food_codes.csv")}


def filled(text: str, settings: Settings) -> str:
    """A text whose "{hot}", "{reheat}" and the like are what the kitchen's code says, in the degrees that the kitchen reads.

    Where no code was chosen it says what each of them does, for neither is a guess to be made.

    >>> filled("hot at {hot}", Settings(food_code="fda", shown_units="us"))
    'hot at 135 F'
    >>> filled("heat to {reheat}", Settings())
    'heat to 70 C for 2 minutes (US 74 C)'
    """
    if "{" not in text:
        return text
    return text.format(**{limit: _said(row, settings) for limit, row in _limits().items()})


def _said(row: dict[str, str], settings: Settings) -> str:
    if settings.food_code is not None:
        return _by(settings.food_code, row, settings)
    british, american = (_by(code, row, settings) for code in _CODES)
    return british if british == american else f"{british} (US {american})"


def _by(code: FoodCode, row: dict[str, str], settings: Settings) -> str:
    # Both are as the code prints them: 155 F is told as 68 C, which is 154 F.
    told = f"{row[f'{code}_f']} F" if settings.shown_units == "us" else f"{row[f'{code}_c']} C"
    minutes = row[f"{code}_minutes"]
    return told + (f" for {minutes} minutes" if minutes else "")
