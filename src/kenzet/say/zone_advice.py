"""Advice on a zone: the most harmful point first, with its remedy if one setting is enough."""

from __future__ import annotations

from collections.abc import Mapping

from kenzet.core.advice.continuity import continuity, continuity_fix
from kenzet.core.advice.contrast import neighbours, stands_alone
from kenzet.core.geom.edge_ticks import edge_names
from kenzet.core.geom.place_names import nth
from kenzet.core.numbers.measure import COARSE, INCH, Unit
from kenzet.core.placing.line_order import pieces_of
from kenzet.core.plan.beyond_edge import turns_beyond_edge
from kenzet.core.plan.drawing import Drawing
from kenzet.core.plan.widest_gap import WidestGap
from kenzet.core.plan.zone_plan import ZonePlan
from kenzet.core.ruler.drift import anchor_every, error_after
from kenzet.core.ruler.offset_sums import OffsetSum
from kenzet.core.tolerances import VISIBLE
from kenzet.core.top.line_ends import ALLOWANCE
from kenzet.core.top.naming import where
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.say import words as w
from kenzet.texts import tr

_MOST_PIECES = 200


def known(
    laid: QuiltLayout,
    plans: Mapping[str, ZonePlan],
    plan: ZonePlan,
    drawing: Drawing,
    place: str,
    gap: WidestGap | None,
    unit: Unit,
) -> list[w.Known]:
    """All points, the most harmful first."""
    found = [
        *_nothing_sewn(drawing, unit),
        *_too_wide(plan, gap, unit),
        *_empty_pieces(drawing),
        *_beyond_edge(laid, plan, drawing, place, unit),
        *_sliver(plan, drawing, place, unit),
        *_does_not_meet(plan),
        *_drifts(plan, drawing, unit),
        *(w.Known(words=[note], tone="tells") for note in drawing.fill.notes()),
        *_no_contrast(laid, plans, plan, place),
        *_alone(plans, plan),
    ]
    return sorted(found, key=lambda one: one.tone == "tells")


def drift(plan: ZonePlan, drawing: Drawing, unit: Unit) -> w.Words:
    """The error from placing each line from the last one, and how many marked lines limit it; empty if no lines
    are placed so."""
    return next((one.words for one in _drifts(plan, drawing, unit)), [])


def _warns(*words: str | w.Shown, mend: w.Mend | None = None, at: list[float] | None = None) -> w.Known:
    return w.Known(words=list(words), tone="warns", mend=mend, at=at)


def _nothing_sewn(drawing: Drawing, unit: Unit) -> list[w.Known]:
    if drawing.lines or drawing.hints:
        return []
    if drawing.left_out:
        shortest = w.shown(drawing.fill.least_piece or drawing.least, unit, COARSE[unit], about=True)
        mend = (
            w.Mend(label=tr("Keep every line"), values={"skip": None}) if drawing.fill.least_piece else None
        )
        return [
            _warns(
                *w.told(
                    "Nothing is sewn: all {left_out} lines are shorter than {shortest} and left out.",
                    left_out=f"{drawing.left_out:,}",
                    shortest=shortest,
                ),
                mend=mend,
            )
        ]
    return [
        _warns(
            tr(
                "No line fits: the zone is narrower than the spacing. Use a smaller spacing or leave the zone unquilted."
            )
        )
    ]


def _too_wide(plan: ZonePlan, gap: WidestGap | None, unit: Unit) -> list[w.Known]:
    limit = plan.kit.batting.limit.mm
    if gap is None or gap.width <= float(limit) + VISIBLE:
        return []
    return [
        _warns(
            *w.told(
                "The widest gap is {width}; your batting allows {limit}. Use a smaller spacing, or choose another batting.",
                width=w.shown(gap.width, unit, COARSE[unit], about=True),
                limit=w.shown(limit, unit),
            ),
            at=list(gap.place) if gap.place else None,
        )
    ]


def _empty_pieces(drawing: Drawing) -> list[w.Known]:
    """Names the pieces of the zone that have no lines."""
    pieces = drawing.region.pieces
    if len(pieces) < 2 or not drawing.lines or drawing.hints or len(pieces) > _MOST_PIECES:
        return []
    filled = set(pieces_of(drawing))
    empty = [piece for k, piece in enumerate(pieces) if k not in filled]
    if not empty:
        return []
    part = drawing.shape.part
    places = ", ".join(where(piece.area.geoms[0], part.width, part.height) for piece in empty[:3])
    more = tr(" and {empty} more", empty=len(empty) - 3) if len(empty) > 3 else ""
    what = (
        tr("One piece of the zone stays")
        if len(empty) == 1
        else tr("{empty} pieces of the zone stay", empty=len(empty))
    )
    middle = empty[0].area.representative_point()
    return [
        _warns(
            tr(
                "{what} empty because this fill does not fit there: {places}{more}.",
                what=what,
                places=places,
                more=more,
            ),
            at=[float(middle.x), float(middle.y)],
        )
    ]


def _beyond_edge(
    laid: QuiltLayout, plan: ZonePlan, drawing: Drawing, place: str, unit: Unit
) -> list[w.Known]:
    """The missing batting and backing beyond the quilt's edge for sewing on to the turns there."""
    far = turns_beyond_edge(laid, drawing, place)
    needs, has = far + float(plan.kit.foot_offset), float(ALLOWANCE + laid.quilt.batting_overhang.mm)
    if not far or needs <= has + VISIBLE:
        return []
    return [
        _warns(
            *w.told(
                "At the quilt’s edge the lines turn up to {far} beyond the finished edge. To sew on to those turns you need {needs} of batting and backing there, the foot counted in; you have {has}. Stop each line at the edge, or leave more.",
                far=w.shown(far, unit, COARSE[unit], about=True),
                needs=w.shown(needs, unit, COARSE[unit], about=True),
                has=w.shown(has, unit, COARSE[unit], about=True),
            )
        )
    ]


