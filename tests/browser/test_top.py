"""A quilter lays her own top down from nothing, says what is quilted as one, and fills it."""

from __future__ import annotations

import io
import re
from time import monotonic

import pytest
from PIL import Image
from playwright.sync_api import Page, expect

from kenzet.standins.printer import PrinterStandIn
from tests.browser.test_walk import click_at, saved, take_fill, view
from tests.pictures import picture

IN = 25.4


class Hands:
    """Every action is counted."""

    def __init__(self, page: Page) -> None:
        self.page = page
        self.actions = 0

    def press(self, test_id: str) -> None:
        self.actions += 1
        self.page.get_by_test_id(test_id).click()
        if test_id.startswith("page-"):  # keys that follow belong to the page that is asked for
            expect(self.page.get_by_test_id(test_id)).to_have_attribute("aria-current", "page")

    def click(self, x: float, y: float, **more) -> None:
        self.actions += 1
        click_at(self.page, x, y, **more)

    def drag(self, *places: tuple[float, float]) -> None:
        """One stroke over places, inches from the quilt's lower left corner."""
        self.actions += 1
        scale, left, low = view(self.page)
        pane = self.page.get_by_test_id("canvas").bounding_box()
        spots = [(pane["x"] + left + x * IN * scale, pane["y"] + low - y * IN * scale) for x, y in places]
        self.page.mouse.move(*spots[0])
        self.page.mouse.down()
        for spot in spots[1:]:
            self.page.mouse.move(*spot, steps=6)
        self.page.mouse.up()
        saved(self.page)

    def lay(self, tile: str, *strokes: list[tuple[float, float]]) -> None:
        self.press("new-block")
        self.press(f"tile-{tile}")
        expect(self.page.get_by_text("is selected")).to_contain_text(tile)
        for stroke in strokes:
            self.drag(*stroke)

    def zone(self, x: float, y: float, *more: str) -> None:
        """Point at a patch, perhaps at more of the same, and make a zone of it."""
        self.click(x, y)
        for test_id in more:
            expect(self.page.get_by_test_id("make-zone")).to_be_visible()
            self.press(test_id)
        self.press("make-zone")
        expect(self.page.get_by_test_id("fill-it")).to_be_visible()

    def end(self, x: float, y: float) -> None:
        """Choose the point here as an end of the line that cuts a zone."""
        spots = self.page.locator(".picks circle")
        expect(spots.first).to_be_visible()
        scale, left, low = view(self.page)
        px, py = left + x * IN * scale, low - y * IN * scale
        places = spots.evaluate_all(
            "all => all.map(c => c.getAttribute('transform').match(/-?[\\d.]+/g).map(Number))"
        )
        away = [abs(at[0] - px) + abs(at[1] - py) for at in places]
        assert min(away) < 2
        self.actions += 1
        spots.nth(away.index(min(away))).click()

    def cut(self, kind: str, pieces: int, distance: str = "") -> None:
        self.press(f"cut-{kind}")
        if distance:
            self.page.get_by_test_id("cut-distance").fill(distance)
        expect(self.page.get_by_text(f"Gives {pieces} zones")).to_be_visible()
        self.press("cut-it")
        expect(self.page.get_by_text("Zones so far")).to_be_visible()


@pytest.fixture
def hands(table):
    """The app with a new quilt of three by four blocks of 12 inches, its blocks page open."""
    table.get_by_label("Kenzet: your quilts").click()
    hands = Hands(table)
    hands.press("new-quilt")
    hands.press("begin")
    table.get_by_test_id("new-block").wait_for()
    return hands


def zones(page: Page) -> list[str]:
    return page.locator(".list .zone b").all_inner_texts()


def sampler(hands: Hands) -> None:
    hands.lay("Sawtooth star", [(6, 42)], [(18, 30)], [(30, 18)])
    hands.lay("Nine-patch", [(18, 42)], [(30, 30)], [(6, 18)])
    hands.lay("Pinwheel", [(30, 42)], [(6, 30)], [(18, 18)])
    hands.lay("Ring of petals", [(6, 6), (30, 6)])  # over three blocks in one stroke
    hands.lay("Plain", [(18, 6)])
    hands.press("page-layout")
    hands.press("sashes")
    expect(hands.page.locator("header")).to_contain_text("44 × 58 in")
    hands.actions += 1
    hands.page.get_by_role("group", name="Cornerstones").get_by_role("button", name="Accent").click()
    saved(hands.page)
    hands.press("add-border")
    expect(hands.page.locator("header")).to_contain_text("50 × 64 in")


