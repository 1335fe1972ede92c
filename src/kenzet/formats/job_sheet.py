"""The job sheet: one PDF for the sewing room, the quilt first, then every kind of block with its zones.

It uses only words and thin lines, so that nothing is lost on a black-and-white printer.
"""

from __future__ import annotations

import io
from collections.abc import Sequence

import numpy as np
from reportlab.lib.colors import HexColor
from reportlab.lib.styles import ParagraphStyle
from reportlab.platypus import Flowable, Image, KeepTogether, PageBreak, Paragraph, Spacer

from kenzet.core.geom.region import Floats
from kenzet.core.tolerances import ROUNDING
from kenzet.formats.beside_lines import beside_lines
from kenzet.formats.fonts import BOLD, SANS
from kenzet.formats.job_parts import JobBlock, JobLook, JobOrder, JobSheet, Picture
from kenzet.formats.placement import POINTS, Paper
from kenzet.formats.prose import INK, SOFT, kept_whole, printed, room, styles_of
from kenzet.texts import tr

_MM = POINTS

WAY_NUMBER = 7.5
"""Points: readable at arm's length."""


def job_pdf(sheet: JobSheet, paper: Paper, large: bool = False) -> bytes:
    """The sheet as PDF; ``large``: in large type."""
    wide, high = room(paper)
    styles = styles_of(1.45 if large else 1.0)
    story: list[Flowable] = [
        Paragraph(kept_whole(sheet.title), styles["title"]),
        Paragraph(kept_whole(sheet.subtitle), styles["soft"]),
        _Drawn(sheet.picture, wide, high * 0.5),
        *(Paragraph(kept_whole(total), styles["text"]) for total in sheet.totals),
        Paragraph(tr("Before you sew"), styles["zone"]),
        *_numbered(sheet.before, styles["stroke"]),
    ]
    for block in sheet.blocks:
        story += [PageBreak(), *_block(block, wide, high, styles)]
    if sheet.look:
        story += [PageBreak(), *_look(sheet.look, wide, high, styles)]
    if sheet.order:
        story += [PageBreak(), *_order(sheet.order, wide, high, styles)]

    return printed(story, sheet.title, paper)


def _block(block: JobBlock, wide: float, high: float, styles: dict[str, ParagraphStyle]) -> list[Flowable]:
    found: list[Flowable] = [
        Paragraph(kept_whole(block.name), styles["title"]),
        Paragraph(kept_whole(block.occurs), styles["soft"]),
        _Drawn(block.picture, wide, high * 0.42),
    ]
    for zone in block.zones:
        head = Paragraph(
            tr("{number} &nbsp; {kept_whole}", number=zone.number, kept_whole=kept_whole(zone.name)),
            styles["zone"],
        )
        says = [Paragraph(kept_whole(said), styles["text"]) for said in zone.says]
        found.append(KeepTogether([head, *says]))
        found += _numbered(zone.strokes, styles["stroke"])
    return found


def _look(look: JobLook, wide: float, high: float, styles: dict[str, ParagraphStyle]) -> list[Flowable]:
    scale = min(wide / look.size[0], high * 0.66 / look.size[1]) * _MM
    picture = Image(io.BytesIO(look.picture), look.size[0] * scale, look.size[1] * scale, hAlign="LEFT")
    says = [Paragraph(kept_whole(said), styles["text"]) for said in look.says]
    return [
        Paragraph(tr("How it will look"), styles["title"]),
        Spacer(1, 2 * _MM),
        picture,
        Spacer(1, 3 * _MM),
        *says,
    ]


def _order(order: JobOrder, wide: float, high: float, styles: dict[str, ParagraphStyle]) -> list[Flowable]:
    found: list[Flowable] = [
        Paragraph(tr("Sewing order"), styles["title"]),
        _Drawn(order.picture, wide, high * 0.6),
        *(Paragraph(kept_whole(said), styles["text"]) for said in order.says),
    ]
    for way in order.ways:
        says = [Paragraph(kept_whole(said), styles["text"]) for said in way.says]
        found += [
            PageBreak(),
            Paragraph(kept_whole(way.name), styles["title"]),
            *says,
            _Drawn(way.picture, wide, high * 0.75),
        ]
    return found


