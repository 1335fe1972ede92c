"""Fills laid out in rotated coordinates, and rows that repeat one shape.

Glossary: a *frame* has u along the rows and v across them; its bounds contain the zone. The *step* is how far the
ruler moves from row to row, perpendicular to the rows; the *true spacing* between neighboring lines is smaller
where they run at an angle (F6, F17, F30). A *rhythm* is a repeating list of steps between rows.
"""

from __future__ import annotations

import math
import random
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from fractions import Fraction
from typing import Any, ClassVar, Literal

import numpy as np
import shapely
from pydantic import field_validator

from kenzet.core.errors import BadValue, TooMany
from kenzet.core.fills.base import (
    LEAST_SPACING,
    MOST_SPACING,
    Family,
    Figure,
    Paths,
    ReferenceHint,
    Site,
    SpacingSuggestion,
)
from kenzet.core.fills.origin import Share2, check_angle, pick
from kenzet.core.fills.rhythm import at_beat, beats_of, check_rhythm
from kenzet.core.fills.skipping import SKIP, SkippingFill
from kenzet.core.geom.arcs import Point, Vertex
from kenzet.core.geom.clip import Straight
from kenzet.core.geom.paths import Path
from kenzet.core.geom.region import Region
from kenzet.core.numbers.measure import Length
from kenzet.core.numbers.spacing import whole_parts
from kenzet.core.params import Choice, Form, asked, in_range
from kenzet.core.tolerances import EQUAL, SNAP, VISIBLE
from kenzet.texts import tr

MOST_VERTICES = 150_000
TURNED_OVER = np.array([1.0, -1.0, -1.0])

Start = Literal["centre", "edge", "point", "quilt centre"]
Typed = Literal["true", "step"]

STARTS = (
    Choice("centre", tr("the middle")),
    Choice("edge", tr("an edge")),
    Choice("point", tr("a point of the piecing"), picks="point"),
    Choice("quilt centre", tr("quilt center")),
)
TYPED = (Choice("true", tr("line to line")), Choice("step", tr("step of the ruler")))


@dataclass(frozen=True, slots=True)
class Frame:
    """Coordinates rotated by ``angle`` degrees about ``origin``; left to right along u, low to high along v.

    ``datum`` is the (u, v) from which rows and repeats are counted, if it is set from outside the zone.
    """

    origin: Point
    angle: float
    left: float
    low: float
    right: float
    high: float
    datum: Point | None = None

    @property
    def width(self) -> float:
        """The zone's extent along u, mm."""
        return self.right - self.left

    @property
    def height(self) -> float:
        """The zone's extent along v, mm."""
        return self.high - self.low

    @property
    def _axes(self) -> tuple[float, float]:
        quarter, rest = divmod(self.angle, 90)
        if rest == 0:
            return [(1.0, 0.0), (0.0, 1.0), (-1.0, 0.0), (0.0, -1.0)][int(quarter) % 4]
        return math.cos(math.radians(self.angle)), math.sin(math.radians(self.angle))

    @property
    def way(self) -> Point:
        """The unit direction of u in the part."""
        return self._axes

    def into(self, point: Point) -> Point:
        """A point of the part in frame coordinates."""
        (cos, sin), x, y = self._axes, point[0] - self.origin[0], point[1] - self.origin[1]
        return x * cos + y * sin, -x * sin + y * cos

    def out(self, u: float, v: float) -> Point:
        """The point (u, v) in the part's coordinates."""
        cos, sin = self._axes
        return self.origin[0] + u * cos - v * sin, self.origin[1] + u * sin + v * cos

    def path(self, vertices: Sequence[Vertex] | np.ndarray, closed: bool = False) -> Path:
        """A path given in frame coordinates, in the part's coordinates; bulges do not change."""
        rows = Path.of(vertices, closed).vertices if not isinstance(vertices, np.ndarray) else vertices
        cos, sin = self._axes
        x = self.origin[0] + rows[:, 0] * cos - rows[:, 1] * sin
        y = self.origin[1] + rows[:, 0] * sin + rows[:, 1] * cos
        return Path(np.stack([x, y, rows[:, 2]], axis=1), closed)