AT = {  # lower left corners of blocks in the finished top, by place; sashes of 2, a border of 3
    (r, c): (5 + 14 * (c - 1), 5 + 14 * (4 - r)) for r in range(1, 5) for c in range(1, 4)
}


def afresh(hands: Hands) -> None:
    hands.page.keyboard.press("Escape")
    hands.page.keyboard.press("f")


def zones_by_pointing(hands: Hands) -> None:
    """One patch, several, All like it, a background in the block."""
    page, (x, y) = hands.page, AT[1, 1]
    hands.zone(x + 6, y + 6)
    afresh(hands)
    hands.click(x + 3.5, y + 11)
    hands.click(x + 8.5, y + 11, modifiers=["Shift"])
    expect(page.get_by_role("heading", name="2 patches")).to_be_visible()
    hands.click(x + 6, y + 6, button="right")
    expect(page.get_by_role("heading", name="3 patches")).to_be_visible()
    hands.click(x + 6, y + 6, button="right")  # once more: without that one
    expect(page.get_by_role("heading", name="2 patches")).to_be_visible()
    hands.press("make-zone")
    expect(page.get_by_test_id("fill-it")).to_be_visible()
    afresh(hands)
    hands.click(x + 2.5, y + 3.5, click_count=2)
    expect(page.get_by_role("heading", name="8 patches")).to_be_visible()
    afresh(hands)
    hands.zone(x + 1, y + 11, "background")
    expect(page.get_by_test_id("zone-name")).to_have_value("Sawtooth star: background")
    afresh(hands)


def zones_by_cutting(hands: Hands) -> None:
    """The eight-sided shape over a nine-patch; the inner square of the pinwheel, its quadrants, its diagonals."""
    page, (x, y) = hands.page, AT[1, 2]
    hands.zone(x + 2, y + 2, "as-block")
    hands.press("cut-line")
    page.get_by_test_id("cut-around").click()
    hands.end(x + 0, y + 8)
    hands.end(x + 4, y + 12)
    expect(page.get_by_text("Gives 2 zones: middle eight-sided shape, 4 triangles")).to_be_visible()
    hands.press("cut-it")
    expect(page.get_by_text("Zones so far")).to_be_visible()
    assert {"Nine-patch, whole: 4 triangles", "Nine-patch, whole: middle eight-sided shape"} <= set(
        zones(page)
    )
    x, y = AT[1, 3]
    afresh(hands)
    hands.zone(x + 1, y + 1, "as-block")
    hands.cut("inset-square", 2, "3")
    page.get_by_role("button", name=re.compile("^Pinwheel, whole: middle square")).click()
    hands.cut("cross", 2)
    page.get_by_role("button", name=re.compile("^Pinwheel, whole: frame")).click()
    hands.press("together")
    expect(page.get_by_test_id("zone-name")).to_have_value("Pinwheel, whole")
    hands.cut("diagonals", 2)


def zones_by_measuring(hands: Hands) -> None:
    """A background off its petals, its outline inset; a line measured along edges; sashes that run through."""
    page, (x, y) = hands.page, AT[4, 1]
    afresh(hands)
    hands.zone(x + 0.5, y + 0.5)
    page.get_by_label("Keep away from appliqué by").fill("1/4")
    page.get_by_label("Keep away from appliqué by").blur()
    saved(page)
    hands.cut("inset-outline", 3, "1/2")
    x, y = AT[4, 2]
    afresh(hands)
    hands.zone(x + 6, y + 6)
    hands.press("cut-line")
    for inches, edge in (("3", "top edge"), ("5", "left edge")):
        page.get_by_test_id("cut-along").fill(inches)
        page.get_by_role("button", name="along an edge").click()
        # wherever the drawing has got to by then on a slow machine
        page.locator(f".picks path[aria-label='{edge}']").dispatch_event("click")
    expect(page.get_by_text(re.compile("Gives 2 zones: .*triangle"))).to_be_visible()
    hands.press("cut-it")
    afresh(hands)
    hands.click(4, 30)
    hands.press("background-across")
    hands.press("make-zone")
    expect(page.get_by_test_id("zone-name")).to_have_value("Dark background")
    afresh(hands)
    hands.zone(1, 30)
    afresh(hands)


