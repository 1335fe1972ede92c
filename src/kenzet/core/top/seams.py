"""Patches from seams: a block drawn by its seams is divided into the faces they enclose.

Glossary: a *seam* runs from point to point of the block, straight or in an arc; the block's own four sides close it.
A *node* is a point where seams meet or end. An *open* seam has a free end and divides nothing. A *face* is an area
enclosed by seams.

Cost: one union of all seams, about n log n for n drawn chords.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from itertools import pairwise

import shapely
from pydantic import ValidationError
from shapely.geometry import LineString, Polygon, box

from kenzet.core.errors import BadValue
from kenzet.core.geom.arcs import Arc, Point, Vertex, drawn, inner_points, key
from kenzet.core.tolerances import CROSSED_CURVE_ERROR, EQUAL, NODE_GRID, ON_LINE, SAME_PLACE
from kenzet.core.top.blocks import MOST_PATCHES, Drawn, Patch, Seam
from kenzet.texts import tr

_SPECK = 0.05  # mm²: a piece that is less is given to its neighbour
_THIN = 0.1  # mm: and so is one that is nowhere wider than this


@dataclass(frozen=True, slots=True)
class Face:
    """A face in mm in its block, y up; vertices may have bulges; shared arcs are divided at the same nodes."""

    outline: tuple[Vertex, ...]
    holes: tuple[tuple[Vertex, ...], ...]
    area: Polygon


@dataclass(frozen=True, slots=True)
class Pieced:
    """The result of dividing a block by seams: its faces in reading order, the nodes, and the indices of open
    seams."""

    faces: tuple[Face, ...]
    nodes: tuple[Point, ...]
    open: tuple[int, ...]


def pieced(width: float, height: float, seams: Sequence[Seam]) -> Pieced:
    """The faces of a block of ``width`` by ``height`` mm; ``seams`` are in mm too."""
    lines = [_drawn(seam) for seam in seams]
    corners = [(0.0, 0.0), (width, 0.0), (width, height), (0.0, height)]
    frame = [LineString([corners[k], corners[(k + 1) % 4]]) for k in range(4)]
    noded = shapely.union_all([*frame, *lines], grid_size=NODE_GRID)
    found, cuts, dangles, _ = shapely.polygonize_full([noded])
    ends = [part.coords[k] for part in getattr(noded, "geoms", [noded]) for k in (0, -1)]
    nodes = {key(end) for end in ends}
    soft = {
        key(point): Arc(seam.start, seam.end, seam.bulge).centre
        for seam, line in zip(seams, lines, strict=True)
        for point in line.coords[1:-1]
        if key(point) not in nodes
    }
    exact = {key(p): p for p in [*corners, *(p for seam in seams for p in (seam.start, seam.end))]}
    block = box(0, 0, width, height)  # an arc may leave the block: what lies outside is no piece of it
    inside = _without_specks([face for face in found.geoms if _is_in(face, block)])
    faces = [_face(face, soft, exact) for face in inside]
    loose = shapely.union_all([*cuts.geoms, *dangles.geoms])
    opened = [k for k, line in enumerate(lines) if _lies_loose(line, loose)]
    faces.sort(key=lambda face: (-round(face.area.bounds[3], 2), round(face.area.bounds[0], 2)))
    return Pieced(tuple(faces), tuple(sorted(exact.get(node, node) for node in nodes)), tuple(opened))


def _is_in(face: Polygon, block: Polygon) -> bool:
    return bool(block.contains(face.representative_point()))


def _without_specks(faces: list[Polygon]) -> list[Polygon]:
    """Faces too small to be sewn are merged with the neighbor with which they share most of their outline."""
    specks = [face for face in faces if face.area < _SPECK or face.buffer(-_THIN / 2).is_empty]
    kept = [face for face in faces if face not in specks]
    for speck in specks:
        shared = [speck.boundary.intersection(face.boundary).length for face in kept]
        best = max(range(len(kept)), key=lambda k: shared[k])
        joined = kept[best].union(speck)
        if isinstance(joined, Polygon):
            kept[best] = joined
    return kept


def _drawn(seam: Seam) -> LineString:
    inner = inner_points(seam.start, seam.end, seam.bulge, CROSSED_CURVE_ERROR)
    return LineString([key(point) for point in (seam.start, *inner, seam.end)])


def _lies_loose(line: LineString, loose: shapely.Geometry) -> bool:
    if loose.is_empty:
        return False
    return bool(line.intersection(loose.buffer(10 * NODE_GRID)).length > 100 * NODE_GRID)


def _face(area: Polygon, soft: Mapping[Point, Point], exact: Mapping[Point, Point]) -> Face:
    ring = _vertices(list(area.exterior.coords)[:-1], soft, exact)
    holes = tuple(_vertices(list(hole.coords)[:-1], soft, exact) for hole in area.interiors)
    return Face(ring, holes, area)


def _vertices(
    points: list[Point], soft: Mapping[Point, Point], exact: Mapping[Point, Point]
) -> tuple[Vertex, ...]:
    """A drawn ring with its arcs restored: runs of soft points between two hard ones."""
    hard = [k for k, point in enumerate(points) if key(point) not in soft]
    if not hard:  # a closed curve without a node: half of it from any point on, twice
        hard = [0, len(points) // 2]
    found: list[Vertex] = []
    for n, k in enumerate(hard):
        after = hard[(n + 1) % len(hard)]
        run = [points[i % len(points)] for i in range(k, after + (len(points) if after <= k else 0) + 1)]
        x, y = exact.get(key(run[0]), run[0])
        bulge = _bulge(run, soft)
        found.append((x, y, bulge) if bulge else (x, y))
    return _without_flat(found)


def _bulge(run: Sequence[Point], soft: Mapping[Point, Point]) -> float:
    """The bulge of the arc on which a run of points lies: from a quarter of its angle around the arc's own center."""
    if len(run) < 3 or key(run[1]) not in soft:
        return 0.0
    if run[-1] < run[0]:  # the same arc from both of its sides
        return -_bulge(run[::-1], soft)
    cx, cy = soft[key(run[1])]
    spokes = [(x - cx, y - cy) for x, y in run]
    turn = sum(math.atan2(ax * by - ay * bx, ax * bx + ay * by) for (ax, ay), (bx, by) in pairwise(spokes))
    return round(math.tan(turn / 4), 9) + 0.0


