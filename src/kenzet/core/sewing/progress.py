"""Progress: what is left, the thread on the bobbin, the lines sewn last, and whether an event is possible.

Lengths are mm, times seconds.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Literal, NamedTuple

from kenzet.core.kit.kit import Kit
from kenzet.core.route.needle import TAIL, thread
from kenzet.core.sewing.log import Event, Log, Sewn
from kenzet.core.sewing.now import Left, Now, PlaceRoutes

LONGER = 1.0  # mm: by so much an event may overshoot the end of its line
AT_A_PLACE = ("sewn", "skipped", "broke", "unpicked", "begun", "gone")
Fault = Literal["", "no such place", "sews nothing", "undoes nothing", "no such line"]


@dataclass(frozen=True, slots=True)
class Bobbin:
    """The thread ``left`` on it; a mm of stitching takes ``per_mm``, starting a thread ``per_thread``."""

    left: float
    per_mm: float
    per_thread: float


def bobbin_of(kit: Kit, sewn: Sewn) -> Bobbin:
    """The present bobbin (F41)."""
    per_mm = thread(1.0, float(kit.batting.thickness.mm), float(kit.stitch.mm))
    used = sewn.bobbin_way * per_mm + sewn.bobbin_threads * TAIL
    return Bobbin(float(kit.bobbin.holds.mm) - used, per_mm, TAIL)


@dataclass(frozen=True, slots=True)
class Progress:
    """Over the quilt: ``many`` lines of ``whole`` mm, the ``share`` of their length that is sewn, the number
    ``skipped``, the number of ``untouched`` places, and the places that are ``begun``."""

    many: int
    whole: float
    share: float
    skipped: int
    untouched: int
    begun: tuple[Left, ...]


def progress_of(left: Sequence[Left]) -> Progress:
    """The progress over all places."""
    many = sum(one.many for one in left)
    whole = sum(one.whole for one in left)
    return Progress(
        many,
        whole,
        1 - sum(one.unsewn for one in left) / whole if whole else 1.0,
        sum(one.skipped for one in left),
        sum(one.left == one.many and not one.skipped for one in left),
        tuple(one for one in left if one.skipped or 0 < one.left < one.many),
    )


class ZoneLeft(NamedTuple):
    """In ``zone``, ``lines`` are left at ``places`` places in pass ``turn`` (0 is the first); ``next`` is the next
    of these places."""

    zone: str
    turn: int
    lines: int
    places: int
    next: Left


def left_by_zone(left: Iterable[Left]) -> list[ZoneLeft]:
    """What is left by zone key."""
    lines, places = Counter[tuple[str, int]](), Counter[tuple[str, int]]()
    first: dict[tuple[str, int], Left] = {}
    for one in left:
        for key, many in one.zones.items():
            lines[key] += many
            places[key] += 1
            first.setdefault(key, one)
    return [ZoneLeft(*key, many, places[key], first[key]) for key, many in sorted(lines.items())]


def of_earlier_plans(ways: PlaceRoutes, sewn: Sewn) -> int:
    """The number of sewn lines that are no longer in the plan."""
    known = {(visit.place, word) for visit in ways.route.visits for word in ways.of(visit).route.unit.words}
    return sum((place, key[0]) not in known for place, covered in sewn.covered.items() for key in covered)


def recent_lines(log: Log, here: Now) -> Iterable[tuple[Event, str]]:
    """The last lines sewn here and not unpicked, each with its zone's key, the newest first."""
    covered = log.sewn.of(here.visit.place)
    unit = here.way.route.unit
    zones = dict(zip(unit.words, (zone for zone, _ in unit.drawings), strict=True))
    for event in reversed(log.events):
        if event.place != here.visit.place or not event.sewn or event.at is None:
            continue
        if any(covered.left(stretch) for stretch in event.sewn) or event.sewn[0].of not in zones:
            continue
        yield event, zones[event.sewn[0].of]


def which_of_its_kind(ways: PlaceRoutes, here: Now) -> tuple[int, int]:
    """The index of this place among those that are sewn alike, and how many these are."""
    name = here.way.route.unit.part.name
    alike = [v.place for v in ways.route.visits if ways.route.routes[v.route].unit.part.name == name]
    places = list(dict.fromkeys(alike))
    return places.index(here.visit.place) + 1, len(places)


def fault_of(ways: PlaceRoutes, event: Event) -> Fault:
    """What is wrong with an event; empty if nothing is. Lines of an earlier plan are accepted, as they were sewn."""
    if event.kind in AT_A_PLACE and event.place not in ways.at and not (event.sewn or event.back):
        return "no such place"
    if event.kind == "sewn" and not event.sewn:
        return "sews nothing"
    if event.kind == "undone" and not event.of:
        return "undoes nothing"
    if event.place in ways.at:
        units = [ways.of(ways.route.visits[k]).route.unit for k in ways.at[event.place]]
        known = {word for unit in units for word in unit.words}
        lengths = {key: long for unit in units for key, long in unit.lengths.items()}
        for one in (*event.sewn, *event.back):
            if one.of in known and one.ends > lengths.get((one.of, one.line), -LONGER) + LONGER:
                return "no such line"
    return ""
