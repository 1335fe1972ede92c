"""The words at the machine: one step at a time, large enough to be read from a metre away."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import groupby

import numpy as np

from kenzet import texts
from kenzet.core.geom.region import Floats
from kenzet.core.numbers.measure import COARSE, Unit, long_figure
from kenzet.core.route.bulk import least_in_throat
from kenzet.core.route.network import DITCH, EDGE, LINE, RIM, STEP, TEXTURE
from kenzet.core.sewing.log import Sewn
from kenzet.core.sewing.now import Left, Now
from kenzet.core.sewing.place_route import Move, PlaceRoute, near
from kenzet.core.sewing.progress import Fault, ZoneLeft
from kenzet.core.sewing.steps import SewingStep
from kenzet.core.tolerances import VISIBLE
from kenzet.core.top.layout import Part
from kenzet.core.top.line_ends import ALLOWANCE
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.core.top.stitching import ThreadEnds
from kenzet.say import words as w
from kenzet.say.whereabouts import corner_words, way_to
from kenzet.texts import tr

_LANES = {
    DITCH: tr("along the ditch"),
    EDGE: tr("along the zone’s edge"),
    RIM: tr("along the quilt’s edge"),
    STEP: tr("straight across"),
    LINE: tr("back along the line just sewn"),
    TEXTURE: tr("across the texture"),
}


_SEWN_LINE = tr("along a sewn line")

ENDING: dict[ThreadEnds, str] = {
    "tie and bury": tr("Tie the threads and bury them."),
    "tiny stitches": tr("End with a few tiny stitches and cut."),
    "run off": tr("Sew off into the batting and cut."),
    "caught by the edge": tr("Stop at the edge and cut; the binding or the border will hold the ends."),
}


def sew_words(
    step: SewingStep, way: PlaceRoute, closed: bool, unit: Unit, placed: Sequence[Floats]
) -> w.Words:
    """How far and in which direction to sew, and where to stop; ``placed`` are its moves in the quilt."""
    far = w.shown(sum(move.length for move in step.sews), unit, COARSE[unit], about=True)
    first, last = placed[0][0], placed[len(step.sews) - 1][-1]
    if float(np.hypot(*(last - first))) < VISIBLE:
        return w.told(
            "Sew round, {far}, back to where you began. Pivot at each corner, {down}", far=far, down=_DOWN
        )
    stop = _stop(step.sews[-1], way)
    if closed:
        return w.told("Sew {far} on round. Pivot at each corner, {down}", far=far, down=_DOWN)
    return w.told(
        "Sew {way_to} {far}, {stop}, and stop with the {down}",
        way_to=way_to(first, last),
        far=far,
        stop=stop,
        down=_DOWN,
    )


def _stop(last: Move, way: PlaceRoute) -> str:
    """What the needle meets at the end of a line, or of what is left of it."""
    node = last.nodes[1]
    x, y = way.route.network.points[node].tolist()
    if not near(last.end, (x, y)):
        return tr("to where that line is sewn already")
    where = way.on_lanes.get(node, -1)
    return {DITCH: tr("to the seam"), EDGE: tr("to the zone’s edge"), RIM: tr("to the quilt’s edge")}.get(
        where, tr("to its end")
    )


_DOWN = tr("needle down.")


def edge_words(on_edge: bool, unit: Unit) -> w.Words:
    """An addition if a line is placed from the quilt's finished edge, which is invisible before binding."""
    if not on_edge:
        return []
    return w.told(
        " Here that seam is the quilt’s finished edge, {allowance} inside the raw edge.",
        allowance=w.shown(ALLOWANCE, unit),
    )


def travel_words(travels: Sequence[Move], placed: Sequence[Floats], unit: Unit, course: int = -1) -> w.Words:
    """Where to travel without sewing a line: lane by lane, after the line ``course``. Travel too short to be seen
    is left out."""
    said: w.Words = []
    for (kind, line), some in groupby(
        zip(travels, placed, strict=True), key=lambda one: (one[0].kind, one[0].course)
    ):
        pieces = list(some)
        long = sum(move.length for move, _ in pieces)
        if long < VISIBLE:
            continue
        way = way_to(pieces[0][1][0], pieces[-1][1][-1])
        lane = _SEWN_LINE if kind == LINE and line != course else _LANES[kind]
        said += [
            tr(", then ") if said else "",
            w.shown(long, unit, COARSE[unit], about=True),
            f" {way}, {lane}",
        ]
    return [one for one in said if one != ""]


