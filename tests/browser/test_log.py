"""A block is sewn by the stand-in of a machine, photographed by the stand-in of a camera, measured, and taught from."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Page, expect

from kenzet.formats.photo import jpeg_of
from kenzet.standins.machine import MachineStandIn, over_the_wire, quilt_called
from tests.photographed import block_at, photographed


@pytest.fixture(scope="module")
def pictures(tmp_path_factory):
    """The star of the demo, every line a little too far from the last; and another block."""
    folder = tmp_path_factory.mktemp("pictures")
    star, _ = photographed(block_at(0, "1-1", False, True), fills=0.7, seed=51, drift=0.3, offset=0.2)
    other, _ = photographed(block_at(1, "2-1", None, True), fills=0.6, seed=52)
    for name, photo in (("star.jpg", star), ("other.jpg", other)):
        (folder / name).write_bytes(jpeg_of(photo))
    return folder


def to_the_log(page: Page) -> None:
    page.keyboard.press("7")
    expect(page.get_by_test_id("log-sewn")).to_be_visible()


def test_from_the_needle_to_what_the_next_block_is_planned_with(table, served, pictures):
    to_the_log(table)
    expect(table.get_by_test_id("log-sewn")).to_have_text("0 %")
    expect(table.get_by_test_id("go-on")).to_contain_text("Begin sewing")
    expect(table.get_by_test_id("fits")).to_contain_text("takes")
    table.get_by_test_id("fits-minutes").fill("600")
    table.get_by_test_id("fits-minutes").press("Enter")
    expect(table.get_by_test_id("fits")).to_contain_text("places, from")

    clock = [1_700_000_000.0]
    machine = MachineStandIn(
        pace=18.0, clock=lambda: clock[0], wait=lambda s: clock.__setitem__(0, clock[0] + s)
    )
    machine.sews(over_the_wire(served.url, quilt_called(served.url, "Harbour Lights")), 130)
    table.reload()
    expect(table.get_by_test_id("log-sewn")).not_to_have_text("0 %")
    expect(table.get_by_test_id("sitting")).to_contain_text("Star background")
    place = "3-2"  # in the middle: it is sewn first
    table.get_by_test_id(f"block-{place}").click()
    expect(table.get_by_test_id("log-block")).to_be_visible()
    expect(table.get_by_test_id(f"status-{place}")).to_have_attribute("data-stage", "finished")

    table.get_by_test_id("inspect-photo").set_input_files(pictures / "other.jpg")
    table.get_by_test_id("by-cards").click()
    expect(table.get_by_role("alert")).to_contain_text("does not show this block", timeout=60_000)
    expect(table.get_by_test_id("measure")).to_be_visible()  # nothing is lost

    table.get_by_role("button", name="Cancel").click()
    table.get_by_test_id("inspect-photo").set_input_files(pictures / "star.jpg")
    table.get_by_test_id("by-cards").click()
    expect(table.get_by_test_id("inspect-says")).to_be_visible(timeout=60_000)
    assert table.get_by_test_id("side-within").count() > 60
    table.get_by_test_id("inspect-worst").first.click()
    expect(table.get_by_test_id("inspect-side")).to_contain_text("line")
    before = table.locator(".side.unseen").count()
    table.get_by_test_id("side-strike").click()
    expect(table.locator(".side.unseen")).to_have_count(before + 1)
    table.get_by_test_id("side-back").click()
    expect(table.locator(".side.unseen")).to_have_count(before)

    table.get_by_test_id("close-inspection").click()
    table.get_by_test_id("verdict-keep").click()
    expect(table.get_by_test_id("verdict-keep")).to_have_attribute("aria-pressed", "true")
    table.get_by_test_id(f"note-place:{place}").fill("Foot is wider than I thought")
    table.get_by_test_id("keep-note").first.click()
    expect(table.get_by_text("Foot is wider than I thought", exact=True)).to_be_visible()
    table.get_by_test_id("log-unchoose").click()

    learnt = table.get_by_test_id("learnt-offset-left")
    expect(learnt).to_contain_text("lines measured")
    foot = float(learnt.locator("strong").inner_text().split()[0])
    assert 0.257 < foot < 0.266
    table.get_by_test_id("take-offset-left").click()
    expect(table.get_by_text(re.compile(r"now 0\.2[56]"))).to_be_visible()
    expect(table.get_by_test_id("take-offset-left")).to_have_count(0)
    quilt = quilt_called(served.url, "Harbour Lights")
    kit = table.request.get(f"{served.url}/api/quilts/{quilt}/kit").json()
    assert abs(kit["foot"] - foot * 25.4) < 0.02


def test_the_log_is_found_by_words(table, served):
    quilt = quilt_called(served.url, "Harbour Lights")
    MachineStandIn().sews(over_the_wire(served.url, quilt), 10)
    told = {"id": "words-0001", "about": "place:3-2", "kind": "note", "told": "The ruler slipped"}
    assert table.request.post(f"{served.url}/api/quilts/{quilt}/log/remarks", data=told).ok
    to_the_log(table)
    many = table.get_by_test_id("sitting").count()
    assert many > 0
    table.get_by_test_id("log-find").fill("ruler slip")
    expect(table.get_by_test_id("sitting")).to_have_count(0)
    expect(table.get_by_test_id("block-3-2")).to_be_visible()
    table.get_by_test_id("log-find").fill("")
    expect(table.get_by_test_id("sitting")).to_have_count(many)


def test_the_log_is_printed_and_saved(table, served):
    MachineStandIn().sews(over_the_wire(served.url, quilt_called(served.url, "Kelp Garden")), 5)
    to_the_log(table)
    for key, end in (
        ("log-pdf", ".pdf"),
        ("log-csv", ".csv"),
        ("log-json", ".json"),
        ("corner-cards", ".pdf"),
    ):
        with table.expect_download() as got:
            table.get_by_test_id(key).click()
        assert got.value.suggested_filename.endswith(end)


def test_the_first_page_tells_how_far_she_is_and_goes_on_there(table, served):
    quilt = quilt_called(served.url, "Harbour Lights")
    MachineStandIn().sews(over_the_wire(served.url, quilt), 20)
    table.get_by_label("Kenzet: your quilts").click()
    expect(table.get_by_test_id(f"next-{quilt}")).to_contain_text("Next: Eight-point star")
    table.get_by_test_id(f"go-{quilt}").click()
    expect(table.get_by_test_id("line")).to_be_visible()


def test_sessions_come_into_her_calendar(table, served):
    to_the_log(table)
    expect(table.get_by_test_id("schedule-says")).to_contain_text("all lines are sewn on")
    many = table.get_by_test_id("schedule-says").inner_text()
    for day in (1, 3, 5):
        table.get_by_test_id(f"day-{day}").click()
    expect(table.get_by_test_id("schedule-says")).to_contain_text("no day is chosen")
    table.get_by_test_id("day-6").click()
    expect(table.get_by_test_id("session").first).to_contain_text("Sunday")
    assert table.get_by_test_id("schedule-says").inner_text() != many
    table.get_by_test_id("session").first.get_by_role("button").click()
    with table.expect_download() as got:
        table.get_by_test_id("schedule-ics").click()
    assert "BEGIN:VEVENT" in got.value.path().read_text()


def test_thread_ends_are_ticked(table, served):
    MachineStandIn().sews(over_the_wire(served.url, quilt_called(served.url, "Harbour Lights")), 10)
    to_the_log(table)
    box = table.get_by_role("checkbox", name=re.compile("thread end")).first
    box.check()
    expect(box).to_be_checked()
    table.reload()
    expect(table.get_by_role("checkbox", name=re.compile("thread end")).first).to_be_checked()


def test_a_fill_that_worked_goes_to_the_next_zone(table, served):
    MachineStandIn(name="copies").sews(
        over_the_wire(served.url, quilt_called(served.url, "Harbour Lights")), 5
    )
    to_the_log(table)
    table.locator("[data-testid^=block-]").first.click()
    table.get_by_test_id("copy-from").select_option(label="Star background")
    table.get_by_test_id("copy-to").select_option(label="Border")
    table.get_by_test_id("copy-fill").click()
    expect(table.get_by_test_id("copy-next")).to_contain_text("“Border” is filled like “Star background” now")
    table.keyboard.press("z")
    expect(table.get_by_role("status").filter(has_text="Sav").first).to_have_text("Saved")


def test_a_block_is_measured_with_a_tape(table):
    to_the_log(table)
    table.get_by_test_id("canvas").click(position={"x": 285, "y": 135})
    expect(table.get_by_test_id("log-block")).to_be_visible()
    table.get_by_test_id("tape-zone").select_option(label="Star background")
    table.get_by_test_id("tape-lines").fill("10")
    table.get_by_test_id("tape-span").fill("70")
    table.get_by_test_id("tape-keep").click()
    expect(table.get_by_role("alert")).to_contain_text("Count the lines again")
    table.get_by_test_id("tape-span").fill("7")
    table.get_by_test_id("tape-keep").click()
    expect(table.get_by_test_id("taped")).to_contain_text("0.028 in in each gap")
    table.get_by_test_id("log-unchoose").click()
    expect(table.get_by_test_id("learnt-offset-left")).to_contain_text(re.compile(r"\d+ lines measured"))


def test_a_test_piece_goes_into_the_book_and_teaches_the_batting(table):
    to_the_log(table)
    table.get_by_test_id("open-swatches").click()
    expect(table.locator("[data-testid=swatch-book] img")).to_have_count(3)  # of the practice cloth
    table.get_by_test_id("swatch-zone").select_option(label="Sashing")
    table.get_by_test_id("swatch-name").fill("Sashing on cotton")
    table.get_by_test_id("swatch-add").click()
    card = table.get_by_test_id("swatch-card")
    expect(card.get_by_role("heading", name="Sashing on cotton")).to_be_visible()
    card.get_by_role("button", name="stiff").click()
    expect(card.get_by_role("button", name="stiff")).to_have_attribute("aria-pressed", "true")
    height = table.get_by_test_id("field-high")
    height.fill("9")
    height.press("Enter")
    expect(card.get_by_role("alert")).to_contain_text("3 in")
    height.fill("3/8")
    height.press("Enter")
    expect(card.get_by_role("alert")).to_have_count(0)
    table.get_by_test_id("swatch-notes").fill("High and springy")
    table.get_by_test_id("swatch-beside").select_option(label="Echoes inward")
    expect(card.get_by_role("row", name="Widest gap")).to_contain_text("1")
    table.get_by_test_id("swatch-close").click()

    row = table.get_by_test_id("learnt-thickness")
    learnt = row.locator("strong").inner_text()
    row.get_by_test_id("take-thickness").click()
    expect(table.get_by_role("status").filter(has_text="Thickness of the batting")).to_contain_text(learnt)
    expect(row).to_contain_text(f"In use: {learnt}")
    table.keyboard.press("z")
    expect(row.get_by_test_id("take-thickness")).to_be_visible()

    table.get_by_test_id("open-swatches").click()
    table.get_by_role("button", name=re.compile("Sashing on cotton")).click()
    expect(table.get_by_test_id("swatch-notes")).to_have_value("High and springy")
    with table.expect_download() as book:
        table.get_by_test_id("swatch-all").click()
        table.get_by_test_id("swatches-pdf").click()
    assert book.value.suggested_filename == "swatch-book.pdf"
    table.get_by_role("button", name=re.compile("Sashing on cotton")).click()
    table.get_by_test_id("swatch-target").select_option(label="Border")
    table.get_by_test_id("swatch-use").click()
    expect(table).to_have_url(re.compile("/fills"))
    expect(table.get_by_role("heading", name="Border")).to_be_visible()
    expect(table.get_by_test_id("other-fill").locator("b")).to_have_text("Echo")
    table.keyboard.press("7")
    table.get_by_test_id("open-swatches").click()
    table.get_by_role("button", name=re.compile("Sashing on cotton")).click()
    table.get_by_test_id("swatch-out").click()
    table.get_by_test_id("swatch-out-sure").click()
    expect(table.locator("[data-testid=swatch-book] img")).to_have_count(3)
