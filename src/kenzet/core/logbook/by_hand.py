"""A block measured with a tape instead of a photograph: the distance from the first of several lines to the last, and
the widest gap.

Every gap is assumed to be off by the same share of the total error (F36). The uncertainty comes from reading the
tape and from the scatter of the lines.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from kenzet.core.errors import BadValue
from kenzet.core.fills.base import Paths
from kenzet.core.kit.kit import Kit
from kenzet.core.numbers.measure import Unit, in_words
from kenzet.core.placing.place_line import planned
from kenzet.core.plan.drawing import Drawing
from kenzet.core.plan.planner import plan_zone
from kenzet.core.plan.zone_plan import ZonePlan
from kenzet.core.tolerances import VISIBLE
from kenzet.core.top.document import zone_of
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.texts import tr

READ = 0.8
"""mm: the reading error of a tape, 1/32 in."""
_LEAST, _MOST = 0.5, 2.0
"""Shares of the planned distance; a reading outside them is a miscount or a typing error."""
FEWEST_LINES = 3


@dataclass(frozen=True, slots=True)
class TapeReading:
    """In ``zone``, the first and the last of ``lines`` lines are ``span`` mm apart; the widest gap is ``gap`` mm,
    or None if not measured."""

    zone: str
    lines: int
    span: float
    gap: float | None = None


@dataclass(frozen=True, slots=True)
class TapeFound:
    """The result of a reading: the distance ``planned`` from first to last, mm; ``each`` is the error of each gap
    (negative: too narrow), ``out`` that of the last line, ``planned_gap`` the widest gap as planned."""

    reading: TapeReading
    spacing: float
    planned: float
    each: float
    planned_gap: float

    @property
    def out(self) -> float:
        """The error of the distance from first to last, mm; positive if too wide."""
        return self.reading.span - self.planned


@dataclass(frozen=True, slots=True)
class LaidSpan:
    """What a reading says about the foot: each of ``gaps`` gaps is ``out`` mm wider than computed; with the time,
    the ``side`` of the needle and the offset of the ``foot`` in the plan."""

    out: float
    gaps: int
    when: float
    side: str
    foot: float


def tape_found(laid: QuiltLayout, place: str, reading: TapeReading, unit: Unit) -> TapeFound:
    """A reading compared with the plan ``laid``; errors name lengths in ``unit``. Raises Unknown, and BadValue at
    the field that is impossible."""
    plan, drawing = _drawing(laid, reading.zone, place)
    if not FEWEST_LINES <= reading.lines <= max(drawing.lines, FEWEST_LINES):
        raise BadValue(
            tr(
                "Count at least {fewest_lines} lines; {name} has {lines} here.",
                fewest_lines=FEWEST_LINES,
                name=plan.zone.name,
                lines=f"{drawing.lines:,}",
            ),
            "lines",
        )
    spacing = float(drawing.fill.spacing.mm)
    gaps = reading.lines - 1
    whole = gaps * spacing
    if not _LEAST * whole <= reading.span <= _MOST * whole:
        raise BadValue(
            tr(
                "{gaps} gaps of {spacing} make {whole}. Count the lines again, or check what you typed.",
                gaps=gaps,
                spacing=drawing.fill.spacing.text,
                whole=in_words(whole, unit),
            ),
            "span",
        )
    if reading.gap is not None and not 0 < reading.gap <= 100 * spacing:
        raise BadValue(
            tr("The widest gap must be over 0 and at most {value}.", value=in_words(100 * spacing, unit)),
            "gap",
        )
    return TapeFound(reading, spacing, whole, (reading.span - whole) / gaps, plan.widest_gap(drawing).width)


def laid_span(laid: QuiltLayout, place: str, found: TapeFound, when: float) -> LaidSpan | None:
    """What a reading says about the foot; None if the zone's lines are not placed from each other with an etched
    line."""
    plan, drawing = _drawing(laid, found.reading.zone, place)
    on = planned(plan, drawing, plan.telling_line(drawing))
    if on.on not in ("last", "line") or on.by != "etched line" or on.total is None:
        return None
    side = "left" if plan.kit.machine.throat == "right" else "right"
    foot = float(plan.kit.foot.to_rim_at("left" if side == "left" else "right"))
    return LaidSpan(found.each - float(on.total.out), found.reading.lines - 1, when, side, foot)


def from_spans(spans: Sequence[LaidSpan], kit: Kit) -> tuple[float, float] | None:
    """The foot's offset from all readings, and its standard deviation, mm; each reading is weighted by its
    precision."""
    if not spans:
        return None
    weights = []
    for one in spans:
        sd = math.hypot(READ / one.gaps, float(kit.spread.mm) / math.sqrt(one.gaps))
        weights.append(1 / sd**2)
    whole = sum(weights)
    value = sum((one.foot + one.out) * weight for one, weight in zip(spans, weights, strict=True)) / whole
    return value, math.sqrt(1 / whole)


def _even(drawing: Drawing) -> bool:
    """Whether all lines, or all rings, are one spacing apart."""
    if (
        not drawing.fill.sewn
        or not drawing.fill.is_spaced
        or any(isinstance(one, Paths) for one in drawing.families)
    ):
        return False
    spacing = float(drawing.fill.spacing.mm)
    return all(abs(float(gap) - spacing) <= VISIBLE for family in drawing.straight for gap in family.gaps)


def _drawing(laid: QuiltLayout, zone: str, place: str) -> tuple[ZonePlan, Drawing]:
    name = zone_of(laid.quilt, zone).name
    plan = plan_zone(laid, zone)
    if plan is None or not plan.has_drawing_at(place):
        raise BadValue(tr("{name} has no lines there.", name=name), "zone")
    drawing = plan.drawing_at(place)
    if not _even(drawing):
        raise BadValue(
            tr("The lines of {name} are not evenly spaced: measure it from a photo.", name=name), "zone"
        )
    return plan, drawing
