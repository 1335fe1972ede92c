"""A zone's panel in words: its figures, offers, and advice."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from fractions import Fraction
from typing import Any

from kenzet import texts
from kenzet.core.advice.continuity import continuity
from kenzet.core.advice.contrast import neighbours
from kenzet.core.advice.counts import cells_of, rows_of
from kenzet.core.advice.edge_step import Slant, step_is_typed, takes_step
from kenzet.core.advice.features import Feature
from kenzet.core.fills import Fill
from kenzet.core.fills.base import Figure, PointFit, SpacingSuggestion
from kenzet.core.geom.affine import IDENTITY, Placing, turned
from kenzet.core.geom.headings import compass
from kenzet.core.numbers.measure import COARSE, Length, Unit, figure, long_figure
from kenzet.core.numbers.meeting import NEAR
from kenzet.core.params import Form
from kenzet.core.plan.beyond_edge import turns_beyond_edge
from kenzet.core.plan.drawing import Drawing
from kenzet.core.plan.widest_gap import WidestGap
from kenzet.core.plan.zone_plan import ZonePlan
from kenzet.core.ruler.offset_sums import best_offset_sum
from kenzet.core.tolerances import VISIBLE
from kenzet.core.top.line_ends import ALLOWANCE
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.core.top.zone import Zone
from kenzet.say import whereabouts
from kenzet.say import words as w
from kenzet.say.sum_words import Offer
from kenzet.say.zone_advice import ratio
from kenzet.texts import tr


class ApartView(w.Said):
    """Places with a fill of their own, or ``taken`` by another zone."""

    places: list[str]
    where: str
    fill: str
    taken: bool


class MeetingView(w.Said):
    """Settings that meet the features, and their meaning in words; ``exact`` is false if some are missed."""

    values: dict[str, Any]
    words: w.Words
    label: str
    exact: bool


class MeetView(w.Said):
    """The ways to meet the chosen features, those closest to the present settings first; ``said`` if there is
    none."""

    ways: list[MeetingView]
    said: str


_NO_CHANGE = Fraction(1, 2000)  # of a spacing: nobody sees it
_OF = {"right": tr("right of"), "left": tr("left of"), "up": tr("above"), "down": tr("below")}


_AT = {"right": tr("right"), "left": tr("left"), "up": tr("top"), "down": tr("bottom")}


_SAME = Fraction(1, 1000)  # mm


def apart(laid: QuiltLayout, zone: Zone) -> list[ApartView]:
    """The places with a fill of their own, and the fill."""
    found = []
    for one in zone.apart:
        fill = f"{one.fill.label}, {one.fill.spacing.text}" if one.fill else tr("unquilted")
        taken = laid.quilt.zones.get(one.taken_by or "")
        found.append(
            ApartView(
                places=list(one.places),
                where=", ".join(whereabouts.place_name(place) for place in one.places),
                fill=tr("part of “{name}”", name=taken.name) if taken else fill,
                taken=taken is not None,
            )
        )
    return found


def begins(plan: ZonePlan, drawing: Drawing, placing: Placing = IDENTITY) -> list[w.Row]:
    """Where each straight family begins, its direction, the side of the ruler and the turns of the quilt, where
    ``placing`` puts the zone; else as it is drawn alone."""
    rows, sides = [], plan.sides(drawing)
    for side in sides:
        to_ruler = compass(*turned(placing, side.ruler))
        angle = f"{side.angle:.4g}"
        label = tr("Begin the lines at {angle}°", angle=angle) if len(sides) > 1 else tr("Begin")
        begin = tr(
            "at the {at}, {which}",
            at=_AT[to_ruler],
            which=tr("from the seam") if side.on_seam else tr("on a marked line"),
        )
        if side.across:
            begin = tr("across the first set, by a line of the ruler")
        elif side.turns:
            begin = tr("in the middle, on the marked line; then the other half")
        rows.append(w.Row(label=[label], words=[begin]))
        turn = tr("no turn") if not side.turns else tr("turn the quilt once")
        beside = tr("What is sewn lies") if plan.kit.sew_with == "walking foot" else tr("Ruler")
        rows.append(
            w.Row(label=[tr("{beside} {of} the needle", beside=beside, of=_OF[to_ruler])], words=[turn])
        )
    return rows


def offers(plan: ZonePlan, drawing: Drawing, place: str, unit: Unit) -> list[Offer]:
    """Spacings near the present one that suit the zone, those on the rulers first; the present one is flagged."""
    typed = figure(drawing.fill.spacing.mm, unit, about=True).text
    found = []
    for wish in plan.suggest_spacings(drawing, place):
        lacks = _lacks(plan, drawing, wish, unit)
        offer = Offer(
            value=wish.length.text,
            values={"spacing": wish.length.text, **dict(wish.values)},
            # a value that reads like the one typed says that it is a hair more or less
            words=[
                w.shown(
                    wish.length.mm,
                    unit,
                    bare=unit == "in",
                    about=figure(wish.length.mm, unit, about=True).text != typed,
                )
            ],
            label=_does(wish, drawing.fill.spacing.mm) + lacks,
            now=not wish.values and abs(wish.length.mm - drawing.fill.spacing.mm) < _SAME,
        )
        found.append((bool(lacks), offer))
    return [offer for _, offer in sorted(found, key=lambda one: one[0])]


def _lacks(plan: ZonePlan, drawing: Drawing, wish: SpacingSuggestion, unit: Unit) -> str:
    """If no ruler has exactly this spacing, the nearest one that a ruler has."""
    if not len(drawing.stretches):
        return ""
    total = best_offset_sum(plan.kit, wish.length.mm, float(drawing.lengths.max(initial=0.0)))
    if abs(total.off) < VISIBLE:
        return ""
    return tr(" · ruler has {near}", near=figure(total.spacing + total.off, unit).text)


_MOST_CURVES = 3


def by_her_curves(
    plan: ZonePlan, drawing: Drawing, place: str, unit: Unit
) -> tuple[list[Offer], list[w.Words]]:
    """What the curved edges would make of a fill, as offers; and why one makes nothing."""
    fill = drawing.fill
    offered: list[Offer] = []
    refused: list[w.Words] = []
    for one in plan.by_her_curves(drawing, place):
        for wish in one.makes:
            values = {"spacing": wish.length.text, **dict(wish.values)}
            now = all(_same_length(getattr(fill, name), text) for name, text in values.items())
            offered.append(
                Offer(
                    value=wish.length.text,
                    values=values,
                    words=[w.shown(wish.length.mm, unit, bare=unit == "in", about=True)],
                    label=tr("{does} by “{name}”", does=wish.does, name=one.name),
                    now=now,
                )
            )
        if one.refused:
            sews = w.shown(one.sewn, unit, COARSE[unit], about=True)
            refused.append(
                w.told(
                    "“{name}” sews a radius of {sews}: {refused}.",
                    name=one.name,
                    sews=sews,
                    refused=one.refused,
                )
            )
    own = float(fill.spacing.mm)
    offered.sort(key=lambda offer: abs(float(Length.parse(offer.value).mm) - own))
    return offered[:_MOST_CURVES], refused[:1]


def _same_length(value: object, text: str) -> bool:
    return isinstance(value, Length) and abs(value.mm - Length.parse(text).mm) < _SAME


def step_field(fill: Fill, slants: Sequence[Slant], unit: Unit) -> w.FieldView | None:
    """The step along the edge as a field, if lines meet an edge at an angle."""
    if not slants or not takes_step(fill):
        return None
    typed = getattr(fill, "step", None) if step_is_typed(fill, slants) else None
    length = typed or Length.near(slants[0].step, unit)
    form = Form(
        "length",
        tr("Step along the edge, at {degrees}°", degrees=f"{slants[0].degrees:.4g}"),
        tr("The distance follows from it."),
    )
    return w.field("along_edge", form, length, unit)


def figures(told: Iterable[Figure], unit: Unit) -> list[w.Row]:
    """The fill's figures besides its spacing."""
    return [w.Row(label=[figure.label], words=[_figure(figure, unit)], typed=figure.typed) for figure in told]


