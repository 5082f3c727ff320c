"""Figures on paper, in the kitchen's way of writing: as the screens write them."""

from __future__ import annotations

from collections.abc import Callable
from datetime import date
from decimal import Decimal

from potrel.core.kitchen.kinds import plain
from potrel.core.kitchen.kitchen import Kitchen
from potrel.core.numbers.rounding import half_up

# ISO 4217: the currencies without a minor unit, and those with three places.
_PLACES = {
    **dict.fromkeys(("BIF", "CLP", "DJF", "GNF", "ISK", "JPY", "KMF", "KRW", "PYG", "RWF", "UGX", "VND", "VUV", "XAF", "XOF",
                     "XPF"), 0),
    **dict.fromkeys(("BHD", "IQD", "JOD", "KWD", "LYD", "OMR", "TND"), 3),
}  # fmt: skip
_MONTHS = ("Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec")
NOT_KNOWN = "—"
_POUND, _OUNCE = Decimal("453.59237"), Decimal("28.349523125")


class Words:
    """Writes figures for one kitchen."""

    def __init__(self, kitchen: Kitchen) -> None:
        self.settings = kitchen.settings
        self.places = _PLACES.get(kitchen.currency, 2)

    def _sign(self, text: str) -> str:
        return text.replace(".", ",") if self.settings.decimal_sign == "comma" else text

    def money(self, value: Decimal | None) -> str:
        """Money to the currency's minor unit, half up."""
        return NOT_KNOWN if value is None else self._sign(f"{half_up(value, self.places):f}").replace("-", "−")

    def percent(self, value: Decimal | None, places: int = 1) -> str:
        """A share in percent."""
        return NOT_KNOWN if value is None else self._sign(f"{half_up(value * 100, places):f}") + "%"

    def mass(self, grams: Decimal | None) -> str:
        """A mass as a cook reads it."""
        if grams is None:
            return NOT_KNOWN
        if self.settings.shown_units == "us":
            small = abs(grams) < _POUND
            return self._sign(f"{half_up(grams / (_OUNCE if small else _POUND), 1 if small else 2):f}") + (
                " oz" if small else " lb"
            )
        if abs(grams) < 10:
            return self._sign(plain(half_up(grams, 1))) + " g"
        return f"{half_up(grams, 0):f} g" if abs(grams) < 1000 else self._sign(f"{half_up(grams / 1000, 2):f}") + " kg"

    def number(self, value: Decimal | None, places: int = 1) -> str:
        """A plain number without needless zeros."""
        return NOT_KNOWN if value is None else self._sign(plain(half_up(value, places)))

    def day(self, on: date) -> str:
        """A day, with its year."""
        month = _MONTHS[on.month - 1]
        styles: dict[str, Callable[[], str]] = {
            "year_first": on.isoformat,
            "month_first": lambda: f"{month} {on.day}, {on.year}",
            "day_first": lambda: f"{on.day} {month} {on.year}",
        }
        return styles[self.settings.date_style]()
