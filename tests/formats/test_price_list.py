"""Suppliers' lists in: CSV in many shapes, workbooks of two makers, UBL 2.1 documents written by hand."""

from __future__ import annotations

import unittest
from datetime import date
from decimal import Decimal
from typing import Any

from potrel.core.buy.price_list import PriceList
from potrel.core.kitchen.supply import ListForm
from potrel.demo import demo_lists
from potrel.formats.amounts import Amounts, Dates
from potrel.formats.price_list import gtin_in
from tests.formats.lists import DATA, HEAD, made_workbook, read
from tests.kitchens import DAY, d


class Tables(unittest.TestCase):
    def test_delimiters_and_letters(self) -> None:
        rows = [["Code", "Article", "Pack", "Price"], ["C1", "Crème fraîche", "1 kg", "5.60"]]
        for mark in ",;\t|":
            text = "\n".join(mark.join(row) for row in rows)
            for coding in ("utf-8", "utf-8-sig", "utf-16", "cp1252"):
                with self.subTest(mark=mark, coding=coding):
                    (line,) = read(text.encode(coding)).lines
                    self.assertEqual((line.code, line.text, line.pack, line.price), ("C1", "Crème fraîche", "1 kg", d("5.60")))

    def test_heads_below_a_title_and_totals_between(self) -> None:
        lines = "L1;LEEKS 5KG CRT;;11,40\n;Alliums, total;;\nO1;ONIONS;20 kg;17,2\n"
        found = read(f"Saltmarsh;;;\nprices net;;;\n\n{HEAD}{lines}")
        self.assertEqual([(one.place, one.text) for one in found.lines], [(5, "LEEKS 5KG CRT"), (7, "ONIONS")])
        self.assertEqual([one.price for one in found.lines], [d("11.40"), d("17.2")])

    def test_heads_in_other_languages(self) -> None:
        for heads in ("Artikelnr.;Bezeichnung;Gebinde;Nettopreis", "Code article;Désignation;Conditionnement;Prix HT"):
            (line,) = read(f"{heads}\nA1;Lauch;5 kg;9,50\n").lines
            self.assertEqual((line.code, line.text, line.pack, line.price), ("A1", "Lauch", "5 kg", d("9.50")))

    def test_heads_that_say_nothing_are_asked_for_and_can_be_mapped(self) -> None:
        text = "A;B;C\nleeks;5 kg;11.40\n"
        found = read(text)
        self.assertEqual((found.lines, found.missing, found.heads), ((), ("name", "price"), ("A", "B", "C")))
        self.assertEqual((found.head_row, found.sample), (1, (("A", "B", "C"), ("leeks", "5 kg", "11.40"))))
        mapped = read(text, {"name": "A", "pack": "B", "price": "C"})
        self.assertEqual([(one.text, one.pack, one.price) for one in mapped.lines], [("leeks", "5 kg", d("11.40"))])

    def test_a_mapping_wins_over_what_a_head_is_called(self) -> None:
        text = "Article;Price;Net\nleeks 5kg;14.00;11.40\n"
        self.assertEqual(read(text).lines[0].price, d("14.00"))
        self.assertEqual(read(text, {"price": "Net"}).lines[0].price, d("11.40"))
        self.assertEqual(read(text, {"name": "Article", "price": ""}).missing, ("price",))

    def test_an_invoice_as_a_table(self) -> None:
        found = read("Article;Qty;Amount;Date\nLEEKS 5KG;3;34.20;24/11/2026\nONIONS 20KG;0;0;25/11/2026\n")
        self.assertEqual(found.kind, "delivery")
        self.assertEqual([(one.quantity, one.price) for one in found.lines], [(d(3), d("11.4")), (d(0), None)])
        self.assertEqual(found.lines[0].on, date(2026, 11, 24))

    def test_a_price_by_the_unit(self) -> None:
        (line,) = read("Article;Unit;Price\nBeef shin;KG;12.90\n").lines
        self.assertEqual(line.pack, "1 kg")

    def test_a_pack_that_only_counts_gives_way_to_the_text(self) -> None:
        (line,) = read("Article;UOM;Price\nTOMATOES 6X2.5KG;CASE;20.70\n").lines
        self.assertEqual(line.pack, "6 x 2.5 kg")

    def test_what_cannot_be_read_is_a_line_with_a_problem(self) -> None:
        found = read("Article;Price;Valid from\nleeks 5 kg;soon;2026-11-24\nonions 5 kg;3.20;next week\n")
        self.assertIn('its price "soon"', str(found.lines[0].problem))
        self.assertIn('its date "next week" cannot be read', str(found.lines[1].problem))

    def test_a_workbook_of_a_spreadsheet_program(self) -> None:
        """Made with LibreOffice 7.4 from a CSV file: real dates, real numbers, a GTIN that became a number."""
        found = read((DATA / "libreoffice-price-list.xlsx").read_bytes())
        self.assertEqual(found.columns["price"], "Net price (EUR)")
        prices = {one.code: (one.name, one.pack, one.price, one.on) for one in found.lines}
        self.assertEqual(prices["E-3"], ("Chickpeas", "6 x 2.5 kg", d("19.25"), date(2026, 11, 21)))
        self.assertEqual(prices["E-2"][:2], ("Olive oil", "5 l"))
        self.assertEqual((found.lines[0].gtin, len(found.lines)), ("2042000008005", 5))

    def test_a_long_cover_sheet_does_not_hide_the_list(self) -> None:
        cover = [["Dear customer"], [], *[[f"terms, paragraph {n}"] for n in range(60)]]
        found = read(made_workbook(cover, Prices=[["Article", "Price"], ["leeks 5kg", 9.8]]))
        self.assertEqual([(one.name, one.price) for one in found.lines], [("leeks", d("9.8"))])
        self.assertEqual((found.sheets, found.sheets_read), (("Sheet1", "Prices"), ("Prices",)))

    def test_sheets_of_different_things_are_all_read_each_by_its_own_heads(self) -> None:
        meat: list[list[object]] = [
            ["Our meat"],
            ["Code", "Description", "Net price", "List price"],
            ["M1", "beef shin 5kg", 61, 70],
        ]
        book = made_workbook([["Article", "Price"], ["leeks 5kg", 9.8], ["onions 5kg", 4]], Meat=meat)
        found = read(book, {"name": "Article"})
        self.assertEqual([one.price for one in found.lines], [d("9.8"), d("4"), d("61")])
        self.assertEqual(len({one.place for one in found.lines}), 3)
        # A line is the same one, whether all are read or one is chosen.
        chosen = read(book, {"sheet": "Meat"})
        self.assertEqual((chosen.lines, chosen.columns["sheet"]), (found.lines[2:], "Meat"))

    def test_which_of_two_sheets_counts_is_asked_where_they_name_the_same(self) -> None:
        book = made_workbook([["Article", "Price"], ["leeks 5kg", 9.8]], December=[["Article", "Price"], ["Leeks 5KG", 10.4]])
        asked = read(book)
        self.assertEqual((asked.missing, asked.lines, asked.sheets), (("sheet",), (), ("Sheet1", "December")))
        self.assertEqual([one.price for one in read(book, {"sheet": "December"}).lines], [d("10.4")])
        self.assertEqual(read(book, {"sheet": "January"}).missing, ("sheet",))

    def test_a_workbook_with_formulas_is_read_by_the_values_that_it_keeps(self) -> None:
        found = read(made_workbook([["Article", "Basis", "Price"], ["leeks 5kg", 9.8, ("=B2*1.2", 11.76)]]))
        self.assertEqual(([one.price for one in found.lines], found.reckoned), ([d("11.76")], True))
        self.assertFalse(read(made_workbook([["Article", "Price"], ["leeks 5kg", 9.8]])).reckoned)

    def test_a_workbook_of_a_library(self) -> None:
        rows: list[list[object]] = [["Leeks", "5 kg", 11.4, 96385074], ["Bay", "50 g", "3,20", ""]]
        leeks, bay = read(made_workbook([["Article", "Pack", "Price", "EAN"], *rows])).lines
        self.assertEqual((leeks.text, leeks.price, leeks.gtin), ("Leeks", d("11.4"), "96385074"))
        self.assertEqual((bay.text, bay.price, bay.gtin), ("Bay", d("3.20"), None))

    def test_noughts_that_a_spreadsheet_took(self) -> None:
        self.assertEqual(gtin_in("12345600012"), "012345600012")
        self.assertEqual(gtin_in("6291 0415-00213"), "6291041500213")
        self.assertIsNone(gtin_in("E-15"))


