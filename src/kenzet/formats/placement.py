"""The place of a drawing on paper: the only scale, the only flip and the only tiling.

Glossary: a *window* is the part of a page that shows the drawing; neighboring windows share an *overlap* with
registration crosses, so that pages can be aligned on each other. Millimeters, y up, until ``to_points`` (PDF, y
up) or ``to_svg`` (mm, y down).
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np
import shapely

from kenzet.core.errors import BadValue, TooMany
from kenzet.core.geom.region import Floats, Point
from kenzet.core.marks.sheet import MarkSheet
from kenzet.core.numbers.measure import INCH, POINT, YARD
from kenzet.core.tolerances import ROUNDING
from kenzet.texts import tr

Paper = Literal["letter", "a4", "tabloid", "a3", "roll"]
PAPERS: dict[str, tuple[float, float]] = {
    "letter": (215.9, 279.4), "a4": (210.0, 297.0), "tabloid": (279.4, 431.8), "a3": (297.0, 420.0), "roll": (609.6, 0.0),
}  # fmt: skip
"""Width and height, mm; a roll is as long as necessary."""
LONGEST = 5000.0
Fit = tuple[float, float]
"""The factors across and up by which a drawing is stretched to correct a printer."""
TRUE: Fit = (1.0, 1.0)
MARGIN = 10.0
FOOTER = 24.0
OVERLAP = INCH / 2
BLEED = 6.0
MOST_PAGES = 200
POINTS = 1 / POINT


@dataclass(frozen=True, slots=True)
class Tile:
    """One page: its place in the page map (row 0 at the top) and its window (left, bottom, right, top), mm."""

    number: int
    row: int
    column: int
    window: tuple[float, float, float, float]
    fit: Fit = TRUE

    def to_points(self, point: Sequence[float]) -> Point:
        """A point of the drawing on this page in PDF points, y up."""
        left, low, _, _ = self.window
        x, y = (point[0] - left) * self.fit[0], (point[1] - low) * self.fit[1]
        return (x + MARGIN) * POINTS, (y + MARGIN + FOOTER) * POINTS

    def shows(self, line: Floats) -> list[Floats]:
        """The parts of a polyline (n, 2) inside the window."""
        cut = shapely.clip_by_rect(shapely.linestrings(line), *self.window)
        parts = [p for p in getattr(cut, "geoms", [cut]) if p.geom_type == "LineString" and not p.is_empty]
        return [np.asarray(part.coords) for part in parts]

    def holds(self, point: Sequence[float]) -> bool:
        """Whether a point lies in the window."""
        left, low, right, top = self.window
        return (
            left - ROUNDING <= point[0] <= right + ROUNDING and low - ROUNDING <= point[1] <= top + ROUNDING
        )


@dataclass(frozen=True, slots=True)
class Pages:
    """All pages of a sheet: paper size in mm (swapped if landscape), the size of the page map, and the crosses."""

    width: float
    height: float
    rows: int
    columns: int
    tiles: tuple[Tile, ...]
    crosses: tuple[Point, ...]
    fit: Fit = TRUE


def room_on(paper: Paper) -> float:
    """The greatest length that fits on one page, mm; a yard on a roll."""
    long = max(PAPERS[paper]) if paper != "roll" else YARD + 2 * MARGIN + FOOTER + 2 * BLEED
    return long - 2 * MARGIN - FOOTER - 2 * BLEED


def tile(
    bounds: tuple[float, float, float, float], paper: Paper, lines: Sequence[Floats], fit: Fit = TRUE
) -> Pages:
    """The fewest pages of ``paper``, upright or landscape, that show all of ``lines``.

    Empty pages are left out. Raises TooMany above MOST_PAGES.
    """
    if paper == "roll":
        high = (bounds[3] - bounds[1] + 2 * BLEED) * fit[1] + 2 * MARGIN + FOOTER + 1.0
        chosen = _grid(bounds, (PAPERS[paper][0], min(high, LONGEST)), fit)
    else:
        tall = PAPERS[paper]
        upright, turned = _grid(bounds, tall, fit), _grid(bounds, tall[::-1], fit)
        chosen = min((upright, turned), key=lambda pages: len(pages.tiles))
    if len(chosen.tiles) > MOST_PAGES:
        raise TooMany(
            tr(
                "That would be {tiles} pages; {most_pages} at most can be printed. Take wider paper, or measure the ticks off along the edges instead.",
                tiles=len(chosen.tiles),
                most_pages=MOST_PAGES,
            ),
            "zone",
        )
    used = _with_something_on_them(chosen.tiles, lines) if lines else chosen.tiles
    numbered = tuple(replace(t, number=n) for n, t in enumerate(used, 1))
    return replace(chosen, tiles=numbered)


def _with_something_on_them(tiles: Sequence[Tile], lines: Sequence[Floats]) -> list[Tile]:
    """The pages whose windows meet one of ``lines``. A line of no length is a dot; a union would drop it."""
    each = np.array([shapely.linestrings(line) for line in lines])
    return [tile for tile in tiles if shapely.intersects(each, shapely.box(*tile.window)).any()]


def pages_of(sheet: MarkSheet, paper: Paper, fit: Fit = TRUE) -> Pages:
    """The pages of ``sheet`` on ``paper``, stretched by ``fit``, without pages that have nothing to mark. Raises
    BadValue if there is nothing to mark."""
    wanted = sheet.to_mark
    if not wanted:
        raise BadValue(
            tr("There is nothing to mark here, so there is no sheet. Choose above what to mark."), "method"
        )
    return tile(sheet.bounds, paper, wanted, fit)


def _grid(bounds: tuple[float, float, float, float], size: tuple[float, float], fit: Fit) -> Pages:
    left, low, right, top = bounds[0] - BLEED, bounds[1] - BLEED, bounds[2] + BLEED, bounds[3] + BLEED
    wide, high = (size[0] - 2 * MARGIN) / fit[0], (size[1] - 2 * MARGIN - FOOTER) / fit[1]
    columns = max(1, math.ceil((right - left - OVERLAP) / (wide - OVERLAP) - ROUNDING))
    rows = max(1, math.ceil((top - low - OVERLAP) / (high - OVERLAP) - ROUNDING))
    xs = [left + c * (wide - OVERLAP) for c in range(columns)]
    tops = [top - r * (high - OVERLAP) for r in range(rows)]
    tiles = [
        Tile(r * columns + c + 1, r, c, (xs[c], tops[r] - high, xs[c] + wide, tops[r]), fit)
        for r in range(rows)
        for c in range(columns)
    ]
    beside = [(x + OVERLAP / 2, y - high * k) for x in xs[1:] for y in tops for k in (0.2, 0.8)]
    below = [(x + wide * k, y - OVERLAP / 2) for y in tops[1:] for x in xs for k in (0.2, 0.8)]
    return Pages(size[0], size[1], rows, columns, tuple(tiles), (*beside, *below), fit)


def to_svg(bounds: tuple[float, float, float, float], point: Sequence[float]) -> Point:
    """A point of the drawing in an SVG in millimeters, with its origin at the upper left of ``bounds`` including
    the bleed."""
    return point[0] - bounds[0] + BLEED, bounds[3] - point[1] + BLEED
