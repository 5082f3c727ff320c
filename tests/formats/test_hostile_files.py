"""Files that nobody should open: each is refused with one clear line, and none takes the reader down."""

from __future__ import annotations

import contextlib
import gc
import io
import random
import tracemalloc
import unittest
import zipfile
from datetime import date
from unittest import mock

from hypothesis import given, settings
from hypothesis import strategies as st

from potrel.demo import demo_lists
from potrel.devices.simulated_supplier import catalogue_on
from potrel.formats.upload import LARGEST_FILE, BadFile, check_workbook
from tests.examples import examples
from tests.formats.lists import DATA, HEAD, changed_member, made_workbook, read
from tests.kitchens import DAY

_BOMB = """<?xml version="1.0"?><!DOCTYPE l [<!ENTITY a "ha"><!ENTITY b "&a;&a;&a;&a;&a;&a;&a;&a;">]><Invoice>&b;</Invoice>"""
_OUTSIDE = """<?xml version="1.0"?><!DOCTYPE i [<!ENTITY x SYSTEM "file:///etc/passwd">]><Invoice>&x;</Invoice>"""
_UBL = "urn:oasis:names:specification:ubl:schema:xsd:Invoice-2"


def workbook() -> bytes:
    return made_workbook([["Article", "Pack", "Price"], ["Leeks", "5 kg", 11.4]])


def zip_bomb() -> bytes:
    sheet = b"<worksheet>" + b" " * (160 * 1024 * 1024) + b"</worksheet>"
    return changed_member(workbook(), "xl/worksheets/sheet1.xml", sheet)


