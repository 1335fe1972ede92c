"""What the measured sides of a block tell: how accurate every line is, how even every set, what to keep, touch up or
rip.

An error is positive to the left of the line's direction; for a ring that is inwards. The error of a gap is the
difference of the errors of the two lines beside it. An error is visible up to the distance at which it fills
``SEEN_ANGLE``: our convention, three times what a good eye resolves (J11).
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import Literal

import cv2
import numpy as np
import shapely

from kenzet.core.geom.region import Floats, Point
from kenzet.core.inspect.find import Finding
from kenzet.core.inspect.sides import Frame, along
from kenzet.core.tolerances import EQUAL, VISIBLE

SEEN_ANGLE = math.radians(3 / 60)
Truth = Literal["within", "near", "out", "unseen"]
Verdict = Literal["keep", "touch up", "rip"]
_NEAR = 1.5  # of the tolerance
_PX = 4  # px a mm, where gaps are looked for
_AT_POINT = 0.6  # mm: a line that passes a corner as near as that is to meet it


@dataclass(frozen=True, eq=False)
class Judged:
    """One side: ``worst`` is its greatest error and ``gap`` the error of the gap beside it, mm (None if not
    measured); visible from up to ``seen_from`` mm."""

    finding: Finding
    truth: Truth
    verdict: Verdict
    worst: float
    gap: float | None
    seen_from: float


@dataclass(frozen=True, slots=True)
class SetFigures:
    """A set of lines of one direction, or the rings of an echo, in one zone: ``seen`` of ``many`` lines.

    In mm: the ``planned`` spacing; the mean ``spacing`` measured and its ``spread`` from gap to gap; ``worst_gap``
    is the error of the worst gap; ``drift`` from the first line seen to the last, and ``per_line``; ``mean`` is
    the mean error, ``scatter`` the scatter of the lines about it.
    """

    zone: str
    word: str
    family: int
    many: int
    seen: int
    planned: float | None
    spacing: float | None
    spread: float | None
    worst_gap: float | None
    drift: float | None
    per_line: float | None
    mean: float
    scatter: float


@dataclass(frozen=True, slots=True)
class Missed:
    """A corner of the piecing ``at`` (frame, mm) that a line should meet, and how far the line misses ``by``, mm."""

    at: Point
    by: float
    zone: str
    line: int


@dataclass(frozen=True, slots=True)
class ZoneGap:
    """The widest gap of a zone in the frame, mm, as ``planned`` and as ``sewn``, and where. Lines that are not
    seen count as planned."""

    zone: str
    planned: float
    sewn: float
    at: Point


@dataclass(frozen=True, eq=False)
class Report:
    """All findings. ``verdict`` is for the whole block; ``worst`` are the sides visible from farthest away."""

    judged: tuple[Judged, ...]
    sets: tuple[SetFigures, ...]
    missed: tuple[Missed, ...]
    gaps: tuple[ZoneGap, ...]
    verdict: Verdict

    @property
    def seen(self) -> list[Judged]:
        """The sides that were found."""
        return [one for one in self.judged if one.truth != "unseen"]

    @property
    def worst(self) -> list[Judged]:
        """At most three, the most visible first."""
        return sorted(self.seen, key=lambda one: -one.seen_from)[:3]


def report(
    frame: Frame,
    findings: Sequence[Finding],
    points: Sequence[Point],
    areas: Mapping[str, shapely.Geometry],
    tolerance: float,
    look: float,
) -> Report:
    """``points`` are corners of the piecing, ``areas`` the zones' regions in the frame; a line may be off by
    ``tolerance`` mm, and the quilt is viewed from ``look`` mm away."""
    beside = _beside(findings)
    judged = tuple(_judge(one, beside.get(k), tolerance, look) for k, one in enumerate(findings))
    to_do: list[Verdict] = [one.verdict for one in judged]
    verdict: Verdict = "rip" if "rip" in to_do else "touch up" if "touch up" in to_do else "keep"
    gaps = tuple(_widest(frame, zone, area, findings) for zone, area in areas.items())
    return Report(judged, tuple(_sets(findings)), tuple(_missed(findings, points)), gaps, verdict)


def _judge(finding: Finding, gap: float | None, tolerance: float, look: float) -> Judged:
    if finding.unseen:
        return Judged(finding, "unseen", "keep", 0.0, None, 0.0)
    ends = [abs(finding.aside(share)) for share in (0.0, 0.5, 1.0)]
    worst = max(ends) + finding.straight
    shows = max(abs(gap), 2 * finding.straight) if gap is not None else worst
    seen_from = shows / math.tan(SEEN_ANGLE)
    truth: Truth = "within" if worst <= tolerance else "near" if worst <= _NEAR * tolerance else "out"
    verdict: Verdict = "keep"
    if truth == "out" and seen_from >= look:
        verdict = "rip" if min(ends) > tolerance else "touch up"
    return Judged(finding, truth, verdict, worst, gap, seen_from)


def _ranked(findings: Sequence[Finding]) -> dict[tuple[str, int], dict[int, list[int]]]:
    """For every set, the indices of the sides of each line, in order."""
    found: dict[tuple[str, int], dict[int, list[int]]] = {}
    for k, one in enumerate(findings):
        found.setdefault(one.side.set, {}).setdefault(one.side.row, []).append(k)
    return {key: dict(sorted(rows.items())) for key, rows in found.items()}


def _beside(findings: Sequence[Finding]) -> dict[int, float]:
    """For each side, the error (mm) of the worse gap beside it, where the neighboring line is seen."""
    found: dict[int, float] = {}
    for rows in _ranked(findings).values():
        numbers = list(rows)
        for one, other in pairwise(numbers):
            if other != one + 1:
                continue
            for k in rows[one]:
                near = _opposite(findings, k, rows[other])
                if near is None or findings[k].unseen or findings[near].unseen:
                    continue
                out = findings[near].offset - findings[k].offset
                for which in (k, near):
                    if abs(out) > abs(found.get(which, 0.0)) or which not in found:
                        found[which] = out
    return found


def _opposite(findings: Sequence[Finding], k: int, others: Sequence[int]) -> int | None:
    """The side of the neighboring line that runs beside side ``k``: similar in direction, with the nearest
    midpoint."""
    (x, y), way = _middle(findings[k].side.path)
    best, found = math.inf, None
    for other in others:
        (u, v), its = _middle(findings[other].side.path)
        away = math.hypot(u - x, v - y)
        if float(way @ its) > math.cos(math.radians(15)) and away < best:
            best, found = away, other
    return found


def _middle(path: Floats) -> tuple[Point, Floats]:
    points, normals = along(path, np.array([np.hypot(*np.diff(path, axis=0).T).sum() / 2]))
    x, y = points[0].tolist()
    return (x, y), normals[0]


def _sets(findings: Sequence[Finding]) -> list[SetFigures]:
    found = []
    for (word, family), rows in _ranked(findings).items():
        zone = findings[next(iter(rows.values()))[0]].side.zone
        asides: dict[int, float] = {}
        for row, numbers in rows.items():
            seen = [findings[k] for k in numbers if not findings[k].unseen]
            if seen:
                weights = [one.side.length for one in seen]
                asides[row] = float(np.average([one.offset for one in seen], weights=weights))
        drawing = findings[next(iter(rows.values()))[0]].side.drawing
        planned = float(drawing.fill.spacing.mm) if drawing.fill.is_spaced else None
        values = np.array(list(asides.values()))
        at = np.array(list(asides))
        steps = [asides[b] - asides[a] for a, b in pairwise(at.tolist()) if b == a + 1]
        ends = (float(values[-1] - values[0]), int(at[-1] - at[0])) if len(values) > 1 else None
        slope = float(np.polyfit(at, values, 1)[0]) if len(values) > 2 else None
        found.append(
            SetFigures(
                zone, word, family, len(rows), len(asides), planned,
                planned + ends[0] / ends[1] if ends and planned is not None else None,
                float(np.std(steps, ddof=1)) if len(steps) > 1 else None,
                max(steps, key=abs) if steps else None,
                ends[0] if ends else None, slope,
                float(values.mean()) if len(values) else 0.0,
                float(values.std(ddof=1)) if len(values) > 1 else 0.0,
            )
        )  # fmt: skip
    return found


def _missed(findings: Sequence[Finding], points: Sequence[Point]) -> list[Missed]:
    """For every point that planned lines meet, the line that misses it by most."""
    lines = [shapely.linestrings(one.side.path) for one in findings]
    found = []
    for point in points:
        spot = shapely.points(point)
        worst: Missed | None = None
        for one, line in zip(findings, lines, strict=True):
            if one.unseen or shapely.distance(line, spot) > _AT_POINT:
                continue
            share = float(shapely.line_locate_point(line, spot, normalized=True))
            miss = Missed(point, abs(one.aside(share)), one.side.zone, one.side.line)
            worst = miss if worst is None or miss.by > worst.by else worst
        if worst is not None and worst.by > VISIBLE:
            found.append(worst)
    return sorted(found, key=lambda one: -one.by)


def measured_path(finding: Finding) -> Floats:
    """A side where it was found; if it was not found, where it was planned."""
    if finding.unseen:
        return finding.side.path
    far = np.linspace(0, finding.side.length, max(len(finding.side.path), 2))
    points, normals = along(finding.side.path, far)
    aside = finding.offset + (far / max(finding.side.length, EQUAL) - 1 / 2) * finding.tilt
    moved: Floats = points + aside[:, None] * normals
    return moved


def _widest(frame: Frame, zone: str, area: shapely.Geometry, findings: Sequence[Finding]) -> ZoneGap:
    """The diameter of the largest circle in the zone without a stitch, by a distance transform; as in F44, a gap
    ends at the zone's edge."""
    low = np.array(area.bounds[:2])
    columns, rows = (int(size * _PX) + 3 for size in (np.array(area.bounds[2:]) - low).tolist())
    mask = np.zeros((rows, columns), np.uint8)
    for polygon in getattr(area, "geoms", [area]):
        if polygon.geom_type == "Polygon":
            rings = [polygon.exterior, *polygon.interiors]
            cv2.fillPoly(mask, [_cells(np.asarray(ring.coords), low) for ring in rings], 1)
    mine = [one for one in findings if one.side.zone == zone]
    short = [one.path for one in frame.short if one.zone == zone]

    def gap(paths: Sequence[Floats]) -> tuple[float, Point]:
        free = mask.copy()
        for path in (*paths, *short):
            cv2.polylines(free, [_cells(path, low)], False, 0)
        free[0, :] = free[-1, :] = free[:, 0] = free[:, -1] = 0
        away = cv2.distanceTransform(free, cv2.DIST_L2, cv2.DIST_MASK_PRECISE)
        row, column = np.unravel_index(int(away.argmax()), away.shape)
        x, y = (low + (np.array([column, row]) - 1) / _PX).tolist()
        return 2 * float(away[row, column]) / _PX, (x, y)

    planned, _ = gap([one.side.path for one in mine])
    sewn, at = gap([measured_path(one) for one in mine])
    return ZoneGap(zone, planned, sewn, at)


def _cells(points: Floats, low: Floats):  # type: ignore[no-untyped-def]
    return np.round((points[:, :2] - low) * _PX + 1).astype(np.int32)
