"""What a supplier's list would change, line by line, before anything is recorded: new, changed, unmatched, suspicious."""

from __future__ import annotations

from collections import Counter
from collections.abc import Collection, Mapping, Sequence
from dataclasses import field, replace
from datetime import date
from decimal import Decimal
from typing import Literal

from potrel.core.buy.price_doubts import price_doubts
from potrel.core.buy.price_list import How, ListKind, ListLine, Match, PriceList, source_of
from potrel.core.buy.purchase import Price, price_of
from potrel.core.buy.typed_price import pack_typed
from potrel.core.errors import PotrelError
from potrel.core.frozen import dataclass
from potrel.core.kitchen.gtin import check_digit_fits
from potrel.core.kitchen.integrity import known_units, unknown_unit
from potrel.core.kitchen.items import Item
from potrel.core.kitchen.keyed import Keyed
from potrel.core.kitchen.kinds import Computed, Flag, Id, Money, Name, On, carried, plain
from potrel.core.kitchen.quantities import Pack, Quantity, parse_pack, parse_quantity
from potrel.core.kitchen.supply import Credit, Offer
from potrel.core.numbers.rounding import half_even
from potrel.core.pot.day_view import DayView
from potrel.core.sentences import Sentence, say

State = Literal["new", "changed", "same", "likely", "suspicious", "unmatched", "unusable", "none_today", "passed_over"]
TAKEN: frozenset[State] = frozenset({"new", "changed", "same"})
WAITING: frozenset[State] = frozenset({"likely", "suspicious", "unmatched", "unusable"})
_THOUSAND = Decimal(1000)
# A credited pack within this share of the price of a delivered one is a pack that went back. Common practice, no source.
_SAME_PRICE = Decimal("0.02")
_DEAREST = Decimal(10_000_000)
# A price that moved by one part in so many is looked at before it is recorded.
_FAR = 3
# What ounces of a thing that is sold by volume may be.
OUNCES = ("weight", "fluid")
_POURED = frozenset({"stock", "wine", "water", "sauce", "dairy", "fat"})
# What of a line is asked, by what answers it.
_ANSWERED_BY = {
    "price_of_which": "pack", "before_or_after": "price", "discount_of_all": "price", "allowance_of_which": "price",
}  # fmt: skip


@dataclass(frozen=True, slots=True)
class LineChoice(Keyed):
    """What a person said of a line: which item it is, that it is right as it stands, its pack or its price where the list is
    wrong, or that it is not bought.
    """

    place: int
    item: Id | None = None
    confirmed: Flag = False
    pack: Name | None = None
    pass_over: Flag = False
    price: Money | None = None


@dataclass(frozen=True, slots=True)
class ListChoices(Keyed):
    """What a person said of a list: whose it is, what it is, which column means what, and of its lines."""

    supplier: Id | None = None
    kind: ListKind | None = None
    columns: dict[Name, Name | Literal[""]] = field(default_factory=dict)
    lines: tuple[LineChoice, ...] = ()


@dataclass(frozen=True, slots=True)
class ReviewLine:
    """A line and what it would do. Money per kilo [money/kg] before and after; `change` is their ratio less 1.

    `needs_weight` is the unit of its pack that the item has no weight for yet. Of a name that is only like an item's, `more`
    are the words that only the line says, `less` those that only the item does. `said` are doubts and notes with their codes,
    `chosen` is what a person said of it; `recorded` that it was recorded and says no more.
    """

    place: int
    text: str
    code: str | None
    gtin: str | None
    pack: str | None
    price: Computed | None
    quantity: Computed | None
    on: On
    state: State
    how: How
    likeness: int | None
    item: str | None
    name: str | None
    others: list[str]
    was: Computed | None
    now: Computed | None
    was_offer: Offer | None
    change: Computed | None
    needs_weight: str | None
    more: list[str]
    less: list[str]
    goods_back: Flag | None
    doubts: list[str]
    notes: list[str]
    said: list[Sentence]
    chosen: LineChoice | None = None
    recorded: Flag = False


@dataclass(frozen=True, slots=True)
class Reviewed:
    """A list, reviewed: its lines, and what recording it would write: of a list that is recorded, what was left out then."""

    lines: list[ReviewLine]
    offers: list[Offer]
    credits: list[Credit]
    counts: dict[State, int]


