"""How firm the quilting makes each zone, and a map of it (F13): mm of stitching for each mm² of quilt.

The words depend on the use: flat and stiff suits a garment and is too much on a bed. Lines 1/4 in apart (4 in per
sq in) are flat and stiff, two or three times that is soft, several inches are the softest. The limits between the
words are our choice; a firm batting reaches each of them with fewer lines.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from kenzet.core.balance.raster import pixels
from kenzet.core.geom.region import Floats
from kenzet.core.kit.things.supplies import Batting
from kenzet.core.numbers.measure import INCH
from kenzet.core.plan.planner import plan_quilt
from kenzet.core.plan.zone_plan import ZonePlan
from kenzet.core.relief.cloth import Raster, along, sewn_lines
from kenzet.core.tolerances import DIVISOR
from kenzet.core.top.document import Use
from kenzet.core.top.quilt_layout import QuiltLayout

Hand = Literal["open", "loose", "soft", "firm", "stiff"]
HANDS: tuple[Hand, ...] = ("open", "loose", "soft", "firm", "stiff")
OPEN = 0.02 / INCH
"""mm for each mm²: below this a zone counts as not quilted."""
# in on a square inch: from where on it is soft, firm, stiff
_BED, _LAP, _WORN, _WALL = (0.6, 1.6, 3.0), (0.6, 2.0, 3.5), (0.8, 2.5, 5.0), (1.0, 3.0, 6.0)
_FROM: Mapping[Use, tuple[float, float, float]] = {
    "bed": _BED, "baby": _BED, "lap": _LAP, "runner": _WORN, "practice piece": _WORN, "garment or bag": _WORN, "wall": _WALL,
}  # fmt: skip
WANTS_SOFT: frozenset[Use] = frozenset(("bed", "baby", "lap"))
WANTS_EVEN: frozenset[Use] = frozenset(("garment or bag",))
SCALE = 2 * INCH
"""mm: the map averages over about this distance."""
_CELL = INCH / 4
_MOST_CELLS = 250_000
_EDGE = 1.5  # times the scale: what lies farther away counts for nothing


def limits(use: Use, batting: Batting) -> tuple[float, float, float]:
    """The densities (mm for each mm²) from which a zone is soft, firm and stiff for that use, on that batting."""
    soft, firm, stiff = _FROM[use]
    usual = INCH * batting.firmness / 100
    return soft / usual, firm / usual, stiff / usual


def hand(density: float, use: Use, batting: Batting) -> Hand:
    """How a density (mm for each mm²) feels for that use, on that batting.

    >>> [hand(inches / INCH, "bed", Batting()) for inches in (0, 0.5, 1, 2, 4)]
    ['open', 'loose', 'soft', 'firm', 'stiff']
    >>> hand(4 / INCH, "wall", Batting()), hand(4 / INCH, "wall", Batting(firmness=150))
    ('firm', 'stiff')
    """
    if density < OPEN:
        return "open"
    return HANDS[1 + sum(density >= limit for limit in limits(use, batting))]


def cloth_zones(laid: QuiltLayout) -> tuple[str, ...]:
    """The zones that hold cloth and have at least one place; zones that only lay lines over others are left out."""
    zones = laid.quilt.zones.items()
    return tuple(key for key, zone in zones if laid.is_laid(zone) and not zone.holds_no_cloth)


@dataclass(frozen=True, slots=True)
class ZoneDensity:
    """A zone's density (mm for each mm²; 0 if it is not quilted), its area in mm², and how it feels."""

    key: str
    density: float
    area: float
    hand: Hand


def zone_densities(laid: QuiltLayout, plans: Mapping[str, ZonePlan]) -> list[ZoneDensity]:
    """The density of each zone over all its places, the densest first."""
    found = []
    for key in cloth_zones(laid):
        shapes = laid.shapes(laid.zone(key))
        area = sum(float(shape.region.area.area) * len(shape.places) for shape in shapes)
        sewn = plans[key].stitched_in_quilt if key in plans else 0.0
        density = sewn / max(area, DIVISOR)
        found.append(ZoneDensity(key, density, area, hand(density, laid.quilt.use, laid.quilt.kit.batting)))
    return sorted(found, key=lambda one: -one.density)


@dataclass(frozen=True, slots=True)
class Spread:
    """How even a quilt is: the mean density (mm for each mm²) and its standard deviation as a share of the mean,
    both weighted by area."""

    mean: float
    share: float


def spread(found: list[ZoneDensity]) -> Spread:
    """J4, for the area that lies in zones.

    >>> spread([ZoneDensity("a", 3.0, 1.0, "firm"), ZoneDensity("b", 1.0, 1.0, "soft")])
    Spread(mean=2.0, share=0.5)
    """
    area = sum(one.area for one in found)
    if area <= 0:
        return Spread(0.0, 0.0)
    mean = sum(one.density * one.area for one in found) / area
    scatter = sum((one.density - mean) ** 2 * one.area for one in found) / area
    return Spread(mean, scatter**0.5 / max(mean, DIVISOR))


@dataclass(frozen=True)
class DensityMap:
    """The density (mm for each mm²) around every cell of ``raster``, (rows, columns); row 0 is the quilt's upper
    edge."""

    raster: Raster
    values: NDArray[np.float64]


def density_map(laid: QuiltLayout) -> DensityMap:
    """The mean density around each cell, weighted by a bell curve of width ``SCALE``; cells outside the quilt are
    ignored."""
    width, height = laid.top.width, laid.top.height
    wide = max(_CELL, (width * height / _MOST_CELLS) ** 0.5)
    raster = Raster(max(round(height / wide), 1), max(round(width / wide), 1), wide)
    sewn = np.zeros((raster.rows, raster.columns))
    for line in sewn_lines(laid, textures=False):
        middles, far = _steps(line, wide / 4)
        np.add.at(sewn, raster.cells(middles), far)
    sewn /= wide * wide
    _add_textures(sewn, laid, raster)
    down, across = (_bell(size, wide) for size in sewn.shape)
    return DensityMap(raster, down @ sewn @ across.T)


def _steps(line: Floats, step: float) -> tuple[Floats, Floats]:
    """A polyline cut into short pieces: their midpoints, and the length of each in mm."""
    points = along(line, step)
    pieces = np.diff(points, axis=0)
    return (points[1:] + points[:-1]) / 2, np.hypot(pieces[:, 0], pieces[:, 1])


def _add_textures(sewn: NDArray[np.float64], laid: QuiltLayout, raster: Raster) -> None:
    """Adds freehand fills with the density that they claim, everywhere they lie."""
    for plan in plan_quilt(laid).values():
        for drawing in plan.drawings:
            if drawing.fill.claimed_density is None or not drawing.fill.sewn:
                continue
            for rows, columns, inside in pixels(raster, drawing.shape, drawing.places):
                sewn[rows, columns][inside] += drawing.fill.claimed_density


def _bell(size: int, wide: float) -> NDArray[np.float64]:
    """The weight of every cell of a row for each other one: (size, size); every row sums to 1."""
    away = (np.arange(size)[:, None] - np.arange(size)) * wide
    weight = np.where(np.abs(away) <= _EDGE * SCALE, np.exp(-2 * (away / SCALE) ** 2), 0.0)
    return np.asarray(weight / weight.sum(axis=1, keepdims=True))
