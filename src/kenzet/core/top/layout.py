"""From the document to the top: every part in its own coordinates and where it is placed.

Glossary: a *placing* is the rigid motion (a, b, c, d, e, f) that takes a part's point (x, y) to the
quilt's (a·x + c·y + e, b·x + d·y + f); mm, y up, the quilt's lower left corner at the origin.
"""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction

import shapely
from shapely.geometry import MultiPolygon, Polygon, box

from kenzet.core.errors import Unknown
from kenzet.core.geom.region import Point, Region
from kenzet.core.top.document import BORDER, SASHING, Block, Quilt, Zone

Placing = tuple[float, float, float, float, float, float]
IDENTITY: Placing = (1.0, 0.0, 0.0, 1.0, 0.0, 0.0)
_TURNS = ((1, 0, 0, 1), (0, 1, -1, 0), (-1, 0, 0, -1), (0, -1, 1, 0))


@dataclass(frozen=True, slots=True)
class LaidPatch:
    """A patch's area in its part's coordinates, and its fabric's key."""

    area: MultiPolygon
    fabric: str


@dataclass(frozen=True, slots=True)
class Part:
    """A block, the sashing or the border: its name, size in mm, patches and placings."""

    name: str
    width: float
    height: float
    patches: dict[str, LaidPatch]
    placings: tuple[Placing, ...]

    @property
    def centre(self) -> Point:
        """In the part's own coordinates."""
        return self.width / 2, self.height / 2


@dataclass(frozen=True, slots=True)
class Top:
    """The whole top: its size in mm and its parts."""

    width: float
    height: float
    parts: dict[str, Part]


def lay_out(quilt: Quilt) -> Top:
    """Every part of ``quilt`` where it lies."""
    layout = quilt.layout
    rows, columns = len(layout.rows), len(layout.rows[0])
    sash = layout.sashing.width.mm if layout.sashing else Fraction(0)
    border = layout.border.width.mm if layout.border else Fraction(0)
    first = layout.rows[0][0]
    size = quilt.blocks[first.block]
    across, up = (size.width.mm, size.height.mm)[:: -1 if first.turns % 2 else 1]
    inner = (columns * across + (columns + 1) * sash, rows * up + (rows + 1) * sash)
    width, height = inner[0] + 2 * border, inner[1] + 2 * border
    placings: dict[str, list[Placing]] = {}
    cells = []
    for r, row in enumerate(layout.rows):
        for c, cell in enumerate(row):
            x = border + sash + c * (across + sash)
            y = border + sash + (rows - 1 - r) * (up + sash)
            cells.append(box(float(x), float(y), float(x + across), float(y + up)))
            block = quilt.blocks[cell.block]
            placings.setdefault(cell.block, []).append(_placing(block, cell.turns, cell.mirrored, x, y))
    parts = {key: _block_part(quilt.blocks[key], tuple(found)) for key, found in placings.items()}
    whole = box(0, 0, float(width), float(height))
    inside = box(float(border), float(border), float(width - border), float(height - border))
    if layout.sashing:
        strips = LaidPatch(_multi(inside.difference(MultiPolygon(cells))), layout.sashing.fabric)
        parts[SASHING] = Part("Sashing", float(width), float(height), {"strips": strips}, (IDENTITY,))
    if layout.border:
        frame = LaidPatch(_multi(whole.difference(inside)), layout.border.fabric)
        parts[BORDER] = Part("Border", float(width), float(height), {"frame": frame}, (IDENTITY,))
    return Top(float(width), float(height), parts)


def _placing(block: Block, turns: int, mirrored: bool, x: Fraction, y: Fraction) -> Placing:
    """Turn by quarter turns, mirror left to right, then bring the lower left corner to (x, y)."""
    a, b, c, d = _TURNS[turns]
    if mirrored:
        a, c = -a, -c
    w, h, none = block.width.mm, block.height.mm, Fraction(0)
    corners = [(none, none), (w, none), (none, h), (w, h)]
    left = min(px * a + py * c for px, py in corners)
    low = min(px * b + py * d for px, py in corners)
    return (float(a), float(b), float(c), float(d), float(x - left), float(y - low))


def _block_part(block: Block, placings: tuple[Placing, ...]) -> Part:
    ux, uy = block.width.mm / block.grid[0], block.height.mm / block.grid[1]

    def scaled(ring: tuple[tuple[float, float], ...]) -> list[Point]:
        return [(float(Fraction(x) * ux), float(Fraction(y) * uy)) for x, y in ring]

    patches = {}
    for key, patch in block.patches.items():
        area = Polygon(scaled(patch.outline), [scaled(hole) for hole in patch.holes])
        patches[key] = LaidPatch(_multi(area if area.is_valid else area.buffer(0)), patch.fabric)
    return Part(block.name, float(block.width.mm), float(block.height.mm), patches, placings)


def _multi(area: shapely.Geometry) -> MultiPolygon:
    parts = getattr(area, "geoms", [area])
    return MultiPolygon([p for p in parts if isinstance(p, Polygon) and not p.is_empty])


def zone_region(top: Top, zone: Zone) -> Region:
    """The area of ``zone`` in its part's coordinates: its patches as one, seams between them gone.

    Raises Unknown where the part is not laid anywhere.
    """
    if zone.part not in top.parts:
        raise Unknown(f"No {zone.part} is laid in this top.", "zone")
    patches = top.parts[zone.part].patches
    return Region(shapely.union_all([patches[key].area for key in zone.patches]))


def invert(placing: Placing, point: Point) -> Point:
    """The quilt's ``point`` in the coordinates of a part laid by ``placing``."""
    a, b, c, d, e, f = placing
    x, y = point[0] - e, point[1] - f
    return a * x + b * y, c * x + d * y  # the motion is rigid: its inverse is its transpose
