"""The slip of a zone in words: its sum, its figures, what is offered, and what a quilter would be told.

Nothing is computed but the choice of words; figures come from the core.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from fractions import Fraction
from typing import Literal

from kenzet.core.advice.continuity import flow, flow_mend
from kenzet.core.advice.contrast import neighbours, stands_alone
from kenzet.core.advice.edge_step import Slant
from kenzet.core.advice.features import Feature
from kenzet.core.fills import Fill
from kenzet.core.fills.base import Figure, Meeting, Wish
from kenzet.core.geom.edge_ticks import edge_names
from kenzet.core.kit.kit import Kit
from kenzet.core.numbers.measure import COARSE, Length, Unit, figure, long_figure
from kenzet.core.numbers.meeting import NEAR
from kenzet.core.params import Form
from kenzet.core.plan.drawing import Drawing
from kenzet.core.plan.widest_gap import Gap
from kenzet.core.plan.zone_plan import ZonePlan
from kenzet.core.ruler.drift import anchor_every, error_after
from kenzet.core.ruler.offset_sums import Mode, Sum, etched_line_for
from kenzet.core.tolerances import VISIBLE
from kenzet.core.top.quilt_layout import LaidQuilt
from kenzet.core.top.zone import Zone
from kenzet.web import models as m
from kenzet.web import show
from kenzet.web import zone_models as z

SumKind = Literal["etched", "edge", "behind", "gauge", "none"]
_OF = {"right": "right of", "left": "left of", "up": "above", "down": "below"}
_AT = {"right": "right", "left": "left", "up": "top", "down": "bottom"}
_SAME = Fraction(1, 1000)  # mm


def apart(laid: LaidQuilt, zone: Zone) -> list[z.ApartView]:
    """Where the zone is treated apart, and how."""
    found = []
    for one in zone.apart:
        fill = f"{one.fill.label}, {one.fill.spacing.text}" if one.fill else "left open"
        taken = laid.quilt.zones.get(one.taken_by or "")
        found.append(
            z.ApartView(
                places=list(one.places),
                where=", ".join(show.place_name(place) for place in one.places),
                fill=f"part of “{taken.name}”" if taken else fill,
                taken=taken is not None,
            )
        )
    return found


def the_sum(
    reckoned: Sum, kit: Kit, unit: Unit, on: str = "your last line", total: str = "apart"
) -> z.SumView:
    """The sum in the order in which her hands do it, or why no etched line does it."""
    foot = z.Term(words=[show.shown(reckoned.foot, unit, bare=True)], label="your foot")
    result = z.Term(words=[show.shown(reckoned.spacing + reckoned.out, unit, bare=True)], label=total)
    ruler = kit.rulers[reckoned.ruler].name if reckoned.ruler in kit.rulers else ""

    def view(kind: SumKind, terms: Sequence[z.Term] = (), sentence: m.Words | None = None) -> z.SumView:
        return z.SumView(
            kind=kind,
            terms=list(terms),
            total=result,
            sentence=sentence or [],
            instead=[],
            offers=[],
            ruler=ruler,
        )

    if reckoned.mode in (Mode.TOE, Mode.BAR):
        return view("gauge" if reckoned.gauge else "none", sentence=_by_gauge(reckoned, on, unit))
    if reckoned.etched is not None and reckoned.etched > 0:
        etched = z.Term(words=[show.shown(reckoned.etched, unit, bare=True)], label=f"mark on {on}")
        return view("etched", [etched, foot])
    if reckoned.etched is not None:
        return view("edge", [z.Term(words=["edge"], label=f"on {on}"), foot])
    if reckoned.behind > 0:
        said: m.Words = [
            "Closer than your foot: no etched line can do it. Lay the ruler's edge ",
            show.shown(reckoned.behind, unit),
            f" behind {on}, which then shows by that much beyond the plastic.",
        ]
        return view("behind", sentence=said)
    if not reckoned.ruler:
        return view(
            "none",
            sentence=["No straight ruler of yours may be used with this foot: see Kit. Draw every line."],
        )
    none = view("none", sentence=_no_line(reckoned, unit))
    none.offers = _near(reckoned, unit)
    return none


def _by_gauge(reckoned: Sum, on: str, unit: Unit) -> m.Words:
    spacing = show.shown(reckoned.spacing, unit)
    if reckoned.gauge == "guide bar":
        return ["Set the guide bar ", spacing, f" from the needle and let it run on {on}."]
    if reckoned.gauge:
        return [f"Let the foot's {reckoned.gauge} run along {on}: it sews ", spacing, " beside it."]
    return ["Wider than your guide bar reaches: draw every line and sew on it."]


def _no_line(reckoned: Sum, unit: Unit) -> m.Words:
    return [
        "No etched line does it: ",
        show.shown(reckoned.wanted, unit),
        " would have to lie there. Draw every line, use a ruler that has that mark, or take a spacing near it:",
    ]


def _near(reckoned: Sum, unit: Unit) -> list[z.Offer]:
    offers = []
    for etched, spacing in reckoned.nearest:
        off = spacing - reckoned.spacing
        mark: m.Words = ["the edge"] if etched == 0 else [show.shown(etched, unit, bare=True), " mark"]
        offers.append(
            z.Offer(
                value=Length.near(spacing, unit).text,
                values={"spacing": Length.near(spacing, unit).text},
                words=[*mark, " → ", show.shown(spacing, unit)],
                does=f"{figure(abs(off), unit).text} {unit} {'wider' if off > 0 else 'closer'}",
                now=False,
            )
        )
    return offers


def instead(reckoned: Sum, unit: Unit) -> m.Words:
    """The other way to place the same line: drawn along the ruler, no foot counts in."""
    if reckoned.mode is not Mode.RULER_FOOT or (reckoned.etched is None and not reckoned.behind):
        return []
    drawn = etched_line_for(reckoned.spacing, reckoned.foot, Mode.DRAWING)
    return ["To draw it, not sew it: the ", show.shown(drawn, unit, bare=True), " mark, no foot."]


def begins(plan: ZonePlan, drawing: Drawing) -> list[m.Row]:
    """Where each straight family begins, which way it goes, on which side the ruler lies and how often she turns the quilt."""
    rows, sides = [], plan.sides(drawing)
    for side in sides:
        lines = f" the lines at {side.angle:.4g}°" if len(sides) > 1 else ""
        begin = f"at the {_AT[side.ruler]}, {'from the seam' if side.on_seam else 'on a drawn line'}"
        if side.turns:
            begin = "in the middle, on the drawn line; then the other half"
        rows.append(m.Row(label=[f"Begin{lines}"], words=[begin]))
        turn = "no turn" if not side.turns else "turn the quilt once"
        rows.append(m.Row(label=[f"Ruler {_OF[side.ruler]} the needle"], words=[turn]))
    return rows


def drift(plan: ZonePlan, drawing: Drawing, unit: Unit) -> m.Words:
    """What laying each line on the last one comes to, and how many drawn ones hold it; nothing where none is laid so."""
    kit, total = plan.kit, plan.sum(drawing)
    follow = int(plan.references(drawing).runs.max(initial=0))
    spread, tolerance = float(kit.spread.mm), float(kit.tolerance.mm)
    if total.can_be_laid and follow > 1:
        bias = float(total.out)
        every, out = anchor_every(bias, spread, tolerance), error_after(follow, bias, spread)
        said: m.Words = [
            f"Laid one on another, line {follow} may be out by ",
            show.shown(out, unit, COARSE[unit] / 4, about=True),
            ". ",
        ]
        if total.out:
            each = show.shown(abs(total.out), unit, COARSE[unit] / 8, about=True)
            said = ["Each comes ", each, f" too {'wide' if bias > 0 else 'close'}. ", *said]
        if every >= follow:
            return [*said, "That is within what you allow."]
        return [
            *said,
            f"Draw every {_nth(every)} line to stay within ",
            show.shown(kit.tolerance.mm, unit),
            ".",
        ]
    if total.off and drawing.lines > 1:
        return _off(total, drawing.lines, spread, tolerance, unit)
    return []


def _off(total: Sum, lines: int, spread: float, tolerance: float, unit: Unit) -> m.Words:
    """F47: foot and ruler do not add up."""
    off, many = float(total.off), min(lines - 1, 8)
    every = anchor_every(off, spread, tolerance)
    said: m.Words = [
        "With the nearest mark each line would come ",
        show.shown(abs(off), unit, COARSE[unit] / 4, about=True),
        f" too {'wide' if off > 0 else 'close'}: ",
        show.shown(abs(off) * many, unit, COARSE[unit], about=True),
        f" after {many}. ",
    ]
    if every <= 1:
        return [*said, "So every line is drawn."]
    return [*said, f"If you lay them so, draw every {_nth(every)} line."]


def _nth(number: int) -> str:
    """
    >>> _nth(1), _nth(2), _nth(13), _nth(23)
    ('1st', '2nd', '13th', '23rd')
    """
    last = "th" if 10 < number % 100 < 14 else {1: "st", 2: "nd", 3: "rd"}.get(number % 10, "th")
    return f"{number}{last}"


def offers(plan: ZonePlan, drawing: Drawing, place: str, unit: Unit) -> list[z.Offer]:
    """Spacings near hers that suit the zone; the one she has is told as such."""
    return [
        z.Offer(
            value=wish.length.text,
            values={"spacing": wish.length.text, **dict(wish.values)},
            words=[show.shown(wish.length.mm, unit, bare=unit == "in", about=True)],
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
    return show.field("along_edge", form, length, unit)


def figures(told: Iterable[Figure], unit: Unit) -> list[m.Row]:
    """What belongs to a fill beside its spacing."""
    return [m.Row(label=[figure.label], words=[_figure(figure, unit)], typed=figure.typed) for figure in told]


def _figure(told: Figure, unit: Unit) -> str | m.Shown:
    if told.what == "length":
        return show.shown(told.value, unit, COARSE[unit] / 4)
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
            words = ["miss by ", show.shown(flows.miss, unit, COARSE[unit] / 2, about=True)]
            said.append(
                [
                    "From block to block the lines do not meet.",
                    *([" Counted from the quilt's centre they do."] if flow_mend(plan) else []),
                ]
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


def rows(
    plan: ZonePlan, drawing: Drawing, slants: Sequence[Slant], gap: Gap | None, unit: Unit
) -> list[m.Row]:
    """The figures of a zone."""
    found = [
        m.Row(label=[f"Step along an edge at {slant.degrees:.4g}°"], words=[show.shown(slant.step, unit)])
        for slant in slants[:2]
    ]
    if slants:
        found[0] = m.Row(
            label=["Step along the edge, at ", f"{slants[0].degrees:.4g}°"],
            words=[show.shown(slants[0].step, unit)],
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
    found.append(m.Row(label=["Density"], words=[show.density(drawing.density, unit)]))
    edges = plan.edge_gaps(drawing)
    if edges and drawing.lines:
        left = show.shown(edges[0].gap, unit, COARSE[unit] / 2, about=True)
        found.append(m.Row(label=["Left along an edge"], words=[left]))
    limit = plan.kit.batting.limit.mm
    found.append(
        m.Row(
            label=["Widest gap · allowed"],
            words=[
                show.shown(gap.width, unit, COARSE[unit], about=True) if gap else "being measured …",
                " · ",
                show.shown(limit, unit),
            ],
        )
    )
    return found


def meetings(ways: Sequence[Meeting], chosen: Sequence[Feature], unit: Unit) -> z.MeetView:
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
        words: m.Words = [show.shown(way.step.mm, unit, about=True)]
        views.append(z.MeetingView(values=values, words=words, does=" · ".join(does), hits=not way.give))
    hit = any(view.hits for view in views)
    said = "" if hit else "No spacing within a third of yours meets them all."
    return z.MeetView(ways=views, said=said)


def advice(plan: ZonePlan, drawing: Drawing, place: str, gap: Gap | None, unit: Unit) -> list[m.Words]:
    """What a quilter would be told, with its reason and a way out."""
    found: list[m.Words] = []
    limit = plan.kit.batting.limit.mm
    if drawing.lines == 0 and not drawing.hints:
        found.append(["Nothing fits: the zone is narrower than that. Set it closer, or leave the zone open."])
    if gap and gap.width > float(limit) + VISIBLE:
        found.append(
            [
                "The widest gap is ",
                show.shown(gap.width, unit, COARSE[unit], about=True),
                "; your batting allows ",
                show.shown(limit, unit),
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
        show.shown(narrow.gap, unit, COARSE[unit] / 2, about=True),
        " is left. ",
    ]
    mend = plan.mend(drawing, place)
    if mend is None:
        return [[*said, "Take a spacing that comes out even, or count from somewhere else."]]
    better = show.shown(mend.gap, unit, COARSE[unit] / 4, about=True)
    if mend.how == "even spacing":
        return [[*said, better, " apart comes out even."]]
    return [[*said, f"With a {mend.how} it would be ", better, "."]]
