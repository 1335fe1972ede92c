"""Choosing among all fills: the gallery drawn in the zone, pinned variants, a fill's own settings."""

from __future__ import annotations

import re

from playwright.sync_api import expect

from tests.browser.test_walk import choose, saved, spacing, take_fill


def test_the_gallery_draws_every_fill_in_the_zone_and_sorts_them(table):
    choose(table, "Star centre")
    table.keyboard.press("a")
    cards = table.locator("[data-testid^=card-]")
    expect(cards.first).to_be_visible(timeout=20_000)
    assert cards.count() >= 25
    orders = {}
    for order in ("quickest first", "easiest first", "most open first", "fewest marks first"):
        table.get_by_role("button", name=order).click()
        orders[order] = [card.get_attribute("data-testid") for card in cards.all()]
    assert len({tuple(order) for order in orders.values()}) == 4
    assert len({tuple(sorted(order)) for order in orders.values()}) == 1
    table.get_by_test_id("card-clamshell").click()
    expect(table.get_by_test_id("gallery-board")).to_have_count(0)
    expect(table.get_by_test_id("other-fill").locator("b")).to_have_text("Clamshells")
    saved(table)
    table.reload()
    choose(table, "Star centre")
    expect(table.get_by_test_id("other-fill").locator("b")).to_have_text("Clamshells")


def test_variants_are_pinned_compared_cycled_and_one_is_made_so(table):
    choose(table, "Star centre")
    take_fill(table, "Echoes", "echo")
    table.get_by_test_id("pin").click()
    take_fill(table, "Straight", "grid")
    table.get_by_test_id("pin").click()
    take_fill(table, "Zigzags", "zigzag")
    table.get_by_test_id("pin").click()
    saved(table)
    table.get_by_test_id("compare").click()
    board = table.get_by_test_id("variants-board")
    expect(board.locator("thead b")).to_have_text(["Echo", "Grid", "Zigzag"])
    for row in ("Spacing", "Lines", "Lines to mark", "Widest gap", "Density", "Sewn", "Thread cuts, about"):
        expect(board.get_by_role("rowheader", name=row, exact=True)).to_be_visible()
    expect(board.locator("small").first).to_have_text(re.compile("[+\u2212]\\d+ %"))
    expect(board.get_by_text("On the quilt now")).to_have_count(1)
    board.get_by_test_id("make-so-1").click()
    name = table.get_by_test_id("other-fill").locator("b")
    expect(name).to_have_text("Grid")
    for label in ("Zigzag", "Echo", "Grid"):
        table.keyboard.press("v")
        expect(name).to_have_text(label)
    saved(table)
    table.reload()
    choose(table, "Star centre")
    expect(table.get_by_test_id("compare")).to_have_text("3 variants: compare")
    table.get_by_test_id("compare").click()
    for left in (2, 1):
        board.get_by_role("button", name=re.compile("^Remove")).first.click()
        expect(board.locator("thead b")).to_have_count(left)


def test_step_and_true_spacing_are_both_told_and_either_is_typed(table):
    choose(table, "Star centre")
    take_fill(table, "Zigzags", "zigzag rows")
    spacing(table).fill("3/8")
    spacing(table).blur()
    step = table.locator(".rows div", has_text="Step of the ruler").first
    true = table.locator(".rows div", has_text="True spacing").first
    expect(step).to_contain_text("17/32")
    expect(true).to_contain_text("your setting")
    table.get_by_role("button", name="step of the ruler").click()
    expect(step).to_contain_text("your setting")
    expect(true).to_contain_text("17/64")


def test_what_a_fill_refuses_is_said_at_its_field_and_the_last_drawing_stays(table):
    choose(table, "Star centre")
    take_fill(table, "Shapes", "inset")
    half = table.get_by_test_id("field-half")
    half.fill("9 in")
    expect(table.get_by_role("alert")).to_contain_text("inside the block")
    assert half.input_value() == "9 in"
    half.fill("1")
    expect(table.get_by_role("alert")).to_have_count(0)
    rhythm_of_lines(table)


def rhythm_of_lines(table):
    take_fill(table, "Straight", "lines")
    rhythm = table.get_by_test_id("field-rhythm")
    rhythm.fill("1 two")
    expect(table.get_by_role("alert")).to_contain_text("not a number")
    rhythm.fill("1 2 2 4")
    expect(table.get_by_role("alert")).to_have_count(0)


def test_a_curve_tells_the_radii_of_the_edges_that_sew_it(table):
    choose(table, "Star centre")
    take_fill(table, "Curves", "hourglass")
    table.keyboard.press(".")
    panel = table.get_by_test_id("line-panel")
    expect(panel).to_contain_text("radius at the needle")
    expect(panel).to_contain_text("inside edge")
    expect(table.get_by_test_id("ruler").locator(".body")).to_have_count(0)