class WhatIsPaid(unittest.TestCase):
    def line(self, text: str) -> Any:
        (line,) = read(text).lines
        return line

    def test_a_net_price_goes_before_a_list_price(self) -> None:
        for heads in ("List price;Net price", "Listenpreis;Nettopreis", "Prix catalogue;Prix net"):
            self.assertEqual(self.line(f"Article;{heads}\nleeks 5kg;14.00;11.40\n").price, d("11.40"))

    def test_a_discount_comes_off_a_list_price_once(self) -> None:
        self.assertEqual(self.line("Article;List price;Discount\nleeks 5kg;14.00;10%\n").price, d("12.60"))
        self.assertEqual(self.line("Article;Listenpreis;Rabatt %\nleeks 5kg;14,00;10\n").price, d("12.60"))
        both = self.line("Article;List price;Net price;Discount\nleeks 5kg;14.00;12.60;10\n")
        self.assertEqual((both.price, both.problem), (d("12.60"), None))

    def test_the_amount_of_the_line_tells_whether_it_is_off(self) -> None:
        for amount, price in (("37.80", "12.60"), ("42.00", "14.00")):
            found = self.line(f"Article;Qty;Price;Discount;Amount\nleeks 5kg;3;14.00;10;{amount}\n")
            self.assertEqual((found.price, found.problem, found.doubt), (d(price), None, None))

    def test_where_nobody_tells_it_is_asked(self) -> None:
        # "Netto" may be without a discount, or only without tax.
        for head in ("Price", "Nettopreis", "Prix HT"):
            problem = self.line(f"Article;{head};Discount\nleeks 5kg;14.00;10\n").problem
            self.assertIn("before or after the discount of 10%", str(problem), head)

    def test_an_amount_that_contradicts_is_pointed_out(self) -> None:
        found = self.line("Article;Qty;Price;Amount\nleeks 5kg;3;11.40;43.20\n")
        self.assertEqual((found.price, found.problem), (d("11.40"), None))
        self.assertIn("3 times 11.4 is not the 43.20", str(found.doubt))
        self.assertIsNone(self.line("Article;Qty;Price;Amount\nleeks 5kg;3;11.40;34.2\n").doubt)

    def test_other_money_is_never_taken_for_the_kitchens(self) -> None:
        for text, currency in (
            ("Article;Price (GBP)\nleeks 5kg;9.80\n", "GBP"), ("Article;Price\nleeks 5kg;£9.80\n", "GBP"),
            ("Article;Price\nleeks 5kg;9.80 CHF\n", "CHF"), ("Article;Price;Currency\nleeks 5kg;9.80;usd\n", "USD"),
            ("Article;Price\nleeks 5kg;$9.80\n", "$"), ("Article;Price\nleeks 5kg;€9.80\nonions 5kg;£4.00\n", "EUR and GBP"),
            ("Article;Price\nleeks 5kg;9.80\n", None),
        ):  # fmt: skip
            with self.subTest(text):
                self.assertEqual(read(text).currency, currency)

    def test_crowns_zloty_and_forint_are_read_and_named(self) -> None:
        for text, currency in (
            ("kr 9,80", "kr"),
            ("9,80 kr.", "kr"),
            ("9,80 zł", "PLN"),
            ("9,80 Kč", "CZK"),
            ("980,5 Ft", "HUF"),
        ):
            found = read(f"Article;Price\nleeks 5kg;{text}\n")
            self.assertEqual((found.currency, found.lines[0].problem), (currency, None), text)

    def test_what_a_price_is_of_can_be_said(self) -> None:
        text = "Article;Pack;Unit;Price\nleeks;5 kg;{unit};2.28\n"
        for per, unit, pack in (
            ("1 kg", "KG", "1 kg"), ("100 g", "", "100 g"), ("1 l", "", "1 l"), ("1 each", "", "1 each"),
            ("pack", "KG", "5 kg"), ("unit", "KG", "1 kg"), ("unit", "crate", "5 kg"),
        ):  # fmt: skip
            found = read(
                text.format(unit=unit), {"name": "Article", "pack": "Pack", "unit": "Unit", "price": "Price", "price_per": per}
            )
            self.assertEqual((found.lines[0].pack, found.lines[0].problem), (pack, None), (per, unit))
        # What a cell itself says of its price goes before what was said of all of them.
        self.assertEqual(read("Article;Pack;Price\nleeks;5 kg;2.28/kg\n", {"price_per": "pack"}).lines[0].pack, "1 kg")
        self.assertEqual(read("Article;Pack;Price/kg\nleeks;5 kg;2.28\n", {"price_per": "pack"}).lines[0].pack, "5 kg")

    def test_of_two_prices_side_by_side_it_is_asked_which_counts(self) -> None:
        for heads in ("Cost;Price", "Price (1);Price (2)", "List price;Tarif"):
            found = read(f"Article;{heads}\nleeks 5kg;9.80;11.40\n")
            wanted = ("price",) if heads != "List price;Tarif" else ()
            self.assertEqual(found.missing, wanted, heads)
        self.assertEqual(read("Article;Cost;Price\nleeks 5kg;9.80;11.40\n", {"price": "Price"}).lines[0].price, d("11.40"))

    def test_heads_and_what_parts_cells_can_be_said(self) -> None:
        text = "Article;Price;Code\nwashed;9;8\nArt|Preis\nleeks 5kg|9,80\n"
        self.assertEqual(read(text).delimiter, ";")
        found = read(text, {"delimiter": "|", "head_row": "3"})
        self.assertEqual((found.delimiter, found.head_row, found.heads), ("|", 3, ("Art", "Preis")))
        self.assertEqual(
            [one.price for one in read(text, {"delimiter": "|", "head_row": "3", "name": "Art"}).lines], [d("9.80")]
        )

    def test_a_form_is_for_the_heads_that_it_knows(self) -> None:
        week = ListForm(("A", "B"), {"name": "A", "price": "B", "price_per": "1 kg"})
        month = ListForm(("A", "B", "C"), {"name": "A", "price": "C"})
        bars = ListForm(("A;1", "B"), {"name": "A;1", "price": "B", "delimiter": "|"})
        forms = [month, week, bars]
        for text, price, pack in (
            ("A;B\nleeks 5kg;2.28\n", "2.28", "1 kg"), ("A;B;C\nleeks 5kg;2.28;11.40\n", "11.40", "5 kg"),
            # A column more that says nothing changes nothing.
            ("A;B;Aisle\nleeks 5kg;2.28;7\n", "2.28", "1 kg"), ("A;1|B\nleeks 5kg|9.10\n", "9.10", "5 kg"),
        ):  # fmt: skip
            (line,) = read(text, forms=forms).lines
            self.assertEqual((line.price, line.pack), (d(price), pack), text)
        # One that means something does: what was said then was said of other heads.
        self.assertEqual(read("A;B;Net price\nleeks 5kg;2.28;2.10\n", forms=forms).columns["price"], "Net price")

    def test_days_and_months_are_told_by_all_dates_of_a_file(self) -> None:
        found = read("Article;Price;From;Until\nleeks 5kg;9.80;11/02/2026;12/31/2026\n").lines[0]
        self.assertEqual((found.on, found.until), (date(2026, 11, 2), date(2026, 12, 31)))

    def test_a_remembered_head_that_is_not_there_is_no_hindrance(self) -> None:
        (line,) = read("Article;Pack;Price\nleeks;5 kg;9.80\n", {"price": "Netto EUR", "name": "Article"}).lines
        self.assertEqual((line.text, line.price), ("leeks", d("9.80")))

    def test_a_letterhead_does_not_say_what_parts_the_cells(self) -> None:
        for text in (
            "Saltmarsh Produce, Quay 3, Port\nfresh, daily, local\n,,\nArticle;Price\nleeks 5kg;9,80\n",
            "Article;Price\nleeks, washed 5kg;9,80\n", 'Article,Price\n"leeks; green 5kg","9,80"\n',
            "Saltmarsh,,,,\nArticle\tPrice\nleeks 5kg\t9,80\n",
        ):  # fmt: skip
            with self.subTest(text):
                self.assertEqual([one.price for one in read(text).lines], [d("9.80")])

    def test_a_telephone_number_is_no_formula(self) -> None:
        found = read("Saltmarsh;+49 (0)40 123456\n-;-\nArticle;Price\nleeks 5kg;9.80\n")
        self.assertEqual([one.price for one in found.lines], [d("9.80")])


