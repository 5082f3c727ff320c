"""Routes of the bench scale: what it shows, and taring it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

from fastapi import APIRouter, Depends, Request
from starlette.responses import Response

from potrel.api.answers import reply
from potrel.api.problems import described
from potrel.core.kitchen.keyed import Keyed
from potrel.core.kitchen.kinds import Rate
from potrel.core.sentences import say
from potrel.devices.scale import Reading, Scale, ScaleLost

router = APIRouter(prefix="/api", tags=["scale"])


@dataclass(frozen=True, slots=True)
class PutOn(Keyed):
    """What lies on the pan of a simulated scale [g]; or for how long [s] it is unplugged."""

    grams: Rate | None = None
    unplug_seconds: Rate | None = None


def _scale_of(request: Request) -> Scale:
    found: Scale = request.app.state.scale
    return found


TheScale = Annotated[Scale, Depends(_scale_of)]


@router.get("/scale", response_model=Reading, responses=described())
def shows(scale: TheScale) -> Response:
    """What the scale shows now."""
    return reply(Reading, scale.reading())


@router.post("/scale/tare", status_code=204, responses=described(409))
def tare(scale: TheScale) -> Response:
    """Set what is on the scale to nothing."""
    scale.tare()
    return Response(status_code=204)


@router.post("/scale/put", status_code=204, responses=described(400, 409, 422))
def put_on(put: PutOn, scale: TheScale) -> Response:
    """Put something on the simulated scale, or pull its plug; a real one is loaded by hand."""
    if not scale.reading().simulated:
        raise ScaleLost(say("scale_is_real", "only a simulated scale is loaded from here: put it on the pan"))
    if put.grams is not None:
        scale.say(f"put {put.grams:f}")
    if put.unplug_seconds is not None:
        scale.say(f"unplug {put.unplug_seconds:f}")
    return Response(status_code=204)
