"""Sheets printed to pictures and measured on them, taken into other formats and read back by other readers."""

from __future__ import annotations

import csv
import io

import ezdxf
import numpy as np
import pytest
import shapely
from ezdxf import recover
from pypdf import PdfReader
from shapely.geometry import LineString

from kenzet.core.errors import BadValue, TooMany
from kenzet.core.fills import FILLS
from kenzet.core.marks.marking import marks_of
from kenzet.core.marks.printer import Printer, corrected
from kenzet.core.marks.sheet import SheetOptions, mark_sheet
from kenzet.core.marks.together import together
from kenzet.core.numbers.measure import Length
from kenzet.formats.check_page import CORNER, check_page
from kenzet.formats.dxf_out import dxf
from kenzet.formats.marks_csv import strokes_csv, ticks_csv
from kenzet.formats.pdf import pages_of, pdf
from kenzet.formats.placement import TRUE, tile
from kenzet.formats.strip import strip_pdf
from kenzet.standins.printer import PrinterStandIn
from tests.formats.test_sheets import sheet_of

NEAR = 0.1  # mm
LINES = FILLS["lines"](spacing="1 1/2 in", angle=30)


def darkness(picture):
    return 255.0 - np.asarray(picture.convert("L"), dtype=float)


def strays(sheet, pages, pictures, dpi, fit=TRUE, scale=1.0):
    """How far the middle of every printed stroke lies from where it should, mm, sampled away from everything else."""
    per = dpi / 25.4
    everything = shapely.union_all([shapely.linestrings(line) for line in (*sheet.seams, *sheet.marks)])
    found = []
    for page, picture in zip(pages.tiles, pictures, strict=True):
        dark = darkness(picture)
        for line in sheet.marks:
            for part in page.shows(line):
                run = LineString(part)
                for share in (0.21, 0.43, 0.5, 0.77):
                    x, y = run.interpolate(share, normalized=True).coords[0]
                    others = everything.difference(LineString(line).buffer(0.5))
                    if others.distance(shapely.Point(x, y)) < 3 or run.length < 12:
                        continue
                    (ax, ay), (bx, by) = part[0], part[-1]
                    long = np.hypot(bx - ax, by - ay)
                    nx, ny = -(by - ay) / long, (bx - ax) / long
                    px, py = page.to_points((x, y))
                    mx, my = px * 25.4 / 72, py * 25.4 / 72
                    # what the printer does about the middle of the paper
                    mx, my = (
                        (mx - pages.width / 2) * scale + pages.width / 2,
                        (my - pages.height / 2) * scale + pages.height / 2,
                    )
                    steps = np.linspace(-1.0, 1.0, 121)
                    columns = np.clip(np.round((mx + steps * nx) * per).astype(int), 0, dark.shape[1] - 1)
                    rows = np.clip(
                        np.round((pages.height - my - steps * ny) * per).astype(int), 0, dark.shape[0] - 1
                    )
                    profile = dark[rows, columns]
                    if profile.max() > 60:  # between two dashes there is nothing to measure
                        found.append(abs(float((profile * steps).sum() / profile.sum())))
    return found


@pytest.mark.parametrize("paper", ["letter", "a3", "roll"])
def test_every_line_is_within_a_tenth_of_a_millimetre_on_paper_also_across_pages(laid, paper):
    sheet = sheet_of(laid, "star-centre", LINES)
    pages = pages_of(sheet, paper)
    pictures = list(PrinterStandIn(dpi=600 if paper != "roll" else 300, margin=0).prints(pdf(sheet, paper)))
    found = strays(sheet, pages, pictures, 600 if paper != "roll" else 300)
    assert len(found) > 4 and max(found) < NEAR


def test_a_printer_that_prints_short_prints_true_once_its_bars_are_read(laid):
    printer = PrinterStandIn(across=0.97, up=0.985, dpi=600, margin=3)
    read = bars(next(iter(printer.prints(check_page("letter", "in", "mine", TRUE)))), 600)
    assert read == pytest.approx((0.97 * 152.4, 0.985 * 152.4), abs=0.08)
    mine = corrected(Printer("mine"), *(Length.near(mm, "mm") for mm in read), "in")
    assert mine.asks  # 3 % across
    again = bars(next(iter(printer.prints(check_page("letter", "in", "mine", (mine.across, mine.up))))), 600)
    assert again == pytest.approx((152.4, 152.4), abs=NEAR)
    assert corrected(mine, *(Length.near(mm, "mm") for mm in again), "in").across == pytest.approx(
        mine.across, rel=1e-3
    )


