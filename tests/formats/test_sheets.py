"""Mark sheets read back and measured against the plan."""

from __future__ import annotations

import io
import math
import re
from dataclasses import replace
from xml.etree import ElementTree as ET

import numpy as np
import pytest
import shapely
import shapely.affinity
import svgelements
from pypdf import PdfReader
from shapely.geometry import LineString

from kenzet.core.errors import TooMany
from kenzet.core.fills import FILLS
from kenzet.core.marks.repeat import repeat_of
from kenzet.core.marks.sheet import SheetOptions, mark_sheet
from kenzet.core.plan.planner import plan_zone
from kenzet.core.top.document import with_zone
from kenzet.formats.pdf import MARK, SEAM, pdf
from kenzet.formats.placement import BLEED, FOOTER, MARGIN, OVERLAP, PAPERS, pages_of, tile
from kenzet.formats.svg import svg
from tests.core.marks.test_marking import plan_of
from tests.shapes import box, inches

MM = 25.4 / 72


def sheet_of(laid, zone, fill=None, method="all lines", **wish):
    quilt = with_zone(laid.quilt, zone, fill=fill) if fill else laid.quilt
    plan = plan_zone(laid.with_quilt(quilt), zone)
    return mark_sheet([(plan, plan.drawings[0])], SheetOptions(method, **wish), quilt.name, 7, "in")


def strokes(page, colour):
    """Polylines of a page in mm, paper coordinates, by their stroke colour."""
    found, path, now = [], [], None
    wanted = tuple(round(v, 3) for v in colour.rgb())
    for operands, operator in (
        page.get_contents_operations() if hasattr(page, "get_contents_operations") else operations(page)
    ):
        numbers = [float(v) for v in operands if not isinstance(v, (list, str, bytes))] if operands else []
        if operator == b"RG":
            now = tuple(round(v, 3) for v in numbers)
        elif operator == b"m":
            path = [numbers]
        elif operator == b"l":
            path.append(numbers)
        elif operator == b"S":
            if now == wanted and len(path) > 1:
                found.append(np.array(path) * MM)
            path = []
        elif operator in (b"n", b"f", b"B", b"b"):
            path = []
    return found


def operations(page):
    from pypdf.generic import ContentStream

    return ContentStream(page.get_contents(), page.pdf).operations


@pytest.mark.parametrize("paper", ["letter", "a4"])
@pytest.mark.parametrize(
    ("zone", "fill"),
    [
        ("star-background", None),
        ("star-background", FILLS["lines"](spacing="5/8 in", angle=30)),
        ("star-centre", FILLS["echo"](spacing="3/4 in")),
        ("border", FILLS["lines"](spacing="4 in", angle=45)),
        ("star-centre", FILLS["waves"](spacing="1/2 in", period="2 in", depth="1/4 in")),
        ("star-centre", FILLS["zigzag"](spacing="1/2 in")),
    ],
)
def test_every_line_of_the_pdf_lies_within_a_tenth_of_a_millimetre_of_the_plan(laid, paper, zone, fill):
    sheet = sheet_of(laid, zone, fill)
    pages = pages_of(sheet, paper)
    reader = PdfReader(io.BytesIO(pdf(sheet, paper)))
    assert len(reader.pages) == len(pages.tiles)
    for colour, lines in ((MARK, sheet.marks), (SEAM, sheet.seams)):
        drawn = []
        for page, shown in zip(reader.pages, pages.tiles, strict=True):
            left, low, _, _ = shown.window
            drawn += [LineString(s - [MARGIN - left, MARGIN + FOOTER - low]) for s in strokes(page, colour)]
        plan, paper_lines = shapely.union_all([LineString(m) for m in lines]), shapely.union_all(drawn)
        assert shapely.hausdorff_distance(plan, paper_lines, densify=0.1) < 0.1
        total = sum(shapely.length(drawn))
        assert total >= shapely.length([LineString(m) for m in lines]).sum() - 0.1  # overlaps are drawn twice


