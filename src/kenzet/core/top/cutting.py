"""From patches to the area of a zone: the union of its patches, less appliqué with its stand-off, divided by cuts.

Cost: one union, one difference and one noding for each zone and part; results are cached by ``QuiltLayout``.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

import shapely
from shapely.geometry import LineString, MultiPolygon, Point, Polygon
from shapely.geometry.base import BaseGeometry

from kenzet.core.errors import BadValue
from kenzet.core.geom.arcs import Soft, key, soft_of
from kenzet.core.geom.region import Region
from kenzet.core.numbers.measure import in_words
from kenzet.core.tolerances import CUT_BEYOND, LEAST_PIECE_AREA, SAME_PLACE
from kenzet.core.top.layout import Part, multi
from kenzet.core.top.zone import Cross, Cut, Diagonals, InsetOutline, InsetSquare, Line, Spot, Zone
from kenzet.texts import tr

_QUARTER_STEPS = 32


@dataclass(frozen=True, slots=True)
class Cloth:
    """An area in a part's coordinates, with the inner points of its curves."""

    area: MultiPolygon
    soft: Soft


def whole_cloth(part: Part, zone: Zone) -> Cloth:
    """The union of the patches of ``zone`` in ``part``, before any cut; may be empty."""
    patches = [part.patches[name] for name in zone.patches if name in part.patches]
    area = multi(shapely.union_all([patch.area for patch in patches]))
    soft = part.soft
    if zone.stand_off and not part.applique.is_empty:
        kept_off = shapely.buffer(part.applique, float(zone.stand_off.mm), quad_segs=_QUARTER_STEPS)
        area = multi(area.difference(kept_off))
        soft |= soft_of(multi(kept_off))
    return Cloth(area, soft)


def cloth_of(part: Part, zone: Zone) -> Cloth:
    """The area of ``zone`` in ``part``; may be empty. Raises BadValue for a cut that does not fit."""
    cloth = whole_cloth(part, zone)
    for one in zone.slices:
        if cloth.area.is_empty:
            break
        pieces, soft = cut_up(part, cloth, one.by)
        spots = [Point(x * part.width, y * part.height) for x, y in one.inside]
        meant = [piece for piece in pieces if any(piece.contains(spot) for spot in spots)]
        cloth = Cloth(multi(shapely.union_all(meant)) if meant else MultiPolygon(), soft)
    return cloth


def cut_up(part: Part, cloth: Cloth, cut: Cut) -> tuple[list[Polygon], Soft]:
    """Every piece into which ``cut`` divides ``cloth``, in reading order, and their soft points. Raises BadValue
    for a cut that does not fit."""
    soft, hard = cloth.soft, set()
    found = list(lines_of(part, cloth, cut))
    if isinstance(cut, InsetOutline):
        soft |= soft_of(MultiPolygon([Polygon(line) for line in found]))
    else:
        hard = {key(point) for line in found for point in line.coords}
    lines: list[BaseGeometry] = [line if line.is_ring else _longer(line) for line in found]
    noded = shapely.union_all([cloth.area.boundary, *lines])
    pieces = [p for p in shapely.polygonize([noded]).geoms if p.area > LEAST_PIECE_AREA]
    within = [p for p in pieces if shapely.intersects_xy(cloth.area, *p.representative_point().coords[0])]
    return sorted(within, key=_reading_order), frozenset(soft - hard)


