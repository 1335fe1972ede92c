"""A strip with every tick of one edge, at true size, to be cut out and laid along the edge.

Where the edge is longer than the paper the strip is printed in rows, which are joined letter to letter.
"""

from __future__ import annotations

import io
import math
import string

from reportlab.lib.colors import HexColor
from reportlab.pdfgen.canvas import Canvas

from kenzet.core.geom.edge_ticks import TickedEdge
from kenzet.core.numbers.measure import Unit, figure
from kenzet.core.tolerances import EQUAL, ROUNDING
from kenzet.formats.placement import MARGIN, PAPERS, POINTS, TRUE, Fit, Paper

_MM = POINTS
HIGH = 22.0
"""mm of a strip."""
APART = 8.0
INK, SOFT = HexColor("#1e2733"), HexColor("#8a8f98")


def strip_pdf(title: str, ticked: TickedEdge, paper: Paper, unit: Unit, fit: Fit = TRUE) -> bytes:
    """As PDF, the paper turned so that a row is as long as can be. The ticks stand where the lines truly end."""
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
    """Row ``which`` (of how many), each at most ``at[0]`` mm of the edge long, its foot at ``at[1]``."""
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
    canvas.setFont("Helvetica-Bold", 9)
    for tick in ticked.ticks:
        place = float(tick.at)
        if first - EQUAL <= place <= last + EQUAL:
            canvas.line(x(place), y, x(place), y + 9 * _MM)
            canvas.drawCentredString(x(place), y + 10.2 * _MM, figure(tick.drawn, unit).text)
    canvas.setFont("Helvetica", 7)
    join = f" · joins at {_letter(number - 1)}" if number else f" · begins at the {ticked.edge.datum} corner"
    more = f", goes on at {_letter(number)}" if number + 1 < many else ", ends at the other corner"
    tries = (f"{title} · {ticked.name}{join}{more}", f"{ticked.name}{join}", join.removeprefix(" · "), "")
    said = next(
        one for one in tries if canvas.stringWidth(one, "Helvetica", 7) <= (long - 4) * _MM or not one
    )
    canvas.drawString((MARGIN + 3) * _MM, y + (HIGH - 4) * _MM, said)


def _letter(number: int) -> str:
    return string.ascii_uppercase[number % 26]
