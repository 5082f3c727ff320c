"""A UBL 2.1 Catalogue out, of every offer of a kitchen, and back: a round trip loses nothing."""

from __future__ import annotations

from collections.abc import Container, Iterable
from datetime import date
from xml.etree import ElementTree as ET

from potrel.core.kitchen.items import Item
from potrel.core.kitchen.kinds import ONE, as_written, plain
from potrel.core.kitchen.kitchen import Kitchen
from potrel.core.kitchen.supply import Offer
from potrel.formats.offers_table import offer_from
from potrel.formats.ubl import CAC, CBC, MOST_LINES, NAMES, NAMESPACE, flat, parsed, unit_codes
from potrel.formats.upload import LARGEST_FILE

# What UBL has no element of its own for stands as a property of the item, by these names.
_PROPERTIES = {
    "pack": "Pack", "drained": "Drained weight of one", "corrects": "Corrects", "source": "Read from",
    "delivered": "Packs delivered", "withdrawn": "Taken back", "id": "Offer",
}  # fmt: skip
_CATALOGUE = f"{NAMESPACE}Catalogue-2"


def _under(parent: ET.Element, path: str, text: str | None = None, **attributes: str) -> ET.Element:
    """Add an element, and those above it ("cac:Party/cbc:Name"), below a parent."""
    node = parent
    for step in path.split("/"):
        prefix, name = step.split(":")
        node = ET.SubElement(node, f"{{{CAC if prefix == 'cac' else CBC}}}{name}")
    node.text = text
    node.attrib.update(attributes)
    return node


def catalogue_that_fits(kitchen: Kitchen, today: date, largest: int = LARGEST_FILE) -> bytes:
    """The catalogue of all offers, or of the newest ones, as many as the reader of such a document takes; it says how many."""
    every = kitchen.offers
    newest = list(every[-MOST_LINES:])
    while len(data := write_catalogue(kitchen, newest, today, of=len(every))) > largest:
        # A twentieth of room, since lines are not all of one size.
        newest = newest[-max(1, int(len(newest) * largest / len(data) * 0.95)) :]
    return data


def write_catalogue(
    kitchen: Kitchen,
    offers: Iterable[Offer],
    today: date,
    number: str = "1",
    *,
    sells: bool = False,
    none_today: Container[str] = frozenset(),
    of: int | None = None,
) -> bytes:
    """The catalogue of some offers of a kitchen [money net of tax], each with its supplier, pack, codes and dates.

    Where the writer itself `sells`, the ids of items and suppliers, which mean nothing to a buyer, stay out;
    `none_today` are the ids of items that cannot be ordered, `of` says how many offers there are in all.
    """
    for prefix, space in (("", _CATALOGUE), ("cac", CAC), ("cbc", CBC)):
        ET.register_namespace(prefix, space)
    offers = list(offers)
    root = ET.Element(f"{{{_CATALOGUE}}}Catalogue")
    _under(root, "cbc:UBLVersionID", "2.1")
    _under(root, "cbc:ID", number)
    said = f"Prices of {kitchen.name}"[:120]
    _under(root, "cbc:Name", said if of is None or of == len(offers) else f"{said}, the newest {len(offers)} of {of} offers")
    _under(root, "cbc:IssueDate", today.isoformat())
    _under(root, "cbc:LineCountNumeric", str(len(offers)))
    suppliers = {supplier.id: supplier.name for supplier in kitchen.suppliers}
    used = {offer.supplier for offer in offers}
    provider = suppliers[next(iter(used))] if len(used) == 1 else kitchen.name
    _under(root, "cac:ProviderParty/cac:PartyName/cbc:Name", provider)
    _under(root, "cac:ReceiverParty/cac:PartyName/cbc:Name", kitchen.name)
    items = {item.id: item for item in kitchen.items}
    for place, offer in enumerate(offers, 1):
        line = _under(root, "cac:CatalogueLine")
        _under(line, "cbc:ID", offer.id or str(place))
        _under(line, "cbc:OrderableIndicator", "false" if offer.item in none_today else "true")
        _under(line, "cbc:OrderableUnit", "XPK")
        if not sells:
            seller = _under(line, "cac:SellerSupplierParty/cac:Party")
            _under(seller, "cac:PartyIdentification/cbc:ID", offer.supplier)
            _under(seller, "cac:PartyName/cbc:Name", suppliers[offer.supplier])
        _terms(line, offer, kitchen.currency)
        _item(line, offer, items[offer.item], None if sells else offer.item)
    written: bytes = ET.tostring(root, encoding="utf-8", xml_declaration=True)
    return written


