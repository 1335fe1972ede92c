"""A mark sheet as PDF at true size, tiled over pages."""

from __future__ import annotations

import io

import numpy as np
from reportlab.lib.colors import Color, HexColor
from reportlab.pdfgen.canvas import Canvas

from kenzet.core.marks.sheet import TICK, MarkSheet
from kenzet.formats.placement import MARGIN, OVERLAP, POINTS, TRUE, Fit, Pages, Paper, Tile, tile

INK, SOFT, SEAM, MARK = (HexColor(c) for c in ("#1e2733", "#5c6470", "#8a8f98", "#b9820f"))
_MM = POINTS


def pages_of(sheet: MarkSheet, paper: Paper, fit: Fit = TRUE) -> Pages:
    """How ``sheet`` falls on pages of ``paper``, stretched by ``fit``."""
    return tile(sheet.bounds, paper, [*sheet.seams, *sheet.marks], fit)


def pdf(sheet: MarkSheet, paper: Paper, fit: Fit = TRUE) -> bytes:
    """The sheet as PDF. Raises TooMany for more pages than anyone would tape together."""
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
    """Dots to draw are filled; holes to prick are rings, so that the pin finds their middle."""
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
    """Where a page is cut so that it lies edge to edge on the next one: in the middle of what they share."""
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
    canvas.setFont("Helvetica", 7)
    for tick in sheet.ticks:
        if page.holds(tick.foot) and page.holds(tick.tip):
            canvas.line(*page.to_points(tick.foot), *page.to_points(tick.tip))
            dx, dy = ((b - a) / TICK for a, b in zip(tick.foot, tick.tip, strict=True))
            # beyond the tick by as much as the figure reaches that way
            beyond = 2.5 + abs(dx) * canvas.stringWidth(tick.figure, "Helvetica", 7) / 2 + abs(dy) * 2.5
            x, y = page.to_points(tick.tip)
            canvas.drawCentredString(x + dx * beyond, y + dy * beyond - 2.5, tick.figure)


def _crosses(canvas: Canvas, pages: Pages, page: Tile) -> None:
    canvas.setStrokeColor(INK)
    canvas.setFillColor(INK)
    canvas.setLineWidth(0.2 * _MM)
    canvas.setFont("Helvetica", 6)
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
        canvas.setFont("Helvetica", 7)
        canvas.drawString(end + 1.5 * _MM, y - 2, words)
    canvas.setFont("Helvetica-Bold", 9)
    canvas.drawString(left, low + 17 * _MM, sheet.title)
    canvas.setFont("Helvetica", 7.5)
    number = f"page {page.number} of {len(pages.tiles)}"
    canvas.drawString(
        left, low + 13 * _MM, f"{sheet.subtitle} · {number} · print at 100 %, then measure a bar"
    )
    _up(canvas, pages)
    _map(canvas, pages, page)


def _up(canvas: Canvas, pages: Pages) -> None:
    """Which way round the sheet lies."""
    x, y = (pages.width - MARGIN - 46) * _MM, (MARGIN + 3) * _MM
    canvas.setLineWidth(0.5 * _MM)
    canvas.line(x, y, x, y + 7 * _MM)
    canvas.line(x, y + 7 * _MM, x - 1.6 * _MM, y + 4.6 * _MM)
    canvas.line(x, y + 7 * _MM, x + 1.6 * _MM, y + 4.6 * _MM)
    canvas.setFont("Helvetica", 6)
    canvas.drawCentredString(x, y - 2.6 * _MM, "this side up")


def _map(canvas: Canvas, pages: Pages, page: Tile) -> None:
    """Which page this is among all, in the lower right corner."""
    size = min(17.0 / pages.rows, 40.0 / pages.columns, 7.0)
    right, low = (pages.width - MARGIN) * _MM, MARGIN * _MM
    canvas.setLineWidth(0.2 * _MM)
    canvas.setFont("Helvetica", max(3.0, min(6.0, size * 1.6)))
    for other in pages.tiles:
        x = right - (pages.columns - other.column) * size * _MM
        y = low + (pages.rows - 1 - other.row) * size * _MM
        here = other.number == page.number
        canvas.setFillColor(INK if here else HexColor("#ffffff"))
        canvas.rect(x, y, size * _MM, size * _MM, fill=1)
        canvas.setFillColor(HexColor("#ffffff") if here else INK)
        canvas.drawCentredString(x + size * _MM / 2, y + size * _MM / 2 - 2, str(other.number))
