"""How a line is placed, in the order in which her hands do it. Every screen and sheet says it with these words."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Collection, Iterable, Sequence
from dataclasses import replace
from fractions import Fraction

from kenzet.core.kit.curves import CurveFit, TemplateFit
from kenzet.core.kit.edges import WaveEdge
from kenzet.core.kit.kit import Kit
from kenzet.core.marks.marking import marks_of
from kenzet.core.numbers.measure import COARSE, MM_PER, Unit
from kenzet.core.placing.legs import Leg
from kenzet.core.placing.place_line import planned
from kenzet.core.placing.placement import By, Onward, Placement
from kenzet.core.plan.drawing import Drawing
from kenzet.core.plan.zone_plan import Compass, ZonePlan, compass
from kenzet.core.ruler.offset_sums import OffsetSum
from kenzet.core.tolerances import VISIBLE
from kenzet.say import words as w

NTH = ("", "", "second", "third", "fourth", "fifth", "sixth")
FOLLOW = "Follow the drawn line."
_MOST_LEGS = 12
_MOST_LINES = 1500  # of a drawing, to be told together
_MOST_WAYS = 6


def on_words(on: Placement) -> str:
    """What it is laid on.

    >>> from fractions import Fraction
    >>> on_words(Placement(3, "line", "etched line", (), Fraction(38), 2)), on_words(Placement(3, "last", "etched line", ()))
    ('the second line from it', 'the line you just sewed')
    """
    if on.beyond is not None:
        return f"the sewn line in “{on.beyond.zone}”"
    if on.on in _ON:
        return _ON[on.on]
    kind = "drawn line" if on.on == "drawn" else "line"
    return f"the {kind} beside it" if on.over == 1 else f"the {NTH[on.over]} {kind} from it"


_ON = {
    "last": "the line you just sewed",
    "seam": "the seam",
    "mark": "the drawn line",
    "angle": "the line that it crosses",
    "ditch": "the seam",
    "tape": "the tape",
    "points": "the marks at its ends",
    "corners": "the points at its ends, where seams or sewn lines meet",
    "nothing": "nothing",
}


def tape_words(plan: ZonePlan, drawing: Drawing, line: int, sewn: Collection[int], unit: Unit) -> w.Words:
    """Along which edge of which strip a line is sewn; before the first of a round also what is laid, and how far from the zone's side."""
    tape = marks_of(plan, drawing).tape
    if tape is None or line not in tape.place_of:
        return []
    number, strip, edge = tape.place_of[line]
    strips, many = tape.rounds[number], len(tape.rounds)
    nx, ny = (-v for v in tape.side_of(drawing, number))
    sides = (_END[compass(-nx, -ny)], _END[compass(nx, ny)])
    said: w.Words = []
    if not any(place[0] == number for one, place in tape.place_of.items() if one in sewn):
        said = [f"Peel the tape slowly. Round {number + 1} of {many}: " if number else f"Round 1 of {many}: "]
        said += [f"put on {w.many(len(strips), 'strip')}, the {sides[0]} edge "]
        for k, far in enumerate(tape.measures(drawing, number)):
            said += [*([", "] if k else []), w.shown(far, unit, COARSE[unit] / 2, about=True)]
        said += [f" from the zone’s {sides[0]} side. "]
    which = f"strip {strip + 1}" if len(strips) > 1 else "the strip"
    return [*said, f"Sew just outside the {sides[edge]} edge of {which}, not through the tape."]


def lay_words(kit: Kit, on: Placement, unit: Unit) -> w.Words:
    """What lies where before the line is sewn."""
    if not on.sides:
        return _laid(kit, on, unit)
    if len({(side.on, side.total) for side in on.sides}) > 1:
        return ["Sew each leg as listed, and move the ruler at each pivot."]
    name = {"seam": "the seam", "line": "the line"}.get(on.on, on_words(on))
    return _laid(kit, on.sides[0], unit, f"{name} beside each leg")


def _laid(kit: Kit, on: Placement, unit: Unit, name: str = "") -> w.Words:
    if on.by in _PLAIN:
        return [_PLAIN[on.by]]
    if on.by in _HOW:
        return _HOW[on.by](kit, on, unit)
    if on.on == "mark":
        return ["Put the ruler’s edge ", w.shown(kit.reach, unit), " beside the drawn line."]
    if on.beyond is not None and on.total is None:
        far = w.shown(kit.reach, unit)
        return ["Put the ruler’s edge ", far, f" beside {on_words(on)}: this line continues that one."]
    return _ruler(name or on_words(on), on.total, unit)


def _by_gauge(kit: Kit, on: Placement, unit: Unit) -> w.Words:
    gauge = on.total.gauge if on.total else ""
    return [f"Let the foot’s {gauge} run along {on_words(on)}."]


