"""Routes of forms side by side: compared at once, and kept to be compared again."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

from fastapi import APIRouter, Body, Query
from starlette.responses import Response

from potrel.api.answers import reply
from potrel.api.dependencies import Actor, InKitchen
from potrel.api.problems import described
from potrel.core.kitchen.keyed import Keyed
from potrel.core.kitchen.kitchen import Comparison, ReadyUnit
from potrel.core.rooms.form_comparison import KeptComparison, UsableComparison, compare_forms, kept_comparisons
from potrel.doing import comparisons as doing

router = APIRouter(prefix="/api", tags=["comparisons"])


@dataclass(frozen=True, slots=True)
class KeepComparison(Keyed):
    """A comparison to be kept; `seen` is how it was kept when it was opened, none where it is new."""

    comparison: Comparison
    seen: Comparison | None = None


@router.get("/usable", response_model=UsableComparison, responses=described(422))
def usable(kitchens: InKitchen, form: Annotated[list[str], Query(max_length=12)], unit: ReadyUnit = "kg") -> Response:
    """Forms of one need side by side: what a usable kilo or a ready litre costs in each."""
    return reply(UsableComparison, compare_forms(kitchens.costing(), form, unit))


@router.get("/comparisons", response_model=list[KeptComparison], responses=described())
def comparisons(kitchens: InKitchen) -> Response:
    """The comparisons that are kept, each as it stands today."""
    return reply(list[KeptComparison], kept_comparisons(kitchens.costing()))


@router.put("/comparisons", status_code=204, responses=described(400, 409, 422))
def keep_comparison(keep: KeepComparison, kitchens: InKitchen, actor: Actor) -> Response:
    """Keep a comparison, or change one; refused where somebody else changed it since it was opened."""
    doing.keep_comparison(kitchens, keep.comparison, keep.seen, actor)
    return Response(status_code=204)


@router.delete("/comparisons/{comparison_id}", status_code=204, responses=described(400, 404, 409, 422))
def delete_comparison(
    comparison_id: str, kitchens: InKitchen, actor: Actor, seen: Annotated[Comparison | None, Body()] = None
) -> Response:
    """Let a comparison go; where it is said how it was `seen`, refused where somebody changed it since."""
    doing.let_comparison_go(kitchens, comparison_id, seen, actor)
    return Response(status_code=204)
