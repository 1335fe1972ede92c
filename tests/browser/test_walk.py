"""A quilter's whole way: see the quilt, choose a zone, try fills, see the ruler, mark, save, undo."""

from __future__ import annotations

import io
import re
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect
from pypdf import PdfReader

from tests.served import Served

ROOT = Path(__file__).resolve().parents[2]


def choose(page: Page, zone: str) -> None:
    back, its = (
        page.get_by_test_id("all-zones"),
        page.get_by_role("button", name=re.compile(f"^{zone}")),
    )
    back.or_(its).first.wait_for()  # the station may still be on its way
    if back.is_visible():
        back.click()
    its.click()
    expect(page.get_by_role("heading", name=zone)).to_be_visible()


def spacing(page: Page):
    return page.get_by_test_id("field-spacing")


def type_spacing(page: Page, text: str) -> None:
    spacing(page).focus()
    spacing(page).fill(text)


def figure(page: Page, label: str) -> str:
    return page.locator(".rows div", has_text=label).locator("dd").first.inner_text()


def view(page: Page) -> tuple[float, float, float]:
    """Pixels a millimetre, and where the quilt's lower left corner lies in the pane, once it is still."""
    shown, before = page.get_by_test_id("canvas").get_attribute("data-view"), ""
    while shown != before:
        page.wait_for_timeout(80)
        shown, before = page.get_by_test_id("canvas").get_attribute("data-view"), shown
    scale, x, y = shown.split()
    return float(scale), float(x), float(y)


def click_at(page: Page, x: float, y: float, **more) -> None:
    """Click the quilt ``x`` inches from its left edge and ``y`` from its lower one."""
    scale, left, low = view(page)
    page.get_by_test_id("canvas").click(
        position={"x": left + x * 25.4 * scale, "y": low - y * 25.4 * scale}, **more
    )


def take_fill(page: Page, group: str, kind: str) -> None:
    """Choose another fill for the zone at hand: by its group, then by its tile."""
    now = page.get_by_test_id("other-fill")
    now.or_(page.get_by_test_id("group-Straight")).first.wait_for()
    if now.count() and now.get_attribute("aria-expanded") == "false":
        now.click()
    page.get_by_test_id(f"group-{group}").click()
    label = page.get_by_test_id(f"fill-{kind}").inner_text()
    page.get_by_test_id(f"fill-{kind}").click()
    expect(now.locator("b")).to_have_text(label)


def saved(page: Page) -> None:
    expect(page.get_by_role("status").filter(has_text="Sav").first).to_have_text("Saved")


def test_1_the_quilt_lies_between_two_tapes_and_can_be_moved(table):
    expect(table.get_by_text("Harbour Lights")).to_be_visible()
    expect(table.locator("header")).to_contain_text("52 × 66 in")
    tapes = table.locator("svg.tape")
    assert tapes.count() == 2
    assert "0" in tapes.first.locator("text").all_text_contents()
    fitted = view(table)
    table.get_by_test_id("canvas").hover(position={"x": 400, "y": 300})
    table.mouse.wheel(0, -400)
    grown = view(table)
    assert grown[0] > fitted[0] * 1.3
    table.mouse.down()
    table.mouse.move(700, 500, steps=4)
    table.mouse.up()
    assert view(table)[1] != grown[1]
    table.keyboard.press("f")
    table.wait_for_timeout(400)
    assert view(table) == pytest.approx(fitted)
    painted = (
        "canvas => new Set(canvas.getContext('2d').getImageData(0, 0, canvas.width, canvas.height).data).size"
    )
    assert table.locator("canvas").evaluate(painted) > 50  # fabrics, seams and stitches are on it


def test_2_a_patch_names_its_zone_and_how_often_it_occurs(table):
    table.wait_for_timeout(300)
    click_at(table, 21.5, 44.5)
    expect(table.get_by_role("heading", name="Star background")).to_be_visible()
    expect(table.get_by_text("8 patches in this block · identical in all 12")).to_be_visible()
    table.keyboard.press("Escape")
    choose(table, "Sashing")
    expect(table.get_by_text("between all blocks")).to_be_visible()


