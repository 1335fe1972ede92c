"""The events at the machine, and their sum.

An event reported twice, by one device or by two, counts once: because of its id, and because a line that is sewn
stays sewn. Times are seconds since 1970, UTC; places in the quilt are mm.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field, replace
from itertools import pairwise
from typing import Literal

from kenzet.core.geom.region import Point
from kenzet.core.sewing.stretch import Covered, LineKey, Stretch

Kind = Literal[
    "begun", "gone", "sewn", "skipped", "broke", "unpicked", "taken up", "bobbin", "rested", "undone"
]
PAUSE_S = 300.0
"""A longer time between two events counts as a pause."""


@dataclass(frozen=True, slots=True)
class Event:
    """One event. ``begun``: a thread begins at ``at``; ``gone``: the needle travelled there; ``sewn``; ``broke``: the
    thread broke after ``sewn``, and ``back`` came out again; ``unpicked``: ``back``.

    ``skipped`` lines (``back``, as far as they are not sewn) wait until they are ``taken up``; a full ``bobbin``
    was put in; ``rested``; ``undone``: event ``of`` did not happen. ``far`` is mm of the needle's path,
    ``stitches`` the count of a machine. ``plan`` is the revision of the plan that was sewn, 0 if unknown.
    """

    id: str
    kind: Kind
    when: float
    place: str = ""
    at: Point | None = None
    sewn: tuple[Stretch, ...] = ()
    back: tuple[Stretch, ...] = ()
    far: float = 0.0
    stitches: int = 0
    freehand: bool = False
    of: str = ""
    plan: int = 0


@dataclass
class Sewn:
    """The sum of all events. ``place`` and ``at`` are where the needle is, ``thread`` whether its thread is still
    attached there, ``just_begun`` whether nothing is sewn with it yet.

    ``lines`` is mm sewn (without unpicked ones), ``freehand`` its freehand part; ``way`` mm in total, ``threads``
    begun; the last two also since the bobbin was changed.
    """

    covered: dict[str, Covered] = field(default_factory=dict)
    skipped: dict[str, set[LineKey]] = field(default_factory=dict)
    place: str = ""
    at: Point | None = None
    thread: bool = False
    just_begun: bool = False
    lines: float = 0.0
    freehand: float = 0.0
    way: float = 0.0
    threads: int = 0
    breaks: int = 0
    stitches: int = 0
    bobbin_way: float = 0.0
    bobbin_threads: int = 0

    def of(self, place: str) -> Covered:
        """What is sewn at a place; a lookup does not change the state."""
        return self.covered.get(place, Covered())

    def copy(self) -> Sewn:
        """An independent copy."""
        covered = {place: its.copy() for place, its in self.covered.items()}
        return replace(
            self, covered=covered, skipped={place: set(its) for place, its in self.skipped.items()}
        )

    def take(self, event: Event) -> None:
        """Adds one event; ``undone`` is handled by the log."""
        here = self.covered.setdefault(event.place, Covered())
        new = sum(here.add(stretch) for stretch in event.sewn)
        out = () if event.kind == "skipped" else event.back
        gone = sum(here.take_out(stretch) for stretch in out)
        self.lines += new - gone
        if event.freehand:
            self.freehand += new
        if new or not event.sewn or event.kind != "sewn":
            self._on_thread(event)
        self.stitches += event.stitches
        left_out = self.skipped.setdefault(event.place, set())
        if event.kind == "skipped":
            left_out.update(stretch.key for stretch in event.back)
        elif event.kind == "taken up":
            self.skipped.clear()
        else:
            left_out.difference_update(stretch.key for stretch in event.sewn)

    def _on_thread(self, event: Event) -> None:
        self.way += event.far
        self.bobbin_way += event.far
        if event.kind == "begun":
            self.threads += 1
            self.bobbin_threads += 1
        if event.kind == "bobbin":
            self.bobbin_way, self.bobbin_threads = 0.0, 0
        if event.kind == "broke":
            self.breaks += 1
        if event.kind in ("begun", "gone", "sewn", "broke", "unpicked"):
            self.place, self.at = event.place, event.at or self.at
            self.thread = event.kind in ("begun", "gone", "sewn")
            self.just_begun = event.kind == "begun"


class Log:
    """All events of a quilt in the order in which they arrived, and their sum."""

    def __init__(self, events: Iterable[Event] = ()) -> None:
        self._all: list[Event] = []
        self._ids: set[str] = set()
        self._undone: set[str] = set()
        self.sewn = Sewn()
        for event in events:
            self.take(event)

    def copy(self) -> Log:
        """An independent copy."""
        other = Log()
        other._all, other._ids, other._undone = list(self._all), set(self._ids), set(self._undone)
        other.sewn = self.sewn.copy()
        return other

    def take(self, event: Event) -> bool:
        """Adds an event; returns whether it is new."""
        if event.id in self._ids:
            return False
        self._ids.add(event.id)
        self._all.append(event)
        if event.kind != "undone":
            self.sewn.take(event)
        elif event.of in self._ids:
            self._undone.add(event.of)
            self.sewn = Sewn()
            for one in self.events:
                self.sewn.take(one)
        return True

    @property
    def events(self) -> list[Event]:
        """The events that were not undone."""
        return [one for one in self._all if one.kind != "undone" and one.id not in self._undone]

    @property
    def newest(self) -> str:
        """The id of the last event that was not undone; empty if there is none."""
        return next(
            (one.id for one in reversed(self._all) if one.kind != "undone" and one.id not in self._undone), ""
        )

    def __len__(self) -> int:
        return len(self._all)


def at_needle(events: Sequence[Event], since: float) -> float:
    """Seconds at the machine since ``since``, from event to event without pauses."""
    times = sorted(event.when for event in events if event.when >= since)
    return sum(later - before for before, later in pairwise(times) if later - before <= PAUSE_S)


def since_rest(events: Sequence[Event]) -> float:
    """Seconds at the machine since the last pause or rest."""
    ordered = sorted(events, key=lambda event: event.when)
    begin = ordered[0].when if ordered else 0.0
    for before, later in pairwise(ordered):
        if later.when - before.when > PAUSE_S or later.kind == "rested":
            begin = later.when
    return ordered[-1].when - begin if ordered else 0.0
