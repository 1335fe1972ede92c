"""How a line is placed, in the order in which the hands do it. Every screen and sheet uses these words.

Directions are those of the placement that is given: for a place of the quilt, that of ``as_it_lies``.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Collection, Iterable, Sequence
from dataclasses import replace
from fractions import Fraction
from typing import Literal

from kenzet import texts
from kenzet.core.geom.affine import Placing, turned
from kenzet.core.geom.headings import Heading, heading, opposite
from kenzet.core.kit.curves import CurveFit, TemplateFit
from kenzet.core.kit.edges import WaveEdge
from kenzet.core.kit.kit import Kit
from kenzet.core.marks.marking import marks_of
from kenzet.core.numbers.measure import COARSE, MM_PER, Unit
from kenzet.core.placing.legs import Leg
from kenzet.core.placing.place_line import planned
from kenzet.core.placing.placement import By, Placement
from kenzet.core.plan.drawing import Drawing
from kenzet.core.plan.zone_plan import ZonePlan
from kenzet.core.ruler.offset_sums import OffsetSum
from kenzet.core.tolerances import VISIBLE
from kenzet.say import words as w
from kenzet.texts import tr

NTH = ("", "", tr("second"), tr("third"), tr("fourth"), tr("fifth"), tr("sixth"))
FOLLOW = tr("Follow the marked line.")
_MOST_LEGS = 12
_MOST_LINES = 1500  # of a drawing, to be told together
_MOST_WAYS = 6
Where = Heading | Literal["in", "out"] | None
"""In which direction from a line, or on which side of a ring, something lies."""


def on_words(on: Placement) -> str:
    """What it is placed from.

    >>> on_words(Placement(3, "line", "etched line", (), over=2, towards=(-1.0, 0.0)))
    'the second line to the left of this one'
    >>> on_words(Placement(3, "last", "etched line", ()))
    'the line you just sewed'
    """
    if on.beyond is not None:
        return tr("the sewn line in “{zone}”", zone=on.beyond.zone)
    if on.on in _ON:
        return _ON[on.on]
    kind = (
        tr("marked line") if on.on == "drawn" else tr("ring") if isinstance(on.towards, str) else tr("line")
    )
    to = on.towards if on.towards is None or isinstance(on.towards, str) else heading(*on.towards)
    if on.over == 1:
        return tr("the {kind} {where}", kind=kind, where=_BEFORE[to])
    return tr("the {nth} {kind} {where}", nth=_nth(on.over), kind=kind, where=_BEFORE[to])


def seen_words(on: Placement) -> str:
    """The same where the picture shows on which side it lies.

    >>> seen_words(Placement(3, "line", "etched line", (), over=2)), seen_words(Placement(3, "line", "etched line", ()))
    ('the second line', 'the line beside it')
    """
    if on.on not in ("line", "drawn") or on.beyond is not None:
        return on_words(on)
    kind = tr("marked line") if on.on == "drawn" else tr("line")
    return (
        tr("the {kind} beside it", kind=kind)
        if on.over == 1
        else tr("the {nth} {kind}", nth=_nth(on.over), kind=kind)
    )


def _nth(over: int) -> str:
    return NTH[over] if over < len(NTH) else tr("{over}th", over=over)


_ON = {
    "last": tr("the line you just sewed"),
    "seam": tr("the seam"),
    "mark": tr("the marked line"),
    "angle": tr("the line that it crosses"),
    "ditch": tr("the seam"),
    "tape": tr("the tape"),
    "points": tr("the marks at its ends"),
    "corners": tr("the points at its ends, where seams or sewn lines meet"),
    "nothing": tr("nothing"),
}


def tape_words(
    plan: ZonePlan, drawing: Drawing, line: int, sewn: Collection[int], placing: Placing, unit: Unit
) -> w.Words:
    """Along which edge of which strip a line is sewn; before the first line of a round also what to put down, and
    how far from the zone's side."""
    tape = marks_of(plan, drawing).tape
    if tape is None or line not in tape.place_of:
        return []
    number, strip, edge = tape.place_of[line]
    strips, many = tape.rounds[number], len(tape.rounds)
    x, y = tape.side_of(drawing, number)
    side = heading(*turned(placing, (x, y)))
    sides = (_END[side], _END[opposite(side)])
    said: w.Words = []
    if not any(place[0] == number for one, place in tape.place_of.items() if one in sewn):
        said = [
            tr("Peel the tape slowly. Round {number} of {many}: ", number=number + 1, many=many)
            if number
            else tr("Round 1 of {many}: ", many=many)
        ]
        said += [
            tr("put on {strips}, the {sides} edge ", strips=texts.many(len(strips), "strip"), sides=sides[0])
        ]
        for k, far in enumerate(tape.measures(drawing, number)):
            said += [*([", "] if k else []), w.shown(far, unit, COARSE[unit] / 2, about=True)]
        said += [tr(" from the zone’s {sides} side. ", sides=sides[0])]
    which = tr("strip {strip}", strip=strip + 1) if len(strips) > 1 else tr("the strip")
    return [
        *said,
        tr(
            "Sew just outside the {sides} edge of {which}, not through the tape.",
            sides=sides[edge],
            which=which,
        ),
    ]


