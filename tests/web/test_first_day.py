"""The first day of an empty kitchen: an order guide becomes items in one table, and soups from paper cost what they cost."""

from __future__ import annotations

from typing import Any

from playwright.sync_api import expect

from potrel.core.kitchen.kitchen import Kitchen
from potrel.core.kitchen.settings import Settings
from tests.web.browser import BrowserTest

# A guide of fifty lines, one of another below the other: all made up.
_GUIDE = [
    ("Estuary Foods",),
    ("Order guide, prices valid from 11/15/2026",),
    ("Item #", "Pack", "Size", "Description", "Price"),
]
_LINES = [
    ("1", "50 LB", "Onion Yellow Jumbo", "18.50"), ("1", "40 LB", "Carrot Jumbo", "18.00"), ("1", "40 LB", "Leeks", "48.00"),
    ("1", "50 LB", "Potato Russet", "20.00"), ("30", "LB", "Celery", "24.00"), ("4", "1 GAL", "Milk Whole", "17.60"),
    ("36", "1 LB", "Butter Unsalted Solid", "117.00"), ("1", "25 LB", "Flour All Purpose", "12.50"),
    ("1", "5 LB", "Salt Kosher", "4.00"),
    ("6", "#10", "Plum Tomatoes Canned", "36.00"), ("1", "25 LB", "Bean Navy Dry", "27.50"),
    ("1", "40 LB", "Chicken Thigh Boneless", "88.00"),
    ("1", "30 LB", "Mushrooms White", "60.00"), ("12", "1 LB", "Parsley Italian", "18.00"),
    ("1", "50 LB", "Rice Long Grain", "30.00"), ("1", "20 LB", "Parsnips", "24.00"), ("1", "25 LB", "Turnips", "20.00"),
    ("1", "50 LB", "Cabbage Green", "19.00"), ("1", "10 LB", "Spinach", "19.00"), ("1", "25 LB", "Beets", "17.50"),
    ("1", "20 LB", "Zucchini", "16.00"), ("1", "18 LB", "Eggplant", "20.70"), ("1", "5 LB", "Garlic", "14.50"),
    ("1", "30 LB", "Ginger", "54.00"), ("1", "40 LB", "Lemon", "36.00"), ("1", "40 LB", "Lime", "38.00"),
    ("1", "25 LB", "Lentils Red", "30.00"), ("1", "25 LB", "Split Peas", "22.50"), ("1", "25 LB", "Barley Pearl", "16.25"),
    ("1", "10 LB", "Bacon", "42.00"), ("1", "40 LB", "Butternut Squash", "34.00"), ("1", "40 LB", "Sweet Potatoes", "30.00"),
    ("1", "20 LB", "Kale", "24.00"), ("1", "40 LB", "Apples", "44.00"), ("1", "35 LB", "Oil Canola", "42.00"),
    ("1", "6 LB", "Olive Oil", "36.00"), ("1", "1 LB", "Bay Leaves", "22.00"), ("1", "1 LB", "Thyme Dried", "14.00"),
    ("1", "1 LB", "Paprika", "11.00"), ("1", "5 LB", "Curry Powder", "40.00"), ("1", "1 LB", "Cumin Ground", "12.00"),
    ("1", "25 LB", "Cucumbers", "23.75"), ("1", "25 LB", "Tomatoes", "30.00"), ("1", "10 LB", "Shallots", "21.00"),
    ("1", "20 LB", "Fennel", "38.00"), ("1", "40 LB", "Celeriac", "52.00"), ("1", "10 LB", "Jalapeños", "16.00"),
    ("1", "40 LB", "Beef Chuck", "220.00"), ("1", "40 LB", "Pork Shoulder", "92.00"), ("1", "50 LB", "Sugar", "38.00"),
]  # fmt: skip
# [$/lb] By hand: what stands on the guide, over its pounds.
_POUND = {
    "onion": 18.5 / 50, "carrot": 18 / 40, "leek": 48 / 40, "potato": 20 / 50, "celery": 24 / 30, "butter": 117 / 36,
    "flour": 12.5 / 25, "salt": 4 / 5, "navy": 27.5 / 25, "thigh": 88 / 40, "rice": 0.6, "parsnip": 24 / 20, "turnip": 0.8,
    "cabbage": 19 / 50, "lentil": 30 / 25, "split": 22.5 / 25, "barley": 16.25 / 25, "squash": 34 / 40,
    "kale": 24 / 20, "apple": 1.1,
    "curry": 8, "beet": 17.5 / 25, "oil": 42 / 35,
}  # fmt: skip
_GALLON_OF_MILK = 17.6 / 4
_TYPED = """Harbor vegetable soup
Makes 2 gal
Sweat 10 min:
4 oz unsalted butter
2 lb onions
1 lb carrots
1 lb celery
2 lb leeks
Simmer 40 min:
3 lb russet potatoes
1 lb turnips
1 lb green cabbage
8 oz pearl barley
2 qts whole milk
1 gal water
2 oz kosher salt"""
# Soups of which the lines are told as bought: what each costs is the sum of its pounds.
_SOUPS = {
    "Navy bean": ("3 lb navy beans\n1 lb onions\n8 oz carrots\n1 oz salt",
                  3 * _POUND["navy"] + _POUND["onion"] + 0.5 * _POUND["carrot"] + _POUND["salt"] / 16),
    "Potato and leek": ("5# russet potatoes\n2 lb 8 oz leeks\n6 oz unsalted butter\n1 qt whole milk",
                        5 * _POUND["potato"] + 2.5 * _POUND["leek"] + 0.375 * _POUND["butter"] + _GALLON_OF_MILK / 4),
    "Chicken and rice": ("2 1/2 lb chicken thighs\n12 oz long grain rice\n1 lb celery",
                         2.5 * _POUND["thigh"] + 0.75 * _POUND["rice"] + _POUND["celery"]),
    "Curried parsnip": ("4 lbs. parsnips\n1 lb apples\n1 oz curry powder\n4 oz canola oil",
                        4 * _POUND["parsnip"] + _POUND["apple"] + _POUND["curry"] / 16 + 0.25 * _POUND["oil"]),
    "Red lentil": ("2 lb red lentils\n1 lb carrots\n1 lb onions", 2 * _POUND["lentil"] + _POUND["carrot"] + _POUND["onion"]),
    "Butternut": ("6 lb butternut squash\n1 pt whole milk\n2 oz butter, unsalted",
                  6 * _POUND["squash"] + _GALLON_OF_MILK / 8 + _POUND["butter"] / 8),
    "Split pea": ("3 lb split peas\n1 lb kale\n1 lb beets", 3 * _POUND["split"] + _POUND["kale"] + _POUND["beet"]),
}  # fmt: skip