def hand_words(stops: Sequence[float], unit: Unit) -> w.Words:
    """Where the hand on the ruler moves, mm along the line."""
    words: w.Words = []
    for stop in stops[:4]:
        words += [*([" · "] if words else []), w.shown(stop, unit, COARSE[unit], about=True)]
    return words


def bulk_words(laid: QuiltLayout, part: Part, place: str, unit: Unit) -> w.Words:
    """Which edge of the quilt to turn towards the machine's body."""
    bulk = least_in_throat(laid, part, place)
    if bulk is None:
        return []
    wide, thick = (w.shown(mm, unit, COARSE[unit], about=True) for mm in (round(bulk.width), bulk.thick))
    return w.told(
        "The quilt’s {edge} edge towards the machine’s body: {wide} of it there, rolled about {thick}.",
        edge=tr(bulk.edge),
        wide=wide,
        thick=thick,
    )


def begin_words(here: Now, first: Move) -> str:
    """Where a thread begins."""
    x, y = here.way.route.network.points[first.nodes[0]].tolist()
    if first.stretch and max(abs(x - first.start[0]), abs(y - first.start[1])) > 1:
        return tr(
            "Begin where the sewing ends, over its last few stitches: bring the bobbin thread up first."
        )
    return tr(
        "Begin {corner}: bring the bobbin thread up, and sew a few tiny stitches.",
        corner=corner_words(here.way.route, first.start, here.way.route.unit.part.places[here.visit.place]),
    )


def then_words(laid: QuiltLayout, here: Now, step: SewingStep, go: w.Words, is_last: bool) -> w.Words:
    """What to do after the line."""
    if go:
        return w.told("Then travel {go}.", go=go)
    if is_last and here.onward:
        return [tr("This block is done. Keep the thread and go on to the next.")]
    ending = ENDING[laid.quilt.stitching.ends]
    if step.stops:
        return [ending + (tr(" This block is done.") if is_last else "")]
    return [tr("The next line begins here.")]


FAULTS: dict[Fault, str] = {
    "no such place": tr("That block has nothing to sew, or is no longer in the quilt."),
    "sews nothing": tr("A “sewn” event must name the line it sewed."),
    "undoes nothing": tr("An “undone” event must name the event it undoes."),
    "no such line": tr("There is no such line there, or it is shorter than that."),
}


def log_rows(sewn: Sewn, unit: Unit) -> list[w.Row]:
    """Totals of what was sewn."""
    rows = [
        w.Row(label=[tr("Lines sewn")], words=[long_figure(max(sewn.lines, 0.0), unit)]),
        w.Row(label=[tr("Threads begun")], words=[f"{sewn.threads}"]),
    ]
    if sewn.breaks:
        rows.append(w.Row(label=[tr("Breaks")], words=[f"{sewn.breaks}"]))
    if sewn.freehand:
        rows.append(w.Row(label=[tr("Sewn by eye")], words=[long_figure(sewn.freehand, unit)]))
    if sewn.stitches:
        rows.append(w.Row(label=[tr("Stitches counted")], words=[texts.number(sewn.stitches)]))
    return rows


def earlier_words(many: int) -> list[str]:
    """What was sewn with a plan that has since changed."""
    lines = tr("A line was") if many == 1 else tr("{many} lines were", many=many)
    said = tr(
        "{lines} sewn with an earlier plan of these zones and not counted here. Undo to return to that plan.",
        lines=lines,
    )
    return [said] if many else []


def left_words(left: Left) -> str:
    """How many lines of a place are left."""
    skipped = tr(", {skipped} skipped", skipped=left.skipped) if left.skipped else ""
    return tr("{left} of {many} lines left{skipped}", left=left.left, many=left.many, skipped=skipped)


def zone_left_words(laid: QuiltLayout, left: ZoneLeft) -> dict[str, str]:
    """The zone's name, and how much of it is left where."""
    times = ("", tr(", second pass"))[left.turn] if left.turn < 2 else tr(", pass {turn}", turn=left.turn + 1)
    where = tr("one place") if left.places == 1 else tr("{places} places", places=left.places)
    return {
        "name": laid.zone(left.zone).name + times,
        "words": tr("{lines} in {where}", lines=texts.many(left.lines, "line"), where=where),
    }
