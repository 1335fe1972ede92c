"""A mark sheet as PDF at true size, tiled over pages."""

from __future__ import annotations

import io
from collections.abc import Iterable, Sequence

import numpy as np
import shapely
from reportlab.lib.colors import Color, HexColor
from reportlab.lib.utils import simpleSplit
from reportlab.pdfgen.canvas import Canvas

from kenzet.core.geom.region import Point
from kenzet.core.marks.sheet import TICK, MarkSheet, TickMark
from kenzet.formats.fonts import BOLD, SANS, haloed
from kenzet.formats.placement import MARGIN, OVERLAP, POINTS, TRUE, Fit, Pages, Paper, Tile, pages_of
from kenzet.texts import tr

INK, SOFT, SEAM, MARK = (HexColor(c) for c in ("#1e2733", "#5c6470", "#8a8f98", "#b9820f"))
_MM = POINTS


def pdf(sheet: MarkSheet, paper: Paper, fit: Fit = TRUE) -> bytes:
    """The sheet as PDF. Raises TooMany for more pages than anyone would tape together, BadValue if there is
    nothing to mark."""
    pages = pages_of(sheet, paper, fit)
    out = io.BytesIO()
    canvas = Canvas(out, pagesize=(pages.width * _MM, pages.height * _MM), invariant=True)
    canvas.setTitle(sheet.title)
    canvas.setViewerPreference("PrintScaling", "None")
    for page in pages.tiles:
        _draw_page(canvas, sheet, pages, page)
        canvas.showPage()
    canvas.save()
    return out.getvalue()


def _draw_page(canvas: Canvas, sheet: MarkSheet, pages: Pages, page: Tile) -> None:
    _polylines(canvas, page, sheet.seams, SEAM, 0.2)
    bold = sheet.kind == "light box"
    if not bold:
        canvas.setDash(
            [1.6 * _MM, 0.9 * _MM]
            if sheet.kind == "stitched lines"
            else [6 * _MM, 1.2 * _MM, 1 * _MM, 1.2 * _MM]
        )
    _polylines(canvas, page, sheet.marks, INK if bold else MARK, 1.3 if bold else 0.5)
    canvas.setDash()
    _polylines(canvas, page, sheet.signs, MARK, 0.5)
    _dots(canvas, sheet, page)
    _ticks(canvas, sheet, page)
    _trims(canvas, pages, page)
    _crosses(canvas, pages, page)
    _footer(canvas, sheet, pages, page)


def _dots(canvas: Canvas, sheet: MarkSheet, page: Tile) -> None:
    """Dots to mark are filled; holes to prick are rings, so that the pin finds their center."""
    bold, pricked = sheet.kind == "light box", sheet.kind == "pounce"
    canvas.setStrokeColor(INK if bold else MARK)
    canvas.setFillColor(INK if bold else MARK)
    canvas.setLineWidth(0.15 * _MM)
    for dot in sheet.dots:
        if page.holds(dot):
            canvas.circle(
                *page.to_points(dot),
                (0.5 if pricked else 1.2 if bold else 0.7) * _MM,
                fill=0 if pricked else 1,
            )


def _trims(canvas: Canvas, pages: Pages, page: Tile) -> None:
    """Trim lines, in the middle of the overlap, so that trimmed pages fit edge to edge."""
    left, low, right, top = page.window
    canvas.setStrokeColor(SOFT)
    canvas.setLineWidth(0.15 * _MM)
    canvas.setDash([0.6 * _MM, 1.4 * _MM])
    if page.column + 1 < pages.columns:
        x = right - OVERLAP / 2
        canvas.line(*page.to_points((x, low)), *page.to_points((x, top)))
    if page.row + 1 < pages.rows:
        y = low + OVERLAP / 2
        canvas.line(*page.to_points((left, y)), *page.to_points((right, y)))
    canvas.setDash()


def _polylines(canvas: Canvas, page: Tile, lines: tuple[np.ndarray, ...], colour: Color, wide: float) -> None:
    canvas.setStrokeColor(colour)
    canvas.setLineWidth(wide * _MM)
    for line in lines:
        for part in page.shows(line):
            points = [page.to_points(point) for point in part]
            path = canvas.beginPath()
            path.moveTo(*points[0])
            for point in points[1:]:
                path.lineTo(*point)
            canvas.drawPath(path)


