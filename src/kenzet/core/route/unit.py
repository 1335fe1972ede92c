"""What is sewn in one go: all zones of a block (a border, the sashing) at one place, with the lanes between them."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from itertools import combinations
from typing import Literal

import numpy as np
import shapely

from kenzet.core.geom.region import Floats, Point
from kenzet.core.numbers.measure import INCH
from kenzet.core.placing.line_order import LineOrder, pieces_of
from kenzet.core.plan.drawing import Drawing
from kenzet.core.route.cells import Cells, cells_of
from kenzet.core.route.network import DITCH, EDGE, RIM, Course, Ints, Lane, Network, network
from kenzet.core.route.precedence import Precedence
from kenzet.core.route.texture import texture_ways
from kenzet.core.top.layout import Part
from kenzet.core.top.stitching import Avoided

Technique = Literal["straight", "curved", "walking", "freehand"]

_THROUGH = 0.5  # mm
_BULKY = INCH / 2  # round a spot
_DEAR = 4.0  # times, ours
_MANY_CORNERS = 6


def _rimmed(net: Network, rim: shapely.Geometry) -> Ints:
    """The kinds of its edges; seams and zones' edges within the ``rim`` get the kind RIM."""
    found: Ints = net.kinds.copy()
    lanes = np.flatnonzero(np.isin(found, (DITCH, EDGE)))
    paths = [shapely.linestrings(net.paths[k]) for k in lanes.tolist()]
    found[lanes[shapely.covers(rim, paths)]] = RIM
    return found


def _travel_penalty(net: Network, spots: Sequence[Avoided]) -> Floats:
    """The factor for edges near a bulky spot; infinite for edges through a forbidden one."""
    paths = [shapely.linestrings(path) for path in net.paths]
    found = np.ones(len(paths))
    for spot in spots:
        away = shapely.distance(paths, shapely.Point(spot.x, spot.y))
        if spot.how == "never":
            found[away <= _THROUGH] = np.inf
        else:
            found[away <= _BULKY] *= _DEAR
    return found


def courses_of(drawing: Drawing, zone: int = 0, begin: int = 0) -> list[Course]:
    """The lines of a drawing; ``begin`` is the index of the first of them in the list they are added to."""
    if not drawing.fill.sewn:
        return []
    if drawing.hints:
        ways = texture_ways(drawing)
        return [Course(way, False, zone, k, number=k, freehand=True) for k, way in enumerate(ways)]
    many = max(len(drawing.straight), 1)
    lines = drawing.polylines
    passes = drawing.fill.passes
    stretches = drawing.stretches
    piece = pieces_of(drawing)
    found = [
        Course(lines[k], False, zone, piece[k], int(stretches.job[k]) % many, k, passes)
        for k in range(len(stretches))
    ]
    first = len(stretches)
    for k, trace in enumerate(drawing.traces, first):
        before = _before(drawing, k - first) if trace.closed else None
        before = None if before is None else before if before < 0 else begin + first + before
        apart = float(trace.laid_on[1]) if trace.laid_on else float(drawing.fill.spacing.mm)
        found.append(
            Course(lines[k], trace.closed, zone, piece[k], many + trace.family, k, passes, before, apart)
        )
    return found


def _before(drawing: Drawing, number: int) -> int | None:
    """The ring from which one steps to trace ``number``: the nearest of the line before it, -1 for the zone's
    outline."""
    trace = drawing.traces[number]
    if trace.line == 0:
        return -1
    outer = [
        k
        for k, other in enumerate(drawing.traces)
        if (other.family, other.line) == (trace.family, trace.line - 1)
    ]
    if not outer:
        return -1
    own = shapely.linestrings(trace.polyline)
    away = [float(shapely.distance(own, shapely.linestrings(drawing.traces[k].polyline))) for k in outer]
    return outer[int(np.argmin(away))]


def lanes_of(part: Part, regions: Sequence[shapely.MultiPolygon]) -> Iterable[Lane]:
    """The part's seams, and the ends of zones beside a seam."""
    for patch in part.patches.values():
        yield from (Lane(ring) for ring in rings(patch.area))
    for region in regions:
        yield from (Lane(ring, "edge") for ring in rings(region))