class Reviewer:
    """Reviews the lines of one list against a kitchen. `supplier` is the id of the one whose list it is, where known.

    Of a list that is recorded `recorded` are the places of the lines that were; None where it still waits.
    """

    def __init__(
        self, view: DayView, of: PriceList, supplier: str | None, today: date, recorded: Collection[int] | None = None
    ) -> None:
        self._view, self._of, self._supplier = view, of, supplier
        self._today, self._recorded = today, recorded
        self._units = known_units(view.kitchen.items)
        known = view.suppliers.get(supplier or "")
        self._passed_over = frozenset(known.passed_over if known else ())
        self._twice: Counter[tuple[str, str]] = Counter()

    def review(self, matches: Sequence[Match], choices: Mapping[int, LineChoice]) -> Reviewed:
        """Every line with what becomes of it; `choices` are by the place of their line."""
        lines: list[ReviewLine] = []
        offers: list[Offer] = []
        credits_: list[Credit] = []
        for line, match in zip(self._of.lines, matches, strict=True):
            choice = choices.get(line.place) or LineChoice(line.place)
            reviewed, offer = self._line(line, match, choice)
            if self._recorded is not None and line.place in self._recorded:
                state = reviewed.state if reviewed.state in TAKEN else "changed"
                lines.append(replace(reviewed, state=state, recorded=True))
                continue
            lines.append(reviewed)
            if offer is None or reviewed.state not in TAKEN:
                continue
            if self._of.kind == "credit_note":
                credits_.append(_credit(offer, reviewed))
            else:
                offers.append(offer)
        counts = Counter(line.state for line in lines)
        return Reviewed(lines, offers, credits_, dict(counts))

    def _line(self, line: ListLine, match: Match, choice: LineChoice) -> tuple[ReviewLine, Offer | None]:
        if choice.item is not None:
            match = Match(choice.item, "chosen")
        item = self._view.items.get(match.item or "")
        if choice.pass_over or (line.called in self._passed_over and choice.item is None):
            return self._reviewed(line, match, choice, "passed_over"), None
        if item is None:
            asked = [one for one in (line.problem, line.doubt) if one is not None]
            return self._reviewed(line, match, choice, "unmatched", doubts=asked), None
        if line.none_today:
            return self._reviewed(line, match, choice, "none_today", item.name), None
        offer = self._offer(line, item.id, choice)
        if isinstance(offer, Sentence):
            return self._reviewed(line, match, choice, "unusable", item.name, notes=[offer]), None
        ounces = self._ounces(offer, item, choice)
        if ounces is not None and self._of.columns.get("ounces") == "fluid":
            offer = replace(offer, pack=_fluid(offer.pack))
        now = price_of(offer, item, self._view.system)
        before = self._before(item.id, offer)
        doubts = [] if self._of.kind == "credit_note" else price_doubts(before, now, line.quantity)
        if line.doubt is not None and choice.price is None:
            doubts.insert(0, line.doubt)
        if ounces is not None and not self._of.columns.get("ounces"):
            doubts.insert(0, ounces)
        if not doubts and self._of.kind != "credit_note":
            doubts += _moved_far(before, now)
        state: State = "new" if before is None else "same" if _alike(before, now) else "changed"
        if match.how == "likely" and not choice.confirmed:
            state = "likely"
        elif doubts and not choice.confirmed:
            state = "suspicious"
        if choice.price is not None and choice.price != line.price:
            read = "nothing that can be read" if line.price is None else line.price
            mistyped = [say("list_says", "the list says {price}", price=read)]
        else:
            mistyped = []
        notes = [*mistyped, *([] if line.note is None or choice.pack is not None else [line.note]), *self._notes(before, now)]
        return self._reviewed(line, match, choice, state, item.name, doubts, notes, (before, now)), offer

    def _reviewed(
        self, line: ListLine, match: Match, choice: LineChoice, state: State, name: str | None = None,
        doubts: Sequence[Sentence] = (), notes: Sequence[Sentence] = (), prices: tuple[Price | None, Price] | None = None,
    ) -> ReviewLine:  # fmt: skip
        """What is told of a line; `prices` are the one that it would follow and its own."""
        was = now = was_offer = change = needs_weight = back = None
        if prices is not None:
            before, after = prices
            was = None if before is None or before.per_gram is None else before.per_gram * _THOUSAND
            now = None if after.per_gram is None else after.per_gram * _THOUSAND
            change = None if was is None or was == 0 or now is None else now / was - 1
            was_offer = None if before is None else before.offer
            needs_weight = None if after.lack is None else after.lack.unit
            if self._of.kind == "credit_note":
                back = before is not None and before.per_gram is not None and _close(before, after)
        return ReviewLine(
            line.place, line.text, line.code, line.gtin, choice.pack or line.pack,
            line.price if choice.price is None else choice.price, line.quantity, self._day(line), state, match.how,
            match.likeness, match.item, name, list(match.others), was, now, was_offer, change, needs_weight,
            list(match.more), list(match.less), back,
            [one.english for one in doubts], [one.english for one in notes], [*doubts, *notes], choice,
        )  # fmt: skip

    def _day(self, line: ListLine) -> date:
        """The day on which the price of a line begins."""
        return line.on or self._of.on or self._today

    def _offer(self, line: ListLine, item: str, choice: LineChoice) -> Offer | Sentence:
        """The offer that a line is, or what keeps it from being one, in words that say what would mend it."""
        corrected = choice.price is not None
        pack, price = self._pack(choice.pack or line.pack), self._price(line, choice.price if corrected else line.price)
        drained = _drained(line.drained)
        # Where somebody typed the price, what could not be read of it is mended.
        problem = None if corrected and line.price is None else line.problem
        if problem is not None and problem.code in _ANSWERED_BY:
            # What was asked of it was answered: by its pack, or by what is paid.
            answered = choice.pack is not None if _ANSWERED_BY[problem.code] == "pack" else corrected
            problem = None if answered else problem
        for lack in (problem, price, pack, drained):
            if isinstance(lack, Sentence):
                return lack
        if not isinstance(pack, Pack) or not isinstance(price, Decimal) or isinstance(drained, Sentence):
            raise TypeError("what a line lacks was told above")
        delivered = None
        if self._of.kind == "delivery" and line.quantity is not None and line.quantity > 0:
            delivered = line.quantity
        return Offer(
            item, self._seller(line) or "", pack, price, self._day(line), drained, until=line.until, code=line.called,
            gtin=line.gtin if line.gtin is not None and check_digit_fits(line.gtin) else None,
            source=self._of.source, delivered=delivered,
        )  # fmt: skip

    def _ounces(self, offer: Offer, item: Item, choice: LineChoice) -> Sentence | None:
        """The question what ounces a liquid is packed in; None where its pack says it, or somebody typed it."""
        if choice.pack is not None or offer.pack.unit != "oz" or item.kind not in _POURED or item.density is None:
            return None
        english = "{pack} of {item}: ounces by weight, or fluid ounces? Say it once under Columns, for all of this supplier"
        return say("ounces_of_which", english, pack=offer.pack, item=item.name)

    def _price(self, line: ListLine, price: Decimal | None) -> Decimal | Sentence:
        if price is None:
            return say("price_unread", "it has no price that can be read")
        if price < 0:
            return say("price_negative", "its price is negative ({price}): a credit belongs on a credit note", price=price)
        if price >= _DEAREST:
            return say("price_of_what", "its price is {price}: is it a number of something else?", price=price)
        if line.until is not None and line.until < self._day(line):
            return say("ends_before", "its last day ({day}) is before its first", day=line.until)
        return price

    def _pack(self, text: str | None) -> Pack | Sentence:
        """The pack of a line, or what is wrong with it."""
        if text is None:
            return say("pack_unclear", 'its pack is not clear: write it as "5 kg" or "6 x 1 l"')
        try:
            pack = pack_typed(text, self._units)
        except PotrelError as error:
            return error.said
        return unknown_unit(pack.inner, self._units) or pack

    def _seller(self, line: ListLine) -> str | None:
        """Who offers it: whom the line itself names, where the kitchen knows that one, else whose list it is."""
        return line.supplier if line.supplier in self._view.suppliers else self._supplier

    def _before(self, item_id: str, offer: Offer) -> Price | None:
        """The price that the line would follow: this supplier's newest of the same code, else of the item, else anybody's.

        A list that waits is held against what is in force when it is looked at, not against what was on its own day.
        """
        history = self._view.history(self._view.items[item_id])
        waits = self._recorded is None and self._of.kind != "credit_note"
        day = max(offer.on, self._today) if waits else offer.on
        theirs = [one for one in history.prices if one.offer.supplier == offer.supplier and one.offer.on <= day]
        if self._of.kind == "credit_note":
            return self._credited(theirs, offer) or (theirs[-1] if theirs else None)
        same_code = [one for one in theirs if offer.code is not None and one.offer.code == offer.code]
        for found in (same_code, theirs):
            if found:
                return found[-1]
        return history.on(day)

    def _credited(self, theirs: list[Price], offer: Offer) -> Price | None:
        """The delivery that a credit is for: of the invoice that it names, else the newest at its price."""
        delivered = [one for one in theirs if one.offer.delivered is not None]
        invoice = source_of("delivery", self._of.refers_to)
        named = [one for one in delivered if self._of.refers_to and one.offer.source == invoice]
        item = self._view.items[offer.item]
        alike = [one for one in delivered if _close(one, price_of(offer, item, self._view.system))]
        found = named or alike
        return found[-1] if found else None

    def _notes(self, before: Price | None, now: Price) -> list[Sentence]:
        notes: list[Sentence] = []
        if before is not None and before.offer.supplier != now.offer.supplier:
            english = "first price of this supplier; before: {supplier}"
            notes.append(say("first_price", english, supplier=self._view.supplier_name(before.offer.supplier)))
        elif before is not None and not before.offer.pack.same_as(now.offer.pack):
            notes.append(say("other_pack", "the pack was {pack}", pack=before.offer.pack))
        if before is not None and before.offer.on > now.offer.on:
            english = "a newer price, of {day}, is in force: this one changes nothing today"
            notes.append(say("older_than_in_force", english, day=before.offer.on.isoformat()))
        key = (now.offer.item, now.offer.supplier)
        self._twice[key] += 1
        if self._twice[key] > 1:
            notes.append(say("same_item_again", "another line is this item too: of one day, the last one counts"))
        return notes


