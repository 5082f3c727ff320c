"""A recipe from paper: its text understood line by line, with what has to be answered for it to have a cost.

Nothing is written here. What comes of it (new items, weights, prices, suppliers and the pot itself) is saved together, or not.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import replace
from decimal import Decimal

from potrel.core.buy.purchase import price_of
from potrel.core.buy.typed_price import check_offer, pack_typed, price_typed, supplier_called
from potrel.core.buy.weights import measure_of, measured_by
from potrel.core.cost.costing import Costing
from potrel.core.errors import BadDocument, PotrelError
from potrel.core.kitchen.integrity import known_units
from potrel.core.kitchen.items import Item, Measure
from potrel.core.kitchen.kinds import A_MASS, plain
from potrel.core.kitchen.lines import Line
from potrel.core.kitchen.naming import id_for
from potrel.core.kitchen.quantities import Quantity, parse_quantity
from potrel.core.kitchen.recipes import Recipe, Stage, TopUpWith
from potrel.core.kitchen.servings import Serving
from potrel.core.kitchen.supply import Offer, Supplier
from potrel.core.kitchen.vessels import Vessel
from potrel.core.numbers.rounding import floor, typical
from potrel.core.numbers.units import MILLILITRES, canonical
from potrel.core.pot.by_eye import by_eye_of
from potrel.core.pot.day_view import DayView
from potrel.core.sentences import say
from potrel.core.trim.shelf import on_shelf, shelf
from potrel.core.words.laid_pot import lay_pot
from potrel.core.words.makes_text import read_makes
from potrel.core.words.meant import Candidate
from potrel.core.words.pasted import AskedGoods, AskedPortion, Goods, LineAnswer, Pasted, PastedLine, PortionAnswer, PortionBy
from potrel.core.words.recipe_text import poured_by_eye, read_recipe_text
from potrel.core.words.reckoned import covered, reduced, seasoned
from potrel.core.words.typed_line import TypedLine, read_line

# As near as a cook says a size [share]. Common practice, no source.
_NEAR = Decimal("0.05")
_PLACES = 4


def understand_paste(
    text: str,
    name: str | None,
    answers: Sequence[LineAnswer],
    goods: Sequence[Goods],
    costing: Costing,
    portion: PortionAnswer | None = None,
) -> tuple[Pasted, Costing]:
    """What a pasted text comes to with the answers so far, and the kitchen with all of it."""
    said = {one.line: one for one in answers}
    return _Paste(text, name, said, {one.item: one for one in goods}, costing, portion).read()


class _Paste:
    def __init__(
        self,
        text: str,
        name: str | None,
        answers: dict[str, LineAnswer],
        goods: dict[str, Goods],
        costing: Costing,
        portion: PortionAnswer | None,
    ) -> None:
        self.text, self.told = read_recipe_text(text), goods
        self.makes, self.portion = read_makes(self.text.aside), portion
        self.answers, self.before = answers, costing
        self.name = (name or "").strip() or self.text.name or "New soup"
        self.new: dict[str, Item] = {}
        self.from_shelf: set[str] = set()
        self.changed: dict[str, Item] = {}
        # The view with what is new and changed so far; None where it has to be made again.
        self._seen: DayView | None = None
        self._settled = True
        self.problems: dict[str, str] = {}
        # The vessel in which a line "to cover" is poured, by its key.
        self.in_vessel: dict[str, str] = {}

    def read(self) -> tuple[Pasted, Costing]:
        keyed = list(self._keyed())
        lines = [self._line(key, place, text) for key, place, text in keyed]
        # Weights and preparations that were told or taken over reach the lines before them, too.
        for one in lines:
            self._weigh(one)
        if not self._settled:
            lines = [self._line(key, place, text) for key, place, text in keyed]
        lines, stages = lay_pot(self.text, lines, self._with_water())
        put_in = [one.item for stage in stages for one in _put_in(stage)] + [one.typed.by_target for one in lines]
        used = list(dict.fromkeys(filter(None, put_in)))
        suppliers, offers = self._offers(used)
        recipe, lines = covered(self._pot(stages), lines, self.in_vessel, self._view())
        asked = [found for one in used if (found := self._asked(one, lines, offers)) is not None]
        pasted = Pasted(
            recipe, lines, None, asked, [item for id_, item in self.new.items() if id_ in used],
            [item for id_, item in self.changed.items() if id_ in used and id_ not in self.new], suppliers, offers,
        )  # fmt: skip
        after = self.before.with_items([*self.new.values(), *self.changed.values()])
        if suppliers:
            kitchen = after.view.kitchen
            after = after.with_kitchen(replace(kitchen, suppliers=(*kitchen.suppliers, *suppliers)))
        return self._portioned(*seasoned(*reduced(pasted, after.with_offers(offers).replacing(recipe))))

    def _with_water(self) -> DayView:
        """The kitchen so far, with water in it where the pot is topped up: what the shelf has, where nothing else is there."""
        tops_up = any(step.does == "top_up" and step.to is not None for step in self.text.steps)
        if tops_up and all(one.kind != "water" or one.archived for one in self._view().items.values()):
            self._take_from_shelf("water")
        return self._view()

    def _pot(self, stages: tuple[Stage, ...]) -> Recipe:
        view = self.before.view
        return Recipe(
            id_for(self.name, {*view.items, *view.recipes, *self.new}), self.name, stages=stages,
            servings=(Serving("bowl", "Bowl", self.makes.size or parse_quantity("300 ml")),), written_yield=self.makes.batch,
        )  # fmt: skip

    def _portioned(self, pasted: Pasted, after: Costing) -> tuple[Pasted, Costing]:
        """The portion as large as so many of them make it, where the text says how many there are."""
        makes, recipe = self.makes, pasted.recipe
        if makes.portions is None:
            return pasted, after
        # What a line that waits would bring is not in the pot yet; what the text says it makes holds all the same.
        known = pasted.open == 0 or recipe.written_yield is not None
        by_count = _size_of(makes.portions, after, recipe.id) if known else None
        agree = makes.size is None or by_count is None or _same_size(makes.size, by_count, after, recipe)
        by = self._portion_by(agree=agree)
        asked = AskedPortion(
            makes.portions, None if by_count is None else str(by_count), None if makes.size is None else str(makes.size), by
        )
        pasted = replace(pasted, portion=asked)
        if by != "count":
            return pasted, after
        # While nobody knows how large each is, there is no serving: any size would look as if somebody had said it.
        servings = () if by_count is None else (replace(recipe.servings[0], size=by_count), *recipe.servings[1:])
        recipe = replace(recipe, servings=servings)
        return replace(pasted, recipe=recipe), after.replacing(recipe)

    def _portion_by(self, *, agree: bool) -> PortionBy | None:
        """By what the size of a portion goes: as was answered to this very text, else as it says, where that is one thing."""
        makes, said = self.makes, self.portion
        if said is not None and (said.portions, said.said) == (makes.portions, str(makes.size)):
            return said.by
        if makes.size is None:
            return "count"
        return "size" if agree else None

    # -- lines -----------------------------------------------------------------------------------------------------

    def _keyed(self) -> Iterable[tuple[str, int, str]]:
        seen: Counter[str] = Counter()
        for place, stage in enumerate(self.text.stages):
            for text in stage.lines:
                seen[text] += 1
                yield text if seen[text] == 1 else f"{text} #{seen[text]}", place, text
        # What the method alone pours is in the pot as well; where it goes in is read there.
        yield from ((text, max(len(self.text.stages) - 1, 0), text) for text in poured_by_eye(self.text))

    def _view(self) -> DayView:
        if self._seen is None:
            self._seen = self.before.view.with_items([*self.new.values(), *self.changed.values()], ())
        return self._seen

    def _line(self, key: str, place: int, text: str) -> PastedLine:
        answer = self.answers.get(key, LineAnswer(key))
        typed_text = answer.text or text
        if answer.left_out:
            return PastedLine(key, place, text, TypedLine(typed_text, None, None), False, True)
        view = self._view()
        typed = self._answered(typed_text, answer, view) or self._read(typed_text, answer, view)
        if typed.line is None and typed.unknown is not None:
            # What the shelf alone can mean is proposed; it stands in the table as new, for everybody to see.
            sure = _sure_on_shelf(typed)
            if sure is not None:
                item = self._take_from_shelf(sure)
                typed = self._read(typed_text, answer, self._view(), item)
        if typed.adds is not None and typed.line is not None and typed.line.item is not None:
            item_now = self._view().items[typed.line.item]
            if all(one.id != typed.adds.id for one in item_now.preparations):
                self._change(replace(item_now, preparations=(*item_now.preparations, typed.adds)))
        return PastedLine(key, place, text, typed, typed.line is None and not typed.is_to_taste, False)

    def _answered(self, text: str, answer: LineAnswer, view: DayView) -> TypedLine | None:
        if answer.recipe is not None:
            return self._read(text, answer, view, made_by=answer.recipe)
        item = answer.item
        if answer.shelf is not None:
            item = self._take_from_shelf(answer.shelf)
        elif answer.new is not None:
            item = self._add(Item(self._id_for(answer.new), answer.new, answer.kind or "not known"))
        return None if item is None else self._read(text, answer, self._view(), item)

    def _read(
        self, text: str, answer: LineAnswer, view: DayView, means: str | None = None, made_by: str | None = None
    ) -> TypedLine:
        """A typed line, which may be liquid by eye: what covers is asked for by its vessel, and reckoned when all is laid."""
        rest, by_eye = by_eye_of(text)
        found = read_line(rest, view, means, made_by)
        if by_eye is None:
            return found
        if found.line is None and found.amount is None and not found.candidates and found.name is not None:
            if by_eye == "thin" or answer.vessel is None:
                vessels = _pots(view) if by_eye == "cover" else []
                in_which = "in which pot does it lie? So much as covers it is reckoned then; or write how much it is"
                how_much = "how much is poured? Write it before the name"
                said = say("cover_in", in_which) if vessels else say("pour_how_much", how_much)
                named = tuple(Candidate(one.id, one.name, "vessel") for one in vessels)
                return replace(found, problem=said.english, problem_code=said.code, params=said.params, candidates=named)
            if answer.vessel not in view.vessels:
                raise BadDocument("answers", say("no_such", 'no {what} has the id "{id}"', what="vessel", id=answer.vessel))
            found = read_line(f"1 l {rest}", view, means, made_by)
            self.in_vessel[answer.line] = answer.vessel
        return replace(found, line=None if found.line is None else replace(found.line, by_eye=by_eye))

    def _take_from_shelf(self, shelf_id: str) -> str:
        known = next((one.item for one in shelf() if one.item.id == shelf_id), None)
        if known is None:
            raise BadDocument(
                "answers", say("no_such", 'no {what} has the id "{id}"', what="ingredient of the shelf", id=shelf_id)
            )
        have = self.before.view.item_called(known.name)
        if have is not None:
            return have.id
        added = self._add(replace(known, id=self._id_for(known.name, known.id)))
        self.from_shelf.add(added)
        return added

    def _add(self, item: Item) -> str:
        same = next((one for one in self.new.values() if one.name.casefold() == item.name.casefold()), None)
        if same is not None:
            return same.id
        self.new[item.id] = item
        self._seen, self._settled = None, False
        return item.id

    def _change(self, item: Item) -> None:
        (self.new if item.id in self.new else self.changed)[item.id] = item
        self._seen, self._settled = None, False

    def _id_for(self, name: str, wanted: str | None = None) -> str:
        view = self.before.view
        return id_for(wanted or name, {*view.items, *view.recipes, *self.new})

    def _weigh(self, one: PastedLine) -> None:
        line = one.typed.line
        told = self.told.get(line.item or "") if line is not None else None
        if line is None or told is None or line.item is None:
            return
        item = self._view().items[line.item]
        extra: dict[str, Measure] = {}
        for unit, typed in told.weights.items():
            if typed.strip() and measure_of(item, canonical(unit)) is None:
                try:
                    extra[unit] = Measure(_weight_typed(typed))
                except PotrelError as error:
                    self.problems[item.id] = error.said.english
        if extra:
            self._change(replace(item, measures={**item.measures, **extra}))

    # -- what is bought --------------------------------------------------------------------------------------------

    def _offers(self, used: Sequence[str]) -> tuple[list[Supplier], list[Offer]]:
        """The prices that were told, and the suppliers that are new with them."""
        suppliers: list[Supplier] = []
        offers: list[Offer] = []
        for item in used:
            told = self.told.get(item)
            if told is None or not told.price.strip():
                continue
            try:
                offers.append(self._offer(told, suppliers))
            except PotrelError as error:
                self.problems[item] = error.said.english
        return suppliers, offers

    def _offer(self, told: Goods, suppliers: list[Supplier]) -> Offer:
        view = self._view()
        pack = pack_typed(told.pack.strip() or "1 kg", known_units(view.kitchen.items))
        price = price_typed(told.price)
        known = (*view.kitchen.suppliers, *suppliers)
        supplier = supplier_called(told.supplier, known) or supplier_called(self._last_supplier(), known)
        if supplier is None:
            raise BadDocument(
                "supplier", say("which_supplier", "say from whom it is: choose a supplier, or write a new one's name")
            )
        offer = Offer(told.item, supplier.id, pack, price, view.on)
        item = view.items[told.item]
        check_offer(offer, item, view.system, known_units(view.kitchen.items))
        lack = price_of(offer, item, view.system).lack
        if lack is not None and measured_by(item, pack.unit) is not None:
            # It is weighed, but not as it is bought: one more weight of it would not mend that.
            raise BadDocument("pack", lack.said)
        if supplier not in known:
            suppliers.append(supplier)
        return offer

    def _last_supplier(self) -> str:
        """Whose price was recorded last: it is proposed for what has none."""
        return next((one.supplier for one in self.before.view.kitchen.offers[-1:]), "")

    def _asked(self, item_id: str, lines: Sequence[PastedLine], offers: Sequence[Offer]) -> AskedGoods | None:
        view = self._view()
        item, told = view.items[item_id], self.told.get(item_id)
        price = self.before.view.price(item_id) if item_id in self.before.view.items else None
        mine = [one.typed for one in lines if one.typed.line is not None and one.typed.line.item == item_id]
        weights = [one.needs_weight for one in mine if one.needs_weight is not None]
        lacks = [price_of(one, item, view.system).lack for one in offers if one.item == item_id]
        weights += [lack.unit for lack in lacks if lack is not None and lack.unit is not None]
        weights += list(told.weights) if told is not None else []
        has_price = price is not None and price.lack is None
        if has_price and not weights and item_id not in self.problems:
            return None
        is_new, to_read = item_id in self.new, item.allergens if item_id in self.new else ()
        return AskedGoods(
            item_id, item.name, item.kind, list(to_read), is_new, item_id in self.from_shelf, has_price,
            list(dict.fromkeys(weights)), self._last_supplier(), self.problems.get(item_id),
        )  # fmt: skip

    # -- the pot ---------------------------------------------------------------------------------------------------


def _pots(view: DayView) -> list[Vessel]:
    """The vessels in which liquid may cover something: those that hold a volume, and whose surface is known."""
    return [
        one
        for one in view.vessels.values()
        if one.open_surface is not None and one.capacity is not None and one.capacity.kind == "volume"
    ]


def _put_in(stage: Stage) -> Iterator[Line | TopUpWith]:
    yield from stage.lines
    if stage.change.with_ is not None:
        yield stage.change.with_


def _size_of(portions: Decimal, costing: Costing, recipe_id: str) -> Quantity | None:
    """How large a portion is, of so many that a batch makes; None while that is not known.

    To the tenth of a millilitre below (in a US kitchen, a hundredth of a fluid ounce), so that it makes as many whole ones.
    """
    one = costing.of(recipe_id)
    if not one.balance.yield_known:
        return None
    each = typical(one.balance.mass / one.recipe.density) * (1 - costing.view.settings.serving_loss) / portions
    system = costing.view.system
    unit, parts = ("fl oz", 100) if system == "us" else ("ml", 10)
    size = floor(each / MILLILITRES[system][unit] * parts) / Decimal(parts)
    return parse_quantity(f"{plain(size)} {unit}") if size > 0 else None


def _same_size(said: Quantity, by_count: Quantity, costing: Costing, recipe: Recipe) -> bool:
    """Whether two sizes of a portion are the same, as near as cooks say them."""
    one, other = (costing.view.weights.of_bulk(size, recipe.density) for size in (said, by_count))
    return abs(one - other) <= other * _NEAR


def _sure_on_shelf(typed: TypedLine) -> str | None:
    """The ingredient of the shelf that a line can only mean; None where it is for a person to say."""
    exact = next((one.item.id for one in on_shelf(typed.unknown or "") if one.called_so), None)
    if exact is not None:
        return exact
    only = next((one.item for one in shelf() if one.item.id == typed.only), None)
    return only.id if only is not None and not only.allergens else None


def _weight_typed(text: str) -> Quantity:
    """A weight as it was typed; a number without a unit is in grams. BadQuantity or OutOfRange where it is none."""
    return A_MASS.read(text if any(sign.isalpha() for sign in text) else f"{text} g")