def _by_rim(kit: Kit, on: Placement, unit: Unit) -> w.Words:
    return [f"Without a ruler: run the rim of the foot along {on_words(on)}."]


def _by_points(kit: Kit, on: Placement, unit: Unit) -> w.Words:
    if on.on == "corners":
        each = "each end of every leg" if len(on.legs) > 1 else "both ends of the line"
        if kit.sew_with == "walking foot":
            return [f"Sew straight to {each}: {_meet(on)}."]
        return ["Put the ruler’s edge ", w.shown(kit.reach, unit), f" off {each}: {_meet(on)}."]
    if kit.sew_with == "walking foot":
        return ["Sew straight from the mark at one end to the mark at the other."]
    return ["Put the ruler’s edge ", w.shown(kit.reach, unit), " off the marks at both ends."]


def _meet(on: Placement) -> str:
    """What shows the ends of its legs."""
    ends = {leg.start for leg in on.legs} | {leg.end for leg in on.legs}
    if len(on.dots) >= len(ends):
        return "a dot marks each"
    return (
        "a dot is there, or seams or sewn lines meet there" if on.dots else "seams or sewn lines meet there"
    )


def _by_tilt(kit: Kit, on: Placement, unit: Unit) -> w.Words:
    """At either end by its own etched line."""
    leg = on.legs[0]
    (x0, y0), (x1, y1) = leg.start, leg.end
    ends = (compass(x0 - x1, y0 - y1), compass(x1 - x0, y1 - y0))
    said: w.Words = [f"Put the ruler at an angle on {on_words(on)}: at the {_END[ends[0]]} end "]
    return [
        *said,
        *_lies(kit, on.tilt[0], unit),
        f", at the {_END[ends[1]]} end ",
        *_lies(kit, on.tilt[1], unit),
        ".",
    ]


def _lies(kit: Kit, under: Fraction, unit: Unit) -> w.Words:
    """How a line lies to the ruler's edge."""
    if abs(float(under)) < float(COARSE[unit] * MM_PER[unit]) / 4:
        return ["along its edge"]
    if under < 0:
        return ["it shows by ", w.shown(-under, unit, COARSE[unit] / 2, about=True)]
    if any(abs(float(under - line)) < VISIBLE for _, edge in kit.straight for line in edge.lines):
        return ["under the ", w.shown(under, unit, bare=True), " mark"]
    return [w.shown(under, unit, COARSE[unit] / 2, about=True), " under its edge"]


def _by_angle(kit: Kit, on: Placement, unit: Unit) -> w.Words:
    line = "a square line" if on.angle == 90 else f"its {on.angle:g}° line"
    said: w.Words = [f"Put the ruler with {line} on a sewn line that this one crosses"]
    if on.crosses is None:
        return [*said, "."]
    far, end = on.crosses
    if far < VISIBLE:
        return [*said, f", so that the needle meets its {_END[end]} end."]
    return [
        *said,
        ", so that the needle crosses it ",
        w.shown(far, unit, COARSE[unit] / 2, about=True),
        f" from its {_END[end]} end.",
    ]


_END: dict[Compass, str] = {"left": "left", "right": "right", "up": "upper", "down": "lower"}


def _by_eye(kit: Kit, on: Placement, unit: Unit) -> w.Words:
    if on.on in ("seam", "line", "last"):
        far = w.shown(on.distance, unit)
        return ["By eye, ", far, f" from {on_words(on)} all along: none of your rulers sews this curve."]
    if on.on == "points":
        return ["By eye from mark to mark: none of your rulers sews this curve."]
    return ["By eye: no seam, sewn line or mark places this line. Mark it first if you want it exact."]


def _freehand(kit: Kit, on: Placement, unit: Unit) -> w.Words:
    far = w.shown(on.distance, unit)
    return ["Put the ruler aside. Quilt freehand, about ", far, f" from {on_words(on)}."]


def _ruler(on: str, total: OffsetSum | None, unit: Unit) -> w.Words:
    if total is None or (total.etched is None and total.behind <= 0):
        return [FOLLOW]
    if total.etched:
        return ["Lay the ", w.shown(total.etched, unit, bare=True), f" mark on {on}."]
    if total.etched is not None:
        return [f"Put the ruler’s edge on {on}."]
    return ["Put the ruler’s edge ", w.shown(total.behind, unit), f" behind {on}."]


def _curve(kit: Kit, on: Placement, unit: Unit) -> w.Words:
    fit = next((fit for fit in on.fits if fit is not None), None)
    if fit is None:
        return [FOLLOW]
    thing = f"“{kit.rulers[fit.ruler].name}”"
    edge = f"the {fit.edge.side} edge of {thing}" if isinstance(fit, CurveFit) else f"the edge of {thing}"
    thing = edge if isinstance(fit, CurveFit) else thing
    if on.level:
        return [*_level(kit, on, thing, unit), *_nearly(fit, unit)]
    if on.stepped:
        return [*_stepped(on, thing, unit), *_nearly(fit, unit)]
    said: w.Words = [f"Lay {edge} ", *_beside(kit, on, unit), *_nearly(fit, unit)]
    more = len({(one.ruler, one.edge) for one in on.fits if one is not None}) > 1
    return [*said, " Other curves of this line need another edge: see the legs below."] if more else said


