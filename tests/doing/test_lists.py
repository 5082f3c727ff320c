"""A list is recorded as it was seen, or not at all: what is done looks a second time, under the lock of the writers."""

from __future__ import annotations

from decimal import Decimal
from unittest.mock import patch

from potrel.core.kitchen.quantities import parse_pack
from potrel.core.kitchen.supply import Offer
from potrel.core.rooms.review import LineChoice
from potrel.demo import demo_lists
from potrel.devices.supplier_service import SupplierService
from potrel.doing.kitchens import Kitchens
from potrel.doing.lists import SaveChoices, read_file, record_list, say_of_list
from potrel.doing.reviews import Reading, Reviews
from potrel.store.errors import StaleReview
from potrel.store.offers import insert_offers
from tests.kitchens import DAY, demo
from tests.servers import DatabaseTest


class SeenTwice(DatabaseTest):
    kitchen = demo()

    def setUp(self) -> None:
        super().setUp()
        self.kitchens = Kitchens(self.store, lambda: DAY)
        self.reviews = Reviews(self.kitchens, SupplierService(()))
        data = dict(demo_lists(DAY))["saltmarsh-week-48.csv"]
        *_, last = read_file(data, self.kitchens, self.reviews, "a file", "test")
        assert last.number is not None
        self.number = last.number
        say_of_list(self.kitchens, self.reviews, self.number, SaveChoices(supplier="saltmarsh"), "test")
        likely = [one for one in self.reviews.reading(self.number).reviewed.lines if one.state == "likely"]
        looked_at = [LineChoice(one.place, one.item) for one in likely]
        say_of_list(self.kitchens, self.reviews, self.number, SaveChoices(lines=looked_at), "test")

    def record(self) -> str:
        return record_list(self.kitchens, self.reviews, self.number, self.reviews.reading(self.number).seen, "test").state

    def test_a_price_that_comes_between_looking_and_writing_refuses_it(self) -> None:
        real = self.reviews.reading
        seen = real(self.number).seen

        def then_somebody_else(number: int) -> Reading:
            found = real(number)
            with self.store.writing("another") as connection:
                insert_offers(connection, [Offer("leek", "saltmarsh", parse_pack("1 kg"), Decimal("4"), DAY)], "another")
            return found

        with patch.object(self.reviews, "reading", then_somebody_else), self.assertRaises(StaleReview):
            record_list(self.kitchens, self.reviews, self.number, seen, "test")
        self.assertEqual(self.record(), "recorded")