@pytest.mark.parametrize("paper", PAPERS)
def test_pages_cover_the_drawing_and_neighbours_share_two_crosses(laid, paper):
    sheet = sheet_of(laid, "star-background")
    pages = tile(sheet.bounds, paper, [*sheet.seams, *sheet.marks])
    left, low, right, top = sheet.bounds
    whole = shapely.box(left - BLEED, low - BLEED, right + BLEED, top + BLEED)
    windows = [shapely.box(*t.window) for t in pages.tiles]
    assert shapely.union_all(windows).covers(whole)
    wide, high = pages.width - 2 * MARGIN, pages.height - 2 * MARGIN - FOOTER
    for t in pages.tiles:
        assert (t.window[2] - t.window[0], t.window[3] - t.window[1]) == pytest.approx((wide, high))
        for other in pages.tiles:
            beside = (other.row, other.column) in ((t.row, t.column + 1), (t.row + 1, t.column))
            if beside:
                assert sum(t.holds(c) and other.holds(c) for c in pages.crosses) >= 2
                shared = shapely.box(*t.window).intersection(shapely.box(*other.window)).bounds
                assert min(shared[2] - shared[0], shared[3] - shared[1]) == pytest.approx(OVERLAP)


def test_the_check_bars_measure_four_inches_and_a_hundred_millimetres(laid):
    reader = PdfReader(io.BytesIO(pdf(sheet_of(laid, "star-centre"), "letter")))
    from kenzet.formats.pdf import INK

    lengths = [float(np.hypot(*(s[-1] - s[0]))) for s in strokes(reader.pages[0], INK)]
    for wanted in (101.6, 100.0):
        assert min(abs(length - wanted) for length in lengths) < 0.01
    text = reader.pages[0].extract_text()
    assert all(
        words in text for words in ("Harbour Lights · Star centre", "4 in", "100 mm", "page 1 of", "100 %")
    )


def test_empty_pages_are_left_out_and_too_many_are_refused(laid):
    border = sheet_of(laid, "border", FILLS["lines"](spacing="2 in"))
    pages = pages_of(border, "letter")
    assert len(pages.tiles) < pages.rows * pages.columns
    assert [t.number for t in pages.tiles] == list(range(1, len(pages.tiles) + 1))
    with pytest.raises(TooMany, match="pages"):
        tile((0, 0, 9000, 9000), "a4", [])


@pytest.mark.parametrize("unit", ["in", "mm"])
def test_the_svg_is_in_true_units(laid, unit):
    sheet = sheet_of(laid, "star-background")
    root = ET.fromstring(svg(sheet, unit))
    width = float(root.get("width").removesuffix(unit)) * (25.4 if unit == "in" else 1)
    box = [float(v) for v in root.get("viewBox").split()]
    assert width == pytest.approx(box[2], abs=1e-3) == 12 * 25.4 + 2 * BLEED
    space = "{http://www.w3.org/2000/svg}"
    groups = {g.get("id"): g for g in root.iter(f"{space}g")}
    assert set(groups) == {"seams", "marks", "signs", "dots", "ticks", "figures", "check-bar"}
    figures = [text.text for text in groups["figures"].findall(f"{space}text")]
    assert figures == [tick.figure for tick in sheet.ticks]
    ends = [
        float(v) for v in re.findall(r"(?<=[MH])[\d.]+", groups["check-bar"].find(f"{space}path").get("d"))
    ]
    assert max(ends) - min(ends) == pytest.approx(4 * 25.4 if unit == "in" else 100, abs=1e-3)
    paths = groups["marks"].findall(f"{space}path")
    assert len(paths) == len(sheet.marks)
    for path, line in zip(paths, sheet.marks, strict=True):
        points = np.array([float(v) for v in re.findall(r"-?[\d.]+", path.get("d"))]).reshape(-1, 2)
        back = np.stack(
            [points[:, 0] + sheet.bounds[0] - BLEED, sheet.bounds[3] + BLEED - points[:, 1]], axis=1
        )
        assert np.allclose(back, line, atol=1e-3)


def test_ticks_run_inwards(laid):
    sheet = sheet_of(laid, "star-background")
    area = laid.shapes(laid.zone("star-background"))[0].region.area.buffer(0.01)
    inside = [
        shapely.covers(area, LineString([t.foot, (np.array(t.foot) + np.array(t.tip)) / 2]))
        for t in sheet.ticks
    ]
    assert np.mean(inside) > 0.9  # on the block's own edge a tick may face a star point between two patches
    assert all(t.figure for t in sheet.ticks)


def test_only_first_lines_are_drawn_when_that_is_the_method(laid):
    few, all_lines = (sheet_of(laid, "star-background", method=m) for m in ("first lines", "all lines"))
    assert 0 < len(few.marks) < len(all_lines.marks)
    assert "lines marked" in few.subtitle