# A European guide of forty lines, in kilos and litres, with commas: all made up.
_EUROPEAN = [
    ("Onions brown", "10 kg", "6,90"), ("Carrots washed", "10 kg", "7,40"), ("Leeks", "5 kg", "9,50"),
    ("Potatoes floury", "25 kg", "16,25"), ("Celery", "6 kg", "9,60"), ("Celeriac", "10 kg", "14,50"),
    ("Milk whole", "10 x 1 l", "10,90"), ("Butter", "20 x 250 g", "38,00"), ("Cream 35%", "12 x 1 l", "45,60"),
    ("Plain flour", "25 kg", "18,75"), ("Salt fine", "10 kg", "5,50"), ("Plum tomatoes canned", "6 x 2,5 kg", "21,60"),
    ("Haricot beans dried", "5 kg", "11,25"), ("Red lentils", "5 kg", "9,75"), ("Split peas green", "5 kg", "8,50"),
    ("Pearl barley", "5 kg", "6,25"), ("Chicken thighs boneless", "5 kg", "31,50"), ("Parsnips", "5 kg", "8,75"),
    ("Swede", "10 kg", "9,00"), ("Turnips", "5 kg", "6,50"), ("White cabbage", "10 kg", "7,90"), ("Kale", "3 kg", "9,60"),
    ("Beetroot", "10 kg", "11,00"), ("Courgettes", "5 kg", "10,50"), ("Fennel", "5 kg", "13,00"), ("Garlic", "1 kg", "6,40"),
    ("Ginger", "1 kg", "4,20"), ("Lemons", "5 kg", "11,50"), ("Rapeseed oil", "10 l", "21,00"), ("Olive oil", "5 l", "44,50"),
    ("Butternut squash", "8 kg", "14,40"), ("Sweet potatoes", "6 kg", "10,80"), ("Cooking apples", "10 kg", "17,00"),
    ("Long grain rice", "10 kg", "18,50"), ("Curry powder", "500 g", "7,50"), ("Cumin ground", "500 g", "6,00"),
    ("Bay leaves", "100 g", "3,20"), ("Tomato paste", "800 g", "3,60"), ("Shallots", "5 kg", "14,00"),
    ("Smoked streaky bacon", "2,5 kg", "23,75"),
]  # fmt: skip
# [€/kg, and €/l of milk, cream and oil] By hand: what stands on the guide, over its kilos or litres.
_KILO = {
    "onion": 0.69, "carrot": 0.74, "leek": 1.9, "potato": 0.65, "celery": 1.6, "celeriac": 1.45, "milk": 1.09, "butter": 7.6,
    "cream": 3.8, "salt": 0.55, "tomatoes": 1.44, "haricot": 2.25, "lentil": 1.95, "peas": 1.7, "barley": 1.25,
    "thigh": 6.3, "parsnip": 1.75, "swede": 0.9, "cabbage": 0.79, "kale": 3.2, "beetroot": 1.1, "apple": 1.7, "rice": 1.85,
    "curry": 15, "squash": 1.8, "bacon": 9.5, "oil": 2.1,
}  # fmt: skip
_EUROPEAN_SOUPS = {
    "Estuary vegetable": ("1 kg onions\n500 g carrots\n750 g swede\n500 g celery\n200 g pearl barley\n30 g salt",
                          _KILO["onion"] + 0.5 * _KILO["carrot"] + 0.75 * _KILO["swede"] + 0.5 * _KILO["celery"]
                          + 0.2 * _KILO["barley"] + 0.03 * _KILO["salt"]),
    "Leek and potato": ("2,5 kg potatoes\n1,2 kg leeks\n250 g butter\n1,5 l whole milk",
                        2.5 * _KILO["potato"] + 1.2 * _KILO["leek"] + 0.25 * _KILO["butter"] + 1.5 * _KILO["milk"]),
    "Tomato": ("2,5 kg canned plum tomatoes\n0,5 kg onions\n0,5 l cream", 2.5 * _KILO["tomatoes"] + 0.5 * _KILO["onion"]
               + 0.5 * _KILO["cream"]),
    "Chicken and rice": ("1,25 kg chicken thighs\n350 g long grain rice\n400 g celery",
                         1.25 * _KILO["thigh"] + 0.35 * _KILO["rice"] + 0.4 * _KILO["celery"]),
    "Curried parsnip": ("2 kg parsnips\n500 g cooking apples\n30 g curry powder\n1 dl rapeseed oil",
                        2 * _KILO["parsnip"] + 0.5 * _KILO["apple"] + 0.03 * _KILO["curry"] + 0.1 * _KILO["oil"]),
    "Red lentil": ("1 kg red lentils\n500 g carrots\n1 kg onions", _KILO["lentil"] + 0.5 * _KILO["carrot"] + _KILO["onion"]),
    "Pea and bacon": ("1,5 kg split peas\n600 g smoked bacon\n300 g celeriac",
                      1.5 * _KILO["peas"] + 0.6 * _KILO["bacon"] + 0.3 * _KILO["celeriac"]),
    "Winter greens": ("1 kg haricot beans\n600 g kale\n1 kg white cabbage\n400 g beetroot",
                      _KILO["haricot"] + 0.6 * _KILO["kale"] + _KILO["cabbage"] + 0.4 * _KILO["beetroot"]),
}  # fmt: skip