def lay_words(kit: Kit, on: Placement, unit: Unit) -> w.Words:
    """What goes where before the line is sewn."""
    if not on.sides:
        return _laid(kit, on, unit)
    if len({(side.on, side.total) for side in on.sides}) > 1:
        return [tr("Sew each leg as listed, and move the ruler at each pivot.")]
    return _laid(kit, on.sides[0], unit, _beside_legs(on))


def _beside_legs(on: Placement) -> str:
    """What runs along every leg of a line in the same way."""
    if on.on == "seam":
        return tr("the seam beside each leg")
    if on.on != "line":
        return tr("{name} beside each leg", name=on_words(on))
    if len({(side.towards, side.over) for side in on.sides}) == 1 and isinstance(on.sides[0].towards, str):
        return on_words(on.sides[0])
    if on.over == 1:
        return tr("the line beside each leg")
    return tr("the {nth} line beside each leg", nth=_nth(on.over))


def _laid(kit: Kit, on: Placement, unit: Unit, name: str = "") -> w.Words:
    if on.by in _PLAIN:
        return [_PLAIN[on.by]]
    if on.by in _HOW:
        return _HOW[on.by](kit, on, unit)
    if on.on == "mark":
        return w.told(
            "Put the ruler’s edge {offset} beside the marked line.", offset=w.shown(kit.foot_offset, unit)
        )
    if on.beyond is not None and on.total is None:
        far = w.shown(kit.foot_offset, unit)
        return w.told(
            "Put the ruler’s edge {far} beside {on}: this line continues that one.", far=far, on=on_words(on)
        )
    return _ruler(name or on_words(on), on.total, unit)


def _by_gauge(kit: Kit, on: Placement, unit: Unit) -> w.Words:
    gauge = on.total.gauge if on.total else ""
    return [tr("Let the foot’s {gauge} run along {on}.", gauge=gauge, on=on_words(on))]


def _by_rim(kit: Kit, on: Placement, unit: Unit) -> w.Words:
    return [tr("Without a ruler: run the rim of the foot along {on}.", on=on_words(on))]


def _by_points(kit: Kit, on: Placement, unit: Unit) -> w.Words:
    if on.on == "corners":
        each = tr("each end of every leg") if len(on.legs) > 1 else tr("both ends of the line")
        if kit.sew_with == "walking foot":
            return [tr("Sew straight to {each}: {meet}.", each=each, meet=_meet(on))]
        return w.told(
            "Put the ruler’s edge {offset} off {each}: {meet}.",
            offset=w.shown(kit.foot_offset, unit),
            each=each,
            meet=_meet(on),
        )
    if kit.sew_with == "walking foot":
        return [tr("Sew straight from the mark at one end to the mark at the other.")]
    return w.told(
        "Put the ruler’s edge {offset} off the marks at both ends.", offset=w.shown(kit.foot_offset, unit)
    )


def _meet(on: Placement) -> str:
    """What shows the ends of its legs."""
    ends = {leg.start for leg in on.legs} | {leg.end for leg in on.legs}
    if len(on.dots) >= len(ends):
        return tr("a dot marks each")
    return (
        tr("a dot is there, or seams or sewn lines meet there")
        if on.dots
        else tr("seams or sewn lines meet there")
    )


