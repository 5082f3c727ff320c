"""One line in the place of another: own stock or carton, flour or potato, fresh or dried; each tried in the pot, side by side.

Nothing is saved: each way is the recipe as it would then be, costed like any other.
"""

from potrel.core.rooms.exchanges.exchange import Exchange, exchange, sort_of
from potrel.core.rooms.exchanges.ways import Way

__all__ = ["Exchange", "Way", "exchange", "sort_of"]