def _without_flat(outline: list[Vertex]) -> tuple[Vertex, ...]:
    """The outline without nodes on a straight side, where another seam ends from outside."""
    kept: list[Vertex] = []
    for k, here in enumerate(outline):
        before, after = outline[k - 1], outline[(k + 1) % len(outline)]
        straight = len(before) == 2 and len(here) == 2
        if straight and LineString([before[:2], after[:2]]).distance(shapely.Point(here[:2])) < ON_LINE:
            continue
        kept.append(here)
    return tuple(kept)


def patches_of(
    grid: tuple[int, int], size: tuple[float, float], seams: Sequence[Seam], before: Mapping[str, Patch]
) -> dict[str, Patch]:
    """The patches into which ``seams`` (in grid units) divide a block of ``size`` mm.

    A patch that still exists, or the largest piece of it, keeps its key; every piece gets the fabric of the patch
    that was there. Appliqués of ``before`` stay on top. Raises BadValue for too many patches, and for curved seams
    so close that they cannot be told apart.
    """
    width, height = size
    across, up = width / grid[0], height / grid[1]
    faces = pieced(width, height, in_mm(seams, across, up)).faces
    _refuse_touching(faces, width * height)
    applique = {name: patch for name, patch in before.items() if patch.applique}
    if len(faces) + len(applique) > MOST_PATCHES:
        raise BadValue(
            tr(
                "That would be {faces} patches; a block holds at most {most_patches}.",
                faces=len(faces) + len(applique),
                most_patches=MOST_PATCHES,
            ),
            "seams",
        )
    old = {
        name: Polygon(
            drawn(_outline_in_mm(patch.outline, across, up))[0],
            [drawn(_outline_in_mm(hole, across, up))[0] for hole in patch.holes],
        ).buffer(0)
        for name, patch in before.items()
        if not patch.applique
    }
    names = _named(faces, old, set(applique))
    found = {}
    for face, name, source in names:
        fabric = before[source].fabric if source else next(iter(before.values())).fabric
        outline, *holes = (
            tuple((round(v[0] / across, 9), round(v[1] / up, 9), *v[2:]) for v in ring)
            for ring in (face.outline, *face.holes)
        )
        found[name] = Patch(outline=outline, holes=tuple(holes), fabric=fabric)
    try:
        Drawn(grid=grid, patches=found)
    except ValidationError as error:
        raise _all_but_touch() from error
    return {**found, **applique}


