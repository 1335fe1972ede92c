"""From the document to the top: every part in its own coordinates, and where it is placed.

Glossary: a *placing* is the rigid motion (a, b, c, d, e, f) that maps a part's point (x, y) to the quilt's (a·x +
c·y + e, b·x + d·y + f); mm, y up, the quilt's lower left corner at the origin. A *part* is a block at one size,
the sashing, a border, a kind of setting triangle, or the whole top. A block used at several sizes is several parts
*of* one block.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property
from typing import TYPE_CHECKING

import numpy as np
import shapely
from shapely.geometry import MultiPolygon, Polygon

from kenzet.core.geom.affine import IDENTITY, Placing, place_all
from kenzet.core.geom.arcs import Soft, drawn, key
from kenzet.core.geom.region import Point
from kenzet.core.top.blocks import Block, Shape
from kenzet.core.top.spread import Number, Seat, Spread, Triangle
from kenzet.core.top.zone import BORDER, SASHING, SIDE, TOP
from kenzet.texts import tr

if TYPE_CHECKING:
    from kenzet.core.top.document import Quilt

_TURNS = ((1, 0, 0, 1), (0, 1, -1, 0), (-1, 0, 0, -1), (0, -1, 1, 0))
_ALIKE = 0.05  # mm² and mm: patches that differ by less are alike


@dataclass(frozen=True, eq=False)
class Part:
    """Something placed one or more times: its name, size in mm, patches, and placings by place.

    ``of`` is the part key that zones use; ``soft`` has the inner points of drawn arcs.
    """

    key: str
    of: str
    name: str
    width: float
    height: float
    patches: dict[str, TopPatch]
    places: dict[str, Placing]
    soft: Soft = frozenset()

    @property
    def centre(self) -> Point:
        """The center, in the part's own coordinates."""
        return self.width / 2, self.height / 2

    @cached_property
    def applique(self) -> MultiPolygon:
        """The union of all appliqués."""
        return multi(shapely.union_all([p.area for p in self.patches.values() if p.applique]))


@dataclass(frozen=True, eq=False)
class Top:
    """The whole top: its size in mm and its parts."""

    width: float
    height: float
    parts: dict[str, Part]

    @cached_property
    def kin(self) -> dict[str, tuple[Part, ...]]:
        """The parts by the key that zones use."""
        found: dict[str, tuple[Part, ...]] = {}
        for part in self.parts.values():
            found[part.of] = (*found.get(part.of, ()), part)
        return found

    @cached_property
    def at(self) -> dict[str, Part]:
        """The part at each place."""
        return {place: part for part in self.parts.values() for place in part.places}

    @cached_property
    def whole(self) -> Part:
        """The top as one part: every patch of every place, named place/patch. Computed on demand."""
        patches: dict[str, TopPatch] = {}
        soft: set[Point] = set()
        for part in self.parts.values():
            areas = np.array([patch.area for patch in part.patches.values()])
            curved = np.array(sorted(part.soft)).reshape(-1, 2)
            for place, placing in part.places.items():
                moved = shapely.transform(areas, lambda xy, by=placing: place_all(by, xy))
                for (name, patch), area in zip(part.patches.items(), moved, strict=True):
                    patches[f"{place}/{name}"] = TopPatch(area, patch.fabric, patch.applique)
                soft.update(key(point) for point in place_all(placing, curved).tolist())
        return Part(
            TOP, TOP, tr("Whole top"), self.width, self.height, patches, {TOP: IDENTITY}, frozenset(soft)
        )


def lay_out(quilt: Quilt) -> Top:
    """Every part of ``quilt`` with its places."""
    laid = quilt.spread
    parts = _blocks(laid, quilt.blocks)
    for kind, triangles in laid.triangles.items():
        if triangles:
            parts[kind] = _triangles(kind, triangles, laid.leg, quilt.triangle_fabric)
    for name, strips in laid.strips.items():
        patches = {
            patch: TopPatch(MultiPolygon([Polygon(strip.ring)]), strip.fabric)
            for patch, strip in strips.items()
        }
        parts[name] = Part(
            name, name, _strip_name(name, len(quilt.borders)), float(laid.width), float(laid.height),
            patches, {name: IDENTITY},
        )  # fmt: skip
    return Top(float(laid.width), float(laid.height), parts)


def _strip_name(part: str, borders: int) -> str:
    if part == SASHING:
        return tr("Sashing")
    return (
        tr("Border") if borders == 1 else tr("Border {removeprefix}", removeprefix=part.removeprefix(BORDER))
    )


