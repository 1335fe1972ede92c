"""A strip with every tick of one edge, at true size, to cut out and place along the edge.

If the edge is longer than the paper, the strip is printed in rows, which are joined letter to letter.
"""

from __future__ import annotations

import io
import math
import string

from reportlab.lib.colors import HexColor
from reportlab.pdfgen.canvas import Canvas

from kenzet.core.geom.edge_ticks import TickedEdge
from kenzet.core.geom.region import Point
from kenzet.core.numbers.measure import Unit, figure
from kenzet.core.tolerances import EQUAL, ROUNDING
from kenzet.formats.fonts import BOLD, SANS, haloed
from kenzet.formats.placement import MARGIN, PAPERS, POINTS, TRUE, Fit, Paper
from kenzet.texts import tr

_MM = POINTS
HIGH = 22.0
"""Height of a strip, mm."""
APART = 8.0
_FIGURE, _TIERS = 8.0, 3  # points; one above the other where ticks stand close
INK, SOFT = HexColor("#1e2733"), HexColor("#8a8f98")


def strip_pdf(title: str, ticked: TickedEdge, paper: Paper, unit: Unit, fit: Fit = TRUE) -> bytes:
    """The strip as PDF, on landscape paper. The ticks are at the exact ends of lines."""
    size = PAPERS["letter" if paper == "roll" else paper]
    width, height = max(size), min(size)
    row = (width - 2 * MARGIN) / fit[0]
    many = max(math.ceil(ticked.edge.length / row - ROUNDING), 1)
    a_page = max(int((height - 2 * MARGIN - 12) / (HIGH + APART)), 1)
    out = io.BytesIO()
    canvas = Canvas(out, pagesize=(width * _MM, height * _MM), invariant=True)
    canvas.setTitle(title)
    canvas.setViewerPreference("PrintScaling", "None")
    for number in range(many):
        if number and number % a_page == 0:
            canvas.showPage()
        low = height - MARGIN - 10 - (number % a_page + 1) * HIGH - (number % a_page) * APART
        _row(canvas, title, ticked, (number, many), (row, low), unit, fit[0])
        if number % a_page == 0:
            _foot(canvas, number // a_page + 1, math.ceil(many / a_page), fit[0])
    canvas.showPage()
    canvas.save()
    return out.getvalue()


def _row(
    canvas: Canvas,
    title: str,
    ticked: TickedEdge,
    which: tuple[int, int],
    at: tuple[float, float],
    unit: Unit,
    fit: float,
) -> None:
    """Row ``which`` (index and count), each showing at most ``at[0]`` mm of the edge, with its bottom at
    ``at[1]``."""
    (number, many), (row, low) = which, at
    first = number * row
    last = min(first + row, ticked.edge.length)
    long = (last - first) * fit

    def x(place: float) -> float:
        return (MARGIN + (place - first) * fit) * _MM

    y = low * _MM
    canvas.setStrokeColor(SOFT)
    canvas.setLineWidth(0.15 * _MM)
    canvas.rect(MARGIN * _MM, y, long * _MM, HIGH * _MM)
    canvas.setStrokeColor(INK)
    canvas.setFillColor(INK)
    canvas.setLineWidth(0.3 * _MM)
    free = [MARGIN * _MM] * _TIERS  # from where on each tier is
    figures: list[tuple[Point, str]] = []
    for tick in ticked.ticks:
        place = float(tick.at)
        if not first - EQUAL <= place <= last + EQUAL:
            continue
        text, stand = figure(tick.drawn, unit).text, x(place)
        half = canvas.stringWidth(text, BOLD, _FIGURE) / 2 + 1
        middle = min(
            max(stand, MARGIN * _MM + half), (MARGIN + long) * _MM - half
        )  # never over the line to cut
        tier = next((k for k, end in enumerate(free) if end <= middle - half), free.index(min(free)))
        canvas.setLineWidth(0.3 * _MM)
        canvas.line(stand, y, stand, y + 6 * _MM)
        top = y + (6.6 + 3.1 * tier) * _MM
        canvas.setLineWidth(0.08 * _MM)
        canvas.line(stand, y + 6 * _MM, stand, top)
        free[tier] = middle + half
        figures.append(((middle, top + 1.5 * _MM), text))
    for where, text in figures:  # over all leaders
        haloed(canvas, where, text, (BOLD, _FIGURE))
    canvas.setFont(SANS, 7)
    join = (
        tr(" · joins at {letter}", letter=_letter(number - 1))
        if number
        else tr(" · begins at the {datum} corner", datum=tr(ticked.edge.datum))
    )
    more = (
        tr(", goes on at {letter}", letter=_letter(number))
        if number + 1 < many
        else tr(", ends at the other corner")
    )
    tries = (f"{title} · {ticked.name}{join}{more}", f"{ticked.name}{join}", join.removeprefix(" · "), "")
    said = next(one for one in tries if canvas.stringWidth(one, SANS, 7) <= (long - 4) * _MM or not one)
    canvas.drawString((MARGIN + 3) * _MM, y + (HIGH - 3.6) * _MM, said)


def _foot(canvas: Canvas, number: int, many: int, fit: float) -> None:
    """A bar to check the print, and the page number."""
    canvas.setStrokeColor(INK)
    canvas.setFillColor(INK)
    canvas.setLineWidth(0.3 * _MM)
    left, y = MARGIN * _MM, MARGIN * _MM
    end = left + 101.6 * fit * _MM
    canvas.line(left, y, end, y)
    for x in (left, end):
        canvas.line(x, y - 1.2 * _MM, x, y + 1.2 * _MM)
    canvas.setFont(SANS, 8)
    canvas.drawString(
        end + 2 * _MM,
        y - 2.5,
        tr(
            "4 in · print at 100 %, then measure this bar · page {number} of {many}", number=number, many=many
        ),
    )


def _letter(number: int) -> str:
    return string.ascii_uppercase[number % 26]
