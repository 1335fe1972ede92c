"""Words about the top as measured."""

from __future__ import annotations

from kenzet.core.numbers.measure import Unit
from kenzet.core.top.blocks import DIAGONALS_MAY_DIFFER, Measured
from kenzet.say import words as w
from kenzet.texts import tr


def square_warning(measured: Measured | None, unit: Unit) -> w.Words:
    """A warning if the diagonals differ by too much."""
    if measured is None or measured.diagonals_differ <= DIAGONALS_MAY_DIFFER:
        return []
    lean = measured.out_of_square
    return w.told(
        "The diagonals differ by {diagonals_differ}: the block is out of square, its top is off by about {lean} to the {which}. Block it square, or count lines from one seam only.",
        diagonals_differ=w.shown(measured.diagonals_differ, unit, about=True),
        lean=w.shown(abs(lean), unit, about=True),
        which=tr("right") if lean > 0 else tr("left"),
    )