def frame_of(region: Region, angle: float, origin: Point) -> Frame:
    """The frame rotated by ``angle`` about ``origin`` with bounds that contain ``region``."""
    bare = Frame(origin, angle, 0.0, 0.0, 0.0, 0.0)
    places = [bare.into(point) for point in region.extremes]
    us, vs = zip(*places, strict=True)
    return Frame(origin, angle, min(us), min(vs), max(us), max(vs))


class TurnedFill(SkippingFill):
    """Base of fills with rows at an angle, measured from level or from a seam."""

    spacing: Length = asked(
        "1/2 in", Form("length", tr("Spacing"), tr("Distance between lines, measured square to them."))
    )
    angle: float = asked(
        0.0,
        Form(
            "angle",
            tr("Row direction"),
            tr("Degrees from level, or from the seam you choose."),
            presets=(0, 90, 45, 135),
        ),
    )
    along: int | None = asked(
        None,
        Form(
            "count",
            tr("Along a seam"),
            tr("Click an edge of the zone to count the angle from it."),
            empty=tr("level"),
        ),
    )

    @field_validator("angle", mode="before")
    @classmethod
    def _angle(cls, value: Any) -> float:
        return check_angle(value)

    def frame(self, site: Site) -> Frame:
        """The frame around the zone's center. Raises BadValue for an edge that does not exist."""
        base = 0.0 if self.along is None else pick(site.region.edges, self.along, "along", "edge").angle
        return frame_of(site.region, base + self.angle, site.region.middle)