@pytest.mark.parametrize(
    "fill",
    [FILLS["hourglass"](), FILLS["shells"](about="middle", skip=None), FILLS["clamshell"](spacing="1 in")],
)
def test_arcs_stay_arcs_in_the_svg_sheet_and_run_the_same_way(laid, fill):
    sheet = sheet_of(laid, "star-centre", fill)
    marks = ET.fromstring(svg(sheet, "in")).find("{*}g[@id='marks']").findall("{*}path")
    assert len(marks) == len(sheet.marks)
    left, _, _, top = sheet.bounds
    for path, drawn in zip(marks, sheet.marks, strict=True):
        assert "A" in path.get("d")
        found = svgelements.Path(path.get("d"))
        points = [found.point(k / 400) for k in range(401)]
        back = LineString([(p.x - BLEED + left, top + BLEED - p.y) for p in points])
        assert shapely.hausdorff_distance(back, LineString(drawn), densify=0.05) < 0.6, (
            "the same curve, sampled"
        )
        assert found.length() == pytest.approx(LineString(drawn).length, rel=2e-3)


WAVE = FILLS["waves"](spacing="1 in", period="2 in", depth="1/2 in", angle=0)
ROUND = FILLS["wave border"](spacing="1/2 in", period="2 1/2 in", depth="1/2 in")


@pytest.mark.parametrize("region", [inches(box(0, 0, 30, 4)), inches(box(0, 0, 4, 30))])
@pytest.mark.parametrize("room", [100.0, 240.0])
def test_repeats_of_a_border_fit_one_after_the_other(region, room):
    """What leaves the sheet at its end is what enters it at its beginning."""
    upright = region.bounds[3] > region.bounds[2]
    fill = WAVE.model_copy(update={"angle": 90 if upright else 0})
    plan, drawing = plan_of(fill, region)
    repeat = repeat_of(plan, drawing, room)
    assert repeat.each == pytest.approx(50.8) and repeat.many == room // 50.8
    sheet = mark_sheet([(plan, drawing)], SheetOptions("all lines", repeat=repeat), "Quilt", 1, "in")
    along = int(upright)
    ends = np.array([line[k] for line in sheet.marks for k in (0, -1)])
    begin = np.sort(ends[np.abs(ends[:, along] - repeat.start) < 1e-6][:, 1 - along])
    end = np.sort(
        ends[np.abs(ends[:, along] - repeat.start - repeat.each * repeat.many) < 1e-6][:, 1 - along]
    )
    assert len(begin) == len(end) > 0
    assert np.abs(begin - end).max() < 0.02
    assert len(pages_of(sheet, "letter").tiles) == 1
    assert sum(tick.figure.startswith(("begin", "repeat")) for tick in sheet.ticks) == repeat.many + 1


@pytest.mark.parametrize(
    ("angles", "each"), [((45, 135), 0.5 * math.sqrt(2)), ((0, 60), 0.5 / math.sin(math.radians(60)))]
)
def test_a_grid_along_a_border_repeats_where_both_of_its_sets_do(angles, each):
    fill = FILLS["grid"](spacing="1/2 in", angle=angles[0], second_angle=angles[1])
    plan, drawing = plan_of(fill, inches(box(0, 0, 30, 4)))
    repeat = repeat_of(plan, drawing, 200.0)
    assert repeat.each / 25.4 == pytest.approx(each, abs=1e-6)
    sheet = mark_sheet([(plan, drawing)], SheetOptions("all lines", repeat=repeat), "Quilt", 1, "in")
    lines = shapely.multilinestrings(sheet.marks)
    left, low, right, high = repeat.window
    inner = shapely.box(left + repeat.each, low, right, high)
    moved = shapely.affinity.translate(lines, repeat.each, 0).intersection(inner)
    assert shapely.hausdorff_distance(moved, lines.intersection(inner)) < 0.02


def test_repeats_of_a_frame_come_from_its_upper_side_and_are_mirrored_with_it():
    plan, drawing = plan_of(ROUND, inches(box(0, 0, 30, 24), box(4, 4, 22, 16)))
    repeat = repeat_of(plan, drawing, 200.0)
    left, low, right, high = repeat.window
    assert sum(
        shapely.LineString(seam).length
        for seam in mark_sheet(
            [(plan, drawing)], SheetOptions("all lines", repeat=repeat), "Quilt", 1, "in"
        ).seams
    ) == pytest.approx(2 * (right - left))
    assert (low, high) == (20 * 25.4, 24 * 25.4) and right - left == pytest.approx(repeat.each * repeat.many)
    wish = SheetOptions("all lines", repeat=repeat)
    sheet, back = (
        mark_sheet([(plan, drawing)], replace(wish, back=one), "Quilt", 1, "in") for one in (False, True)
    )
    turned = shapely.multilinestrings([line * (-1, 1) + (left + right, 0) for line in sheet.marks])
    assert shapely.hausdorff_distance(turned, shapely.multilinestrings(back.marks)) < 1e-6


