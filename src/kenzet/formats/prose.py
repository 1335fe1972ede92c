"""Pages of text and pictures as PDF: type, margins, footer."""

from __future__ import annotations

import io
import re
from typing import Any
from xml.sax.saxutils import escape

from reportlab.lib.colors import HexColor
from reportlab.lib.enums import TA_LEFT
from reportlab.lib.styles import ParagraphStyle
from reportlab.platypus import Flowable, SimpleDocTemplate

from kenzet.formats.fonts import BOLD, SANS
from kenzet.formats.placement import PAPERS, POINTS, Paper

INK, SOFT = HexColor("#111111"), HexColor("#777777")
_MARGIN = 15.0
_PADDING = 5.0  # mm: what the library keeps around a frame
_FIGURE = re.compile(r"(\d) (\d+/\d+)| (in|mm|cm|yd|ft)\b")


def kept_whole(text: str) -> str:
    """Text for a paragraph; figures are never broken across lines, because "2" above "1/2 in" reads as a half.

    >>> kept_whole("2 1/2 in & on").replace("\\xa0", "_")
    '2_1/2_in &amp; on'
    """
    return escape(
        _FIGURE.sub(lambda found: f"{found[1]}\xa0{found[2]}" if found[1] else f"\xa0{found[3]}", text)
    )


def _size(paper: Paper) -> tuple[float, float]:
    wide, high = PAPERS["letter" if paper == "roll" else paper]
    return float(wide), float(high)


def room(paper: Paper) -> tuple[float, float]:
    """The width and height available on a page, mm; a roll is cut into letter pages."""
    wide, high = _size(paper)
    return wide - 2 * _MARGIN - _PADDING, high - 2 * _MARGIN - _PADDING


def printed(story: list[Flowable], title: str, paper: Paper) -> bytes:
    """The story as PDF, with title and page number on every page."""
    wide, high = _size(paper)
    out = io.BytesIO()
    document = SimpleDocTemplate(
        out, pagesize=(wide * POINTS, high * POINTS), title=title, invariant=True,
        **dict.fromkeys(("leftMargin", "rightMargin", "topMargin", "bottomMargin"), _MARGIN * POINTS),
    )  # fmt: skip

    def foot(canvas: Any, _: Any) -> None:
        canvas.setFont(SANS, 8)
        canvas.setFillColor(SOFT)
        canvas.drawRightString((wide - _MARGIN) * POINTS, 8 * POINTS, f"{title} · {canvas.getPageNumber()}")

    document.build(story, onFirstPage=foot, onLaterPages=foot)
    return out.getvalue()


def styles_of(times: float) -> dict[str, ParagraphStyle]:
    """The paragraph styles, enlarged by ``times``."""

    def style(name: str, size: float, bold: bool = False, **more: Any) -> ParagraphStyle:
        font = BOLD if bold else SANS
        return ParagraphStyle(
            name,
            fontName=font,
            fontSize=size * times,
            leading=size * times * 1.35,
            textColor=INK,
            alignment=TA_LEFT,
            **more,
        )

    return {
        "title": style("title", 18, True),
        "soft": style("soft", 10, textTransform=None, spaceAfter=6 * times),
        "zone": style("zone", 13, True, spaceBefore=9 * times, spaceAfter=2),
        "text": style("text", 11),
        "stroke": style("stroke", 11, leftIndent=14 * times, spaceBefore=1.5),
    }