def _numbered(lines: Sequence[str], style: ParagraphStyle) -> list[Flowable]:
    return [Paragraph(f"{k}. {kept_whole(line)}", style) for k, line in enumerate(lines, 1)]


class _Drawn(Flowable):  # type: ignore[misc]
    """A picture, as large as fits."""

    def __init__(self, picture: Picture, wide: float, high: float) -> None:
        super().__init__()
        self._picture = picture
        self._scale = min(wide / picture.size[0], high / picture.size[1]) * _MM
        self.width, self.height = picture.size[0] * self._scale, picture.size[1] * self._scale + 6 * _MM

    def draw(self) -> None:
        """Called by the library, with the lower left corner at the origin."""
        self._lines(self._picture.seams, 0.4, SOFT, None)
        self._lines(self._picture.lines, 0.7, INK, None)
        self._lines(self._picture.marks, 2.2, INK, [0.1, 4])
        self._lines(self._picture.travels, 0.9, INK, [0.1, 2.2])
        for free, dash in ((False, None), (True, [0.8, 2.4])):
            some = [line for k, line in enumerate(self._picture.way) if (k in self._picture.freehand) is free]
            self._lines(some, 0.7, INK, dash)
        for line in self._picture.way:
            self._arrow(line)
        self._way_numbers()
        self.canv.setFont(BOLD, 12)
        for (x, y), number in self._picture.numbers:
            px, py = x * self._scale, y * self._scale + 3 * _MM
            self.canv.setFillColor(HexColor("#ffffff"))
            wide = max(16.0, self.canv.stringWidth(number, BOLD, 12) + 8)
            self.canv.roundRect(px - wide / 2, py - 8, wide, 16, 8, stroke=1, fill=1)
            self.canv.setFillColor(INK)
            self.canv.drawCentredString(px, py - 4, number)

    def _way_numbers(self) -> None:
        """Numbers beside their lines, on white."""
        lines, others = (
            [np.asarray(line)[:, :2] * self._scale + (0, 3 * _MM) for line in some]
            for some in (self._picture.way, [*self._picture.travels, *self._picture.seams])
        )
        sizes = [
            (self.canv.stringWidth(str(k), SANS, WAY_NUMBER), 0.75 * WAY_NUMBER)
            for k in range(1, len(lines) + 1)
        ]
        self.canv.setFont(SANS, WAY_NUMBER)
        for k, (x, y) in enumerate(beside_lines(lines, sizes, 1.0, others), 1):
            wide, high = sizes[k - 1]
            self.canv.setFillColor(HexColor("#ffffff"))
            self.canv.rect(x - wide / 2 - 0.5, y - high / 2 - 0.5, wide + 1, high + 1, stroke=0, fill=1)
            self.canv.setFillColor(INK)
            self.canv.drawCentredString(x, y - high / 2, str(k))

    def _arrow(self, line: Floats) -> None:
        """An arrow head in the middle of the line."""
        along = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(line, axis=0).T))])
        middle = along[-1] / 2
        k = max(int(np.searchsorted(along, middle)), 1)
        way = (line[k] - line[k - 1]) / max(float(np.hypot(*(line[k] - line[k - 1]))), ROUNDING)
        tip = (line[k - 1] + way * (middle - along[k - 1])) * self._scale + (0, 3 * _MM)
        across = np.array([-way[1], way[0]])
        head = self.canv.beginPath()
        head.moveTo(*tip)
        for side in (1.4, -1.4):
            head.lineTo(*(tip - 4 * way + side * across))
        head.close()
        self.canv.setFillColor(INK)
        self.canv.drawPath(head, stroke=0, fill=1)

    def _lines(
        self, lines: Sequence[Floats], wide: float, colour: HexColor, dash: list[float] | None
    ) -> None:
        self.canv.setStrokeColor(colour)
        self.canv.setLineWidth(wide)
        self.canv.setLineCap(1)
        self.canv.setDash(dash or [])
        for line in lines:
            path = self.canv.beginPath()
            for k, (x, y) in enumerate((np.asarray(line)[:, :2] * self._scale).tolist()):
                (path.lineTo if k else path.moveTo)(x, y + 3 * _MM)
            self.canv.drawPath(path)
        self.canv.setDash([])