def _figure(told: Figure, unit: Unit) -> str | w.Shown:
    if told.what == "length":
        return w.shown(told.value, unit, COARSE[unit] / 4)
    if told.what == "sewn":  # as it is told at the machine, leg by leg
        return w.shown(told.value, unit, COARSE[unit], about=True)
    if told.what == "angle":
        return f"{told.value:.2f}°".replace(".00°", "°")
    return f"{told.value:.1f}".removesuffix(".0")


def _does(wish: SpacingSuggestion, wanted: Fraction) -> str:
    """The effect of a spacing, and its change if there is any."""
    change = (wish.length.mm - wanted) / wanted
    if abs(change) < _NO_CHANGE or abs(wish.length.mm - wanted) < _SAME:
        return wish.does
    return f"{wish.does} {float(change):{'+.0%' if abs(change) >= Fraction(1, 100) else '+.1%'}}".replace(
        "-", "\u2212"
    ).replace("%", "\u202f%")


def neighbourhood(
    laid: QuiltLayout, plans: Mapping[str, ZonePlan], plan: ZonePlan, place: str, unit: Unit
) -> list[w.Row]:
    """The zone compared with its neighbors."""
    found: list[w.Row] = []
    flows = continuity(plan)
    if flows is not None:
        words: w.Words = [tr("lines meet")] if flows.meets else [tr("lines turn")]
        if not flows.meets and not flows.turned:
            words = w.told("miss by {miss}", miss=w.shown(flows.miss, unit, COARSE[unit] / 2, about=True))
        found.append(w.Row(label=[tr("From block to block")], words=words))
    for beside in neighbours(laid, plans, plan.key, place)[:4]:
        found.append(w.Row(label=[tr("Beside {name}", name=beside.name)], words=[ratio(beside.ratio)]))
    return found


