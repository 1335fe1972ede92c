"""The swatch book in words: what each swatch was sewn with, and what was observed."""

from __future__ import annotations

from typing import Any

from kenzet.core.balance.density import hand
from kenzet.core.logbook.swatch import Swatch, height
from kenzet.core.logbook.swatch_lessons import DatedSwatch
from kenzet.core.numbers.measure import Unit
from kenzet.core.params import forms
from kenzet.say import words as w
from kenzet.say.log_words import day_words
from kenzet.texts import tr


class SwatchRow(w.Said):
    """A swatch: its name, its quilt and zone, the day it was added.

    ``rows`` are its figures, in the same order for every swatch; ``fields`` are to be filled in. ``fill`` can be
    used in a zone. ``search`` is the text it is found by.
    """

    id: str
    name: str
    of: str
    day: str
    label: str
    rows: list[w.Row]
    fields: list[w.FieldView]
    notes: str
    photos: list[str]
    fill: dict[str, Any]
    search: str


def swatch_row(key: str, one: DatedSwatch, unit: Unit) -> SwatchRow:
    """The row of one swatch."""
    swatch, found = one.swatch, one.found
    rows = figure_rows(one, unit)
    fields = [
        w.model_field(found, name, unit, used=form.only_with is None or found.washed in form.only_with[1])
        for name, form in forms(type(found)).items()
    ]
    told = [found.name, found.notes, swatch.quilt, swatch.zone, *(w.plain(row.words) for row in rows)]
    return SwatchRow(
        id=key, name=found.name, of=f"{swatch.quilt}, {swatch.zone}", day=day_words(one.when), label=swatch.fill.label, rows=rows,
        fields=fields, notes=found.notes, photos=list(found.photos), fill=swatch.fill.model_dump(mode="json"), search=" ".join(told).lower(),
    )  # fmt: skip


def figure_rows(one: DatedSwatch, unit: Unit) -> list[w.Row]:
    """What it was sewn with, and the results; unknown values are a dash."""
    swatch, found = one.swatch, one.found
    spacing: w.Words = [w.shown(swatch.fill.spacing.mm, unit)] if swatch.fill.is_spaced else ["–"]
    shrunk = found.shrunk
    washed = (
        tr("not yet")
        if found.washed == "no"
        else tr("yes")
        if shrunk is None
        else tr("shrank {shrunk} %", shrunk=f"{shrunk:.1f}")
    )
    pairs: list[tuple[str, w.Words]] = [
        (tr("Fill"), [swatch.fill.label]),
        (tr("Spacing"), spacing),
        (tr("Batting"), [swatch.batting.name]),
        (tr("Thread"), [swatch.thread.name]),
        (tr("Stitch"), [w.shown(swatch.stitch.mm, "mm")]),
        (tr("Needle"), [swatch.needle or "–"]),
        (tr("Tension"), [swatch.tension or "–"]),
        (
            tr("Stitching"),
            [tr("{density}, planned as {hand}", density=w.density(swatch.density, unit), hand=_hand(swatch))],
        ),
        (tr("Widest gap"), [w.shown(swatch.gap, unit, about=True)]),
        (tr("Feels"), [tr(found.felt) or "–"]),
        (tr("Height"), _height(one, unit)),
        (tr("Quilting took up"), ["–" if found.took_up is None else f"{found.took_up:.1f} %"]),
        (tr("Washed"), [washed]),
        (tr("Sew it again"), [tr(found.again) or "–"]),
    ]
    return [w.Row(label=[label], words=words) for label, words in pairs]


def _hand(swatch: Swatch) -> str:
    return tr(hand(swatch.density, swatch.use, swatch.batting))


def _height(one: DatedSwatch, unit: Unit) -> w.Words:
    planned = w.shown(height(one.swatch, one.swatch.batting), unit, about=True)
    if one.found.high is None:
        return w.told("{planned} by the relief", planned=planned)
    return w.told("{mm}; the relief had {planned}", mm=w.shown(one.found.high.mm, unit), planned=planned)
