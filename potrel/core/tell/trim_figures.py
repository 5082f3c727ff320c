"""The workings of a purchase at its preparations: what the usable part bears of its cost, and what falls off."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from decimal import Decimal

from potrel.core.frozen import dataclass
from potrel.core.kitchen.items import ByproductMethod
from potrel.core.kitchen.kinds import ONE
from potrel.core.numbers.arithmetic import Number, product, total
from potrel.core.numbers.formula import Many, formula
from potrel.core.tell.figures import Figure, Input, Place, in_kilos, reckoned
from potrel.core.trim.byproducts import SHARING, Credit, Step, Trimmed, falls_off, share_borne, worth


@formula("product of shares")
def share_through(shares: Many) -> Number:
    """The share of a purchase's cost that is left after some preparations."""
    return product(shares[1:], shares[0])


@formula("sum of by-products")
def all_credits(by__products: Many) -> Number:
    """What is credited in all."""
    return total(by__products)


@dataclass(frozen=True, slots=True)
class TrimFigures:
    """The figures of a purchase through its preparations: `share`, `share_N`, `credits`, `credit_N`, `fallen_N`.

    `ap` is what is bought [g], `yields` are those of the `steps`, `trim` is what they make of it; `place` gives the place of
    a figure by its name and its words.
    """

    place: Callable[[str, str], Place]
    ap: Input
    steps: Sequence[Step]
    yields: Sequence[Input]
    trim: Trimmed
    method: ByproductMethod

    def of(self, name: str) -> Figure | None:
        """A figure by its name; None for one that there is not."""
        if name == "share":
            return self.share()
        if name == "credits":
            return reckoned(
                all_credits, self.place("credits", "by-products in all"), "money", by__products=self.credit_inputs()
            )
        kind, _, number = name.rpartition("_")
        made = _NUMBERED.get(kind)
        return made(self, int(number)) if made is not None and number.isdecimal() else None

    def share_input(self) -> Input | None:
        """The share of the cost that the usable part bears, as an input of a formula; None where it bears all of it."""
        if not self.trim.shares_cost:
            return None
        how = "by mass * value" if self.method == "market_value" else "by mass"
        return Input(
            "share that it bears", self.trim.share, "share", f"{how}, with the by-products", self.place("share", "").figure
        )

    def credits_input(self, name: str, unit: str) -> Input | None:
        """The value of all by-products, as an input of a formula; None where there are none."""
        if not self.trim.credits:
            return None
        return Input(name, self.trim.credit, unit, "shares and values of the preparations", self.place("credits", "").figure)

    def credit_inputs(self) -> list[Input]:
        """The by-products that are credited, as the inputs of a formula."""
        return [
            Input(one.name, one.worth, "money", f"for {one.use}" if one.use else "no use noted",
                  self.place(f"credit_{number}", "").figure)
            for number, one in enumerate(self.trim.credits, 1)
        ]  # fmt: skip

    def share(self) -> Figure:
        """The share of the cost that the usable part bears, through all preparations."""
        shares = [
            Input(f"share, {step.preparation.name}", one.value, "share", "beside what falls off there", one.figure)
            for number, step in enumerate(self.steps, 1)
            if (one := self._share_at(number)) is not None
        ]
        return reckoned(share_through, self.place("share", "share of the cost that it bears"), "share", shares=shares)

    def _share_at(self, number: int) -> Figure | None:
        """The share that goes on at one preparation."""
        if not 1 <= number <= len(self.steps):
            return None
        step, by_value = self.steps[number - 1], self.method == "market_value"
        mass = self.ap.value
        if mass is not None:
            mass = product((one.yield_ for one in self.steps[: number - 1]), mass)
        others = [(part, share) for part, share in step.parts() if part.value_per_kg > 0 and self.method in SHARING]
        unit = "g * money/kg" if by_value else "g"

        def weight(share: Number, value: Decimal | None) -> Number | None:
            if not by_value:
                value = ONE
            return None if mass is None or value is None else mass * share * value

        main = weight(step.yield_, step.preparation.value_per_kg) if others else ONE
        words = "mass * value" if by_value else "mass"
        return reckoned(
            share_borne, self.place(f"share_{number}", f"share that goes on, {step.preparation.name}"), "share",
            weight_of_the_main_product=Input("the main product", main, unit, f"its {words}" if others else "all of it"),
            weights_of_by__products=[
                Input(part.name, weight(share, part.value_per_kg), unit, f"its {words}") for part, share in others
            ],
        )  # fmt: skip

    def _credit(self, number: int) -> Figure | None:
        one = self._numbered(number)
        if one is None:
            return None
        fallen = Input("kilos of it", one.mass, "g", "what falls off", self.place(f"fallen_{number}", "").figure)
        return reckoned(
            worth, self.place(f"credit_{number}", f"{one.name}, credited"), "money", kilos=in_kilos(fallen),
            value_of_a_kilo=Input("a kilo is worth", one.value_per_kg, "money/kg", "stated with the preparation"),
        )  # fmt: skip

    def _fallen(self, number: int) -> Figure | None:
        """The mass of what falls off and is credited: of paid disposal, the part that the usable part bears."""
        if self._numbered(number) is None:
            return None
        at, part, share = [(at, *one) for at, step in enumerate(self.steps) for one in step.parts()][number - 1]
        paid = [one for n in range(at + 1, len(self.steps) + 1) if part.value_per_kg < 0 and (one := self._share_at(n))]
        return reckoned(
            falls_off, self.place(f"fallen_{number}", f"{part.name}, falls off"), "g",
            AP=self.ap, yields_before=self.yields[:at],
            share_that_falls_off=Input("share that falls off", share, "share",
                                       f"stated with {self.steps[at].preparation.name}"),
            shares_borne=[Input("share of its disposal", one.value, "share", "as of the cost", one.figure) for one in paid],
        )  # fmt: skip

    def _numbered(self, number: int) -> Credit | None:
        return self.trim.credits[number - 1] if 1 <= number <= len(self.trim.credits) else None


_NUMBERED: dict[str, Callable[[TrimFigures, int], Figure | None]] = {
    "credit": TrimFigures._credit,
    "fallen": TrimFigures._fallen,
    "share": TrimFigures._share_at,
}