def beyond_edge(laid: QuiltLayout, plan: ZonePlan, drawing: Drawing, place: str, unit: Unit) -> list[w.Row]:
    """The point from which to count at the quilt's edge, and how far outside it lines turn."""
    far = turns_beyond_edge(laid, drawing, place)
    found: list[w.Row] = []
    if laid.reaches_edge(plan.zone) and drawing.lines:
        counted: w.Words = w.told(
            "the finished edge, {allowance} inside the raw one", allowance=w.shown(ALLOWANCE, unit)
        )
        found.append(w.Row(label=[tr("At the quilt’s edge, count from")], words=counted))
    if far:
        out = w.shown(far, unit, COARSE[unit], about=True)
        found.append(
            w.Row(label=[tr("Turns outside the finished edge")], words=w.told("up to {out}", out=out))
        )
    return found


_CELLS = {"whole": tr("whole"), "half": tr("half"), "quarter": tr("quarter"), "other": tr("cut differently")}


def rows(
    plan: ZonePlan, drawing: Drawing, slants: Sequence[Slant], gap: WidestGap | None, unit: Unit
) -> list[w.Row]:
    """The figures of a zone."""
    found = [
        w.Row(
            label=[tr("Step along an edge at {degrees}°", degrees=f"{slant.degrees:.4g}")],
            words=[w.shown(slant.step, unit)],
        )
        for slant in slants[:2]
    ]
    if slants:
        found[0] = w.Row(
            label=w.told("Step along the edge, at {degrees}°", degrees=f"{slants[0].degrees:.4g}"),
            words=[w.shown(slants[0].step, unit)],
            typed=step_is_typed(drawing.fill, slants),
        )
    what = drawing.fill.lines_are
    times = sum(len(d.places) for d in plan.drawings)
    many = rows_of(drawing)
    cut = tr(", {cut} of them cut", cut=f"{many.cut:,}") if many.cut else ""
    found.append(
        w.Row(label=[tr("{what} here", what=what) if times > 1 else what], words=[f"{many.rows:,}{cut}"])
    )
    if drawing.fill.sewn:
        label = tr("Lines to sew here · in the quilt") if times > 1 else tr("Lines to sew")
        count = f"{drawing.lines:,} · {plan.lines_to_sew:,}" if times > 1 else f"{drawing.lines:,}"
        found.append(w.Row(label=[label], words=[count]))
    if cells := cells_of(plan, drawing):
        told = [f"{cells[name]:,} {said}" for name, said in _CELLS.items() if cells.get(name)]
        found.append(w.Row(label=[tr("Cells here")], words=[", ".join(told)]))
    if drawing.left_out:
        shortest = w.shown(drawing.fill.least_piece or drawing.least, unit, COARSE[unit], about=True)
        found.append(
            w.Row(
                label=w.told("Left out here: shorter than {shortest}", shortest=shortest),
                words=[texts.many(drawing.left_out, "piece")],
            )
        )
    long = long_figure(plan.stitched_in_quilt, unit)
    both = f"{long_figure(drawing.stitched, unit)} · {long}" if times > 1 else long
    found.append(
        w.Row(label=[tr("Stitching here · in the quilt") if times > 1 else tr("Stitching")], words=[both])
    )
    found.append(w.Row(label=[tr("Density")], words=[w.density(drawing.density, unit)]))
    edges = plan.edge_remainders(drawing)
    if edges and drawing.lines:
        left = w.shown(edges[0].gap, unit, COARSE[unit] / 2, about=True)
        found.append(w.Row(label=[tr("Left along an edge")], words=[left]))
    limit = plan.kit.batting.limit.mm
    found.append(
        w.Row(
            label=[tr("Widest gap · allowed")],
            words=[
                w.shown(gap.width, unit, COARSE[unit], about=True) if gap else tr("measuring …"),
                " · ",
                w.shown(limit, unit),
            ],
        )
    )
    return found