def _by_tilt(kit: Kit, on: Placement, unit: Unit) -> w.Words:
    """A different etched line at either end."""
    leg = on.legs[0]
    (x0, y0), (x1, y1) = leg.start, leg.end
    ends = (heading(x0 - x1, y0 - y1), heading(x1 - x0, y1 - y0))
    said: w.Words = [
        tr("Put the ruler at an angle on {on}: at the {end} end ", on=on_words(on), end=_END[ends[0]])
    ]
    return w.told(
        "{said}{lies}, at the {end} end {lies2}.",
        said=said,
        lies=_lies(kit, on.tilt[0], unit),
        end=_END[ends[1]],
        lies2=_lies(kit, on.tilt[1], unit),
    )


def _lies(kit: Kit, under: Fraction, unit: Unit) -> w.Words:
    """How a line lies relative to the ruler's edge."""
    if abs(float(under)) < float(COARSE[unit] * MM_PER[unit]) / 4:
        return [tr("along its edge")]
    if under < 0:
        return w.told("it shows by {under}", under=w.shown(-under, unit, COARSE[unit] / 2, about=True))
    if any(abs(float(under - line)) < VISIBLE for _, edge in kit.straight for line in edge.lines):
        return w.told("under the {under} mark", under=w.shown(under, unit, bare=True))
    return w.told("{under} under its edge", under=w.shown(under, unit, COARSE[unit] / 2, about=True))


def _by_angle(kit: Kit, on: Placement, unit: Unit) -> w.Words:
    line = tr("a square line") if on.angle == 90 else tr("its {angle}° line", angle=f"{on.angle:g}")
    said: w.Words = [tr("Put the ruler with {line} on a sewn line that this one crosses", line=line)]
    if on.crosses is None:
        return [*said, "."]
    far, end = on.crosses
    if far < VISIBLE:
        return w.told("{said}, so that the needle meets its {end} end.", said=said, end=_END[heading(*end)])
    return w.told(
        "{said}, so that the needle crosses it {far} from its {end} end.",
        said=said,
        far=w.shown(far, unit, COARSE[unit] / 2, about=True),
        end=_END[heading(*end)],
    )


_END: dict[Heading, str] = {
    "left": tr("left"), "right": tr("right"), "up": tr("upper"), "down": tr("lower"), "up and left": tr("upper left"),
    "up and right": tr("upper right"), "down and left": tr("lower left"), "down and right": tr("lower right"),
}  # fmt: skip


def _by_eye(kit: Kit, on: Placement, unit: Unit) -> w.Words:
    if on.on in ("seam", "line", "last"):
        far = w.shown(on.distance, unit)
        return w.told(
            "By eye, {far} from {on} all along: none of your rulers sews this curve.",
            far=far,
            on=on_words(on),
        )
    if on.on == "points":
        return [tr("By eye from mark to mark: none of your rulers sews this curve.")]
    return [tr("By eye: no seam, sewn line or mark places this line. Mark it first if you want it exact.")]


def _freehand(kit: Kit, on: Placement, unit: Unit) -> w.Words:
    far = w.shown(on.distance, unit)
    return w.told("Put the ruler aside. Quilt freehand, about {far} from {on}.", far=far, on=on_words(on))


def _ruler(on: str, total: OffsetSum | None, unit: Unit) -> w.Words:
    if total is None or (total.etched is None and total.behind <= 0):
        return [FOLLOW]
    if total.etched:
        return w.told("Put the {etched} mark on {on}.", etched=w.shown(total.etched, unit, bare=True), on=on)
    if total.etched is not None:
        return [tr("Put the ruler’s edge on {on}.", on=on)]
    return w.told("Put the ruler’s edge {behind} behind {on}.", behind=w.shown(total.behind, unit), on=on)


