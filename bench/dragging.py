"""Dragging the ruler on the bench: frames while it moves, against frames while nothing does, in one run."""

from __future__ import annotations

import re
import tempfile
from pathlib import Path
from statistics import median, quantiles

from playwright.sync_api import Page, sync_playwright

from tests.browser.conftest import FLAGS
from tests.served import Served

MOVES = 240
LONG = 20.0  # ms: a frame longer than this is one at less than 50 a second
WATCH = """() => {
  window.frames_ms = []
  let last = performance.now()
  const tick = (now) => { window.frames_ms.push(now - last); last = now; window.going && requestAnimationFrame(tick) }
  window.going = true
  requestAnimationFrame(tick)
}"""

ON_PLASTIC = """() => {
  for (let x = 140; x < 800; x += 10) for (let y = 150; y < 650; y += 10)
    if (document.elementFromPoint(x, y)?.dataset.testid === 'body') return [x, y]
}"""


def frames(page: Page, moving: bool) -> list[float]:
    """ms of every frame while the ruler is dragged in rings, or while the mouse stands still."""
    x, y = page.evaluate(ON_PLASTIC)
    before = page.get_by_test_id("bench-ruler").get_attribute("data-lay")
    page.mouse.move(x, y)
    page.mouse.down()
    page.evaluate(WATCH)
    for k in range(MOVES):
        if moving:
            page.mouse.move(x + (k * 7) % 90, y + (k * 5) % 70)
        else:
            page.wait_for_timeout(4)
    took: list[float] = page.evaluate("(window.going = false, window.frames_ms)")
    page.mouse.up()
    if moving and page.get_by_test_id("bench-ruler").get_attribute("data-lay") == before:
        raise RuntimeError("the ruler was not dragged")
    return took[2:]


def settled(page: Page) -> None:
    """Until the ruler lies still: it is laid once the zone has come."""
    ruler, before = page.get_by_test_id("bench-ruler"), ""
    while (now := ruler.get_attribute("data-lay")) != before:
        before = now
        page.wait_for_timeout(900)


def main() -> None:
    with tempfile.TemporaryDirectory(prefix="kenzet-bench-") as home:
        served = Served(Path(home))
        try:
            with sync_playwright() as play:
                page = play.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS).new_page(
                    viewport={"width": 1280, "height": 800}
                )
                page.goto(served.url)
                page.get_by_role("button", name="Harbour Lights").first.click()
                page.wait_for_url("**/fills")
                for zone in ("Star centre", "Star background", "Sashing"):
                    page.goto(page.url.replace("/fills", "/bench"))
                    page.get_by_role("button", name=re.compile(f"^{zone}")).click()
                    page.get_by_test_id("bench-straight-ruler").click()
                    settled(page)
                    still, drag = frames(page, False), frames(page, True)
                    slow = sum(one > LONG for one in drag) / len(drag)
                    print(
                        f"{zone:16} frame {median(drag):5.1f} ms against {median(still):4.1f} at rest: "
                        f"ratio {median(drag) / median(still):4.2f}; 95 % under {quantiles(drag, n=20)[18]:5.1f} ms; "
                        f"{slow:4.0%} slower than 50 a second"
                    )
        finally:
            served.stop()


if __name__ == "__main__":
    main()
