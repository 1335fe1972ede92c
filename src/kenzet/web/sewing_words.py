"""What is said at the machine: one step at a time, large enough to be read from a metre away."""

from __future__ import annotations

import math
from collections.abc import Sequence
from itertools import groupby

import numpy as np

from kenzet.core.geom.region import Floats, Point
from kenzet.core.kit.curves import ranked, templates
from kenzet.core.numbers.measure import COARSE, Unit
from kenzet.core.plan.drawing import Drawing
from kenzet.core.plan.zone_plan import ZonePlan
from kenzet.core.route.bulk import least_in_throat
from kenzet.core.route.network import DITCH, EDGE, LINE, RIM, STEP, TEXTURE
from kenzet.core.ruler.offset_sums import Sum, hand_stops
from kenzet.core.sewing.next_reference import LaidOn
from kenzet.core.sewing.steps import Step
from kenzet.core.sewing.way import Move, cut_out
from kenzet.core.top.layout import Part
from kenzet.core.top.quilt_layout import LaidQuilt
from kenzet.core.top.stitching import ThreadEnds
from kenzet.web import models as m
from kenzet.web import show

_NTH = ("", "", "second", "third", "fourth", "fifth", "sixth")
_LANES = {
    DITCH: "along the ditch",
    EDGE: "along the zone’s edge",
    RIM: "along the quilt’s edge",
    STEP: "straight across",
    LINE: "back over that line",
    TEXTURE: "across the texture",
}
ENDING: dict[ThreadEnds, str] = {
    "tie and bury": "Tie the threads and bury them.",
    "tiny stitches": "End with a few tiny stitches and cut.",
    "run off": "Run off into the batting and cut.",
    "caught by the edge": "Stop at the edge and cut; the binding or the border will hold the ends.",
}
_WAYS = (
    "to the right", "up to the right", "up", "up to the left",
    "to the left", "down to the left", "down", "down to the right",
)  # fmt: skip


def way_to(start: Point | Floats, end: Point | Floats) -> str:
    """In which direction, as the quilt lies on the screen.

    >>> way_to((0, 0), (0, 5)), way_to((0, 0), (3, -3)), way_to((0, 0), (-9, 1))
    ('up', 'down to the right', 'to the left')
    """
    turn = math.atan2(float(end[1] - start[1]), float(end[0] - start[0]))
    return _WAYS[round(turn / (math.pi / 4)) % 8]


def on_words(on: LaidOn) -> str:
    """
    >>> from fractions import Fraction
    >>> on_words(LaidOn("line", Fraction(38), 2)), on_words(LaidOn("last", Fraction(19)))
    ('the second line from it', 'the line you just sewed')
    """
    if on.kind == "last":
        return "the line you just sewed"
    if on.kind == "seam":
        return "the seam"
    if on.kind == "drawn":
        return "the drawn line beside it" if on.over == 1 else f"the drawn line, the {_NTH[on.over]} from it"
    return "the line beside it" if on.over == 1 else f"the {_NTH[on.over]} line from it"


def lay_words(plan: ZonePlan, drawing: Drawing, line: int, on: LaidOn, total: Sum, unit: Unit) -> m.Words:
    """What lies where before the line is sewn."""
    if plan.kit.sew_with == "walking foot":
        held = on.kind not in ("mark", "nothing") and total.gauge
        return [f"The {total.gauge} runs along {on_words(on)}." if held else _MARK]
    if is_curved(plan, drawing, line):
        return [_curve_words(plan, drawing, line)]
    reach = show.shown(plan.kit.reach, unit)
    if on.kind == "mark":
        return ["Lay the ruler’s edge ", reach, " beside the drawn line."]
    if on.kind == "nothing":
        said = "Nothing beside it is sewn yet: draw this line, and lay the ruler’s edge "
        return [said, reach, " off it."]
    return _ruler_words(on_words(on), total, unit)


def _ruler_words(on: str, total: Sum, unit: Unit) -> m.Words:
    if total.etched:
        return ["Lay the ", show.shown(total.etched, unit, bare=True), f" mark on {on}."]
    if total.etched is not None:
        return [f"Lay the ruler’s edge on {on}."]
    if total.behind > 0:
        return ["Lay the ruler’s edge ", show.shown(total.behind, unit), f" behind {on}."]
    return [_MARK]


_MARK = "Follow the mark."


