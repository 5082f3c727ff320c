"""What a file is, told by its first bytes, and what is refused of any file: too large, no text, not whole, a trap."""

from __future__ import annotations

import io
import re
import zipfile
import zlib
from dataclasses import dataclass

from potrel.core.errors import PotrelError
from potrel.core.sentences import say

LARGEST_FILE = 20 * 1024 * 1024
# A sheet of 10,000 lines unpacks to some 3 MB at a ratio of 10. What goes far beyond is no price list.
_LARGEST_UNPACKED = 120 * 1024 * 1024
_MOST_MEMBERS = 400
_CHUNK = 1 << 20
_TOO_LARGE = say("unpacks_to_too_much", "the workbook unpacks to far more than a price list holds: it was not opened")
_DOCTYPE = re.compile(rb"<!\s*(?:DOCTYPE|ENTITY)", re.IGNORECASE)
# Where a cell lies. A reader makes room for all that is between the first and the last one.
_CELL = re.compile(rb"\br\s*=\s*[\"']([A-Za-z]{1,9})([0-9]{1,12})[\"']")
_FARTHEST_COLUMN, _FARTHEST_ROW = 1_000, 200_000
_FORMULA = re.compile(rb"<(?:\w+:)?f(?:\s[^<>]*)?>")
# A formula beside which there is what it came to when it was last reckoned, and one beside which there is nothing.
_FORMULA_ENDS = rb"(?:<(?:\w+:)?f(?:\s[^<>]*)?/>|</(?:\w+:)?f\s*>)\s*"
_RECKONED = re.compile(_FORMULA_ENDS + rb"<(?:\w+:)?v(?:\s[^<>]*)?>[^<]*[^<0.\s]")
_NOTHING = rb"(?:<(?:\w+:)?v\s*/>\s*|<(?:\w+:)?v(?:\s[^<>]*)?>\s*</(?:\w+:)?v\s*>\s*)?</(?:\w+:)?c\s*>"
_UNRECKONED = re.compile(_FORMULA_ENDS + _NOTHING)
# A cell whose formula came to a text says so, and that may be an empty one.
_OF_TEXT = re.compile(rb"[<:]c\s[^<>]*\bt\s*=\s*[\"']str[\"'][^<>]*>")
_NOT_RECKONED = say(
    "formulas_without_values",
    "the workbook holds formulas and not what they come to: save it again in a spreadsheet program, or paste its values only",
)
# So much of what was read before is looked at again with what follows: no cell is longer. A formula has 8,192 characters.
_OVERLAP = 1 << 15


class BadFile(PotrelError):
    """A file that is refused as a whole; the message says why and what would mend it."""


