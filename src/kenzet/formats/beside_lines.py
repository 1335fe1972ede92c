"""Places numbers beside their lines, without overlapping lines or other numbers if there is room."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

import numpy as np
import shapely

from kenzet.core.geom.region import Floats, Point
from kenzet.core.tolerances import ROUNDING

_SHARES = (0.1, 0.25, 0.5, 0.75)
_LINE, _NUMBER = 1, 4  # how much it counts to lie on one


def beside_lines(
    lines: Sequence[Floats], sizes: Sequence[Point], clear: float, others: Sequence[Floats] = ()
) -> list[Point]:
    """The center of each number: ``sizes`` has its width and height for each of the ``lines`` ((n, 2) each),
    ``clear`` is the distance it keeps from them; it avoids ``others`` too. Near the line's beginning if
    possible; without room, with as little overlap as possible."""
    drawn = [shapely.linestrings(line) for line in (*lines, *others)]
    tree = shapely.STRtree(drawn)
    taken: list[tuple[float, float, float, float]] = []
    found: list[Point] = []
    for line, (wide, high) in zip(lines, sizes, strict=True):
        spots = list(_spots(line, wide, high, clear))
        best, least = spots[0], np.inf
        for x, y in spots:
            box = (x - wide / 2, y - high / 2, x + wide / 2, y + high / 2)
            weight = _LINE * len(tree.query(shapely.box(*box), predicate="intersects"))
            weight += _NUMBER * sum(_overlap(box, other) for other in taken)
            if weight < least:
                best, least = (x, y), weight
            if not weight:
                break
        x, y = best
        taken.append((x - wide / 2, y - high / 2, x + wide / 2, y + high / 2))
        found.append(best)
    return found


def _spots(line: Floats, wide: float, high: float, clear: float) -> Iterable[Point]:
    """Candidate places on either side, beginning near the line's start."""
    steps = np.hypot(*np.diff(line, axis=0).T)
    along = np.concatenate([[0.0], np.cumsum(steps)])
    whole = float(along[-1])
    near = [at for at in (wide / 2 + clear, 2 * wide, 4 * wide) if at < whole / 2]
    for at in [*near, *(share * whole for share in _SHARES)]:
        k = int(np.clip(np.searchsorted(along, at), 1, len(line) - 1))
        way = (line[k] - line[k - 1]) / max(float(steps[k - 1]), ROUNDING)
        spot = line[k - 1] + way * (at - along[k - 1])
        off = abs(way[1]) * wide / 2 + abs(way[0]) * high / 2 + clear
        for side in (1.0, -1.0):
            yield float(spot[0] - side * off * way[1]), float(spot[1] + side * off * way[0])


def _overlap(one: tuple[float, float, float, float], other: tuple[float, float, float, float]) -> bool:
    return one[0] < other[2] and other[0] < one[2] and one[1] < other[3] and other[1] < one[3]
