"""A quilter marks her star background by anchors, and makes her printer print true."""

from __future__ import annotations

import re
import urllib.request

import numpy as np
from playwright.sync_api import Page, expect

from kenzet.standins.printer import PrinterStandIn
from tests.browser.test_walk import choose, saved
from tests.formats.test_printing import bars

DPI = 400


def fetched(page: Page, test_id: str) -> bytes:
    """What the link gives."""
    link = page.get_by_test_id(test_id).evaluate("(a) => a.href")
    return urllib.request.urlopen(link).read()


def footer_bar(sheet: bytes, printer: PrinterStandIn) -> float:
    """What a ruler reads off the bar of 4 in at the foot of the first page, mm."""
    dark = 255.0 - np.asarray(next(iter(printer.prints(sheet))).convert("L"), dtype=float)
    foot = dark[int(dark.shape[0] - 24 / 25.4 * DPI) :] > 100
    runs = []
    for row in foot:
        edges = np.flatnonzero(np.diff(np.concatenate([[0], row.astype(int), [0]])))
        runs.append(int((edges[1::2] - edges[::2]).max()) if len(edges) else 0)
    return max(runs) / DPI * 25.4 - 0.3  # its end strokes stand half their width beyond


def test_anchors_are_marked_and_printed_true_after_the_bars_are_read(table):
    table.keyboard.press("5")
    choose(table, "Star background")
    table.get_by_test_id("method-anchors").click()
    expect(table.get_by_test_id("method-anchors")).to_contain_text("every 4th")
    expect(table.locator(".leaf").first).to_contain_text("small errors from adding up")
    saved(table)
    printer = PrinterStandIn(across=0.97, up=0.97, dpi=DPI, margin=3)
    crooked = footer_bar(fetched(table, "pdf"), printer)
    assert abs(crooked - 0.97 * 101.6) < 0.3
    table.get_by_test_id("check-printer").click()
    table.get_by_test_id("printer-name").fill("Attic printer")
    across, up = bars(next(iter(printer.prints(fetched(table, "check-page")))), DPI)
    table.get_by_test_id("bar-across").fill("0")
    table.get_by_test_id("bar-up").fill(f"{up:.2f} mm")
    table.get_by_test_id("printer-keep").click()
    expect(table.get_by_role("alert")).to_contain_text("6 in long")
    table.get_by_test_id("bar-across").fill(f"{across:.2f} mm")
    table.get_by_test_id("printer-keep").click()
    expect(table.get_by_test_id("printer-asks")).to_contain_text("fit to page")
    table.get_by_test_id("printer-sure").click()
    expect(table.get_by_test_id("corrected")).to_contain_text("3.1 %")
    assert "printer=Attic" in table.get_by_test_id("pdf").get_attribute("href")
    assert abs(footer_bar(fetched(table, "pdf"), printer) - 101.6) < 0.2
    again, _ = bars(next(iter(printer.prints(fetched_check(table)))), DPI)
    assert abs(again - 152.4) < 0.15


def fetched_check(table: Page) -> bytes:
    table.get_by_test_id("check-printer").click()
    return fetched(table, "check-page")


def test_ways_to_mark_are_shown_on_the_quilt(table):
    table.keyboard.press("5")
    choose(table, "Star background")
    table.get_by_test_id("method-dots").click()
    expect(table.get_by_test_id("method-dots")).to_contain_text("184 dots")
    assert table.locator("path.dots").get_attribute("d").count("M") == 184
    table.get_by_test_id("method-tape").click()
    expect(table.get_by_test_id("round")).to_contain_text("Round 1 of")
    assert table.locator("path.tape").count() > 4
    expect(table.locator("path.sewn")).to_have_count(1)
    expect(table.locator(".key").first).to_contain_text("sew along its edge, this way")
    table.get_by_test_id("next-round").click()
    expect(table.get_by_test_id("round")).to_contain_text("Round 2 of")
    table.get_by_test_id("method-nothing").click()
    expect(table.locator(".leaf").first).to_contain_text("by eye")
    saved(table)
    table.reload()
    choose(table, "Star background")
    expect(table.get_by_test_id("method-nothing")).to_have_attribute("aria-pressed", "true")
    table.get_by_test_id("method-best").click()
    expect(table.get_by_test_id("method-anchors")).to_have_attribute("aria-pressed", "true")
    saved(table)


