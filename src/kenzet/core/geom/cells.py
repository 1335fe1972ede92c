"""Cells of a fill: the areas between its lines, and every other one of them (L25).

Glossary: cells that share part of a side are *neighbors*. *Every other* cell means a two-coloring: neighbors have
different colors. Lines that cross the whole region, or close on themselves, always allow it; where a line stops
inside the region, some neighbors get the same color.
"""

from __future__ import annotations

from collections import deque
from collections.abc import Sequence

import numpy as np
import shapely
from shapely.geometry import MultiPolygon, Polygon

from kenzet.core.geom.region import Floats, Region
from kenzet.core.tolerances import NODE_GRID

_SIDE = 0.5  # mm: cells that share less only touch


def cells_of(region: Region, lines: Sequence[Floats]) -> list[Polygon]:
    """The areas into which ``lines`` (each (n, 2)) divide the region, in reading order."""
    drawn = [shapely.linestrings(line) for line in lines if len(line) > 1]
    noded = shapely.union_all([region.area.boundary, *drawn], grid_size=NODE_GRID)
    cells = np.array(shapely.polygonize([noded]).geoms)
    inside = shapely.contains_xy(region.area, *shapely.get_coordinates(shapely.point_on_surface(cells)).T)
    return sorted(
        cells[inside].tolist(), key=lambda cell: (-round(cell.bounds[3], 2), round(cell.bounds[0], 2))
    )


def every_other(cells: Sequence[Polygon]) -> list[int]:
    """0 or 1 for every cell, the first 0; neighbors differ wherever possible. O(n log n)."""
    sorts = [-1] * len(cells)
    beside = _neighbours(cells)
    for first in range(len(cells)):
        if sorts[first] >= 0:
            continue
        sorts[first] = 0
        waiting = deque([first])
        while waiting:
            here = waiting.popleft()
            for other in beside[here]:
                if sorts[other] < 0:
                    sorts[other] = 1 - sorts[here]
                    waiting.append(other)
    return sorts


def alternate(region: Region, lines: Sequence[Floats], which: int) -> MultiPolygon:
    """The union of every other cell: those for which ``every_other`` is ``which``."""
    cells = cells_of(region, lines)
    return MultiPolygon([cell for cell, sort in zip(cells, every_other(cells), strict=True) if sort == which])


def _neighbours(cells: Sequence[Polygon]) -> list[list[int]]:
    found: list[list[int]] = [[] for _ in cells]
    if not cells:
        return found
    tree = shapely.STRtree(list(cells))
    one, other = tree.query(list(cells), predicate="intersects")
    ahead = one < other
    one, other = one[ahead], other[ahead]
    array = np.array(cells)
    shared = shapely.length(shapely.intersection(array[one], array[other]))
    for a, b in zip(one[shared > _SIDE].tolist(), other[shared > _SIDE].tolist(), strict=True):
        found[a].append(b)
        found[b].append(a)
    return found
