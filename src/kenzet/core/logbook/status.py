"""The stage of every place of a quilt: planned, marked, begun, anchored, filled, finished, inspected."""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import dataclass
from typing import Literal, get_args

from kenzet.core.sewing.log import Sewn
from kenzet.core.sewing.now import PlaceRoutes

Stage = Literal["planned", "marked", "begun", "anchored", "filled", "finished", "inspected"]
STAGES: tuple[Stage, ...] = get_args(Stage)


@dataclass(frozen=True, slots=True)
class PlaceStatus:
    """Of ``whole`` mm planned at a place, ``left`` mm are not sewn, ``ditch`` of them in the ditch. ``part`` is
    the key of the part there."""

    place: str
    part: str
    stage: Stage
    whole: float
    left: float
    ditch: float

    @property
    def share(self) -> float:
        """The share that is sewn, by length, 0 to 1."""
        return 1 - self.left / self.whole if self.whole else 1.0


def status(
    ways: PlaceRoutes, sewn: Sewn, marked_zones: Collection[str], inspected: Collection[str]
) -> list[PlaceStatus]:
    """The status of every place in the order of the route.

    ``marked_zones`` are keys of zones whose marks are on, ``inspected`` the places that were inspected.
    *Anchored*: all of the ditch is sewn and more is planned; *filled*: everything but the ditch is sewn.
    """
    found = []
    for place, visits in ways.at.items():
        whole = left = ditch = ditch_left = 0.0
        zones: set[str] = set()
        for number in visits:
            way = ways.of(ways.route.visits[number])
            covered = sewn.of(place)
            unit = way.route.unit
            zones |= {zone for zone, _ in unit.drawings}
            for move in way.sewn:
                assert move.stretch is not None
                unsewn = sum(b - a for a, b in covered.left(move.stretch))
                whole += move.stretch.length
                left += unsewn
                if unit.drawings[unit.courses[move.course].zone][1].fill.in_the_ditch:
                    ditch += move.stretch.length
                    ditch_left += unsewn
        name = ways.of(ways.route.visits[visits[0]]).route.unit.part.name
        marked = bool(zones & set(marked_zones))
        stage = _stage(whole, left, ditch, ditch_left, marked, place in inspected)
        found.append(PlaceStatus(place, name, stage, whole, left, ditch_left))
    return found


def _stage(
    whole: float, left: float, ditch: float, ditch_left: float, marked: bool, inspected: bool
) -> Stage:
    if left <= 0:
        return "inspected" if inspected else "finished"
    if left >= whole:
        return "marked" if marked else "planned"
    if ditch and ditch_left <= 0:
        return "anchored"
    if ditch and left <= ditch_left:
        return "filled"
    return "begun"


def share_of(places: Collection[PlaceStatus]) -> float:
    """The share of the whole quilt that is sewn, by length, 0 to 1."""
    whole = sum(one.whole for one in places)
    return 1 - sum(one.left for one in places) / whole if whole else 0.0
