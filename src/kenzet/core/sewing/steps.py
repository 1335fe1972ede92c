"""The next steps at the machine.

Glossary: a *step* is one line and the travel after it, or what precedes a line: starting a thread, or travelling
without sewing a line.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

from kenzet.core.geom.region import Floats, Point
from kenzet.core.sewing.place_route import Move, part_of
from kenzet.core.sewing.stretch import LEAST, Stretch


def sewn_until(step: SewingStep, far: float) -> tuple[tuple[Stretch, ...], Point]:
    """What of a step's line is sewn after ``far`` mm, and where (in the part) the needle is then."""
    sewn: list[Stretch] = []
    left, at = far, step.sews[0].start
    for move in step.sews:
        assert move.stretch is not None
        if left <= LEAST:
            break
        long = min(move.stretch.length, left)
        cut = part_of(
            move,
            *(
                (move.stretch.ends - long, move.stretch.ends)
                if move.back
                else (move.stretch.begins, move.stretch.begins + long)
            ),
        )
        assert cut.stretch is not None
        sewn.append(cut.stretch)
        at, left = cut.end, left - long
    return tuple(sewn), at


def steps_of(moves: Sequence[Move]) -> list[SewingStep]:
    """``moves`` grouped into steps; the thread ends after the last one."""
    found: list[SewingStep] = []
    k = 0
    while k < len(moves):
        if moves[k].fresh:
            begins = tuple(_while(moves, k, lambda move: move.stretch is None))
            found.append(SewingStep("begin", (), begins, False))
            k += len(begins)
        elif moves[k].stretch is None:
            goes = tuple(_while(moves, k, lambda move: move.stretch is None))
            found.append(SewingStep("go", (), goes, False))
            k += len(goes)
        if k == len(moves):
            break
        number = moves[k].number
        sews = tuple(_while(moves, k, lambda move, its=number: move.number == its))
        k += len(sews)
        travels = (
            tuple(_while(moves, k, lambda move: move.stretch is None))
            if k < len(moves) and not moves[k].fresh
            else ()
        )
        k += len(travels)
        found.append(SewingStep("line", sews, travels, k == len(moves) or moves[k].fresh))
    return found


def _while(moves: Sequence[Move], begin: int, holds) -> Iterable[Move]:  # type: ignore[no-untyped-def]
    for k in range(begin, len(moves)):
        if not holds(moves[k]) or (k > begin and moves[k].fresh):
            return
        yield moves[k]


@dataclass(frozen=True, eq=False)
class SewingStep:
    """``sews`` are the pieces of one line, ``travels`` the moves after it; ``stops`` if the thread is cut then.
    ``across`` (n, 2) is travel along seams from another place, mm in the quilt."""

    kind: Literal["begin", "go", "line"]
    sews: tuple[Move, ...]
    travels: tuple[Move, ...]
    stops: bool
    across: Floats | None = None

    @property
    def moves(self) -> tuple[Move, ...]:
        """All its moves."""
        return (*self.sews, *self.travels)

    @property
    def sewn(self) -> tuple[Stretch, ...]:
        """What is sewn when it is done: its line, and the parts of a later ditch that its travel covers."""
        lines = [move.stretch for move in self.sews if move.stretch]
        return (*lines, *(stretch for move in self.travels for stretch in move.also))

    @property
    def span(self) -> tuple[float, float]:
        """The part of its line that it sews: from where to where along the line as it is drawn, mm."""
        lines = [move.stretch for move in self.sews if move.stretch]
        return min(one.begins for one in lines), max(one.ends for one in lines)

    @property
    def number(self) -> int:
        """The number of its line in the route, from 1; 0 if no line is sewn."""
        return self.sews[0].number if self.sews else 0

    @property
    def length(self) -> float:
        """The length of the needle's path, mm."""
        return sum(move.length for move in self.moves) + self.from_place

    @property
    def from_place(self) -> float:
        """The travel from another place, mm."""
        return 0.0 if self.across is None else float(np.hypot(*np.diff(self.across, axis=0).T).sum())
