"""Straight families clipped to regions: one vectorised scan over all of them at once.

Glossary: a *job* is one family on one region. The line ``i`` of an even family holds the points p with
p·n = datum + i·pitch, n being the direction turned left by 90 degrees. ``q`` is a corner's place
counted in pitches, so that a side crosses the whole numbers between the q of its two ends. A family with
a *rhythm* has several lines a pitch, at ``offsets``; it is scanned once an offset.

A corner that lies on a line is counted once as beyond it and once as before it; what is inside by
both counts is inside, so a line along an edge (the ditch) is no stretch, a line through a corner is
one stretch, and a line that grazes a corner is not cut there.

Cost: O(c log c) for c crossings; memory about 100 bytes a crossing.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction

import numpy as np
from numpy.typing import NDArray

from kenzet.core.geom.region import Floats, Region
from kenzet.core.tolerances import LEAST_STRETCH, SNAP

Ints = NDArray[np.int64]
_ENDLESS = np.iinfo(np.int64).max // 4


@dataclass(frozen=True, slots=True)
class Straight:
    """A family of parallel lines: direction ``angle`` in degrees, ``pitch`` exact mm.

    ``datum`` is the place of line 0 along the normal, in mm. Lines before ``first`` (for instance outside the edge
    they start from) and after ``last`` are left out. ``offsets`` (ascending from 0, below the pitch) are the
    places of the lines within one pitch: line i stands at i // n pitches plus offset i % n.
    """

    angle: float
    pitch: Fraction
    datum: float
    first: int | None = None
    last: int | None = None
    offsets: tuple[Fraction, ...] = (Fraction(0),)

    @property
    def direction(self) -> tuple[float, float]:
        """Unit vector along the lines; exact for quarter turns."""
        quarter, rest = divmod(self.angle, 90)
        if rest == 0:
            return [(1.0, 0.0), (0.0, 1.0), (-1.0, 0.0), (0.0, -1.0)][int(quarter) % 4]
        return math.cos(math.radians(self.angle)), math.sin(math.radians(self.angle))

    @property
    def normal(self) -> tuple[float, float]:
        """Unit vector across the lines, to the left of their direction."""
        ux, uy = self.direction
        return -uy, ux

    def place(self, line: int) -> float:
        """The place of line ``line`` along the normal, mm."""
        return self.datum + float(self.at(line))

    def at(self, line: int) -> Fraction:
        """The distance of line ``line`` from the datum, exact mm."""
        pitches, which = divmod(line, len(self.offsets))
        return pitches * self.pitch + self.offsets[which]

    @property
    def gaps(self) -> tuple[Fraction, ...]:
        """The gap after each line of one pitch, exact mm."""
        return tuple(self.at(k + 1) - self.at(k) for k in range(len(self.offsets)))

    def middles(self, gap: Fraction) -> list[Straight]:
        """Even families along the middles of all gaps of width ``gap``."""
        return [
            Straight(self.angle, self.pitch, self.datum + float(offset + gap / 2))
            for offset, wide in zip(self.offsets, self.gaps, strict=True)
            if wide == gap
        ]

    def to_next(self, place: Fraction, onwards: bool) -> Fraction:
        """The distance from ``place`` (exact mm from the datum) to the next line, forwards or (``onwards`` false)
        backwards; never 0."""
        many = len(self.offsets)
        line = math.floor(place / self.pitch) * many
        while self.at(line) - place < SNAP:
            line += 1
        if onwards:
            return self.at(line if self.first is None else max(line, self.first)) - place
        while place - self.at(line) < SNAP:
            line -= 1
        return place - self.at(line if self.last is None else min(line, self.last))


@dataclass(frozen=True, slots=True)
class Stretches:
    """The result of the scan, sorted by job, line and position along the line.

    ``job`` and ``line`` are (n,), ``ends`` is (n, 4): x0, y0, x1, y1 in mm in the direction of the line.
    """

    job: Ints
    line: Ints
    ends: Floats

    def __len__(self) -> int:
        return len(self.job)

    def only(self, which: NDArray[np.bool_]) -> Stretches:
        """The stretches for which ``which`` (n,) is true."""
        return self if which.all() else Stretches(self.job[which], self.line[which], self.ends[which])

    @property
    def lengths(self) -> Floats:
        """Length of each stretch, (n,) in mm."""
        return np.hypot(self.ends[:, 2] - self.ends[:, 0], self.ends[:, 3] - self.ends[:, 1])


Job = tuple[Region, Straight]


@dataclass(frozen=True, slots=True)
class _Sides:
    """All sides of all jobs with the range of whole numbers that each crosses, from low to high inclusive."""

    job: Ints
    q0: Floats
    q1: Floats
    t0: Floats
    t1: Floats
    low: Ints
    high: Ints

    @property
    def counts(self) -> Ints:
        counts: Ints = np.maximum(self.high - self.low + 1, 0)
        return counts


def count_at_most(jobs: Sequence[Job]) -> int:
    """An upper bound, nearly exact, of how many stretches the scan would give; nothing is clipped."""
    if not jobs:
        return 0
    even = [job for job, _, _ in _even(jobs)]
    return int(_sides(even).counts.sum()) // 2 + len(even)


def _sides(jobs: Sequence[Job]) -> _Sides:
    """The sides of jobs whose families are even (families with a rhythm have been split before)."""
    sides = np.concatenate([region.segments for region, _ in jobs])
    job = np.repeat(np.arange(len(jobs)), [len(region.segments) for region, _ in jobs])
    u = np.array([family.direction for _, family in jobs])[job]
    pitch = np.array([float(family.pitch) for _, family in jobs])[job]
    datum = np.array([family.datum for _, family in jobs])[job]

    def places(x: Floats, y: Floats) -> Floats:
        q = (x * -u[:, 1] + y * u[:, 0] - datum) / pitch
        whole = np.rint(q)
        snapped: Floats = np.where(np.abs(q - whole) * pitch < SNAP, whole, q)
        return snapped

    x0, y0, x1, y1 = sides.T
    q0, q1 = places(x0, y0), places(x1, y1)
    first = np.array([-_ENDLESS if f.first is None else f.first for _, f in jobs], dtype=np.int64)[job]
    last = np.array([_ENDLESS if f.last is None else f.last for _, f in jobs], dtype=np.int64)[job]
    low = np.maximum(np.ceil(np.minimum(q0, q1)).astype(np.int64), first)
    high = np.minimum(np.floor(np.maximum(q0, q1)).astype(np.int64), last)
    high = np.where(q0 == q1, low - 1, high)  # a side along a line crosses nothing
    along0, along1 = x0 * u[:, 0] + y0 * u[:, 1], x1 * u[:, 0] + y1 * u[:, 1]
    return _Sides(job, q0, q1, along0, along1, low, high)


def _even(jobs: Sequence[Job]) -> list[tuple[Job, int, int]]:
    """Every job split into jobs of even families, each with the number of the job and of the offset it stands for."""
    found: list[tuple[Job, int, int]] = []
    for number, (region, family) in enumerate(jobs):
        many = len(family.offsets)
        if many == 1:
            found.append(((region, family), number, 0))
            continue
        for which, offset in enumerate(family.offsets):
            first = None if family.first is None else -((which - family.first) // many)
            last = None if family.last is None else (family.last - which) // many
            datum = family.datum + float(offset)
            found.append(((region, Straight(family.angle, family.pitch, datum, first, last)), number, which))
    return found


def clip(jobs: Sequence[Job]) -> Stretches:
    """The stretches of every job's family inside its region."""
    even = _even(jobs)
    found = _clip_even([job for job, _, _ in even])
    if len(even) == len(jobs):
        return found
    number, which = np.array([(n, w) for _, n, w in even], dtype=np.int64).T
    many = np.array([len(family.offsets) for _, family in jobs], dtype=np.int64)
    job = number[found.job]
    line = found.line * many[job] + which[found.job]
    order = np.lexsort((line, job))  # stable: along a line they stay in order
    return Stretches(job[order], line[order], found.ends[order])


