"""Where straight lines are counted from, and their angle: shared by all straight fills.

Glossary: the *datum* is the place of line 0 along the family's normal; the *first gap* is the distance from there
to the first line.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import replace
from fractions import Fraction
from typing import Annotated, Any, Literal, TypeVar

from pydantic import Field, field_validator

from kenzet.core.errors import BadValue
from kenzet.core.fills.base import (
    LEAST_SPACING,
    MOST_SPACING,
    PointFit,
    Site,
    SliverFix,
    SliverFixHow,
    SpacingSuggestion,
)
from kenzet.core.fills.edge_remainders import edge_remainders
from kenzet.core.fills.rhythm import EVEN, at_beat, beats_of, check_rhythm
from kenzet.core.fills.skipping import SkippingFill
from kenzet.core.geom.clip import Straight
from kenzet.core.geom.region import Edge, Floats, Point, Region
from kenzet.core.numbers.measure import Length
from kenzet.core.numbers.meeting import whole_steps
from kenzet.core.numbers.spacing import common_part, equalised, whole_parts
from kenzet.core.params import Choice, Form, asked, in_range, normal_angle
from kenzet.core.tolerances import ROUNDING, SAME_PLACE
from kenzet.texts import tr

T = TypeVar("T")
Share2 = tuple[Annotated[float, Field(ge=-1, le=2)], Annotated[float, Field(ge=-1, le=2)]]
"""A point as shares of the zone's width and height."""
Origin = Literal["centre line", "centre gap", "edge", "corner", "quilt centre", "point"]

ORIGINS = (
    Choice("centre line", tr("line on the center")),
    Choice("centre gap", tr("gap on the center")),
    Choice("edge", tr("an edge"), picks="edge"),
    Choice("corner", tr("a corner"), picks="corner"),
    Choice("quilt centre", tr("quilt center")),
    Choice("point", tr("a point of the piecing"), picks="point"),
)


