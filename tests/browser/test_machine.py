"""At the machine: a quilt is sewn from its first line to its last, with all that goes wrong on the way."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from kenzet.standins.machine import MachineStandIn, over_the_wire, quilt_called
from tests.browser.test_stitch import to_the_route


def at_the_machine(page: Page) -> None:
    page.keyboard.press("6")
    page.get_by_test_id("to-machine").click()
    expect(page.get_by_test_id("next")).to_be_visible()


def line(page: Page) -> int:
    """The number of the line at hand."""
    expect(page.get_by_test_id("line")).to_have_text(re.compile(r"^Line \d+ of"))
    return int(page.get_by_test_id("line").inner_text().split(" ")[1])


def test_harbour_lights_is_sewn_from_start_to_finish(table, served):
    to_the_route(table)
    expect(table.get_by_text("13 places to sew")).to_be_visible()
    rows = dict(
        zip(table.locator("dt").all_inner_texts(), table.locator("dd").all_inner_texts(), strict=False)
    )
    plan = {label: said for label, said in rows.items() if label in ("Lines", "Thread cuts on the way")}
    at_the_machine(table)
    expect(table.get_by_test_id("line")).to_have_text("A new thread")
    for number in (1, 2, 3):
        table.keyboard.press("Space")
        expect(table.get_by_test_id("line")).to_have_text(f"Line {number} of 119")
    expect(table.get_by_test_id("lay")).to_contain_text(
        re.compile("on the (seam|line you just sewed|line (to the|above|below))")
    )
    expect(table.get_by_test_id("sum-line")).to_contain_text("your foot")

    table.keyboard.press("t")  # the thread breaks in the middle of line 3
    table.get_by_test_id("broke-share").fill("40")
    expect(table.get_by_test_id("broke-at")).to_be_visible()
    table.get_by_test_id("broke-tell").click()
    expect(table.get_by_test_id("lay")).to_contain_text("where the sewing ends")
    table.keyboard.press("PageDown")  # a pedal
    expect(table.get_by_test_id("line")).to_have_text("Line 3 of 119")

    quilt = over_the_wire(served.url, quilt_called(served.url, "Harbour Lights"))
    stand_in = MachineStandIn(drift=0.02, bobbin=1e7)  # one that holds for the whole quilt
    assert stand_in.sews(quilt, steps=8) == 8
    expect(table.get_by_test_id("line")).to_have_text("Line 11 of 119")
    expect(table.get_by_test_id("followed")).to_contain_text("stitches")

    table.keyboard.press("u")  # the last line but one comes out again
    table.get_by_test_id("out-1").click()
    table.get_by_test_id("unpick-tell").click()
    expect(table.get_by_test_id("line")).to_have_text("A new thread")
    table.reload()
    expect(table.get_by_test_id("line")).to_have_text("A new thread")
    table.keyboard.press("Space")
    expect(table.get_by_test_id("line")).to_have_text("Line 9 of 119")

    stand_in.sews(quilt)
    expect(table.get_by_test_id("finished")).to_have_text("All of it is sewn", timeout=30_000)
    tally = dict(
        zip(
            table.locator("main dt").all_inner_texts(),
            table.locator("main dd").all_inner_texts(),
            strict=True,
        )
    )
    assert tally["Lines sewn"] == plan["Lines"]
    assert int(tally["Threads begun"]) == int(plan["Thread cuts on the way"]) + 1 + 2
    assert tally["Breaks"] == "1"
    assert abs(int(tally["Stitches counted"].replace(",", "")) - stand_in.stitches) == 0
    expect(table.get_by_test_id("share")).to_have_text("100 %")


def test_what_is_sewn_while_the_server_is_lost_is_told_later_and_once(table):
    table.get_by_role("link", name="Kenzet").or_(table.locator("header a")).first.click()
    table.get_by_role("button", name=re.compile("^Kelp Garden")).first.click()
    table.get_by_test_id("canvas").wait_for()
    at_the_machine(table)
    table.keyboard.press("Space")
    first = line(table)
    table.route("**/api/**", lambda call: call.abort())
    for _ in range(3):
        table.keyboard.press("Space")
    assert line(table) == first + 3
    expect(table.get_by_test_id("lost")).to_be_visible()
    table.keyboard.press("b")
    assert line(table) == first + 2
    table.unroute("**/api/**")
    expect(table.get_by_test_id("lost")).to_be_hidden(timeout=20_000)
    table.reload()
    assert line(table) == first + 2

    other = table.context.new_page()  # a tablet beside the machine shows the same
    other.goto(table.url)
    assert line(other) == first + 2
    other.get_by_test_id("next").click()
    assert line(other) == first + 3
    expect(table.get_by_test_id("line")).to_have_text(re.compile(f"^Line {first + 3} of"))
    other.close()

    skipped = line(table)
    table.keyboard.press("s")
    expect(table.get_by_test_id("line")).not_to_have_text(re.compile(f"^Line {skipped} of"))
    table.keyboard.press("l")
    expect(table.get_by_test_id("take-up")).to_contain_text("the line that you skipped")
    table.get_by_test_id("take-up").click()
    expect(table.get_by_test_id("line")).to_have_text(
        re.compile(f"^(Line {skipped} of|On the way|A new thread)")
    )
    table.keyboard.press("p")
    expect(table.get_by_text("Shake out your hands")).to_be_visible()
    table.keyboard.press("Space")
    expect(table.get_by_test_id("lay")).to_be_visible()
    table.keyboard.press("Escape")
    expect(table.get_by_test_id("to-machine")).to_be_visible()
