"""A second line that must lie under the ruler if it lies correctly."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from fractions import Fraction

from kenzet.core.kit.kit import Kit
from kenzet.core.marks.marking import Marks
from kenzet.core.placing.neighbors import Neighbors
from kenzet.core.ruler.line_references import SHORT, References
from kenzet.core.ruler.offset_sums import THAT_LINE, OffsetSum, check_number, edge_of

_LOOKED_AT = 7  # lines farther back than the reference


def farther_back(
    references: References, marks: Marks, beside: Neighbors, way: int, distance: Fraction, line: int
) -> Iterable[tuple[int, Fraction]]:
    """The lines from which ``line``, the reference at ``distance``, and those before it are placed, back to one that
    is marked, if they progress in the same direction (``way``) and run beside the line that is placed: their
    numbers, and their exact distances from it, mm."""
    for _ in range(_LOOKED_AT):
        on = references[line]
        anchored = marks.place(line) or line in references.sides
        if anchored or on.kind != "line" or on.line is None or on.way != way:
            return
        line, distance = on.line, distance + on.distance
        if beside.beside_at(line, float(distance), float(THAT_LINE)) >= SHORT:
            yield line, distance


def check_on(
    kit: Kit, total: OffsetSum, farther: Sequence[tuple[int, Fraction]]
) -> tuple[int, Fraction] | None:
    """The farthest of the lines ``farther`` back that lies under an etched line, and that etched line; None if there
    is none."""
    edge = edge_of(kit, total)
    if edge is None or total.etched is None:
        return None
    found = check_number(total, edge, [away for _, away in farther])
    return None if found is None else (farther[found[0]][0], found[1])
