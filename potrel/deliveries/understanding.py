"""From the bytes of a list to its lines matched to items: the reading, the guess whose list it is, the matching."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass

from rapidfuzz import fuzz, process, utils

from potrel.core.buy.price_list import ListKind, Match, Part, PriceList
from potrel.core.kitchen.kitchen import Kitchen
from potrel.core.kitchen.supply import ListForm, Supplier
from potrel.core.rooms.review import ListChoices
from potrel.deliveries.matching import Matching
from potrel.formats.column_heads import fitting, plain_head
from potrel.formats.price_list import read_price_list

Read = Callable[[bytes, Sequence[ListForm], ListKind | None], Iterator[Part | PriceList]]
_SAME_NAME = 88


@dataclass(frozen=True, slots=True)
class Understood:
    """A list, whose it is (None where that is not known), and the match of each of its lines."""

    of: PriceList
    supplier: str | None
    matches: tuple[Match, ...]


def understand(
    data: bytes, kitchen: Kitchen, choices: ListChoices, read: Read = read_price_list
) -> Iterator[float | Understood]:
    """Understands a file: yields the share that is done, now and then, and last what was understood. BadFile where refused.

    `read` reads it: here, or in a process apart.

    What a person said in `choices` wins; else the supplier's remembered forms count as soon as it is known whose list it is.
    """
    suppliers = {one.id: one for one in kitchen.suppliers}
    known = suppliers.get(choices.supplier or "")
    of = None
    matching = Matching(kitchen)
    said = [ListForm(columns=choices.columns)] if choices.columns else []
    for step in read(data, said or forms_of(known), choices.kind):
        if isinstance(step, PriceList):
            of = step
        else:
            # The names are compared while the rest is read.
            matching.compare(step.lines)
            yield step.done
    if of is None:
        raise RuntimeError("a file was read without a list coming of it")
    if known is None and choices.supplier is None:
        known = guess_supplier(kitchen, of)
        if of.heads and not said and forms_of(known):
            *_, again = read(data, forms_of(known), choices.kind)
            of = again if isinstance(again, PriceList) else of
    supplier = None if known is None else known.id
    yield Understood(of, supplier, matching.of(of.lines, supplier))


def forms_of(supplier: Supplier | None) -> list[ListForm]:
    """The forms by which a supplier's tables are read; none where nobody knows whose they are."""
    if supplier is None:
        return []
    return [*supplier.forms, *([ListForm(columns=supplier.columns)] if supplier.columns else [])]


def guess_supplier(kitchen: Kitchen, of: PriceList) -> Supplier | None:
    """Whose list it is: by the name that it says, by its letterhead or its heads, else by codes that only one supplier uses."""
    if of.supplier is not None:
        names = {one.id: one.name for one in kitchen.suppliers}
        best = process.extractOne(
            of.supplier, names, scorer=fuzz.token_sort_ratio, processor=utils.default_process, score_cutoff=_SAME_NAME
        )
        return None if best is None else next(one for one in kitchen.suppliers if one.id == best[2])
    above = [utils.default_process(name) for name in of.letterhead]
    for one in kitchen.suppliers:
        name = utils.default_process(one.name)
        if any(fuzz.token_sort_ratio(name, said) >= _SAME_NAME for said in above):
            return one
    heads = {plain_head(head) for head in of.heads}
    by_form = [one for one in kitchen.suppliers if fitting(one.forms, of.heads).heads]
    by_columns = [
        one for one in kitchen.suppliers if one.columns and {plain_head(h) for h in one.columns.values() if h} <= heads
    ]
    if len(by_form or by_columns) == 1:
        return (by_form or by_columns)[0]
    codes = {line.called for line in of.lines}
    counts = Counter(offer.supplier for offer in kitchen.offers if offer.code in codes)
    ranked = counts.most_common(2)
    if ranked and ranked[0][1] * 2 > len(of.lines) and (len(ranked) == 1 or ranked[0][1] > 2 * ranked[1][1]):
        return next(one for one in kitchen.suppliers if one.id == ranked[0][0])
    return None