def test_3_and_4_fills_are_tried_and_the_figures_follow(table):
    choose(table, "Star background")
    for group, kind in (("Straight", "lines"), ("Echoes", "echo"), ("Straight", "grid")):
        take_fill(table, group, kind)
    type_spacing(table, "3/4")
    expect(table.get_by_test_id("sum")).to_contain_text("mark on your last line")
    lines = figure(table, "Lines here")
    table.locator("h2").first.click()
    table.keyboard.press("]")
    expect(spacing(table)).to_have_value("7/8")
    assert figure(table, "Lines here") != lines
    for _ in range(3):
        table.keyboard.press("[")
    expect(spacing(table)).to_have_value("1/2")
    for typed, reads in (("1 3/8", "1 3/8"), ("0.75", "3/4"), ("19 mm", "19 mm")):
        type_spacing(table, typed)
        table.locator("h2").first.click()
        expect(spacing(table)).to_have_value(reads)
    table.get_by_test_id("offer").first.click()
    expect(table.get_by_test_id("offer").first).to_be_visible()
    expect(table.locator(".offer[aria-pressed=true]")).to_have_count(1)
    table.get_by_role("button", name="quilt center").click()
    expect(table.get_by_role("button", name="quilt center")).to_have_attribute("aria-pressed", "true")
    table.get_by_role("button", name="an edge").click()
    table.locator(".picks path").first.click(force=True)
    expect(table.get_by_role("button", name=re.compile("an edge: "))).to_have_attribute(
        "aria-pressed", "true"
    )
    lean = table.get_by_test_id("field-angle")
    lean.fill("")
    lean.press_sequentially("-30", delay=90)  # each key is tried; none is rewritten under her hands
    expect(lean).to_have_value("-30")
    lean.blur()
    expect(lean).to_have_value("150")
    lean.fill("30")
    table.get_by_role("button", name="a corner").click()
    table.locator(".picks circle").first.click()  # the prompt must not lie over it
    expect(table.get_by_role("button", name=re.compile("a corner: "))).to_have_attribute(
        "aria-pressed", "true"
    )
    table.get_by_test_id("along").click()
    table.locator(".picks path").nth(3).click(force=True)
    expect(table.get_by_test_id("along")).to_contain_text("counted along")


def test_wrong_input_stays_at_its_field_and_the_drawing_stays(table):
    choose(table, "Star centre")
    table.wait_for_timeout(500)  # the block has come into sight
    drawn = table.locator("canvas").evaluate("canvas => canvas.toDataURL()")
    for typed in ("", "0", "-1", "1/0", "3//4", "500 in", "1/32"):
        type_spacing(table, typed)
        expect(table.get_by_role("alert")).to_be_visible()
        assert spacing(table).input_value() == typed
    assert table.locator("canvas").evaluate("canvas => canvas.toDataURL()") == drawn
    type_spacing(table, "3/4")
    expect(table.get_by_role("alert")).to_have_count(0)


def test_5_a_line_shows_the_ruler_the_foot_and_the_stops(table):
    choose(table, "Star centre")
    take_fill(table, "Straight", "lines")
    table.get_by_role("button", name="0°", exact=True).click()
    type_spacing(table, "3/4")
    table.get_by_test_id("show-ruler").click()
    expect(table.get_by_test_id("ruler")).to_be_visible()
    expect(table.get_by_test_id("ruler")).to_contain_text("mark on")
    expect(table.get_by_test_id("line-panel")).to_contain_text("needle on the seam")
    body = table.locator("[data-testid=ruler] .body").bounding_box()
    line = table.locator("[data-testid=ruler] .line").bounding_box()
    foot = table.locator("[data-testid=ruler] .foot").bounding_box()
    gap = min(abs(body["y"] - line["y"]), abs(body["y"] + body["height"] - line["y"]))
    assert abs(gap - foot["width"] / 2) < 2.5  # the working edge touches the foot's rim
    number = table.get_by_test_id("line-panel").locator("b").first.inner_text()
    table.keyboard.press(".")
    expect(table.get_by_test_id("line-panel").locator("b").first).not_to_have_text(number)
    line = table.locator("[data-testid=ruler] .line").bounding_box()
    number = table.get_by_test_id("line-panel").locator("b").first.inner_text()
    table.keyboard.press("Escape")
    expect(table.get_by_test_id("ruler")).to_have_count(0)
    table.mouse.click(line["x"] + line["width"] / 2, line["y"] + line["height"] / 2)
    expect(table.get_by_test_id("line-panel").locator("b").first).to_have_text(number)


