"""The measurable sides of the lines planned at a place, in the coordinates of the picture of that place.

Glossary: the *frame* of a place is its upright picture, x to the right and y up from its lower left corner, mm. A
*side* is a stretch of a line between two corners, straight or a smooth curve.
"""

from __future__ import annotations

from collections.abc import Collection, Iterable, Sequence
from dataclasses import dataclass, replace
from itertools import pairwise

import numpy as np
import shapely

from kenzet.core.geom.affine import invert, place_all, unplaced
from kenzet.core.geom.clip import Straight
from kenzet.core.geom.region import Floats, Point
from kenzet.core.numbers.measure import INCH
from kenzet.core.plan.drawing import Drawing
from kenzet.core.plan.planner import plan_quilt
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.core.top.zone import TOP

LEAST_SIDE = INCH / 2
"""mm: a shorter side has too few stitches to be told from the cloth."""
_CORNER = 20.0  # degrees: a line that turns by more has a corner there
_ALONG = 25.0  # degrees: a line that leans by more does not run along
_FILLS = 0.98  # of its frame
_NOTHING_NEAR = 1e3  # mm


@dataclass(frozen=True, eq=False)
class Side:
    """The ``number``-th side of line ``line`` of ``drawing`` in ``zone``; ``word`` is what the drawing is called at
    the machine.

    ``path`` (n, 2) is in mm of the frame; ``clear`` is the distance to the nearest line that runs along it, mm.
    """

    zone: str
    word: str
    drawing: Drawing
    line: int
    number: int
    path: Floats
    clear: float = _NOTHING_NEAR

    @property
    def length(self) -> float:
        """Length, mm."""
        return float(np.hypot(*np.diff(self.path, axis=0).T).sum())

    @property
    def family(self) -> int:
        """The index of the straight family that the line belongs to; -1 if it belongs to none."""
        if self.line >= len(self.drawing.stretches):
            return -1
        straight = sum(isinstance(one, Straight) for one in self.drawing.families)
        return int(self.drawing.stretches.job[self.line]) % max(straight, 1)

    @property
    def set(self) -> tuple[str, int]:
        """The set it belongs to: the lines of a zone with the same angle, or its rings and paths."""
        return self.word, self.family

    @property
    def row(self) -> int:
        """The position of its line within the set: by place for straight lines, by ring or row for others."""
        trace = self.drawing.trace(self.line)
        return trace.line if trace is not None else int(self.drawing.stretches.line[self.line])


@dataclass(frozen=True, eq=False)
class Frame:
    """The picture of ``place``: its size in mm, its planned sides, and those too ``short`` to be measured.
    ``part`` is the key of the block or part there."""

    place: str
    part: str
    width: float
    height: float
    sides: tuple[Side, ...]
    short: tuple[Side, ...]


def frame_at(laid: QuiltLayout, place: str, sewn: Collection[tuple[str, int]] | None = None) -> Frame:
    """The frame with all lines that cross the place, or only the ``sewn`` ones (word and number). Raises Unknown."""
    placing, width, height = laid.frame_of(place)
    box = shapely.box(0, 0, width, height)
    found: list[Side] = []
    for zone, plan in plan_quilt(laid).items():
        for drawing in plan.drawings:
            if not drawing.fill.sewn or drawing.fill.claimed_density is not None:
                continue
            word = f"{zone}.{drawing.layer}.{drawing.word}"
            for at in drawing.places:
                if at not in (place, TOP) and place != TOP:
                    continue
                part = drawing.shape.part.places[at]
                for line, points in enumerate(drawing.polylines):
                    if sewn is not None and (word, line) not in sewn:
                        continue
                    inside = _in_frame(place_all(part, points), placing, box)
                    for number, path in enumerate(side for one in inside for side in sides_of(one)):
                        found.append(Side(zone, word, drawing, line, number, path))
    part_name = laid.top.at[place].name if place in laid.top.at else laid.quilt.name
    clear = _clearances(found)
    cleared = [replace(one, clear=free) for one, free in zip(found, clear, strict=True)]
    sides = tuple(one for one in cleared if one.length >= LEAST_SIDE)
    short = tuple(one for one in cleared if one.length < LEAST_SIDE)
    return Frame(place, part_name, width, height, sides, short)


def is_whole(laid: QuiltLayout, place: str) -> bool:
    """Whether the block at a place fills its frame, so that it has four corners to click. Raises Unknown."""
    _, width, height = laid.frame_of(place)
    if place == TOP:
        return True
    area = sum(patch.area.area for patch in laid.top.at[place].patches.values())
    return bool(area > _FILLS * width * height)


def _in_frame(line: Floats, placing, box) -> Iterable[Floats]:  # type: ignore[no-untyped-def]
    """The parts of a line of the quilt that lie in the frame."""
    points = np.array([invert(placing, (x, y)) for x, y in line.tolist()])
    whole = shapely.linestrings(points)
    if shapely.covers(box, whole):
        yield points
        return
    cut = shapely.intersection(whole, box)
    for piece in getattr(cut, "geoms", [cut]):
        if piece.geom_type == "LineString" and piece.length > 0:
            yield np.asarray(piece.coords)


