"""Nobody is kept out: every screen and state without a complaint of a check of accessibility, by day and evening, a block by keys alone, large
letters.
"""

from __future__ import annotations

import re
from pathlib import Path

from playwright.sync_api import expect

from kenzet.standins.machine import MachineStandIn, over_the_wire
from tests.browser.test_walk import choose

AXE = Path(__file__).resolve().parents[2] / "ui" / "node_modules" / "axe-core" / "axe.min.js"


def complaints(page, rules=None):
    """What is complained of, and where."""
    if not page.evaluate("!!window.axe"):
        page.evaluate(AXE.read_text())
    found = page.evaluate("(rules) => axe.run(document, rules ? {runOnly: rules} : {})", rules)
    return [
        (each["id"], node["html"][:140], node["failureSummary"][:200])
        for each in found["violations"]
        for node in each["nodes"]
    ]


def home(page):
    page.locator("header .mark").click()
    page.get_by_test_id("new-quilt").wait_for()


def new_quilt(page):
    home(page)
    page.get_by_test_id("new-quilt").click()
    page.get_by_test_id("draft").wait_for()


def top(name):
    def go(page):
        page.keyboard.press("1")
        page.get_by_test_id(f"page-{name}").click()

    return go


def zone(page):
    page.keyboard.press("2")
    choose(page, "Star background")


def ruler(page):
    zone(page)
    page.get_by_test_id("show-ruler").click()
    page.get_by_test_id("line-panel").wait_for()


def other_fills(page):
    zone(page)
    page.get_by_test_id("other-fill").click()
    page.locator("[data-testid^=group-]").first.wait_for()


def gallery(page):
    zone(page)
    page.keyboard.press("a")
    page.get_by_test_id("card-lines").wait_for()


def kit(page):
    page.keyboard.press("4")
    page.get_by_test_id("inventory").wait_for()


def thing(page):
    kit(page)
    page.get_by_test_id("thing-straight-ruler").click()
    page.get_by_test_id("see-makes").click()


def bench(page):
    kit(page)
    page.get_by_test_id("to-bench").click()
    page.get_by_role("button", name=re.compile("^Star background")).click()
    page.get_by_test_id("bench-straight-ruler").click()
    page.get_by_test_id("sum").wait_for()


def balance(page):
    page.keyboard.press("3")
    page.get_by_test_id("known").wait_for()


def firmness(page):
    balance(page)
    page.keyboard.press("d")
    page.get_by_test_id("firmness-key").wait_for()


def plans(page):
    balance(page)
    page.get_by_test_id("propose-open").click()
    page.get_by_test_id("propose").click()
    page.get_by_test_id("plan-quick").wait_for(timeout=60_000)


def marks(page):
    page.keyboard.press("5")
    choose(page, "Star background")
    page.get_by_test_id("pdf").wait_for()


def table_(page):
    marks(page)
    page.get_by_test_id("method-anchors").click()
    page.get_by_test_id("to-table").click()
    page.get_by_test_id("stroke-next").wait_for()


def stitch(page):
    page.keyboard.press("6")
    page.get_by_test_id("to-machine").wait_for()


