"""Drives the demo quilt and keeps one picture of each main view; run through tools/pictures."""

from __future__ import annotations

import re
import tempfile
import time
import urllib.request
from pathlib import Path

from playwright.sync_api import Page, sync_playwright

from kenzet.formats.photo import jpeg_of
from kenzet.standins.machine import MachineStandIn, over_the_wire, quilt_called
from kenzet.standins.printer import PrinterStandIn
from tests.browser.conftest import FLAGS
from tests.browser.test_bench import IN, drag, lay, on_the_bench
from tests.browser.test_walk import choose
from tests.photographed import block_at, photographed
from tests.served import Served

FOLDER = Path(__file__).resolve().parent.parent / "docs" / "screenshots"


WITHOUT_PATHS = """() => {
  const walk = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT)
  for (let node = walk.nextNode(); node; node = walk.nextNode()) node.nodeValue = node.nodeValue.replace(/[/][^ ]*[/]backups/, 'var/data/backups')
}"""
"""Says the folder of an installed app instead of that of this run."""


def main() -> None:
    """One picture a view at 1280x800."""
    with tempfile.TemporaryDirectory(prefix="kenzet-pictures-") as home, sync_playwright() as play:
        served = Served(Path(home))
        browser = play.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        page.goto(served.url)
        page.wait_for_load_state("networkidle")
        page.get_by_test_id("tour-no").click()
        page.evaluate(WITHOUT_PATHS)
        keep(page, "home")
        page.get_by_role("button", name="Harbour Lights", exact=True).click()
        page.get_by_test_id("canvas").wait_for()
        page.get_by_test_id("turn-relief").click()
        page.get_by_test_id("relief").nth(1).wait_for(timeout=60_000)  # the fine one
        keep(page, "quilt")
        page.keyboard.press("e")
        page.get_by_role("button", name=re.compile("^Star background")).click()
        keep(page, "fills")
        page.get_by_test_id("show-ruler").click()
        keep(page, "ruler")
        page.keyboard.press("Escape")
        keep_choosing(page)
        page.keyboard.press("5")
        keep_marks(page)
        keep_stitch(page)
        page.keyboard.press("4")
        page.get_by_test_id("inventory").wait_for()
        keep(page, "kit")
        page.keyboard.press("3")
        page.get_by_test_id("known").wait_for(timeout=60_000)
        page.get_by_test_id("relief").nth(1).wait_for(timeout=60_000)
        page.get_by_test_id("fold-balance-firmness").click()
        keep(page, "balance")
        page.get_by_test_id("fold-balance-firmness").click()
        keep_plans(page)
        keep_bench(page)
        keep_log(page, served.url)
        page.get_by_label("Kenzet: your quilts").click()
        page.get_by_role("button", name="Kelp Garden", exact=True).click()
        page.get_by_test_id("canvas").wait_for()
        keep_top(page)
        browser.close()
        served.stop()


def keep_plans(page: Page) -> None:
    """Four plans for the whole quilt, each with what it takes."""
    page.get_by_test_id("propose-open").click()
    page.get_by_test_id("scope-all").click()
    page.get_by_test_id("propose").click()
    page.get_by_test_id("plan-soft").wait_for(timeout=120_000)
    page.get_by_text("finding its way").first.wait_for(state="detached", timeout=120_000)
    page.wait_for_function("!document.body.innerText.includes('finding its way')", timeout=120_000)
    keep(page, "proposals")
    page.get_by_test_id("proposals-close").click()


def keep_marks(page: Page) -> None:
    """Anchors in a star background, a page of its sheet as it is printed, and a stroke at the table."""
    page.get_by_test_id("methods").click()
    page.get_by_test_id("method-anchors").click()
    page.get_by_test_id("method-anchors").and_(page.locator("[aria-pressed=true]")).wait_for()
    page.get_by_test_id("methods").click()
    page.wait_for_timeout(400)
    keep(page, "marks")
    link = page.get_by_test_id("pdf").evaluate("(a) => a.href")
    sheet = next(iter(PrinterStandIn(dpi=96).prints(urllib.request.urlopen(link).read())))
    sheet.quantize(64).save(FOLDER / "sheet.png")
    page.get_by_test_id("to-table").click()
    page.get_by_test_id("stroke-next").wait_for()
    for _ in range(9):
        page.keyboard.press("Space")
    page.wait_for_timeout(500)
    keep(page, "table")
    page.get_by_test_id("marks-off").click()
    page.get_by_test_id("to-marks").click()


def keep_stitch(page: Page) -> None:
    """The order, and a few lines on at the machine."""
    page.keyboard.press("6")
    page.locator(".visit").first.wait_for(timeout=60_000)
    keep(page, "order")
    box = page.get_by_test_id("canvas").bounding_box()
    assert box
    page.mouse.click(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2 + 55)
    page.get_by_test_id("sentence").wait_for()
    page.wait_for_load_state("networkidle")  # a shorter way may take the place of the quick one
    page.get_by_test_id("whole").click()
    page.get_by_test_id("to-machine").click()
    page.get_by_test_id("line").wait_for()
    for _ in range(26):
        page.keyboard.press("Space")
        page.wait_for_timeout(40)
    keep(page, "machine")
    page.keyboard.press("Escape")