def _refuse_touching(faces: Sequence[Face], whole: float) -> None:
    """Raises BadValue if the faces, with their arcs drawn again, do not fill the block: two seams almost touch."""
    rings = [[drawn(ring)[0] for ring in (face.outline, *face.holes)] for face in faces]
    if any(len(ring) < 3 for face in rings for ring in face):
        raise _all_but_touch()
    areas = [Polygon(face[0], face[1:]) for face in rings]
    if not all(area.is_valid for area in areas) or abs(sum(a.area for a in areas) - whole) > EQUAL * whole:
        raise _all_but_touch()


def _all_but_touch() -> BadValue:
    return BadValue(
        tr(
            "Two curved seams run along each other without meeting cleanly. Move one of them, or give it another rise."
        ),
        "seam",
    )


def in_mm(seams: Sequence[Seam], across: float, up: float) -> list[Seam]:
    """Seams converted from grid units to mm, a unit being ``across`` by ``up``; bulges do not change."""

    def mm(point: Point) -> Point:
        return point[0] * across, point[1] * up

    return [Seam(start=mm(seam.start), end=mm(seam.end), bulge=seam.bulge) for seam in seams]


def _outline_in_mm(outline: Sequence[Vertex], across: float, up: float) -> list[Vertex]:
    return [(v[0] * across, v[1] * up, *v[2:]) for v in outline]


def _named(faces: Sequence[Face], old: Mapping[str, Polygon], taken: set[str]) -> list[tuple[Face, str, str]]:
    """Every face with its key and the old patch it comes from."""
    shares = [{name: face.area.intersection(area).area for name, area in old.items()} for face in faces]
    first = sorted(old, key=lambda name: (len(name), name))  # of equal shares the older patch's holds
    sources = [max(first, key=lambda name: round(share[name], 3), default="") for share in shares]
    keeps: dict[int, str] = {}
    for name in old:
        mine = [k for k, source in enumerate(sources) if source == name]
        if mine:
            keeps[max(mine, key=lambda k: shares[k][name])] = name
    used, number, found = taken | set(keeps.values()), 0, []
    for k, face in enumerate(faces):
        name = keeps.get(k, "")
        while not name:
            number += 1
            if f"piece-{number}" not in used:
                name = f"piece-{number}"
                used.add(name)
        found.append((face, name, sources[k]))
    return found


def crossings(
    grid: tuple[int, int], size: tuple[float, float], seams: Sequence[Seam]
) -> list[tuple[str, Point]]:
    """Points where a seam may begin or end, in grid units, with names: grid points, halves, crossings, midpoints
    of seams."""
    width, height = size
    found: dict[Point, str] = {}
    for y in range(2 * grid[1] + 1):
        for x in range(2 * grid[0] + 1):
            found[x / 2, y / 2] = tr("grid point") if x % 2 == y % 2 == 0 else "halfway"
    scaled = in_mm(seams, width / grid[0], height / grid[1])
    spots = [(node, "crossing") for node in pieced(width, height, scaled).nodes]
    spots += [(middle(seam), tr("middle of a seam")) for seam in scaled]
    for spot, name in spots:
        at = (round(spot[0] * grid[0] / width, 6), round(spot[1] * grid[1] / height, 6))
        near = (round(at[0] * 2) / 2, round(at[1] * 2) / 2)
        if max(abs(at[0] - near[0]), abs(at[1] - near[1])) > SAME_PLACE:
            found.setdefault(at, name)
    return [(name, point) for point, name in found.items()]


def middle(seam: Seam) -> Point:
    """The midpoint of a seam."""
    (x0, y0), (x1, y1) = seam.start, seam.end
    return Arc(seam.start, seam.end, seam.bulge).at(0.5) if seam.bulge else ((x0 + x1) / 2, (y0 + y1) / 2)