def sides_of(line: Floats) -> list[Floats]:
    """A polyline divided at its corners; a closed one begins at one of them."""
    line = line[np.concatenate([[True], np.hypot(*np.diff(line, axis=0).T) > 0])]
    if len(line) < 3:
        return [line]
    ways = np.diff(line, axis=0)
    turns = np.abs(np.degrees(_turn(ways[:-1], ways[1:])))
    cuts = (np.flatnonzero(turns > _CORNER) + 1).tolist()
    ends = [0, *cuts, len(line) - 1]
    found = [line[a : b + 1] for a, b in pairwise(ends)]
    closed = bool(np.allclose(line[0], line[-1]))
    if closed and cuts and abs(np.degrees(float(_turn(ways[-1:], ways[:1])[0]))) <= _CORNER:
        found = [*found[1:-1], np.vstack([found[-1], found[0][1:]])] if len(found) > 1 else found
    return found


def _turn(one: Floats, other: Floats) -> Floats:
    """The angle from one direction to the other, radians."""
    turned: Floats = np.arctan2(one[:, 0] * other[:, 1] - one[:, 1] * other[:, 0], (one * other).sum(axis=1))
    return turned


def along(path: Floats, far: Floats) -> tuple[Floats, Floats]:
    """The points at distances ``far`` (mm) along a path, and the unit normals (to the left) there: (n, 2) each."""
    steps = np.diff(path, axis=0)
    long = np.hypot(*steps.T)
    at = np.concatenate([[0.0], np.cumsum(long)])
    points = np.stack([np.interp(far, at, path[:, 0]), np.interp(far, at, path[:, 1])], axis=1)
    which = np.clip(np.searchsorted(at, far, side="right") - 1, 0, len(steps) - 1)
    ways = steps[which] / long[which, None]
    return points, np.stack([-ways[:, 1], ways[:, 0]], axis=1)


def _clearances(sides: Sequence[Side]) -> list[float]:
    """For every side the distance (mm) to the nearest other one that runs along it, measured at a quarter, half
    and three quarters of its length."""
    if not sides:
        return []
    starts = np.concatenate([side.path[:-1] for side in sides])
    steps = np.concatenate([np.diff(side.path, axis=0) for side in sides])
    owner = np.concatenate([np.full(len(side.path) - 1, k) for k, side in enumerate(sides)])
    ways = steps / np.maximum(np.hypot(*steps.T), np.finfo(float).tiny)[:, None]
    found = []
    for k, side in enumerate(sides):
        points, normals = along(side.path, side.length * np.array([1, 2, 3]) / 4)
        best = _NOTHING_NEAR
        for point, normal in zip(points, normals, strict=True):
            runs = np.abs(ways @ np.array([normal[1], -normal[0]])) >= np.cos(np.radians(_ALONG))
            across = steps @ np.array([normal[1], -normal[0]])  # how far each goes along this side
            ahead = (point - starts) @ np.array([normal[1], -normal[0]])
            with np.errstate(divide="ignore", invalid="ignore"):
                share = ahead / across
            meets = runs & (owner != k) & (share >= 0) & (share <= 1)
            if meets.any():
                aside = (starts[meets] + share[meets, None] * steps[meets] - point) @ normal
                best = min(best, float(np.abs(aside).min()))
        found.append(best)
    return found


def corners_in(laid: QuiltLayout, frame: Frame) -> list[Point]:
    """The points where seams meet or turn inside the frame, which lines should meet."""
    if frame.place not in laid.top.at:
        return []
    part = laid.top.at[frame.place]
    placing, _, _ = laid.frame_of(frame.place)
    found: set[tuple[float, float]] = set()
    for patch in part.patches.values():
        area = shapely.simplify(patch.area, 0)
        corners = place_all(part.places[frame.place], shapely.get_coordinates(area))
        for x, y in corners.tolist():
            u, v = invert(placing, (x, y))
            found.add((round(u, 2), round(v, 2)))
    return sorted(found)


def area_in(laid: QuiltLayout, frame: Frame, zone: str) -> shapely.Geometry | None:
    """The region of a zone inside the frame; None if there is none."""
    placing, _, _ = laid.frame_of(frame.place)
    box = shapely.box(0, 0, frame.width, frame.height)
    found = []
    for shape in laid.shapes(laid.zone(zone)):
        for at in shape.places:
            if at in (frame.place, TOP) or frame.place == TOP:
                lies = shape.part.places[at]
                moved = shapely.transform(
                    shape.region.area, lambda points, lies=lies: place_all(lies, points)
                )
                found.append(unplaced(placing, moved).intersection(box))
    whole = shapely.union_all(found) if found else None
    return whole if whole is not None and whole.area > 0 else None