def test_6_the_kit_decides_every_sum(table):
    table.keyboard.press("4")
    table.get_by_test_id("thing-ruler-foot").click()
    offset = table.get_by_test_id("field-offset")
    offset.focus()
    offset.fill("6 mm")
    table.get_by_test_id("see-makes").click()
    expect(table.locator("figure")).to_contain_text("generous 15/64")
    table.get_by_test_id("back-to-inventory").click()
    offset.focus()
    offset.fill("2 in")
    expect(table.get_by_role("alert")).to_contain_text("between 1/16 in and 1 in")
    offset.fill("1/4")
    expect(table.get_by_role("alert")).to_have_count(0)
    table.get_by_test_id("thing-straight-ruler").click()
    table.get_by_role("button", name="every 1/8 in").click()
    expect(table.get_by_role("button", name="every 1/8 in")).to_have_attribute("aria-pressed", "true")
    table.get_by_test_id("see-makes").click()
    expect(table.locator("figure path.etched")).to_have_count(21)  # every eighth of 2 1/2 in, and the edge
    table.get_by_test_id("etched-list").fill("1/4, 1/2, 0.9")
    table.get_by_test_id("etched-list").press("Tab")
    expect(table.locator("figure")).to_contain_text("29/32")
    table.get_by_role("button", name="every 1/4 in").click()
    expect(table.get_by_role("button", name="every 1/4 in")).to_have_attribute("aria-pressed", "true")
    saved(table)
    table.keyboard.press("2")


def test_7_marks_ticks_and_sheets(table):
    table.locator("nav").get_by_text("Marks").click()
    choose(table, "Star background")
    table.get_by_test_id("method-all-lines").click()
    expect(table.get_by_test_id("method-all-lines")).to_have_attribute("aria-pressed", "true")
    table.get_by_test_id("see-ticks").click()
    expect(table.get_by_test_id("ticks")).to_be_visible()
    table.get_by_test_id("method-ticks").click()
    expect(table.get_by_test_id("ticks")).to_be_visible()
    assert table.get_by_test_id("ticks").locator("tr").count() > 3
    table.get_by_test_id("paper").select_option("a4")
    expect(table.get_by_test_id("pdf")).to_have_attribute("href", re.compile("paper=a4"))
    with table.expect_download() as download:
        table.get_by_test_id("pdf").click()
    reader = PdfReader(io.BytesIO(Path(download.value.path()).read_bytes()))
    said = table.locator(".print").inner_text()
    assert f"{len(reader.pages)} page" in said
    assert (
        float(reader.pages[0].mediabox.width) / 72 * 25.4 in (210.0, 297.0)
        or abs(float(reader.pages[0].mediabox.width) / 72 * 25.4 - 210) < 0.1
    )
    with table.expect_download() as download:
        table.get_by_test_id("sheet-svg").click()
    assert b'id="marks"' in Path(download.value.path()).read_bytes()


def test_8_everything_is_saved_undone_and_redone_and_the_unit_changes_nothing(table):
    choose(table, "Border")
    take_fill(table, "Straight", "lines")
    type_spacing(table, "1 1/4")
    expect(table.get_by_test_id("sum")).to_contain_text("1 1/4")
    table.reload()  # at once: a change that waits to be sent is sent on leaving
    choose(table, "Border")
    expect(spacing(table)).to_have_value("1 1/4")
    long = table.locator("footer dd").first.inner_text().split()[0]
    for unit in ("mm", "in", "mm", "in"):
        table.get_by_test_id(f"unit-{unit}").click()
        expect(table.get_by_test_id(f"unit-{unit}")).to_have_attribute("aria-pressed", "true")
        expect(table.locator(".length .figure").first).to_contain_text("31.75" if unit == "mm" else "1 1/4")
    assert table.locator("footer dd").first.inner_text().split()[0] == long
    table.get_by_test_id("undo").click()
    expect(spacing(table)).to_have_value("3/4")
    table.keyboard.press("z")
    expect(table.get_by_text("This zone is unquilted")).to_be_visible()
    table.reload()
    choose(table, "Border")
    expect(table.get_by_text("This zone is unquilted")).to_be_visible()
    table.get_by_test_id("redo").click()
    expect(spacing(table)).to_have_value("3/4")
    table.get_by_test_id("redo").click()
    expect(spacing(table)).to_have_value("1 1/4")
    expect(table.get_by_test_id("redo")).to_be_disabled()


