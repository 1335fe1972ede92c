"""Sheets printed to pictures and measured on them, taken into other formats and read back by other readers."""

from __future__ import annotations

import csv
import io
import math
from dataclasses import replace

import ezdxf
import numpy as np
import pypdfium2
import pytest
import shapely
from ezdxf import recover
from pypdf import PdfReader
from shapely.geometry import LineString

from kenzet.core.errors import BadValue
from kenzet.core.fills import FILLS
from kenzet.core.marks.printer import Printer, corrected
from kenzet.core.numbers.measure import Length, figure
from kenzet.formats.check_page import CORNER, check_page
from kenzet.formats.dxf_out import dxf
from kenzet.formats.marks_csv import strokes_csv, ticks_csv
from kenzet.formats.pdf import pdf
from kenzet.formats.placement import TRUE, pages_of
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
        ("6 in", "40 in", "up", "not possible"),
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
    assert sum(float(row["to the next (mm)"] or 0) for row in strokes) == pytest.approx(
        sum(LineString(m).length for m in sheet.marks), rel=1e-4
    )


@pytest.mark.parametrize("fill", [{"kind": "zigzag", "spacing": "1 in"}, {"kind": "echo", "spacing": "1 in"}])
def test_strokes_are_told_with_every_corner(laid, fill):
    sheet = sheet_of(laid, "star-background", FILLS[fill["kind"]].model_validate(fill))
    left, low, _, _ = sheet.bounds
    rows = list(csv.DictReader(io.StringIO(strokes_csv(sheet, "mm").decode())))
    for number, line in enumerate(sheet.arcs, 1):
        own = [row for row in rows if row["stroke"] == str(number)]
        told = np.array([[float(row["x"]) + left, float(row["y"]) + low] for row in own])
        assert np.allclose(told, line[:, :2], atol=1e-4)


def test_on_the_back_every_tick_is_counted_from_what_is_its_left_or_upper_end_there(laid):
    fill = FILLS["lines"](spacing="3/4 in", angle=60)
    front, back = (sheet_of(laid, "star-background", fill, back=turned) for turned in (False, True))
    across = front.bounds[0] + front.bounds[2]
    stand = {(round(tick.foot[0], 3), round(tick.foot[1], 3)) for tick in back.ticks}
    assert stand == {(round(across - tick.foot[0], 3), round(tick.foot[1], 3)) for tick in front.ticks}
    for edge in back.ticked:
        assert edge.edge.start[0] < edge.edge.end[0] or edge.edge.datum == "top"
        for tick in edge.ticks:
            x, y = edge.edge.at(float(tick.at))
            near = min(back.ticks, key=lambda one: math.dist(one.foot, (x, y)))
            assert math.dist(near.foot, (x, y)) < 0.01
            assert near.figure == figure(tick.drawn, "in").text
            assert abs(float(tick.error)) <= 25.4 / 16 + 1e-6


def test_figures_keep_apart_and_none_are_printed_for_a_light_box_or_for_powder(laid):
    fill = FILLS["grid"](spacing="1/2 in", angle=33)
    data = {
        kind: pdf(sheet_of(laid, "star-background", fill, kind=kind), "tabloid")
        for kind in ("stitched lines", "light box", "pounce")
    }
    boxes = []
    for page in pypdfium2.PdfDocument(data["stitched lines"]):
        text = page.get_textpage()
        boxes.append([text.get_rect(k) for k in range(text.count_rects())])
    for some in boxes:
        figures = [shapely.box(*box) for box in some if box[3] - box[1] < 8 and box[2] - box[0] < 24]
        assert len(figures) > 10
        for k, one in enumerate(figures):
            assert all(one.intersection(other).area < 0.5 or one.equals(other) for other in figures[k + 1 :])
    for kind in ("light box", "pounce"):
        said = " ".join(page.extract_text() for page in PdfReader(io.BytesIO(data[kind])).pages)
        assert "7/8" not in said
    assert "7/8" in " ".join(p.extract_text() for p in PdfReader(io.BytesIO(data["stitched lines"])).pages)


def test_names_of_many_alphabets_are_printed_with_letters_that_are_in_the_file(laid):
    name = "Żółć, Příliš žluťoučký, Ελληνικά, Жар-птица"
    data = pdf(replace(sheet_of(laid, "star-background"), title=name), "a4")
    reader = PdfReader(io.BytesIO(data))
    assert name in reader.pages[0].extract_text()
    fonts = [font.get_object() for font in reader.pages[0]["/Resources"]["/Font"].values()]
    embedded = [font for font in fonts if "SourceSans" in font["/BaseFont"]]
    assert len(embedded) > 1
    assert all("/FontFile2" in font["/FontDescriptor"].get_object() for font in embedded)
