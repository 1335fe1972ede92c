"""The cells of grids: which are whole, which the zone's edge cuts, and where the first whole one is.

Some quilters begin at an edge or a corner, others with the first whole cell, leaving cut cells to the end. A cell
is whole if lines bound it on all sides, or if it is as large as such a cell.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

import numpy as np
import shapely
from numpy.typing import NDArray

from kenzet.core.geom.region import Point
from kenzet.core.plan.drawing import Drawing
from kenzet.core.tolerances import SAME_CELL, SNAP

_SPECK = 1.0  # mm²: no cell


@dataclass(frozen=True, slots=True)
class Cells:
    """The numbers of ``whole`` and ``cut`` cells of all grids at a place. ``first`` is the whole cell nearest to a
    corner, ``corner`` the index of that corner."""

    whole: int
    cut: int
    first: shapely.Polygon
    corner: int


def cells_of(drawings: Iterable[Drawing], corners: Sequence[Point]) -> Cells | None:
    """None if no cell is whole. Of cells at equal distances, the one at the earlier of the ``corners`` is the
    first."""
    whole: list[shapely.Polygon] = []
    cut = 0
    for drawing in drawings:
        if drawing.has_sets and not drawing.layer:
            mine, others = _sorted(drawing)
            whole += mine
            cut += others
    if not whole:
        return None
    away = np.array([shapely.distance(whole, shapely.Point(corner)) for corner in corners]).round(1)
    corner, first = np.unravel_index(int(away.argmin()), away.shape)
    return Cells(len(whole), cut, whole[int(first)], int(corner))


def _sorted(drawing: Drawing) -> tuple[list[shapely.Polygon], int]:
    """The whole cells of a grid, and the number of cut ones."""
    outline = drawing.region.area.boundary
    lines = shapely.multilinestrings([shapely.linestrings(line) for line in drawing.polylines])
    noded = shapely.union(outline, lines, grid_size=SNAP)
    cells = [cell for cell in shapely.polygonize([noded]).geoms if cell.area > _SPECK]
    inside = shapely.covers(shapely.buffer(drawing.region.area, 2 * SNAP), cells)
    cells = [cell for cell, within in zip(cells, inside, strict=True) if within]
    bounded = ~_on(outline, cells)
    areas = shapely.area(cells)
    known = np.unique(areas[bounded].round(2))
    alike = (
        (abs(areas[:, None] - known[None]) < SAME_CELL * known[None]).any(axis=1) if len(known) else bounded
    )
    whole = bounded | alike
    return [cell for cell, is_whole in zip(cells, whole, strict=True) if is_whole], int((~whole).sum())


def _on(outline: shapely.Geometry, cells: Sequence[shapely.Polygon]) -> NDArray[np.bool_]:
    """Whether each cell has a side on the outline."""
    points, of = shapely.get_coordinates([cell.exterior for cell in cells], return_index=True)
    side = of[1:] == of[:-1]
    shapely.prepare(outline)
    middles = shapely.points((points[1:] + points[:-1])[side] / 2)
    found = np.zeros(len(cells), dtype=bool)
    found[of[1:][side][shapely.dwithin(outline, middles, 2 * SNAP)]] = True
    return found