def check_size(size: int) -> None:
    """BadFile where a file has more bytes than any list would."""
    if size > LARGEST_FILE:
        english = "the file is larger than {most} MB: is it a price list? Split it if so"
        raise BadFile(say("file_too_large", english, most=LARGEST_FILE // 1024**2))
    if size == 0:
        raise BadFile(say("empty_file", "the file is empty: export it again"))


def kind_of_file(data: bytes) -> str:
    """What a file is: "xlsx", "xml" or "csv"; BadFile for what cannot be a list."""
    check_size(len(data))
    head = data[:8]
    if head.startswith(b"PK\x03\x04"):
        return "xlsx"
    for start, what in (
        (b"%PDF", "a PDF: ask the supplier for CSV, XLSX or UBL"),
        (b"\xd0\xcf\x11\xe0", "an old workbook (or one with a password): save it as XLSX without a password"),
        (b"\x89PNG", "a picture: ask the supplier for CSV, XLSX or UBL"),
        (b"\xff\xd8\xff", "a picture: ask the supplier for CSV, XLSX or UBL"),
        (b"\x1f\x8b", "a packed file: unpack it first"),
        (b"PK", "a ZIP that is not whole: fetch it again"),
    ):
        if head.startswith(start):
            raise BadFile(say("other_file", "the file is {what}", what=what))
    if text_of(data[:4096] if b"\x00" in head else data[:256], partly=True).lstrip("\ufeff \t\r\n").startswith("<"):
        return "xml"
    return "csv"


def text_of(data: bytes, *, partly: bool = False) -> str:
    """The text of a file in UTF-8, UTF-16 with a mark, or Windows' western letters; BadFile where it is none."""
    for mark, coding in ((b"\xef\xbb\xbf", "utf-8-sig"), (b"\xff\xfe", "utf-16"), (b"\xfe\xff", "utf-16")):
        if data.startswith(mark):
            return _decoded(data[: len(data) // 2 * 2] if partly and coding == "utf-16" else data, coding, partly)
    if b"\x00" in data:
        raise BadFile(say("no_text_file", "the file is no text: save it as CSV in UTF-8, or as XLSX"))
    try:
        return data.decode("utf-8")
    except UnicodeDecodeError as error:
        if partly and error.start > len(data) - 4:
            return data[: error.start].decode("utf-8")
    return _decoded(data, "cp1252", partly)


def _decoded(data: bytes, coding: str, partly: bool) -> str:
    try:
        return data.decode(coding, "ignore" if partly else "strict")
    except UnicodeDecodeError as error:
        english = "the letters at byte {place} cannot be read: save the file in UTF-8"
        raise BadFile(say("unread_letters", english, place=error.start)) from None


def check_workbook(data: bytes) -> bool:
    """BadFile where a workbook is damaged, unpacks to far more than a list, or holds entities or macros.

    Tells whether values of it were reckoned by formulas; BadFile where it keeps formulas without what they came to. A program
    that cannot reckon writes 0 beside each.
    """
    seen = _Seen()
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as book:
            members = book.infolist()
            if len(members) > _MOST_MEMBERS or sum(member.file_size for member in members) > _LARGEST_UNPACKED:
                raise BadFile(_TOO_LARGE)
            names = {member.filename for member in members}
            if "xl/workbook.xml" not in names:
                english = "the file is a ZIP, but no XLSX workbook: unpack it, or save the list as XLSX"
                raise BadFile(say("no_workbook", english))
            if any(name.lower().endswith("vbaproject.bin") for name in names):
                raise BadFile(say("macros", "the workbook holds macros: save it as XLSX without macros"))
            left = _LARGEST_UNPACKED
            for member in members:
                left = _check_member(book, member, left, seen)
    except BadFile:
        raise
    except (zipfile.BadZipFile, zipfile.LargeZipFile, zlib.error, EOFError, OSError, RuntimeError, ValueError):
        raise BadFile(say("damaged_workbook", "the workbook is damaged or not whole: fetch or save it again")) from None
    if seen.formulas and not seen.values:
        raise BadFile(_NOT_RECKONED)
    return seen.formulas


@dataclass(slots=True)
class _Seen:
    """Whether the sheets read so far hold formulas, and values that formulas came to."""

    formulas: bool = False
    values: bool = False


def _check_sheet(window: bytes, seen: _Seen) -> None:
    if _FORMULA.search(window):
        seen.formulas = True
        for found in _UNRECKONED.finditer(window):
            if not _came_to_text(window, found.start()):
                raise BadFile(_NOT_RECKONED)
        seen.values = seen.values or _RECKONED.search(window) is not None
    for letters, number in _CELL.findall(window):
        column = 0
        for letter in letters:
            column = column * 26 + letter - 64
        if column > _FARTHEST_COLUMN or int(number) > _FARTHEST_ROW:
            cell = (letters + number).decode()
            english = "the workbook has something in {cell}, far outside of any list: delete what is around the list"
            raise BadFile(say("far_cell", english, cell=cell))


def _came_to_text(window: bytes, end: int) -> bool:
    """Whether the cell of a sheet whose formula ends there holds a text."""
    since = max(0, end - _OVERLAP)
    start = max(window.rfind(b"<c ", since, end), window.rfind(b":c ", since, end))
    return start >= 0 and _OF_TEXT.match(window, start) is not None


def _check_member(book: zipfile.ZipFile, member: zipfile.ZipInfo, left: int, seen: _Seen) -> int:
    """Read a member through, counting what it really holds: a header may lie. Returns how many bytes are left of the limit."""
    xml = member.filename.endswith((".xml", ".rels"))
    sheet = member.filename.startswith("xl/worksheets/") and xml
    before = b""
    with book.open(member) as file:
        while chunk := file.read(_CHUNK):
            left -= len(chunk)
            if left < 0:
                raise BadFile(_TOO_LARGE)
            if xml:
                window = before + chunk
                if _DOCTYPE.search(window):
                    raise BadFile(say("entities", "the workbook holds XML entities, which no list needs: it was not opened"))
                if sheet:
                    _check_sheet(window, seen)
                before = window[-_OVERLAP:]
    return left