def _curve(kit: Kit, on: Placement, unit: Unit) -> w.Words:
    number, fit = next(((k, fit) for k, fit in enumerate(on.fits) if fit is not None), (0, None))
    if fit is None:
        return [FOLLOW]
    thing = f"“{kit.rulers[fit.ruler].name}”"
    edge = (
        tr("the {side} edge of {thing}", side=tr(fit.edge.side), thing=thing)
        if isinstance(fit, CurveFit)
        else tr("the edge of {thing}", thing=thing)
    )
    thing = edge if isinstance(fit, CurveFit) else thing
    if on.level:
        return [*_level(kit, on, thing, unit), *_nearly(fit, unit)]
    if on.stepped:
        return [*_stepped(on, thing, unit), *_nearly(fit, unit)]
    said: w.Words = w.told(
        "Put {edge} {beside}.{nearly}",
        edge=edge,
        beside=_beside(kit, on, _is_over(on, number), unit),
        nearly=_nearly(fit, unit),
    )
    more = (
        len({(one.ruler, one.edge, _is_over(on, k)) for k, one in enumerate(on.fits) if one is not None}) > 1
    )
    return (
        w.told("{said} Other curves of this line need another edge: see the legs below.", said=said)
        if more
        else said
    )


def _level(kit: Kit, on: Placement, thing: str, unit: Unit) -> w.Words:
    """By its middle line, which is one foot offset away from that of the row, on the reference's side."""
    at = (
        tr("a {crest} at the dot", crest=_crest(on))
        if on.dots
        else tr("a {crest} on the seam that it meets", crest=_crest(on))
    )
    if on.on == "mark":
        far = w.shown(kit.foot_offset, unit)
        return w.told(
            "Put {thing} with its middle line {far} beside the marked middle line, {at}.",
            thing=thing,
            far=far,
            at=at,
        )
    off = w.shown(abs(on.distance - kit.foot_offset), unit, COARSE[unit] / 2, about=True)
    return w.told(
        "Put {thing} level with the {seam}: its middle line {off} from that seam all along, {at}.",
        thing=thing,
        seam=_SEAM[_row_before(on)],
        off=off,
        at=at,
    )


_SEAM: dict[Where, str] = {
    "down": tr("seam below this line"), "up": tr("seam above this line"), "right": tr("seam to the right of this line"),
    "left": tr("seam to the left of this line"), "down and left": tr("seam to the lower left of this line"),
    "down and right": tr("seam to the lower right of this line"), "up and left": tr("seam to the upper left of this line"),
    "up and right": tr("seam to the upper right of this line"), "out": tr("outer seam"), "in": tr("inner seam"), None: tr("seam"),
}  # fmt: skip


def _row_before(on: Placement) -> Where:
    """Where the row or the seam lies from which a line is placed, seen from the line."""
    if on.onward is None or isinstance(on.onward, str):
        return {"in": "out", "out": "in", None: None}[on.onward]
    return opposite(heading(*on.onward))


def _crest(on: Placement) -> str:
    """The name of the high points of its line."""
    fit = on.fits[0] if on.fits else None
    return tr("point") if isinstance(fit, TemplateFit) and not isinstance(fit.edge, WaveEdge) else tr("crest")


def _stepped(on: Placement, thing: str, unit: Unit) -> w.Words:
    """From the row before."""
    said: w.Words = w.told(
        "Move {thing} {distance}{onward} from its place for the row {before}",
        thing=thing,
        distance=w.shown(on.distance, unit, COARSE[unit] / 2, about=True),
        onward=_ONWARD[heading(*on.onward) if isinstance(on.onward, tuple) else None],
        before=_BEFORE[_row_before(on)],
    )
    if abs(on.slide) < VISIBLE:
        return w.told("{said}, {crest} in line with {crest}.", said=said, crest=_crest(on))
    x, y = on.along or (1.0, 0.0)
    sign = 1 if on.slide > 0 else -1
    return w.told(
        "{said}, and slide it {slide}{way}.",
        said=said,
        slide=w.shown(abs(on.slide), unit, COARSE[unit] / 2, about=True),
        way=_ONWARD[heading(sign * x, sign * y)],
    )


_ONWARD: dict[Heading | None, str] = {
    "up": tr(" up"), "down": tr(" down"), "left": tr(" to the left"), "right": tr(" to the right"), "up and left": tr(" up to the left"),
    "up and right": tr(" up to the right"), "down and left": tr(" down to the left"), "down and right": tr(" down to the right"), None: tr(" on"),
}  # fmt: skip
_BEFORE: dict[Where, str] = {
    "down": tr("below this one"), "up": tr("above this one"), "right": tr("to the right of this one"), "left": tr("to the left of this one"),
    "down and left": tr("to the lower left of this one"), "down and right": tr("to the lower right of this one"),
    "up and left": tr("to the upper left of this one"), "up and right": tr("to the upper right of this one"),
    "in": tr("inside this one"), "out": tr("outside this one"), None: tr("before"),
}  # fmt: skip


