"""Models of the machine screen."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Annotated, Literal

from pydantic import Field, model_validator

from kenzet.core.sewing.log import Event, Kind
from kenzet.core.sewing.stretch import Stretch
from kenzet.say import words as w
from kenzet.say.sum_words import SumView
from kenzet.texts import tr
from kenzet.web.wire import base as m


class SewnStretch(m.Wire):
    """A stretch of a line: see ``Stretch``; ``reversed`` if it is sewn from its end to its beginning."""

    drawing: Annotated[str, Field(pattern=r"^[a-z0-9-]{1,40}\.[0-9]\.[0-9a-f]{8}$")]
    line: Annotated[int, Field(ge=0, le=1_000_000)]
    turn: Annotated[int, Field(ge=0, le=20)]
    begins: Annotated[float, Field(ge=0, le=1e6, allow_inf_nan=False)]
    ends: Annotated[float, Field(ge=0, le=1e6, allow_inf_nan=False)]
    reversed: bool = False

    @model_validator(mode="after")
    def _in_order(self) -> SewnStretch:
        if self.ends <= self.begins:
            raise ValueError(tr("A stretch ends after it begins."))
        return self


Stretches = Annotated[list[SewnStretch], Field(default_factory=list, max_length=2000)]
Coordinate = Annotated[float, Field(ge=-1e5, le=1e5, allow_inf_nan=False)]


class Refusal(m.Wire):
    """An event that was not accepted, and why."""

    id: str
    why: str


class SewingRequest(m.Reading):
    """Asks for the next steps; at ``place`` if one is chosen, and of several visits to it at the ``visit``-th of
    the route, from 0."""

    place: m.PlaceKey = ""
    visit: m.Number | None = None


class RecentLine(m.Wire):
    """A line sewn recently, which can be unpicked or after which the thread broke."""

    event: str
    words: w.Words
    at: list[float]
    sewn: list[SewnStretch]


class SewHere(m.Wire):
    """The current place. ``steps`` are next; ``done`` is sewn, ``coming`` is beyond them: flat x, y in the quilt, mm.

    After line ``stop`` the thread is cut, 0 if it continues to another place. ``bulk`` says which edge lies in the
    throat.
    """

    place: str
    where: str
    number: int
    many: int
    left: int
    whole_mm: float
    left_mm: float
    stop: int
    bulk: w.Words
    steps: list[SewingStepView]
    done: list[list[float]]
    coming: list[list[float]]
    recent: list[RecentLine]


class LeftRow(m.Wire):
    """What is left at a place that is begun, or of a zone over all places; ``place`` and ``visit`` are where it
    continues."""

    place: str
    visit: int
    name: str
    words: str


class PlaceShare(m.Wire):
    """How much of a place is sewn, 0 to 1, and its center in the quilt, mm."""

    place: str
    at: list[float]
    share: float


class BobbinView(m.Wire):
    """mm of thread ``left`` on the bobbin, and how much a mm of stitching and a thread's two tails use."""

    left: float
    per_mm: float
    per_thread: float


class SewingView(m.Wire):
    """``count`` events are known; ``last`` are the ids of the newest, the newest first. ``today`` and ``unrested``
    are seconds at the machine; a rest is due after ``rest``. The quilt has ``many`` lines; ``share`` of their
    ``whole_mm`` is sewn."""

    count: int
    last: list[str]
    here: SewHere | None
    spots: list[PlaceShare]
    places: list[LeftRow]
    zones: list[LeftRow]
    untouched: int
    skipped: int
    bobbin: BobbinView
    today: float
    unrested: float
    rest: float
    many: int
    whole_mm: float
    share: float
    tally: list[w.Row]
    ending: str
    notes: list[str]
    caution: str


def event_of(told: SewingEvent, latest: float) -> Event:
    """The core's event; the time of a clock that is ahead is corrected."""

    def stretches(some: Iterable[SewnStretch]) -> tuple[Stretch, ...]:
        return tuple(Stretch(one.drawing, one.line, one.turn, one.begins, one.ends) for one in some)

    return Event(
        told.id, told.kind, min(told.when, latest), told.place, (told.at[0], told.at[1]) if told.at else None,
        stretches(told.sewn), stretches(told.taken_out), told.length_mm, told.stitches, told.freehand, told.target,
    )  # fmt: skip


class SewingEvent(m.Wire):
    """An event at the machine, see ``Event``; ``when`` in seconds since 1970."""

    id: Annotated[str, Field(pattern=r"^[A-Za-z0-9-]{6,40}$")]
    kind: Kind
    when: Annotated[float, Field(ge=0, le=1e11, allow_inf_nan=False)]
    place: m.PlaceKey = ""
    at: Annotated[list[Coordinate], Field(min_length=2, max_length=2)] | None = None
    sewn: Stretches
    taken_out: Stretches
    length_mm: Annotated[float, Field(ge=0, le=1e6, allow_inf_nan=False)] = 0.0
    stitches: Annotated[int, Field(ge=0, le=1_000_000)] = 0
    freehand: bool = False
    target: Annotated[str, Field(pattern=r"^[A-Za-z0-9-]{0,40}$")] = ""


class EventsRequest(m.Wire):
    """Events, in order."""

    events: Annotated[list[SewingEvent], Field(min_length=1, max_length=500)]


class EventsTaken(m.Wire):
    """``count`` events are known now."""

    count: int
    refused: list[Refusal]


class SewingStepView(m.Wire):
    """A step: what to put where, how far to sew, where to travel then.

    ``points`` are sewn, ``travels`` travelled after that: flat x, y in the quilt, mm; ``start`` is where the
    needle is before, ``at`` where it is after. ``length_mm`` is the total, ``stops`` if the thread is cut.
    ``sewn`` is what to report when it is done, with ``also_sewn``, the parts of a later ditch that travel covers.
    ``legs`` describes a line with corners leg by leg. A ``freehand`` one goes through a texture. ``ruler`` are the
    corners of a straight ruler as placed, ``hands`` the points where the hand on it moves.
    """

    kind: Literal["begin", "go", "line"]
    number: int
    freehand: bool
    zone: str
    lay: w.Words
    sum: SumView | None
    hand: w.Words
    legs: list[w.Words]
    sew: w.Words
    then: w.Words
    short: w.Words
    ruler: list[float]
    hands: list[list[float]]
    points: list[list[float]]
    travels: list[list[float]]
    start: list[float]
    at: list[float]
    length_mm: float
    stops: bool
    sewn: list[SewnStretch]
    also_sewn: list[SewnStretch]
