"""Tape measurements: as stored, and compared with the plan at that time."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from kenzet.core.logbook.by_hand import LaidSpan, TapeFound, TapeReading, laid_span, tape_found
from kenzet.core.numbers.measure import Length, Unit
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.say import log_words as say
from kenzet.say.by_hand_words import TapeRow, tape_words
from kenzet.store.logbook import Remark
from kenzet.store.quilts import Kept
from kenzet.web.request_context import laid_at
from kenzet.web.wire import base as m


class TapeKept(m.Wire):
    """A reading as stored, with the revision of the plan it is compared with."""

    zone: str
    lines: int
    span: Length
    gap: Length | None
    revision: int

    @property
    def reading(self) -> TapeReading:
        """The reading in mm."""
        return TapeReading(
            self.zone, self.lines, float(self.span.mm), float(self.gap.mm) if self.gap else None
        )


@dataclass(frozen=True, eq=False)
class Taped:
    """A remark about a place, the plan ``then``, the result, and what it says about the foot."""

    remark: Remark
    place: str
    then: QuiltLayout
    found: TapeFound
    span: LaidSpan | None


def taped_of(kept: Kept, remarks: Sequence[Remark]) -> list[Taped]:
    """All tape measurements, the newest first."""
    some = []
    for one in reversed([one for one in remarks if one.kind == "measured"]):
        told, place = TapeKept.model_validate_json(one.told), one.about.removeprefix("place:")
        then = laid_at(kept, told.revision)
        found = tape_found(then, place, told.reading, "in")
        some.append(Taped(one, place, then, found, laid_span(then, place, found, one.when)))
    return some


def tape_row(one: Taped, unit: Unit) -> TapeRow:
    """In words."""
    truth, words = tape_words(one.found, one.then.quilt.kit, unit)
    name = one.then.zone(one.found.reading.zone).name
    return TapeRow(
        id=one.remark.id,
        place=one.place,
        name=name,
        when=say.day_words(one.remark.when),
        truth=truth,
        words=words,
    )