def keep_bench(page: Page) -> None:
    """A straight ruler on the star's centre: its 3/4 mark on the seam sews 1 in from it."""
    page.keyboard.press("2")
    choose(page, "Star centre")
    on_the_bench(page, "Star centre")
    page.get_by_test_id("bench-straight-ruler").click()
    while round(lay(page)[2]) != 90:
        page.keyboard.press("r")
    drag(page, (3.75 * IN + 1.2, 6 * IN))
    page.mouse.move(700, 700)
    keep(page, "bench")


def keep_choosing(page: Page) -> None:
    """Every fill drawn in the zone, and three of them side by side."""
    page.get_by_test_id("fold-Compare and reuse").click()
    page.get_by_test_id("pin").click()
    page.keyboard.press("a")
    page.get_by_test_id("card-clamshell").wait_for()
    keep(page, "gallery")
    page.get_by_role("button", name="back to the quilt").click()
    page.get_by_test_id("meet").click()
    for number in (0, 5):
        page.locator(".picks circle").nth(number).click()
    page.get_by_test_id("way").first.wait_for()
    page.get_by_test_id("meet-card").get_by_role("button", name="done").click()


def keep_top(page: Page) -> None:
    """Zones, and a block that is drawn."""
    page.keyboard.press("1")
    page.get_by_test_id("page-zones").click()
    page.get_by_role("button", name=re.compile("^Corner triangles")).click()
    page.get_by_test_id("cut-inset-outline").click()
    page.get_by_test_id("cut-distance").fill("1")
    keep(page, "top")
    page.get_by_test_id("page-blocks").click()
    page.get_by_test_id("draw-own").click()
    page.get_by_test_id("own-begin").click()
    for start, end, rise in (
        ("0-0", "4-4", ""),
        ("0-4", "4-0", ""),
        ("0-2", "2-4", "20 mm"),
        ("2-0", "4-2", "20 mm"),
    ):
        page.get_by_test_id("draw-rise").fill(rise)
        page.get_by_test_id(f"spot-{start}").click()
        page.get_by_test_id(f"spot-{end}").click()
        page.wait_for_timeout(500)
    page.get_by_test_id("tool-colour").click()
    page.get_by_role("group", name="Selected").get_by_role("button").nth(4).click()
    for number in (0, 5):
        page.locator("path.patch").nth(number).click()
        page.wait_for_timeout(400)
    page.get_by_test_id("tool-applique").click()
    page.get_by_role("group", name="Selected").get_by_role("button").nth(2).click()
    page.get_by_test_id("draw-rise").fill("14 mm")
    for spot in ("2-2.5", "3.5-3.5", "2-2.5"):
        page.get_by_test_id(f"spot-{spot}").click()
    page.wait_for_timeout(500)
    page.get_by_test_id("tool-seam").click()
    keep(page, "draw")


def keep_log(page: Page, base: str) -> None:
    """Two evenings' work by the stand-in of a machine; a block of it photographed by that of a camera, and measured."""
    copied = urllib.request.Request(
        f"{base}/api/quilts/{quilt_called(base, 'Harbour Lights')}/copy",
        b"{}",
        {"Content-Type": "application/json"},
    )
    urllib.request.urlopen(copied).close()
    number = quilt_called(base, "Harbour Lights 2")
    quilt = over_the_wire(base, number)
    clock = [time.time() - 2 * 86_400]

    def wait(seconds: float) -> None:
        clock[0] += seconds

    machine = MachineStandIn(pace=16, breaks=0.05, clock=lambda: clock[0], wait=wait)
    machine.sews(quilt, 390)
    clock[0] = time.time() - 7200
    machine.sews(quilt, 150)
    page.goto(f"{base}/quilt/{number}/log")
    page.get_by_test_id("log-sewn").wait_for()
    keep(page, "log")
    page.get_by_test_id("fold-log-swatches").click()
    page.get_by_test_id("open-swatches").click()
    page.get_by_test_id("swatch-add").click()
    page.get_by_role("button", name=re.compile("Echoes inward")).click()
    page.get_by_test_id("swatch-beside").select_option(label="Grid on the slant")
    page.get_by_test_id("swatch-use").scroll_into_view_if_needed()
    keep(page, "swatches")
    page.get_by_test_id("swatch-close").click()
    photo, _ = photographed(
        block_at(0, "1-1", None, True), fills=0.7, seed=5, offset=0.9, tilt=1.0, drift=0.12, missing=1
    )
    page.get_by_test_id("fold-log-blocks").click()
    page.get_by_test_id("block-3-2").click()
    page.get_by_test_id("inspect-photo").set_input_files(
        {"name": "star.jpg", "mimeType": "image/jpeg", "buffer": jpeg_of(photo)}
    )
    page.get_by_test_id("by-cards").click()
    page.get_by_test_id("inspect-worst").first.click(timeout=60_000)
    page.wait_for_load_state("networkidle")
    keep(page, "inspect")


def keep(page: Page, name: str) -> None:
    """Wait until all is still, then keep the picture."""
    page.wait_for_timeout(900)
    page.mouse.move(640, 798)
    page.screenshot(path=FOLDER / f"{name}.png", animations="disabled")


if __name__ == "__main__":
    main()
