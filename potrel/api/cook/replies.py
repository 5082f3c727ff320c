"""What the routes of the Cook room take and give."""

from __future__ import annotations

from dataclasses import dataclass

from potrel.core.cost.confidence import Confidence
from potrel.core.cost.drift import Drift
from potrel.core.cost.effects import Effect
from potrel.core.cost.uncertainty import Uncertainty
from potrel.core.kitchen.keyed import Keyed
from potrel.core.kitchen.kinds import At, Computed, Count, Flag, Id, Name, Note
from potrel.core.kitchen.recipes import Recipe
from potrel.core.pot.cautions import Caution
from potrel.core.rooms.allergens import AllergenRow
from potrel.core.rooms.splash import Splash
from potrel.core.rooms.what_if import Move
from potrel.core.tell.sheet_parts import CostSheet


@dataclass(frozen=True, slots=True)
class PreparationName:
    """A preparation as a choice."""

    id: Id
    name: Name


@dataclass(frozen=True, slots=True)
class Named:
    """An item or recipe as the picker and the pot sheet need it. `ready_units` are the units that weigh it ready to use.

    One that is `archived` is called by its name where it stands, and offered nowhere.
    """

    id: Id
    name: Name
    is_recipe: bool
    kind: Name
    units: list[str]
    preparations: list[PreparationName]
    ready_units: list[str]
    archived: Flag


@dataclass(frozen=True, slots=True)
class PortionSummary:
    """What the first serving of a recipe costs [money, net] and sells for."""

    serving: Id
    name: Name
    size: str
    food_cost: Computed | None
    price: Computed | None
    food_cost_share: Computed | None
    target_share: Computed | None


@dataclass(frozen=True, slots=True)
class RecipeSummary:
    """A recipe in the list of the Cook room; a base has no `portion`. `changed_at` and `changed_by` tell of its last save."""

    id: Id
    name: Name
    servings: int
    used_by: list[str]
    complete: bool
    cost_per_l: Computed | None
    batch_ml: Computed
    portion: PortionSummary | None
    sure: Confidence
    changed_at: At | None
    changed_by: str | None


@dataclass(frozen=True, slots=True)
class Kin:
    """A variant of a pot, or what it is a variant of."""

    id: Id
    name: Name


@dataclass(frozen=True, slots=True)
class RecipeReply:
    """A saved recipe, its revision, its cost sheet, who uses it, and its variants: what it is one of first. `not_held` is what
    of it JSON-LD has no place for.
    """

    recipe: Recipe
    revision: int
    sheet: CostSheet
    sure: Confidence
    drifts: dict[str, Drift]
    used_by: list[str]
    allergens: AllergenRow
    cautions: list[Caution]
    splashes: list[Splash]
    variants: list[Kin]
    not_held: list[str]


@dataclass(frozen=True, slots=True)
class Draft(Keyed):
    """A recipe that is not saved."""

    recipe: Recipe


@dataclass(frozen=True, slots=True)
class AskExchange(Keyed):
    """What a line of a draft could be exchanged for: its stage, and its id on the cost sheet."""

    recipe: Recipe
    stage: Id
    line: Id


@dataclass(frozen=True, slots=True)
class AskWhatIf(Keyed):
    """Numbers that are moved on a draft, the last of them last."""

    recipe: Recipe
    moves: tuple[Move, ...] = ()


@dataclass(frozen=True, slots=True)
class ChosenPot(Keyed):
    """One of the pots that are compared: a recipe as it is, or an earlier revision of it."""

    recipe: Id
    revision: Count | None = None


@dataclass(frozen=True, slots=True)
class AskSideBySide(Keyed):
    """Two to four recipes or revisions."""

    of: tuple[ChosenPot, ...]


@dataclass(frozen=True, slots=True)
class AskFlow(Keyed):
    """The flow of a draft to one of its servings, the first where none is named."""

    recipe: Recipe
    serving: Id | None = None


@dataclass(frozen=True, slots=True)
class HowSure:
    """How far the figures of each serving of a draft may be off; none of one that is incomplete."""

    servings: list[Uncertainty]


@dataclass(frozen=True, slots=True)
class PreviewReply:
    """The cost sheet of a draft; `above` is what saving it would do to the recipes that use it."""

    sheet: CostSheet
    sure: Confidence
    drifts: dict[str, Drift]
    above: list[Effect]
    allergens: AllergenRow
    cautions: list[Caution]
    splashes: list[Splash]


@dataclass(frozen=True, slots=True)
class SaveRecipe(Keyed):
    """A recipe to be saved over the revision it started from."""

    recipe: Recipe
    based_on: int


@dataclass(frozen=True, slots=True)
class NewRecipe(Keyed):
    """A recipe to be added."""

    recipe: Recipe


@dataclass(frozen=True, slots=True)
class Saved:
    """That something was saved: a recipe's new revision."""

    revision: int


@dataclass(frozen=True, slots=True)
class RevisionReply:
    """One save of a recipe; `recipe` is absent where it was taken off."""

    revision: int
    saved_at: At
    saved_by: str
    recipe: Recipe | None


@dataclass(frozen=True, slots=True)
class TakenOff:
    """A recipe that was taken off, as it was: it can be put on again."""

    recipe: Recipe
    at: At
    by: str


@dataclass(frozen=True, slots=True)
class AskWorking(Keyed):
    """A figure by its path, of a saved recipe or of a draft; of none where it is an item's, a test's, a yield's or a form's."""

    figure: str
    recipe: Id | None = None
    draft: Recipe | None = None


@dataclass(frozen=True, slots=True)
class AskLine(Keyed):
    """A line as it was typed, and what its name means where somebody has answered that: an item or a recipe.

    For liquid that is poured by eye ("water to cover"), the `draft` and the `stage` that it is typed into.
    """

    text: Note
    item: Id | None = None
    recipe: Id | None = None
    draft: Recipe | None = None
    stage: Id | None = None