def test_two_windows_do_not_overwrite_each_other(table, context, served):
    other = context.new_page()
    other.goto(table.url)
    other.get_by_test_id("canvas").wait_for()
    choose(table, "Star points")
    choose(other, "Star points")
    type_spacing(table, "1/2")
    expect(table.get_by_test_id("sum")).to_contain_text("1/2")
    saved(table)
    type_spacing(other, "1/8")
    expect(other.get_by_role("alert").filter(has_text="another window")).to_be_visible()
    expect(spacing(other)).to_have_value("1/2")
    other.close()


def complaints(page):
    """Nothing that a check of accessibility would complain of."""
    found = page.evaluate("axe.run(document, {runOnly: ['wcag2a', 'wcag2aa']})")
    assert [(v["id"], v["nodes"][0]["html"][:120]) for v in found["violations"]] == []


def test_every_screen_can_be_used_without_a_mouse_and_with_a_reader(table):
    axe = (ROOT / "ui" / "node_modules" / "axe-core" / "axe.min.js").read_text()
    for station in ("1", "2", "3", "4"):
        table.keyboard.press(station)
        table.wait_for_timeout(250)
        table.evaluate(axe)
        complaints(table)
    table.keyboard.press("2")
    choose(table, "Star points")
    complaints(table)
    table.get_by_test_id("pin").click()
    table.keyboard.press("a")
    table.get_by_test_id("card-lines").wait_for()
    complaints(table)
    table.keyboard.press("Escape")
    table.get_by_test_id("compare").focus()
    table.keyboard.press("Enter")
    table.get_by_test_id("variants-board").locator("table").wait_for()
    complaints(table)
    table.keyboard.press("Escape")
    expect(table.get_by_test_id("variants-board")).to_have_count(0)
    table.keyboard.press("Escape")
    table.keyboard.press("2")
    table.keyboard.press("?")
    expect(table.get_by_role("heading", name="Keys")).to_be_visible()
    table.wait_for_timeout(400)
    found = table.evaluate("axe.run('.v-dialog', {runOnly: ['wcag2a', 'wcag2aa']})")
    assert [v["id"] for v in found["violations"]] == []
    table.keyboard.press("Escape")
    table.get_by_role("button", name=re.compile("^Star points")).focus()
    table.keyboard.press("Enter")
    expect(table.get_by_role("img", name=re.compile("Star points: Echo"))).to_be_visible()


def test_small_screens_lose_no_control(table):
    for width, height in ((1024, 700), (820, 1180)):
        table.set_viewport_size({"width": width, "height": height})
        choose(table, "Star background")
        assert table.evaluate(
            "document.documentElement.scrollHeight <= innerHeight && document.documentElement.scrollWidth <= innerWidth"
        )
        for shown in (
            spacing(table),
            table.get_by_test_id("undo"),
            table.get_by_test_id("unit-mm"),
            table.locator("nav a").last,
        ):
            box = shown.bounding_box()
            assert box["x"] >= 0
            assert box["x"] + box["width"] <= width


def test_quilts_are_listed_kept_as_files_and_brought_back_and_a_lost_one_is_said(table, served):
    table.get_by_label("Kenzet: your quilts").click()
    with table.expect_download() as download:
        table.get_by_role("button", name="More for Harbour Lights", exact=True).first.click()
        table.get_by_role("link", name="Save Harbour Lights as a plan file").click()
    table.locator("input[type=file]").set_input_files(download.value.path())
    expect(table.get_by_test_id("canvas")).to_be_visible()
    table.get_by_label("Kenzet: your quilts").click()
    expect(table.get_by_role("button", name="Harbour Lights", exact=True)).to_have_count(2)
    table.locator("input[type=file]").set_input_files(
        {"name": "x.json", "mimeType": "application/json", "buffer": b"{"}
    )
    expect(table.get_by_role("alert")).to_contain_text("not a quilt plan")


def test_a_quilt_that_is_not_there_is_said(page, served):
    page.goto(f"{served.url}/quilt/aaaaaaaaaaaa/fills")
    expect(page.get_by_role("alert")).to_contain_text("There is no such quilt here")
    page.get_by_role("button", name="Back to your quilts").click()
    expect(page.get_by_role("heading", name="Your quilts")).to_be_visible()


def test_an_empty_app_says_what_to_do_first(page, tmp_path):
    app = Served(tmp_path, "--empty")
    page.goto(app.url)
    page.get_by_role("button", name="Add the example quilts").click()
    expect(page.get_by_test_id("canvas")).to_be_visible()
    expect(page.get_by_text("Harbour Lights")).to_be_visible()
    app.stop()