def a_block(page):
    stitch(page)
    box = page.get_by_test_id("canvas").bounding_box()
    page.mouse.click(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    page.get_by_test_id("sentence").wait_for()


def machine(page):
    stitch(page)
    page.get_by_test_id("to-machine").click()
    page.get_by_test_id("lay").wait_for()


def broke(page):
    machine(page)
    page.get_by_test_id("next").click()
    page.keyboard.press("t")


def log(page):
    page.keyboard.press("7")
    page.get_by_test_id("log-sewn").wait_for()


def a_sewn_block(page):
    """A star that is being sewn, with a note."""
    address = re.search("/quilt/([^/]+)", page.url)[1]
    base = page.url.split("/quilt/")[0]
    MachineStandIn(name="access").sews(over_the_wire(base, address), 8)
    log(page)
    page.locator("[data-testid^=block-]").first.click()
    page.get_by_test_id("log-block").wait_for()


def swatches(page):
    """The book, and a swatch beside another."""
    log(page)
    page.get_by_test_id("open-swatches").click()
    page.locator("[data-testid=swatch-book] .cards button").first.click()
    page.get_by_test_id("swatch-beside").select_option(index=1)


def keys(page):
    page.keyboard.press("?")
    page.locator("#keys").wait_for()
    page.wait_for_timeout(300)


STATES = [
    home, new_quilt, *(top(name) for name in ("layout", "blocks", "fabrics", "zones", "photo", "quilt")), zone, ruler, other_fills, gallery, balance, firmness, plans,
    kit, thing, bench, marks, table_, stitch, a_block, machine, broke, log, a_sewn_block, swatches, keys,
]  # fmt: skip


TABLE, PHONE = {"width": 1280, "height": 800}, {"width": 390, "height": 844}


def test_no_screen_and_no_state_is_complained_of_by_day_or_evening(table):
    """Each at both sizes. Colors are the same at every size: the evening is looked at once."""
    start, found = table.url, []
    table.emulate_media(reduced_motion="reduce")  # nothing is waited for

    def told(*what, size=TABLE, scheme="light", look=complaints):
        table.set_viewport_size(size)
        table.emulate_media(color_scheme=scheme)
        table.wait_for_timeout(80)
        found.extend((*what, size["width"], *each) for each in look(table))

    for state in STATES:
        name = getattr(state, "__name__", "")
        table.set_viewport_size(TABLE)
        table.emulate_media(color_scheme="light")
        table.goto(start)
        table.get_by_test_id("canvas").wait_for()
        state(table)
        told(name)
        told(name, "evening", scheme="dark", look=lambda page: complaints(page, ["color-contrast"]))
        told(name, size=PHONE)
    assert found == []


def test_letters_twice_as_large_lose_no_control(table):
    """200 %: half as many pixels in either direction."""
    table.set_viewport_size({"width": 640, "height": 400})
    choose(table, "Star background")
    for shown in (
        table.get_by_test_id("field-spacing"),
        table.get_by_test_id("undo"),
        table.locator("nav a").last,
    ):
        shown.scroll_into_view_if_needed()
        box = shown.bounding_box()
        assert box["x"] >= 0
        assert box["x"] + box["width"] <= 640
    assert table.evaluate("document.documentElement.scrollWidth <= innerWidth")


def test_a_block_is_planned_marked_and_sewn_by_keys_alone(table):
    press = table.keyboard.press

    def to(test_id, key="Tab"):
        """Tab until it is reached, once it is there."""
        table.get_by_test_id(test_id).wait_for()
        for _ in range(90):
            if table.evaluate("document.activeElement?.dataset.testid ?? ''") == test_id:
                return
            press(key)
        raise AssertionError(f"{test_id} is not reached")

    press("2")
    for _ in range(60):
        if re.match("Star points", table.evaluate("document.activeElement?.innerText ?? ''")):
            break
        press("Tab")
    press("Enter")
    expect(table.get_by_role("heading", name="Star points")).to_be_visible()
    before = table.get_by_test_id("field-spacing").input_value()
    press("]")
    expect(table.get_by_test_id("field-spacing")).not_to_have_value(before)
    press("5")
    to("method-all-lines")
    press("Enter")
    expect(table.get_by_test_id("method-all-lines")).to_have_attribute("aria-pressed", "true")
    to("pdf")
    press("6")
    table.get_by_text("13 places to sew").wait_for()
    to("to-machine")
    press("Enter")
    table.get_by_test_id("lay").wait_for()
    said = table.get_by_test_id("lay").inner_text()
    press("Space")
    expect(table.get_by_test_id("lay")).not_to_have_text(said)


def test_nothing_moves_for_those_who_want_it_still(table):
    table.emulate_media(reduced_motion="reduce")
    choose(table, "Star background")
    moving = table.evaluate(
        "[...document.querySelectorAll('*')].filter((e) => { const s = getComputedStyle(e);"
        " return parseFloat(s.transitionDuration) > 0.01 || (s.animationName !== 'none' && parseFloat(s.animationDuration) > 0.01) }).length"
    )
    assert moving == 0
