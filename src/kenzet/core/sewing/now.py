"""The present state of sewing: the current place, what is left there and elsewhere, and what comes next."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace

import numpy as np

from kenzet.core.geom.affine import invert, place_all
from kenzet.core.geom.region import Floats, Point
from kenzet.core.route.costs import Costs
from kenzet.core.route.quilt import QuiltRoute, costs_of
from kenzet.core.route.visits import UnitVisit
from kenzet.core.sewing.log import Sewn
from kenzet.core.sewing.place_route import AT, Move, PlaceRoute, near
from kenzet.core.sewing.steps import SewingStep, steps_of
from kenzet.core.sewing.stretch import Covered
from kenzet.core.top.quilt_layout import QuiltLayout


@dataclass(frozen=True, slots=True)
class Left:
    """At the ``number``-th place of the route (from 0), ``left`` of ``many`` lines are not sewn, ``skipped`` of those
    were skipped.

    ``zones`` counts the lines left in each zone (its key), the first and the second pass (turn 0, 1) separately.
    Of ``whole`` mm of lines, ``unsewn`` mm are left.
    """

    number: int
    place: str
    many: int
    left: int
    skipped: int
    zones: Mapping[tuple[str, int], int]
    whole: float
    unsewn: float

    @property
    def share(self) -> float:
        """The share that is sewn, by length, 0 to 1."""
        return 1 - self.unsewn / self.whole if self.whole else 1.0


@dataclass(frozen=True, eq=False)
class Now:
    """The current ``visit``, number ``number`` of the route from 0, and the ``steps`` left there, the next one first.

    ``onward`` is the place to which the thread continues, if it does; ``new_foot`` is to be mounted before sewing,
    empty if none is.
    """

    number: int
    visit: UnitVisit
    way: PlaceRoute
    steps: tuple[SewingStep, ...]
    onward: UnitVisit | None
    new_foot: str = ""

    def point_in_quilt(self, point: Point) -> Point:
        """A point of the part in the quilt's coordinates."""
        x, y = in_quilt(self.way, self.visit.place, np.array([point]))[0].tolist()
        return x, y


def now(ways: PlaceRoutes, sewn: Sewn, wanted: str = "", chosen: int | None = None) -> Now | None:
    """The current or chosen place (``wanted``; of several visits to it, visit ``chosen`` of the route), else the
    next place with something left; None if everything is sewn."""
    visits = ways.route.visits
    left = ways.left(sewn)
    mine = ways.at.get(wanted or sewn.place, [0])
    here = next((k for k in reversed(mine) if left[k].left < left[k].many), mine[0])
    behind = [k for k in mine if wanted or k <= here]  # what is left where she is comes first
    order = [*([chosen] if chosen in mine else []), *behind, *range(here, len(visits)), *range(here)]
    number = next((k for k in order if left[k].left > left[k].skipped), None)
    if number is None:
        return None

    def leads_on_to(k: int) -> bool:
        """Whether the thread leads from the place before to place ``k``, where nothing is sewn yet."""
        return 0 < k < len(visits) and not visits[k].stop and left[k].left == left[k].many

    visit = visits[number]
    way = ways.of(visit)
    at, across = None, None
    if sewn.thread and sewn.at is not None:
        from_before = leads_on_to(number) and sewn.place == visits[number - 1].place
        from_before = from_before and _leads_from(
            visit, in_quilt(way, visit.place, way.moves[0].path[:1])[0], sewn.at
        )
        if from_before and (sewn.place != visit.place or _begins(visit, sewn.at)):
            at, across = way.moves[0].start, visit.way
        elif sewn.place == visit.place:
            at = needle_in(way, visit.place, sewn.at)
            if visit.stop and left[number].left == left[number].many and not sewn.just_begun:
                at = None  # another pass over the same place begins with a new thread
    moves = way.rest(sewn.of(visit.place), sewn.skipped.get(visit.place, set()), at)
    steps = steps_of(moves)
    if across is not None and len(across) and not moves[0].fresh:
        steps.insert(0, SewingStep("go", (), (), stops=False, across=across))
    onward = visits[number + 1] if leads_on_to(number + 1) else None
    if onward is not None:
        steps[-1] = replace(steps[-1], stops=False)
    return Now(number, visit, way, tuple(steps), onward, _new_foot(ways, left[number]))


