"""A quilter tries a ruler on her block before she touches fabric."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from tests.browser.test_walk import ROOT, choose, figure, saved, take_fill, type_spacing, view

IN = 25.4


def on_the_bench(table: Page, zone: str) -> None:
    table.keyboard.press("4")
    table.get_by_test_id("to-bench").click()
    expect(table.get_by_role("heading", name="Ruler bench")).to_be_visible()
    listed = table.get_by_role("button", name=re.compile(f"^{zone}"))
    laid = table.get_by_test_id("bench-ruler")
    listed.first.or_(laid).first.wait_for()
    if not laid.count():
        listed.first.click()
    expect(table.get_by_text(re.compile(f"^{zone}")).first).to_be_visible()
    expect(table.get_by_test_id("bench-ruler")).to_be_visible()
    expect(table.get_by_test_id("lay-it")).to_be_visible()
    table.wait_for_timeout(150)


def lay(table: Page) -> tuple[float, float, float]:
    x, y, angle = table.get_by_test_id("bench-ruler").get_attribute("data-lay").split()
    return float(x), float(y), float(angle)


def spot(table: Page, x: float, y: float) -> tuple[float, float]:
    """Where a point of the first block (mm) lies in the pane, pixels: that block is 6 in from the left, 48 from below."""
    scale, left, low = view(table)
    return left + (6 * IN + x) * scale, low - (48 * IN + y) * scale


def drag(table: Page, to: tuple[float, float]) -> None:
    """An upright ruler by its plastic, until the middle of its edge lies at ``to`` mm of the first block."""
    x, y, angle = lay(table)
    pane = table.get_by_test_id("canvas").bounding_box()
    (ax, ay), (bx, by) = spot(table, x, y), spot(table, *to)
    inside = -9 if round(angle) == 90 else 9
    start = pane["x"] + ax + inside, pane["y"] + ay - 70  # clear of the foot
    table.mouse.move(*start)
    table.mouse.down()
    table.mouse.move(start[0] + bx - ax, start[1] + by - ay, steps=6)
    table.mouse.up()


def test_the_three_quarter_mark_is_seen_to_sew_an_inch(table):
    on_the_bench(table, "Star centre")
    table.get_by_test_id("bench-straight-ruler").click()
    while round(lay(table)[2]) != 90:
        table.keyboard.press("r")
    drag(table, (3.75 * IN + 1.2, 6 * IN))
    total = table.get_by_test_id("sum")
    expect(total).to_contain_text(
        re.compile(r"3.*4.*mark.*on the left edge.*1.*4.*your foot.*1.*in.*from the seam", re.S)
    )
    assert abs(lay(table)[0] - 3.75 * IN) < 1e-3  # it was let go 1.2 mm off, and snapped
    expect(table.get_by_text("1 sewn", exact=True)).to_be_visible()
    assert "left, out of the throat" in figure(table, "Ruler position")


def test_arrows_move_it_by_a_sixteenth_and_keys_turn_it(table):
    on_the_bench(table, "Star centre")
    table.get_by_test_id("bench-straight-ruler").click()
    x, y, angle = lay(table)
    table.keyboard.press("ArrowRight")
    table.keyboard.press("ArrowUp")
    table.keyboard.press("Shift+ArrowUp")
    now = lay(table)
    assert [round((b - a) / (IN / 16), 6) for a, b in zip((x, y), now[:2], strict=True)] == [1, 9]
    table.keyboard.press("]")
    assert round((angle - lay(table)[2]) % 360, 6) == 1
    expect(table.get_by_test_id("sum")).to_contain_text(re.compile("No mark|No seam"))
    table.get_by_test_id("lay-it").click()
    expect(table.get_by_test_id("sum")).to_contain_text("your foot")


def test_a_line_is_kept_counted_marked_and_taken_up_again(table):
    on_the_bench(table, "Star centre")
    before = table.locator("footer").inner_text()
    table.get_by_test_id("bench-straight-ruler").click()
    while round(lay(table)[2]) != 90:
        table.keyboard.press("r")
    drag(table, (3.5 * IN, 6 * IN))
    table.get_by_test_id("keep-line").click()
    expect(table.get_by_label("Lines placed by hand")).to_contain_text("from a seam")
    lines = int(re.search(r"Lines to sew\s+([\d,]+)", before)[1].replace(",", ""))
    expect(table.locator("footer")).to_contain_text(f"{lines + 12:,}")
    table.get_by_test_id("keep-line").click()  # the same once more
    expect(table.get_by_test_id("bench-wrong")).to_contain_text("in the plan already")
    saved(table)
    table.reload()
    expect(table.get_by_role("heading", name="Ruler bench")).to_be_visible()
    table.keyboard.press("5")
    table.get_by_role("button", name=re.compile("^Star centre")).click()
    table.get_by_role("button", name="placed by hand").click()
    expect(table.get_by_role("button", name="placed by hand")).to_have_attribute("aria-pressed", "true")
    expect(table.locator(".leaf").first).to_contain_text("Nothing to mark")
    on_the_bench(table, "Star centre")
    table.get_by_test_id("take-up-0").click()
    expect(table.get_by_label("Lines placed by hand")).to_have_count(0)
    expect(table.locator("footer")).to_contain_text(f"{lines:,}")
    table.keyboard.press("z")
    expect(table.get_by_label("Lines placed by hand")).to_be_visible()
    table.get_by_test_id("take-up-0").click()
    saved(table)


def test_a_melon_with_echoes_gets_an_edge_and_is_told_its_stray(table):
    table.get_by_label("Kenzet: your quilts").click()
    table.get_by_role("button", name=re.compile("Kelp Garden")).first.click()
    choose(table, "Anemone: petals")
    take_fill(table, "Echoes", "echo")
    type_spacing(table, "1/4")
    table.get_by_test_id("show-ruler").click()
    curves = table.get_by_test_id("curves").locator("li")
    expect(curves.first).to_contain_text("Arc, 14 in circle")
    expect(curves.first).to_contain_text(re.compile(r"(flatter|further out) in the middle"))
    expect(table.get_by_test_id("line-panel")).to_contain_text("radius at the needle")
    saved(table)
    on_the_bench(table, "Anemone: petals")
    told = table.get_by_test_id("bench-fit")
    expect(told).to_contain_text(re.compile("fits|can be nudged|will not do"))
    expect(told).to_contain_text("in the middle")
    table.get_by_test_id("bench-straight-ruler").click()
    table.get_by_test_id("lay-it").click()
    expect(table.get_by_test_id("bench-wrong")).to_contain_text("is a curve")


def test_a_curve_is_found_by_chord_and_rise_typed_or_picked(table):
    on_the_bench(table, "Star centre")
    table.get_by_test_id("curve").locator("summary").click()
    table.get_by_test_id("chord").fill("8")
    table.get_by_test_id("rise").fill("1 1/4")
    expect(table.get_by_test_id("radius")).to_contain_text(re.compile(r"Radius.*7.*1.*32", re.S))
    expect(table.get_by_test_id("fit-0")).to_contain_text("Arc, 14 in circle")
    table.get_by_test_id("rise").fill("much")
    expect(table.get_by_test_id("curve").get_by_role("alert")).to_be_visible()
    table.get_by_test_id("rise").fill("0")
    expect(table.get_by_test_id("radius")).to_contain_text("straight ruler")
    table.get_by_test_id("pick-curve").click()
    for x, y in ((3, 3), (9, 3), (6, 3.75)):  # two corners of the star's centre, and between them
        across, down = spot(table, x * IN, y * IN)
        table.get_by_test_id("canvas").click(position={"x": across, "y": down})
    expect(table.get_by_test_id("chord")).to_have_value("6")
    expect(table.get_by_test_id("rise")).to_have_value(re.compile("3/4|47/64|49/64"))
    table.get_by_test_id("fit-0").click()
    expect(table.get_by_test_id("bench-arc-14-in-circle")).to_have_attribute("aria-pressed", "true")


def test_a_ruler_that_must_not_be_used_cannot_be_laid(table):
    table.keyboard.press("4")
    table.get_by_test_id("thing-straight-ruler").click()
    table.get_by_test_id("field-thickness").fill("3 mm")
    expect(table.get_by_test_id("fault")).to_be_visible()
    saved(table)
    table.get_by_test_id("whole-kit").click()
    on_the_bench(table, "Star centre")
    barred = table.get_by_role("button", name=re.compile("not safe with this foot"))
    expect(barred).to_be_disabled()
    assert "slide under the foot" in barred.get_attribute("title")
    table.keyboard.press("4")
    table.get_by_test_id("thing-straight-ruler").click()
    table.get_by_test_id("field-thickness").fill("1/4 in")
    expect(table.get_by_test_id("fault")).to_have_count(0)
    saved(table)


def test_the_bench_can_be_used_with_one_finger_on_a_tablet(table, browser, served):
    tablet = browser.new_context(viewport={"width": 800, "height": 1100}, has_touch=True, is_mobile=True)
    page = tablet.new_page()
    page.goto(table.url.replace("/fills", "/bench"))
    page.get_by_role("button", name=re.compile("^Star centre")).tap()
    expect(page.get_by_test_id("bench-ruler")).to_be_visible()
    page.wait_for_timeout(300)
    for name in ("nudge-left", "turn-15", "flip", "lay-it", "keep-line", "next-line"):
        box = page.get_by_test_id(name).bounding_box()
        assert min(box["width"], box["height"]) >= 43, name
    x = lay(page)[0]
    page.get_by_test_id("nudge-right").tap()
    assert round((lay(page)[0] - x) / (IN / 16), 6) == 1
    box = page.get_by_test_id("body").bounding_box()
    shown = page.get_by_test_id("canvas").bounding_box()
    left, right = max(box["x"], shown["x"] + 40), min(box["x"] + box["width"], shown["x"] + shown["width"])
    top, low = max(box["y"], shown["y"] + 40), min(box["y"] + box["height"], shown["y"] + shown["height"])
    start = (left + right) / 2, (top + low) / 2
    before = lay(page)
    tools = tablet.new_cdp_session(page)
    for kind, dx in (("touchStart", 0), ("touchMove", 20), ("touchMove", 60), ("touchEnd", 60)):
        points = [] if kind == "touchEnd" else [{"x": start[0] + dx, "y": start[1] + dx}]
        tools.send("Input.dispatchTouchEvent", {"type": kind, "touchPoints": points})
    assert lay(page)[:2] != before[:2]
    tablet.close()


def test_the_bench_is_readable_for_all(table):
    on_the_bench(table, "Star centre")
    table.evaluate((ROOT / "ui" / "node_modules" / "axe-core" / "axe.min.js").read_text())
    found = table.evaluate("axe.run(document, {runOnly: ['wcag2a', 'wcag2aa']})")
    assert [(v["id"], v["nodes"][0]["html"][:120]) for v in found["violations"]] == []
