"""The widest gaps of the quilt (F44), ranked, each with its place: in filled zones, in zones without quilting, and on
cloth outside any zone.

A gap ends at the edge of its zone, as in F44: the seam, or the stitching beside it, holds the layers there.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

import shapely
from shapely.geometry.base import BaseGeometry

from kenzet.core.geom.affine import place_all, unplaced
from kenzet.core.geom.region import Point, Region
from kenzet.core.plan.widest_gap import open_gap
from kenzet.core.plan.zone_plan import ZonePlan
from kenzet.core.tolerances import VISIBLE
from kenzet.core.top.layout import Part, multi
from kenzet.core.top.quilt_layout import QuiltLayout, ZoneShape
from kenzet.core.top.zone import TOP

_LEAST = 25.0  # mm²: cloth that is smaller is a rest along an edge


@dataclass(frozen=True, slots=True)
class Gap:
    """The widest circle without a stitch: ``width`` mm, centered ``at`` on the quilt, mm; ``zone`` is empty if the
    cloth is in no zone.

    ``left_out`` lines of the zone are too short to be sewn there; ``places`` is how many places have the same gap.
    """

    zone: str
    place: str
    width: float
    at: Point
    filled: bool
    places: int
    left_out: int = 0


def gaps(laid: QuiltLayout, plans: Mapping[str, ZonePlan]) -> list[Gap]:
    """One gap for each drawing, for each shape without quilting and for each part with cloth outside any zone, the
    widest first."""
    found = [*_filled(plans), *_open(laid, plans), *_in_no_zone(laid)]
    return sorted(found, key=lambda gap: -gap.width)


def _filled(plans: Mapping[str, ZonePlan]) -> Iterable[Gap]:
    for key, plan in plans.items():
        for drawing in plan.drawings:
            if drawing.layer or plan.zone.on_top:
                continue
            gap = plan.widest_gap(drawing)
            place, shape = drawing.places[0], drawing.shape
            at = _on_quilt(shape.part, place, gap.place or _inside(shape.region.area))
            yield Gap(key, place, gap.width, at, True, len(drawing.places), drawing.left_out)


def _open(laid: QuiltLayout, plans: Mapping[str, ZonePlan]) -> Iterable[Gap]:
    """Gaps of zones, or of some places of a zone, that have no lines."""
    for key, zone in laid.quilt.zones.items():
        if not laid.is_laid(zone) or zone.on_top:
            continue
        sewn = (
            {place for drawing in plans[key].drawings for place in drawing.places} if key in plans else set()
        )
        for shape in laid.shapes(zone):
            places = [place for place in shape.places if place not in sewn]
            if places:
                gap = open_gap(shape.region)
                at = _on_quilt(shape.part, places[0], gap.place or shape.region.middle)
                yield Gap(key, places[0], gap.width, at, False, len(places))


def _in_no_zone(laid: QuiltLayout) -> Iterable[Gap]:
    """Gaps of the cloth of each part that is in no zone, at the first place of the part."""
    over_all = _covered(laid.shapes(zone) for zone in laid.quilt.zones.values() if zone.part == TOP)
    for part in laid.top.parts.values():
        zones = [zone for zone in laid.quilt.zones.values() if zone.part == part.of and laid.is_laid(zone)]
        own = _covered(tuple(s for s in laid.shapes(zone) if s.part is part) for zone in zones)
        patches = shapely.union_all([patch.area for patch in part.patches.values()])
        place = next(iter(part.places))
        bare = patches.difference(shapely.union_all([own, unplaced(part.places[place], over_all)]))
        pieces = [piece for piece in multi(bare.buffer(-VISIBLE)).geoms if piece.area > _LEAST]
        if pieces:
            region = Region(shapely.MultiPolygon(pieces))
            gap = open_gap(region)
            yield Gap(
                "",
                place,
                gap.width,
                _on_quilt(part, place, gap.place or region.middle),
                False,
                len(part.places),
            )


def _covered(shapes: Iterable[tuple[ZoneShape, ...]]) -> BaseGeometry:
    """The cloth that lies in zones, including what their margins leave unquilted."""
    return shapely.union_all([shape.uncut.area for each in shapes for shape in each])


def _inside(area: BaseGeometry) -> Point:
    point = area.representative_point()
    return point.x, point.y


def _on_quilt(part: Part, place: str, at: Point) -> Point:
    x, y = place_all(part.places[place], shapely.get_coordinates(shapely.Point(at)))[0].tolist()
    return x, y
