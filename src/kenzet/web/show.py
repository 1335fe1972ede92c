"""From core values to words: everything that the slip says is put into words here.

Nothing is computed but the choice of words; figures come from the core.
"""

from __future__ import annotations

import zlib
from collections.abc import Iterable, Mapping, Sequence
from fractions import Fraction

import numpy as np

from kenzet.core.contrast import neighbours, stands_alone
from kenzet.core.drawing import Drawing, Trace
from kenzet.core.features import Feature, features_of
from kenzet.core.fills import FILLS, Fill
from kenzet.core.fills.base import GROUPS, Figure, Meeting, Site, Wish
from kenzet.core.flow import flow
from kenzet.core.gaps import Gap
from kenzet.core.laying import Mode, Sum, etched_line_for
from kenzet.core.marks.ticks import edge_names
from kenzet.core.measure import COARSE, Length, Unit, figure, long_figure
from kenzet.core.meeting import NEAR
from kenzet.core.params import Form, forms
from kenzet.core.plan import ZonePlan
from kenzet.core.steps import Slant
from kenzet.core.top.blocks import Block
from kenzet.core.top.laid import LaidQuilt, ZoneShape
from kenzet.core.top.layout import block_part
from kenzet.core.top.zone import BORDER, SASHING, TOP, Zone
from kenzet.web import models as m

_SAME = Fraction(1, 1000)  # mm


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
            part=drawing.shape.part.key,
            places=list(drawing.places),
            layer=drawing.layer,
            lines=drawing.stretches.ends.round(3).tolist(),
            paths=_flat(drawing.traces),
            hints=_flat(drawing.hints),
        )
        for drawing in plan.drawings
    ]


def _flat(traces: Iterable[Trace]) -> list[list[float]]:
    return [trace.polyline.round(3).ravel().tolist() for trace in traces]


def parts(laid: LaidQuilt) -> list[m.PartView]:
    """The parts with their patches."""
    return [
        m.PartView(
            key=key,
            of=part.of,
            name=part.name,
            width=part.width,
            height=part.height,
            places=[m.PlaceView(id=place, at=list(at)) for place, at in part.places.items()],
            patches=[
                m.PatchView(key=name, fabric=patch.fabric, rings=rings(patch.area.geoms))
                for name, patch in part.patches.items()
            ],
        )
        for key, part in laid.top.parts.items()
    ]


def block_patches(key: str, block: Block, width: float, height: float) -> list[m.PatchView]:
    """The patches of a block that is ``width`` by ``height`` mm."""
    part = block_part(key, key, block, width, height, {})
    return [
        m.PatchView(key=name, fabric=patch.fabric, rings=rings(patch.area.geoms))
        for name, patch in part.patches.items()
    ]


def by(width: Length, height: Length, unit: Unit) -> m.Words:
    """A size; a square is said once."""
    if width.mm == height.mm:
        return [shown(width.mm, unit)]
    return [shown(width.mm, unit, bare=True), " × ", shown(height.mm, unit)]


def shapes(found: Iterable[ZoneShape]) -> list[m.ShapeView]:
    """The outlines of a zone."""
    return [
        m.ShapeView(part=s.part.key, places=list(s.places), rings=rings(s.region.area.geoms)) for s in found
    ]


def ground(quilt_id: str, laid: LaidQuilt) -> m.GroundView | None:
    """The photograph under the plan."""
    under = laid.quilt.ground
    if under is None:
        return None
    at, width, height = laid.frame_of(under.place)
    told_apart = zlib.crc32(f"{under.photo} {under.corners} {under.place} {width} {height}".encode())
    return m.GroundView(
        url=f"/api/quilts/{quilt_id}/ground.jpg?of={told_apart:08x}",
        at=list(at),
        width=width,
        height=height,
        place=under.place,
        strength=under.strength,
        photo=under.photo,
        corners=[list(corner) for corner in under.corners],
    )


def rings(polygons: Iterable) -> list[list[float]]:
    """Flat x, y lists to a thousandth of a millimetre, holes after outlines."""
    found = [ring for p in polygons for ring in (p.exterior, *p.interiors)]
    return [np.asarray(ring.coords)[:-1].round(3).ravel().tolist() for ring in found]


