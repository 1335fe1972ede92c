"""The messages of a machine while it sews, and the log events that follow from them.

A machine numbers its messages from 0 and reports stitches and mm since its last message; the server knows the
present step. Duplicate, late and future messages are not counted; missing ones are reported.
"""

from __future__ import annotations

from collections import deque
from collections.abc import Callable
from dataclasses import dataclass, field, replace
from typing import Literal

from kenzet.core.geom.region import Point
from kenzet.core.sewing.log import Event
from kenzet.core.sewing.now import Now
from kenzet.core.sewing.place_route import Move
from kenzet.core.sewing.steps import SewingStep, sewn_until
from kenzet.texts import tr

Says = Literal["hello", "stitches", "pedal", "broke", "bobbin"]
_AHEAD_S = 5.0
_FAULTS = 5


@dataclass(frozen=True, slots=True)
class Message:
    """``hello`` restarts at ``seq`` 0 with a ``name``; ``stitches``: ``count`` stitches, ``mm`` of stitching;
    ``pedal``: the step is done; ``broke``: the thread broke; ``bobbin``: a full one was put in. ``at`` is in
    seconds since 1970."""

    says: Says
    seq: int
    at: float
    name: str = ""
    count: int = 0
    mm: float = 0.0


@dataclass
class Heard:
    """The state of one machine at one quilt: the last message's ``seq``, and ``mm`` and ``stitches`` of the
    present step."""

    name: str = ""
    begun: str = ""
    seq: int = -1
    mm: float = 0.0
    stitches: int = 0
    when: float = 0.0
    faults: deque[str] = field(default_factory=lambda: deque(maxlen=_FAULTS))

    def take(self, message: Message, clock: float, here: Callable[[], Now | None]) -> tuple[list[Event], str]:
        """The events to log, and what was wrong with the message, if anything; ``here`` returns the present step."""
        if message.at > clock + _AHEAD_S:
            return (
                [],
                tr(
                    "Message {seq} comes from the future; set the machine’s clock. It was not counted.",
                    seq=message.seq,
                ),
            )
        self.when = clock
        if message.says == "hello":
            self.name, self.begun, self.seq = (
                message.name or "machine",
                f"{int(message.at * 1000):x}",
                message.seq,
            )
            self.mm, self.stitches = 0.0, 0
            return [], ""
        if not self.begun:
            return [], tr("A machine has to say hello first.")
        if message.seq <= self.seq:
            return [], tr("Message {seq} came twice or too late. It was not counted again.", seq=message.seq)
        missing = self._missing(message.seq)
        self.seq = message.seq
        if message.says == "stitches":
            self.mm += message.mm
            self.stitches += message.count
            return [], missing
        now = here()
        return (
            ([], tr("Nothing is left to sew."))
            if now is None
            else (self._done(message, now, now.steps[0]), missing)
        )

    def _missing(self, seq: int) -> str:
        many = seq - self.seq - 1
        if not many:
            return ""
        which = (
            tr("Message {seq} is", seq=self.seq + 1)
            if many == 1
            else tr("Messages {seq} to {seq2} are", seq=self.seq + 1, seq2=seq - 1)
        )
        return tr("{which} missing; stitches may be too few.", which=which)

    def _done(self, message: Message, now: Now, step: SewingStep) -> list[Event]:
        event = Event(
            f"m-{self.begun}-{message.seq}", "sewn", message.at, now.visit.place, now.point_in_quilt(_end(now, step)),
            stitches=self.stitches,
        )  # fmt: skip
        if message.says == "pedal":
            if step.kind != "line":
                event = replace(event, kind="begun" if step.kind == "begin" else "gone")
            event = replace(event, sewn=step.sewn, far=step.length)
            found = [event]
        else:
            found = [self._broken(event, now, step)]
            if message.says == "bobbin":
                found.append(Event(f"{event.id}-b", "bobbin", message.at))
        self.mm, self.stitches = 0.0, 0
        return found

    def _broken(self, event: Event, now: Now, step: SewingStep) -> Event:
        if step.kind != "line":
            return replace(event, kind="broke", at=now.point_in_quilt(_start(now, step)))
        far = min(self.mm, sum(move.length for move in step.sews))
        sewn, at = sewn_until(step, far)
        return replace(event, kind="broke", at=now.point_in_quilt(at), sewn=sewn, far=far)


def _first(now: Now, step: SewingStep) -> Move:
    return step.moves[0] if step.moves else now.steps[1].moves[0]


def _start(now: Now, step: SewingStep) -> Point:
    return _first(now, step).start


def _end(now: Now, step: SewingStep) -> Point:
    return step.moves[-1].end if step.moves else _start(now, step)