def is_curved(plan: ZonePlan, drawing: Drawing, line: int) -> bool:
    """Whether a curved edge or a template sews it rather than a straight one."""
    return plan.template(drawing) is not None or plan.arc_at(drawing, line) is not None


def _curve_words(plan: ZonePlan, drawing: Drawing, line: int) -> str:
    wanted, arc = plan.template(drawing), plan.arc_at(drawing, line)
    if wanted is not None:
        fits = templates(plan.kit, wanted)
        return f"Lay “{plan.kit.rulers[fits[0].ruler].name}” along it." if fits else _MARK
    curves = ranked(plan.kit, arc.radius, arc.angle) if arc else []
    if not curves:
        return _MARK
    return f"Lay the {curves[0].edge.side} edge of “{plan.kit.rulers[curves[0].ruler].name}” along it."


def short_words(on: LaidOn, total: Sum | None, unit: Unit) -> m.Words:
    """The same for the list of what is coming."""
    if (
        total is None
        or on.kind in ("mark", "nothing")
        or (total.etched is None and not total.gauge and total.behind <= 0)
    ):
        return ["mark"]
    if total.gauge:
        return [total.gauge]
    if total.etched is None:
        return ["edge behind"]
    return [show.shown(total.etched, unit, bare=True), " mark"] if total.etched > 0 else ["edge"]


def sew_words(
    step: Step, on_lanes: dict[int, int], closed: bool, unit: Unit, placed: Sequence[Floats]
) -> m.Words:
    """How far and which way, and where to stop; ``placed`` is the way of its moves in the quilt."""
    far = show.shown(sum(move.length for move in step.sews), unit, COARSE[unit], about=True)
    first, last = placed[0][0], placed[len(step.sews) - 1][-1]
    if closed and float(np.hypot(*(last - first))) < 1.0:
        return ["Sew round, ", far, ", back to where you began. Pivot at each corner, ", _DOWN]
    where = on_lanes.get(step.sews[-1].nodes[1])
    stop = {DITCH: "to the seam", EDGE: "to the zone’s edge", RIM: "to the quilt’s edge"}.get(
        where if where is not None else -1, "to its end"
    )
    if closed:
        return ["Sew ", far, " on round. Pivot at each corner, ", _DOWN]
    return [f"Sew {way_to(first, last)} ", far, f", {stop}, and stop with the ", _DOWN]


_DOWN = "needle down."


def travel_words(travels: Sequence[Move], placed: Sequence[Floats], unit: Unit) -> m.Words:
    """Where one goes without sewing a line: lane by lane."""
    said: m.Words = []
    for _, some in groupby(zip(travels, placed, strict=True), key=lambda one: one[0].kind):
        pieces = list(some)
        far = show.shown(sum(move.length for move, _ in pieces), unit, COARSE[unit], about=True)
        way = way_to(pieces[0][1][0], pieces[-1][1][-1])
        said += [", then " if said else "", far, f" {way}, {_LANES[pieces[0][0].kind]}"]
    return [one for one in said if one != ""]


def hand_words(plan: ZonePlan, length: float, unit: Unit) -> m.Words:
    """Where the hand on the ruler moves on."""
    if plan.kit.sew_with == "walking foot":
        return []
    stops = hand_stops(length, float(plan.kit.hand.mm), [])
    words: m.Words = []
    for stop in stops[:4]:
        words += [*([" · "] if words else []), show.shown(stop, unit, COARSE[unit], about=True)]
    return words


def hand_spots(plan: ZonePlan, path: Floats) -> list[list[float]]:
    """Where on ``path`` (n, 2) the hand moves on."""
    if plan.kit.sew_with == "walking foot":
        return []
    far = float(np.hypot(*np.diff(path, axis=0).T).sum())
    return [cut_out(path, 0.0, at)[-1].round(3).tolist() for at in hand_stops(far, float(plan.kit.hand.mm))]


def bulk_words(laid: LaidQuilt, part: Part, place: str, unit: Unit) -> m.Words:
    """Which edge of the quilt to turn towards the machine's body."""
    bulk = least_in_throat(laid, part, place)
    if bulk is None:
        return []
    wide, thick = (show.shown(mm, unit, COARSE[unit], about=True) for mm in (round(bulk.width), bulk.thick))
    return [
        f"The quilt’s {bulk.edge} edge towards the machine’s body: ",
        wide,
        " of it there, rolled about ",
        thick,
        ".",
    ]