def _clip_even(jobs: Sequence[Job]) -> Stretches:
    if not jobs:
        return Stretches(np.zeros(0, np.int64), np.zeros(0, np.int64), np.zeros((0, 4)))
    sides = _sides(jobs)
    counts = sides.counts
    side = np.repeat(np.arange(len(counts)), counts)
    start = np.cumsum(counts) - counts
    line = sides.low[side] + (np.arange(len(side)) - start[side])
    q0, q1 = sides.q0[side], sides.q1[side]
    t = sides.t0[side] + (line - q0) / (q1 - q0) * (sides.t1[side] - sides.t0[side])
    order = np.lexsort((t, line, sides.job[side]))
    job, line, t = sides.job[side][order], line[order], t[order]
    beyond = (line > np.minimum(q0, q1)[order]).cumsum() % 2
    before = (line < np.maximum(q0, q1)[order]).cumsum() % 2
    job, line, start_t, end_t = _spans(job, line, t, (beyond + before) == 2)
    return Stretches(job, line, _ends(jobs, job, line, start_t, end_t))


def _spans(job: Ints, line: Ints, t: Floats, inside: NDArray[np.bool_]) -> tuple[Ints, Ints, Floats, Floats]:
    """The inside spans between neighboring crossings; two spans that touch at a corner are joined."""
    keep = np.flatnonzero(inside[:-1] & (np.diff(t) > SNAP)) if len(t) else np.zeros(0, np.int64)
    job, line, start, end = job[keep], line[keep], t[keep], t[keep + 1]
    opens = np.ones(len(keep), dtype=bool)
    opens[1:] = (job[1:] != job[:-1]) | (line[1:] != line[:-1]) | (start[1:] - end[:-1] > SNAP)
    closes = np.append(opens[1:], True)[: len(keep)]
    job, line, start, end = job[opens], line[opens], start[opens], end[closes]
    long = end - start > LEAST_STRETCH
    return job[long], line[long], start[long], end[long]


def _ends(jobs: Sequence[Job], job: Ints, line: Ints, start: Floats, end: Floats) -> Floats:
    ux, uy = np.array([family.direction for _, family in jobs])[job].T
    pitch = np.array([float(family.pitch) for _, family in jobs])[job]
    datum = np.array([family.datum for _, family in jobs])[job]
    across = datum + line * pitch
    return np.stack(
        [ux * start - uy * across, uy * start + ux * across, ux * end - uy * across, uy * end + ux * across],
        axis=1,
    )