class AmountsAndDates(unittest.TestCase):
    def test_one_reading_of_a_column(self) -> None:
        for column, wanted in (
            (["11,40", "1.234,50", "7"], ["11.40", "1234.50", "7"]),
            (["11.40", "1,234.50", "7"], ["11.40", "1234.50", "7"]),
            (["€ 3.20", "EUR 4.10", "5.00-", "12.50 €"], ["3.20", "4.10", "-5.00", "12.50"]),
            (["1 234,50", "1'234,50"], ["1234.50", "1234.50"]),
            (["1,234", "0,5"], ["1.234", "0.5"]),
            (["0.125"], ["0.125"]),
        ):
            with self.subTest(column):
                reader = Amounts(column)
                self.assertEqual([reader.read(text) for text in column], [Decimal(text) for text in wanted])

    def test_what_has_two_readings_has_none(self) -> None:
        self.assertIsNone(Amounts(["1,234"]).read("1,234"))
        for text in ("", "twelve", "1.2.3,4.5", "12 for 3"):
            self.assertIsNone(Amounts([text]).read(text))

    def test_days_and_months(self) -> None:
        self.assertEqual(Dates(["03/04/2026", "25/04/2026"]).read("03/04/2026"), date(2026, 4, 3))
        self.assertEqual(Dates(["03/04/2026", "04/25/2026"]).read("03/04/2026"), date(2026, 3, 4))
        self.assertEqual(Dates([]).read("3.4.26"), date(2026, 4, 3))
        self.assertEqual(Dates([]).read("2026-04-03T10:00:00"), date(2026, 4, 3))
        self.assertIsNone(Dates([]).read("31/02/2026"))


