"""Routes of the practice sheets: a question, its marking, and how each cook does."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Path
from starlette.responses import Response

from potrel.api.answers import reply
from potrel.api.dependencies import Actor, InKitchen
from potrel.api.problems import described
from potrel.api.trim.replies import Answer, MarkedReply, PracticeReply, PracticeScore, PracticeTopic
from potrel.core.decide.practice import KINDS, Exercise, PracticeKind, exercise_of
from potrel.doing.practice import mark_answer
from potrel.store.database import Connection
from potrel.store.yields import answers

router = APIRouter(prefix="/api", tags=["practice"])
Seed = Annotated[int, Path(ge=0, le=2**31)]


def _scores(connection: Connection) -> list[PracticeScore]:
    kinds: dict[str, PracticeKind] = {kind: kind for kind in KINDS}
    return [PracticeScore(cook, kinds[kind], right, asked) for cook, kind, right, asked in answers(connection)]


@router.get("/practice", response_model=PracticeReply, responses=described())
def practice(kitchens: InKitchen) -> Response:
    """The kinds of question, and how every cook did."""
    with kitchens.database.reading() as connection:
        topics = [PracticeTopic(kind, title) for kind, title in KINDS.items()]
        return reply(PracticeReply, PracticeReply(topics, _scores(connection)))


@router.get("/practice/{kind}/{seed}", response_model=Exercise, responses=described(422))
def question(kind: PracticeKind, seed: Seed, kitchens: InKitchen) -> Response:
    """A question, made of the kitchen's own yields and prices with invented weights."""
    return reply(Exercise, exercise_of(kitchens.costing(), kind, seed))


@router.post("/practice/{kind}/{seed}", response_model=MarkedReply, responses=described(400, 409, 422))
def answer(kind: PracticeKind, seed: Seed, given: Answer, kitchens: InKitchen, actor: Actor) -> Response:
    """Mark an answer, explain it by its working, and keep the score."""
    marked = mark_answer(kitchens, kind, seed, given.question, given.answer, given.by, actor)
    with kitchens.database.reading() as connection:
        return reply(MarkedReply, MarkedReply(marked, _scores(connection)))
