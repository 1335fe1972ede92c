"""A quilter looks at the order, and lets the needle run through a block before she sews it."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from tests.browser.test_walk import saved

LOOKED_FOR = "Looking for a shorter route"


def to_the_route(page: Page) -> None:
    """Stitch, when nothing shorter is looked for any more."""
    page.keyboard.press("6")
    expect(page.locator(".visit").first).to_be_visible()
    expect(page.get_by_text(LOOKED_FOR)).to_have_count(0, timeout=60_000)


def needle(page: Page) -> str:
    return page.get_by_test_id("needle").get_attribute("transform")


def test_a_shorter_way_is_looked_for_taken_and_given_back(table, served):
    to_the_route(table)
    canvas = table.get_by_test_id("canvas").bounding_box()
    table.mouse.click(canvas["x"] + canvas["width"] / 2, canvas["y"] + canvas["height"] / 2 + 55)
    expect(table.get_by_test_id("sentence")).to_be_visible()
    travelled = table.locator(".rows > div").filter(has_text="Travelling")
    table.wait_for_load_state("networkidle")  # a quick way is shown until the full one is found
    before = travelled.inner_text()
    table.get_by_test_id("longer-begin").click()
    expect(table.get_by_test_id("longer-take")).to_be_visible(timeout=60_000)
    expect(table.get_by_test_id("longer")).to_contain_text("to travel, before")
    same = re.compile(
        r"([\d,]+) in to travel, before \1 in"
    )  # it may be shorter by less than is shown, for a while
    expect(table.get_by_test_id("longer")).not_to_contain_text(same, timeout=60_000)
    table.get_by_test_id("longer-take").click()
    expect(travelled).not_to_have_text(re.compile(re.escape(before.splitlines()[-1])))
    saved(table)
    table.get_by_test_id("longer-forget").click()
    expect(travelled).to_have_text(re.compile(re.escape(before.splitlines()[-1])))
    expect(table.get_by_test_id("longer-forget")).to_have_count(0)
    table.get_by_test_id("longer-begin").click()
    table.get_by_test_id("longer-stop").click()
    expect(table.get_by_test_id("longer-begin")).to_be_visible()


def test_the_needle_runs_through_a_block_as_it_would_be_sewn(table):
    to_the_route(table)
    expect(table.get_by_text("13 places to sew")).to_be_visible()
    canvas = table.get_by_test_id("canvas").bounding_box()
    table.mouse.click(canvas["x"] + canvas["width"] / 2, canvas["y"] + canvas["height"] / 2 + 55)
    expect(table.get_by_test_id("sentence")).to_contain_text("Begin ")
    table.wait_for_load_state("networkidle")  # a shorter way takes the place of the quick one
    expect(table.get_by_test_id("piece")).to_contain_text(re.compile("^1 of "))
    start = needle(table)
    table.keyboard.press("ArrowRight")
    expect(table.get_by_test_id("piece")).to_contain_text(re.compile("^2 of "))
    assert needle(table) != start
    table.keyboard.press("ArrowLeft")
    expect(table.get_by_test_id("piece")).to_contain_text(re.compile("^1 of "))
    table.get_by_role("button", name="quick").click()
    table.get_by_test_id("run").click()
    expect(table.get_by_test_id("piece")).not_to_contain_text(re.compile("^1 of "))
    table.get_by_test_id("run").click()  # halt
    expect(table.get_by_test_id("run")).to_contain_text("Run the needle")
    held = needle(table)
    table.wait_for_timeout(200)
    assert needle(table) == held
    table.get_by_test_id("scrub").fill("100000")
    expect(table.get_by_test_id("now")).to_contain_text("End of this route")
    first = table.locator("header .quiet").last.inner_text()
    table.get_by_test_id("after").click()
    expect(table.locator("header .quiet").last).not_to_have_text(first)
    table.get_by_test_id("whole").click()
    expect(table.get_by_text("13 places to sew")).to_be_visible()


def test_how_she_minds_stops_is_kept(table):
    to_the_route(table)
    field = table.get_by_test_id("field-stops")
    expect(field).to_have_value("5")
    field.fill("11")
    expect(table.get_by_role("alert")).to_contain_text("10")
    field.fill("0")
    saved(table)
    expect(table.get_by_text(re.compile("Thread cuts on the way"))).to_be_visible()
    table.reload()
    expect(table.get_by_test_id("field-stops")).to_have_value("0")
    table.get_by_role("button", name="column by column").click()
    saved(table)
    table.keyboard.press("z")
    expect(table.get_by_role("button", name="center outward")).to_have_attribute("aria-pressed", "true")


def test_her_pace_is_kept_and_a_wrong_one_said_at_its_field(table):
    to_the_route(table)
    time = table.locator(".rows > div").filter(has_text="Sewing time, about")
    before = time.inner_text()
    field = table.get_by_test_id("field-pace-straight")
    field.fill("0")
    field.press("Enter")
    expect(table.get_by_role("alert")).to_contain_text("between 1 in and 400 in")
    assert time.inner_text() == before
    field.fill("90")
    field.press("Enter")
    expect(table.get_by_role("alert")).to_have_count(0)
    expect(time).not_to_have_text(before)
    expect(field).to_be_visible()
    table.keyboard.press("z")
    expect(field).to_have_value("45")


def test_a_pinned_end_is_told_what_it_costs_and_what_would_end_there(table, served):
    table.get_by_role("link", name=re.compile("Kenzet")).first.click()
    table.get_by_role("button", name=re.compile("Sampler cloth")).first.click()
    table.wait_for_url("**/fills")
    to_the_route(table)
    expect(table.get_by_text("3 places to sew")).to_be_visible()
    box = table.get_by_test_id("canvas").bounding_box()
    table.mouse.click(box["x"] + box["width"] * 0.3, box["y"] + box["height"] * 0.3)
    table.get_by_test_id("start-lower-left").click()
    expect(table.get_by_test_id("start-lower-left")).to_have_attribute("aria-pressed", "true")
    expect(table.get_by_test_id("exit")).to_have_count(0)
    table.get_by_test_id("end-upper-left").click()
    expect(table.get_by_test_id("exit")).to_contain_text("of travel")
    table.get_by_test_id("exit-0").click()
    expect(table.get_by_test_id("exit")).to_have_count(0)
    saved(table)
    for _ in range(3):  # the fill and the two ends
        table.keyboard.press("Control+z")
        saved(table)
    expect(table.get_by_test_id("start-lower-left")).to_have_attribute("aria-pressed", "false")


def test_a_quick_way_is_drawn_while_the_shorter_one_is_looked_for(table):
    held = []
    table.route(
        "**/route",
        lambda call: call.continue_() if call.request.post_data_json["quick"] else held.append(call),
    )
    table.get_by_role("link", name=re.compile("Kenzet")).first.click()
    table.get_by_role("button", name=re.compile("Kelp Garden")).first.click()
    table.wait_for_url("**/fills")
    table.keyboard.press("6")
    expect(table.locator(".visit").first).to_be_visible()
    expect(table.get_by_text(LOOKED_FOR)).to_be_visible()
    travelled = table.locator(".rows > div").filter(has_text="Travelling")
    quick = travelled.inner_text()
    (call,) = held
    call.continue_()
    expect(table.get_by_text(LOOKED_FOR)).to_have_count(0, timeout=60_000)
    assert travelled.inner_text() != quick
    table.unroute("**/route")
