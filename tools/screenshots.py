"""Drives the demo quilt and keeps one picture of each main view; run through tools/pictures."""

from __future__ import annotations

import re
import tempfile
from pathlib import Path

from playwright.sync_api import Page, sync_playwright

from tests.browser.conftest import FLAGS
from tests.served import Served

FOLDER = Path(__file__).resolve().parent.parent / "docs" / "screenshots"


def main() -> None:
    """One picture a view at 1280x800."""
    with tempfile.TemporaryDirectory(prefix="kenzet-pictures-") as home, sync_playwright() as play:
        served = Served(Path(home))
        browser = play.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        page.goto(served.url)
        page.get_by_test_id("canvas").wait_for()
        keep(page, "quilt")
        page.get_by_role("button", name=re.compile("^Star background")).click()
        keep(page, "fills")
        page.get_by_test_id("show-ruler").click()
        keep(page, "ruler")
        page.keyboard.press("3")
        keep(page, "marks")
        page.keyboard.press("2")
        keep(page, "kit")
        browser.close()
        served.stop()


def keep(page: Page, name: str) -> None:
    """Wait until all is still, then keep the picture."""
    page.wait_for_timeout(900)
    page.mouse.move(640, 798)
    page.screenshot(path=FOLDER / f"{name}.png", animations="disabled")


if __name__ == "__main__":
    main()