def _leads_from(visit: UnitVisit, start: Floats, at: Point) -> bool:
    """Whether the travel to a visit, or the visit itself, begins where the needle is. After skipped lines, or
    lines sewn from their other end, the place before may have ended elsewhere."""
    x, y = (visit.way[0] if visit.across > AT and len(visit.way) else start).tolist()
    return near(at, (x, y))


def _begins(visit: UnitVisit, at: Point) -> bool:
    """Whether the needle is where the travel from the visit before begins, with that travel still to do."""
    return visit.across > AT and near(at, (float(visit.way[0, 0]), float(visit.way[0, 1])))


def _new_foot(ways: PlaceRoutes, left: Left) -> str:
    if left.left < left.many or not left.number:
        return ""
    before, here = (
        ways.of(visit).route.unit.foot for visit in ways.route.visits[left.number - 1 : left.number + 1]
    )
    return here if here != before else ""


def needle_in(way: PlaceRoute, place: str, at: Point) -> Point:
    """A point of the quilt in the coordinates of the part at ``place``."""
    return invert(way.route.unit.part.places[place], at)


def in_quilt(way: PlaceRoute, place: str, points: Floats) -> Floats:
    """Points of a part, (n, 2), in the quilt's coordinates."""
    return place_all(way.route.unit.part.places[place], points)


def _unsewn(move: Move, covered: Covered | None) -> float:
    """mm of a line that are not sewn yet."""
    assert move.stretch is not None
    return move.stretch.length if covered is None else sum(b - a for a, b in covered.left(move.stretch))


def place_routes(laid: QuiltLayout, found: QuiltRoute) -> PlaceRoutes:
    """The routes of all places, with the quilt's costs."""
    return PlaceRoutes(found, costs_of(laid.quilt.stitching))


class PlaceRoutes:
    """The planned route at every place, cached as long as the quilt's route."""

    def __init__(self, found: QuiltRoute, costs: Costs) -> None:
        self.route, self.costs = found, costs
        self.at: dict[str, list[int]] = {}
        """The visits of every place, one in each pass."""
        for k, visit in enumerate(found.visits):
            self.at.setdefault(visit.place, []).append(k)
        self._kept: dict[tuple[int, bool, tuple[int, ...]], PlaceRoute] = {}
        self._number = {id(visit): k for k, visit in enumerate(found.visits)}

    def of(self, visit: UnitVisit) -> PlaceRoute:
        """The route of a visit; places that are sewn alike share it."""
        mine = self._number[id(visit)]
        later = tuple(self.route.visits[k].route for k in self.at[visit.place] if k > mine)
        key = (visit.route, visit.back, later)
        if key not in self._kept:
            units = [self.route.routes[number].unit for number in later]
            ditches = [
                (word, course.number, course.line)
                for unit in units
                for course in unit.courses
                for word, drawing in [(unit.words[course.zone], unit.drawings[course.zone][1])]
                if drawing.fill.in_the_ditch
            ]
            self._kept[key] = PlaceRoute(self.route.routes[visit.route], visit.back, self.costs, ditches)
        return self._kept[key]

    def left(self, sewn: Sewn) -> list[Left]:
        """What is left at each place, in order."""
        found = []
        for k, visit in enumerate(self.route.visits):
            way, covered = self.of(visit), sewn.covered.get(visit.place)
            skipped = sewn.skipped.get(visit.place, set())
            if covered is None and not skipped:
                found.append(
                    Left(
                        k,
                        visit.place,
                        way.many,
                        way.many,
                        0,
                        way.lines_by_zone(way.sewn),
                        way.length,
                        way.length,
                    )
                )
                continue
            open_ = [
                move for move in way.sewn if move.stretch and (covered is None or covered.left(move.stretch))
            ]
            numbers = {move.number: bool(move.stretch and move.stretch.key in skipped) for move in open_}
            found.append(
                Left(
                    k,
                    visit.place,
                    way.many,
                    len(numbers),
                    sum(numbers.values()),
                    way.lines_by_zone(open_),
                    way.length,
                    sum(_unsewn(move, covered) for move in open_),
                )
            )
        return found
