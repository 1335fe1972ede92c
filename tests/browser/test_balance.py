"""She looks at the quilted cloth before she sews it, and mends what the station finds."""

import re

import pytest
from playwright.sync_api import expect

from tests.browser.test_walk import saved, view

IN = 25.4


@pytest.fixture
def balance(table):
    table.keyboard.press("3")
    table.get_by_test_id("known").wait_for()
    return table


def test_the_cloth_the_map_and_the_back_are_seen(balance):
    expect(balance.get_by_test_id("relief").first).to_be_attached()
    balance.keyboard.press("d")
    expect(balance.get_by_test_id("density")).to_be_attached()
    expect(balance.get_by_test_id("firmness-key")).to_contain_text("stiff")
    balance.keyboard.press("e")
    expect(balance.get_by_test_id("relief").nth(1)).to_be_attached(timeout=30_000)
    before = balance.get_by_test_id("relief").first.get_attribute("href")
    balance.get_by_test_id("light-right").click()
    expect(balance.get_by_test_id("relief").first).not_to_have_attribute("href", before)
    balance.get_by_test_id("see-back").click()
    picture = balance.get_by_test_id("back-picture")
    expect(picture).to_be_visible()
    balance.wait_for_function("(img) => img.naturalWidth > 600", arg=picture.element_handle())
    balance.get_by_test_id("to-front").click()
    expect(balance.get_by_test_id("canvas")).to_be_visible()


def test_each_gap_is_shown_where_it_is_and_a_zone_is_chosen_from_any_list(balance):
    before = balance.get_by_test_id("canvas").get_attribute("data-view")
    balance.get_by_role("button", name=re.compile("Show the gap of Border")).click()
    expect(balance.get_by_test_id("ring")).to_be_attached()
    expect(balance.get_by_test_id("canvas")).not_to_have_attribute("data-view", before)
    row = balance.get_by_role("button", name=re.compile("^Sashing")).first
    row.click()
    expect(row).to_have_attribute("aria-pressed", "true")
    expect(balance.get_by_test_id("ring")).to_have_count(0)


def test_what_it_finds_is_mended_by_its_button_and_undone(balance):
    """With every ratio wanted small, the sentence goes; a step that sets a spacing is one change."""
    expect(balance.get_by_test_id("known")).to_contain_text("will look alike", timeout=60_000)
    balance.get_by_test_id("reads").fill("1.1")
    balance.get_by_test_id("reads").blur()
    expect(balance.get_by_test_id("known")).to_contain_text("will look alike", timeout=60_000)
    balance.get_by_test_id("reads").fill("1.3")
    balance.get_by_test_id("reads").blur()
    step = balance.get_by_test_id("mend").first
    expect(step).to_contain_text(re.compile("^Set “Star (background|points)” to"), timeout=60_000)
    step.click()
    saved(balance)
    expect(balance.get_by_test_id("known")).not_to_contain_text("will look alike", timeout=60_000)
    balance.get_by_test_id("undo").click()
    saved(balance)
    expect(balance.get_by_test_id("known")).to_contain_text("will look alike", timeout=60_000)
    balance.get_by_test_id("reads").fill("2")
    balance.get_by_test_id("reads").blur()


def test_another_thread_is_taken_and_hides_better(balance):
    cream = balance.get_by_test_id("thread-cream-thread")
    expect(cream.get_by_role("img", name=re.compile("on Oat cream: hides"))).to_be_visible()
    balance.get_by_test_id("use-cream-thread").click()
    saved(balance)
    expect(cream).to_contain_text("in use", timeout=60_000)
    expect(balance.get_by_test_id("thread-gray-thread")).not_to_contain_text("in use", timeout=60_000)
    balance.get_by_test_id("undo").click()
    saved(balance)
    expect(balance.get_by_test_id("thread-gray-thread")).to_contain_text("in use", timeout=60_000)


def test_relief_and_table_can_be_kept(balance):
    with balance.expect_download() as kept:
        balance.get_by_test_id("relief-png").click()
    assert kept.value.suggested_filename == "relief.png"
    with balance.expect_download() as table:
        balance.get_by_test_id("density-csv").click()
    assert table.value.suggested_filename == "density.csv"


def test_a_lap_quilt_eight_hours_a_ruler_foot_one_ruler_what_do_i_quilt(table):
    """From a new top to plans that fit into her hours, and one of them taken; played, not read."""
    page = table
    page.get_by_label("Kenzet: your quilts").click()
    page.get_by_test_id("new-quilt").click()
    page.get_by_test_id("begin").click()
    page.get_by_test_id("page-zones").click()
    page.wait_for_timeout(400)
    scale, left, low = view(page)
    pane = page.get_by_test_id("canvas").bounding_box()
    page.mouse.click(pane["x"] + left + 6 * IN * scale, pane["y"] + low - 42 * IN * scale)
    page.get_by_test_id("make-zone").click()
    page.get_by_test_id("fill-it").wait_for()
    saved(page)
    page.keyboard.press("Escape")
    page.keyboard.press("2")
    page.get_by_test_id("to-proposals").click()
    page.get_by_test_id("hours").fill("8")
    page.get_by_test_id("propose").click()
    for aim in ("quick", "texture"):
        expect(page.get_by_test_id(f"plan-{aim}")).to_be_visible(timeout=60_000)
    card = page.get_by_test_id("plan-quick")
    expect(card).to_contain_text(re.compile(r"Sewing time, about\s*([0-7] h|\d+ min)"), timeout=60_000)
    card.get_by_test_id("take-plan").click()
    saved(page)
    expect(page.get_by_test_id("proposals")).to_have_count(0)
    expect(page.get_by_test_id("hand")).not_to_have_text("open", timeout=30_000)
    page.get_by_test_id("undo").click()
    saved(page)
    expect(page.get_by_test_id("hand")).to_have_text("open", timeout=30_000)


def test_a_plan_for_all_zones_can_be_made_quicker(balance):
    balance.get_by_test_id("propose-open").click()
    balance.get_by_test_id("scope-all").click()
    balance.get_by_test_id("propose").click()
    card = balance.get_by_test_id("plan-texture")
    expect(card).to_be_visible(timeout=60_000)
    expect(balance.get_by_test_id("plan-soft")).to_be_visible(timeout=60_000)
    card.get_by_test_id("move-quicker").click()
    expect(balance.get_by_text("quicker, from “Most texture”")).to_be_visible(timeout=60_000)
    balance.keyboard.press("Escape")
    balance.get_by_test_id("proposals-close").click()
    expect(balance.get_by_test_id("proposals")).to_have_count(0)