def occurs(laid: LaidQuilt, zone: Zone) -> str:
    """How often a zone is there, in words."""
    if zone.part == TOP:
        return f"{len(zone.patches)} patches, across the quilt"
    if zone.part == SASHING:
        return (
            "one piece, between all blocks" if _is_whole(laid, zone) else f"{len(zone.patches)} of the sashes"
        )
    if zone.part.startswith(BORDER):
        return "one piece, all round" if _is_whole(laid, zone) else f"{len(zone.patches)} of its pieces"
    many = f"{len(zone.patches)} patches" if len(zone.patches) > 1 else "one patch"
    if zone.slices:
        pieces = len(zone.slices[-1].inside)
        many = "a piece" if pieces == 1 else f"{pieces} pieces"
    times = len(laid.places(zone)) if laid.is_laid(zone) else 0
    if times == 0:
        return f"{many}; this block is laid nowhere yet"
    apart = sum(len(one.places) for one in zone.apart)
    if times == 1:
        return f"{many}, in one block"
    within = " in this block" if zone.part in laid.quilt.blocks else ""
    same = f"the same in all {times}" if not apart else f"the same in {times - apart} of {times}"
    return f"{many}{within} · {same}"


def _is_whole(laid: LaidQuilt, zone: Zone) -> bool:
    return len(zone.patches) == len(laid.quilt.part_patches[zone.part]) and not zone.slices


def apart(laid: LaidQuilt, zone: Zone) -> list[m.ApartView]:
    """Where the zone is treated apart, and how."""
    found = []
    for one in zone.apart:
        fill = f"{one.fill.label}, {one.fill.spacing.text}" if one.fill else "left open"
        taken = laid.quilt.zones.get(one.taken_by or "")
        found.append(
            m.ApartView(
                places=list(one.places),
                where=", ".join(place_name(place) for place in one.places),
                fill=f"part of “{taken.name}”" if taken else fill,
                taken=taken is not None,
            )
        )
    return found


def place_name(place: str) -> str:
    """
    >>> place_name("2-3"), place_name("side-4"), place_name("border-1")
    ('row 2, block 3', 'side 4', 'border 1')
    """
    row, _, column = place.partition("-")
    return f"row {row}, block {column}" if row.isdigit() else place.replace("-", " ")


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
        minor=form.minor,
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
                values={"spacing": Length.near(spacing, unit).text},
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


def offers(plan: ZonePlan, drawing: Drawing, place: str, unit: Unit) -> list[m.Offer]:
    """Spacings near hers that suit the zone; the one she has is told as such."""
    return [
        m.Offer(
            value=wish.length.text,
            values={"spacing": wish.length.text, **dict(wish.values)},
            words=[shown(wish.length.mm, unit, bare=unit == "in", about=True)],
            does=_does(wish, drawing.fill.spacing.mm),
            now=not wish.values and abs(wish.length.mm - drawing.fill.spacing.mm) < _SAME,
        )
        for wish in plan.wishes(drawing, place)
    ]


def takes_step(fill: Fill) -> bool:
    """Whether a step along an edge can be typed instead of the spacing."""
    return "step" in type(fill).model_fields


def step_is_typed(fill: Fill, slants: Sequence[Slant]) -> bool:
    """Whether the step along the edge is what she has typed, and the spacing follows from it."""
    step = getattr(fill, "step", None)
    return isinstance(step, Length) and bool(slants) and abs(float(step.mm) - slants[0].step) < float(_SAME)


def step_field(fill: Fill, slants: Sequence[Slant], unit: Unit) -> m.FieldView | None:
    """The step along the edge as a field, where lines meet one at a slant."""
    if not slants or not takes_step(fill):
        return None
    typed = getattr(fill, "step", None) if step_is_typed(fill, slants) else None
    length = typed or Length.near(slants[0].step, unit)
    form = Form(
        "length", f"Step along the edge, at {slants[0].degrees:.4g}°", "The distance follows from it."
    )
    return field("along_edge", form, length, unit)