class FirstDayTest(BrowserTest):
    def keys_for_the_guide(self, rows: list[tuple[str, ...]], lines: int, supplier: str) -> int:
        """Read a guide, make its lines items in one table and record its prices, by keys alone; returns how many."""
        page, keys = self.page, 0
        guide = "\n".join(";".join(row) for row in rows).encode()
        self.go("/buy/lists")
        page.on("filechooser", lambda _: None)
        expect(page.get_by_role("button", name="Read a file in")).to_be_visible()
        with page.expect_file_chooser() as chooser:
            page.keyboard.press("o")
        chooser.value.set_files({"name": "guide.csv", "mimeType": "text/csv", "buffer": guide})
        name = page.get_by_label("new supplier")
        expect(name).to_have_value(supplier)
        name.press("Enter")
        expect(page.get_by_role("heading", name=f"Price list of {supplier}")).to_be_visible()
        page.locator("button[data-line]").first.focus()
        page.keyboard.press("m")
        table = page.get_by_label("What the kitchen does not have", exact=True)
        # From field to field: what is proposed stands, else the first that the shelf has, looked at and chosen by a key.
        choices = table.get_by_role("combobox")
        expect(choices.first).to_be_focused()
        keys += 3
        for at in range(choices.count()):
            if choices.nth(at).input_value() == "":
                choices.nth(at).press("ArrowDown")
                keys += 1
            keys += 1
        page.keyboard.press("Tab")
        table.get_by_role("button", name=f"Take all {lines}").press("Enter")
        expect(table).to_have_count(0)
        expect(page.get_by_role("button", name=f"Record {lines} prices")).to_be_enabled()
        page.keyboard.press("Control+Enter")
        expect(page.get_by_role("status")).to_contain_text(f"{lines} prices recorded")
        print(f"\na list of {lines} lines, from its file to items and prices: {keys + 2} keys")
        return keys + 2

    def soups_cost(self, soups: dict[str, tuple[str, float]]) -> None:
        """Put soups on from paper; each costs what it does by hand, and nothing is asked."""
        for called, (lines, by_hand) in soups.items():
            body = {"rows": [called, *lines.split("\n")], "name": None, "answers": [], "goods": []}
            read = self.page.request.post(f"{self.address}/api/pasted-recipe", data=body).json()
            self.assertEqual([line["text"] for line in read["lines"] if line["is_open"]], [], called)
            saved: Any = self.page.request.post(f"{self.address}/api/pasted-recipe/save", data=body).json()
            self.assertAlmostEqual(self.cost_of(saved["recipe"]), by_hand, 4, called)

    def cost_of(self, recipe: str) -> float:
        """The food cost of a batch, of a sheet that lacks nothing."""
        sheet = self.page.request.get(f"{self.address}/api/recipes/{recipe}").json()["sheet"]
        self.assertTrue(sheet["complete"], sheet["problems"])
        return float(sheet["batch"]["food_cost"])


