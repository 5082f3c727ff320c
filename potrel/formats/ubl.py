"""UBL 2.1 in: Invoice, CreditNote and Catalogue (OASIS Universal Business Language) as a list of the core."""

from __future__ import annotations

import io
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date
from decimal import Decimal, InvalidOperation
from functools import cache, lru_cache
from xml.etree.ElementTree import Element, ParseError, fromstring

from potrel.core.buy.pack_text import read_pack
from potrel.core.buy.price_list import ListKind, ListLine, Part, PriceList
from potrel.core.errors import PotrelError
from potrel.core.kitchen.kinds import ONE, plain
from potrel.core.kitchen.quantities import parse_pack
from potrel.core.numbers.units import GRAMS, MILLILITRES, kind_of
from potrel.core.sentences import say
from potrel.core.tables import table
from potrel.formats.amounts import one_line, shared_out, within_reason
from potrel.formats.upload import BadFile

NAMESPACE = "urn:oasis:names:specification:ubl:schema:xsd:"
CAC, CBC = f"{NAMESPACE}CommonAggregateComponents-2", f"{NAMESPACE}CommonBasicComponents-2"
NAMES = {"cac": CAC, "cbc": CBC}
MOST_LINES = 50_000
_STEP = 500
# The share of the work that is done when the document is parsed.
_PARSED = 0.3
_PARTY_NAMES = (
    "cac:Party/cac:PartyName/cbc:Name", "cac:Party/cac:PartyLegalEntity/cbc:RegistrationName", "cac:PartyName/cbc:Name",
    "cac:PartyLegalEntity/cbc:RegistrationName",
)  # fmt: skip


@dataclass(frozen=True, slots=True)
class _Document:
    kind: ListKind
    line: str
    quantity: str
    supplier: str


_DOCUMENTS = {
    f"{{{NAMESPACE}Invoice-2}}Invoice": _Document("delivery", "InvoiceLine", "InvoicedQuantity", "AccountingSupplierParty"),
    f"{{{NAMESPACE}CreditNote-2}}CreditNote": _Document(
        "credit_note", "CreditNoteLine", "CreditedQuantity", "AccountingSupplierParty"
    ),
    f"{{{NAMESPACE}Catalogue-2}}Catalogue": _Document("price_list", "CatalogueLine", "ContentUnitQuantity", "ProviderParty"),
}


@cache
def unit_codes() -> dict[str, tuple[Decimal, str]]:
    """How much of which unit each code of UN/ECE Recommendations 20 and 21 is that kitchens meet: a dozen is 12 each."""
    return {row["code"]: (Decimal(row["amount"]), row["unit"]) for row in table("unece_units.csv")}


def read_ubl(data: bytes) -> Iterator[Part | PriceList]:
    """Reads a UBL document: yields parts of its list as they are read, and last the list. BadFile where it is no such document,
    or holds what no list needs.
    """
    root = parsed(data)
    document = _DOCUMENTS.get(root.tag)
    if document is None:
        name = root.tag.rsplit("}", 1)[-1][:60]
        english = 'the file is XML, but "{name}" is no UBL 2.1 Invoice, CreditNote or Catalogue'
        raise BadFile(say("no_ubl", english, name=name))
    nodes = root.findall(f"cac:{document.line}", NAMES)
    if not nodes:
        name = root.tag.rsplit("}", 1)[-1]
        raise BadFile(say("no_ubl_line", "the {document} holds no {line}: is it whole?", document=name, line=document.line))
    if len(nodes) > MOST_LINES:
        raise BadFile(say("too_many_lines", "the document has more than {most} lines: split it", most=MOST_LINES))
    day = _as_date(_text_at(root, "cbc:IssueDate"))
    delivered = _as_date(_text_at(root, "cac:Delivery/cbc:ActualDeliveryDate"))
    until = _as_date(_text_at(root, "cac:ValidityPeriod/cbc:EndDate"))
    lines: list[ListLine] = []
    for start in range(0, len(nodes), _STEP):
        some = tuple(_line(node, start + place, document, until) for place, node in enumerate(nodes[start : start + _STEP], 1))
        lines += some
        yield Part(_PARSED + (1 - _PARSED) * len(lines) / len(nodes), some)
    yield PriceList(
        document.kind,
        tuple(lines),
        supplier=_party(root, document.supplier),
        number=_text_at(root, "cbc:ID"),
        on=delivered or _as_date(_text_at(root, "cac:ValidityPeriod/cbc:StartDate")) or day,
        currency=_currency(root),
        refers_to=_text_at(root, "cac:BillingReference/cac:InvoiceDocumentReference/cbc:ID"),
        total=_as_number(_text_at(root, "cac:LegalMonetaryTotal/cbc:LineExtensionAmount")),
    )


