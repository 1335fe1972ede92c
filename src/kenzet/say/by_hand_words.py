"""Tape measurements in words: the whole distance, each gap, the widest gap."""

from __future__ import annotations

from typing import Literal

from kenzet.core.kit.kit import Kit
from kenzet.core.logbook.by_hand import TapeFound
from kenzet.core.numbers.measure import MM_PER, Unit
from kenzet.core.tolerances import VISIBLE
from kenzet.say import words as w
from kenzet.texts import tr

Truth = Literal["within", "out"]
_FINE: dict[Unit, int] = {"in": 3, "mm": 2}


class TapeRow(w.Said):
    """A reading at a place, by the id of its remark: what it says, and whether that is within the tolerance."""

    id: str
    place: str
    name: str
    when: str
    truth: Truth
    words: w.Words


def tape_words(found: TapeFound, kit: Kit, unit: Unit) -> tuple[Truth, w.Words]:
    """What a reading says: whether the last line is within the tolerance, each gap, the widest gap."""
    reading, tolerance = found.reading, float(kit.tolerance.mm)
    said: w.Words = w.told("{lines} lines: {span} from first to last, planned {planned}. ", lines=reading.lines, span=w.shown(reading.span, unit), planned=w.shown(found.planned, unit))  # fmt: skip
    within = abs(found.out) <= tolerance + VISIBLE
    if abs(found.out) <= VISIBLE:
        said.append(tr("Just as planned."))
    else:
        way = tr("wide") if found.out > 0 else tr("narrow")
        each = f"{abs(found.each) / float(MM_PER[unit]):.{_FINE[unit]}f} {unit}"
        said += w.told(
            "{out} too {way}, {each} in each gap: ",
            out=w.shown(abs(found.out), unit, about=True),
            way=way,
            each=each,
        )
        said.append(
            tr("within your tolerance.")
            if within
            else tr("the drift shows. Mark a line now and then, or correct your foot’s offset.")
        )
    if reading.gap is not None:
        limit = float(kit.batting.limit.mm)
        over = reading.gap > limit + VISIBLE
        said += w.told(
            " Widest gap {gap}, planned {planned_gap}",
            gap=w.shown(reading.gap, unit),
            planned_gap=w.shown(found.planned_gap, unit, about=True),
        )
        said.append(tr("; wider than your batting allows: sew a line through it.") if over else ".")
        within = within and not over
    return ("within" if within else "out"), said
