"""The interface of a block pattern, and helpers for drawing one."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import ClassVar

from kenzet.core.errors import BadValue
from kenzet.core.geom.arcs import Vertex
from kenzet.core.numbers.measure import Length, in_words
from kenzet.core.params import Frozen
from kenzet.core.tolerances import EQUAL
from kenzet.texts import tr


@dataclass(frozen=True, slots=True)
class Piece:
    """A patch as a pattern draws it: mm, y up, the block's lower left corner at the origin.

    ``role`` is its role in the block, in words, and decides which fabric it gets.
    """

    key: str
    role: str
    outline: tuple[Vertex, ...]
    holes: tuple[tuple[Vertex, ...], ...] = ()
    applique: bool = False


class Pattern(Frozen):
    """Must override ``label``, ``help``, ``roles`` and ``draw``; may override ``offers``, ``order`` and ``check``.

    ``offers`` has the tiles of the chooser with their initial numbers; a pattern without it is one tile named by
    its label.
    """

    label: ClassVar[str]
    help: ClassVar[str]
    offers: ClassVar[dict[str, dict[str, object]]] = {}
    order: ClassVar[int] = 99

    def roles(self) -> Sequence[str]:
        """Must override. The roles of the patches, the background first; each has one fabric."""
        raise NotImplementedError

    def draw(self, width: float, height: float) -> Sequence[Piece]:
        """Must override. Patches that tile ``width`` by ``height`` mm, appliqués after what they lie on.

        Neighbors must compute shared corners with the same arithmetic, and shared arcs from the same two ends.
        """
        raise NotImplementedError

    def check(self, width: float, height: float) -> None:
        """May override. Raises BadValue at a parameter that does not fit a block of this size."""


def box(key: str, role: str, left: float, low: float, right: float, top: float) -> Piece:
    """A rectangle."""
    return Piece(key, role, ((left, low), (right, low), (right, top), (left, top)))


class Grid:
    """``columns`` by ``rows`` equal parts of a block; ``at`` converts grid units, y up."""

    def __init__(self, width: float, height: float, columns: int, rows: int) -> None:
        self.width, self.height, self.columns, self.rows = width, height, columns, rows

    def at(self, x: float, y: float, bulge: float = 0.0) -> Vertex:
        """A point of the grid in mm, with the bulge of the side that leaves it."""
        place = (x * self.width / self.columns, y * self.height / self.rows)
        return (*place, bulge) if bulge else place

    def box(self, key: str, role: str, x: float, y: float, wide: float = 1, high: float = 1) -> Piece:
        """A rectangle of whole grid units."""
        (left, low, *_), (right, top, *_) = self.at(x, y), self.at(x + wide, y + high)
        return box(key, role, left, low, right, top)

    def shape(self, key: str, role: str, *points: tuple[float, ...]) -> Piece:
        """A shape from points in grid units."""
        return Piece(key, role, tuple(self.at(*point) for point in points))

    def cells(self) -> Iterable[tuple[int, int]]:
        """Every cell in reading order: column, and row counted from the bottom."""
        return ((x, y) for y in reversed(range(self.rows)) for x in range(self.columns))


def at_most(length: Length, most: float, field: str, what: str) -> None:
    """Raises BadValue at ``field`` unless ``length`` is less than ``most`` mm."""
    if float(length.mm) >= most - EQUAL:
        raise BadValue(
            tr(
                "{what} must be less than {most} in a block of this size; {length} was given.",
                what=what,
                most=in_words(most, length.unit),
                length=length.text,
            ),
            field,
        )
