"""A king-size top in the browser: 13 by 13 blocks of 16 patches and more, every frame of panning and zooming.

Frames are told as a ratio to the page's own idle frame in the same run; a click as the time until the
patch under it is outlined, against one idle frame. Needs Debian's Chromium.
"""

from __future__ import annotations

import json
import re
import tempfile
import urllib.request
from pathlib import Path
from statistics import median, quantiles
from time import perf_counter

from playwright.sync_api import Page, sync_playwright

from bench.key_to_drawn import presses
from kenzet.core.changes import CHANGES
from kenzet.core.changes.new_quilt import NewQuilt, new_quilt
from kenzet.core.top.document import write
from kenzet.core.top.patterns import PATTERNS
from kenzet.core.top.quilt_layout import QuiltLayout
from tests.browser.conftest import FLAGS
from tests.served import Served

_STEPS = 120
_FRAMES = """() => new Promise(done => {
  const times = []; let before = performance.now()
  window.__watch = true
  const next = now => { times.push(now - before); before = now; window.__watch ? requestAnimationFrame(next) : done(times.slice(1)) }
  requestAnimationFrame(next)
})"""


def king_size() -> QuiltLayout:
    """13 by 13 checkerboards of 16 patches with sashes, a border, and a grid in every dark patch."""
    laid = QuiltLayout(
        new_quilt(NewQuilt.model_validate({"name": "King size", "columns": 13, "rows": 13, "block": "8 in"}))
    )
    art = {"kind": "pattern", "pattern": {"kind": "checker", "across": 4, "down": 4}, "fabrics": {}}
    roles = PATTERNS["checker"].model_validate(art["pattern"]).roles()
    art["fabrics"] = {role: ("ground", "dark")[k % 2] for k, role in enumerate(roles)}
    places = [place for place, _ in laid.quilt.layout.places()]
    for change in (
        {"kind": "new block", "block": {"name": "Sixteen", "width": "8 in", "height": "8 in", "art": art}},
        {"kind": "paint", "places": places, "block": "sixteen"},
        {"kind": "sashing", "sashing": {"width": "1 in", "fabric": "second", "cornerstones": "accent"}},
    ):
        laid = QuiltLayout(CHANGES[change["kind"]].model_validate(change).apply(laid)[0])
    name = next(iter(laid.top.at["1-1"].patches))
    for change in (
        {"kind": "zone", "refs": [f"1-1/{name}"]},
        {"kind": "zone", "refs": [f"sashing/{key}" for key in laid.top.at["sashing"].patches]},
    ):
        laid = QuiltLayout(CHANGES[change["kind"]].model_validate(change).apply(laid)[0])
    for zone in laid.quilt.zones:
        fill = {"kind": "fill", "zone": zone, "fill": {"kind": "grid", "spacing": "1/2 in"}}
        laid = QuiltLayout(CHANGES["fill"].model_validate(fill).apply(laid)[0])
    return laid


def frames(page: Page, move) -> list[float]:
    """The time between frames, ms, while ``move`` is done."""
    page.evaluate(f"void (window.__frames = ({_FRAMES})())")
    move()
    return page.evaluate("async () => { window.__watch = false; return await window.__frames }")


def told(name: str, found: list[float], idle: float) -> None:
    p95 = quantiles(found, n=20)[-1]
    print(
        f"  {name}: {len(found)} frames, median {median(found):.1f} ms ({median(found) / idle:.2f} of an idle frame), "
        f"95 % under {p95:.1f} ms ({p95 / idle:.2f}), longest {max(found):.1f} ms"
    )


def main() -> None:
    laid = king_size()
    patches = sum(len(part.patches) * len(part.places) for part in laid.top.parts.values())
    with tempfile.TemporaryDirectory(prefix="kenzet-bench-") as home, sync_playwright() as play:
        app = Served(Path(home), "--empty")
        body = json.dumps({"plan": write(laid.quilt), "unit": "in"}).encode()
        asked = urllib.request.Request(f"{app.url}/api/quilts", body, {"Content-Type": "application/json"})
        quilt = json.loads(urllib.request.urlopen(asked).read())["quilts"][0]["id"]
        browser = play.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        began = perf_counter()
        page.goto(f"{app.url}/quilt/{quilt}/top?page=zones")
        page.get_by_test_id("canvas").wait_for()
        page.evaluate("() => new Promise(done => requestAnimationFrame(() => requestAnimationFrame(done)))")
        print(f"king size: {patches:,} patches; opened and drawn in {perf_counter() - began:.2f} s")
        idle = median(frames(page, lambda: page.wait_for_timeout(1000)))
        print(f"  idle: {idle:.1f} ms a frame")
        page.mouse.move(500, 400)

        def pan() -> None:
            page.mouse.down()
            for k in range(_STEPS):
                page.mouse.move(500 + (k % 60) * 4 - 120, 400 + (k % 40) * 3)
            page.mouse.up()

        def zoom() -> None:
            for k in range(_STEPS):
                page.mouse.wheel(0, -60 if k % 40 < 20 else 60)

        told("pan", frames(page, pan), idle)
        told("zoom", frames(page, zoom), idle)
        page.keyboard.press("f")
        page.wait_for_timeout(600)
        page.evaluate("""() => { window.__took = []; const pane = document.querySelector('[data-testid=canvas]')
          pane.addEventListener('pointermove', () => { const began = performance.now(); queueMicrotask(() => window.__took.push(performance.now() - began)) }) }""")
        for k in range(60):
            page.mouse.move(300 + k * 8, 150 + (k * 37) % 500)
        took = page.evaluate("window.__took")
        print(
            f"  finding the patch under the pointer: median {median(took):.2f} ms, longest {max(took):.2f} ms"
        )
        began = perf_counter()
        page.mouse.click(500, 400)
        page.get_by_test_id("make-zone").wait_for()
        print(
            f"  from a click to its patch in the panel: {(perf_counter() - began) * 1e3:.0f} ms, the browser's driver included"
        )
        page.goto(f"{app.url}/quilt/{quilt}/fills")
        for zone in [info.name for info in laid.quilt.zones.values()]:
            page.get_by_role("button", name=re.compile(f"^{re.escape(zone)}")).first.click()
            page.get_by_test_id("other-fill").wait_for()
            cuts = quantiles(presses(page), n=20)
            print(
                f"  a spacing change in {zone}, all in view: median {cuts[9]:.0f} ms, 95 % under {cuts[18]:.0f} ms (wanted 250)"
            )
        browser.close()
        app.stop()


if __name__ == "__main__":
    main()