def lines_of(part: Part, cloth: Cloth, cut: Cut) -> Iterable[LineString]:
    """The lines of ``cut`` over ``cloth``, not yet clipped to its outline. Raises BadValue for an inset that does
    not fit."""
    left, low, right, top = cloth.area.bounds
    if isinstance(cut, Diagonals):
        yield LineString([(left, low), (right, top)])
        yield LineString([(left, top), (right, low)])
    elif isinstance(cut, Cross):
        x, y = (left + right) / 2, (low + top) / 2
        yield LineString([(left, y), (right, y)])
        yield LineString([(x, low), (x, top)])
    elif isinstance(cut, InsetSquare):
        inset, room = float(cut.inset.mm), min(right - left, top - low) / 2
        if inset >= room:
            raise BadValue(
                tr(
                    "The inset must be less than {room}, half of the zone's width; {inset} was given.",
                    room=in_words(room, cut.inset.unit),
                    inset=cut.inset.text,
                ),
                "inset",
            )
        yield _ring([(left + inset, low + inset), (right - inset, low + inset),
                     (right - inset, top - inset), (left + inset, top - inset)])  # fmt: skip
    elif isinstance(cut, InsetOutline):
        inner = shapely.buffer(cloth.area, -float(cut.distance.mm), join_style="mitre", mitre_limit=12)
        if inner.is_empty:
            raise BadValue(
                tr(
                    "Nothing is left {distance} inside the outline. Use a smaller distance.",
                    distance=cut.distance.text,
                ),
                "distance",
            )
        for polygon in multi(inner).geoms:
            yield _ring(polygon.exterior.coords[:-1])
            yield from (_ring(hole.coords[:-1]) for hole in polygon.interiors)
    else:
        yield from (_line(part, *ends) for ends in _turned(cut))


def _turned(cut: Line) -> Iterable[tuple[Spot, Spot]]:
    """The line, and with ``around`` its quarter turns around the part's center."""
    ends = (cut.start, cut.end)
    for _ in range(4 if cut.around else 1):
        yield ends
        ends = tuple((1 - y, x) for x, y in ends)  # type: ignore[assignment]


def _line(part: Part, start: Spot, end: Spot) -> LineString:
    return LineString([(x * part.width, y * part.height) for x, y in (start, end)])


def _ring(points: Iterable[tuple[float, ...]]) -> LineString:
    found = [(x, y) for x, y, *_ in points]
    return LineString([*found, found[0]])


def _longer(line: LineString) -> LineString:
    (x0, y0), (x1, y1) = line.coords
    dx, dy = (x1 - x0) * CUT_BEYOND, (y1 - y0) * CUT_BEYOND
    return LineString([(x0 - dx, y0 - dy), (x1 + dx, y1 + dy)])


def _reading_order(polygon: Polygon) -> tuple[float, float]:
    left, _, _, top = polygon.bounds
    return (-round(top, 3), round(left, 3))


def spot_in(part: Part, piece: Polygon) -> Spot:
    """A point inside ``piece``, as shares of the part's size."""
    point = piece.representative_point()
    return round(point.x / part.width, 6), round(point.y / part.height, 6)


def points_of(part: Part, cloth: Cloth, patches: Iterable[str]) -> list[tuple[str, tuple[float, float]]]:
    """Points where a line may begin or end, with names: corners, midpoints of edges, meetings of seams, the
    center."""
    region = Region(cloth.area, cloth.soft)
    found: dict[tuple[float, float], str] = {
        point: tr("corner {n}", n=n) for n, point in enumerate(region.corners, 1)
    }
    for n, edge in enumerate(region.edges, 1):
        found.setdefault(key(edge.at(edge.length / 2)), tr("middle of edge {n}", n=n))
    seams = {
        key(point)
        for name in patches
        if name in part.patches
        for point in shapely.get_coordinates(part.patches[name].area).tolist()
    }
    near = cloth.area.buffer(SAME_PLACE)
    for point in sorted(seams - cloth.soft, key=lambda p: (-p[1], p[0])):
        if shapely.intersects_xy(near, *point):
            found.setdefault(point, tr("seams meet"))
    if shapely.intersects_xy(cloth.area, *region.middle):
        found.setdefault(key(region.middle), tr("the middle"))
    return [(name, point) for point, name in found.items()]


def share_of(part: Part, point: tuple[float, float]) -> Spot:
    """A point of the part as shares of its size."""
    return tuple(
        min(max(round(v / size, 9), 0.0), 1.0)
        for v, size in zip(point, (part.width, part.height), strict=True)
    )  # type: ignore[return-value]
