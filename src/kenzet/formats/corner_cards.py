"""The four corner cards as a page to print and cut out."""

from __future__ import annotations

import io

from reportlab.lib.colors import HexColor
from reportlab.pdfgen.canvas import Canvas

from kenzet.core.inspect.card import CARD, CORNERS, MARK, mark_cells
from kenzet.formats.fonts import BOLD, SANS
from kenzet.formats.placement import PAPERS, POINTS, Fit, Paper
from kenzet.texts import tr

_INK = HexColor("#1e2733")
_APART = 20.0
_SAYS = (
    tr(
        "Cut the cards out along their lines. Put each outside the block at the corner that it names, its dotted corner"
    ),
    tr(
        "on the block’s corner and its sides in line with the block’s edges. Take the picture from straight above."
    ),
)


def corner_cards(paper: Paper, fit: Fit) -> bytes:
    """One page at true size, with the printer's correction."""
    width, height = PAPERS["letter" if paper == "roll" else paper]
    out = io.BytesIO()
    canvas = Canvas(out, pagesize=(width * POINTS, height * POINTS), invariant=True)
    canvas.setTitle(tr("Corner cards"))
    canvas.setViewerPreference("PrintScaling", "None")
    canvas.setFillColor(_INK)
    canvas.setFont(BOLD, 14)
    canvas.drawString(25 * POINTS, (height - 30) * POINTS, tr("Corner cards for a picture of a sewn block"))
    canvas.setFont(SANS, 10)
    for k, line in enumerate(_SAYS):
        canvas.drawString(25 * POINTS, (height - 38 - 5.5 * k) * POINTS, line)
    for which in range(4):
        left = 35.0 if which in (0, 3) else 35.0 + CARD + _APART
        low = height - 70 - CARD - (0.0 if which in (0, 1) else CARD + _APART)
        _card(canvas, which, (left, low), fit)
    canvas.showPage()
    canvas.save()
    return out.getvalue()


def _card(canvas: Canvas, which: int, at: tuple[float, float], fit: Fit) -> None:
    canvas.saveState()
    canvas.translate(at[0] * POINTS, at[1] * POINTS)
    canvas.scale(fit[0] * POINTS, fit[1] * POINTS)
    canvas.setStrokeColor(_INK)
    canvas.setLineWidth(0.2)
    canvas.rect(0, 0, CARD, CARD)
    x, y = (CARD if which in (0, 3) else 0.0), (0.0 if which in (0, 1) else CARD)
    canvas.circle(x, y, 1.2, fill=1)
    cells = mark_cells(which)
    cell, inset = MARK / len(cells), (CARD - MARK) / 2
    for row, line in enumerate(cells.tolist()):
        for column, black in enumerate(line):
            if black:
                canvas.rect(
                    inset + column * cell, inset + MARK - (row + 1) * cell, cell, cell, stroke=0, fill=1
                )
    canvas.setFont(SANS, 3)
    canvas.drawCentredString(CARD / 2, 3, CORNERS[which])
    canvas.restoreState()