class RowFill(TurnedFill):
    """Base of fills that repeat one shape row by row. Must override ``row``; may override ``slope`` and ``span``.

    With ``whole_rows``, rows counted from an edge end before the far edge would cut one.
    """

    whole_rows: ClassVar[bool] = False

    skip: Length | None = asked("1/2 in", SKIP)
    typed: Typed = asked(
        "true", Form("choice", tr("The spacing is"), tr("Where lines run at an angle, the ruler moves farther than their spacing."), choices=TYPED, after="spacing")
    )  # fmt: skip
    start: Start = asked(
        "centre", Form("choice", tr("Counted from"), tr("Where the first row is."), choices=STARTS)
    )
    first: Length | None = asked(
        None,
        Form(
            "length",
            tr("First row in from the edge"),
            empty=tr("at the edge"),
            only_with=("start", ("edge",)),
        ),
    )
    through: Share2 | None = None
    rows: int | None = asked(
        None,
        Form(
            "count",
            tr("Rows"),
            tr("How many."),
            empty=tr("until full"),
            only_with=("start", ("centre", "edge", "point")),
        ),
    )
    rhythm: str | None = asked(
        None,
        Form("text", tr("Rhythm"), tr("The repeating steps from row to row: 1 2 2 4."), empty=tr("even")),
    )

    @field_validator("first")
    @classmethod
    def _first(cls, length: Length | None) -> Length | None:
        return length and in_range(length, "0 in", MOST_SPACING, tr("The first row"))

    @field_validator("rows")
    @classmethod
    def _rows(cls, rows: int | None) -> int | None:
        return check_count(rows, 1, 400, tr("Rows"))

    @field_validator("rhythm")
    @classmethod
    def _rhythm(cls, text: str | None) -> str | None:
        return check_rhythm(text)

    def frame(self, site: Site) -> Frame:
        """The frame, with its datum if rows are counted from a point or from the quilt's center."""
        frame = super().frame(site)
        if self.start not in ("point", "quilt centre"):
            return frame
        datum = site.quilt_centre if self.start == "quilt centre" else site.at_share(self.through)
        return replace(frame, datum=frame.into(datum))

    @property
    def follows_quilt(self) -> bool:
        """True for rows counted from the quilt's center: they differ from block to block."""
        return self.start == "quilt centre"

    def row(self, frame: Frame, number: int) -> np.ndarray:
        """Must override. The vertices (n, 3) of row ``number`` around v = 0, extending past the left and right
        bounds."""
        raise NotImplementedError

    def slope(self, frame: Frame) -> float:
        """May override. The true spacing divided by the step, where the lines are closest."""
        return 1.0

    def span(self, frame: Frame) -> tuple[float, float]:
        """May override. How far a row extends below and above its own v, mm."""
        return 0.0, 0.0

    def repeats(self, frame: Frame, number: int) -> tuple[float, float] | None:
        """May override. The length of one repeat along row ``number``, and a u where one begins, mm."""
        return None

    def lattice(self, site: Site) -> Sequence[Straight]:
        """The lines of the rows, and the lines through the beginnings of their repeats, which are slanted if rows
        slide."""
        frame = self.frame(site)
        places = self.places(frame)
        if not places or self.rhythm:
            return ()
        (number, v), step = places[0], self.step(frame)
        here, above = self.repeats(frame, number), self.repeats(frame, number + 1)
        rows = _through(frame, 0.0, step, (0.0, v))
        if here is None or above is None:
            return (rows,)
        period, u = here
        half = period / 2 - SNAP  # rows set over by half a repeat lean one way always
        lean = math.atan2(float(step), (above[1] - u - half) % period + half - period)
        across = Fraction(period * math.sin(lean)).limit_denominator(10**9)
        return rows, _through(frame, math.degrees(lean), across, (u, v))

    def step(self, frame: Frame) -> Fraction:
        """The ruler's step from row to row, exact mm."""
        if self.typed == "step" or self.slope(frame) == 1.0:
            return self.spacing.mm
        return Fraction(float(self.spacing.mm) / self.slope(frame)).limit_denominator(10**9)

    def places(self, frame: Frame) -> list[tuple[int, float]]:
        """Index and v of every row that can meet the zone."""
        below, above = self.span(frame)
        step, beats = self.step(frame), beats_of(self.rhythm)
        rows = None if self.follows_quilt else self.rows
        origin = frame.low + (float(self.first.mm) if self.first else 0.0) if self.start == "edge" else 0.0
        if self.start == "centre":
            origin = (frame.low + frame.high) / 2 - (below + above) / 2
            if rows is not None:
                origin -= float(at_beat(rows - 1, beats) * step) / 2
        if frame.datum is not None:
            origin = frame.datum[1]
        low, high = frame.low - above, frame.high - below
        if self._spares:
            high = frame.high - above + 2 * EQUAL
        edge = self.start == "edge" or rows is not None
        number = 0 if edge else -math.ceil((origin - low) / float(step * min(beats)))
        found: list[tuple[int, float]] = []
        while (v := origin + float(at_beat(number, beats) * step)) < high - EQUAL:
            if rows is not None and number >= rows:
                break
            if v > low + EQUAL:
                found.append((number, v))
            number += 1
        return found

    @property
    def _spares(self) -> bool:
        """Whether the remainder at the far edge stays open."""
        return self.whole_rows and self.start == "edge" and self.rows is None

    def spare(self, frame: Frame) -> float:
        """The width left open beyond the last row, mm; 0 if the far edge cuts rows."""
        places = self.places(frame)
        return frame.high - (places[-1][1] + self.span(frame)[1]) if self._spares and places else 0.0

    def lay_out(self, site: Site) -> Iterable[Family]:
        """One family of rows, each placed from the one before if the kit allows it."""
        frame = self.frame(site)
        yield self.family(frame, self.places(frame))

    def family(self, frame: Frame, places: Sequence[tuple[int, float]], turned_over: bool = False) -> Paths:
        """The rows at ``places``; with ``turned_over``, each mirrored about its own v. Raises TooMany."""
        paths: list[Path] = []
        hints: list[ReferenceHint | None] = []
        slides: list[float] = []
        many = 0
        before: tuple[float, np.ndarray] | None = None
        for number, v in places:
            vertices = self.row(frame, number) * (TURNED_OVER if turned_over else 1.0)
            many += len(vertices)
            check_many(many)
            slide = None if before is None else _slid(before[1], vertices)
            step = None if before is None else Fraction(v - before[0]).limit_denominator(10**6)
            hints.append(("step", step) if step and step > 0 and slide is not None else None)
            slides.append(slide or 0.0)
            before = v, vertices.copy()
            vertices[:, 1] += v
            paths.append(frame.path(vertices))
        return Paths(tuple(paths), laid_on=tuple(hints), slides=tuple(slides), way=frame.way)

    def count_at_most(self, site: Site) -> int:
        """The number of rows times the pieces that the outline may cut each into; doubled for crossed rows."""
        return 2 * len(self.places(self.frame(site))) * site.region.stretches_at_most

    def figures(self, site: Site) -> Sequence[Figure]:
        """The ruler's step and the true spacing; the one that was typed is flagged."""
        frame = self.frame(site)
        step, spare = float(self.step(frame)), self.spare(frame)
        found = [Figure(tr("Left beyond the last row"), spare)] if spare > VISIBLE else []
        if self.slope(frame) == 1.0:
            return found
        return (
            Figure(tr("Step of the ruler"), step, typed=self.typed == "step"),
            Figure(tr("True spacing, where closest"), step * self.slope(frame), typed=self.typed == "true"),
            *found,
        )

    def suggest_spacings(self, site: Site) -> Sequence[SpacingSuggestion]:
        """Spacings that divide the zone into whole steps."""
        frame = self.frame(site)
        if self.rhythm or self.rows or self.follows_quilt:
            return ()
        below, above = self.span(frame)
        extent = Fraction(round((frame.height - (above - below)) * 10**6), 10**6)
        if extent <= 0:
            return ()
        share = 1 if self.typed == "step" else Fraction(self.slope(frame)).limit_denominator(10**12)
        return even_wishes(extent * share, self.spacing)


