"""A hostile page on another port of the same machine, in Chromium: nothing it does changes a pack."""

import json
import threading
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer

from humble_sum.exchange.pack_json import write_pack
from humble_sum.records.demo import demo_pack
from tests.browser.desk import DeskTest

PAGE = """<!doctype html><title>elsewhere</title><p id=done>no</p>
<iframe name=hole></iframe><iframe id=framed src="%(at)s"></iframe>
<img id=image src="%(at)sapi/packs"><script id=script src="%(at)sapi/packs"></script>
<form method=post target=hole enctype=text/plain action="%(at)sapi/packs"><input name='%(pack)s' value=""></form>
<script>
const told = [];
async function all() {
  for (const type of ["text/plain", "application/json", "application/octet-stream"]) {
    for (const path of ["api/packs", "api/intakes?name=a.csv", "api/packs/%(id)s/undo"]) {
      const body = new Blob([document.querySelector("input").name], { type });
      for (const mode of ["no-cors", "cors"])
        await fetch("%(at)s" + path, { method: "POST", mode, body }).then(
          (answer) => told.push(answer.type), () => told.push("refused"));
    }
  }
  navigator.sendBeacon("%(at)sapi/packs", document.querySelector("input").name);
  await new Promise((opened) => {
    const socket = new WebSocket("%(at)s".replace("http", "ws") + "api/packs");
    socket.onopen = () => { told.push("socket"); opened(); };
    socket.onerror = opened;
  });
  document.querySelector("form").submit();
  document.querySelector("#done").textContent = told.join(" ");
}
all();
</script>"""


class ElsewhereTest(DeskTest):
    def serve(self, page: str) -> str:
        class Handler(BaseHTTPRequestHandler):
            def do_GET(self) -> None:
                self.send_response(200)
                self.send_header("Content-Type", "text/html")
                self.end_headers()
                self.wfile.write(page.encode())

            def log_message(self, format: str, *args: object) -> None:
                pass

        server = ThreadingHTTPServer(("127.0.0.1", 0), Handler)
        threading.Thread(target=server.serve_forever, daemon=True).start()
        self.addCleanup(server.server_close)
        self.addCleanup(server.shutdown)
        return f"http://127.0.0.1:{server.server_port}/"

    def test_a_page_on_another_port_plants_and_changes_nothing(self) -> None:
        before = self.driver.execute_async_script(
            "const [url, done] = arguments; fetch(url).then((a) => a.text()).then(done)", "/api/packs"
        )
        (pack,) = json.loads(before)
        at = self.server.address if self.server.address.endswith("/") else f"{self.server.address}/"
        planted = write_pack(demo_pack()).decode().replace("'", "&#39;")
        self.driver.get(self.serve(PAGE % {"at": at, "pack": planted, "id": pack["id"]}))
        self.until(lambda: self.one("#done").text != "no", "it has tried everything")
        told = self.one("#done").text.split()
        self.assertNotIn("basic", told)
        self.assertNotIn("cors", told)
        self.assertNotIn("socket", told)
        said = " ".join(str(entry["message"]) for entry in self.driver.get_log("browser"))  # type: ignore[no-untyped-call]
        self.assertIn("frame-ancestors", said, "the page is in no frame")
        self.assertIn("ERR_BLOCKED_BY_RESPONSE", said, "nor its answers in an image or a script")
        self.open()
        after = self.driver.execute_async_script(
            "const [url, done] = arguments; fetch(url).then((a) => a.text()).then(done)", "/api/packs"
        )
        self.assertEqual(after, before)
