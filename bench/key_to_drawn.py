"""From the key to the drawn quilt: a change of spacing with the whole demo quilt on the screen."""

from __future__ import annotations

import re
import tempfile
from pathlib import Path
from statistics import quantiles

from playwright.sync_api import Page, sync_playwright

from tests.browser.conftest import FLAGS
from tests.browser.test_walk import take_fill
from tests.served import Served

PRESSES = 60
WATCH = """() => {
  window.took = []
  let began = 0
  addEventListener('keydown', (e) => { if ('[]'.includes(e.key)) began = performance.now() }, true)
  new MutationObserver(() => {
    if (!began) return
    const from = began
    began = 0
    requestAnimationFrame(() => setTimeout(() => window.took.push(performance.now() - from)))
  }).observe(document.querySelector('[data-testid=canvas] > canvas'), { attributes: true, attributeFilter: ['data-drawn'] })
}"""


def measure(page: Page, zone: str, group: str, fill: str) -> list[float]:
    """ms from the key to the frame after which the new lines stand, whole quilt in sight."""
    page.get_by_role("button", name=re.compile(f"^{zone}")).click()
    take_fill(page, group, fill)
    return presses(page)


def presses(page: Page) -> list[float]:
    """The same for the zone and the fill at hand."""
    page.wait_for_timeout(400)
    page.keyboard.press("f")
    page.wait_for_timeout(500)
    page.evaluate(WATCH)
    for k in range(PRESSES):
        page.keyboard.press("]" if (k // 3) % 2 == 0 else "[")
        while page.evaluate("window.took.length") <= k:
            page.wait_for_timeout(10)
        page.wait_for_timeout(60)
    took = page.evaluate("window.took")
    page.get_by_role("button", name="all zones").click()
    return took


def main() -> None:
    with tempfile.TemporaryDirectory(prefix="kenzet-bench-") as home:
        served = Served(Path(home))
        try:
            with sync_playwright() as play:
                browser = play.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)
                print(f"key to drawn: whole demo quilt in sight, {PRESSES} presses each")
                for zone, group, fill in (
                    ("Star background", "Straight", "grid"),
                    ("Star background", "Straight", "lines"),
                    ("Star background", "Curves", "waves"),
                    ("Star points", "Echoes", "echo"),
                    ("Sashing", "Straight", "grid"),
                ):
                    page = browser.new_page(viewport={"width": 1280, "height": 800})
                    page.goto(served.url)
                    page.get_by_role("button", name="Harbour Lights", exact=True).click()
                    page.get_by_test_id("canvas").wait_for()
                    cuts = quantiles(measure(page, zone, group, fill), n=20)
                    print(
                        f"  {zone}, {fill}: median {cuts[9]:.0f} ms, 95% under {cuts[18]:.0f} ms (wanted 150)"
                    )
                    page.close()
                browser.close()
        finally:
            served.stop()


if __name__ == "__main__":
    main()