def _level(kit: Kit, on: Placement, thing: str, unit: Unit) -> w.Words:
    """By its middle line, which lies one foot offset off that of the row, on the side of what it is laid from."""
    at = f"a {_crest(on)} at the dot" if on.dots else f"a {_crest(on)} on the seam that it meets"
    if on.on == "mark":
        far = w.shown(kit.reach, unit)
        return [f"Lay {thing} with its middle line ", far, f" beside the drawn middle line, {at}."]
    off = w.shown(abs(on.distance - kit.reach), unit, COARSE[unit] / 2, about=True)
    return [
        f"Lay {thing} level with the {_SEAM[on.onward]}: its middle line ",
        off,
        f" from that seam all along, {at}.",
    ]


_SEAM: dict[Onward | None, str] = {
    "up": "seam below this line", "down": "seam above this line", "left": "seam to the right of this line",
    "right": "seam to the left of this line", "in": "outer seam", "out": "inner seam", None: "seam",
}  # fmt: skip


def _crest(on: Placement) -> str:
    """What the high places of its line are called."""
    fit = on.fits[0] if on.fits else None
    return "point" if isinstance(fit, TemplateFit) and not isinstance(fit.edge, WaveEdge) else "crest"


def _stepped(on: Placement, thing: str, unit: Unit) -> w.Words:
    """From the row before."""
    said: w.Words = [
        f"Move {thing} ",
        w.shown(on.distance, unit, COARSE[unit] / 2, about=True),
        f"{_ONWARD[on.onward]} from its place for the row {_BEFORE[on.onward]}",
    ]
    if abs(on.slide) < VISIBLE:
        return [*said, f", {_crest(on)} in line with {_crest(on)}."]
    way = "right" if on.slide > 0 else "left"
    return [
        *said,
        ", and slide it ",
        w.shown(abs(on.slide), unit, COARSE[unit] / 2, about=True),
        f" to the {way}.",
    ]


_ONWARD: dict[Onward | None, str] = {
    "up": " up", "down": " down", "left": " to the left", "right": " to the right", None: " on",
}  # fmt: skip
_BEFORE: dict[Onward | None, str] = {
    "up": "below this one", "down": "above this one", "left": "to the right of this one", "right": "to the left of this one",
    None: "before",
}  # fmt: skip


def _beside(kit: Kit, on: Placement, unit: Unit) -> w.Words:
    """How far the edge lies from what it is laid on."""
    if on.on in ("mark", "points", "corners"):
        arcs = "each arc" if sum(leg.arc is not None for leg in on.legs) > 1 else "the arc"
        what = {"mark": "the drawn line", "points": "the marks at both ends"}.get(
            on.on, f"both ends of {arcs}: {_meet(on)}"
        )
        return [w.shown(kit.reach, unit), f" off {what}."]
    off = on.distance - kit.reach
    if abs(float(off)) < VISIBLE:
        return [f"on {on_words(on)}."]
    where = "beside" if off > 0 else "behind"
    return [
        w.shown(abs(float(off)), unit, COARSE[unit] / 2, about=True),
        f" {where} {on_words(on)}.",
    ]


def _nearly(fit: CurveFit | TemplateFit, unit: Unit) -> w.Words:
    """What to do where it does not quite fit."""
    if fit.verdict != "can be nudged":
        return []
    if isinstance(fit, CurveFit):
        far = w.shown(abs(fit.stray) / 2, unit, COARSE[unit] / 4, about=True)
        way = "inwards" if fit.stray > 0 else "outwards"
        return [" The ruler nearly fits: in the middle let it drift ", far, f" {way}."]
    if abs(fit.longer) < VISIBLE:
        return [" The ruler nearly fits."]
    far = w.shown(abs(fit.longer), unit, COARSE[unit] / 4, about=True)
    return [
        " The ruler nearly fits: slide it ",
        far,
        f" {'back' if fit.longer > 0 else 'on'} at every repeat.",
    ]


_PLAIN: dict[By, str] = {
    "ditch": "This line follows a seam: sew in the ditch.",
    "follow": FOLLOW,
    "tape": "Sew along the edge of the tape.",
}
_HOW: dict[By, Callable[[Kit, Placement, Unit], w.Words]] = {
    "gauge": _by_gauge, "rim": _by_rim, "two points": _by_points, "angle": _by_angle, "tilt": _by_tilt, "curve": _curve, "template": _curve, "eye": _by_eye, "freehand": _freehand,
}  # fmt: skip


