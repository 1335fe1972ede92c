"""Paths of straight sides and arcs clipped to a region.

Glossary: *q* is a place on the paths, laid end to end: the number of the vertex before it plus the share of the side
that leaves this vertex. A *chord* is one straight piece of an arc, as it is tested against the outline. Only sides
that may come near the outline are tested; the others are copied.

A piece along the region's outline (in the ditch) is left out; a piece that only touches the outline is not cut there.

Cost: O(vertices · sides of the outline) for a bound on each, O(chords · sides) where a side may come near.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np
import shapely

from kenzet.core.geom.arc_arrays import Chords, Flags, Floats, Ints, arc_lengths, arcs, chords, far, turned
from kenzet.core.geom.paths import Path, end_to_end
from kenzet.core.geom.region import Region
from kenzet.core.tolerances import CURVE_ERROR, DIVISOR, LEAST_STRETCH, ROUNDING, SNAP

_MANY_PAIRS = 400_000
_MARGIN = 1.0
"""mm: a side that is farther than this from the outline is not tested against it."""


@dataclass(frozen=True, slots=True)
class Piece:
    """A part of path number ``line`` that lies inside a region."""

    line: int
    path: Path


def clip_paths(region: Region, paths: Sequence[Path]) -> list[Piece]:
    """The pieces of ``paths`` inside ``region``, in the order of the paths and along each."""
    paths = [path for path in paths if len(path.vertices) > 1]
    if not paths:
        return []
    laid = _Laid(*end_to_end(paths))
    near = _near(laid, region)
    long = laid.along(near)
    begins, finishes = laid.begins, laid.finishes
    q = np.sort(np.concatenate([_crossings(region, laid, near), begins, finishes]))
    at = np.interp(q, laid.numbers, long)
    owner = laid.owner[q.astype(np.int64)]
    new = _first_and((owner[1:] != owner[:-1]) | (at[1:] - at[:-1] > SNAP))
    q, at, owner = q[new], at[new], owner[new]
    one = np.flatnonzero(owner[1:] == owner[:-1])
    middle = np.interp((at[one] + at[one + 1]) / 2, long, laid.numbers)
    places = laid.at(np.concatenate([q, middle]))
    shrunk = region.shrunk
    kept = one[shapely.intersects_xy(shrunk, *places[len(q) :].T)] if not shrunk.is_empty else one[:0]
    if not len(kept):
        return []
    mine = owner[kept]
    opens = np.flatnonzero(_first_and((kept[1:] != kept[:-1] + 1) | (mine[1:] != mine[:-1])))
    first, last = kept[opens], kept[_lasts(opens, len(kept))] + 1
    long_enough = at[last] - at[first] > LEAST_STRETCH
    first, last = first[long_enough], last[long_enough]
    spans = _cut(laid, owner[first], q[first], q[last], places[first], places[last])
    return list(_pieces(paths, spans, begins[spans.owner], finishes[spans.owner]))


def _first_and(others: Flags) -> Flags:
    """``others`` with True prepended."""
    found = np.ones(len(others) + 1, dtype=bool)
    found[1:] = others
    return found


def _lasts(firsts: Ints, many: int) -> Ints:
    """The last index of each run, from the first index of each and the total count ``many``."""
    found = np.empty_like(firsts)
    found[:-1], found[-1] = firsts[1:] - 1, many - 1
    return found


@dataclass(frozen=True)
class _Laid:
    """The vertices (n, 3) of all paths end to end, and the path that each belongs to. A closed path ends with its
    first vertex again."""

    vertices: Floats
    owner: Ints

    @cached_property
    def goes_on(self) -> Flags:
        """(n - 1,): whether a side leaves the vertex, which is false for the last one of each path."""
        return np.asarray(self.owner[1:] == self.owner[:-1])

    @cached_property
    def numbers(self) -> Floats:
        return np.arange(len(self.vertices), dtype=float)

    @cached_property
    def begins(self) -> Ints:
        """The first vertex of each path."""
        return np.flatnonzero(_first_and(~self.goes_on))

    @cached_property
    def finishes(self) -> Ints:
        """The last vertex of each path."""
        return _lasts(self.begins, len(self.vertices))

    @cached_property
    def columns(self) -> Floats:
        """x, y and bulge as rows of one array (3, n)."""
        return np.ascontiguousarray(self.vertices.T)

    @cached_property
    def has_arcs(self) -> bool:
        return bool(self.columns[2].any())

    @cached_property
    def chords(self) -> Floats:
        """Distance from each vertex to the next, mm (n - 1,)."""
        x, y, _ = self.columns
        return far(x[1:] - x[:-1], y[1:] - y[:-1])

    def along(self, near: Ints) -> Floats:
        """Distance along the paths from the first vertex to each, mm: along the arc for the sides ``near``, along
        the chord for the others."""
        size = np.where(self.goes_on, self.chords, 0.0)
        if self.has_arcs:
            size[near] = arc_lengths(size[near], self.columns[2, near])
        found = np.zeros(len(self.vertices))
        np.cumsum(size, out=found[1:])
        return found

    def ahead(self, v: Ints) -> Floats:
        """(x, y) of the vertices after ``v``; for the very last vertex its own."""
        return self.vertices[np.minimum(v + 1, len(self.vertices) - 1), :2]

    def at(self, q: Floats) -> Floats:
        """The points (n, 2) at ``q``, on the arcs themselves."""
        v = q.astype(np.int64)
        share = q - v
        begin, ahead = self.vertices[v, :2], self.ahead(v)
        places: Floats = begin + share[:, None] * (ahead - begin)
        on = np.flatnonzero((self.columns[2, v] != 0.0) & (share > 0.0))
        if len(on):
            bent, centre, angle = arcs(self.vertices[v[on]], ahead[on])
            on, centre, angle = on[bent], centre[bent], angle[bent]
            places[on] = centre + turned(begin[on] - centre, angle * share[on])
        return places


def _near(laid: _Laid, region: Region) -> Ints:
    """The vertices whose sides may come near the outline: those for which the disc around the chord's midpoint that
    contains the arc reaches it.

    Without arcs, all vertices: testing a chord costs no more than this check.
    """
    if not laid.has_arcs:
        return np.flatnonzero(laid.goes_on)
    x, y, bulge = laid.columns
    reach = laid.chords / 2 * np.maximum(1.0, np.abs(bulge[:-1])) + _MARGIN
    x, y = (x[1:] + x[:-1]) / 2, (y[1:] + y[:-1]) / 2
    sides = region.segments
    if len(x) * len(sides) > _MANY_PAIRS:
        found = region.side_tree.query(shapely.box(x - reach, y - reach, x + reach, y + reach))[0]
        return np.flatnonzero((np.bincount(found, minlength=len(x)) > 0) & laid.goes_on)
    hand = _hands(x, y, region)
    side, v = np.nonzero(np.abs(hand, out=hand) < reach)  # of the side's line; then of itself
    x, y, reach = x[v] - sides[side, 0], y[v] - sides[side, 1], reach[v]
    ux, uy, size, _ = region.side_ways[:, side]
    across, along = y * ux - x * uy, x * ux + y * uy
    along -= np.clip(along, 0.0, size)
    close = across * across + along * along < reach * reach
    return np.flatnonzero((np.bincount(v[close], minlength=len(laid.chords)) > 0) & laid.goes_on)


def _hands(x: Floats, y: Floats, region: Region) -> Floats:
    """The signed distance of each place to the left of the line through each side of the outline: (sides, places),
    mm."""
    ux, uy, _, level = region.side_ways
    hand: Floats = np.multiply.outer(ux, y)
    hand -= np.multiply.outer(uy, x)
    hand -= level[:, None]
    return hand


def _crossings(region: Region, laid: _Laid, near: Ints) -> Floats:
    """The q of every place where the sides ``near`` meet a side of the outline."""
    if not len(near):
        return np.empty(0)
    drawn = chords(laid.vertices[near], laid.ahead(near))
    s, e = _pairs(region, drawn)
    sides = region.segments
    a, d = drawn.begin[s], drawn.end[s] - drawn.begin[s]
    c, f = sides[e, :2], sides[e, 2:] - sides[e, :2]
    w = c - a
    size, reach = far(*d.T), far(*f.T)
    cross = d[:, 0] * f[:, 1] - d[:, 1] * f[:, 0]
    slanted = np.abs(cross) > ROUNDING * size * reach
    safe = np.where(slanted, cross, 1.0)
    beside = w[:, 0] * d[:, 1] - w[:, 1] * d[:, 0]
    t, u = (w[:, 0] * f[:, 1] - w[:, 1] * f[:, 0]) / safe, beside / safe
    size, reach = np.maximum(size, DIVISOR), np.maximum(reach, DIVISOR)
    near_t, near_u = SNAP / size, SNAP / reach
    hit = slanted & (t >= -near_t) & (t <= 1 + near_t) & (u >= -near_u) & (u <= 1 + near_u)
    k = s[hit]
    share = drawn.share[k] + np.clip(t[hit], 0.0, 1.0) * drawn.step[k]
    found = [_on_arc(laid, near[drawn.side[k]], share, sides[e[hit]])]
    level = ~slanted & (np.abs(beside) < SNAP * size)
    if level.any():
        k = s[level]
        for tip in (w[level], w[level] + f[level]):
            t = (tip * d[level]).sum(axis=1) / size[level] ** 2
            found.append(near[drawn.side[k]] + drawn.share[k] + np.clip(t, 0.0, 1.0) * drawn.step[k])
    return np.concatenate(found)


def _pairs(region: Region, drawn: Chords) -> tuple[Ints, Ints]:
    """Pairs of a chord and a side of the outline where the chord is not wholly on one side of the line through it."""
    begin, end = drawn.begin, drawn.end
    if len(begin) * len(region.segments) > _MANY_PAIRS:
        found = region.side_tree.query(shapely.linestrings(np.stack([begin, end], axis=1)))
        return found[0], found[1]
    (x0, y0), (x1, y1) = begin.T, end.T
    here, there = _hands(x0, y0, region), _hands(x1, y1, region)
    one_hand = (np.minimum(here, there) > SNAP) | (np.maximum(here, there) < -SNAP)
    side, chord = np.nonzero(~one_hand)
    return chord, side


def _on_arc(laid: _Laid, v: Ints, share: Floats, side: Floats) -> Floats:
    """The q at ``share`` along the sides ``v``, corrected along the arcs to where these really meet the lines of
    ``side`` (n, 4)."""
    found: Floats = v + share
    on = np.flatnonzero(laid.columns[2, v] != 0.0)
    if not len(on):
        return found
    bent, centre, angle = arcs(laid.vertices[v[on]], laid.ahead(v[on]))
    on, centre, angle = on[bent], centre[bent], angle[bent]
    begin = side[on, :2]
    way = side[on, 2:] - begin
    way = way / np.maximum(far(*way.T), DIVISOR)[:, None]
    arm = laid.vertices[v[on], :2] - centre
    radius = far(*arm.T)
    now = turned(arm, angle * share[on])
    foot = begin + ((centre - begin) * way).sum(axis=1)[:, None] * way - centre
    reach = np.sqrt(np.maximum(radius**2 - (foot**2).sum(axis=1), 0.0))[:, None] * way
    ahead = far(*(foot + reach - now).T) <= far(*(foot - reach - now).T)
    meets = np.where(ahead[:, None], foot + reach, foot - reach)
    turn = np.arctan2(now[:, 0] * meets[:, 1] - now[:, 1] * meets[:, 0], (now * meets).sum(axis=1))
    moved = np.clip(share[on] + turn / angle, 0.0, 1.0)
    close = np.abs(turn) * radius < 20 * CURVE_ERROR
    found[on] = v[on] + np.where(close, moved, share[on])
    return found


@dataclass(frozen=True, slots=True)
class _Spans:
    """The inside spans: path, q of start and end, and the vertices of each (n, 3)."""

    owner: Ints
    start: Floats
    end: Floats
    vertices: list[Floats]


def _cut(laid: _Laid, owner: Ints, start: Floats, end: Floats, here: Floats, there: Floats) -> _Spans:
    """The spans from q ``start`` (point ``here``) to ``end`` (point ``there``); partial arcs get the bulge of
    their share."""
    if not len(start):
        return _Spans(owner, start, end, [])
    va, vb = start.astype(np.int64), end.astype(np.int64)
    ta, tb = start - va, end - vb
    whole = (tb == 0.0) & (vb > va)  # it ends on a vertex: that is the whole of the side before
    vb, tb = np.where(whole, vb - 1, vb), np.where(whole, 1.0, tb)
    several = vb > va
    bulge = laid.columns[2]
    opens = np.tan(np.arctan(bulge[va]) * (np.where(several, 1.0, tb) - ta))
    closes = np.tan(np.arctan(bulge[vb]) * (tb - np.where(several, 0.0, ta)))
    size = vb - va + 2
    finish = np.cumsum(size)
    begin, last = finish - size, finish - 1
    of = np.arange(int(finish[-1])) + np.repeat(va - begin, size)
    rows = laid.vertices.take(of, axis=0, mode="clip")
    rows[last - 1, 2] = closes
    rows[begin, :2], rows[begin, 2] = here, opens
    rows[last, :2], rows[last, 2] = there, 0.0
    found = [rows[low:high] for low, high in zip(begin.tolist(), finish.tolist(), strict=True)]
    return _Spans(owner, start, end, found)


def _pieces(paths: Sequence[Path], spans: _Spans, begins: Ints, finishes: Ints) -> Iterable[Piece]:
    """One piece for each span. If a closed path is inside at its first vertex, its last and first span are joined."""
    owner = spans.owner.tolist()
    at_begin, at_finish = (spans.start == begins).tolist(), (spans.end == finishes).tolist()
    k = 0
    while k < len(owner):
        last = k
        while last + 1 < len(owner) and owner[last + 1] == owner[k]:
            last += 1
        if at_begin[k] and at_finish[last] and k == last:
            yield Piece(owner[k], paths[owner[k]])
        elif at_begin[k] and at_finish[last] and paths[owner[k]].closed:
            for each in range(k + 1, last):
                yield Piece(owner[k], Path(spans.vertices[each]))
            yield Piece(owner[k], Path(np.vstack([spans.vertices[last][:-1], spans.vertices[k]])))
        else:
            for each in range(k, last + 1):
                yield Piece(owner[k], Path(spans.vertices[each]))
        k = last + 1
