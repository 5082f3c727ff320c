"""A page of another origin, open in the same browser: it can neither write, nor read, nor show Potrel in a frame."""

from __future__ import annotations

import threading
from collections.abc import Iterator
from contextlib import contextmanager
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer

from tests.web.browser import BrowserTest

_PAGE = """<!doctype html><title>A free recipe book</title>
<form id="form" method="post" enctype="text/plain" target="hole" action="HERE/api/suppliers">
<input name='{"id":"by-form","name":"' value='x"}'></form>
<iframe name="hole"></iframe><iframe id="frame" src="HERE/"></iframe>
<script>
const tried = [];
const ask = (name, work) => tried.push(Promise.resolve().then(work).then((found) => [name, found], (e) => [name, String(e)]));
const body = (id) => JSON.stringify({ id, name: "By a page" });
for (const mode of ["no-cors", "cors"])
  for (const type of ["text/plain", "application/x-www-form-urlencoded", "multipart/form-data", "application/json"])
    ask(`${mode} ${type}`, async () => {
      const headers = { "Content-Type": type };
      const sent = { method: "POST", mode, headers, body: body(`by-${mode}-${type.length}`) };
      const answer = await fetch("HERE/api/suppliers", sent);
      return answer.type;
    });
const list = { method: "POST", mode: "no-cors", body: "Goods;Price\\nLeeks 5 kg;9\\n" };
ask("file", () => fetch("HERE/api/price-lists?name=x", list));
ask("no body", () => fetch("HERE/api/pushed-past/leek-potato", { method: "DELETE", mode: "no-cors" }));
ask("beacon", () => navigator.sendBeacon("HERE/api/suppliers", body("by-beacon")));
ask("read", async () => (await fetch("HERE/api/board")).text());
document.getElementById("form").submit();
Promise.all(tried).then((all) => { window.done = Object.fromEntries(all.map(([k, v]) => [k, String(v)])); });
</script>"""


@contextmanager
def elsewhere(potrel: str) -> Iterator[str]:
    """The address of a page of another origin, on a name of its own."""

    class Handler(BaseHTTPRequestHandler):
        def do_GET(self) -> None:
            self.send_response(200)
            self.send_header("Content-Type", "text/html")
            self.end_headers()
            self.wfile.write(_PAGE.replace("HERE", potrel).encode())

        def log_message(self, format: str, *args: object) -> None:
            pass

    with ThreadingHTTPServer(("127.0.0.1", 0), Handler) as server:
        threading.Thread(target=server.serve_forever, daemon=True).start()
        yield f"http://localhost:{server.server_address[1]}/"
        server.shutdown()


class AHostilePage(BrowserTest):
    def test_it_writes_nothing_reads_nothing_and_frames_nothing(self) -> None:
        page = self.page
        self.go("/")
        before = page.evaluate("fetch('/api/changes').then((answer) => answer.json())")
        with elsewhere(self.address) as address:
            page.goto(address)
            page.wait_for_function("window.done")
            done = page.evaluate("window.done")
            self.assertEqual(len(done), 12)
            self.assertIn("TypeError", done["read"])
            for name, found in done.items():
                self.assertNotIn("Leek", found, name)
            # What it shows of Potrel in a frame is nothing.
            self.assertEqual(page.frame_locator("#frame").get_by_text("Potrel", exact=True).count(), 0)
            page.wait_for_timeout(300)
        self.go("/")
        self.assertEqual(page.evaluate("fetch('/api/changes').then((answer) => answer.json())"), before)
        suppliers = page.evaluate("fetch('/api/kitchen').then((answer) => answer.json())")["suppliers"]
        self.assertEqual([one for one in suppliers if one["id"].startswith("by-")], [])
