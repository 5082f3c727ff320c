"""Reviews of suppliers' lists: what was read and matched is kept in memory under what it rests on; choices come on top."""

from __future__ import annotations

import hashlib
import threading
from collections import OrderedDict
from collections.abc import Callable, Collection, Iterator, Sequence
from dataclasses import dataclass, replace
from decimal import Decimal
from typing import NamedTuple

from potrel.core.buy.price_list import kind_in_words
from potrel.core.buy.purchase import standing
from potrel.core.cost.costing import Costing
from potrel.core.cost.effects import Effect, with_prices
from potrel.core.kitchen.items import Item
from potrel.core.kitchen.kitchen import Kitchen
from potrel.core.kitchen.supply import Offer, Supplier
from potrel.core.rooms.review import TAKEN, ListChoices, Reviewed, Reviewer
from potrel.core.sentences import Sentence, say
from potrel.deliveries.reading_apart import read_apart
from potrel.deliveries.understanding import Understood, understand
from potrel.devices.supplier_service import SupplierService
from potrel.doing.kitchens import Kitchens
from potrel.formats.kitchen_json import part_to_json
from potrel.store.changes import Version, read_version
from potrel.store.offers import of_price_list
from potrel.store.price_lists import StoredList, content_of, load_price_list, recorded_as

_KEPT = 6
# Signs that more than one country writes its money with.
_SHARED = {"$": {"USD", "CAD", "AUD", "NZD", "SGD", "HKD"}, "kr": {"SEK", "NOK", "DKK", "ISK"}}
_MOST_EFFECTS = 200
_MOST_SHEETS = 8
# Each line of an invoice may be rounded by half a cent.
_ROUNDED_BY = Decimal("0.005")


@dataclass(frozen=True, slots=True)
class Reading:
    """A list with all that recording it takes."""

    stored: StoredList
    understood: Understood
    reviewed: Reviewed
    before: Costing
    effects: list[Effect]
    version: Version

    @property
    def seen(self) -> str:
        """Stands for the data and the choices that the review rests on."""
        said = hashlib.sha256(part_to_json(ListChoices, self.stored.choices).encode()).hexdigest()
        return f"{self.version.number}-{self.version.mark}-{said[:16]}"


class _RestsOn(NamedTuple):
    """What of a kitchen the understanding of a list rests on. A saved pot or another setting leaves these as they are."""

    suppliers: tuple[Supplier, ...]
    items: tuple[Item, ...]
    offers: tuple[Offer, ...]

    def same(self, other: _RestsOn) -> bool:
        """Whether they are the very same; what only looks the same is understood anew."""
        return all(one is another for one, another in zip(self, other, strict=True))