class Ubl(unittest.TestCase):
    def test_an_invoice(self) -> None:
        found = read(dict(demo_lists(DAY))["quayside-invoice-2291.xml"])
        self.assertEqual((found.kind, found.number, found.supplier), ("delivery", "QM-2291", "Quayside Meat & Fish"))
        self.assertEqual((found.on, found.currency, found.total), (DAY, "EUR", d("284.75")))
        shin, haddock, _, bacon, ice = found.lines
        self.assertEqual((shin.code, shin.pack, shin.price, shin.quantity), ("Q-204", "1 kg", d("12.90"), d(10)))
        self.assertEqual((haddock.pack, haddock.price), ("3 kg", d("51.60")))
        self.assertEqual((bacon.pack, bacon.price), ("2.27 kg", d("16.15")), "less the allowance on the line")
        self.assertEqual(ice.pack, "1 each")

    def test_a_credit_note(self) -> None:
        found = read(dict(demo_lists(DAY))["quayside-credit-note-118.xml"])
        self.assertEqual((found.kind, found.refers_to), ("credit_note", "QM-2254"))
        self.assertEqual((found.lines[0].quantity, found.lines[0].price), (d(1), d("46.50")))

    def test_a_catalogue(self) -> None:
        found = read((DATA / "catalogue.xml").read_bytes())
        self.assertEqual((found.kind, found.supplier, found.on), ("price_list", "Estuary Grocers Ltd", date(2026, 11, 23)))
        cheddar, chickpeas, milk, lemons = found.lines
        self.assertEqual((cheddar.pack, cheddar.price), ("1 kg", d("13.95")), "139.50 is the price of ten")
        self.assertEqual((chickpeas.pack, chickpeas.gtin), ("6 x 2.5 kg", "6291041500213"))
        self.assertEqual((chickpeas.on, chickpeas.until), (date(2026, 11, 24), date(2026, 12, 1)))
        self.assertTrue(milk.none_today)
        self.assertEqual((milk.pack, lemons.text, lemons.pack), ("12 x 1 l", "Lemons, large", "1 each"))

    def catalogue(self, *changes: tuple[str, str]) -> PriceList:
        """The catalogue with some of its text replaced."""
        text = (DATA / "catalogue.xml").read_text()
        for old, new in changes:
            self.assertIn(old, text)
            text = text.replace(old, new)
        return read(text)

    def test_a_price_of_a_thousand_loses_nothing(self) -> None:
        found = self.catalogue(('139.50</cbc:PriceAmount><cbc:BaseQuantity unitCode="KGM">10', '1.2345</cbc:PriceAmount>'
                                '<cbc:BaseQuantity unitCode="GRM">1000'))  # fmt: skip
        self.assertEqual((found.lines[0].pack, found.lines[0].price), ("1 g", d("0.0012345")))

    def test_units_of_more_than_one(self) -> None:
        for code, pack in (
            ("DZN", "12 each"),
            ("TNE", "1000 kg"),
            ("HLT", "100 l"),
            ("GLI", "4.54609 l"),
            ("GLL", "3.785411784 l"),
        ):
            found = self.catalogue(('unitCode="KGM">10<', f'unitCode="{code}">1<'))
            self.assertEqual(found.lines[0].pack, pack)

    def test_how_long_a_price_holds(self) -> None:
        """By the price, the price list that it is of, the line, or the catalogue as a whole."""
        ends = "<cbc:StartDate>2026-12-0{0}</cbc:StartDate><cbc:EndDate>2026-12-3{0}</cbc:EndDate>"
        period = f"<cac:ValidityPeriod>{ends}</cac:ValidityPeriod>"
        whole = ("  <cac:ProviderParty>", f"  {period.format(1)}<cac:ProviderParty>")
        of_price, of_list = period.format(0).replace("-00", "-05"), f"<cac:PriceList>{period.format(1)}</cac:PriceList>"
        found = self.catalogue(whole, ('">10</cbc:BaseQuantity>', f'">10</cbc:BaseQuantity>{of_price}'),
                               ('">12.60</cbc:PriceAmount>', f'">12.60</cbc:PriceAmount>{of_list}'))  # fmt: skip
        cheddar, chickpeas, milk, lemons = found.lines
        self.assertEqual(found.on, date(2026, 12, 1))
        self.assertEqual((cheddar.on, cheddar.until), (date(2026, 12, 5), date(2026, 12, 30)))
        self.assertEqual((chickpeas.on, chickpeas.until), (date(2026, 11, 24), date(2026, 12, 1)))
        self.assertEqual((milk.on, milk.until), (date(2026, 12, 1), date(2026, 12, 31)))
        self.assertEqual((lemons.on, lemons.until), (None, date(2026, 12, 31)))

    def test_a_swiss_thousand_and_what_is_no_number(self) -> None:
        self.assertEqual(self.catalogue((">139.50<", ">1\u2019395.00<")).lines[0].price, d("139.5"))
        self.assertEqual(read("Article;Price\nsaffron 5kg;1\u2019040.00\n").lines[0].price, d("1040"))
        found = self.catalogue((">139.50<", ">1,395.00<")).lines[0]
        self.assertEqual(found.price, None)
        self.assertIn('its price "1,395.00" is no number', str(found.problem))

    def test_what_is_priced_by_one_unit_and_delivered_by_another(self) -> None:
        invoice = dict(demo_lists(DAY))["quayside-invoice-2291.xml"].decode()
        priced = '<cbc:BaseQuantity unitCode="GRM">100</cbc:BaseQuantity>'
        shin = read(invoice.replace("</cbc:PriceAmount>", f"</cbc:PriceAmount>{priced}", 1)).lines[0]
        self.assertEqual((shin.pack, shin.price, shin.quantity), ("1 g", d("0.129"), d(10000)))

    def test_a_share_far_beyond_any_list_is_no_price(self) -> None:
        found = self.catalogue((">139.50<", ">99999999999<"), ('unitCode="KGM">10<', 'unitCode="KGM">0.000000000001<'))
        self.assertEqual(([one.price for one in found.lines[:2]]), [None, d("19.80")])
        found = read("Article;Qty;Amount\nleeks 5kg;0.000000000001;99999999999\nonions 5kg;2;9.80\n")
        self.assertEqual([one.price for one in found.lines], [None, d("4.90")])

    def test_an_allowance_on_what_is_priced_by_one_unit_and_delivered_by_another_is_asked(self) -> None:
        invoice = dict(demo_lists(DAY))["quayside-invoice-2291.xml"].decode()
        head, lines = invoice.split("<cac:InvoiceLine>", 1)
        lines = lines.replace("<cac:Item>", "<cac:AllowanceCharge/><cac:Item>", 1)
        lines = lines.replace(
            "</cbc:PriceAmount>", '</cbc:PriceAmount><cbc:BaseQuantity unitCode="LTR">1</cbc:BaseQuantity>', 1
        )
        text = f"{head}<cac:InvoiceLine>{lines}"
        problem = read(text).lines[0].problem
        self.assertEqual(problem and problem.code, "allowance_of_which")