def test_a_twelve_block_sampler_takes_fewer_than_sixty_actions_and_every_zone_on_it_can_be_filled(hands):
    sampler(hands)
    assert hands.actions < 60
    page = hands.page
    hands.press("page-zones")
    zones_by_pointing(hands)
    zones_by_cutting(hands)
    zones_by_measuring(hands)
    made = zones(page)
    assert len(made) >= 13
    page.keyboard.press("2")
    for name in made:
        page.get_by_role("button", name=re.compile(f"^{re.escape(name)}")).first.click()
        take_fill(page, "Echoes", "echo")
        expect(page.get_by_text("widest gap", exact=False).first).to_be_visible()
        page.get_by_role("button", name="all zones").click()
    saved(page)
    assert page.locator(".list .zone span").all_inner_texts() == ["Echo"] * len(made)
    page.get_by_role("button", name=re.compile("^Sawtooth star: centre")).click()
    page.get_by_role("button", name="Leave this zone unquilted").click()
    expect(page.get_by_text("This zone is unquilted")).to_be_visible()


def test_she_draws_a_block_colours_it_appliques_on_it_and_lays_it(hands):
    page = hands.page
    hands.press("draw-own")
    page.get_by_test_id("own-name").fill("Reed bed")
    hands.press("own-begin")
    expect(page.get_by_test_id("board")).to_be_visible()

    def seam(start: str, end: str) -> None:
        hands.press(f"spot-{start}")
        hands.press(f"spot-{end}")
        saved(page)

    seam("0-0", "4-4")
    seam("0-4", "4-0")
    expect(page.locator("path.patch")).to_have_count(4)
    page.get_by_test_id("draw-rise").fill("20 in")
    seam("1-0", "1-4")
    expect(page.get_by_role("alert")).to_contain_text("at most 9 in")
    page.get_by_test_id("draw-rise").fill("1")
    seam("1-0", "1-4")
    expect(page.locator("path.patch")).to_have_count(7)
    hands.press("tool-colour")
    page.get_by_role("group", name="Selected").get_by_role("button", name="Accent").click()
    page.locator("path.patch").first.click()
    expect(page.locator("path.patch[fill='#c98a6b']")).to_have_count(1)
    hands.press("tool-applique")
    for spot in ("2.5-2.5", "3.5-3.5", "2.5-2.5"):
        hands.press(f"spot-{spot}")
    expect(page.get_by_text("take off appliqué 1")).to_be_visible()
    hands.press("tool-seam")
    page.get_by_test_id("seam-2").click(force=True, position=None)
    board = page.get_by_test_id("board")
    board.focus()
    for key in ("ArrowRight", "Enter", "ArrowUp", "Enter"):  # by keys alone
        board.press(key)
    saved(page)
    expect(page.get_by_text(re.compile("8 patches|9 patches"))).to_be_visible()
    hands.press("draw-lay")
    hands.drag((6, 42), (30, 42))
    expect(page.get_by_test_id("block-reed-bed")).to_contain_text("3 ×")
    hands.press("page-zones")
    hands.zone(6.2, 47)
    hands.press("fill-it")
    take_fill(page, "Echoes", "echo")
    expect(page.get_by_text("widest gap", exact=False).first).to_be_visible()


def test_she_brings_a_block_in_from_a_drawing(hands):
    page = hands.page
    hands.press("draw-own")
    drawing = b"""<svg xmlns="http://www.w3.org/2000/svg" width="6in" height="6in" viewBox="0 0 6 6"><script>no()</script>
        <rect width="6" height="6" fill="#dde6ea"/><path d="M0 3H6M3 0V6"/><circle cx="3" cy="3" r="1.5" fill="#a33"/></svg>"""
    chooser = page.get_by_test_id("bring-file")
    chooser.set_input_files({"name": "sea-star.svg", "mimeType": "image/svg+xml", "buffer": b"<svg"})
    expect(page.get_by_role("alert")).to_contain_text("This SVG file is damaged")
    chooser.set_input_files({"name": "sea-star.svg", "mimeType": "image/svg+xml", "buffer": drawing})
    expect(page.get_by_text("Left out: a script.")).to_be_visible()
    expect(page.get_by_text("5 patches")).to_be_visible()
    page.get_by_test_id("bring-width").fill("300 in")
    page.get_by_test_id("bring-width").blur()
    expect(page.get_by_role("alert")).to_contain_text("between 1/2 in and 200 in")
    page.get_by_test_id("bring-width").fill("12")
    page.get_by_test_id("bring-width").blur()
    hands.press("bring-keep")
    expect(page.get_by_test_id("board")).to_be_visible()
    hands.press("draw-lay")
    hands.drag((6, 42))
    expect(page.get_by_test_id("block-sea-star")).to_contain_text("1 ×")
    hands.press("page-fabrics")
    expect(page.get_by_test_id("fabric-color-2")).to_be_visible()