def _is_over(on: Placement, number: int) -> bool:
    """Whether the ruler for leg ``number`` lies on the other side of the line than what it is placed from."""
    return number < len(on.over_line) and on.over_line[number]


def _beside(kit: Kit, on: Placement, over: bool, unit: Unit) -> w.Words:
    """The distance of the edge from the reference, and whether the line comes between them (``over``)."""
    if on.on in ("mark", "points", "corners"):
        arcs = tr("each arc") if sum(leg.arc is not None for leg in on.legs) > 1 else tr("the arc")
        what = {"mark": tr("the marked line"), "points": tr("the marks at both ends")}.get(
            on.on, tr("both ends of {arcs}: {meet}", arcs=arcs, meet=_meet(on))
        )
        return w.told("{offset} off {what}", offset=w.shown(kit.foot_offset, unit), what=what)
    if over:
        return w.told(
            "{far} from {on}, so that this line comes between them",
            far=w.shown(on.distance + kit.foot_offset, unit, COARSE[unit] / 2, about=True),
            on=on_words(on),
        )
    off = on.distance - kit.foot_offset
    if abs(float(off)) < VISIBLE:
        return [tr("on {on}", on=on_words(on))]
    where = tr("beside") if off > 0 else tr("behind")
    return [
        w.shown(abs(float(off)), unit, COARSE[unit] / 2, about=True),
        f" {where} {on_words(on)}",
    ]


def _nearly(fit: CurveFit | TemplateFit, unit: Unit) -> w.Words:
    """What to do if it does not fit exactly."""
    if fit.verdict != "can be nudged":
        return []
    if isinstance(fit, CurveFit):
        far = w.shown(abs(fit.stray) / 2, unit, COARSE[unit] / 4, about=True)
        way = tr("inwards") if fit.stray > 0 else tr("outwards")
        return w.told(" The ruler nearly fits: in the middle let it drift {far} {way}.", far=far, way=way)
    if abs(fit.longer) < VISIBLE:
        return [tr(" The ruler nearly fits.")]
    far = w.shown(abs(fit.longer), unit, COARSE[unit] / 4, about=True)
    return w.told(
        " The ruler nearly fits: slide it {far} {which} at every repeat.",
        far=far,
        which=tr("back") if fit.longer > 0 else tr("on"),
    )


_PLAIN: dict[By, str] = {
    "ditch": tr("This line follows a seam: sew in the ditch."),
    "follow": FOLLOW,
    "tape": tr("Sew along the edge of the tape."),
}
_HOW: dict[By, Callable[[Kit, Placement, Unit], w.Words]] = {
    "gauge": _by_gauge, "rim": _by_rim, "two points": _by_points, "angle": _by_angle, "tilt": _by_tilt, "curve": _curve, "template": _curve, "eye": _by_eye, "freehand": _freehand,
}  # fmt: skip


def mark_tag(kit: Kit, on: Placement, unit: Unit) -> w.Words:
    """The label beside a ruler that is not placed by an etched line."""
    lies = {
        "mark": tr("beside the marked line"),
        "points": tr("off the marks"),
        "corners": tr("off both ends"),
        "beyond": tr("beside the sewn line"),
    }
    beside = lies.get(on.on)
    if beside is None or on.total is not None or on.by in ("follow", "eye"):
        return short_words(on, unit)
    return w.told("edge {offset} {beside}", offset=w.shown(kit.foot_offset, unit), beside=beside)


def short_words(on: Placement, unit: Unit) -> w.Words:
    """The same, shorter, for the list of coming lines."""
    if on.by == "etched line" and on.total is not None and on.on != "mark":
        return (
            w.told("{etched} mark", etched=w.shown(on.total.etched, unit, bare=True))
            if on.total.etched
            else [tr("edge")]
        )
    return [_SHORT[on.by]]


_SHORT: dict[By, str] = {
    "etched line": tr("mark"), "edge behind": tr("edge behind"), "tilt": tr("askew"), "angle": tr("across"), "gauge": tr("foot"), "rim": tr("foot’s rim"), "curve": tr("curve"),
    "template": tr("template"), "follow": tr("marked"), "two points": tr("mark to mark"), "ditch": tr("ditch"), "tape": tr("tape"), "eye": tr("by eye"), "freehand": tr("freehand"),
}  # fmt: skip