def lanes_across(drawings: Iterable[Drawing]) -> Iterable[Lane]:
    """Paths from corner to corner of freehand zones: a texture hides what is sewn across it."""
    for drawing in drawings:
        for piece in drawing.region.pieces:
            corners = np.array(piece.corners).reshape(-1, 2)
            if len(corners) > _MANY_CORNERS:
                continue
            chords = [np.array(pair) for pair in combinations(corners, 2)]
            middles = shapely.linestrings([_middle_part(chord) for chord in chords]) if chords else []
            inside = shapely.contains_properly(piece.area, middles)
            yield from (Lane(chord, "texture") for chord, is_in in zip(chords, inside, strict=True) if is_in)


def _middle_part(chord: Floats) -> Floats:
    """The chord without its ends, which lie on an outline."""
    return chord + (chord[::-1] - chord) * 0.02


def rings(area: shapely.MultiPolygon) -> Iterable[Floats]:
    """The outlines and holes of an area as closed polylines."""
    for polygon in getattr(area, "geoms", [area]):
        for ring in (polygon.exterior, *polygon.interiors):
            yield np.asarray(ring.coords)[:, :2]


def corners_of(part: Part) -> list[Point]:
    """The corners of the part as cut."""
    return [(0.0, 0.0), (part.width, 0.0), (part.width, part.height), (0.0, part.height)]


@dataclass(frozen=True, eq=False)
class SewingUnit:
    """One kind of unit: the ``drawings`` (with their zones' keys) that are together at ``places`` of ``part`` and
    sewn in the same pass, that is with the same ``foot`` in the ``rank``-th pass over the quilt.

    Of drawings with several straight families only ``family`` is sewn, unless that is None. ``rim`` is the area
    under the binding, ``textures`` are freehand fills there; ``orders`` are the possible orders of the lines of
    each drawing; drawings number ``first`` are sewn before the others.
    """

    part: Part
    places: tuple[str, ...]
    drawings: tuple[tuple[str, Drawing], ...]
    foot: str = "ruler foot"
    rank: int = 0
    family: int | None = None
    rim: shapely.Geometry | None = None
    textures: tuple[Drawing, ...] = ()
    orders: tuple[LineOrder | None, ...] = ()
    first: tuple[int, ...] = ()

    @cached_property
    def precedence(self) -> Precedence:
        """Which of its courses must be sewn before which."""
        return Precedence(self.courses, self.orders or (None,) * len(self.drawings), self.first, self.words)

    @cached_property
    def courses(self) -> list[Course]:
        """Every line of every drawing, in order."""
        found: list[Course] = []
        for zone, (_, drawing) in enumerate(self.drawings):
            some = courses_of(drawing, zone, len(found))
            apart = self.family is not None and drawing.has_sets
            found += [one for one in some if one.family == self.family] if apart else some
        return found

    @cached_property
    def cells(self) -> Cells | None:
        """The cells of its grids; None if no cell is whole, or not all lines of a grid are sewn in this pass."""
        if self.family is not None:
            return None
        return cells_of((drawing for _, drawing in self.drawings), corners_of(self.part))

    @cached_property
    def words(self) -> tuple[str, ...]:
        """The name of each drawing in the log: zone, layer, and the word of its lines."""
        return tuple(f"{zone}.{drawing.layer}.{drawing.word}" for zone, drawing in self.drawings)

    def technique(self, course: Course) -> Technique:
        """The technique of one of its courses."""
        if course.freehand:
            return "freehand"
        return "walking" if self.foot == "walking foot" else "curved" if course.curved else "straight"

    @cached_property
    def lengths(self) -> dict[tuple[str, int], float]:
        """The length of every line, mm, by the word of its drawing and its number there."""
        return {
            (self.words[course.zone], course.number): float(np.hypot(*np.diff(course.line, axis=0).T).sum())
            for course in self.courses
        }

    def network(
        self, steps: float = np.inf, avoided: Sequence[Avoided] = (), turning: bool = False
    ) -> Network:
        """Its lines and lanes; of ``avoided`` only the spots in this part count. ``steps`` and ``turning`` are as
        in ``network``."""
        corners = [corner for _, drawing in self.drawings for corner in drawing.region.corners]
        regions = [drawing.region.area for _, drawing in self.drawings]
        lanes = [*lanes_of(self.part, regions), *lanes_across(self.textures)]
        found = network(self.courses, lanes, corners, steps, corners_of(self.part), turning)
        if self.rim is not None:
            found = replace(found, kinds=_rimmed(found, self.rim))
        spots = [one for one in avoided if one.part == self.part.key]
        return (
            replace(found, travel_penalty=found.travel_penalty * _travel_penalty(found, spots))
            if spots
            else found
        )