def _ticks(canvas: Canvas, sheet: MarkSheet, page: Tile) -> None:
    canvas.setStrokeColor(INK)
    canvas.setFillColor(SOFT)
    canvas.setLineWidth(0.25 * _MM)
    here = [tick for tick in sheet.ticks if page.holds(tick.foot) and page.holds(tick.tip)]
    for tick in here:
        canvas.line(*page.to_points(tick.foot), *page.to_points(tick.tip))
    if sheet.tells_figures:
        _figures(canvas, page, here)


_FIGURE = 7.0  # points
_STEPS = 5  # inwards, until a figure stands free
_ASIDE = (0.0, 1.0, -1.0, 2.0, -2.0)  # along the edge, in its own extents


def _figures(canvas: Canvas, page: Tile, ticks: Sequence[TickMark]) -> None:
    """The figure beyond each tick; if another figure or tick is there, farther in or aside with a leader. Figures
    without room are left out here; the strips and the list of ticks have them."""
    strokes = [shapely.linestrings([page.to_points(t.foot), page.to_points(t.tip)]) for t in ticks]
    tree, taken = shapely.STRtree(strokes), list[shapely.Geometry]()
    for k, tick in enumerate(ticks):
        for at, own, leader in _places(canvas, page, tick):
            struck = {*tree.query(own, predicate="intersects").tolist()} - {k}
            crossed = {*tree.query(leader, predicate="crosses").tolist()} - {k} if leader else set()
            if (
                struck
                or crossed
                or any(own.intersects(o) or (leader and leader.intersects(o)) for o in taken)
            ):
                continue
            taken.append(own)
            if leader:
                canvas.setLineWidth(0.08 * _MM)
                (x0, y0), (x1, y1) = leader.coords
                canvas.line(x0, y0, x1, y1)
            haloed(canvas, at, tick.figure, (SANS, _FIGURE))
            break


def _places(
    canvas: Canvas, page: Tile, tick: TickMark
) -> Iterable[tuple[Point, shapely.Polygon, shapely.LineString | None]]:
    """Candidate places for a figure, the nearest first: its center, its box and the leader from its tick, in
    points."""
    dx, dy = ((b - a) / TICK for a, b in zip(tick.foot, tick.tip, strict=True))
    wide, high = canvas.stringWidth(tick.figure, SANS, _FIGURE) + 2, _FIGURE
    reach = abs(dx) * wide / 2 + abs(dy) * high / 2  # from its middle outwards
    along = abs(dy) * wide + abs(dx) * high
    x, y = page.to_points(tick.tip)
    for step in range(_STEPS):
        for aside in _ASIDE:
            beyond = 1.5 + reach + step * 2 * reach + (high if aside and not step else 0.0)
            at = x + dx * beyond - dy * aside * along, y + dy * beyond + dx * aside * along
            own = shapely.box(at[0] - wide / 2, at[1] - high / 2, at[0] + wide / 2, at[1] + high / 2)
            end = at[0] - dx * (reach + 0.5), at[1] - dy * (reach + 0.5)
            yield at, own, shapely.LineString([(x, y), end]) if step or aside else None


def _crosses(canvas: Canvas, pages: Pages, page: Tile) -> None:
    canvas.setStrokeColor(INK)
    canvas.setFillColor(INK)
    canvas.setLineWidth(0.2 * _MM)
    canvas.setFont(SANS, 6)
    for number, cross in enumerate(pages.crosses, 1):
        if page.holds(cross):
            x, y = page.to_points(cross)
            canvas.line(x - 3 * _MM, y, x + 3 * _MM, y)
            canvas.line(x, y - 3 * _MM, x, y + 3 * _MM)
            canvas.circle(x, y, 1.5 * _MM)
            canvas.drawString(x + 2 * _MM, y + 1.2 * _MM, str(number))