def _moved_far(before: Price | None, now: Price) -> list[Sentence]:
    """A word where a price moved by a third or more since the list before: somebody looks at that."""
    was, is_now = (None if one is None else one.per_gram for one in (before, now))
    if before is None or not was or is_now is None or before.offer.supplier != now.offer.supplier:
        return []
    if abs(is_now - was) * _FAR < was:
        return []
    percent = plain(half_even(abs(is_now / was - 1) * 100, 0))
    if is_now > was:
        return [say("moved_up", "it is {percent}% dearer than the last one: is it the same thing?", percent=percent)]
    return [say("moved_down", "it is {percent}% cheaper than the last one: is it the same thing?", percent=percent)]


def _fluid(pack: Pack) -> Pack:
    """A pack told in ounces, as so many fluid ounces."""
    return parse_pack(f"{pack.text.rpartition('oz')[0].rstrip()} fl oz")


def _drained(text: str | None) -> Quantity | Sentence | None:
    if text is None:
        return None
    try:
        drained = parse_quantity(text)
    except PotrelError as error:
        return error.said
    if drained.kind != "mass":
        return say("drained_by_weight", 'its drained weight "{text}" is no weight: write it as "240 g"', text=text)
    return drained


def _alike(before: Price, now: Price) -> bool:
    if before.offer.supplier != now.offer.supplier:
        return False
    if before.per_gram is not None and now.per_gram is not None:
        return before.per_gram == now.per_gram
    return before.offer.pack.same_as(now.offer.pack) and before.offer.price == now.offer.price


def _close(before: Price, now: Price) -> bool:
    if before.per_gram is None or now.per_gram is None:
        return before.offer.price == now.offer.price
    return abs(now.per_gram - before.per_gram) <= _SAME_PRICE * before.per_gram


def _credit(offer: Offer, line: ReviewLine) -> Credit:
    packs = line.quantity if line.quantity is not None and line.quantity > 0 else Decimal(1)
    amount = carried(offer.price * packs)
    return Credit(offer.item, offer.supplier, offer.pack, packs, amount, offer.on, line.goods_back is True, offer.source)
