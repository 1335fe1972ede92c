"""Notes on a route: what it requires besides following it."""

from __future__ import annotations

from itertools import pairwise

import shapely

from kenzet.core.numbers.measure import COARSE, Unit, in_words, long_figure
from kenzet.core.route.needle import roll
from kenzet.core.route.network import LINE
from kenzet.core.route.quilt import QuiltRoute
from kenzet.core.route.turns import same_way
from kenzet.core.route.unit import corners_of
from kenzet.core.route.unit_route import UnitRoute
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.core.top.stitching import PinnedEnds
from kenzet.say import words as w
from kenzet.say.whereabouts import CORNERS
from kenzet.texts import tr

TINY = 0.5  # mm
_OVER_AGAIN = 0.15
_TOLD = 0.1  # of the lines


def route_notes(laid: QuiltLayout, found: QuiltRoute, unit: Unit) -> list[w.Known]:
    """All notes, those about possible damage first."""
    harm = [w.Known(words=[said], tone="warns") for said in dict.fromkeys(_harm(laid, found, unit))]
    rest = [w.Known(words=[said], tone="tells") for said in dict.fromkeys(_tells(laid, found, unit))]
    return [*harm, *rest]


def _harm(laid: QuiltLayout, found: QuiltRoute, unit: Unit) -> list[str]:
    kit, said = laid.quilt.kit, []
    side = min(laid.top.width, laid.top.height)
    thick = roll(side / 2, float(kit.batting.thickness.mm))
    opening = min(float(kit.machine.opening.mm), float(kit.machine.height.mm))
    if thick > opening:
        said.append(
            tr(
                "Half of the quilt rolled up is about {thick} thick; the opening of your machine is {opening}: fold the quilt loosely instead, or start at one edge.",
                thick=in_words(thick, unit, COARSE[unit]),
                opening=in_words(opening, unit, COARSE[unit]),
            )
        )
    most = laid.quilt.stitching.same_way
    for one in found.routes:
        row = max((same_way(one, run) for run in one.runs), default=0)
        if row > most:
            said.append(
                tr(
                    "{name}: {row} lines in a row are sewn in the same direction, so the layers may shift.",
                    name=one.unit.part.name,
                    row=row,
                )
            )
    for one in found.routes:
        thick = int(one.threads.max(initial=0))
        if thick > laid.quilt.stitching.over:
            said.append(
                tr(
                    "{name}: {thick} threads overlap in one place, because other routes are much longer.",
                    name=one.unit.part.name,
                    thick=thick,
                )
            )
    return said


def _tells(laid: QuiltLayout, found: QuiltRoute, unit: Unit) -> list[str]:
    said = []
    for before, visit in pairwise(found.visits):
        foot, was = (found.routes[v.route].unit.foot for v in (visit, before))
        if foot != was:
            number = found.visits.index(visit)
            said.append(
                tr(
                    "Numbers 1 to {number} are sewn with the {was}; change to the {foot} before number {number2}.",
                    number=number,
                    was=was,
                    foot=foot,
                    number2=number + 1,
                )
            )
    said += _finished(found)
    said += _turns(laid, found)
    said += _order_notes(found, unit)
    if laid.quilt.stitching.ditch == "last" and any(
        one.unit.rank and all(d.fill.in_the_ditch for _, d in one.unit.drawings) for one in found.routes
    ):
        said.append(
            tr(
                "The ditch is sewn last, so it cannot hide travel until then. Travel along the ditch counts as sewing it."
            )
        )
    loose = sum(len(one.runs) > 1 for one in found.routes)
    if loose and laid.quilt.stitching.retrace == "forbidden":
        said.append(tr("Your settings do not allow resewing lines, so some lines need a new thread."))
    return said


def _order_notes(found: QuiltRoute, unit: Unit) -> list[str]:
    """The cost of the order of lines, and where much is sewn twice."""
    said = []
    for one in found.routes:
        name = one.unit.part.name
        again = sum(float(one.network.lengths[k]) for k in one.travel.edges if one.network.kinds[k] == LINE)
        if again > _OVER_AGAIN * one.network.stitched:
            said.append(
                tr(
                    "{name}: {value} % of the lines are sewn twice to get from line to line. Sew the seams between them too, in the ditch: travel hides there.",
                    name=name,
                    value=round(100 * again / one.network.stitched),
                )
            )
        if one.more > _TOLD * one.network.stitched:
            said.append(
                tr(
                    "{name}: {more} of the travelling is needed because each line is placed from another and each set is sewn whole. One more marked line saves some of it: “Search for shorter routes” says which.",
                    name=name,
                    more=long_figure(one.more, unit),
                )
            )
    return said


def _turns(laid: QuiltLayout, found: QuiltRoute) -> list[str]:
    """The zones sewn before or after all others."""
    units = [found.routes[visit.route].unit for visit in found.visits]
    sewn = {zone for unit in units for zone, _ in unit.drawings}
    said = []
    for turn, words in (("first", tr("before everything else")), ("last", tr("after everything else"))):
        names = [
            laid.zone(zone).name
            for zone, its in laid.quilt.stitching.turns.items()
            if its == turn and zone in sewn
        ]
        if names:
            said.append(
                tr(
                    "Sewn everywhere {words}: {fromkeys}.",
                    words=words,
                    fromkeys=", ".join(dict.fromkeys(names)),
                )
            )
    return said


def _finished(found: QuiltRoute) -> list[str]:
    """Where one direction of the grids is finished and the next not begun."""
    units = [found.routes[visit.route].unit for visit in found.visits]
    at = [
        k
        for k, (one, other) in enumerate(pairwise(units), 1)
        if one.family is not None and other.family != one.family and other.family
    ]
    return [tr("After number {k} the first direction is complete; you could stop there.", k=k) for k in at]


def cell_note(one: UnitRoute, unit: Unit) -> str:
    """Where the first whole cell of a grid is, for those who begin there; empty if no cell is whole."""
    cells = one.unit.cells
    if cells is None:
        return ""
    corners = corners_of(one.unit.part)
    far = cells.first.distance(shapely.Point(corners[cells.corner]))
    inside = tr(", {far} from it", far=in_words(far, unit, COARSE[unit])) if far > TINY else ""
    cut = tr(", {cut} cut at the edge", cut=cells.cut) if cells.cut else tr(", none is cut")
    return tr(
        "Cells: {whole} whole{cut}. The first whole one is at the {corners}{inside}.",
        whole=cells.whole,
        cut=cut,
        corners=CORNERS[cells.corner],
        inside=inside,
    )


def pin_fault(one: UnitRoute, pin: PinnedEnds | None) -> str:
    """Why pinned ends could not be kept; empty if they could."""
    if pin is None or one.pinned or not (pin.start or pin.end):
        return ""
    if pin.start == "first whole cell" and one.unit.cells is None:
        return tr("No whole cell is left here.")
    return tr("You cannot get from that corner to the other without cutting the thread.")
