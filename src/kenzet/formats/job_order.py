"""The sewing order and the routes, for paper."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from itertools import groupby

import numpy as np

from kenzet import texts
from kenzet.core.geom.affine import place_all
from kenzet.core.geom.region import Floats
from kenzet.core.numbers.measure import Unit
from kenzet.core.route.costs import Costs
from kenzet.core.route.quilt import QuiltRoute
from kenzet.core.route.unit import rings
from kenzet.core.sewing.place_route import PlaceRoute
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.formats.job_parts import JobOrder, JobRoute, Picture
from kenzet.say import words as w
from kenzet.say.route_figures import route_rows
from kenzet.say.route_notes import route_notes
from kenzet.say.route_words import sentence
from kenzet.texts import tr

QUICK = tr(
    "This is a quick order, and Kenzet is still looking for a shorter one. Open Stitch, wait until the search ends, and print this sheet again."
)


def job_order(laid: QuiltLayout, found: QuiltRoute, unit: Unit, seams: Iterable[Floats]) -> JobOrder:
    """The sewing order and the routes, for paper; ``seams`` are drawn as thin lines below."""
    at: dict[tuple[float, float], list[int]] = {}
    for k, visit in enumerate(found.visits, 1):
        part = found.routes[visit.route].unit.part
        x, y = place_all(part.places[visit.place], np.array([part.centre]))[0].round(2).tolist()
        at.setdefault((x, y), []).append(k)
    numbers = tuple((spot, _numbers(some)) for spot, some in at.items())
    says = [f"{w.plain(row.label)}: {w.plain(row.words)}" for row in route_rows(laid, found, None, unit)]
    picture = Picture((laid.top.width, laid.top.height), tuple(seams), (), numbers=numbers)
    ways = tuple(_job_way(found, number) for number in range(len(found.routes)))
    notes = [
        *([QUICK] if found.quick else []),
        *(w.plain(note.words) for note in route_notes(laid, found, unit)),
    ]
    return JobOrder(picture, (*says, *notes), ways)


def _job_way(found: QuiltRoute, number: int) -> JobRoute:
    """The route of one kind, in the direction of the first place that uses it."""
    at = [k for k, visit in enumerate(found.visits, 1) if found.visits[k - 1].route == number]
    visit = found.visits[at[0] - 1]
    one = found.routes[number]
    moves = PlaceRoute(one, visit.back, Costs()).moves
    sewn = [list(some) for line, some in groupby(moves, key=lambda move: move.number) if line]
    lines = [np.concatenate([move.path for move in some]) for some in sewn]
    freehand = frozenset(k for k, some in enumerate(sewn) if one.unit.courses[some[0].course].freehand)
    part = one.unit.part
    back = [k for k in at if found.visits[k - 1].back != visit.back]
    where = texts.counted(
        len(at), "Number {numbers} of the order", "Numbers {numbers} of the order", numbers=_numbers(at)
    )
    turned = tr("; from its end to its start at {numbers}", numbers=_numbers(back)) if back else ""
    rings_of = [ring for patch in part.patches.values() for ring in rings(patch.area)]
    travels = tuple(move.path for move in moves if move.stretch is None)
    picture = Picture(
        (part.width, part.height), tuple(rings_of), (), way=tuple(lines), travels=travels, freehand=freehand
    )
    return JobRoute(part.name, (sentence(one, visit), f"{where}{turned}."), picture)


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
    return ", ".join(
        tr("{one} to {one2}", one=one[0], one2=one[-1]) if len(one) > 2 else ", ".join(map(str, one))
        for one in found
    )
