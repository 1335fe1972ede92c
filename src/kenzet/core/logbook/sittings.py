"""The events of a quilt grouped into sittings: when, what and how long was sewn, and what went wrong where.

Glossary: a *sitting* is sewing without a break of more than ``BREAK_S``; a *rest* is a shorter pause in it. Times
are seconds since 1970, lengths mm. The time between two events counts for what the second one reports, without
pauses.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field
from itertools import pairwise
from typing import Literal

from kenzet.core.geom.region import Point
from kenzet.core.sewing.log import PAUSE_S, Event
from kenzet.core.sewing.stretch import Covered, LineKey

BREAK_S = 3600.0
MishapKind = Literal["broke", "unpicked", "skipped"]


@dataclass(frozen=True, slots=True)
class Mishap:
    """Something that went wrong or was skipped: where in the quilt, in which line of which drawing."""

    kind: MishapKind
    when: float
    place: str
    drawing: str
    line: int
    at: Point | None


@dataclass
class There:
    """What was sewn of one drawing at one place: the ``lines`` begun, ``length`` mm of new stitching, ``freehand``
    mm of that, ``unpicked`` mm; ``seconds`` at the needle; ``threads`` begun. ``plan`` is the revision it was
    sewn by, 0 if unknown."""

    place: str
    drawing: str
    plan: int = 0
    first: float = 0.0
    last: float = 0.0
    lines: set[LineKey] = field(default_factory=set)
    length: float = 0.0
    freehand: float = 0.0
    unpicked: float = 0.0
    skipped: int = 0
    broken: int = 0
    seconds: float = 0.0
    stitches: int = 0
    threads: int = 0

    @property
    def zone(self) -> str:
        """The key of its zone."""
        return zone_of(self.drawing)


@dataclass(frozen=True, eq=False)
class Sitting:
    """From ``begun`` to ``ended``, of which ``seconds`` at the needle; ``rests`` have a beginning and an end."""

    begun: float
    ended: float
    seconds: float
    rests: tuple[tuple[float, float], ...]
    threads: int
    bobbins: int
    there: tuple[There, ...]
    mishaps: tuple[Mishap, ...]

    @property
    def length(self) -> float:
        """Stitching, mm."""
        return sum(one.length for one in self.there)


def zone_of(drawing: str) -> str:
    """The key of the zone with which a drawing's word begins."""
    return drawing.split(".", 1)[0]


def sittings(events: Sequence[Event]) -> list[Sitting]:
    """The sittings of all events that were not undone, in order of time. O(events)."""
    ordered = sorted(events, key=lambda event: event.when)
    found: list[Sitting] = []
    covered: dict[str, Covered] = {}
    group: list[Event] = []
    for event in ordered:
        if group and event.when - group[-1].when > BREAK_S:
            found.append(_sitting(group, covered))
            group = []
        group.append(event)
    return [*found, _sitting(group, covered)] if group else found


def _sitting(events: Sequence[Event], covered: dict[str, Covered]) -> Sitting:
    there: dict[tuple[str, str], There] = {}
    mishaps: list[Mishap] = []
    rests: list[tuple[float, float]] = []
    seconds = waiting = 0.0
    threads = 0
    for k, event in enumerate(events):
        gap = event.when - events[k - 1].when if k else 0.0
        if gap > PAUSE_S or (event.kind == "rested" and gap):
            rests.append((events[k - 1].when, event.when))
        else:
            seconds += gap
            waiting += gap  # the way to a line, and its thread, count for the line
        threads += event.kind == "begun"
        drawing = next((one.of for one in (*event.sewn, *event.back)), "")
        if not drawing:
            continue
        mine = there.setdefault((event.place, drawing), There(event.place, drawing, event.plan, event.when))
        mine.plan, mine.last = event.plan or mine.plan, event.when
        mine.seconds += waiting
        mine.stitches += event.stitches
        mine.threads += threads - sum(one.threads for one in there.values())
        waiting = 0.0
        mishaps += _kept(event, mine, covered.setdefault(event.place, Covered()))
    bobbins = sum(event.kind == "bobbin" for event in events)
    return Sitting(
        events[0].when, events[-1].when, seconds, tuple(rests), threads, bobbins, tuple(there.values()), tuple(mishaps)
    )  # fmt: skip


def _kept(event: Event, mine: There, covered: Covered) -> Iterable[Mishap]:
    """Counts an event, and yields what went wrong with it."""
    new = sum(covered.add(one) for one in event.sewn)
    mine.length += new
    mine.freehand += new if event.freehand else 0.0
    mine.lines.update(one.key for one in event.sewn)
    if event.kind == "skipped":
        mine.skipped += len({one.key for one in event.back})
    else:
        gone = sum(covered.take_out(one) for one in event.back)
        mine.unpicked += gone
    mine.broken += event.kind == "broke"
    if event.kind in ("broke", "unpicked", "skipped"):
        last = (*event.back, *event.sewn)[0]
        kind: MishapKind = (
            "broke" if event.kind == "broke" else "skipped" if event.kind == "skipped" else "unpicked"
        )
        yield Mishap(kind, event.when, event.place, last.of, last.line, event.at)


def merged(some: Iterable[There], by: Literal["place", "zone"]) -> dict[str, There]:
    """Entries of several sittings combined by place, or by zone."""
    found: dict[str, There] = {}
    for one in some:
        key = one.place if by == "place" else one.zone
        mine = found.setdefault(key, There(one.place, one.drawing, one.plan, one.first, one.last))
        mine.plan, mine.first, mine.last = (
            one.plan or mine.plan,
            min(mine.first, one.first),
            max(mine.last, one.last),
        )
        mine.lines |= {(f"{one.place} {of}", line, turn) for of, line, turn in one.lines}
        mine.length += one.length
        mine.freehand += one.freehand
        mine.unpicked += one.unpicked
        mine.skipped += one.skipped
        mine.broken += one.broken
        mine.seconds += one.seconds
        mine.stitches += one.stitches
        mine.threads += one.threads
    return found


@dataclass(frozen=True, slots=True)
class ThreadEnds:
    """The thread ends to finish at a place, and where in the quilt they are."""

    place: str
    at: tuple[Point, ...]


def thread_ends(events: Sequence[Event]) -> list[ThreadEnds]:
    """Where every thread began and ended; a thread still in the needle has only its beginning. Each spot has two
    tails, one on top and one on the back."""
    found: dict[str, list[Point]] = {}

    def spot(event: Event) -> None:
        if event.at is not None:
            found.setdefault(event.place, []).append(event.at)

    moving = [one for one in events if one.kind in ("begun", "gone", "sewn", "broke", "unpicked")]
    for one, after in pairwise([*moving, None]):
        assert one is not None
        if (
            one.kind == "begun"
            or one.kind in ("broke", "unpicked")
            or (after is not None and after.kind == "begun")
        ):
            spot(one)
    return [ThreadEnds(place, tuple(at)) for place, at in sorted(found.items())]
