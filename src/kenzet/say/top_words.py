"""What is said of the top as it was measured."""

from __future__ import annotations

from kenzet.core.numbers.measure import Unit
from kenzet.core.top.blocks import DIAGONALS_MAY_DIFFER, Measured
from kenzet.say import words as w


def square_warning(measured: Measured | None, unit: Unit) -> w.Words:
    """Told where the diagonals differ by more than they may."""
    if measured is None or measured.diagonals_differ <= DIAGONALS_MAY_DIFFER:
        return []
    lean = measured.out_of_square
    return [
        "The diagonals differ by ",
        w.shown(measured.diagonals_differ, unit, about=True),
        ": the block is out of square, its top is off by about ",
        w.shown(abs(lean), unit, about=True),
        f" to the {'right' if lean > 0 else 'left'}. Block it square, or count lines from one seam only.",
    ]
