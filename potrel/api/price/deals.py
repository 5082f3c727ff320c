"""Routes of meal deals."""

from __future__ import annotations

from fastapi import APIRouter
from starlette.responses import Response

from potrel.api.answers import reply
from potrel.api.dependencies import Actor, InKitchen
from potrel.api.price.replies import Deals, SaveDeals
from potrel.api.problems import described
from potrel.core.decide.deals import DealSold, deal_sold
from potrel.core.kitchen.deals import Deal
from potrel.doing import deals as doing
from potrel.doing.deals import refuse_unfit

router = APIRouter(prefix="/api", tags=["prices"])


@router.get("/deals", response_model=Deals, responses=described())
def deals(kitchens: InKitchen) -> Response:
    """The meal deals, and what each costs and leaves today."""
    costing = kitchens.costing()
    kept = list(costing.view.kitchen.deals)
    return reply(Deals, Deals(kept, [deal_sold(costing, deal) for deal in kept]))


@router.post("/deals/preview", response_model=DealSold, responses=described(400, 422))
def preview_deal(deal: Deal, kitchens: InKitchen) -> Response:
    """What a deal would cost and leave; nothing is saved."""
    costing = kitchens.costing()
    refuse_unfit(costing, deal)
    return reply(DealSold, deal_sold(costing, deal))


@router.put("/deals", status_code=204, responses=described(400, 409, 422))
def put_deals(save: SaveDeals, kitchens: InKitchen, actor: Actor) -> Response:
    """Make these all the deals there are; refused where somebody changed them since they were seen."""
    doing.put_deals(kitchens, save.deals, save.were, actor)
    return Response(status_code=204)