def repeats_from(frame: Frame, period: float, begin: float) -> tuple[float, float]:
    """``period`` and a u where a repeat begins: at ``begin``, or aligned with the frame's datum."""
    if frame.datum is None:
        return period, begin
    return period, begin - (begin - frame.datum[0]) % period


def _through(frame: Frame, angle: float, pitch: Fraction, place: Point) -> Straight:
    """Even lines at ``angle`` degrees in ``frame``, one of them through ``place`` (u, v)."""
    flat = Straight(frame.angle + angle, pitch, 0.0)
    (nx, ny), (x, y) = flat.normal, frame.out(*place)
    return replace(flat, datum=x * nx + y * ny)


def check_many(points: float) -> None:
    """Raises TooMany if a zone would have more points than can be drawn."""
    if points > MOST_VERTICES:
        raise TooMany(tr("That is too much for one zone. Use a wider spacing."), "fill.spacing")


def roomy(region: Region, places: Sequence[Point], radius: float) -> list[bool]:
    """Whether a circle of ``radius`` mm around each place lies fully inside the region."""
    inner = shapely.buffer(region.area, -radius, join_style="mitre")
    if inner.is_empty or not places:
        return [False] * len(places)
    x, y = np.array(places).T
    found: list[bool] = shapely.intersects_xy(inner, x, y).tolist()
    return found


def even_wishes(extent: Fraction, spacing: Length) -> list[SpacingSuggestion]:
    """The two spacings nearest to ``spacing`` that divide ``extent`` evenly."""
    least = Length.parse(LEAST_SPACING).mm
    found = [part for part in whole_parts(extent, spacing.mm, 1) if part >= least]
    return [SpacingSuggestion(Length.near(part, spacing.unit), tr("even")) for part in found[:2]]


def check_count(value: int | None, least: int, most: int, what: str) -> int | None:
    """``value`` if it is None or within the range. Raises BadValue."""
    if value is not None and not least <= value <= most:
        raise BadValue(
            tr(
                "{what}: a whole number from {least} to {most}; {value} was given.",
                what=what,
                least=least,
                most=most,
                value=value,
            )
        )
    return value


def chance(seed: int) -> random.Random:
    """A random generator that gives the same numbers for the same seed on every machine."""
    return random.Random(f"kenzet {seed}")


def _slid(before: np.ndarray, row: np.ndarray) -> float | None:
    """How far a row is shifted along the row before, mm; None if its shape differs."""
    if len(before) != len(row) or not np.allclose(before[:, 1:], row[:, 1:], atol=EQUAL):
        return None
    moved = row[:, 0] - before[:, 0]
    return float(moved[0]) if np.ptp(moved) < EQUAL else None