def _blocks(laid: Spread, blocks: Mapping[str, Block]) -> dict[str, Part]:
    seats: dict[tuple[str, Number, Number], list[Seat]] = {}
    for seat in laid.seats:
        across, up = seat.size
        size = (up, across) if seat.cell.turns % 2 else (across, up)
        seats.setdefault((seat.cell.block, *size), []).append(seat)
    parts: dict[str, Part] = {}
    for (name, width, height), there in sorted(
        seats.items(), key=lambda item: (item[0][1:] != blocks[item[0][0]].size, len(item[1]) * -1)
    ):
        of_this = sum(part.of == name for part in parts.values())
        own = name if not of_this else f"{name}.{of_this + 1}"
        places = {seat.place: _seated(seat) for seat in there}
        parts[own] = block_part(own, name, blocks[name], float(width), float(height), places)
    return parts


def block_part(
    own: str, of: str, block: Block, width: float, height: float, places: dict[str, Placing]
) -> Part:
    """A block at one size, without what is below its appliqués."""
    patches: dict[str, TopPatch] = {}
    soft: set[Point] = set()
    above: list[Polygon] = []
    for name, shape in reversed(block.shapes(width, height).items()):
        area = _area(shape, soft)
        seen = area.difference(shapely.union_all(above)) if above else area
        if shape.applique:
            above.append(area)
        patches[name] = TopPatch(multi(seen), shape.fabric, shape.applique)
    ordered = {name: patches[name] for name in reversed(patches)}
    return Part(own, of, block.name, width, height, ordered, places, frozenset(soft))


def _area(shape: Shape, soft: set[Point]) -> Polygon:
    rings = []
    for outline in (shape.outline, *shape.holes):
        ring, curved = drawn(outline)
        rings.append(ring)
        soft.update(key(point) for point in curved)
    area = Polygon(rings[0], rings[1:])
    return area if area.is_valid else area.buffer(0)


def _seated(seat: Seat) -> Placing:
    """Quarter turns, mirror left to right, tilt to stand on point, then a shift of the center to its seat."""
    a, b, c, d = _TURNS[seat.cell.turns]
    if seat.cell.mirrored:
        a, c = -a, -c
    across, up = seat.size
    width, height = (up, across) if seat.cell.turns % 2 else (across, up)
    if seat.tilted:  # an eighth of a turn to the right: the upper left corner comes to the top
        s = math.sqrt(0.5)
        a, b, c, d = s * (a + b), s * (b - a), s * (c + d), s * (d - c)  # type: ignore[assignment]
    x, y = seat.centre
    return (
        float(a), float(b), float(c), float(d),
        float(x - (a * width + c * height) / 2), float(y - (b * width + d * height) / 2),
    )  # fmt: skip


def _triangles(kind: str, found: list[Triangle], leg: float, fabric: str) -> Part:
    """Side triangles rest on their long side, corner triangles on a leg with the right angle at the origin."""
    short = leg / math.sqrt(2)
    if kind == SIDE:
        name, width, ring = tr("Setting triangles"), 2 * short, [(0.0, 0.0), (2 * short, 0.0), (short, short)]
    else:
        name, width, ring = tr("Corner triangles"), short, [(0.0, 0.0), (short, 0.0), (0.0, short)]
    origin = short if kind == SIDE else 0.0
    places = {}
    for triangle in found:
        a, b, c, d = _TURNS[triangle.turns]
        x, y = triangle.at
        places[triangle.place] = (float(a), float(b), float(c), float(d), x - a * origin, y - b * origin)
    patch = TopPatch(MultiPolygon([Polygon(ring)]), fabric)
    return Part(kind, kind, name, width, short, {"triangle": patch}, places)


def multi(area: shapely.Geometry) -> MultiPolygon:
    """The polygons of any geometry as one MultiPolygon."""
    parts = getattr(area, "geoms", [area])
    return MultiPolygon([p for p in parts if isinstance(p, Polygon) and not p.is_empty])


@dataclass(frozen=True, slots=True)
class TopPatch:
    """A patch's area in its part's coordinates, without what is appliquéd over it, and its fabric's key."""

    area: MultiPolygon
    fabric: str
    applique: bool = False

    def alike(self, other: TopPatch) -> bool:
        """Whether both have the same fabric and the same shape, judged by area and length of outline."""
        return (
            self.fabric == other.fabric
            and abs(self.area.area - other.area.area) < _ALIKE
            and abs(self.area.length - other.area.length) < _ALIKE
        )
