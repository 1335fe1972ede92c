"""A quilter puts her things into the inventory, measures her foot, and plans with them."""

from __future__ import annotations

import re
from pathlib import Path
from time import monotonic

from playwright.sync_api import Page, expect

from tests.browser.test_walk import choose, saved, spacing, take_fill, type_spacing


def put_in(table: Page, group: str, kind: str, name: str, **fields: str) -> None:
    table.get_by_test_id(f"add-{group}").click()
    table.get_by_test_id(f"kind-{kind}").click()
    expect(table.locator("aside h2")).to_have_text(re.compile(kind.replace("-", " "), re.I))
    table.get_by_test_id("thing-name").fill(name)
    for field, value in fields.items():
        table.get_by_test_id(f"field-{field}").fill(value)
    expect(
        table.get_by_test_id("inventory").get_by_role("button", name=re.compile(re.escape(name)))
    ).to_be_visible()
    saved(table)


def test_a_foot_and_two_rulers_are_in_within_two_minutes(table):
    table.keyboard.press("4")
    began = monotonic()
    put_in(table, "machine", "ruler-foot", "Low foot", offset="5 mm")
    put_in(table, "rulers", "straight-ruler", "Short one", length="6", width="1 1/2")
    table.get_by_role("button", name="every 1/8 in").click()
    put_in(table, "rulers", "arc", "Big circle", outside="20")
    assert monotonic() - began < 120
    table.get_by_test_id("whole-kit").click()
    table.get_by_role("button", name="Low foot", exact=True).click()
    expect(table.locator(".weld")).to_contain_text("13/64")
    saved(table)
    table.get_by_test_id("pick-ruler-foot").click()
    expect(table.locator(".weld")).to_contain_text(re.compile(r"sews 1/4\b"))
    saved(table)
    table.keyboard.press("2")
    choose(table, "Star centre")
    take_fill(table, "Straight", "lines")
    type_spacing(table, "5/8")
    expect(table.get_by_test_id("with-ruler")).to_contain_text("with “Short one”")
    type_spacing(table, "3/4")
    expect(table.get_by_test_id("sum")).to_contain_text("1/2")
    table.get_by_test_id("show-ruler").click()
    rulers = table.get_by_test_id("rulers").locator(".chip")
    expect(rulers.first).to_contain_text("Straight ruler")  # the line is longer than the short one
    rulers.filter(has_text="Short one").click()  # her choice holds
    expect(table.get_by_test_id("with-ruler")).to_contain_text("with “Short one”")
    table.reload()
    choose(table, "Star centre")
    expect(table.get_by_test_id("with-ruler")).to_contain_text("with “Short one”")
    table.get_by_test_id("show-ruler").click()
    table.get_by_test_id("lay-best").click()
    expect(table.get_by_test_id("with-ruler")).to_contain_text("with “Straight ruler”")
    table.get_by_test_id("zone-walking-foot").click()
    expect(table.get_by_test_id("sum")).to_contain_text("Set the guide bar")
    table.get_by_test_id("zone-ruler-foot").click()
    expect(table.get_by_test_id("sum")).to_contain_text("your foot")


def test_quarter_inch_lines_with_a_5_mm_foot_drift_and_are_told(table):
    table.keyboard.press("4")
    table.get_by_test_id("thing-ruler-foot").click()
    table.get_by_test_id("strip").click()
    table.get_by_test_id("strip-span").fill("1 mile")
    expect(table.get_by_role("alert")).to_be_visible()
    table.get_by_test_id("strip-span").fill("40 mm")
    expect(table.get_by_test_id("strip-tells")).to_have_text("5 mm")
    table.get_by_test_id("strip-keep").click()
    expect(table.get_by_test_id("thing-ruler-foot")).to_contain_text("13/64")
    expect(table.get_by_text("9 lines over 40 mm")).to_be_visible()
    saved(table)
    table.keyboard.press("2")
    choose(table, "Star centre")
    take_fill(table, "Straight", "lines")
    type_spacing(table, "3/4")
    drift = table.get_by_test_id("known")
    expect(drift).to_contain_text("too close")
    expect(drift).to_contain_text("So mark every line")
    table.locator("nav").get_by_text("Kit").click()
    table.get_by_test_id("field-offset").fill("1/4 in")
    table.get_by_test_id("field-offset").blur()
    expect(table.get_by_test_id("thing-ruler-foot")).to_contain_text("1/4")
    saved(table)
    table.keyboard.press("2")
    choose(table, "Star centre")
    expect(drift).to_contain_text(re.compile("Mark every 4th line|within what you allow"))
    expect(spacing(table)).to_have_value("3/4")