def figures(told: Iterable[Figure], unit: Unit) -> list[m.Row]:
    """What belongs to a fill beside its spacing."""
    return [m.Row(label=[figure.label], words=[_figure(figure, unit)], typed=figure.typed) for figure in told]


def _figure(told: Figure, unit: Unit) -> str | m.Shown:
    if told.what == "length":
        return shown(told.value, unit, COARSE[unit] / 4)
    if told.what == "angle":
        return f"{told.value:.2f}°".replace(".00°", "°")
    return f"{told.value:.1f}".removesuffix(".0")


def _does(wish: Wish, wanted: Fraction) -> str:
    """What a spacing does, and its change where there is any."""
    change = (wish.length.mm - wanted) / wanted
    if abs(wish.length.mm - wanted) < _SAME:
        return wish.does
    return f"{wish.does} {float(change):{'+.0%' if abs(change) >= Fraction(1, 100) else '+.1%'}}".replace(
        "-", "\u2212"
    ).replace("%", "\u202f%")


def neighbourhood(
    laid: LaidQuilt, plans: Mapping[str, ZonePlan], plan: ZonePlan, place: str, unit: Unit
) -> tuple[list[m.Row], list[m.Words]]:
    """How the zone stands to what lies beside it: figures, and what a quilter would be told."""
    found, said = [], []
    flows = flow(plan)
    if flows is not None:
        words: m.Words = ["lines meet"] if flows.meets else ["lines turn"]
        if not flows.meets and not flows.turned:
            words = ["miss by ", shown(flows.miss, unit, COARSE[unit] / 2, about=True)]
            said.append(
                ["From block to block the lines do not meet. Counted from the quilt's centre they do."]
            )
        found.append(m.Row(label=["From block to block"], words=words))
    for beside in neighbours(laid, plans, plan.key, place)[:4]:
        how = "open" if beside.ratio is None else f"{beside.ratio:.2f} : 1"
        found.append(m.Row(label=[f"Beside {beside.name}"], words=[how]))
        if not beside.reads:
            said.append([f"Against “{beside.name}” it is {how}: that will not read as flat against puffy."])
    if stands_alone(plans, plan.key):
        said.append(
            [
                "Only one place in the quilt has this fill: repeat it somewhere, or let it be the centre of attention."
            ]
        )
    return found, said


def rows(plan: ZonePlan, drawing: Drawing, slants: Sequence[Slant], gap: Gap, unit: Unit) -> list[m.Row]:
    """The figures of a zone."""
    found = [
        m.Row(label=[f"Step along an edge at {slant.degrees:.4g}°"], words=[shown(slant.step, unit)])
        for slant in slants[:2]
    ]
    if slants:
        found[0] = m.Row(
            label=["Step along the edge, at ", f"{slants[0].degrees:.4g}°"],
            words=[shown(slants[0].step, unit)],
            typed=step_is_typed(drawing.fill, slants),
        )
    what = drawing.fill.lines_are
    times = sum(len(d.places) for d in plan.drawings)
    here = f"{what} here · in the quilt" if times > 1 else f"{what} in the quilt"
    count = f"{drawing.lines:,} · {plan.lines_in_quilt:,}" if times > 1 else f"{drawing.lines:,}"
    found.append(m.Row(label=[here], words=[count]))
    long = long_figure(plan.stitched_in_quilt, unit)
    both = f"{long_figure(drawing.stitched, unit)} · {long}" if times > 1 else long
    found.append(m.Row(label=["Stitching here · in the quilt" if times > 1 else "Stitching"], words=[both]))
    found.append(m.Row(label=["Density"], words=[density(drawing.density, unit)]))
    edges = plan.edge_gaps(drawing)
    if edges and drawing.lines:
        left = shown(edges[0].gap, unit, COARSE[unit] / 2, about=True)
        found.append(m.Row(label=["Left along an edge"], words=[left]))
    limit = plan.kit.batting.limit.mm
    found.append(
        m.Row(
            label=["Widest gap · allowed"],
            words=[shown(gap.width, unit, COARSE[unit], about=True), " · ", shown(limit, unit)],
        )
    )
    return found


