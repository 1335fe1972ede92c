"""Blocks that are pieced from square units, as data: adding one is a line in ``BLOCKS``.

A unit is written by the letters of its roles: ``A`` one square; ``A/B`` cut from lower left to upper
right, A the upper left half; ``A\\B`` cut from upper left to lower right, A the upper right half;
``AxB`` cut by both diagonals, A above and below, B at the sides (or four letters: above, right,
below, left); ``A=B`` level halves, A above; ``A|B`` upright halves, A at the left.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import ClassVar, Literal, get_args

from kenzet.core.top.patterns.base import Grid, Pattern, Piece
from kenzet.texts import tr


@dataclass(frozen=True, slots=True)
class Units:
    """Rows of units from the top, and what its letters mean, the first role the background."""

    name: str
    roles: tuple[str, ...]
    rows: tuple[str, ...]


Which = Literal[
    "half square", "quarter square", "hourglass", "pinwheel", "broken dishes", "churn dash", "shoo fly",
    "friendship star", "quarter-square star", "single chain", "double chain",
]  # fmt: skip

BLOCKS: dict[str, Units] = {
    "half square": Units(tr("Half-square triangles"), ("background", "triangle"), ("A/B",)),
    "quarter square": Units(tr("Quarter-square triangles"), ("top", "right", "bottom", "left"), ("ABCDx",)),
    "hourglass": Units(tr("Hourglass"), ("background", "hourglass"), ("BxA",)),
    "pinwheel": Units(tr("Pinwheel"), ("background", "blades"), ("A\\B B/A", "A/B B\\A")),
    "broken dishes": Units(tr("Broken dishes"), ("background", "dishes"), ("A/B B\\A", "A\\B B/A")),
    "churn dash": Units(
        tr("Churn dash"), ("background", "dash"), ("A/B A=B A\\B", "A|B A B|A", "B\\A B=A B/A")
    ),
    "shoo fly": Units(tr("Shoo fly"), ("background", "fly"), ("A/B A A\\B", "A B A", "B\\A A B/A")),
    "friendship star": Units(
        tr("Friendship star"), ("background", "star"), ("A A/B A", "B\\A B A\\B", "A B/A A")
    ),
    "quarter-square star": Units(
        tr("Quarter-square star"), ("background", "points", "centre"), ("A AxB A", "BxA C BxA", "A AxB A")
    ),
    "single chain": Units(tr("Single chain"), ("background", "chain"), ("B A B", "A B A", "B A B")),
    "double chain": Units(
        tr("Double chain"),
        ("background", "chain", "inner chain"),
        ("C B A B C", "B C B C B", "A B C B A", "B C B C B", "C B A B C"),
    ),
}


class Pieced(Pattern):
    """One of ``BLOCKS``."""

    label: ClassVar[str] = tr("Pieced")
    help: ClassVar[str] = tr("Pieced from squares, half squares and quarter squares.")
    offers: ClassVar[dict[str, dict[str, object]]] = {
        BLOCKS[key].name: {"block": key} for key in get_args(Which)
    }
    order: ClassVar[int] = 3

    kind: Literal["pieced"] = "pieced"
    block: Which = "pinwheel"

    def roles(self) -> Sequence[str]:
        """As the data says."""
        return BLOCKS[self.block].roles

    def draw(self, width: float, height: float) -> Sequence[Piece]:
        """Keys by row from the top, column, and a letter within the unit."""
        rows = [row.split() for row in BLOCKS[self.block].rows]
        grid = Grid(width, height, len(rows[0]), len(rows))
        return [
            piece
            for r, row in enumerate(rows)
            for c, unit in enumerate(row)
            for piece in self._unit(grid, f"r{r + 1}c{c + 1}", unit, c, len(rows) - 1 - r)
        ]

    def _unit(self, grid: Grid, key: str, unit: str, x: int, y: int) -> list[Piece]:
        low_left, low_right, high_right, high_left = (x, y), (x + 1, y), (x + 1, y + 1), (x, y + 1)
        middle = (x + 0.5, y + 0.5)
        left, right, low, high = (x, y + 0.5), (x + 1, y + 0.5), (x + 0.5, y), (x + 0.5, y + 1)
        sign = next((sign for sign in "/\\x=|" if sign in unit), "")
        letters = unit.replace(sign, "") if sign else unit
        shapes: Sequence[tuple[tuple[float, float], ...]]
        if sign == "":
            shapes = [(low_left, low_right, high_right, high_left)]
        elif sign == "/":
            shapes = [(low_left, high_right, high_left), (low_left, low_right, high_right)]
        elif sign == "\\":
            shapes = [(low_right, high_right, high_left), (low_left, low_right, high_left)]
        elif sign == "=":
            shapes = [(left, right, high_right, high_left), (low_left, low_right, right, left)]
        elif sign == "|":
            shapes = [(low_left, low, high, high_left), (low, low_right, high_right, high)]
        else:
            letters = letters * 2 if len(letters) == 2 else letters
            shapes = [
                (high_left, middle, high_right), (high_right, middle, low_right),
                (low_right, middle, low_left), (low_left, middle, high_left),
            ]  # fmt: skip
        roles = self.roles()
        return [
            grid.shape(key if not sign else f"{key}{'abcd'[k]}", roles["ABCD".index(letter)], *shape)
            for k, (shape, letter) in enumerate(zip(shapes, letters, strict=True))
        ]
