"""What a route needs: the kitchen, the lists under review, and who is asking."""

from __future__ import annotations

from typing import Annotated

from fastapi import Depends, Request

from potrel.doing.kitchens import Kitchens
from potrel.doing.reviews import Reviews
from potrel.store.backup import Backups

# Who acts, as long as the server knows nobody by name. What a request says of it counts nothing.
NOBODY_KNOWN = "the kitchen"


def kitchens_of(request: Request) -> Kitchens:
    """The kitchens of the running application."""
    found: Kitchens = request.app.state.kitchens
    return found


def reviews_of(request: Request) -> Reviews:
    """The reviews of the running application."""
    found: Reviews = request.app.state.reviews
    return found


def actor_of(request: Request) -> str:
    """Who is asking, by the server's own notion."""
    found: str = request.app.state.actor
    return found


def backups_of(request: Request) -> Backups | None:
    """The back-ups of the running application, where it has a folder for them."""
    found: Backups | None = request.app.state.backups
    return found


InKitchen = Annotated[Kitchens, Depends(kitchens_of)]
InReviews = Annotated[Reviews, Depends(reviews_of)]
InBackups = Annotated[Backups | None, Depends(backups_of)]
Actor = Annotated[str, Depends(actor_of)]