class StraightFill(SkippingFill):
    """Base of fills made of straight families that share spacing, datum and angle.

    ``step`` is the step along an edge, if it was typed and the spacing follows from it (F6).
    """

    spacing: Length = asked(
        "3/4 in", Form("length", tr("Spacing"), tr("Distance between lines, measured square to them."))
    )
    angle: float = asked(
        45.0,
        Form(
            "angle",
            tr("Angle"),
            tr("Degrees from level, or from the seam you choose."),
            presets=(0, 90, 45, 60, 30),
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
    origin: Origin = asked(
        "centre line",
        Form("choice", tr("Counted from"), tr("Where the first line is measured from."), choices=ORIGINS),
    )
    at: int | None = asked(None, Form("count", tr("Which edge or corner"), empty=tr("chosen for you")))
    through: Share2 | None = None
    step: Length | None = None
    rhythm: str | None = asked(
        None,
        Form(
            "text",
            tr("Rhythm"),
            tr("The repeating gaps, in multiples of the spacing: 1 2 2 4."),
            empty=tr("even"),
        ),
    )
    first_gap: Length | None = asked(
        None,
        Form(
            "length", tr("First gap"), tr("From the edge, corner or center to the first line."),
            empty=tr("the same as the rest"), only_with=("origin", ("edge", "corner", "quilt centre")),
        ),
    )  # fmt: skip

    @field_validator("first_gap")
    @classmethod
    def _first_gap(cls, length: Length | None) -> Length | None:
        return length and in_range(length, "0 in", MOST_SPACING, tr("The first gap"))

    @field_validator("angle", mode="before")
    @classmethod
    def _angle(cls, value: Any) -> float:
        return check_angle(value)

    @field_validator("rhythm")
    @classmethod
    def _rhythm(cls, text: str | None) -> str | None:
        return check_rhythm(text)

    @property
    def beats(self) -> tuple[Fraction, ...]:
        """May override. The repeating list of gaps, in multiples of the spacing."""
        return beats_of(self.rhythm)

    @property
    def follows_quilt(self) -> bool:
        """True for lines counted from the quilt's center: they differ from block to block."""
        return self.origin == "quilt centre"

    def family(self, site: Site, angle: float, spacing: Fraction | None = None) -> Straight:
        """The family at ``angle`` degrees in the part's coordinates, with its own ``spacing`` (mm) if given."""
        s = spacing or self.spacing.mm
        edge = self._edge(site, angle)
        offsets = tuple(at_beat(k, self.beats) * s for k in range(len(self.beats)))
        flat = Straight(angle, sum(self.beats, Fraction(0)) * s, 0.0, offsets=offsets)
        gap = s if self.first_gap is None else self.first_gap.mm
        if self.origin == "edge" and edge is not None:
            return _from_edge(site, flat, edge, gap)
        start, shift = self._start(site, flat, gap)
        return replace(flat, datum=_across(flat, start) + float(shift))

    def base_angle(self, site: Site) -> float:
        """The direction from which ``angle`` is measured, degrees. Raises BadValue for an edge that does not
        exist."""
        return 0.0 if self.along is None else pick(site.region.edges, self.along, "along", "edge").angle

    def _start(self, site: Site, flat: Straight, gap: Fraction) -> tuple[Point, Fraction]:
        half = flat.gaps[-1] / 2
        if self.origin == "centre line":
            return site.centre, Fraction(0)
        if self.origin == "centre gap":
            return site.centre, half
        shift = Fraction(0) if self.first_gap is None else gap
        if self.origin == "quilt centre":
            return site.quilt_centre, shift
        if self.origin == "point":
            return site.at_share(self.through), shift
        corner = pick(site.region.corners, self.at or 0, "at", "corner")
        return corner, shift

    def _edge(self, site: Site, angle: float) -> Edge | None:
        if self.origin != "edge":
            return None
        edges = site.region.edges
        if self.at is not None:
            return pick(edges, self.at, "at", "edge")
        if not edges:
            raise BadValue(tr("This zone has no straight edge: count from its center."), "origin")
        flat = Straight(angle, self.spacing.mm, 0.0)
        forward = (
            1 if flat.normal[0] > ROUNDING or (abs(flat.normal[0]) <= ROUNDING and flat.normal[1] > 0) else -1
        )
        level = [edges[number] for number in site.region.edges_along(flat.direction)]
        return min(level or edges, key=lambda e: (forward * _across(flat, e.start), -e.length))

    def straight_wishes(self, site: Site, angles: Sequence[float]) -> Sequence[SpacingSuggestion]:
        """At most three spacings near the present one that suit all ``angles`` at once, nearest first."""
        if self.beats != EVEN:
            return []
        unit = self.spacing.unit
        counted = self._counted_from_datum()
        families = [counted.family(site, angle) for angle in angles]
        wishes: dict[Length, str] = {}
        reaches, odd = self._reaches(site, families), self.origin == "centre gap"
        even = _parts(reaches, self.spacing.mm, odd)
        far = [] if even or not reaches else _parts([max(reaches)], self.spacing.mm, odd)
        for does, parts in ((tr("even"), even), (tr("even at the far end"), far)):
            wishes |= {Length.near(part, unit): does for part in parts}
        if self.first_gap is None and self.origin != "centre gap":
            corners = {x for family in families for x in _corner_places(site.region, family)}
            for part in _parts(sorted(corners), self.spacing.mm):
                length = Length.near(part, unit)
                wishes[length] = tr("even, corners") if length in wishes else tr("corners")
        least = Length.parse(LEAST_SPACING).mm
        ranked = sorted(
            (w for w in wishes if w.mm >= least), key=lambda w: (abs(w.mm - self.spacing.mm), w.mm)
        )
        return [SpacingSuggestion(length, wishes[length]) for length in ranked[:3]] + self._centred_otherwise(
            site, angles
        )

    def _centred_otherwise(self, site: Site, angles: Sequence[float]) -> list[SpacingSuggestion]:
        """The nearest even spacing with a gap in the center instead of a line, or a line instead of a gap."""
        others: dict[Origin, tuple[Origin, str]] = {
            "centre line": ("centre gap", tr("even, gap on the center")),
            "centre gap": ("centre line", tr("even, line on the center")),
        }
        if self.origin not in others:
            return []
        origin, does = others[self.origin]
        other = self.model_copy(update={"origin": origin})
        families = [other.family(site, angle) for angle in angles]
        even = _parts(other._reaches(site, families), self.spacing.mm, origin == "centre gap")
        least = Length.parse(LEAST_SPACING).mm
        near = [Length.near(part, self.spacing.unit) for part in even if part >= least]
        return [SpacingSuggestion(length, does, (("origin", origin),)) for length in near[:1]]

    def fix_sliver(self, site: Site) -> SliverFix | None:
        """The other kind of centering (F10) or the even spacing (F9), checked to leave no slivers."""
        other: dict[SliverFixHow, StraightFill] = {}
        if self.beats != EVEN:
            return None
        if self.origin == "centre line":
            other["gap on the center"] = self.model_copy(update={"origin": "centre gap"})
        elif self.origin == "centre gap":
            other["line on the center"] = self.model_copy(update={"origin": "centre line"})
        elif self.origin == "edge" and self.first_gap is None:
            family = self.family(site, self.base_angle(site) + self.angle)
            places = _all_across(family, site.region.extreme_places) or [0.0]
            extent = Fraction(round((max(places) - min(places)) * 10**6), 10**6)
            even = Length.near(equalised(extent, self.spacing.mm).spacing, self.spacing.unit)
            other["even spacing"] = self.model_copy(update={"spacing": even})
        for how, fill in other.items():
            families = [family for family in fill.lay_out(site) if isinstance(family, Straight)]
            gaps = edge_remainders(site.region, families)
            if gaps and not gaps[0].sliver:
                if how == "even spacing":
                    return SliverFix(how, fill.spacing.mm, (("spacing", fill.spacing.text),))
                return SliverFix(how, gaps[0].gap, (("origin", fill.origin),))
        return None

    def angles(self, site: Site) -> list[float]:
        """May override. The directions of its families, degrees."""
        return [self.base_angle(site) + self.angle]

    def fit_to_points(self, site: Site, points: Sequence[Point]) -> Sequence[PointFit]:
        """Spacings with which a line of every family passes through all of ``points``."""
        if len(points) < 2 or self.beats != EVEN:
            return []
        distances: list[float] = []
        for angle in self.angles(site):
            flat = Straight(angle, self.spacing.mm, 0.0)
            distances += [_across(flat, point) - _across(flat, points[0]) for point in points[1:]]
        share = site.share_of(points[0])
        found = []
        for steps in whole_steps(distances, float(self.spacing.mm)):
            length = Length.near(steps.step, self.spacing.unit)
            give = tuple(sorted({k % (len(points) - 1) for k in steps.give}))
            found.append(
                PointFit(
                    (("spacing", length.text), ("origin", "point")),
                    share,
                    steps.change,
                    steps.counts,
                    length,
                    give=give,
                    misses=steps.misses,
                )
            )
        return found

    def _counted_from_datum(self) -> StraightFill:
        """The same fill with its first line on the edge it is counted from, if no first gap is set."""
        if self.origin == "edge" and self.first_gap is None:
            return self.model_copy(update={"first_gap": Length.parse("0 in")})
        return self

    def _reaches(self, site: Site, families: Sequence[Straight]) -> list[float]:
        """The distance the region extends beyond line 0 on either side: a whole number of spacings if it comes out
        even.

        For a gap in the center, twice that distance.
        """
        found: list[float] = []
        for family in families:
            datum = family.datum - (float(self.spacing.mm / 2) if self.origin == "centre gap" else 0.0)
            places = [place - datum for place in _all_across(family, site.region.extreme_places)] or [0.0]
            ends = [max(places)] if family.first is not None else [-min(places), max(places)]
            found += [2 * x if self.origin == "centre gap" else abs(x) for x in ends]
        return found


def _corner_places(region: Region, family: Straight) -> set[float]:
    return {abs(place - family.datum) for place in _all_across(family, region.corner_places)}


def _parts(places: Sequence[float], spacing: Fraction, odd: bool = False) -> list[Fraction]:
    """The two spacings nearest ``spacing`` that divide every place into a whole (or odd) number."""
    reaches = [x for x in places if x > 1.0]
    unit = common_part(reaches)
    if not unit or (odd and any(round(x / unit) % 2 == 0 for x in places)):
        return []  # an even number of parts is an even number of odd parts, too
    exact = Fraction(round(unit * 10**9), 10**9)
    return whole_parts(exact, spacing, 2 if odd else 1, odd)[:2]


def check_angle(value: Any) -> float:
    """Degrees from -180 to 180, as a direction in [0, 180). Raises BadValue."""
    typed = "" if value is None else str(value).strip()
    wanted = tr("a number of degrees between -180 and 180")
    if not typed:
        raise BadValue(tr("The angle is missing: give {wanted}.", wanted=wanted))
    try:
        degrees = float(typed.replace("°", "").replace(",", "."))
    except ValueError:
        degrees = math.nan
    if not -180 <= degrees <= 180:
        raise BadValue(tr("“{typed}” is not an angle: give {wanted}.", typed=typed[:20], wanted=wanted))
    return normal_angle(degrees)


def _across(family: Straight, point: Point) -> float:
    nx, ny = family.normal
    return point[0] * nx + point[1] * ny


def _all_across(family: Straight, points: Floats) -> list[float]:
    """The place of each point (n, 2) along the family's normal, mm."""
    nx, ny = family.normal
    places: list[float] = (points[:, 0] * nx + points[:, 1] * ny).tolist()
    return places


def _from_edge(site: Site, flat: Straight, edge: Edge, gap: Fraction) -> Straight:
    """Lines from ``gap`` inwards; on both sides if the region lies on both sides of the edge."""
    place = _across(flat, edge.start)
    sides = [across - place for across in _all_across(flat, site.region.extreme_places)]
    low, high = min(sides) < -SAME_PLACE, max(sides) > SAME_PLACE
    if low and not high:  # turn the family round so that its numbers grow inwards
        return replace(flat, angle=flat.angle + 180.0, datum=-place + float(gap), first=0)
    return replace(flat, datum=place + float(gap), first=None if low else 0)


def pick(found: Sequence[T], index: int, field: str, what: str) -> T:
    """Element ``index`` of ``found``. Raises BadValue at ``field`` if it does not exist."""
    if 0 <= index < len(found):
        return found[index]
    raise BadValue(
        tr(
            "This zone has {found} {what}s; there is no number {index}.",
            found=len(found),
            what=what,
            index=index + 1,
        ),
        field,
    )
