"""Lines: so much of an item, of another recipe, or of what is left over elsewhere."""

from __future__ import annotations

from typing import Literal

from potrel.core.errors import BadDocument
from potrel.core.frozen import dataclass
from potrel.core.kitchen.checks import refuse_unless_one
from potrel.core.kitchen.items import Basis, LossTo
from potrel.core.kitchen.keyed import Keyed
from potrel.core.kitchen.kinds import ONE, AnyQuantity, Id, Money, Name, PositiveShare, Yield
from potrel.core.sentences import say

# How dark flour is fried in fat.
Roux = Literal["white", "blond", "brown", "dark"]
# Liquid that is poured by eye: until the solids are covered, or until it is thin enough.
ByEye = Literal["cover", "thin"]


def listed(preparation: str | tuple[str, ...] | None) -> tuple[str, ...]:
    """The ids of some preparations, in the order in which they are done."""
    return (preparation,) if isinstance(preparation, str) else preparation or ()


@dataclass(frozen=True, slots=True)
class Line(Keyed):
    """So much of an item or of another recipe, on the AP basis (as bought) or EP (as it goes in).

    `cook_yield` is what it weighs after the stage's cooking, before what the item says of the method; `loss_to` says where
    the difference goes ("air" or "pot"), where that is not as the method's default says.
    With `byproduct`, it is not the thing itself but what is left of it elsewhere: what falls off an item at its
    preparation, or what is taken out of a recipe, by its name, at what it is worth.
    `note` is what is said beside that no figure rests on: a cut without a yield here, "about 400 g".
    Beside the pot, `taken_by` is the share of the guests that take it, and `surcharge` what one pays for it on the card [money]
    where it is an add-on. In the pot, `by_eye` says that its quantity is liquid that
    is poured until the solids are covered ("cover"), or until it is thin enough ("thin"). Flour that is fried as a `roux`
    thickens the less the darker that is.
    """

    quantity: AnyQuantity
    item: Id | None = None
    recipe: Id | None = None
    id: Id | None = None
    basis: Basis = "AP"
    preparation: Id | tuple[Id, ...] | None = None
    cook_yield: Yield | None = None
    byproduct: Name | None = None
    loss_to: LossTo | None = None
    note: Name | None = None
    taken_by: PositiveShare = ONE
    by_eye: ByEye | None = None
    surcharge: Money | None = None
    roux: Roux | None = None

    def __post_init__(self) -> None:
        refuse_unless_one("a line", self.item, self.recipe)
        if self.recipe is not None and self.preparation is not None:
            message = say("prepared_recipe", "a recipe used as a line has no preparation: write a stage for it")
            raise BadDocument("preparation", message)
        if isinstance(self.preparation, tuple) and len(self.preparation) < 2:
            # One way to write one preparation, so that equal lines compare equal.
            object.__setattr__(self, "preparation", self.preparation[0] if self.preparation else None)
        if self.byproduct is not None and self.item is not None and self.preparation is None:
            english = '"{byproduct}" falls off at a preparation: name that too'
            raise BadDocument("preparation", say("byproduct_of_what", english, byproduct=self.byproduct))

    @property
    def uses(self) -> str:
        """The id of the item or recipe."""
        return self.item or self.recipe or ""

    @property
    def preparations(self) -> tuple[str, ...]:
        """The ids of the preparations, in the order in which they are done."""
        return listed(self.preparation)