def features(shape: ZoneShape, site: Site) -> list[m.FeatureView]:
    """What lines can meet or be counted from."""
    return [
        m.FeatureView(points=list(f.point), name=f.name, share=list(site.share_of(f.point)))
        for f in features_of(shape)
    ]


def meetings(ways: Sequence[Meeting], chosen: Sequence[Feature], unit: Unit) -> m.MeetView:
    """The ways to meet features; what misses is said with its name and by how much."""
    views = []
    for way in ways:
        counts = sorted({n for n in map(abs, way.counts) if n})
        steps = " and ".join(str(n) for n in counts[-2:]) or "no"
        does = [f"{steps} steps", f"{way.change:+.1%}".replace("-", "−").replace("%", " %")]
        if way.arrives:
            does.append(f"arrives on the {way.arrives}")
        if way.give:
            does.append("misses " + ", ".join(chosen[k + 1].name for k in way.give[:3]))
            worst = max((abs(miss) for miss in way.misses), default=0.0)
            if worst > NEAR:
                does.append(f"by {figure(worst, unit, COARSE[unit] / 2, about=True).text} {unit}")
        values = {**dict(way.values), "through": list(way.through)}
        words: m.Words = [shown(way.step.mm, unit, about=True)]
        views.append(m.MeetingView(values=values, words=words, does=" · ".join(does), hits=not way.give))
    hit = any(view.hits for view in views)
    said = "" if hit else "No spacing within a third of yours meets them all."
    return m.MeetView(ways=views, said=said)


def density(per_mm: float, unit: Unit) -> str:
    """Sewn length by area, in the unit in which she thinks of it."""
    return f"{per_mm * 25.4:.1f} in a sq in" if unit == "in" else f"{per_mm * 10:.1f} cm a sq cm"


def advice(plan: ZonePlan, drawing: Drawing, place: str, gap: Gap, unit: Unit) -> list[m.Words]:
    """What a quilter would be told, with its reason and a way out."""
    found: list[m.Words] = []
    limit = plan.kit.batting.limit.mm
    if drawing.lines == 0 and not drawing.hints:
        found.append(["Nothing fits: the zone is narrower than that. Set it closer, or leave the zone open."])
    if gap.width > float(limit) + 0.1:
        found.append(
            [
                "The widest gap is ",
                shown(gap.width, unit, COARSE[unit], about=True),
                "; your batting allows ",
                shown(limit, unit),
                ". Set the lines closer, or choose another batting.",
            ]
        )
    return found + _sliver(plan, drawing, place, unit)


def _sliver(plan: ZonePlan, drawing: Drawing, place: str, unit: Unit) -> list[m.Words]:
    """The narrowest gap left along an edge, if it is a sliver, and what would leave more."""
    narrow = next(iter(plan.edge_gaps(drawing)), None)
    if narrow is None or not narrow.sliver or drawing.lines == 0 or not drawing.fill.sewn:
        return []
    name = edge_names(drawing.region)[narrow.edge]
    name = "one edge" if name.startswith("edge ") else f"the {name}"
    said: m.Words = [
        f"Along {name} a sliver of ",
        shown(narrow.gap, unit, COARSE[unit] / 2, about=True),
        " is left. ",
    ]
    mend = plan.mend(drawing, place)
    if mend is None:
        return [[*said, "Take a spacing that comes out even, or count from somewhere else."]]
    better = shown(mend.gap, unit, COARSE[unit] / 4, about=True)
    if mend.how == "even spacing":
        return [[*said, better, " apart comes out even."]]
    return [[*said, f"With a {mend.how} it would be ", better, "."]]


def fill_kinds() -> list[m.FillKind]:
    """The chooser's tiles."""
    return [
        m.FillKind(kind=kind, label=model.label, group=GROUPS[model.group], help=model.help, tile=model.tile)
        for kind, model in FILLS.items()
    ]


def totals(plans: Iterable[ZonePlan], unit: Unit) -> list[m.Total]:
    """What the whole plan costs as far as it is reckoned."""
    plans = list(plans)
    stitched = sum(plan.stitched_in_quilt for plan in plans)
    lines = sum(plan.lines_in_quilt for plan in plans)
    marks = sum(
        len(plan.marked(drawing, plan.zone.marking)) * len(drawing.places)
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