class OrderGuides(unittest.TestCase):
    """In the manner of large distributors: a count and a size in two columns, a price of a case or of a pound."""

    def test_a_price_of_a_pound_is_no_price_of_a_case(self) -> None:
        found = read(
            "Item #,Description,Brand,Pack,Size,Case $,Per\n"
            "1001,CHUCK ROLL,Harbor,4,20 LB AVG,6.49,LB\n"
            "1003,MILK WHOLE,Mill,9,1/2 GAL,21.40,CS\n"
            "1004,ONION YELLOW,Field,1,50 LB,24.10,CS\n"
            "1005,CHICKEN BREAST,Harbor,2,10-12 LB,3.15,lb\n"
            "1006,CREAM HEAVY,Mill,12,32 FL OZ,54.00,\n"
            "1008,PARSLEY,Field,1,30 CT,18.75,CS\n"
        )
        self.assertEqual([one.code for one in found.lines][:2], ["1001", "1003"])
        told = {one.text: (one.pack, str(one.price), one.problem) for one in found.lines}
        self.assertEqual(
            told,
            {
                "CHUCK ROLL": ("1 lb", "6.49", None), "MILK WHOLE": ("9 x 0.5 gallon", "21.40", None),
                "ONION YELLOW": ("50 lb", "24.10", None), "CHICKEN BREAST": ("1 lb", "3.15", None),
                "CREAM HEAVY": ("12 x 32 fl oz", "54.00", None), "PARSLEY": ("30 each", "18.75", None),
            },
        )  # fmt: skip

    def test_a_head_of_a_sign_of_money_is_a_price(self) -> None:
        for head in ("Case $", "CASE £", "Each €", "$"):
            (line,) = read(f"Item #,Description,Pack,{head}\n7,LEEKS,5 kg,11.40\n").lines
            self.assertEqual((line.code, line.pack, line.price), ("7", "5 kg", d("11.40")), head)

    def test_where_only_a_unit_stands_it_is_asked(self) -> None:
        (line,) = read("Item #,Description,Pack,Size,Unit $,U/M\n1001,CHUCK ROLL,4,20 LB AVG,6.49,LB\n").lines
        self.assertEqual((line.pack, line.price), ("4 x 20 lb", d("6.49")))
        assert line.problem is not None
        self.assertIn("or of 1 LB", line.problem.english)

    def test_what_is_paid_for_a_mass_is_the_price_read_times_that_mass(self) -> None:
        for per, pounds in (("LB", 1), ("10 lb", 10), ("100 lb", 100)):
            (line,) = read(f"Item #,Description,Pack,Size,Price,Per\n1,CHUCK,4,20 LB,6.49,{per}\n").lines
            self.assertEqual((line.pack, line.price), (f"{pounds} lb", d("6.49")))