class Reviews:
    """Keeps what was read of the last few lists. Nothing here is more than a cache: any process makes it anew."""

    def __init__(self, kitchens: Kitchens, service: SupplierService) -> None:
        self._kitchens = kitchens
        self.service = service
        self._kept: OrderedDict[object, tuple[_RestsOn, Understood]] = OrderedDict()
        self._lock = threading.Lock()

    def steps(
        self, digest: bytes, data: Callable[[], bytes], choices: ListChoices, kitchen: Kitchen
    ) -> Iterator[float | Understood]:
        """Understands a list, or remembers that; `data` gives the bytes that the digest stands for."""
        key = (digest, choices.supplier, choices.kind, tuple(choices.columns.items()))
        rests_on = _RestsOn(kitchen.suppliers, kitchen.items, kitchen.offers)
        with self._lock:
            known = self._kept.get(key)
        if known is not None and known[0].same(rests_on):
            yield known[1]
            return
        for step in understand(data(), kitchen, choices, read_apart):
            if isinstance(step, Understood):
                with self._lock:
                    self._kept[key] = rests_on, step
                    while len(self._kept) > _KEPT:
                        self._kept.popitem(last=False)
            yield step

    def reading(self, number: int) -> Reading:
        """A list, read, matched and reviewed against the kitchen of today."""
        with self._kitchens.database.reading() as connection:
            stored = load_price_list(connection, number)
            version = read_version(connection)
            own = of_price_list(connection, number)[0] if stored.state == "recorded" else []
        costing = whole = self._kitchens.costing()
        if own:
            # What it did, beside the kitchen as it would be without it.
            kitchen, ids = costing.view.kitchen, {offer.id for offer in own}
            costing = Costing(replace(kitchen, offers=tuple(o for o in kitchen.offers if o.id not in ids)), costing.on)

        def content() -> bytes:
            with self._kitchens.database.reading() as connection:
                return content_of(connection, number)

        *_, understood = self.steps(stored.digest, content, stored.choices, whole.view.kitchen)
        if not isinstance(understood, Understood):
            raise RuntimeError("a list was read without anything coming of it")
        reviewed = _reviewed(stored, understood, costing)
        stored = replace(stored, supplier=understood.supplier, kind=understood.of.kind)
        did = bool(own) and not reviewed.offers
        _, effects = with_prices(costing, standing(own)) if did else with_prices(whole, reviewed.offers)
        return Reading(stored, understood, reviewed, costing, effects, version)

    def blocked(self, reading: Reading) -> Sentence | None:
        """What keeps a whole list from being recorded, in words that say what would mend it."""
        of, kitchen = reading.understood.of, reading.before.view.kitchen
        if "sheet" in of.missing:
            english = "choose the sheet that counts: {sheets} name the same things, or are of two kinds"
            return say("which_sheet", english, sheets=listed(of.sheets_read))
        if of.missing:
            return say("which_column", "tell which column is the {columns}", columns=" and the ".join(of.missing))
        if of.currency is not None and not _is_own(of.currency, kitchen.currency):
            english = "its prices are in {currency}, but this kitchen counts in {own}: ask for a list in that"
            return say("other_currency", english, currency=of.currency, own=kitchen.currency)
        if reading.stored.supplier is None and any(line.supplier is None for line in of.lines):
            return say("whose_list", "choose whose list this is")
        if of.number is not None and reading.stored.supplier is not None and of.kind != "price_list":
            with self._kitchens.database.reading() as connection:
                same = recorded_as(connection, of.kind, of.number, reading.stored.supplier, reading.stored.number)
            if same is not None:
                english = "{document} of this supplier is recorded already, as list {list}: undo that one first"
                return say("recorded_as", english, document=of.source, list=same)
        if not reading.reviewed.offers and not reading.reviewed.credits:
            return say("no_line_ready", "no line of it is ready: match or confirm some")
        return None


def _is_own(said: str, own: str) -> bool:
    """Whether the money of a list is the kitchen's own; a bare "$" is the dollar of its country, "kr" its crown."""
    return all(one == own or own in _SHARED.get(one, ()) for one in said.split(" and "))


def _reviewed(stored: StoredList, understood: Understood, costing: Costing) -> Reviewed:
    """The lines of a list; of one that is recorded, which of them were."""
    choices = {line.place: line for line in stored.choices.lines}

    def review(recorded: Collection[int] | None) -> Reviewed:
        of = Reviewer(costing.view, understood.of, understood.supplier, costing.on, recorded)
        return of.review(understood.matches, choices)

    if stored.state != "recorded":
        return review(None)
    if stored.taken is not None:
        return review(stored.taken)
    # Nobody noted them then: all that was ready was recorded.
    return review([line.place for line in review([]).lines if line.state in TAKEN])


def listed(sheets: Sequence[str]) -> str:
    """Names of sheets, not more than a line of them."""
    return ", ".join(f'"{sheet}"' for sheet in sheets[:_MOST_SHEETS]) + (", …" if len(sheets) > _MOST_SHEETS else "")


def in_words(reading: Reading) -> str:
    """How a list is called: "invoice 2041 of Quayside Meat & Fish"."""
    supplier = reading.before.view.suppliers.get(reading.stored.supplier or "")
    named = reading.understood.of.source if reading.understood.of.number else kind_in_words(reading.stored.kind)
    return f"{named} of {supplier.name}" if supplier else named