def bars(picture, dpi):
    """What a ruler reads: how long both bars of a check page are, mm."""
    dark, per = darkness(picture) > 100, dpi / 25.4
    height = dark.shape[0]
    # the printer may have moved them: look near where they should be for the longest run of ink
    across = max(
        _runs(dark[row])
        for row in range(int(height - (CORNER[1] + 6) * per), int(height - (CORNER[1] - 6) * per))
    )
    up = max(
        _runs(dark[:, column]) for column in range(int((CORNER[0] - 6) * per), int((CORNER[0] + 6) * per))
    )
    stroke = 0.4  # the end strokes stand half their width beyond
    return across / per - stroke, up / per - stroke


def _runs(ink):
    edges = np.flatnonzero(np.diff(np.concatenate([[0], ink.astype(int), [0]])))
    return int((edges[1::2] - edges[::2]).max()) if len(edges) else 0


@pytest.mark.parametrize(
    ("across", "up", "field", "says"),
    [
        ("0 in", "6 in", "across", "6 in long"),
        ("6 in", "40 in", "up", "cannot be"),
        ("6 mm", "6 in", "across", "Did you mean 6 in"),
    ],
)
def test_bars_that_cannot_read_so_are_refused(across, up, field, says):
    with pytest.raises(BadValue, match=says) as caught:
        corrected(Printer("mine"), Length.parse(across), Length.parse(up), "in")
    assert caught.value.field == field


def test_what_lies_in_the_papers_margin_is_not_printed():
    page = next(iter(PrinterStandIn(margin=45, dpi=100).prints(check_page("letter", "in", "mine", TRUE))))
    assert darkness(page)[:, : int(44 / 25.4 * 100)].max() == 0
    with pytest.raises(ValueError, match="no PDF"):
        list(PrinterStandIn().prints(b"hello"))


@pytest.mark.parametrize("kind", ["stitched lines", "ruler edges", "pounce", "light box"])
@pytest.mark.parametrize("back", [False, True])
def test_every_kind_of_sheet_lies_in_the_zone_or_beside_its_lines(laid, kind, back):
    sheet = sheet_of(laid, "star-centre", LINES, kind=kind, back=back)
    plain = sheet_of(laid, "star-centre", LINES)
    assert sheet.bounds == plain.bounds and len(sheet.ticks) == len(plain.ticks)
    if kind == "pounce":
        assert not sheet.marks and len(sheet.dots) > 50
        lines = shapely.union_all([shapely.linestrings(line) for line in plain.marks])
        dots = sheet.dots.copy()
        if back:
            dots[:, 0] = sum(sheet.bounds[::2]) - dots[:, 0]
        assert shapely.distance(lines, shapely.points(dots)).max() < 1e-6
    elif kind == "ruler edges" and not back:
        away = [
            LineString(edge).distance(LineString(line))
            for edge, line in zip(sheet.marks, plain.marks, strict=True)
        ]
        assert away == pytest.approx([6.35] * len(away), abs=0.01)
    elif back and kind != "ruler edges":
        assert sheet.marks[0][0, 0] == pytest.approx(sum(sheet.bounds[::2]) - plain.marks[0][0, 0])
    assert pdf(sheet, "a4").startswith(b"%PDF") and "plan 7" in sheet.subtitle
    assert ("MIRRORED" in sheet.subtitle) == back


