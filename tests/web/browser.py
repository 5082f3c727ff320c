"""Chromium over a real server: what the browser tests share."""

from __future__ import annotations

import atexit
from collections.abc import Sequence
from pathlib import Path
from typing import Any, ClassVar

from playwright.sync_api import Browser, BrowserContext, Page, Request, ViewportSize, expect, sync_playwright

from potrel.core.kitchen.kitchen import Kitchen
from tests.examples import drawn
from tests.generated import ROOT
from tests.kitchens import demo
from tests.servers import DatabaseTest, Served

CHROMIUM = "/usr/bin/chromium-headless-shell"
ARGUMENTS = [
    "--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking",
    "--disable-component-update", "--disable-sync",
    # A page of the tests lives for a second: what is done ahead, or to make code quick, takes longer than it saves.
    "--in-process-gpu", "--js-flags=--no-turbofan --no-maglev --single-threaded-gc",
    "--disable-features=PaintHolding,BackForwardCache,MediaRouter,OptimizationHints,SpareRendererForSitePerProcess",
]  # fmt: skip
AXE = ROOT / "web" / "node_modules" / "axe-core" / "axe.min.js"
# [ms] Long, for a machine that stands still for a while: what is right is seen at once all the same.
_PATIENCE = 40_000
# So many looks, each so long [ms] after the one before, find nothing on its way: the page has what it asked for.
_QUIET, _STEP = 4, 30
_SIZE: ViewportSize = {"width": 1280, "height": 800}
_started: list[Browser] = []
_warm: list[BrowserContext] = []


def some(screens: Sequence[str], among: int = 3) -> list[str]:
    """The screens that this run looks at: one in so many, drawn by the front end as it is built; by `./run torture` all."""
    built = (ROOT / "web" / "dist" / "index.html").read_text()
    return [one for one in screens if drawn(among, one, built)] or [screens[len(built) % len(screens)]]


def look_at_likely(page: Page) -> None:
    """Look at each line of a list whose name is only like an item's, and find it right."""
    likely = page.locator('tr[data-state="likely"]')
    while (waiting := likely.count()) > 0:
        likely.first.get_by_role("button", name="It is right").click()
        expect(likely).to_have_count(waiting - 1)


def browser() -> Browser:
    """The one browser of this process of tests."""
    if not _started:
        driver = sync_playwright().start()
        made = driver.chromium.launch(executable_path=CHROMIUM, headless=True, args=ARGUMENTS)
        atexit.register(driver.stop)
        expect.set_options(timeout=_PATIENCE)
        _started.append(made)
    return _started[0]


def warm_context() -> BrowserContext:
    """The context of the first user of each test: what it has cached of the application stays, all else is cleared."""
    if not _warm:
        # What the application keeps of itself is tried in tests of its own: here each test sees what the server says.
        made = browser().new_context(viewport=_SIZE, service_workers="block")
        made.set_default_timeout(_PATIENCE)
        _warm.append(made)
    return _warm[0]


class BrowserTest(DatabaseTest):
    """A test with a server over a kitchen (the demo's unless another is named), and a page of it."""

    kitchen: ClassVar[Kitchen | None] = demo()
    # The address of the bench scale; a test that has one says so before this class sets up.
    scale: str | None = None
    page: Page
    context: BrowserContext
    address: str

    maxDiff = None

    def setUp(self) -> None:
        super().setUp()
        self.server = Served(self.url, scale=self.scale)
        self.address = self.server.start()
        self.addCleanup(self.server.stop)
        self.errors: list[str] = []
        # What each page has asked for, and not got yet.
        self.asked: dict[Page, set[Request]] = {}
        self.context = warm_context()
        self.page = self.new_page()
        self.addCleanup(self.clear, self.page)

    def tearDown(self) -> None:
        self.assertEqual(self.errors, [])

    def clear(self, page: Page) -> None:
        """Leave nothing to the next test but what is cached."""
        if page.is_closed():
            page = self.context.new_page()
        session = self.context.new_cdp_session(page)
        session.send("Storage.clearDataForOrigin", {"origin": self.address, "storageTypes": "local_storage,indexeddb"})
        for one in self.context.pages:
            one.close()

    def new_context(
        self, width: int = 1280, height: int = 800, *, has_touch: bool = False, keeps: bool = False
    ) -> BrowserContext:
        """A browser that nobody used yet: another user's. `keeps` is whether it keeps the application's own files."""
        context = browser().new_context(
            viewport={"width": width, "height": height}, has_touch=has_touch, service_workers="allow" if keeps else "block"
        )
        context.set_default_timeout(_PATIENCE)
        self.addCleanup(context.close)
        return context

    def new_page(self, path: str | None = None, context: BrowserContext | None = None) -> Page:
        """Another page, of the same browser where no other is named."""
        page = (context or self.context).new_page()
        page.on("pageerror", lambda error: self.errors.append(str(error)))
        asked = self.asked[page] = set()
        # The driver marks what it is given, and a method of a set cannot be marked.
        page.on("request", lambda one: asked.add(one))  # noqa: PLW0108
        page.on("requestfinished", lambda one: asked.discard(one))  # noqa: PLW0108
        page.on("requestfailed", lambda one: asked.discard(one))  # noqa: PLW0108
        if path is not None:
            self.go(path, page)
        return page

    def go(self, path: str, page: Page | None = None) -> None:
        """Open a path of the application, in the first page where no other is named."""
        page = page or self.page
        page.goto(f"{self.address}{path}")
        # A room has a heading once it has what it shows.
        page.locator("#room :is(h1, h2)").first.wait_for(state="attached")
        self.settle(page)

    def settle(self, page: Page) -> None:
        """Wait until a page has asked for nothing more for a while, and is about to ask for nothing."""
        quiet = 0
        while quiet < _QUIET or page.locator("body[data-rests]").count():
            page.wait_for_timeout(_STEP)
            quiet = 0 if self.asked[page] else quiet + 1

    def spilled(self) -> list[str]:
        """The tables that are wider than their place, and the page itself where it has to be moved sideways."""
        found: list[str] = self.page.evaluate(
            """() => {
                const right = (node) => node.getBoundingClientRect().right;
                const wide = [...document.querySelectorAll("table")].filter((one) => right(one) > right(one.parentElement) + 1);
                const page = document.documentElement.scrollWidth > innerWidth ? ["the page"] : [];
                return [...page, ...wide.map((one) => one.caption?.textContent ?? one.ariaLabel ?? "a table")];
            }"""
        )
        return found

    def axe(self, *rules: str) -> list[str]:
        """What the accessibility checker finds wrong with the page as it is, by some of its rules or by all."""
        # In the middle of a fading, colours are not what they will be.
        self.page.wait_for_function(
            "() => !document.getAnimations().some((one) => one.timeline === document.timeline && one.playState === 'running')"
        )
        if not self.page.evaluate("typeof axe === 'object'"):
            self.page.evaluate(Path(AXE).read_text())
        found: Any = self.page.evaluate(
            "(rules) => axe.run({resultTypes: ['violations'], ...(rules.length ? {runOnly: rules} : {})})", list(rules)
        )
        return [
            f"{one['id']}: {node['target']} {node['failureSummary']}" for one in found["violations"] for node in one["nodes"]
        ]