def test_a_photo_of_her_top_is_straightened_under_the_plan_and_a_fabric_is_coloured_by_one(hands):
    page = hands.page
    hands.press("page-photo")
    chooser = page.get_by_test_id("photo-file")
    chooser.set_input_files({"name": "top.jpg", "mimeType": "image/jpeg", "buffer": b"no picture"})
    expect(page.get_by_role("alert")).to_contain_text("damaged or incomplete")
    chooser.set_input_files({"name": "top.jpg", "mimeType": "image/jpeg", "buffer": picture(size=(600, 800))})
    corner = page.get_by_test_id("corner-0")
    box = corner.bounding_box()
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x - 12, y - 16, steps=4)
    page.mouse.up()
    said = corner.get_attribute("aria-valuetext")
    assert said != "8 % across, 8 % down"
    corner.focus()
    for _ in range(20):
        corner.press("Shift+ArrowUp")  # beyond the photo's edge it stays at the edge
    expect(corner).to_have_attribute("aria-valuetext", re.compile(", 0 % down"))
    hands.press("photo-lay")
    strength = page.get_by_test_id("photo-strength")
    expect(strength).to_have_value("60")
    strength.fill("100")
    saved(page)

    scale, left, low = view(page)
    pane = page.get_by_test_id("canvas").bounding_box()

    def seen(x: float, y: float) -> tuple[int, ...]:
        shot = Image.open(io.BytesIO(page.screenshot())).convert("RGB")
        at = (pane["x"] + left + x * IN * scale, pane["y"] + low - y * IN * scale)
        return shot.getpixel((round(at[0]), round(at[1])))

    for _ in range(40):  # until the picture has come
        if seen(4, 20)[0] < 90:
            break
        page.wait_for_timeout(100)
    assert seen(4, 20)[2] > 180 > seen(4, 20)[0]  # the picture is half blue, half red
    assert seen(30, 20)[0] > 180 > seen(30, 20)[2]
    page.reload()
    expect(strength).to_have_value("100")
    hands.press("photo-away")
    expect(page.get_by_role("heading", name="A photo of your own top")).to_be_visible()
    page.get_by_test_id("undo").click()
    expect(strength).to_be_visible()
    hands.press("page-fabrics")
    hands.press("fabric-main")
    page.get_by_test_id("fabric-photo").set_input_files(
        {"name": "f.png", "mimeType": "image/png", "buffer": picture("PNG", size=(40, 40))}
    )
    expect(page.get_by_test_id("fabric-main")).to_contain_text("busy")


def test_quilts_are_copied_put_away_deleted_and_undone(hands):
    page = hands.page
    page.get_by_label("Kenzet: your quilts").click()

    def more(name, does):
        if not page.get_by_role("button", name=f"{does} {name}", exact=True).count():
            page.get_by_role("button", name=f"More for {name}", exact=True).click()
        page.get_by_role("button", name=f"{does} {name}", exact=True).click()

    more("Harbour Lights", "Copy")
    expect(page.get_by_role("button", name="Harbour Lights 2", exact=True)).to_be_visible()
    more("Harbour Lights 2", "Delete")
    expect(page.get_by_role("button", name="Harbour Lights 2", exact=True)).to_have_count(0)
    page.get_by_test_id("bring-back").click()
    expect(page.get_by_role("button", name="Harbour Lights 2", exact=True)).to_be_visible()
    more("Harbour Lights 2", "Archive")
    page.get_by_text("1 archived").click()
    page.get_by_role("button", name="Restore Harbour Lights 2").click()
    more("Harbour Lights 2", "Delete")
    expect(page.get_by_role("button", name="Harbour Lights 2", exact=True)).to_have_count(0)


