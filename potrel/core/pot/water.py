"""Water where it boils and steams: vapour pressure, boiling point, heat of evaporation; and the air that lies on it.

All of it in decimals, like the rest of the core, so that a figure is the same on every machine. Each of these depends on one
number that a kitchen has few of (its altitude, the heats it cooks at): it is reckoned once and kept.
"""

from __future__ import annotations

from decimal import Decimal
from functools import lru_cache

from potrel.core.errors import OutOfRange

# [K] at 0 C.
KELVIN = Decimal("273.15")
_KEPT = 1024
# What these formulas are for [C]: from ice to far above any kettle. IAPWS-IF97 holds from 0 to 373.946 C.
_COLDEST, _HOTTEST = Decimal(0), Decimal(200)
# [m] ISO 2533 gives its lowest layer up to 11,000 m; nobody cooks much below the sea.
_LOWEST, _HIGHEST = Decimal(-500), Decimal(11_000)

# IAPWS-IF97 (2012), region 4, table 34: the coefficients of the saturation line.
_N = tuple(map(Decimal, (
    "1167.0521452767", "-724213.16703206", "-17.073846940092", "12020.82470247", "-3232555.0322333", "14.91510861353",
    "-4823.2657361591", "405113.40542057", "-0.23855557567849", "650.17534844798",
)))  # fmt: skip

# IAPWS SR1-86(1992), equations 2 and 3: the densities of water and of its steam along that line, [kg/m3] at the critical point.
_CRITICAL_K, _CRITICAL_DENSITY = Decimal("647.096"), Decimal(322)
_LIQUID = (
    ("1.99274064", 1), ("1.09965342", 2), ("-0.510839303", 5), ("-1.75493479", 16), ("-45.5170352", 43), ("-674694.450", 110),
)  # fmt: skip
_STEAM = (
    ("-2.03150240", 2), ("-2.68302940", 4), ("-5.38626492", 8), ("-17.2991605", 18), ("-44.7586581", 37), ("-63.9201063", 71),
)  # fmt: skip


def _checked(celsius: Decimal) -> Decimal:
    if not _COLDEST <= celsius <= _HOTTEST:
        raise OutOfRange("a temperature of water", celsius, f"{_COLDEST} to {_HOTTEST} C")
    return celsius


@lru_cache(_KEPT)
def vapour_pressure(celsius: Decimal) -> Decimal:
    """The pressure [kPa] at which water of a temperature [0 to 200 C] boils; OutOfRange beyond.

    IAPWS-IF97, region 4, equation 30.
    """
    kelvin = _checked(celsius) + KELVIN
    x = kelvin + _N[8] / (kelvin - _N[9])
    a = x * x + _N[0] * x + _N[1]
    b = _N[2] * x * x + _N[3] * x + _N[4]
    c = _N[5] * x * x + _N[6] * x + _N[7]
    return (2 * c / ((b * b - 4 * a * c).sqrt() - b)) ** 4 * 1000


@lru_cache(_KEPT)
def boiling_point(kilopascal: Decimal) -> Decimal:
    """The temperature [C] at which water boils under a pressure [0.6113 to 1554 kPa]; OutOfRange beyond.

    IAPWS-IF97, region 4, equation 31: the same line the other way round.
    """
    if not vapour_pressure(_COLDEST) <= kilopascal <= vapour_pressure(_HOTTEST):
        raise OutOfRange("a pressure under which water boils", kilopascal, "0.6113 to 1554 kPa")
    y = (kilopascal / 1000) ** Decimal("0.25")
    e = y * y + _N[2] * y + _N[5]
    f = _N[0] * y * y + _N[3] * y + _N[6]
    g = _N[1] * y * y + _N[4] * y + _N[7]
    d = 2 * g / (-f - (f * f - 4 * e * g).sqrt())
    return (_N[9] + d - ((_N[9] + d) ** 2 - 4 * (_N[8] + _N[9] * d)).sqrt()) / 2 - KELVIN


@lru_cache(_KEPT)
def air_pressure(altitude_m: Decimal) -> Decimal:
    """The pressure of the air [kPa] at an altitude [-500 to 11,000 m above the sea]; OutOfRange beyond.

    ISO 2533, the standard atmosphere: 101.325 kPa and 15 C at the sea, 6.5 K less each kilometre.
    """
    if not _LOWEST <= altitude_m <= _HIGHEST:
        raise OutOfRange("an altitude", altitude_m, f"{_LOWEST} to {_HIGHEST} m")
    colder = 1 - Decimal("0.0065") * altitude_m / Decimal("288.15")
    return Decimal("101.325") * colder ** Decimal("5.25588")


@lru_cache(_KEPT)
def heat_of_evaporation(celsius: Decimal) -> Decimal:
    """The heat [kJ/kg] that it takes to make steam of water of a temperature [0 to 200 C]; OutOfRange beyond.

    By Clapeyron's equation, from the slope of the vapour pressure and the densities along it (IAPWS SR1-86(1992)).
    """
    kelvin = _checked(celsius) + KELVIN
    step = Decimal("0.01")
    low, high = max(_COLDEST, celsius - step), min(_HOTTEST, celsius + step)
    slope = (vapour_pressure(high) - vapour_pressure(low)) / (high - low)
    below = 1 - kelvin / _CRITICAL_K
    third, sixth = below ** (Decimal(1) / 3), below ** (Decimal(1) / 6)
    liquid = _CRITICAL_DENSITY * (1 + sum((Decimal(b) * third**power for b, power in _LIQUID), Decimal(0)))
    steam = _CRITICAL_DENSITY * sum((Decimal(c) * sixth**power for c, power in _STEAM), Decimal(0)).exp()
    return kelvin * slope * (1 / steam - 1 / liquid)
