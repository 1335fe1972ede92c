"""One distinct set of lines: stretches of straight families, rings of echoes, pieces of paths.

Glossary: a *trace* is a line that is not a stretch: a ring or a piece of a path. The lines of a drawing are
numbered, stretches first, then traces.
"""

from __future__ import annotations

import hashlib
from collections.abc import Iterable
from dataclasses import dataclass, replace
from functools import cached_property
from itertools import accumulate, compress
from typing import Literal, NamedTuple

import numpy as np
import shapely

from kenzet.core.fills.base import Family, Fill, Paths, ReferenceHint, Rings
from kenzet.core.geom.affine import place_all
from kenzet.core.geom.clip import Straight, Stretches, clip
from kenzet.core.geom.path_clip import Piece, clip_paths
from kenzet.core.geom.paths import Path, lengths, with_arcs
from kenzet.core.geom.region import Floats, Region
from kenzet.core.tolerances import LEAST_STRETCH, ON_EDGE
from kenzet.core.top.layout import multi
from kenzet.core.top.quilt_layout import ZoneShape


class Trace(NamedTuple):
    """A ring, or a piece of path number ``line``, of family ``family``.

    ``laid_on`` is what gives its place: the ring or path before it (the seam, for a first ring); None if nothing
    does.
    """

    family: int
    line: int
    path: Path
    laid_on: ReferenceHint | None

    @property
    def points(self) -> Floats:
        """The polyline as drawn, (n, 2) mm; a closed one's first point is not repeated."""
        return self.path.points

    @property
    def arcs(self) -> Floats:
        """The vertices with bulges, (n, 3); a ring's arcs are reconstructed from its points."""
        return self.path.vertices if not self.path.straight else with_arcs(self.points, self.closed)

    @property
    def closed(self) -> bool:
        """Whether its end is its start."""
        return self.path.closed

    @property
    def length(self) -> float:
        """Length, mm."""
        return self.path.length

    @property
    def polyline(self) -> Floats:
        """The polyline as drawn, (n, 2); a closed one ends with its first point."""
        return np.vstack([self.points, self.points[:1]]) if self.closed else self.points


@dataclass(frozen=True, eq=False)
class Drawing:
    """One distinct set of lines in the part's coordinates, and the places that share it.

    ``stretches.job`` is piece × number of straight families + family. ``hints`` only illustrate a freehand
    texture: they are not lines to sew. ``layer`` is 0 for the zone's fill, 1 for a fill on top of it, 2 for lines
    placed by hand. Lines shorter than ``least`` mm are left out: ``left_out`` of them at one place, the longest
    ``longest_out`` mm.
    """

    places: tuple[str, ...]
    shape: ZoneShape
    fill: Fill
    families: tuple[Family, ...]
    stretches: Stretches
    traces: tuple[Trace, ...]
    hints: tuple[Trace, ...] = ()
    layer: int = 0
    least: float = 0.0
    left_out: int = 0
    longest_out: float = 0.0

    @property
    def region(self) -> Region:
        """The region that contains the lines."""
        return self.shape.region

    @property
    def straight(self) -> list[Straight]:
        """The straight families."""
        return [family for family in self.families if isinstance(family, Straight)]

    @property
    def has_sets(self) -> bool:
        """Whether it consists of two or more straight families and nothing else."""
        return len(self.straight) > 1 and not self.traces

    @property
    def comes_in(self) -> Literal["", "sets", "rings", "outline", "cells"]:
        """What can be sewn in two orders: one set before the other, rings from outside or from inside, the outline
        first or last, whole figures before cut ones; "" if nothing."""
        if self.has_sets:
            return "sets"
        rings = [trace for trace in self.traces if isinstance(self.families[trace.family], Rings)]
        if rings and len(rings) == self.lines and max(trace.line for trace in rings):
            return "rings"
        outline = [self._on_outline(trace) for trace in self.traces]
        if any(outline) and self.lines > sum(outline):
            return "outline"
        whole = sum(trace.closed for trace in self.traces)
        return "cells" if not self.stretches and whole > 1 and len(self.cut_figures) > 0 else ""

    @property
    def cut_figures(self) -> list[int]:
        """The numbers of the lines that remain of closed figures cut by the zone's edge."""
        return [k for k, trace in enumerate(self.traces, len(self.stretches)) if self._is_cut(trace)]

    def _is_cut(self, trace: Trace) -> bool:
        family = self.families[trace.family]
        return isinstance(family, Paths) and not trace.closed and family.paths[trace.line].closed

    def _on_outline(self, trace: Trace) -> bool:
        family = self.families[trace.family]
        return isinstance(family, Paths) and family.on_outline

    @property
    def outline(self) -> list[int]:
        """The numbers of the lines along the zone's outline."""
        return [k for k, trace in enumerate(self.traces, len(self.stretches)) if self._on_outline(trace)]

    @property
    def lines(self) -> int:
        """The number of lines to sew at one place."""
        return len(self.stretches) + len(self.traces)

    @cached_property
    def lengths(self) -> Floats:
        """Length of every line, mm (lines,)."""
        return np.concatenate([self.stretches.lengths, lengths([trace.path for trace in self.traces])])

    @property
    def stitched(self) -> float:
        """Stitching at one place, mm."""
        if self.fill.claimed_density is not None:
            return self.fill.claimed_density * float(self.region.area.area)
        drawn = float(self.lengths.sum())
        return drawn * self.fill.passes if self.fill.sewn else 0.0

    @property
    def density(self) -> float:
        """F13: stitched mm for each mm² of the zone, without its outline."""
        return self.stitched / float(self.region.area.area)

    def trace(self, line: int) -> Trace | None:
        """Line number ``line`` if it is a trace, else None."""
        return self.traces[line - len(self.stretches)] if len(self.stretches) <= line < self.lines else None

    @cached_property
    def polylines(self) -> list[Floats]:
        """Every line as drawn, (n, 2) each."""
        return [*self.stretches.ends.reshape(-1, 2, 2), *(trace.polyline for trace in self.traces)]

    @cached_property
    def word(self) -> str:
        """Eight letters that are equal for two drawings with the same lines (to a tenth of a mm) and the same
        number of passes; for textures, with the same texture and density."""
        told = hashlib.blake2b(str(self.fill.passes).encode(), digest_size=4)
        if self.hints:
            told.update(f"{self.fill.claimed_density:.6f}".encode())
            told.update(np.round(shapely.get_coordinates(self.region.area) * 10).astype(np.int64).tobytes())
        for line in self.polylines:
            told.update(np.round(line * 10).astype(np.int64).tobytes() + b"|")
        return told.hexdigest()

    def length_of(self, line: int) -> float:
        """Length of one line, mm."""
        return float(self.lengths[line])


