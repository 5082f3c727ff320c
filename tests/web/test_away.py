"""The server is away: every room opens and says so in words, and heals by itself when it is back."""

from __future__ import annotations

from playwright.sync_api import expect

from tests.web.browser import BrowserTest, some

ROOMS = {
    "/": "Board", "/buy": "Buy", "/trim": "Trim", "/cook": "Cook", "/cook/leek-potato": "Cook", "/cook/from/paper": "Cook",
    "/buy/leek": "Buy", "/buy/lists": "Buy", "/buy/from/paper": "Buy", "/trim/practice": "Trim", "/allergens": "Board",
}  # fmt: skip


class Away(BrowserTest):
    def test_every_room_opens_without_the_server_and_heals_when_it_is_back(self) -> None:
        context = self.new_context(keeps=True)
        page = self.new_page("/", context)
        # The second visit is the first one that the worker has seen.
        page.evaluate("() => navigator.serviceWorker.ready")
        page.wait_for_function("() => navigator.serviceWorker.controller || location.reload()")
        self.server.stop()
        for path in some(list(ROOMS)):
            with self.subTest(path):
                page.goto(f"{self.address}{path}")
                expect(page.get_by_role("link", name=ROOMS[path], exact=True)).to_be_visible()
                expect(page.get_by_role("heading", name="This page could not be shown")).to_have_count(0)
        page.goto(f"{self.address}/buy/leek")
        expect(page.get_by_text("The server does not answer").first).to_be_visible()
        page.get_by_role("link", name="Cook", exact=True).click()
        expect(page.get_by_text("The server does not answer").first).to_be_visible()
        self.server.start()
        expect(page.get_by_role("link", name="Leek & potato")).to_be_visible()

    def test_a_room_that_was_never_loaded_comes_by_itself(self) -> None:
        # Nothing of the room is in this browser yet.
        page = self.new_page("/", self.new_context())
        self.server.stop()
        page.get_by_role("link", name="Trim", exact=True).click()
        expect(page.get_by_text("comes by itself as soon as the server answers")).to_be_visible()
        self.server.start()
        expect(page.get_by_role("table").first).to_be_visible()

    def test_what_the_kitchen_holds_is_not_kept(self) -> None:
        context = self.new_context(keeps=True)
        page = self.new_page("/", context)
        page.evaluate("() => navigator.serviceWorker.ready")
        kept = page.evaluate(
            """async () => {
                const names = await caches.keys();
                const kept = async (name) => (await (await caches.open(name)).keys()).map((one) => one.url);
                return (await Promise.all(names.map(kept))).flat().map((url) => new URL(url).pathname);
            }"""
        )
        self.assertIn("/index.html", kept)
        self.assertEqual([one for one in kept if one.startswith("/api/")], [])
