"""The page for checking a printer: two long bars, horizontal and vertical, drawn with the present correction."""

from __future__ import annotations

import io

from reportlab.lib.colors import HexColor
from reportlab.pdfgen.canvas import Canvas

from kenzet.core.marks.printer import BARS
from kenzet.core.numbers.measure import Unit
from kenzet.formats.fonts import BOLD, SANS
from kenzet.formats.placement import PAPERS, POINTS, Fit, Paper
from kenzet.texts import tr

_MM = POINTS
CORNER = (30.0, 40.0)
"""The left end of the horizontal bar, mm from the page's lower left corner; the vertical bar begins above it."""
BESIDE = 16.0


def check_page(paper: Paper, unit: Unit, name: str, fit: Fit) -> bytes:
    """One page with a horizontal and a vertical bar, each ``BARS`` long if the printer is corrected."""
    width, height = PAPERS["letter" if paper == "roll" else paper]
    out = io.BytesIO()
    canvas = Canvas(out, pagesize=(width * _MM, height * _MM), invariant=True)
    canvas.setTitle(tr("Printer check: {name}", name=name))
    canvas.setViewerPreference("PrintScaling", "None")
    canvas.setStrokeColor(HexColor("#1e2733"))
    canvas.setFillColor(HexColor("#1e2733"))
    canvas.setLineWidth(0.4 * _MM)
    long = float(BARS[unit].mm)
    x, y = (v * _MM for v in CORNER)
    for dx, dy in ((long * fit[0] * _MM, 0.0), (0.0, long * fit[1] * _MM)):
        y = (CORNER[1] + (BESIDE if dy else 0.0)) * _MM
        canvas.line(x, y, x + dx, y + dy)
        for ex, ey in ((x, y), (x + dx, y + dy)):
            across = 4 * _MM
            canvas.line(
                ex - (across if dy else 0),
                ey - (across if dx else 0),
                ex + (across if dy else 0),
                ey + (across if dx else 0),
            )
    canvas.setFont(BOLD, 13)
    canvas.drawString(x + 12 * _MM, y + 60 * _MM, tr("{name}: does it print at true size?", name=name))
    canvas.setFont(SANS, 10)
    said = tr("Printed at 100 %, each bar is {bars} long, from end to end.", bars=BARS[unit].text)
    for k, line in enumerate((said, tr("Measure both, and type what you read in Kenzet under Marks."))):
        canvas.drawString(x + 12 * _MM, y + (52 - 6 * k) * _MM, line)
    canvas.showPage()
    canvas.save()
    return out.getvalue()