def test_lines_that_do_not_repeat_along_the_border_are_not_cut_into_repeats():
    for fill in (FILLS["lines"](spacing="1/2 in", angle=30), FILLS["echo"](spacing="1/2 in")):
        assert repeat_of(*plan_of(fill, inches(box(0, 0, 30, 4))), 200.0) is None
    assert repeat_of(*plan_of(WAVE, inches(box(0, 0, 3, 2))), 200.0) is None


def test_a_quilt_of_120_in_is_true_to_its_far_corner():
    """The last line of the last page lies as far from the first corner as it is planned: no page adds to an error."""
    plan, drawing = plan_of(FILLS["lines"](spacing="6 in", angle=0), inches(box(0, 0, 24, 120)))
    sheet = mark_sheet([(plan, drawing)], SheetOptions("all lines"), "Quilt", 1, "in")
    pages = pages_of(sheet, "a3")
    reader = PdfReader(io.BytesIO(pdf(sheet, "a3")))
    found = []
    for tile_, page in zip(pages.tiles, reader.pages, strict=True):
        left, low, _, _ = tile_.window
        found += [line + np.array([left - MARGIN, low - MARGIN - FOOTER]) for line in strokes(page, MARK)]
    heights = sorted({round(float(line[0][1]) / 25.4, 2) for line in found})
    assert heights == pytest.approx([round(6.0 * k, 2) for k in range(1, 20)], abs=0.1 / 25.4)
    assert (
        max(abs(float(line[0][1]) / 152.4 - round(float(line[0][1]) / 152.4)) * 152.4 for line in found) < 0.1
    )


def circles(page, colour):
    """The middles of the circles of a page in mm, paper coordinates, by their stroke colour."""
    found, path, now = [], [], None
    wanted = tuple(round(v, 3) for v in colour.rgb())
    for operands, operator in operations(page):
        numbers = [float(v) for v in operands if not isinstance(v, (list, str, bytes))] if operands else []
        if operator == b"RG":
            now = tuple(round(v, 3) for v in numbers)
        elif operator in (b"m", b"l", b"c"):
            path.append((operator, numbers[-2:]))
        elif operator in (b"S", b"s", b"b", b"b*", b"B", b"B*", b"f", b"f*", b"n"):
            if now == wanted and any(what == b"c" for what, _ in path):
                ends = np.array([at for _, at in path])
                found.append((ends.min(axis=0) + ends.max(axis=0)) / 2 * MM)
            path = []
    return found


@pytest.mark.parametrize("paper", ["letter", "roll"])
@pytest.mark.parametrize("wish", [{"method": "dots"}, {"method": "all lines", "kind": "pounce"}])
@pytest.mark.parametrize("zone", ["star-background", "border"])
def test_sheets_of_dots_and_pounce_sheets_hold_every_dot(laid, paper, wish, zone):
    sheet = sheet_of(laid, zone, FILLS["lines"](spacing="2 in", angle=45), **wish)
    pages = pages_of(sheet, paper)
    reader = PdfReader(io.BytesIO(pdf(sheet, paper)))
    assert len(sheet.dots) and len(reader.pages) == len(pages.tiles) > 0
    found = []
    for page, shown in zip(reader.pages, pages.tiles, strict=True):
        left, low, _, _ = shown.window
        found += [at - [MARGIN - left, MARGIN + FOOTER - low] for at in circles(page, MARK)]
    away = shapely.distance(shapely.points(sheet.dots), shapely.multipoints(np.array(found)))
    assert away.max() < 0.1


def test_a_page_with_dots_only_is_kept_beside_pages_with_lines():
    line, dot = np.array([[0.0, 0.0], [100.0, 0.0]]), np.array([[500.0, 500.0], [500.0, 500.0]])
    pages = tile((0, 0, 600, 600), "letter", [line, dot])
    assert [sum(t.holds(at) for t in pages.tiles) > 0 for at in (line[0], dot[0], (300.0, 300.0))] == [
        True,
        True,
        False,
    ]