class American(FirstDayTest):
    kitchen = Kitchen("potrel-kitchen", 1, "Boatyard Mess", "USD", Settings(measure_system="us", shown_units="us"))

    def test_from_an_order_guide_to_eight_soups(self) -> None:
        page = self.page
        rows = [*_GUIDE, *((str(100 + at), *line) for at, line in enumerate(_LINES))]
        self.assertLess(self.keys_for_the_guide(rows, len(_LINES), "Estuary Foods"), 400)
        # A soup of twelve lines, typed off the paper letter by letter; water is free.
        self.go("/cook/from/paper")
        keys = len(_TYPED) + 2
        page.get_by_label("The recipe, line by line").fill(_TYPED)
        expect(page.get_by_text("every line is understood")).to_be_visible()
        page.get_by_label("Price of Water").fill("0")
        page.keyboard.press("Control+s")
        expect(page.get_by_test_id("batch-basis")).to_be_visible()
        print(f"a recipe of twelve lines: {keys} keys")
        self.assertLess(keys, 430)
        pounds = {"butter": 0.25, "onion": 2, "carrot": 1, "celery": 1, "leek": 2, "potato": 3, "turnip": 1, "cabbage": 1,
                  "barley": 0.5, "salt": 0.125}  # fmt: skip
        cost = sum(_POUND[one] * much for one, much in pounds.items()) + 2 * _GALLON_OF_MILK / 4
        self.assertAlmostEqual(self.cost_of("harbor-vegetable-soup"), cost, 4)
        self.soups_cost(_SOUPS)


class European(FirstDayTest):
    kitchen = Kitchen("potrel-kitchen", 1, "Slipway Galley", "EUR", Settings(decimal_sign="comma"))

    def test_from_an_order_guide_to_eight_soups(self) -> None:
        letterhead = [("Harbourside Wholesale",), ("Price list, valid from 15.11.2026",), ("Code", "Article", "Pack", "Price")]
        rows = [*letterhead, *((f"H{at}", *line) for at, line in enumerate(_EUROPEAN))]
        self.assertLess(self.keys_for_the_guide(rows, len(_EUROPEAN), "Harbourside Wholesale"), 400)
        self.soups_cost(_EUROPEAN_SOUPS)