def test_blocks_are_laid_and_zones_made_by_keys_alone(hands):
    page = hands.page
    hands.press("new-block")
    hands.press("tile-Nine-patch")
    expect(page.get_by_text("is selected")).to_be_visible()
    page.keyboard.press("c")
    page.keyboard.press("ArrowRight")
    page.keyboard.press("Enter")
    expect(page.get_by_test_id("block-nine-patch")).to_contain_text("1 ×")
    page.keyboard.press("Escape")
    hands.press("page-zones")
    page.keyboard.press("c")
    expect(page.locator(".cross")).to_be_visible()
    for key in ("ArrowRight", "Enter", "Shift+ArrowLeft", "Shift+Enter"):
        page.keyboard.press(key)
    expect(page.get_by_role("heading", name="2 patches")).to_be_visible()
    page.get_by_test_id("make-zone").focus()
    page.keyboard.press("Enter")
    expect(page.get_by_test_id("fill-it")).to_be_visible()


def test_a_finger_that_rests_on_a_patch_adds_it(table, browser):
    tablet = browser.new_context(viewport={"width": 1024, "height": 768}, has_touch=True)
    page = tablet.new_page()
    page.goto(re.sub(r"/fills.*", "/top?page=zones", table.url))
    page.get_by_test_id("canvas").wait_for()
    page.wait_for_timeout(400)
    scale, left, low = view(page)
    pane = page.get_by_test_id("canvas").bounding_box()
    tools = tablet.new_cdp_session(page)
    for x, y, ms in ((22.0, 60.0, 50), (26.0, 60.0, 700)):
        spot = {"x": pane["x"] + left + x * IN * scale, "y": pane["y"] + low - y * IN * scale}
        tools.send("Input.dispatchTouchEvent", {"type": "touchStart", "touchPoints": [spot]})
        page.wait_for_timeout(ms)
        tools.send("Input.dispatchTouchEvent", {"type": "touchEnd", "touchPoints": []})
        page.wait_for_timeout(100)
    expect(page.get_by_role("heading", name="2 patches")).to_be_visible()
    tablet.close()


def test_one_place_is_an_exception_and_follows_again(hands):
    page = hands.page
    hands.press("page-zones")
    hands.zone(6, 42)
    hands.press("fill-it")
    take_fill(page, "Straight", "grid")
    expect(page.get_by_test_id("apart")).to_have_attribute("title", "All 12 blocks follow your changes here")
    page.get_by_test_id("apart").click()
    expect(page.get_by_text("Only in this block")).to_be_visible()
    take_fill(page, "Echoes", "echo")
    expect(page.locator(".others li")).to_have_text(re.compile("row .*Echo", re.I))
    saved(page)
    page.get_by_role("button", name="all zones").click()
    page.get_by_role("button", name=re.compile("^Plain")).click()
    page.get_by_test_id("join").or_(page.get_by_test_id("apart")).first.wait_for()
    expect(page.locator(".others li")).to_have_count(1)
    if page.get_by_test_id("apart").is_visible():
        click_at(page, 6, 42)
    page.get_by_test_id("join").click()
    expect(page.get_by_test_id("apart")).to_have_attribute("title", "All 12 blocks follow your changes here")


def test_from_the_empty_page_to_a_printed_sheet_of_her_own_block(table):
    """Her own 12 in block: at most 25 actions and three minutes."""
    begun = monotonic()
    table.get_by_label("Kenzet: your quilts").click()
    hands = Hands(table)
    hands.press("new-from-block")
    hands.press("first-Sawtooth star")
    expect(table.get_by_test_id("draft-size")).to_contain_text("12 in")
    hands.press("begin")
    table.get_by_test_id("new-block").wait_for()
    hands.press("page-zones")
    hands.zone(6, 6)
    hands.press("fill-it")
    hands.press("fill-lines")
    spacing = table.get_by_test_id("field-spacing")
    spacing.fill("3/4")
    hands.actions += 1
    expect(table.get_by_test_id("sum")).to_contain_text("3/4")
    saved(table)
    table.locator("nav").get_by_text("Marks").click()
    hands.actions += 1
    with table.expect_download() as download:
        hands.press("pdf")
    (page,) = PrinterStandIn(dpi=60).prints(download.value.path().read_bytes())
    assert page.width == 510
    assert hands.actions <= 25
    assert monotonic() - begun < 180