def test_sheets_of_every_kind_come_as_files(table):
    table.keyboard.press("5")
    choose(table, "Star centre")
    table.get_by_test_id("of-block").click()
    table.get_by_test_id("kind-ruler-edges").click()
    table.get_by_test_id("method-all-lines").click()
    expect(table.locator("path.edges")).to_have_count(1)
    expect(table.locator("path.marked")).to_have_count(0)
    table.get_by_test_id("method-best").click()
    table.get_by_test_id("mirrored").click()
    table.get_by_test_id("paper").select_option("a3")
    expect(table.get_by_test_id("pages")).to_contain_text("2 pages")
    for file, begins in (("pdf", b"%PDF"), ("sheet-svg", b"<?xml"), ("sheet-dxf", b"  0")):
        assert fetched(table, file).startswith(begins)
    assert re.search(
        r"scope=block.*back=true|back=true.*scope=block", table.get_by_test_id("pdf").get_attribute("href")
    )


def test_strokes_are_drawn_one_by_one_and_what_is_done_survives_a_reload(table):
    table.keyboard.press("5")
    choose(table, "Star background")
    table.get_by_test_id("method-anchors").click()
    saved(table)
    table.get_by_test_id("to-table").click()
    expect(table.get_by_test_id("stroke-count")).to_contain_text("Step 1 of 10")
    for _ in range(3):
        table.keyboard.press("Space")
    table.keyboard.press("Backspace")
    expect(table.get_by_test_id("stroke-count")).to_contain_text("Step 3 of 10")
    table.get_by_test_id("stroke-next").click()
    expect(table.get_by_test_id("still-on")).to_contain_text("cold water")
    table.wait_for_timeout(400)
    table.get_by_test_id("to-marks").click()
    table.get_by_test_id("to-table").click()
    expect(table.get_by_test_id("stroke-count")).to_contain_text("Step 4 of 10")
    table.get_by_test_id("marks-off").click()
    expect(table.get_by_test_id("still-on")).to_have_count(0)
    expect(table.get_by_test_id("stroke-count")).to_contain_text("Step 1 of 10")


def test_a_lost_server_and_a_reload_lose_no_step(table):
    table.keyboard.press("5")
    choose(table, "Star background")
    table.get_by_test_id("method-anchors").click()
    saved(table)
    table.get_by_test_id("to-table").click()
    expect(table.get_by_test_id("stroke-count")).to_contain_text("Step 1 of 10")
    table.route("**/table", lambda route: route.abort())
    for _ in range(5):
        table.keyboard.press("Space")
    expect(table.get_by_test_id("stroke-count")).to_contain_text("Step 6 of 10")
    expect(table.get_by_test_id("unsent")).to_contain_text("stored in this browser")
    table.unroute("**/table")
    expect(table.get_by_test_id("unsent")).to_have_count(0, timeout=10_000)
    table.route("**/table", lambda route: route.abort())
    table.keyboard.press("Space")
    expect(table.get_by_test_id("unsent")).to_have_count(1)
    table.unroute("**/table")
    table.reload()
    choose(table, "Star background")
    table.get_by_test_id("to-table").click()
    expect(table.get_by_test_id("stroke-count")).to_contain_text("Step 7 of 10")
    table.get_by_test_id("marks-off").click()
    expect(table.get_by_test_id("stroke-count")).to_contain_text("Step 1 of 10")


def test_mark_first_or_layer_first_changes_the_list(table):
    table.keyboard.press("5")
    steps = table.get_by_test_id("prep").locator("li")
    expect(steps.nth(1)).to_contain_text("flat on the table")
    table.get_by_test_id("layered-before").click()
    expect(steps.nth(1)).to_contain_text("backing")
    table.get_by_test_id("basted-spray").click()
    expect(steps.nth(2)).to_contain_text("window open")
    saved(table)
    table.reload()
    expect(table.get_by_test_id("layered-before")).to_have_attribute("aria-pressed", "true")
