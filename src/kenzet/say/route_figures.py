"""The figures of a route: length, time, thread."""

from __future__ import annotations

import math
from collections.abc import Sequence

from kenzet.core.logbook.forecast import LeftThere
from kenzet.core.numbers.measure import COARSE, METRE, YARD, Unit, long_figure
from kenzet.core.route.bobbins import Leg as BobbinLeg
from kenzet.core.route.bobbins import bobbin_changes
from kenzet.core.route.bulk import least_in_throat
from kenzet.core.route.needle import TAIL, Needle, repeated_leg, thread
from kenzet.core.route.quilt import QuiltRoute
from kenzet.core.route.quilt_needle import hands_at_work, whole_needle
from kenzet.core.route.unit_route import UnitRoute
from kenzet.core.ruler.offset_sums import whole_stitches
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.say import words as w
from kenzet.texts import tr

_FEW = 6


_SPARE = 1.1
_LINES, _TIME, _TO_BUY = tr("Lines"), tr("Sewing time, about"), tr("Thread to buy (incl. 10 % spare)")


def route_rows(
    laid: QuiltLayout, found: QuiltRoute, left: Sequence[LeftThere] | None, unit: Unit
) -> list[w.Row]:
    """The figures of the whole route, and what is ``left`` of them; None if nothing is sewn yet."""
    laid_down, turns = hands_at_work(found)
    cost = whole_needle(laid, found)
    rows = [*way_rows(found.stitched, found.travelled, found.stops, unit), *needle_rows(cost, unit)]
    if left is not None:
        rows = [_with_left(row, left, unit) for row in rows]
    return [*rows, *_bobbin_rows(laid, found), *hand_rows(laid_down, turns)]


def _with_left(row: w.Row, left: Sequence[LeftThere], unit: Unit) -> w.Row:
    """A figure, followed by what is left of it if it shrinks while sewing."""
    thread = sum(one.thread for one in left)
    rest = {
        _LINES: lambda: tr("{length} left", length=long_figure(sum(one.length for one in left), unit)),
        _TIME: lambda: tr("{time} left", time=w.minutes(sum(one.seconds for one in left))),
        _TO_BUY: lambda: tr("{length} for the rest", length=_thread(_SPARE * 2 * thread, unit)),
    }.get(str(row.label[0]))
    return row if rest is None else row.model_copy(update={"words": [*row.words, f" · {rest()}"]})


def hand_rows(laid_down: int, turns: int) -> list[w.Row]:
    """The number of hand movements."""
    return [
        w.Row(label=[tr("Lines begun")], words=[tr("{laid_down} times", laid_down=f"{laid_down:,}")]),
        w.Row(label=[tr("Turns at the needle")], words=[f"{turns:,}"]),
    ]


def throat_rows(laid: QuiltLayout, one: UnitRoute, place: str, unit: Unit) -> list[w.Row]:
    """What lies in the throat at a place, if anything."""
    bulk = least_in_throat(laid, one.unit.part, place)
    if bulk is None:
        return []
    wide, thick = (w.shown(mm, unit, COARSE[unit], about=True) for mm in (round(bulk.width), bulk.thick))
    return [
        w.Row(
            label=[tr("In the throat, {edge} edge there", edge=tr(bulk.edge))],
            words=w.told("{wide}, rolled {thick}", wide=wide, thick=thick),
        )
    ]


def _bobbin_rows(laid: QuiltLayout, found: QuiltRoute) -> list[w.Row]:
    """Where bobbins are changed, if a few lines can tell."""
    kit = laid.quilt.kit
    per_mm = thread(1.0, float(kit.batting.thickness.mm), float(kit.stitch.mm))
    legs = []
    for k, visit in enumerate(found.visits):
        one = found.routes[visit.route]
        begins = k == 0 or visit.stop
        way = one.network.stitched + one.travelled + visit.across
        legs.append(BobbinLeg(way * per_mm + (len(one.runs) - 1 + begins) * TAIL, begins))
    changes = list(bobbin_changes(legs, float(kit.bobbin.holds.mm)))
    said = []
    for at_stop, word in ((True, tr("before {numbers}")), (False, tr("in {numbers}"))):
        numbers = list(dict.fromkeys(f"{one.number + 1}" for one in changes if one.at_stop is at_stop))
        some = [*numbers[:_FEW], "…"] if len(numbers) > _FEW else numbers
        said += [word.format(numbers=", ".join(some))] if some else []
    return [w.Row(label=[tr("A full bobbin lasts")], words=["; ".join(said)])] if said else []


def way_rows(sewn: float, travelled: float, stops: int, unit: Unit) -> list[w.Row]:
    """Lines, travel, thread cuts."""
    share = tr(" · {value} % more", value=round(100 * travelled / sewn)) if sewn else ""
    return [
        w.Row(label=[_LINES], words=[long_figure(sewn, unit)]),
        w.Row(label=[tr("Travelling")], words=[long_figure(travelled, unit) + share]),
        w.Row(label=[tr("Thread cuts on the way")], words=[f"{stops:,}" if stops else tr("none")]),
    ]


def needle_rows(cost: Needle, unit: Unit) -> list[w.Row]:
    """Time and thread."""
    return [
        w.Row(label=[_TIME], words=[w.minutes(cost.seconds)]),
        w.Row(label=[tr("Top thread (bobbin the same)")], words=[_thread(cost.thread, unit)]),
        w.Row(label=[_TO_BUY], words=[_thread(_SPARE * 2 * cost.thread, unit)]),
        w.Row(label=[tr("Bobbins")], words=[f"{cost.bobbins}"]),
    ]


def _thread(mm: float, unit: Unit) -> str:
    return (
        tr("{ceil} yd", ceil=f"{math.ceil(mm / YARD):,}") if unit == "in" else f"{math.ceil(mm / METRE):,} m"
    )


def stitch_rows(laid: QuiltLayout, one: UnitRoute) -> list[w.Row]:
    """F40: if sides repeat, the stitch length with which a stitch ends at every turn."""
    leg = repeated_leg([line for _, drawing in one.unit.drawings for line in drawing.polylines])
    if leg is None:
        return []
    many, long = whole_stitches(leg, float(laid.quilt.kit.stitch.mm))
    return [
        w.Row(
            label=[tr("To turn on a whole stitch")],
            words=[tr("{many} of {long} mm", many=many, long=f"{long:.2f}")],
        )
    ]