def _sliver(plan: ZonePlan, drawing: Drawing, place: str, unit: Unit) -> list[w.Known]:
    """The narrowest gap along an edge, if it is a sliver, and its remedies."""
    narrow = next(iter(plan.edge_remainders(drawing)), None)
    if narrow is None or not narrow.sliver or drawing.lines == 0 or not drawing.fill.sewn:
        return []
    name = tr("the {edge_names}", edge_names=edge_names(drawing.region)[narrow.edge])
    edge = drawing.region.edges[narrow.edge]
    at = [(a + b) / 2 for a, b in zip(edge.start, edge.end, strict=True)]
    said: w.Words = w.told(
        "Along {name} a sliver of {gap} is left. ",
        name=name,
        gap=w.shown(narrow.gap, unit, COARSE[unit] / 2, about=True),
    )
    mend = plan.fix_sliver(drawing, place)
    if mend is None:
        return [_warns(*said, tr("Choose an even spacing, or count from another point."), at=at)]
    better = w.shown(mend.gap, unit, COARSE[unit] / 4, about=True)
    if mend.how == "even spacing":
        button = w.Mend(label=tr("Use the even spacing"), values=dict(mend.values))
        return [
            _warns(*w.told("{said}{better} comes out even.", said=said, better=better), mend=button, at=at)
        ]
    button = w.Mend(label=tr("Put a {how}", how=tr(mend.how)), values=dict(mend.values))
    return [
        _warns(
            *w.told("{said}With a {how} it becomes {better}.", said=said, how=tr(mend.how), better=better),
            mend=button,
            at=at,
        )
    ]


def _does_not_meet(plan: ZonePlan) -> list[w.Known]:
    flows = continuity(plan)
    if flows is None or flows.meets or flows.turned:
        return []
    fix = continuity_fix(plan)
    mend = w.Mend(label=tr("Count from the quilt’s center"), values=fix) if fix else None
    return [w.Known(words=[tr("The lines do not continue from block to block.")], tone="tells", mend=mend)]


def _drifts(plan: ZonePlan, drawing: Drawing, unit: Unit) -> list[w.Known]:
    kit, total = plan.kit, plan.sum(drawing)
    follow = int(plan.references(drawing).runs.max(initial=0))
    spread, tolerance = float(kit.spread.mm), float(kit.tolerance.mm)
    if total.can_be_laid and follow > 1:
        bias = float(total.out)
        every, out = anchor_every(bias, spread, tolerance), error_after(follow, bias, spread)
        said: w.Words = w.told(
            "Placed line by line, line {follow} may be off by {out}. ",
            follow=follow,
            out=w.shown(out, unit, COARSE[unit] / 4, about=True),
        )
        if total.out:
            each = (
                tr("{bias} in", bias=f"{abs(bias) / INCH:.3f}")
                if unit == "in"
                else tr("{bias} mm", bias=f"{abs(bias):.2f}")
            )
            said = w.told(
                "Each comes {each} too {which}. {said}",
                each=each,
                which=tr("wide") if bias > 0 else tr("close"),
                said=said,
            )
        if every >= follow:
            return [w.Known(words=[*said, tr("That is within your tolerance.")], tone="tells")]
        within = w.shown(kit.tolerance.mm, unit)
        return [
            _warns(
                *w.told(
                    "{said}Mark every {nth} line to stay within {within}.",
                    said=said,
                    nth=nth(every),
                    within=within,
                )
            )
        ]
    if total.off and drawing.lines > 1:
        return [_warns(*_off(total, drawing.lines, spread, tolerance, unit))]
    return []


def _off(total: OffsetSum, lines: int, spread: float, tolerance: float, unit: Unit) -> w.Words:
    """F47: foot and ruler do not add up."""
    off, many = float(total.off), min(lines - 1, 8)
    every = anchor_every(off, spread, tolerance)
    said: w.Words = w.told(
        "With the nearest mark each line would be {off} too {which}: {off2} after {many}. ",
        off=w.shown(abs(off), unit, COARSE[unit] / 4, about=True),
        which=tr("wide") if off > 0 else tr("close"),
        off2=w.shown(abs(off) * many, unit, COARSE[unit], about=True),
        many=many,
    )
    if every <= 1:
        return [*said, tr("So mark every line.")]
    return [*said, tr("If you use it, mark every {nth} line.", nth=nth(every))]


def _no_contrast(
    laid: QuiltLayout, plans: Mapping[str, ZonePlan], plan: ZonePlan, place: str
) -> list[w.Known]:
    return [
        w.Known(
            words=[
                tr(
                    "“{name}” is quilted about as densely ({ratio}), so neither stands out.",
                    name=beside.name,
                    ratio=ratio(beside.ratio),
                )
            ],
            tone="tells",
        )
        for beside in neighbours(laid, plans, plan.key, place)
        if not beside.reads
    ]


def ratio(of: float | None) -> str:
    """
    >>> ratio(None), ratio(1.254)
    ('open', '1.25 : 1')
    """
    return tr("open") if of is None else f"{of:.2f} : 1"


def _alone(plans: Mapping[str, ZonePlan], plan: ZonePlan) -> list[w.Known]:
    if not stands_alone(plans, plan.key):
        return []
    return [
        w.Known(
            words=[tr("This fill is used only once. Repeat it elsewhere or make it a feature.")], tone="tells"
        )
    ]