def leg_words(kit: Kit, on: Placement, legs: tuple[Leg, ...], back: bool, unit: Unit) -> list[w.Words]:
    """Leg by leg: the length, what it is placed from, and the turn at its end; empty for a line of one leg.
    Consecutive curves are one leg, unless each is sewn along its own edge."""
    sides = on.sides[::-1] if back else on.sides
    fits = on.fits[::-1] if back else on.fits
    if not any(isinstance(fit, CurveFit) for fit in fits) and not sides:
        legs, fits = tuple(_from_pivot_to_pivot(legs)), ()
    if len(legs) < 2:
        return []
    over = on.over_line[::-1] if back else on.over_line
    edges = {
        (fit.ruler, fit.edge, over[k : k + 1]) for k, fit in enumerate(fits) if isinstance(fit, CurveFit)
    }
    if len(edges) == 1:
        fits = ()  # one edge for all: it is told before
    if len(legs) > 3 and not sides and not fits and (alike := _alike(legs, unit)):
        return [alike]
    found: list[w.Words] = []
    for number, leg in enumerate(legs[:_MOST_LEGS]):
        said: w.Words = [w.shown(leg.length, unit, COARSE[unit], about=True)]
        if number < len(sides) and len({side.total for side in sides}) > 1:
            said += w.told(
                ", {short} on {on}", short=short_words(sides[number], unit), on=on_words(sides[number])
            )
        elif number < len(fits) and isinstance(fit := fits[number], CurveFit):
            said += [tr(", {side} edge of “{name}”", side=tr(fit.edge.side), name=kit.rulers[fit.ruler].name)]
            if len(set(over)) > 1:
                said += [" ", *_beside(kit, on, over[number], unit)]
        if leg.turn:
            said += [
                tr(
                    ", pivot {turn}° {which}",
                    turn=f"{abs(leg.turn):.0f}",
                    which=tr("left") if leg.turn > 0 else tr("right"),
                )
            ]
        found.append(said)
    if len(legs) > _MOST_LEGS:
        found.append([tr("and so on, {legs} legs in all", legs=len(legs))])
    return found


def _alike(legs: Sequence[Leg], unit: Unit) -> w.Words:
    """One sentence for legs of equal length; empty if lengths differ, or turns do not repeat."""
    grain = float(COARSE[unit] * MM_PER[unit])
    if max(leg.length for leg in legs) - min(leg.length for leg in legs) > grain / 2:
        return []
    turns = [round(leg.turn) for leg in legs[:-1]]
    if any(turn != turns[k % 2] for k, turn in enumerate(turns)):
        return []
    told = [f"{abs(turn)}° {'left' if turn > 0 else 'right'}" for turn in dict.fromkeys(turns) if turn]
    each: w.Words = w.told(
        "{legs} legs of {length} each",
        legs=len(legs),
        length=w.shown(legs[0].length, unit, COARSE[unit], about=True),
    )
    return (
        w.told(
            "{each}, pivot {told}{which}",
            each=each,
            told=tr(" and ").join(told),
            which=tr(" by turns") if len(told) > 1 else "",
        )
        if told
        else each
    )


def _from_pivot_to_pivot(legs: Sequence[Leg]) -> Iterable[Leg]:
    """The legs, merged where the quilt is not turned."""
    length = 0.0
    for number, leg in enumerate(legs):
        length += leg.length
        if leg.turn or number == len(legs) - 1:
            yield replace(leg, length=length)
            length = 0.0


def summary(plan: ZonePlan, drawing: Drawing, unit: Unit) -> list[str]:
    """How the lines of a drawing are placed, equal ones together, as at the machine; empty for thousands of lines."""
    if drawing.lines > _MOST_LINES or drawing.hints or not drawing.fill.sewn:
        return []
    found = Counter(
        w.plain(lay_words(plan.kit, planned(plan, drawing, line), unit)) for line in range(drawing.lines)
    )
    return [f"{texts.many(many, 'line')}: {said}" for said, many in found.most_common(_MOST_WAYS)]