def draw(
    shape: ZoneShape,
    fill: Fill,
    families: tuple[Family, ...],
    places: tuple[str, ...],
    layer: int = 0,
    least: float = 0.0,
) -> Drawing:
    """Clips the straight families to every piece of the region and divides the others into traces. Lines shorter
    than ``least`` mm, or than the fill allows, are left out."""
    straight = [family for family in families if isinstance(family, Straight)]
    stretches = clip([(piece, family) for piece in shape.region.pieces for family in straight])
    traces = tuple(t for k, family in enumerate(families) for t in _traces(shape, k, family))
    if fill.claimed_density is not None:
        return Drawing(places, shape, fill, families, stretches, (), traces, layer)
    shortest = fill.least_piece or least
    if not shortest:
        return Drawing(places, shape, fill, families, stretches, traces, layer=layer)
    traced = lengths([trace.path for trace in traces])
    found = np.concatenate([stretches.lengths, traced])
    out = found[found < shortest]
    if len(out):
        stretches = stretches.only(stretches.lengths >= shortest)
        traces = tuple(compress(traces, traced >= shortest))
    return Drawing(
        places,
        shape,
        fill,
        families,
        stretches,
        traces,
        layer=layer,
        least=least,
        left_out=len(out),
        longest_out=float(out.max(initial=0.0)),
    )


def carried(drawing: Drawing, shape: ZoneShape, places: tuple[str, ...]) -> Drawing:
    """``drawing``, made of rings for a congruent outline, mapped to ``shape`` and ``places``."""
    if shape.twin is None:
        return _cut(replace(drawing, shape=shape, places=places))
    placing = shape.twin[1]
    a, b, c, d, _, _ = placing
    way = 1 if a * d > b * c else -1  # mirrored, what a ring encloses would lie on its right
    vertices = np.concatenate([trace.path.vertices for trace in drawing.traces] or [np.empty((0, 3))])
    vertices[:, :2] = place_all(placing, vertices[:, :2])
    ends = list(accumulate(len(trace.path.vertices) for trace in drawing.traces))
    traces = tuple(
        Trace(trace.family, trace.line, Path(vertices[start:end][::way], closed=True), trace.laid_on)
        for trace, start, end in zip(drawing.traces, [0, *ends], ends, strict=False)
    )
    rings = (family for family in drawing.families if isinstance(family, Rings))
    families = tuple(Rings(ring.drawn, ring.first, ring.pitch, placing) for ring in rings)
    return _cut(replace(drawing, places=places, shape=shape, families=families, traces=traces))


