"""The order and the ways for paper."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from itertools import groupby

import numpy as np

from kenzet.core.geom.region import Floats
from kenzet.core.numbers.measure import Unit
from kenzet.core.route.costs import Costs
from kenzet.core.route.quilt import QuiltRoute, route_quilt
from kenzet.core.route.unit import rings
from kenzet.core.sewing.way import Way
from kenzet.core.top.quilt_layout import LaidQuilt
from kenzet.formats.job_sheet import JobOrder, JobWay, Picture
from kenzet.web import show
from kenzet.web.route import visit_view
from kenzet.web.route_notes import route_notes
from kenzet.web.route_rows import route_rows
from kenzet.web.route_words import sentence


def job_order(laid: LaidQuilt, unit: Unit, seams: Iterable[Floats]) -> JobOrder | None:
    """The order and the ways for paper; ``seams`` are drawn thin below."""
    found = route_quilt(laid)
    if not found.visits:
        return None
    at: dict[tuple[float, float], list[int]] = {}
    for k, visit in enumerate(found.visits, 1):
        x, y = visit_view(laid, found, visit).middle
        at.setdefault((x, y), []).append(k)
    numbers = tuple((spot, _numbers(some)) for spot, some in at.items())
    says = [f"{show.plain(row.label)}: {show.plain(row.words)}" for row in route_rows(laid, found, unit)]
    picture = Picture((laid.top.width, laid.top.height), tuple(seams), (), numbers=numbers)
    ways = tuple(_job_way(found, number) for number in range(len(found.routes)))
    return JobOrder(picture, (*says, *route_notes(laid, found, unit)), ways)


def _job_way(found: QuiltRoute, number: int) -> JobWay:
    """One kind, in the direction of the first place that is sewn so."""
    at = [k for k, visit in enumerate(found.visits, 1) if found.visits[k - 1].route == number]
    visit = found.visits[at[0] - 1]
    one = found.routes[number]
    moves = Way(one, visit.back, Costs()).moves
    sewn = [list(some) for line, some in groupby(moves, key=lambda move: move.number) if line]
    lines = [np.concatenate([move.path for move in some]) for some in sewn]
    freehand = frozenset(k for k, some in enumerate(sewn) if one.unit.courses[some[0].course].freehand)
    part = one.unit.part
    back = [k for k in at if found.visits[k - 1].back != visit.back]
    where = f"Number{'s' if len(at) > 1 else ''} {_numbers(at)} of the order"
    turned = f"; from its end to its start at {_numbers(back)}" if back else ""
    rings_of = [ring for patch in part.patches.values() for ring in rings(patch.area)]
    travels = tuple(move.path for move in moves if move.stretch is None)
    picture = Picture(
        (part.width, part.height), tuple(rings_of), (), way=tuple(lines), travels=travels, freehand=freehand
    )
    return JobWay(part.name, (sentence(one, visit), f"{where}{turned}."), picture)


def _numbers(some: Sequence[int]) -> str:
    """
    >>> _numbers([1, 2, 3, 5, 7, 8])
    '1 to 3, 5, 7, 8'
    """
    found: list[list[int]] = []
    for number in some:
        if found and found[-1][-1] == number - 1:
            found[-1].append(number)
        else:
            found.append([number])
    return ", ".join(f"{one[0]} to {one[-1]}" if len(one) > 2 else ", ".join(map(str, one)) for one in found)