def parsed(data: bytes) -> Element:
    """The root of an XML document; BadFile where it is broken, or holds what no list needs."""
    # What a list needs of XML has no document type: entities, outside files and bombs all come with one.
    from defusedxml import DefusedXmlException
    from defusedxml.ElementTree import iterparse

    try:
        # A document type stands before the root or nowhere: up to there the careful parser reads, then the fast one.
        next(iterparse(io.BytesIO(data), ("start",), forbid_dtd=True))
        root = fromstring(data)  # noqa: S314
    except DefusedXmlException:
        english = "the XML holds a document type or entities, which no list needs: it was not opened"
        raise BadFile(say("xml_entities", english)) from None
    except (ParseError, LookupError, ValueError) as error:
        english = "the XML is broken or not whole ({cause}): fetch it again"
        raise BadFile(say("broken_xml", english, cause=str(error)[:80])) from None
    return root


def _text_at(node: Element, path: str) -> str | None:
    """The text at a path, on one line; None where there is none."""
    found = node.find(path, NAMES)
    text = "" if found is None or found.text is None else one_line(found.text)
    return text[:200] or None


@lru_cache(maxsize=4096)
def _as_number(text: str | None) -> Decimal | None:
    try:
        # A Swiss thousand stands there now and then, though the standard knows none.
        value = None if text is None else Decimal(text.replace("\u2019", "").replace("'", ""))
    except InvalidOperation:
        return None
    return within_reason(value)


@lru_cache(maxsize=4096)
def _as_date(text: str | None) -> date | None:
    if text is None:
        return None
    try:
        return date.fromisoformat(text[:10])
    except ValueError:
        return None


def _currency(root: Element) -> str | None:
    price = root.find(".//cbc:PriceAmount", NAMES)
    return _text_at(root, "cbc:DocumentCurrencyCode") or (None if price is None else price.get("currencyID"))


def _party(root: Element, role: str) -> str | None:
    names = (_text_at(root, f"cac:{role}/{path}") for path in _PARTY_NAMES)
    return next((name for name in names if name), None)


@dataclass(frozen=True, slots=True)
class Flat:
    """An element with all that is below it by its path ("Item/Name"), the first of each; and the properties of its item."""

    nodes: dict[str, Element]
    properties: dict[str, str]

    def text(self, *paths: str) -> str | None:
        """The text at the first of some paths that has any, on one line; None where none has."""
        for path in paths:
            node = self.nodes.get(path)
            if node is not None and node.text is not None:
                text = one_line(node.text)[:200]
                if text:
                    return text
        return None

    def number(self, path: str) -> Decimal | None:
        """The number at a path; None where there is none within reason."""
        return _as_number(self.text(path))

    def date(self, path: str) -> date | None:
        """The date at a path; None where there is none."""
        return _as_date(self.text(path))

    def unit(self, path: str) -> str | None:
        """The code of the unit of a quantity."""
        node = self.nodes.get(path)
        return None if node is None else node.get("unitCode")


# No line of the standard that is read here is nested deeper; the paths of one that is would take memory by the square.
_DEEPEST = 12


@lru_cache(maxsize=512)
def _local(tag: str) -> str:
    return tag.rpartition("}")[2]


@lru_cache(maxsize=2048)
def _path(above: str, tag: str) -> str:
    return above + _local(tag)


def flat(node: Element) -> Flat:
    """An element, walked through once: a list of 10,000 lines has a hundred thousand places to look at."""
    nodes: dict[str, Element] = {}
    found = Flat(nodes, {})
    todo = [("", node, 0)]
    while todo:
        above, parent, depth = todo.pop()
        for child in parent:
            path = _path(above, child.tag)
            if path not in nodes:
                nodes[path] = child
            if len(child) == 0:
                continue
            if path.endswith("AdditionalItemProperty"):
                parts = {_local(one.tag): one_line(one.text or "")[:200] for one in child}
                found.properties[parts.get("Name", "")] = parts.get("Value", "")
            elif depth < _DEEPEST:
                todo.append((f"{path}/", child, depth + 1))
    return found