def _footer(canvas: Canvas, sheet: MarkSheet, pages: Pages, page: Tile) -> None:
    left, low, fit = MARGIN * _MM, MARGIN * _MM, pages.fit[0]
    canvas.setStrokeColor(INK)
    canvas.setFillColor(INK)
    canvas.setLineWidth(0.3 * _MM)
    for height, long, words in ((2.0, 101.6, "4 in"), (8.0, 100.0, "100 mm")):
        y, end = low + height * _MM, left + long * fit * _MM
        canvas.line(left, y, end, y)
        for x in (left, end):
            canvas.line(x, y - 1.2 * _MM, x, y + 1.2 * _MM)
        canvas.setFont(SANS, 7)
        canvas.drawString(end + 1.5 * _MM, y - 2, words)
    _upright_bar(canvas, pages)
    room = (pages.width - 2 * MARGIN - 52) * _MM
    number = tr("page {number} of {tiles}", number=page.number, tiles=len(pages.tiles))
    join = tr(" · cut at the dotted line and match the crosses") if len(pages.tiles) > 1 else ""
    said = tr(
        "{subtitle} · {number} · print at 100 %, then measure a bar{join}",
        subtitle=sheet.subtitle,
        number=number,
        join=join,
    )
    _in_lines(canvas, (left, low + 20.5 * _MM), room, (sheet.title, BOLD, 9), 1)
    _in_lines(canvas, (left, low + 16.5 * _MM), room, (said, SANS, 7.5), 2)
    _up(canvas, pages)
    _map(canvas, pages, page)


def _in_lines(canvas: Canvas, at: Point, room: float, what: tuple[str, str, float], most: int) -> None:
    """A text in at most ``most`` lines of ``room`` points, in smaller letters if necessary."""
    text, font, size = what
    while len(lines := simpleSplit(text, font, size, room)) > most and size > _LEAST:
        size -= 0.5
    canvas.setFont(font, size)
    for k, line in enumerate(lines[:most]):
        last = k + 1 == most < len(lines)
        canvas.drawString(at[0], at[1] - k * size * 1.25, f"{line} …" if last else line)


_LEAST = 5.5  # points


def _upright_bar(canvas: Canvas, pages: Pages) -> None:
    """A bar of 4 in along the left margin, because printers stretch the two directions differently."""
    x, low, long = 6.0 * _MM, (MARGIN + 4) * _MM, 101.6 * pages.fit[1] * _MM
    canvas.line(x, low, x, low + long)
    for y in (low, low + long):
        canvas.line(x - 1.2 * _MM, y, x + 1.2 * _MM, y)
    canvas.setFont(SANS, 7)
    canvas.drawCentredString(x, low + long + 1.5 * _MM, "4 in")


def _up(canvas: Canvas, pages: Pages) -> None:
    """An arrow that shows which way is up."""
    x, y = (pages.width - MARGIN - 46) * _MM, (MARGIN + 3) * _MM
    canvas.setLineWidth(0.5 * _MM)
    canvas.line(x, y, x, y + 7 * _MM)
    canvas.line(x, y + 7 * _MM, x - 1.6 * _MM, y + 4.6 * _MM)
    canvas.line(x, y + 7 * _MM, x + 1.6 * _MM, y + 4.6 * _MM)
    canvas.setFont(SANS, 6)
    canvas.drawCentredString(x, y - 2.6 * _MM, tr("this side up"))


def _map(canvas: Canvas, pages: Pages, page: Tile) -> None:
    """The place of this page among all pages, in the lower right corner."""
    size = min(17.0 / pages.rows, 40.0 / pages.columns, 7.0)
    right, low = (pages.width - MARGIN) * _MM, MARGIN * _MM
    canvas.setLineWidth(0.2 * _MM)
    canvas.setFont(SANS, max(3.0, min(6.0, size * 1.6)))
    for other in pages.tiles:
        x = right - (pages.columns - other.column) * size * _MM
        y = low + (pages.rows - 1 - other.row) * size * _MM
        here = other.number == page.number
        canvas.setFillColor(INK if here else HexColor("#ffffff"))
        canvas.rect(x, y, size * _MM, size * _MM, fill=1)
        canvas.setFillColor(HexColor("#ffffff") if here else INK)
        canvas.drawCentredString(x + size * _MM / 2, y + size * _MM / 2 - 2, str(other.number))
