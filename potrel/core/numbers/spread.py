"""What a number may turn out to be: its spread, as quantiles and as draws. The one module of spreads that uses NumPy.

Each spread gives a density over a grid; what is asked of it is read off the sum of that. Draws are its quantiles at evenly
spaced chances, shuffled: ten thousand of them miss no corner, and are the same for the same seed.
"""

from __future__ import annotations

from decimal import Decimal
from functools import cache, lru_cache
from hashlib import blake2b
from typing import TYPE_CHECKING, cast

from potrel.core.frozen import dataclass
from potrel.core.numbers.arithmetic import Number

if TYPE_CHECKING:
    import numpy
    from numpy.typing import NDArray

    Floats = NDArray[numpy.float64]

# Points of a grid: with them, quantiles are true to a ten-thousandth of the spread.
_POINTS = 2049
# How many standard deviations of a price's logarithm are looked at.
_TAIL = 6.0


@dataclass(frozen=True, slots=True)
class Pert:
    """Beta-PERT: from `low` over the `likely` value to `high`, where low < high.

    alpha = 1 + 4 (likely - low) / (high - low), beta = 1 + 4 (high - likely) / (high - low). Source: Malcolm, Roseboom, Clark,
    Fazar, Operations Research 7 (1959), with a beta distribution; from memory.
    """

    low: Decimal
    likely: Decimal
    high: Decimal

    def on_grid(self) -> tuple[Floats, Floats]:
        """Values, and how dense they lie there."""
        import numpy

        low, width = float(self.low), float(self.high - self.low)
        likely = float(self.likely - self.low) / width
        u = numpy.linspace(0, 1, _POINTS)
        return low + width * u, u ** (4 * likely) * (1 - u) ** (4 * (1 - likely))


@dataclass(frozen=True, slots=True)
class NextTest:
    """What the next test gives after `count` tests (two or more) of a mean and a sample's standard deviation `spread` > 0.

    Student's t with count - 1 degrees of freedom around the mean, times spread * sqrt(1 + 1 / count), cut to what is possible:
    from `least` to `most`. Source: the prediction interval of a normal sample, in any textbook of statistics.
    """

    mean: Decimal
    spread: Decimal
    count: int
    least: Decimal
    most: Decimal

    def on_grid(self) -> tuple[Floats, Floats]:
        """Values, and how dense they lie along the grid: close around the mean, wide in the tails."""
        import numpy

        mean, scale = float(self.mean), float(self.spread) * (1 + 1 / self.count) ** 0.5
        ends = ((float(end) - mean) / scale for end in (self.least, self.most))
        low, high = (float(numpy.arcsinh(end)) for end in ends)
        along = numpy.linspace(low, high, _POINTS)
        t, freedom = numpy.sinh(along), self.count - 1
        return mean + scale * t, (1 + t * t / freedom) ** (-(freedom + 1) / 2) * numpy.cosh(along)


@dataclass(frozen=True, slots=True)
class LogNormal:
    """What a price may become: lognormal around its `median` > 0, with the standard deviation `spread` > 0 of its logarithm."""

    median: Decimal
    spread: Decimal

    def on_grid(self) -> tuple[Floats, Floats]:
        """Values, and how dense they lie along the grid of their logarithms."""
        import numpy

        z = numpy.linspace(-_TAIL, _TAIL, _POINTS)
        return float(self.median) * numpy.exp(float(self.spread) * z), numpy.exp(-z * z / 2)


Spread = Pert | NextTest | LogNormal


@lru_cache(maxsize=4096)
def _summed(spread: Spread) -> tuple[Floats, Floats]:
    """The values of a spread's grid, and the chance that it stays below each."""
    import numpy

    values, density = spread.on_grid()
    sums = numpy.concatenate([[0.0], numpy.cumsum((density[1:] + density[:-1]) / 2)])
    return values, sums / sums[-1]


def quantile(spread: Spread, chance: float) -> float:
    """The value below which a spread stays with a chance [0 to 1]."""
    import numpy

    values, below = _summed(spread)
    return float(numpy.interp(chance, below, values))


def draws(spread: Spread, count: int, seed: int) -> Number:
    """So many draws of a spread, the same for the same seed."""
    import numpy

    values, below = _summed(spread)
    drawn = numpy.interp(_chances(count), below, values)
    numpy.random.Generator(numpy.random.SFC64(seed)).shuffle(drawn)
    return cast(Number, drawn)


@cache
def _chances(count: int) -> Floats:
    import numpy

    return (numpy.arange(count) + 0.5) / count


def seed_of(*parts: object) -> int:
    """A seed by what it is for: the same for the same parts, on every machine."""
    text = "\0".join(str(part) for part in parts)
    return int.from_bytes(blake2b(text.encode(), digest_size=8).digest())