def _line(node: Element, place: int, document: _Document, until: date | None) -> ListLine:
    """A line of a document; one that does not say how long its price holds does so `until` the document ends."""
    line = flat(node)
    # A catalogue's line says where its price is; an invoice's has it itself.
    price = "RequiredItemLocationQuantity/Price" if "RequiredItemLocationQuantity" in line.nodes else "Price"
    text = line.text("Item/Name", "Item/Description") or f"line {place} without a name"
    base, by = line.unit(f"{price}/BaseQuantity"), line.unit(document.quantity)
    sold_by = base or by or line.text("OrderableUnit")
    quantity = None if document.kind == "price_list" else line.number(document.quantity)
    times = _as_many(by, base)
    problem = None
    if quantity is not None and times is not None:
        quantity = within_reason(quantity * times)
    elif quantity is not None:
        quantity = None
        if "AllowanceCharge" in line.nodes:
            english = "its price is by {base}, but it was delivered by {by}, with an allowance or a charge: write what is paid"
            problem = say("allowance_of_which", english, base=base, by=by)
    written = line.text(f"{price}/PriceAmount")
    if written is not None and _as_number(written) is None:
        problem = say("price_no_number", 'its price "{price}" is no number: write it as 1234.50', price=written[:20])
    if quantity is not None and quantity <= 0:
        problem = say("goes_back", "{packs} of it: what goes back belongs on a credit note", packs=plain(quantity))
    return ListLine(
        place, text, read_pack(text).name or text,
        code=line.text("Item/SellersItemIdentification/ID"),
        gtin=line.text("Item/StandardItemIdentification/ID"),
        pack=line.properties.get("Pack") or _pack(line, text, sold_by),
        price=_price(line, price, quantity),
        quantity=quantity,
        on=_first_date(line, price, "StartDate") or line.date("Delivery/ActualDeliveryDate"),
        until=_first_date(line, price, "EndDate") or until,
        drained=line.properties.get("Drained weight of one"),
        item=line.text("Item/BuyersItemIdentification/ID"),
        supplier=line.text("SellerSupplierParty/Party/PartyIdentification/ID"),
        problem=problem,
        none_today=line.text("OrderableIndicator") == "false",
    )  # fmt: skip


def _first_date(line: Flat, price: str, which: str) -> date | None:
    """When a price begins or ends: as itself says, else its price list, else the line."""
    periods = (f"{price}/ValidityPeriod", f"{price}/PriceList/ValidityPeriod", "LineValidityPeriod")
    return next((found for one in periods if (found := line.date(f"{one}/{which}")) is not None), None)


def _as_many(by: str | None, base: str | None) -> Decimal | None:
    """How many of the unit that a price is by are in one of that which a quantity is by; None where nobody can say."""
    if base is None or by is None or by == base:
        return ONE
    (many, unit), (few, other) = (unit_codes().get(code, (ONE, "piece")) for code in (by, base))
    if kind_of(unit) != kind_of(other):
        return None
    one = GRAMS | MILLILITRES["metric"]
    return many * one.get(unit, ONE) / (few * one.get(other, ONE))


def _pack(line: Flat, text: str, sold_by: str | None) -> str | None:
    """The pack that a price is for. A price by weight or volume is that of one; a counted pack tells its content elsewhere."""
    of_one, unit = unit_codes().get(sold_by or "", (ONE, None))
    if unit is not None and (kind_of(unit) != "count" or of_one != 1):
        return f"{plain(of_one)} {unit}"
    times, inner = unit_codes().get(line.unit("Item/PackQuantity") or "", (ONE, None))
    amount, count = line.number("Item/PackQuantity"), line.number("Item/PackSizeNumeric")
    if inner is not None and amount:
        each = f"{plain(amount * times)} {inner}"
        told = each if count in (None, 0, 1) else f"{plain(count or amount)} x {each}"
        try:
            parse_pack(told)
        except PotrelError:
            return None
        return told
    said = read_pack(text).pack
    return said or (f"1 {unit}" if unit in ("each", "piece", "bunch") else None)


def _price(line: Flat, price: str, quantity: Decimal | None) -> Decimal | None:
    """The net price of one unit as it stands; the line's amount over its units, where an allowance or charge comes on top."""
    whole = shared_out(line.number("LineExtensionAmount"), quantity)
    if whole is not None and "AllowanceCharge" in line.nodes:
        return whole
    stands, base = line.number(f"{price}/PriceAmount"), line.number(f"{price}/BaseQuantity")
    if stands is None:
        return whole
    # As exact as the kitchen carries it: a price of 1000 g is divided by far more than a price of cents shows.
    return within_reason(stands / base) if base and base != 1 else stands
