"""The parts of a line that are sewn: stretches, and their union.

Glossary: a line is identified by ``of`` (which lines of which zone, see ``Drawing.word``), its number and the
``turn``: 0 for the first pass over it, 1 for the second. Lengths are mm along the line from its drawn start.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

Span = tuple[float, float]
LineKey = tuple[str, int, int]
LEAST = 0.2  # mm: a rest as short as that is no rest


@dataclass(frozen=True, slots=True)
class Stretch:
    """Line number ``line`` of ``of``, in pass ``turn`` (from 0), from ``begins`` to ``ends`` mm along it."""

    of: str
    line: int
    turn: int
    begins: float
    ends: float

    @property
    def key(self) -> LineKey:
        """The line and the pass."""
        return self.of, self.line, self.turn

    @property
    def length(self) -> float:
        """Length, mm."""
        return self.ends - self.begins


class Covered:
    """A union of stretches: what is reported twice counts once."""

    def __init__(self) -> None:
        self._spans: dict[LineKey, list[Span]] = {}

    def copy(self) -> Covered:
        """An independent copy."""
        other = Covered()
        other._spans = dict(self._spans)
        return other

    def __iter__(self) -> Iterator[LineKey]:
        return iter(self._spans)

    def add(self, stretch: Stretch) -> float:
        """Adds a sewn stretch; returns the mm that were not sewn before."""
        new = sum(end - begin for begin, end in self.left(stretch))
        begin, end = stretch.begins, stretch.ends
        apart = []
        for a, b in self._spans.get(stretch.key, []):
            if b < begin - LEAST or a > end + LEAST:
                apart.append((a, b))
            else:
                begin, end = min(begin, a), max(end, b)
        self._spans[stretch.key] = sorted([*apart, (begin, end)])
        return new

    def take_out(self, stretch: Stretch) -> float:
        """Removes an unpicked stretch; returns the mm that were sewn."""
        found, gone = [], 0.0
        for a, b in self._spans.pop(stretch.key, []):
            gone += max(min(b, stretch.ends) - max(a, stretch.begins), 0.0)
            found += [
                (p, q) for p, q in ((a, min(b, stretch.begins)), (max(a, stretch.ends), b)) if q - p > LEAST
            ]
        if found:
            self._spans[stretch.key] = found
        return gone

    def left(self, stretch: Stretch) -> list[Span]:
        """The parts of it that are not covered, in order; negligible remainders are left out."""
        found, here = [], stretch.begins
        for a, b in self._spans.get(stretch.key, []):
            if a >= stretch.ends:
                break
            if a - here > LEAST:
                found.append((here, a))
            here = max(here, b)
        if stretch.ends - here > LEAST:
            found.append((here, stretch.ends))
        return found