class Refused(unittest.TestCase):
    def refusal(self, data: bytes | str) -> str:
        with self.assertRaises(BadFile) as caught:
            read(data)
        message = str(caught.exception)
        self.assertNotIn("\n", message)
        self.assertLess(len(message), 200)
        return message

    def test_xml_bombs_and_entities(self) -> None:
        for text in (_BOMB, _OUTSIDE, '<!DOCTYPE x SYSTEM "http://127.0.0.1:1/x.dtd"><Invoice/>'):
            self.assertIn("document type or entities", self.refusal(text))

    def test_broken_and_foreign_xml(self) -> None:
        self.assertIn("broken or not whole", self.refusal("<Invoice><cac:Line>"))
        self.assertIn('"html" is no UBL 2.1', self.refusal("<html><body/></html>"))
        self.assertIn("holds no InvoiceLine", self.refusal(f'<Invoice xmlns="{_UBL}"/>'))
        invoice = dict(demo_lists(DAY))["quayside-invoice-2291.xml"]
        self.assertIn("broken or not whole", self.refusal(invoice[: len(invoice) // 2]))
        self.assertTrue(gc.isenabled(), "a refused document leaves Python as it was")

    def test_deep_xml(self) -> None:
        deep = f'<Invoice xmlns="{_UBL}">' + "<a>" * 200_000 + "</a>" * 200_000 + "</Invoice>"
        self.assertIn("holds no InvoiceLine", self.refusal(deep))

    def test_zip_bombs(self) -> None:
        bomb = zip_bomb()
        self.assertLess(len(bomb), 1024 * 1024)
        self.assertIn("unpacks to far more", self.refusal(bomb))
        many = io.BytesIO()
        with zipfile.ZipFile(many, "w") as archive:
            for number in range(500):
                archive.writestr(f"x{number}", b"")
        self.assertIn("unpacks to far more", self.refusal(many.getvalue()))

    def test_a_header_that_lies_about_the_size(self) -> None:
        lying = bytearray(zip_bomb())
        with zipfile.ZipFile(io.BytesIO(bytes(lying))) as archive:
            true_size = archive.getinfo("xl/worksheets/sheet1.xml").file_size
        while (at := lying.find(true_size.to_bytes(4, "little"))) >= 0:
            lying[at : at + 4] = (1000).to_bytes(4, "little")
        self.assertRegex(self.refusal(bytes(lying)), "damaged or not whole|unpacks to far more")

    def test_workbooks_that_do_more_than_hold_values(self) -> None:
        for name, content, words in (
            ("xl/vbaProject.bin", b"x", "holds macros"),
            ("xl/sharedStrings.xml", _BOMB.encode(), "holds XML entities"),
        ):
            self.assertIn(words, self.refusal(changed_member(workbook(), name, content)))

    def test_formulas_of_a_workbook_are_read_by_what_they_came_to(self) -> None:
        sheet = '<worksheet><sheetData><row r="1"><c r="A1">{0}</c></row></sheetData></worksheet>'
        for cell in (
            "<f>SUM(A2)</f>", "<f>SUM(A2)</f><v/>", "<f>SUM(A2)</f> <v> </v> ", '<f t="shared" si="0"/>',
            "<x:f>SUM(A2)</x:f><x:v></x:v>",
            "<f>SUM(A2)</f><v>0</v>", "<f>A2</f><v>0.00</v>", "<f>A2</f><v>3</v></c><c><f>A3</f>",
        ):  # fmt: skip
            said = self.refusal(changed_member(workbook(), "xl/worksheets/sheet1.xml", sheet.format(cell).encode()))
            self.assertIn("formulas and not what they come to", said, cell)
            # Where one part of the file ends and the next begins, nothing slips through.
            with mock.patch("potrel.formats.upload._CHUNK", 7):
                again = self.refusal(changed_member(workbook(), "xl/worksheets/sheet1.xml", sheet.format(cell).encode()))
            self.assertEqual(again, said, cell)

    def test_a_formula_that_came_to_an_empty_text_was_reckoned(self) -> None:
        sheet = (
            '<worksheet><sheetData><row r="1"><c r="A1" t="inlineStr"><is><t>Article</t></is></c></row><row r="2">'
            '<c r="A2"><f>1+1</f><v>2</v></c><c r="B2" s="1" t="str"><f>IF(A2=&quot;&quot;,&quot;&quot;,A2)</f><v></v></c>'
            "{0}</row></sheetData></worksheet>"
        )
        for chunk in (7, 1 << 20):
            with mock.patch("potrel.formats.upload._CHUNK", chunk):
                data = changed_member(workbook(), "xl/worksheets/sheet1.xml", sheet.format("").encode())
                self.assertTrue(check_workbook(data))
                more = '<c r="C2"><f>A2*2</f><v></v></c>'
                data = changed_member(workbook(), "xl/worksheets/sheet1.xml", sheet.format(more).encode())
                self.assertIn("formulas and not what they come to", self.refusal(data))

    def test_formulas_in_cells_of_text(self) -> None:
        for cell in ("=1+1", '=HYPERLINK("http://x")', "+cmd|' /C calc'!A0", "@SUM(A1:A9)"):
            self.assertIn("row 2 holds a formula", self.refusal(f'{HEAD}A1;"{cell.replace(chr(34), chr(34) * 2)}";5 kg;3.20\n'))

    def test_a_formula_in_any_row_and_in_any_writing(self) -> None:
        good = "A1;Leeks 5 kg;5 kg;3.20\n"
        for cell in ("=1+1", "＝1+1", "a,=cmd", "＋cmd|x", "＠SUM(1)"):
            for place in (0, 1, 7):
                text = HEAD + good * place + f'A1;"{cell}";5 kg;3.20\n' + good * 3
                self.assertIn(f"row {place + 2} holds a formula", self.refusal(text), cell)

    def test_a_cell_far_outside_is_refused_before_a_reader_makes_room_for_it(self) -> None:
        for cell in ("XFD1048576", "A1048576", "XFD1", "ZZZZ9", "A99999999999"):
            for reference in (f'r="{cell}"', f"r='{cell}'", f'r = "{cell}"'):
                sheet = f"<worksheet><sheetData><row><c {reference}><v>3</v></c></row></sheetData></worksheet>"
                data = changed_member(workbook(), "xl/worksheets/sheet1.xml", sheet.encode())
                self.assertIn(f"something in {cell}", self.refusal(data))

    def test_xml_that_is_nested_without_end_takes_no_memory(self) -> None:
        lines = "<cac:InvoiceLine xmlns:cac='urn:oasis:names:specification:ubl:schema:xsd:CommonAggregateComponents-2'>"
        deep = f"<Invoice xmlns='{_UBL}'>{lines}{'<cac:Item>' * 20_000}{'</cac:Item>' * 20_000}</cac:InvoiceLine></Invoice>"
        tracemalloc.start()
        with contextlib.suppress(BadFile):
            read(deep)
        _, most = tracemalloc.get_traced_memory()
        tracemalloc.stop()
        self.assertLess(most, 60 * 2**20)

    def test_what_only_looks_like_a_formula_is_read(self) -> None:
        found = read(f"{HEAD}-;- leeks -;5 kg;-3.20\n")
        self.assertEqual(str(found.lines[0].price), "-3.20")

    def test_other_kinds_of_file(self) -> None:
        for start, words in (
            (b"%PDF-1.7", "a PDF: ask the supplier"), (b"\xd0\xcf\x11\xe0\xa1\xb1", "an old workbook"),
            (b"\x89PNG\r\n", "a picture"), (b"\x1f\x8b\x08", "a packed file"), (b"", "empty"),
            (b"\x00\x01\x02\x03" * 50, "no text"),
        ):  # fmt: skip
            self.assertIn(words, self.refusal(start))
        plain_zip = io.BytesIO()
        with zipfile.ZipFile(plain_zip, "w") as archive:
            archive.writestr("a.txt", "x")
        self.assertIn("no XLSX workbook", self.refusal(plain_zip.getvalue()))

    def test_letters_that_cannot_be_read(self) -> None:
        self.assertIn("save the file in UTF-8", self.refusal(HEAD.encode() + b"A1;Cr\x81me;1 kg;3.20\n"))

    def test_broken_csv(self) -> None:
        self.assertIn("row 2 of the CSV is broken", self.refusal('Article,Price\n"leeks,3.20\n'))
        self.assertIn("has a cell of 5000 characters", self.refusal(f"{HEAD}A1;{'x' * 5000};5 kg;3.20\n"))
        self.assertIn("columns: is this a price list", self.refusal(";" * 500))
        self.assertIn("holds no line", self.refusal("\n\n  \n"))

    def test_truncated_workbooks(self) -> None:
        whole = workbook()
        for size in range(60, len(whole) - 1, 400):
            self.assertIn("damaged or not whole", self.refusal(whole[:size]))

    def test_too_much(self) -> None:
        self.assertIn("larger than 20 MB", self.refusal(b"a" * (LARGEST_FILE + 1)))
        self.assertIn("more than 50000 rows", self.refusal("Article,Price\n" + "leeks 5kg,3.20\n" * 50_001))


class Fuzzed(unittest.TestCase):
    """Whatever bytes come, the answer is a list or a refusal."""

    def try_out(self, data: bytes) -> None:
        with contextlib.suppress(BadFile):
            read(data)

    @settings(max_examples=examples(150))
    @given(st.binary(max_size=400))
    def test_any_bytes(self, data: bytes) -> None:
        self.try_out(data)

    @settings(max_examples=examples(150))
    @given(st.text(max_size=300))
    def test_any_table(self, text: str) -> None:
        self.try_out((HEAD + text).encode("utf-8", "surrogatepass"))

    def test_good_files_with_bytes_changed(self) -> None:
        dice = random.Random(7)
        good = [
            workbook(), (DATA / "libreoffice-price-list.xlsx").read_bytes(), (DATA / "catalogue.xml").read_bytes(),
            catalogue_on(date(2026, 11, 24)), *(data for _, data in demo_lists(DAY)),
        ]  # fmt: skip
        for data in good:
            for _ in range(60):
                bad = bytearray(data)
                for _ in range(dice.randint(1, 8)):
                    bad[dice.randrange(len(bad))] = dice.randrange(256)
                self.try_out(bytes(bad[: dice.choice((len(bad), dice.randrange(len(bad))))]))
