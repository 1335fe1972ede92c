"""A quilt with everything derived from its top: parts, places, and the shapes of zones."""

from __future__ import annotations

from dataclasses import dataclass, replace
from fractions import Fraction
from functools import cached_property
from typing import NamedTuple

import numpy as np
import shapely
from shapely.geometry import MultiPolygon, box

from kenzet.core.errors import Unknown
from kenzet.core.geom.affine import IDENTITY, Placing, invert, place_all, unplaced
from kenzet.core.geom.congruent import outline_of, placing_onto
from kenzet.core.geom.region import Floats, Point, Region, merge_straight
from kenzet.core.memo import Memo, Table
from kenzet.core.numbers.measure import Length
from kenzet.core.tolerances import EQUAL, NOTHING_CUT, ON_EDGE, SAME_AREA, SNAP
from kenzet.core.top.cutting import Cloth, cloth_of
from kenzet.core.top.document import Quilt, zone_of
from kenzet.core.top.layout import Part, Top, lay_out, multi
from kenzet.core.top.line_ends import run_off
from kenzet.core.top.zone import TOP, Slice, Zone
from kenzet.texts import tr

_LEAST_SEAM = 0.5  # mm
_RIM = 0.05  # mm


@dataclass(frozen=True, eq=False)
class ZoneShape:
    """One distinct shape of a zone: its region in ``part``'s coordinates, and the places that have it.

    A zone has several if its block is used at several sizes, or if the quilt's edge cuts it; then ``whole`` is the
    uncut region, in which fills are laid out. ``twin`` is a shape of this or another zone whose uncut outline the
    placing maps onto this one's.
    """

    part: Part
    region: Region
    places: tuple[str, ...]
    twin: tuple[ZoneShape, Placing] | None = None
    whole: Region | None = None

    @property
    def uncut(self) -> Region:
        """The region before the quilt's edge cuts it."""
        return self.whole or self.region

    @cached_property
    def seams(self) -> tuple[tuple[Point, Point], ...]:
        """The straight seams of the part inside the uncut region, without its own outline."""
        patches = [Region(patch.area, self.part.soft) for patch in self.part.patches.values()]
        sides = [(edge.start, edge.end) for patch in patches for edge in patch.edges]
        if not sides:
            return ()
        outline = self.uncut.area.boundary.buffer(SNAP)
        inside = (
            shapely.union_all(shapely.linestrings(sides)).intersection(self.uncut.area).difference(outline)
        )
        lines = [line for line in getattr(inside, "geoms", [inside]) if line.length > _LEAST_SEAM]
        ends = np.array([[*line.coords[0], *line.coords[-1]] for line in lines]).reshape(-1, 4)
        return tuple((edge.start, edge.end) for edge in merge_straight(ends))


class Ground(NamedTuple):
    """What the shapes of zones depend on: the top, compared by identity, and how far inside its edge lines end,
    exact mm."""

    top: Top
    inset: Fraction


_Cut = tuple[Ground, Fraction, str, tuple[str, ...], tuple[Slice, ...], Length | None]
SHAPES = Table[_Cut, tuple[ZoneShape, ...]](tr("shapes of zones"), 10_000)
OUTLINES = Table[tuple[Ground, int], list[tuple[Floats, ZoneShape]]](tr("outlines by their corners"), 1_000)