@pytest.mark.parametrize("unit", ["in", "mm"])
def test_dxf_is_sound_has_true_units_and_keeps_arcs(laid, unit):
    sheet = sheet_of(laid, "star-centre", FILLS["hourglass"]())
    document, audit = recover.read(io.BytesIO(dxf(sheet, unit)))
    assert not audit.errors and not audit.fixes
    assert document.units == (ezdxf.units.IN if unit == "in" else ezdxf.units.MM)
    per = 25.4 if unit == "in" else 1.0
    marks = document.modelspace().query('LWPOLYLINE[layer=="MARKS"]')
    arcs = [part for mark in marks for part in mark.virtual_entities() if part.dxftype() == "ARC"]
    assert len(arcs) == sum((np.abs(line[:-1, 2]) > 1e-9).sum() for line in sheet.arcs) > 0
    left, low = sheet.bounds[:2]
    drawn = shapely.union_all([shapely.linestrings(line) for line in sheet.marks])
    for arc in arcs:
        for point in (arc.start_point, arc.end_point):
            assert drawn.distance(shapely.Point(point.x * per + left, point.y * per + low)) < NEAR


def test_tables_hold_every_tick_counted_from_its_corner(laid):
    sheet = sheet_of(laid, "star-background")
    rows = list(csv.DictReader(io.StringIO(ticks_csv(sheet, "in").decode())))
    assert len(rows) == len(sheet.ticks)
    assert max(abs(float(row["out by (in)"])) for row in rows) <= 1 / 16 + 1e-9  # F35: half a marking step
    strokes = list(csv.DictReader(io.StringIO(strokes_csv(sheet, "mm").decode())))
    assert sum(float(row["long (mm)"]) for row in strokes) == pytest.approx(
        sum(LineString(m).length for m in sheet.marks), rel=1e-4
    )


def test_a_whole_block_comes_on_one_sheet(laid):
    drawn = together(laid, "star-centre", "")
    assert {plan.key for plan, _ in drawn} >= {"star-background", "star-points", "star-centre"}
    sheet = mark_sheet(drawn, SheetOptions("all lines"), "Mine", 1, "in")
    assert len(sheet.marks) == sum(len(marks_of(plan, one, "all lines").lines) for plan, one in drawn)
    assert sheet.bounds[2] - sheet.bounds[0] == pytest.approx(12 * 25.4)


def test_a_roll_holds_a_long_sheet_and_too_many_pages_say_what_to_do(laid):
    border = sheet_of(laid, "border", FILLS["lines"](spacing="4 in"))
    roll = pages_of(border, "roll")
    assert roll.width == pytest.approx(609.6) and len(roll.tiles) <= 6
    assert len(pages_of(border, "letter").tiles) > len(pages_of(border, "a3").tiles) > len(roll.tiles)
    lines = [np.array([(0, y), (9000, y)], dtype=float) for y in range(0, 9000, 100)]
    with pytest.raises(TooMany, match="ticks"):
        tile((0, 0, 9000, 9000), "letter", lines)


@pytest.mark.parametrize(("spacing", "rows"), [("3/4 in", 1), ("4 in", 6)])
def test_a_tick_strip_holds_every_tick_where_it_is_on_the_edge(laid, spacing, rows):
    zone = "star-background" if rows == 1 else "border"
    sheet = sheet_of(laid, zone, FILLS["lines"](spacing=spacing, angle=45))
    edge = max(sheet.ticked, key=lambda one: one.edge.length)
    data = strip_pdf("Mine", edge, "letter", "in")
    pages = list(PrinterStandIn(dpi=300, margin=0).prints(data))
    text = " ".join(page.extract_text() for page in PdfReader(io.BytesIO(data)).pages)
    assert text.count("joins at") == text.count("goes on at")
    per, found = 300 / 25.4, []
    row = 279.4 - 20
    for number in range(int(np.ceil(edge.edge.length / row - 1e-9))):
        page, k = divmod(number, int((215.9 - 32) / 30))
        dark = darkness(pages[page]) > 120
        low = 215.9 - 20 - (k + 1) * 22 - k * 8
        line = dark[int((215.9 - low - 3) * per)]  # through the ticks, above the strip's foot
        starts = np.flatnonzero(np.diff(np.concatenate([[0], line.astype(int)])) > 0)
        found += [number * row + (start + 1.8) / per - 10 for start in starts]
    for tick in edge.ticks:
        assert min(abs(place - float(tick.at)) for place in found) < 0.15
