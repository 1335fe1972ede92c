"""The first day: six steps that are the work itself, and a guide that is at hand in every station."""

from __future__ import annotations

import re
from pathlib import Path

import pytest
from playwright.sync_api import expect

from tests.browser.test_walk import saved

GUIDE = Path(__file__).resolve().parents[2] / "docs" / "guide"
PAGES = [
    "begin",
    "top",
    "fills",
    "ruler",
    "balance",
    "kit",
    "bench",
    "marks",
    "table",
    "stitch",
    "machine",
    "log",
]


def test_six_short_steps_go_on_by_themselves_and_are_never_in_the_way_again(table):
    table.get_by_label("Kenzet: your quilts").click()
    expect(
        table.get_by_role("heading", level=1)
    ).to_be_visible()  # else the page that is left is loaded again
    table.evaluate("localStorage.setItem('kenzet-tour', '0')")
    table.reload()
    table.get_by_test_id("tour-begin").click()
    tour = table.get_by_test_id("tour")
    expect(tour).to_contain_text("Step 1 of 6")
    table.get_by_role("button", name=re.compile("^Star background")).click()
    expect(tour).to_contain_text("Step 2 of 6")
    table.get_by_test_id("tour-on").click()
    expect(tour).to_contain_text("Step 3 of 6")
    table.keyboard.press("]")
    expect(tour).to_contain_text("Step 4 of 6")
    saved(table)
    table.get_by_test_id("show-ruler").click()
    expect(tour).to_contain_text("Step 5 of 6")
    table.locator("nav").get_by_text("Marks").click()
    expect(tour).to_contain_text("Step 6 of 6")
    table.locator("nav").get_by_text("Stitch").click()
    table.get_by_test_id("to-machine").click()
    expect(tour).to_have_count(0)
    table.get_by_label("Kenzet: your quilts").click()
    expect(table.get_by_test_id("tour-offer")).to_have_count(0)
    table.reload()
    expect(table.get_by_role("heading", level=1)).to_be_visible()
    expect(table.get_by_test_id("tour-offer").or_(table.get_by_test_id("tour"))).to_have_count(0)


def test_the_guide_opens_at_the_station_and_its_links_lead_on(table):
    table.keyboard.press("5")
    table.get_by_test_id("help").click()
    page = table.get_by_test_id("guide")
    expect(page.get_by_role("heading", level=2)).to_have_text(re.compile("^Marks"))
    picture = page.locator("img")
    expect(picture).to_be_visible()
    table.wait_for_function("document.querySelector('article img')?.naturalWidth > 600")
    page.get_by_role("link", name="mark step by step").click()
    expect(page.get_by_role("heading", level=2)).to_have_text("Mark step by step")
    table.get_by_test_id("guide-kit").click()
    expect(page.get_by_role("heading", level=2)).to_have_text(re.compile("^Kit"))
    table.get_by_test_id("guide-keys").click()
    expect(table.get_by_role("heading", name="Keys")).to_be_visible()


@pytest.mark.parametrize("page", PAGES)
def test_every_page_has_a_picture_that_is_there_a_sum_and_a_way_on(page):
    text = (GUIDE / f"{page}.md").read_text()
    pictures = re.findall(r"\((\.\./screenshots/[\w-]+\.png)\)", text)
    assert len(pictures) == 1
    assert (GUIDE / pictures[0]).is_file()
    assert "## An example with its sum" in text
    links = re.findall(r"\((\w+)\.md\)", text)
    assert links
    assert set(links) <= set(PAGES)


def test_the_guide_is_these_pages():
    assert {file.stem for file in GUIDE.glob("*.md")} == set(PAGES)
