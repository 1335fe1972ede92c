"""The swatch book for printing: every swatch with its picture, what it was sewn with, and what was observed."""

from __future__ import annotations

import io
from collections.abc import Sequence

from reportlab.platypus import Flowable, Image, KeepTogether, Paragraph, Spacer, Table

from kenzet.core.logbook.swatch_lessons import DatedSwatch
from kenzet.core.numbers.measure import Unit
from kenzet.formats.placement import POINTS, Paper
from kenzet.formats.prose import kept_whole, printed, room, styles_of
from kenzet.formats.swatch_picture import swatch_picture
from kenzet.say.log_words import day_words
from kenzet.say.swatch_words import figure_rows
from kenzet.say.words import plain
from kenzet.texts import tr

TITLE = tr("Swatch book")
_SHARE = 0.36
"""Share of the page's width for a picture."""
_HIGHEST = 90.0  # mm of a picture


def swatch_book(kept: Sequence[DatedSwatch], paper: Paper, unit: Unit) -> bytes:
    """The book as PDF, the newest swatch first."""
    styles = styles_of(1.0)
    wide = room(paper)[0] * POINTS

    def line(text: str, style: str = "text") -> Flowable:
        return Paragraph(kept_whole(text), styles[style])

    story: list[Flowable] = [line(TITLE, "title")]
    if not kept:
        story.append(line(tr("No swatches yet.")))
    for one in kept:
        told = [
            line(one.found.name, "zone"),
            line(f"{one.swatch.quilt}, {one.swatch.zone} · {day_words(one.when)}", "soft"),
        ]
        told += [line(f"{plain(row.label)}: {plain(row.words)}") for row in figure_rows(one, unit)]
        if one.found.notes:
            told += [Spacer(1, 4), *(line(text) for text in one.found.notes.splitlines() if text.strip())]
        beside = Table(
            [[_picture(one, wide * _SHARE), told]], colWidths=[wide * (_SHARE + 0.04), wide * (0.96 - _SHARE)]
        )
        beside.setStyle([("VALIGN", (0, 0), (-1, -1), "TOP"), ("LEFTPADDING", (0, 0), (-1, -1), 0)])
        story.append(KeepTogether([beside, Spacer(1, 10)]))
    return printed(story, TITLE, paper)


def _picture(one: DatedSwatch, widest: float) -> Flowable:
    found = Image(io.BytesIO(swatch_picture(one.swatch)))
    times = min(widest / found.imageWidth, _HIGHEST * POINTS / found.imageHeight)
    found.drawWidth, found.drawHeight = found.imageWidth * times, found.imageHeight * times
    return found
