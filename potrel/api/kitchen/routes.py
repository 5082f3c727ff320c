"""Routes of the kitchen as a whole: settings, the document, tables of prices, the change log."""

from __future__ import annotations

from dataclasses import replace
from typing import Annotated

from fastapi import APIRouter, Query
from starlette.responses import Response

from potrel.api.answers import download, reply
from potrel.api.dependencies import Actor, InBackups, InKitchen
from potrel.api.kitchen.replies import ChangeRow, Effects, KitchenHead
from potrel.api.problems import described
from potrel.core.cost.costing import Costing
from potrel.core.cost.effects import compare
from potrel.core.errors import PotrelError
from potrel.core.kitchen.methods import methods
from potrel.core.kitchen.settings import Settings
from potrel.core.kitchen.vessels import LearnedRate, Vessel
from potrel.core.sentences import say
from potrel.doing import settings as doing
from potrel.doing.settings import SaveKitchen
from potrel.formats.kitchen_json import write_kitchen
from potrel.formats.offers_table import offers_csv, offers_xlsx
from potrel.formats.price_book import price_book_csv, price_book_xlsx
from potrel.formats.ubl_catalogue import catalogue_that_fits
from potrel.store.backup import Backup
from potrel.store.changes import changes
from potrel.store.faults import Fault, FaultSort
from potrel.store.kitchens import load_kitchen

router = APIRouter(prefix="/api", tags=["kitchen"])
_XLSX = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"
_CSV = "text/csv; charset=utf-8"


@router.get("/kitchen", response_model=KitchenHead, responses=described())
def kitchen(kitchens: InKitchen) -> Response:
    """The kitchen's name, settings, suppliers and vessels."""
    view = kitchens.costing().view
    whole = view.kitchen
    head = KitchenHead(
        whole.name, whole.currency, whole.settings, view.on, list(whole.suppliers), list(whole.vessels),
        len(whole.items), len(whole.recipes), list(methods()),
    )  # fmt: skip
    return reply(KitchenHead, head)


@router.put("/kitchen", response_model=Settings, responses=described(400, 409, 422))
def put_kitchen(save: SaveKitchen, kitchens: InKitchen, actor: Actor) -> Response:
    """Change the kitchen's name, currency and settings, and its vessels and suppliers where they are given; refused where
    somebody changed any of it since."""
    doing.save_kitchen(kitchens, save, actor)
    return reply(Settings, save.settings)


@router.post("/vessels/{vessel_id}/rates", response_model=Vessel, responses=described(404, 422))
def keep_rate(vessel_id: str, rate: LearnedRate, kitchens: InKitchen, actor: Actor) -> Response:
    """Keep what went up of a vessel under a lid at a heat, by what came out of it; of one day the last that is said."""
    return reply(Vessel, doing.keep_rate(kitchens, vessel_id, rate, actor))


@router.post("/kitchen/preview", response_model=Effects, responses=described(400, 422))
def preview_kitchen(save: SaveKitchen, kitchens: InKitchen) -> Response:
    """What other settings would do to every portion."""
    before = kitchens.costing()
    after = Costing(replace(before.view.kitchen, settings=save.settings), before.on)
    return reply(Effects, Effects(None, None, compare(before, after, list(before.view.recipes))))


@router.get("/changes", response_model=list[ChangeRow], responses=described(422))
def change_log(
    kitchens: InKitchen,
    before: Annotated[int | None, Query(ge=1, le=2**62)] = None,
    most: Annotated[int, Query(ge=1, le=500)] = 100,
) -> Response:
    """The newest changes of the kitchen, or those before a number, the newest first."""
    with kitchens.database.reading() as connection:
        rows = [ChangeRow(one.number, one.kind, one.id, one.by, one.at) for one in changes(connection, before, most)]
    return reply(list[ChangeRow], rows)


@router.get("/faults", response_model=list[Fault], responses=described())
def faults(kitchens: InKitchen) -> Response:
    """What is left out of the kitchen, because the database says of it what cannot be understood."""
    return reply(list[Fault], list(kitchens.current().faults))


@router.post("/faults/{sort}/{fault_id}/mend", status_code=204, responses=described(404, 422))
def mend_fault(sort: FaultSort, fault_id: str, kitchens: InKitchen, actor: Actor) -> Response:
    """Mend it: a recipe by its newest good revision, an item by letting go of what is wrong with it."""
    doing.mend_fault(kitchens, sort, fault_id, actor)
    return Response(status_code=204)


@router.get("/backups", response_model=list[Backup], responses=described())
def backups(kept: InBackups) -> Response:
    """The back-ups that are kept, the newest first; one is taken each day."""
    return reply(list[Backup], [] if kept is None else kept.kept())


@router.post("/backups", status_code=201, response_model=Backup, responses=described(422))
def take_backup(kept: InBackups) -> Response:
    """Take a back-up now."""
    if kept is None:
        english = "this Potrel was started without a folder for back-ups: ./run backup FILE writes one"
        raise PotrelError(say("no_backup_folder", english))
    return reply(Backup, kept.take(), 201)


@router.get("/export", responses=described(422))
def export(kitchens: InKitchen) -> Response:
    """The whole kitchen as a kitchen document; refused where a part of it cannot be understood, rather than lack that."""
    left_out = kitchens.current().faults
    if left_out:
        english = "the {sort} {name} cannot be understood, so a document would lack it: mend it first, or take a back-up"
        raise PotrelError(say("export_would_lack", english, sort=left_out[0].sort, name=left_out[0].name))
    with kitchens.database.reading() as connection:
        text = write_kitchen(load_kitchen(connection))
    return download(text, "application/json", "potrel-kitchen.json")


@router.get("/price-book.csv", responses=described(), response_class=Response)
def price_book_as_csv(kitchens: InKitchen) -> Response:
    """The price book as CSV."""
    return download(price_book_csv(kitchens.costing()), _CSV, "potrel-price-book.csv")


@router.get("/price-book.xlsx", responses=described(), response_class=Response)
def price_book_as_xlsx(kitchens: InKitchen) -> Response:
    """The price book as an XLSX workbook."""
    return download(price_book_xlsx(kitchens.costing()), _XLSX, "potrel-price-book.xlsx")


@router.get("/offers.csv", responses=described(), response_class=Response)
def offers_as_csv(kitchens: InKitchen) -> Response:
    """All offers as CSV, to be read back without loss."""
    return download(offers_csv(kitchens.costing().view.kitchen.offers), _CSV, "potrel-offers.csv")


@router.get("/offers.xlsx", responses=described(), response_class=Response)
def offers_as_xlsx(kitchens: InKitchen) -> Response:
    """All offers as an XLSX workbook."""
    return download(offers_xlsx(kitchens.costing().view.kitchen.offers), _XLSX, "potrel-offers.xlsx")


@router.get("/offers.xml", responses=described(), response_class=Response)
def offers_as_ubl(kitchens: InKitchen) -> Response:
    """All offers as a UBL 2.1 Catalogue; the newest, where there are more than one document may hold."""
    view = kitchens.costing().view
    return download(catalogue_that_fits(view.kitchen, view.on), "application/xml", "potrel-catalogue.xml")