def test_a_ruler_that_is_too_thin_is_gated_until_it_is_right(table):
    table.keyboard.press("4")
    table.get_by_test_id("thing-straight-ruler").click()
    table.get_by_test_id("field-thickness").fill("3 mm")
    expect(table.get_by_test_id("fault")).to_contain_text("can slide under the foot")
    expect(table.get_by_test_id("fault")).to_contain_text("manual")
    table.get_by_test_id("field-thickness").fill("1/4 in")
    expect(table.get_by_test_id("fault")).to_have_count(0)
    saved(table)


def test_a_curve_is_ranked_among_her_rulers(table):
    choose(table, "Star centre")
    take_fill(table, "Curves", "curved rows")
    table.get_by_test_id("show-ruler").or_(table.get_by_role("button", name="Show the ruler")).first.click()
    curves = table.get_by_test_id("curves")
    expect(curves).to_contain_text("Arc, 14 in circle")
    expect(curves).to_contain_text(re.compile("fits|can be nudged|will not do"))


def test_the_tools_go_out_as_a_file_and_a_lent_thing_comes_back(table):
    table.keyboard.press("4")
    with table.expect_download() as download:
        table.get_by_test_id("kit-csv").click()
    file = Path(download.value.path()).read_bytes()
    assert b"straight ruler" in file
    table.get_by_test_id("thing-wave").click()
    table.get_by_role("button", name="lent", exact=True).click()
    expect(table.get_by_test_id("thing-wave")).to_contain_text("lent")
    table.get_by_role("button", name="at hand", exact=True).click()
    expect(table.get_by_test_id("thing-wave")).not_to_contain_text("lent")
    table.get_by_test_id("remove-thing").click()
    table.get_by_test_id("remove-sure").click()
    expect(table.get_by_test_id("thing-wave")).to_have_count(0)
    table.get_by_test_id("bring-things").set_input_files(
        {"name": "kit.csv", "mimeType": "text/csv", "buffer": file}
    )
    expect(table.get_by_test_id("thing-wave")).to_be_visible()
    saved(table)


def test_a_wave_border_is_laid_with_her_wave(table):
    choose(table, "Border")
    take_fill(table, "Curves", "waves")
    table.get_by_test_id("field-period").fill("2 1/2")
    table.get_by_test_id("show-ruler").click()
    panel = table.get_by_test_id("line-panel")
    expect(panel).to_contain_text("beside the plastic")
    expect(panel).to_contain_text("lowest or highest")
    expect(table.get_by_test_id("curves")).to_contain_text("Wave")
    expect(table.get_by_test_id("curves")).to_contain_text("fits")
    table.get_by_test_id("field-period").fill("3")
    expect(table.get_by_test_id("curves")).to_contain_text("will not do")
    take_fill(table, "Curves", "wave border")
    table.get_by_test_id("field-period").fill("2 1/2")
    panel = table.locator("aside")
    expect(panel).to_contain_text("Line's middle from the edge")
    expect(panel).to_contain_text("Repeats across")
    expect(panel).to_contain_text("At the corner")
    table.get_by_test_id("show-ruler").click()
    told = table.get_by_test_id("line-panel")
    expect(told).to_contain_text("Crest to crest")
    expect(told).to_contain_text("beside the plastic")
    expect(table.get_by_test_id("curves")).to_contain_text("Wave")
    saved(table)
