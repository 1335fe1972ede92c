"""From core values to words: everything that the slip says is put into words here.

Nothing is computed but the choice of words; figures come from the core.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from fractions import Fraction

import numpy as np

from kenzet.core.drawing import Drawing
from kenzet.core.fills import FILLS, Fill
from kenzet.core.laying import Mode, Sum, etched_line_for
from kenzet.core.marks.ticks import edge_names
from kenzet.core.measure import COARSE, Length, Unit, figure, long_figure
from kenzet.core.params import Form, forms
from kenzet.core.plan import LaidQuilt, ZonePlan
from kenzet.core.steps import Slant
from kenzet.core.top.layout import Part
from kenzet.web import models as m


def shown(
    mm: Fraction | float, unit: Unit, grain: Fraction | None = None, bare: bool = False, about: bool = False
) -> m.Shown:
    """A figure for the wire; ``bare`` leaves the unit unsaid, ``about`` scant and generous."""
    f = figure(mm, unit, grain, about)
    return m.Shown(
        minus=f.minus,
        whole=f.whole,
        num=f.num,
        den=f.den,
        hair=f.hair,
        unit="" if bare else unit,
        text=f.text,
    )


def drawings(plan: ZonePlan | None) -> list[m.DrawingView]:
    """Coordinates to a thousandth of a millimetre."""
    if plan is None:
        return []
    return [
        m.DrawingView.model_construct(
            placings=list(drawing.placings),
            lines=drawing.stretches.ends.round(3).tolist(),
            rings=[ring.points.round(3).ravel().tolist() for ring in drawing.rings],
        )
        for drawing in plan.drawings
    ]


def parts(laid: LaidQuilt) -> list[m.PartView]:
    """The parts with their patches."""
    return [
        m.PartView(
            key=key,
            name=part.name,
            width=part.width,
            height=part.height,
            placings=[list(placing) for placing in part.placings],
            patches=[
                m.PatchView(key=name, fabric=patch.fabric, rings=_rings(patch.area.geoms))
                for name, patch in part.patches.items()
            ],
        )
        for key, part in laid.top.parts.items()
    ]


def _rings(polygons: Iterable) -> list[list[float]]:
    rings = [ring for p in polygons for ring in (p.exterior, *p.interiors)]
    return [np.asarray(ring.coords)[:-1].round(3).ravel().tolist() for ring in rings]


def occurs(part: Part, patches: int) -> str:
    """How often a zone is there, in words."""
    many = f"{patches} patches" if patches > 1 else "one patch"
    times = len(part.placings)
    if part.name in ("Sashing", "Border"):
        return "one piece, all round" if part.name == "Border" else "one piece, between all blocks"
    return f"{many} in this block · the same in all {times}" if times > 1 else f"{many}, in one block"


def fields(fill: Fill, unit: Unit) -> list[m.FieldView]:
    """The form of a fill with what it holds."""
    values = fill.model_dump(mode="json")
    found = []
    for name, form in forms(type(fill)).items():
        used = form.only_with is None or values[form.only_with[0]] in form.only_with[1]
        found.append(field(name, form, getattr(fill, name), unit, used))
    return found


def field(name: str, form: Form, value: object, unit: Unit, used: bool = True) -> m.FieldView:
    """One parameter for the wire."""
    return m.FieldView(
        name=name,
        label=form.label,
        help=form.help,
        control=form.control,
        text=length_text(value, unit) if isinstance(value, Length) else _plain(value),
        shown=shown(value.mm, unit) if isinstance(value, Length) else None,
        empty=form.empty,
        choices=[m.ChoiceView(key=c.key, label=c.label, picks=c.picks) for c in form.choices],
        presets=list(form.presets),
        used=used,
    )


def length_text(length: Length, unit: Unit) -> str:
    """What a field holds to be edited: as it was typed, its unit left out where it is the one she reads."""
    return length.text.removesuffix(f" {unit}")


def _plain(value: object) -> str:
    if value is None:
        return ""
    return f"{value:g}" if isinstance(value, float) else str(value)


def the_sum(reckoned: Sum, unit: Unit, on: str = "your last line", total: str = "apart") -> m.SumView:
    """The sum in the order in which her hands do it, or why no etched line does it."""
    foot = m.Term(words=[shown(reckoned.foot, unit, bare=True)], label="your foot")
    result = m.Term(words=[shown(reckoned.spacing, unit, bare=True)], label=total)
    if reckoned.etched is not None and reckoned.etched > 0:
        etched = m.Term(words=[shown(reckoned.etched, unit, bare=True)], label=f"mark on {on}")
        return m.SumView(
            kind="etched", terms=[etched, foot], total=result, sentence=[], instead=[], offers=[]
        )
    if reckoned.etched is not None:
        edge = m.Term(words=["edge"], label=f"on {on}")
        return m.SumView(kind="edge", terms=[edge, foot], total=result, sentence=[], instead=[], offers=[])
    if reckoned.behind > 0:
        said: m.Words = [
            "Closer than your foot: no etched line can do it. Lay the ruler's edge ",
            shown(reckoned.behind, unit),
            f" behind {on}, which then shows by that much beyond the plastic.",
        ]
        return m.SumView(kind="behind", terms=[], total=result, sentence=said, instead=[], offers=[])
    return _no_line(reckoned, unit, result)


def _no_line(reckoned: Sum, unit: Unit, result: m.Term) -> m.SumView:
    said: m.Words = [
        "No etched line does it: ",
        shown(reckoned.wanted, unit),
        " would have to lie there. Draw every line, use a ruler that has that mark, or take a spacing near it:",
    ]
    offers = []
    for etched, spacing in reckoned.nearest:
        off = spacing - reckoned.spacing
        mark: m.Words = ["the edge"] if etched == 0 else [shown(etched, unit, bare=True), " mark"]
        offers.append(
            m.Offer(
                value=Length.near(spacing, unit).text,
                words=[*mark, " → ", shown(spacing, unit)],
                does=f"{figure(abs(off), unit).text} {unit} {'wider' if off > 0 else 'closer'}",
                now=False,
            )
        )
    return m.SumView(kind="none", terms=[], total=result, sentence=said, instead=[], offers=offers)


def instead(reckoned: Sum, unit: Unit) -> m.Words:
    """The other way to place the same line: drawn along the ruler, no foot counts in."""
    if reckoned.etched is None and not reckoned.behind:
        return []
    drawn = etched_line_for(reckoned.spacing, reckoned.foot, Mode.DRAWING)
    return ["To draw it, not sew it: the ", shown(drawn, unit, bare=True), " mark, no foot."]


def offers(plan: ZonePlan, placing: int, unit: Unit) -> list[m.Offer]:
    """Spacings near hers that suit the zone; the one she has is told as such."""
    return [
        m.Offer(
            value=wish.length.text,
            words=[shown(wish.length.mm, unit, bare=unit == "in", about=True)],
            does=wish.does,
            now=abs(wish.length.mm - plan.fill.spacing.mm) < Fraction(1, 1000),
        )
        for wish in plan.wishes(placing)
    ]


def rows(plan: ZonePlan, drawing: Drawing, slants: Sequence[Slant], gap: float, unit: Unit) -> list[m.Row]:
    """The figures of a zone."""
    found = [
        m.Row(label=[f"Step along an edge at {slant.degrees:.4g}°"], words=[shown(slant.step, unit)])
        for slant in slants[:2]
    ]
    if slants:
        found[0] = m.Row(
            label=["Step along the edge, at ", f"{slants[0].degrees:.4g}°"],
            words=[shown(slants[0].step, unit)],
        )
    what = "Rings" if drawing.rings else "Lines"
    times = len(plan.part.placings)
    here = f"{what} here · in the quilt" if times > 1 else f"{what} in the quilt"
    count = f"{drawing.lines:,} · {plan.lines_in_quilt:,}" if times > 1 else f"{drawing.lines:,}"
    found.append(m.Row(label=[here], words=[count]))
    long = long_figure(plan.stitched_in_quilt, unit)
    both = f"{long_figure(drawing.stitched, unit)} · {long}" if times > 1 else long
    found.append(m.Row(label=["Stitching here · in the quilt" if times > 1 else "Stitching"], words=[both]))
    edges = plan.edge_gaps(drawing)
    if edges and drawing.lines:
        left = shown(edges[0].gap, unit, COARSE[unit] / 2, about=True)
        found.append(m.Row(label=["Left along an edge"], words=[left]))
    limit = plan.kit.batting.limit.mm
    found.append(
        m.Row(
            label=["Widest gap · allowed"],
            words=[shown(gap, unit, COARSE[unit], about=True), " · ", shown(limit, unit)],
        )
    )
    return found


def advice(plan: ZonePlan, placing: int, gap: float, unit: Unit) -> list[m.Words]:
    """What a quilter would be told, with its reason and a way out."""
    found: list[m.Words] = []
    drawing, limit = plan.drawing_at(placing), plan.kit.batting.limit.mm
    if drawing.lines == 0:
        found.append(["Nothing fits: the zone is narrower than that. Set it closer, or leave the zone open."])
    if gap > float(limit) + 0.1:
        found.append(
            [
                "The widest gap is ",
                shown(gap, unit, COARSE[unit], about=True),
                "; your batting allows ",
                shown(limit, unit),
                ". Set the lines closer, or choose another batting.",
            ]
        )
    return found + _sliver(plan, drawing, placing, unit)


def _sliver(plan: ZonePlan, drawing: Drawing, placing: int, unit: Unit) -> list[m.Words]:
    """The narrowest gap left along an edge, if it is a sliver, and what would leave more."""
    narrow = next(iter(plan.edge_gaps(drawing)), None)
    if narrow is None or not narrow.sliver or drawing.lines == 0:
        return []
    name = edge_names(plan.region)[narrow.edge]
    name = "one edge" if name.startswith("edge ") else f"the {name}"
    said: m.Words = [
        f"Along {name} a sliver of ",
        shown(narrow.gap, unit, COARSE[unit] / 2, about=True),
        " is left. ",
    ]
    mend = plan.mend(placing)
    if mend is None:
        return [[*said, "Take a spacing that comes out even, or count from somewhere else."]]
    better = shown(mend.gap, unit, COARSE[unit] / 4, about=True)
    if mend.how == "even spacing":
        return [[*said, better, " apart comes out even."]]
    return [[*said, f"With a {mend.how} it would be ", better, "."]]


def fill_kinds() -> list[m.FillKind]:
    """The chooser's tiles."""
    return [
        m.FillKind(kind=kind, label=model.label, help=model.help, tile=model.tile)
        for kind, model in FILLS.items()
    ]


def totals(plans: Iterable[ZonePlan], unit: Unit) -> list[m.Total]:
    """What the whole plan costs as far as it is reckoned."""
    plans = list(plans)
    stitched = sum(plan.stitched_in_quilt for plan in plans)
    lines = sum(plan.lines_in_quilt for plan in plans)
    marks = sum(
        len(plan.marked(drawing, plan.zone.marking)) * len(drawing.placings)
        for plan in plans
        for drawing in plan.drawings
    )
    return [
        m.Total(label="Stitching", words=[long_figure(stitched, unit)], amount=round(stitched, 2)),
        m.Total(label="Lines to sew", words=[f"{lines:,}"], amount=lines),
        m.Total(label="Lines to draw", words=[f"{marks:,}"], amount=marks),
    ]


def spots(plan_region_edges: Sequence, names: Sequence[str]) -> list[m.Spot]:
    """Edges that can be clicked."""
    return [
        m.Spot(points=[*edge.start, *edge.end], name=name)
        for edge, name in zip(plan_region_edges, names, strict=True)
    ]