def meetings(ways: Sequence[PointFit], chosen: Sequence[Feature], unit: Unit) -> MeetView:
    """The ways to meet features; missed features are named with their distance."""
    views = []
    for way in ways:
        counts = sorted({n for n in map(abs, way.counts) if n})
        steps = tr(" and ").join(str(n) for n in counts[-2:]) or tr("no")
        does = [tr("{steps} steps", steps=steps), f"{way.change:+.1%}".replace("-", "−").replace("%", " %")]
        if way.arrives:
            does.append(tr("arrives on the {arrives}", arrives=way.arrives))
        if way.give:
            does.append(tr("misses ") + ", ".join(chosen[k + 1].name for k in way.give[:3]))
            worst = max((abs(miss) for miss in way.misses), default=0.0)
            if worst > NEAR:
                does.append(
                    tr(
                        "by {worst} {unit}",
                        worst=figure(worst, unit, COARSE[unit] / 2, about=True).text,
                        unit=unit,
                    )
                )
        values = {**dict(way.values), "through": list(way.through)}
        words: w.Words = [w.shown(way.step.mm, unit, about=True)]
        views.append(MeetingView(values=values, words=words, label=" · ".join(does), exact=not way.give))
    hit = any(view.exact for view in views)
    said = "" if hit else tr("No spacing within a third of yours meets them all.")
    return MeetView(ways=views, said=said)


ORDERS: dict[str, tuple[str, ...]] = {
    "": (), "sets": (tr("the first set"), tr("the second set")), "rings": (tr("the outermost ring"), tr("the innermost")), "outline": (tr("the outline"), tr("what is inside it")),
    "cells": (tr("any figure"), tr("whole figures")),
}  # fmt: skip
"""What can be sewn first in a fill, and the default."""