def _terms(line: ET.Element, offer: Offer, currency: str) -> None:
    period = _under(line, "cac:LineValidityPeriod")
    _under(period, "cbc:StartDate", offer.on.isoformat())
    if offer.until is not None:
        _under(period, "cbc:EndDate", offer.until.isoformat())
    price = _under(line, "cac:RequiredItemLocationQuantity/cac:Price")
    _under(price, "cbc:PriceAmount", as_written(offer.price), currencyID=currency)
    _under(price, "cbc:BaseQuantity", "1", unitCode="XPK")


def _item(line: ET.Element, offer: Offer, item: Item, buyers_id: str | None) -> None:
    node = _under(line, "cac:Item")
    pack = offer.pack
    # What a pint is differs from kitchen to kitchen, and no code leaves that open: the pack in words tells it then.
    code = next((code for code, one in unit_codes().items() if one == (ONE, pack.unit)), None)
    if code is not None:
        _under(node, "cbc:PackQuantity", plain(pack.amount), unitCode=code)
        _under(node, "cbc:PackSizeNumeric", plain(pack.count))
    _under(node, "cbc:Name", item.name)
    if buyers_id is not None:
        _under(node, "cac:BuyersItemIdentification/cbc:ID", buyers_id)
    if offer.code is not None:
        _under(node, "cac:SellersItemIdentification/cbc:ID", offer.code)
    if offer.gtin is not None:
        _under(node, "cac:StandardItemIdentification/cbc:ID", offer.gtin, schemeID="0160")
    values = {
        "pack": pack.text, "drained": None if offer.drained is None else offer.drained.text,
        "corrects": offer.corrects, "source": offer.source,
        "delivered": None if offer.delivered is None else as_written(offer.delivered),
        "withdrawn": "yes" if offer.withdrawn else None, "id": offer.id,
    }  # fmt: skip
    for key, name in _PROPERTIES.items():
        value = values[key]
        if value is not None:
            one = _under(node, "cac:AdditionalItemProperty")
            _under(one, "cbc:Name", name)
            _under(one, "cbc:Value", value)


def read_catalogue(data: bytes) -> tuple[Offer, ...]:
    """The offers in a catalogue that `write_catalogue` wrote; BadDocument says in which line something is wrong."""
    lines = parsed(data).findall("cac:CatalogueLine", NAMES)
    return tuple(_read_line(line, place) for place, line in enumerate(lines, 1))


def _read_line(node: ET.Element, place: int) -> Offer:
    line = flat(node)
    found: dict[str, object] = {key: line.properties[name] for key, name in _PROPERTIES.items() if name in line.properties}
    for key, path in (
        ("item", "Item/BuyersItemIdentification/ID"),
        ("supplier", "SellerSupplierParty/Party/PartyIdentification/ID"),
        ("code", "Item/SellersItemIdentification/ID"),
        ("gtin", "Item/StandardItemIdentification/ID"),
        ("on", "LineValidityPeriod/StartDate"),
        ("until", "LineValidityPeriod/EndDate"),
        ("price", "RequiredItemLocationQuantity/Price/PriceAmount"),
    ):
        text = line.text(path)
        if text is not None:
            found[key] = text
    return offer_from(found, f"line {place}")