class QuiltLayout:
    """A quilt with its top laid out and the shapes of its zones; ``memo`` caches derived results."""

    def __init__(self, quilt: Quilt, memo: Memo | None = None, top: Top | None = None) -> None:
        self.quilt = quilt
        self.memo = memo or Memo()
        self._top = top

    @cached_property
    def top(self) -> Top:
        """The parts and their placings."""
        return self._top or lay_out(self.quilt)

    @cached_property
    def ground(self) -> Ground:
        """The cache key of shapes and plans."""
        return Ground(self.top, self.quilt.inset_of())

    @property
    def middle(self) -> Point:
        """The quilt's center, mm."""
        return self.top.width / 2, self.top.height / 2

    def zone(self, key: str) -> Zone:
        """The zone with that key. Raises Unknown."""
        return zone_of(self.quilt, key)

    def parts(self, of: str) -> tuple[Part, ...]:
        """The parts with the key ``of`` that zones use. Raises Unknown if there is none."""
        if of == TOP:
            return (self.top.whole,)
        found = self.top.kin.get(of)
        if not found:
            name = self.quilt.blocks[of].name if of in self.quilt.blocks else of
            raise Unknown(tr("{name} is not used in this top.", name=name), "zone")
        return found

    def is_laid(self, zone: Zone) -> bool:
        """Whether the zone's part is used in the quilt."""
        return zone.part == TOP or zone.part in self.top.kin

    def places(self, zone: Zone) -> tuple[str, ...]:
        """Every place of the zone, including those where nothing of it is left inside the edge."""
        return tuple(place for part in self.parts(zone.part) for place in part.places)

    def shapes(self, zone: Zone) -> tuple[ZoneShape, ...]:
        """The distinct shapes of ``zone``, the one with most places first, without places that another zone has
        taken. Raises Unknown, BadValue."""
        key = (self.ground, self.quilt.inset_of(zone), zone.part, zone.patches, zone.slices, zone.stand_off)
        found = self.memo.once(SHAPES, key, lambda: self._shapes(zone))
        taken = {place for apart in zone.apart if apart.taken_by for place in apart.places}
        if not taken:
            return found
        left = [
            replace(shape, places=tuple(place for place in shape.places if place not in taken))
            for shape in found
        ]
        return tuple(sorted((s for s in left if s.places), key=lambda shape: -len(shape.places)))

    def _shapes(self, zone: Zone) -> tuple[ZoneShape, ...]:
        inset = float(self.quilt.inset_of(zone))
        found = [
            s for part in self.parts(zone.part) for s in self._cut_at_edge(part, cloth_of(part, zone), inset)
        ]
        found.sort(key=lambda shape: -len(shape.places))
        return tuple(self._with_twin(shape) for shape in found)

    def shape_at(self, zone: Zone, place: str) -> ZoneShape | None:
        """The zone's shape at ``place``; None if nothing of it is left there."""
        return next((shape for shape in self.shapes(zone) if place in shape.places), None)

    def _cut_at_edge(self, part: Part, cloth: Cloth, inset: float) -> list[ZoneShape]:
        """The cloth's shapes, cut ``inset`` mm inside the quilt's edge, or extended beyond it."""
        if cloth.area.is_empty:
            return []
        groups: list[tuple[MultiPolygon, list[str]]] = []
        for place, placing in part.places.items():
            area = self._ended(cloth.area, placing, inset)
            if area.is_empty:
                continue
            whole = abs(area.area - cloth.area.area) < NOTHING_CUT * cloth.area.area
            area = cloth.area if whole else area
            for known, places in groups:
                if _same_area(known, area):
                    places.append(place)
                    break
            else:
                groups.append((area, [place]))
        uncut = Region(cloth.area, cloth.soft)
        return [
            ZoneShape(part, uncut, tuple(places))
            if area is cloth.area
            else ZoneShape(part, Region(area, cloth.soft), tuple(places), whole=uncut)
            for area, places in groups
        ]

    def _ended(self, area: MultiPolygon, placing: Placing, inset: float) -> MultiPolygon:
        """The part of ``area`` that is sewn at ``placing``, in the part's coordinates."""
        wide, high = self.top.width, self.top.height
        if inset > 0:
            return multi(area.intersection(unplaced(placing, box(inset, inset, wide - inset, high - inset))))
        if inset == 0:
            return area
        laid = shapely.transform(area, lambda points: place_all(placing, points))
        off = run_off(laid, wide, high, -inset)
        return area if off is laid else multi(unplaced(placing, off))

    def rim(self, part: Part) -> shapely.Geometry | None:
        """The area for travel at the quilt's edge, in the part's coordinates: under the binding and outside, up to
        where lines end; None if it is empty at some place."""
        wide, high = self.top.width, self.top.height
        insets = [float(self.quilt.inset_of(zone)) for zone in (None, *self.quilt.zones.values())]
        off, edge = max(-min(insets), 0.0) + _RIM, max(*insets, 0.0) + _RIM
        band, inner = box(-off, -off, wide + off, high + off), box(edge, edge, wide - edge, high - edge)
        if inner.is_empty:
            return None
        found = None
        for placing in part.places.values():
            its = unplaced(placing, band.difference(inner))
            found = its if found is None else found.intersection(its)
            if found.is_empty:
                return None
        return found

    def _with_twin(self, shape: ZoneShape) -> ZoneShape:
        """The shape with the first congruent shape met, whether rotated or mirrored."""
        outline = outline_of(shape.uncut.area)
        if outline is None:
            return shape
        area = shape.uncut.area.area
        known = self.memo.once(OUTLINES, (self.ground, len(outline)), list)
        for other, model in known:
            near = abs(model.uncut.area.area - area) < SAME_AREA
            placing = placing_onto(other, outline) if near else None
            if placing is not None:
                return replace(shape, twin=(model, placing))
        known.append((outline, shape))
        return shape

    def reaches_edge(self, zone: Zone) -> bool:
        """Whether the zone touches the quilt's edge anywhere."""
        far = np.array([self.top.width, self.top.height])
        for shape in self.shapes(zone):
            for place in shape.places:
                at = place_all(shape.part.places[place], np.array(shape.uncut.extremes))
                if min(at.min(), (far - at).min()) < ON_EDGE:
                    return True
        return False

    def meets_margin(self, shape: ZoneShape, zone: Zone) -> bool:
        """Whether a shape of ``zone`` touches the margin kept free at the quilt's edge."""
        edge = float(self.quilt.inset_of(zone))
        at = place_all(shape.part.places[shape.places[0]], np.array(shape.region.extremes))
        free = np.concatenate([at - edge, np.array([self.top.width, self.top.height]) - edge - at])
        return edge > 0 and bool(free.min() < ON_EDGE)

    def outline_at(self, place: str) -> shapely.Geometry:
        """The area of the part at ``place`` in the quilt's coordinates, mm; for the whole top, that of the zones
        that are made on it. Raises Unknown."""
        if place == TOP:
            zones = [zone for zone in self.quilt.zones.values() if zone.part == TOP]
            return shapely.union_all([shape.region.area for zone in zones for shape in self.shapes(zone)])
        if place not in self.top.at:
            raise Unknown(tr("There is no place called {place} in this top.", place=place), "place")
        part = self.top.at[place]
        whole = shapely.union_all([patch.area for patch in part.patches.values()])
        return shapely.transform(whole, lambda xy: place_all(part.places[place], xy))

    def frame_of(self, place: str) -> tuple[Placing, float, float]:
        """The frame of an upright picture of ``place``: its placing, width and height in mm. Blocks on point keep
        their own directions. Raises Unknown."""
        if place == TOP:
            return IDENTITY, self.top.width, self.top.height
        if place not in self.top.at:
            raise Unknown(tr("There is no place called {place} in this top.", place=place), "place")
        part = self.top.at[place]
        placing = part.places[place]
        a, b, _, _, _, _ = placing
        if min(abs(a), abs(b)) > EQUAL:
            return placing, part.width, part.height
        corners = place_all(placing, np.array([[0.0, 0.0], [part.width, part.height]]))
        low, high = corners.min(axis=0), corners.max(axis=0)
        width, height = (high - low).tolist()
        return (1.0, 0.0, 0.0, 1.0, float(low[0]), float(low[1])), width, height

    def with_quilt(self, quilt: Quilt) -> QuiltLayout:
        """The layout of another version of the quilt; results that depend on an unchanged top are reused."""
        mine, its = self.quilt, quilt
        same = (mine.blocks, mine.layout, mine.borders) == (its.blocks, its.layout, its.borders)
        return QuiltLayout(quilt, self.memo, self.top if same else None)

    def tried(self, quilt: Quilt) -> QuiltLayout:
        """Like ``with_quilt``, but its plans do not displace others from the cache."""
        other = self.with_quilt(quilt)
        return QuiltLayout(quilt, self.memo.aside(), other.top)


def _same_area(one: MultiPolygon, other: MultiPolygon) -> bool:
    """Whether no point of either outline is farther than ``SNAP`` from the other."""
    if one is other:
        return True
    near = np.abs(np.array(one.bounds) - other.bounds).max() < SNAP and abs(one.area - other.area) < SAME_AREA
    return bool(near and shapely.hausdorff_distance(one.boundary, other.boundary) < SNAP)


def from_middle(part: Part, place: str, middle: Point) -> Point:
    """The quilt's ``middle`` in the coordinates of ``part`` at ``place``."""
    return invert(part.places[place], middle)
