"""The typeface of all printed pages: embedded, with Latin, Greek and Cyrillic letters and fractions."""

from __future__ import annotations

from importlib.resources import files

from reportlab.lib.colors import white
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont
from reportlab.pdfgen.canvas import Canvas

from kenzet.core.geom.region import Point

SANS, BOLD = "Source Sans Pro", "Source Sans Pro Bold"

for _name, _style in ((SANS, "Regular"), (BOLD, "Bold")):
    pdfmetrics.registerFont(
        TTFont(_name, str(files("font_source_sans_pro") / "files" / f"SourceSansPro-{_style}.ttf"))
    )
pdfmetrics.registerFontFamily(SANS, normal=SANS, bold=BOLD, italic=SANS, boldItalic=BOLD)


def haloed(canvas: Canvas, at: Point, text: str, font: tuple[str, float]) -> None:
    """Text centered at ``at``, in points, with a white outline, so that it is readable on lines and seams."""
    left, size = at[0] - canvas.stringWidth(text, *font) / 2, font[1]
    for mode in (2, 0):  # outlined, then filled
        line = canvas.beginText(left, at[1] - size * 0.32)
        line.setFont(*font)
        line.setTextRenderMode(mode)
        canvas.saveState()
        if mode:
            canvas.setStrokeColor(white)
            canvas.setFillColor(white)
            canvas.setLineWidth(2)
        line.textOut(text)
        canvas.drawText(line)
        canvas.restoreState()