def mark_tag(kit: Kit, on: Placement, unit: Unit) -> w.Words:
    """What is lettered beside a ruler that lies on no line by an etched one."""
    lies = {
        "mark": "beside the drawn line",
        "points": "off the marks",
        "corners": "off both ends",
        "beyond": "beside the sewn line",
    }
    beside = lies.get(on.on)
    if beside is None or on.total is not None or on.by in ("follow", "eye"):
        return short_words(on, unit)
    return ["edge ", w.shown(kit.reach, unit), f" {beside}"]


def short_words(on: Placement, unit: Unit) -> w.Words:
    """The same for the list of what is coming."""
    if on.by == "etched line" and on.total is not None and on.on != "mark":
        return [w.shown(on.total.etched, unit, bare=True), " mark"] if on.total.etched else ["edge"]
    return [_SHORT[on.by]]


_SHORT: dict[By, str] = {
    "etched line": "mark", "edge behind": "edge behind", "tilt": "askew", "angle": "across", "gauge": "foot", "rim": "foot’s rim", "curve": "curve",
    "template": "template", "follow": "drawn", "two points": "mark to mark", "ditch": "ditch", "tape": "tape", "eye": "by eye", "freehand": "freehand",
}  # fmt: skip


def leg_words(kit: Kit, on: Placement, legs: tuple[Leg, ...], back: bool, unit: Unit) -> list[w.Words]:
    """Leg by leg: how far, what it is laid on, and how the quilt is turned at its end; nothing for a line of one leg. Curves in
    each other's way are one leg, unless each is sewn along an edge of its own.
    """
    sides = on.sides[::-1] if back else on.sides
    fits = on.fits[::-1] if back else on.fits
    if not any(isinstance(fit, CurveFit) for fit in fits) and not sides:
        legs, fits = tuple(_from_pivot_to_pivot(legs)), ()
    if len(legs) < 2:
        return []
    if len({(fit.ruler, fit.edge) for fit in fits if isinstance(fit, CurveFit)}) == 1:
        fits = ()  # one edge for all: it is told before
    if len(legs) > 3 and not sides and not fits and (alike := _alike(legs, unit)):
        return [alike]
    found: list[w.Words] = []
    for number, leg in enumerate(legs[:_MOST_LEGS]):
        said: w.Words = [w.shown(leg.length, unit, COARSE[unit], about=True)]
        if number < len(sides) and len({side.total for side in sides}) > 1:
            said += [", ", *short_words(sides[number], unit), f" on {on_words(sides[number])}"]
        elif number < len(fits) and isinstance(fit := fits[number], CurveFit):
            said += [f", {fit.edge.side} edge of “{kit.rulers[fit.ruler].name}”"]
        if leg.turn:
            said += [f", pivot {abs(leg.turn):.0f}° {'left' if leg.turn > 0 else 'right'}"]
        found.append(said)
    if len(legs) > _MOST_LEGS:
        found.append([f"and so on, {len(legs)} legs in all"])
    return found


def _alike(legs: Sequence[Leg], unit: Unit) -> w.Words:
    """Legs of one length in a sentence; empty where they differ, or their turns are not one or two by turns."""
    grain = float(COARSE[unit] * MM_PER[unit])
    if max(leg.length for leg in legs) - min(leg.length for leg in legs) > grain / 2:
        return []
    turns = [round(leg.turn) for leg in legs[:-1]]
    if any(turn != turns[k % 2] for k, turn in enumerate(turns)):
        return []
    told = [f"{abs(turn)}° {'left' if turn > 0 else 'right'}" for turn in dict.fromkeys(turns) if turn]
    each: w.Words = [
        f"{len(legs)} legs of ",
        w.shown(legs[0].length, unit, COARSE[unit], about=True),
        " each",
    ]
    return [*each, f", pivot {' and '.join(told)}{' by turns' if len(told) > 1 else ''}"] if told else each


def _from_pivot_to_pivot(legs: Sequence[Leg]) -> Iterable[Leg]:
    """The legs, joined where the quilt is not turned."""
    length = 0.0
    for number, leg in enumerate(legs):
        length += leg.length
        if leg.turn or number == len(legs) - 1:
            yield replace(leg, length=length)
            length = 0.0


def summary(plan: ZonePlan, drawing: Drawing, unit: Unit) -> list[str]:
    """How the lines of a drawing are placed, those alike together, as they are told at the machine; nothing for thousands of lines."""
    if drawing.lines > _MOST_LINES or drawing.hints or not drawing.fill.sewn:
        return []
    found = Counter(
        w.plain(lay_words(plan.kit, planned(plan, drawing, line), unit)) for line in range(drawing.lines)
    )
    return [f"{w.many(many, 'line')}: {said}" for said, many in found.most_common(_MOST_WAYS)]