def _cut(drawing: Drawing) -> Drawing:
    """Of rings that were drawn for the whole zone, what the quilt's edge leaves."""
    if drawing.shape.whole is None:
        return drawing
    traces = tuple(t for trace in drawing.traces for t in cut_to(drawing.region, trace))
    long = tuple(trace for trace in traces if trace.length >= (drawing.fill.least_piece or drawing.least))
    return replace(drawing, traces=long, left_out=drawing.left_out + len(traces) - len(long))


def _traces(shape: ZoneShape, number: int, family: Family) -> Iterable[Trace]:
    region = shape.region
    if isinstance(family, Rings) or (isinstance(family, Paths) and family.on_outline):
        found = _uncut(region, number, family)
        yield from found if shape.whole is None else (t for trace in found for t in cut_to(region, trace))
        return
    yield from _uncut(region, number, family)


def cut_to(region: Region, trace: Trace) -> Iterable[Trace]:
    """The parts of ``trace`` in a region that the quilt's edge has cut; a ring that is cut becomes open."""
    line, inside = shapely.linestrings(trace.polyline), shapely.buffer(region.area, ON_EDGE)
    if shapely.covers(inside, line):
        yield trace
        return
    yield from _parts(trace, shapely.intersection(line, inside))


def cut_off(trace: Trace, area: shapely.Geometry) -> Iterable[Trace]:
    """The parts of ``trace`` outside ``area``."""
    line = shapely.linestrings(trace.polyline)
    if not shapely.intersects(line, area):
        yield trace
        return
    yield from _parts(trace, shapely.difference(line, area))


def _parts(trace: Trace, cut: shapely.Geometry) -> Iterable[Trace]:
    lines = _lines_of(cut)
    if not lines:  # it only touches there
        return
    parts = shapely.line_merge(shapely.multilinestrings(lines))
    for part in getattr(parts, "geoms", [parts]):
        if part.length > LEAST_STRETCH:
            points = np.asarray(part.coords)
            path = Path(np.column_stack([points, np.zeros(len(points))]), closed=False)
            yield Trace(trace.family, trace.line, path, trace.laid_on)


def _lines_of(cut: shapely.Geometry) -> list[shapely.LineString]:
    return [
        part for part in getattr(cut, "geoms", [cut]) if part.geom_type == "LineString" and part.length > 0
    ]


def _both(region: Region, piece: Region) -> Region:
    """The part of a piece of the whole zone that lies in its ``region``."""
    if shapely.covers(region.area, piece.area):
        return piece
    return Region(multi(piece.area.intersection(region.area)), piece.soft | region.soft)


def _inside(region: Region, family: Paths) -> list[Piece]:
    if family.on_outline:
        return [Piece(k, path) for k, path in enumerate(family.paths)]
    return clip_paths(region if family.within is None else _both(region, family.within), family.paths)


def _uncut(region: Region, number: int, family: Family) -> Iterable[Trace]:
    if isinstance(family, Rings):
        inside: ReferenceHint = ("seam", family.first)
        follows: ReferenceHint = ("line", family.pitch)
        # what a ring encloses lies on its left
        polygons, of = shapely.get_parts(shapely.orient_polygons(family.insides), return_index=True)
        rings, polygon = shapely.get_rings(polygons, return_index=True)
        points = shapely.get_coordinates(rings)
        vertices = np.column_stack([points, np.zeros(len(points))])
        ends = np.cumsum(shapely.get_num_points(rings))
        for k, start, end in zip(of[polygon].tolist(), [0, *ends.tolist()], ends.tolist(), strict=False):
            path = Path(vertices[start : end - 1], closed=True)
            yield Trace(number, k, path, follows if k else inside)
    elif isinstance(family, Paths):
        for piece in _inside(region, family):
            before: ReferenceHint | None = (
                ("line", family.spacing) if piece.line and family.spacing is not None else None
            )
            laid_on = family.laid_on[piece.line] if family.laid_on else before
            row = family.rows[piece.line] if family.rows else piece.line
            yield Trace(number, row, piece.path, laid_on)