def test_lines_are_made_to_meet_the_piecing(table):
    choose(table, "Star centre")
    take_fill(table, "Straight", "lines")
    table.get_by_role("button", name="0°", exact=True).click()
    spacing(table).fill("0.7")
    spacing(table).blur()
    table.get_by_test_id("meet").click()
    card = table.get_by_test_id("meet-card")
    for name in ("upper left corner", "lower left corner"):
        table.locator(f".picks circle[aria-label='{name}']").click(force=True)
        expect(card).to_contain_text(name)
    first = card.get_by_test_id("way").first
    expect(first).to_contain_text(re.compile(r"\d+ steps"))
    first.click()
    expect(table.get_by_role("button", name=re.compile("a point of the piecing"))).to_have_attribute(
        "aria-pressed", "true"
    )
    card.get_by_role("button", name="done").click()
    expect(table.locator(".picks")).to_have_count(0)
    table.keyboard.press("Escape")


def test_settings_are_copied_and_kept_as_recipes(table, tmp_path):
    choose(table, "Star centre")
    take_fill(table, "Curves", "waves")
    table.get_by_test_id("copy").click()
    table.get_by_test_id("recipes").click()
    table.get_by_test_id("recipe-name").fill("Soft water")
    table.get_by_test_id("recipe-keep").click()
    card = table.get_by_test_id("recipes-card")
    expect(card.get_by_title("Use Soft water in this zone")).to_contain_text("Waves")
    with table.expect_download() as download:
        table.get_by_test_id("recipes-file").click()
    book = tmp_path / "recipes.json"
    download.value.save_as(book)
    choose(table, "Star background")
    table.get_by_test_id("paste").click()
    name = table.get_by_test_id("other-fill").locator("b")
    expect(name).to_have_text("Waves")
    take_fill(table, "Straight", "grid")
    table.get_by_test_id("recipes").click()
    table.get_by_title("Use Soft water in this zone").click()
    expect(name).to_have_text("Waves")
    card.get_by_role("button", name="Delete Soft water").click()
    expect(card.get_by_title("Use Soft water in this zone")).to_have_count(0)
    table.get_by_test_id("recipes-bring").set_input_files(book)
    expect(card.get_by_title("Use Soft water in this zone")).to_be_visible()
    nonsense = tmp_path / "nonsense.json"
    nonsense.write_text("not a book")
    table.get_by_test_id("recipes-bring").set_input_files(nonsense)
    expect(card.get_by_role("alert")).to_contain_text("holds no recipes")


def test_a_freehand_texture_is_a_hint_and_a_grid_may_be_only_drawn(table):
    choose(table, "Star centre")
    take_fill(table, "Freehand", "texture")
    expect(table.get_by_text("Wander in rows and never cross")).to_be_visible()
    expect(table.locator(".rows div", has_text="Exact lines").first).to_contain_text("0")
    take_fill(table, "Straight", "grid")
    table.get_by_role("button", name="only marked").click()
    expect(table.locator(".rows div", has_text="Density").first).to_contain_text("0.0")


def test_a_second_fill_is_sewn_on_top_in_every_other_cell(table):
    choose(table, "Star centre")
    take_fill(table, "Straight", "grid")
    table.get_by_test_id("on-top").click()
    expect(table.get_by_text("Choose the fill to sew on top")).to_be_visible()
    table.get_by_test_id("group-Straight").click()
    table.get_by_test_id("fill-lines").click()
    table.get_by_role("button", name="every other cell").click()
    expect(table.get_by_role("button", name="every other cell")).to_have_attribute("aria-pressed", "true")
    expect(table.get_by_test_id("layer-1")).to_have_text("On top: Lines")
    table.get_by_test_id("layer-0").click()
    expect(table.get_by_test_id("other-fill").locator("b")).to_have_text("Grid")
    saved(table)
    table.keyboard.press("5")
    table.get_by_role("button", name="the fill on top").click()
    expect(table.get_by_role("button", name="the fill on top")).to_have_attribute("aria-pressed", "true")
    table.keyboard.press("2")
    table.get_by_test_id("take-off").click()
    expect(table.get_by_test_id("on-top")).to_be_visible()
    expect(table.get_by_test_id("layer-1")).to_have_count(0)
    saved(table)
    table.get_by_test_id("undo").click()
    table.get_by_test_id("layer-1").click()
    table.keyboard.press("5")
    expect(table.get_by_role("button", name="the fill on top")).to_have_attribute("aria-pressed", "true")
    table.get_by_test_id("redo").click()  # what is looked at is taken off: Marks shows the fill below
    expect(table.get_by_role("button", name="the fill on top")).to_have_count(0)
    expect(table.get_by_test_id("method-all-lines")).to_be_visible()


def test_waves_go_on_from_block_to_block_at_one_click(table):
    choose(table, "Star background")
    take_fill(table, "Curves", "waves")
    row = table.locator(".rows div", has_text="From block to block").first
    expect(row).to_contain_text("miss by")
    table.get_by_role("button", name="Count from the quilt’s center").click()
    expect(row).to_contain_text("lines meet")
    expect(table.get_by_role("button", name="Count from the quilt’s center")).to_have_count(0)
