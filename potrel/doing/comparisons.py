"""What is done with comparisons of forms: kept, changed, let go."""

from __future__ import annotations

from potrel.core.kitchen.kitchen import Comparison
from potrel.core.rooms.form_comparison import compare_forms
from potrel.doing.kitchens import Kitchens
from potrel.store.comparisons import drop_comparison, insert_comparisons, load_comparisons
from potrel.store.errors import NotFound, StaleComparison


def keep_comparison(kitchens: Kitchens, wanted: Comparison, seen: Comparison | None, by: str) -> None:
    """Keep a comparison, or change one. StaleComparison where somebody else changed it since it was `seen`; BadDocument where
    it cannot be compared today.
    """
    compare_forms(kitchens.costing(), wanted.forms, wanted.unit)
    with kitchens.database.writing(by) as connection:
        now = next((one for one in load_comparisons(connection) if one.id == wanted.id), None)
        if now not in (seen, wanted):
            raise StaleComparison(wanted.name)
        insert_comparisons(connection, [wanted])


def let_comparison_go(kitchens: Kitchens, comparison_id: str, seen: Comparison | None, by: str) -> None:
    """Let a comparison go. NotFound; StaleComparison where it is said how it was `seen`, and somebody changed it since."""
    with kitchens.database.writing(by) as connection:
        now = next((one for one in load_comparisons(connection) if one.id == comparison_id), None)
        if seen is not None and now is not None and now != seen:
            raise StaleComparison(now.name)
        if not drop_comparison(connection, comparison_id):
            raise NotFound("comparison", comparison_id)
