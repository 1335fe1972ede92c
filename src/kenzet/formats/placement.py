"""Where a drawing lies on paper: the only scale, the only flip and the only tiling.

Glossary: a *window* is the part of a page that shows the drawing; neighbouring windows share an
*overlap*, on which registration crosses stand so that pages can be laid over each other. Millimetres,
y up, until ``to_points`` (PDF, y up) or ``to_svg`` (mm, y down).
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np
import shapely

from kenzet.core.errors import TooMany
from kenzet.core.geom.region import Floats, Point

Paper = Literal["letter", "a4"]
PAPERS: dict[str, tuple[float, float]] = {"letter": (215.9, 279.4), "a4": (210.0, 297.0)}
MARGIN = 10.0
FOOTER = 24.0
OVERLAP = 12.7
BLEED = 6.0
MOST_PAGES = 200
POINTS = 72 / 25.4


@dataclass(frozen=True, slots=True)
class Tile:
    """One page: its place in the map (row 0 at the top) and its window (left, bottom, right, top), mm."""

    number: int
    row: int
    column: int
    window: tuple[float, float, float, float]

    def to_points(self, point: Sequence[float]) -> Point:
        """A drawing's point on this page in PDF points, y up."""
        left, low, _, _ = self.window
        return (point[0] - left + MARGIN) * POINTS, (point[1] - low + MARGIN + FOOTER) * POINTS

    def shows(self, line: Floats) -> list[Floats]:
        """The parts of a polyline (n, 2) inside the window."""
        cut = shapely.clip_by_rect(shapely.linestrings(line), *self.window)
        parts = [p for p in getattr(cut, "geoms", [cut]) if p.geom_type == "LineString" and not p.is_empty]
        return [np.asarray(part.coords) for part in parts]

    def holds(self, point: Sequence[float]) -> bool:
        """Whether a point lies in the window."""
        left, low, right, top = self.window
        return left - 1e-9 <= point[0] <= right + 1e-9 and low - 1e-9 <= point[1] <= top + 1e-9


@dataclass(frozen=True, slots=True)
class Pages:
    """All pages of a sheet: paper size in mm (turned if landscape), the map's size, and the crosses."""

    width: float
    height: float
    rows: int
    columns: int
    tiles: tuple[Tile, ...]
    crosses: tuple[Point, ...]


def tile(bounds: tuple[float, float, float, float], paper: Paper, lines: Sequence[Floats]) -> Pages:
    """The fewest pages of ``paper``, upright or turned, that show every one of ``lines``.

    Pages that show none of them are left out. Raises TooMany above MOST_PAGES.
    """
    tall = PAPERS[paper]
    upright, turned = _grid(bounds, tall), _grid(bounds, tall[::-1])
    chosen = min((upright, turned), key=lambda pages: len(pages.tiles))
    if len(chosen.tiles) > MOST_PAGES:
        raise TooMany(
            f"That would be {len(chosen.tiles)} pages; {MOST_PAGES} at most can be printed.", "zone"
        )
    drawn = shapely.union_all([shapely.linestrings(line) for line in lines]) if lines else None
    used = [t for t in chosen.tiles if drawn is None or shapely.intersects(drawn, shapely.box(*t.window))]
    numbered = tuple(Tile(n, t.row, t.column, t.window) for n, t in enumerate(used, 1))
    return Pages(chosen.width, chosen.height, chosen.rows, chosen.columns, numbered, chosen.crosses)


def _grid(bounds: tuple[float, float, float, float], size: tuple[float, float]) -> Pages:
    left, low, right, top = bounds[0] - BLEED, bounds[1] - BLEED, bounds[2] + BLEED, bounds[3] + BLEED
    wide, high = size[0] - 2 * MARGIN, size[1] - 2 * MARGIN - FOOTER
    columns = max(1, math.ceil((right - left - OVERLAP) / (wide - OVERLAP) - 1e-9))
    rows = max(1, math.ceil((top - low - OVERLAP) / (high - OVERLAP) - 1e-9))
    xs = [left + c * (wide - OVERLAP) for c in range(columns)]
    tops = [top - r * (high - OVERLAP) for r in range(rows)]
    tiles = [
        Tile(r * columns + c + 1, r, c, (xs[c], tops[r] - high, xs[c] + wide, tops[r]))
        for r in range(rows)
        for c in range(columns)
    ]
    beside = [(x + OVERLAP / 2, y - high * k) for x in xs[1:] for y in tops for k in (0.2, 0.8)]
    below = [(x + wide * k, y - OVERLAP / 2) for y in tops[1:] for x in xs for k in (0.2, 0.8)]
    return Pages(size[0], size[1], rows, columns, tuple(tiles), (*beside, *below))


def to_svg(bounds: tuple[float, float, float, float], point: Sequence[float]) -> Point:
    """A drawing's point in an SVG of millimetres whose origin is the upper left of ``bounds`` with bleed."""
    return point[0] - bounds[0] + BLEED, bounds[3] - point[1] + BLEED
