"""Fills that suit a zone, each with settings that make sense there.

Glossary: a fill *suits* a zone if its lines can be laid out in it and some of them can be sewn.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from fractions import Fraction

import shapely
from pydantic import ValidationError

from kenzet.core.errors import KenzetError
from kenzet.core.fills import FILLS, Fill, default_fill
from kenzet.core.fills.base import Rings
from kenzet.core.numbers.measure import MM_PER, Length, rounded
from kenzet.core.plan.drawing import Drawing, draw
from kenzet.core.plan.planner import check_hollow, kit_of, least_line
from kenzet.core.plan.zone_plan import ZonePlan, site_at
from kenzet.core.route.needle import STOP_S
from kenzet.core.route.turns import turns_along
from kenzet.core.tolerances import VISIBLE
from kenzet.core.top.quilt_layout import QuiltLayout, ZoneShape
from kenzet.core.top.stitching import Stitching

_SHARES = (Fraction(1), Fraction(1, 2), Fraction(1, 4), Fraction(1, 8))
_MOST_LINES = 4000
_LEAST_SHOWN = 1.5  # times the zone's inradius
_GRAIN = MM_PER["in"] / 16


def suited(
    laid: QuiltLayout, key: str, kind: str, given: dict[str, object] | None = None, place: str = ""
) -> TriedFill | None:
    """A fill of ``kind`` with settings that suit zone ``key``: the values of ``given`` that apply, else the fill's
    defaults; all lengths are halved until some lines fit. None if it does not suit the zone."""
    zone = laid.zone(key)
    shape = (laid.shape_at(zone, place) if place else None) or laid.shapes(zone)[0]
    place = place if place in shape.places else shape.places[0]
    for fill in candidates(kind, given):
        found = try_fill(laid, key, fill, shape, place)
        if found and shows(found.drawing):
            return found
    return None


def gallery(
    laid: QuiltLayout, key: str, given: dict[str, object] | None = None, place: str = ""
) -> Iterator[TriedFill]:
    """Every fill that suits the zone, in the order of the chooser."""
    for kind in FILLS:
        found = suited(laid, key, kind, given, place)
        if found:
            yield found


@dataclass(frozen=True, slots=True)
class Effort:
    """The work of a fill at one place: ``minutes`` in total and at the ``needle``, lines, lines to mark, thread cuts,
    and ``ease``.

    ``ease`` is 1 for straight lines, 2 with pivots, 3 with curves along a ruler, 4 for freehand.
    """

    minutes: float
    needle: float
    lines: int
    marks: int
    stops: int
    ease: int


_MARK_S = 15.0
"""Seconds to mark a line (our estimate)."""


def needle_minutes(plan: ZonePlan, drawing: Drawing, stitching: Stitching) -> tuple[float, int]:
    """F42 for one place at the quilter's pace, without travel, thread cuts and marking; and the ``ease`` of
    ``Effort``."""
    pace = stitching.pace
    pivots, on_arcs = turns_along([trace.path for trace in drawing.traces])
    curved = on_arcs.sum() > len(on_arcs) / 2
    ease = 4 if drawing.hints else 3 if curved else 2 if pivots else 1
    walking = plan.kit.sew_with == "walking foot"
    along = (
        pace.freehand
        if ease == 4
        else pace.walking
        if walking
        else pace.curved
        if ease == 3
        else pace.straight
    )
    laid = 0 if walking or ease == 4 else drawing.lines + pivots
    return drawing.stitched / float(along.mm) + (laid * pace.lay + pivots * pace.turn) / 60, ease


def effort(plan: ZonePlan, drawing: Drawing, stitching: Stitching) -> Effort:
    """An estimate for one place at the quilter's pace: needle time, pivots, ruler shifts, thread cuts and marks
    (F42)."""
    needle, ease = needle_minutes(plan, drawing, stitching)
    marks = len(plan.references(drawing).marked) if drawing.fill.sewn else drawing.lines
    stops = thread_stops(drawing, float(stitching.longest_step.mm) if stitching.steps == "allowed" else 0.0)
    around = (stops * STOP_S[stitching.ends] + marks * _MARK_S) / 60
    return Effort(needle + around, needle, drawing.lines, marks, stops, ease)


def thread_stops(drawing: Drawing, step: float = 0.0) -> int:
    """An estimate of the thread cuts; F34 gives the exact number.

    Lines that end on an edge are connected along it, and rings no farther apart than ``step`` mm by a step: one
    run for each piece. Every other ring, and each line that ends inside, is a run of its own.
    """
    if drawing.hints:
        return len(drawing.region.pieces)
    outline = drawing.region.area.boundary
    alone = joined = 0
    for trace in drawing.traces:
        family = drawing.families[trace.family]
        if isinstance(family, Rings) and float(family.pitch) <= step:
            joined = 1
        elif (
            trace.closed or max(outline.distance(shapely.Point(*trace.points[k])) for k in (0, -1)) > VISIBLE
        ):
            alone += 1
    return alone + (len(drawing.region.pieces) if alone < drawing.lines or joined else 0)


def candidates(kind: str, given: dict[str, object] | None = None) -> Iterable[Fill]:
    """Settings to try in turn: the given ones, then the fill's defaults, halved and halved again."""
    if given and given.get("kind") == kind:
        yield default_fill(kind, given)
    elif given:
        yield default_fill(kind, {k: v for k, v in given.items() if k in ("kind", "spacing")})
    for share in _SHARES:
        try:
            yield scaled(FILLS[kind].model_validate({}), share)
        except ValidationError:
            return


def scaled(fill: Fill, share: Fraction) -> Fill:
    """``fill`` with all its lengths multiplied by ``share``, rounded to sixteenths of an inch."""
    if share == 1:
        return fill
    lengths = {
        name: Length.near(max(rounded(value.mm * share, _GRAIN), _GRAIN), "in").text
        for name, value in fill
        if isinstance(value, Length)
    }
    return type(fill).model_validate({**fill.model_dump(mode="json"), **lengths})


def shows(drawing: Drawing) -> bool:
    """Whether the lines are more than scraps in the zone, and not too many to be looked at."""
    if drawing.hints:
        return True
    long = (
        sum(drawing.length_of(line) for line in range(drawing.lines)) if drawing.lines <= _MOST_LINES else 0.0
    )
    return long > _LEAST_SHOWN * drawing.region.inradius


def try_fill(laid: QuiltLayout, key: str, fill: Fill, shape: ZoneShape, place: str) -> TriedFill | None:
    """``fill`` in one shape of a zone; None if it cannot be laid out there."""
    site = site_at(shape, place, laid.middle)
    try:
        check_hollow(fill, site, kit_of(laid, laid.zone(key)))
        drawing = draw(shape, fill, tuple(fill.lay_out(site)), (place,), least=least_line(laid))
    except KenzetError:
        return None
    return TriedFill(
        fill, ZonePlan(key, laid.zone(key), kit_of(laid, laid.zone(key)), (drawing,), laid.middle, laid.memo)
    )


@dataclass(frozen=True)
class TriedFill:
    """A fill tried in a zone, with a plan of one place only."""

    fill: Fill
    plan: ZonePlan

    @property
    def drawing(self) -> Drawing:
        """The drawing of that place."""
        return self.plan.drawings[0]
