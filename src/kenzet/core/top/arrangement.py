"""The arrangement of blocks: cells in straight rows or on point, sashing between them, borders around them.

Glossary: a *cell* is a block at its place; a *place* is named ``row-column``, both counted from 1, from the top
and from the left. On point the rows are those of the block centers: long and short rows alternate.
"""

from __future__ import annotations

from collections.abc import Iterator
from typing import Annotated, Literal

from pydantic import Field, field_validator, model_validator

from kenzet import texts
from kenzet.core.errors import BadValue
from kenzet.core.numbers.measure import Length
from kenzet.core.params import Frozen, in_range
from kenzet.core.top.blocks import LARGEST, Key, Measured
from kenzet.texts import tr

MOST_ACROSS = 60


class Cell(Frozen):
    """A block at its place, turned counter-clockwise by quarter turns, then mirrored left to right."""

    block: Key
    turns: Annotated[int, Field(ge=0, le=3)] = 0
    mirrored: bool = False
    measured: Measured | None = None


class Sashing(Frozen):
    """Strips between the blocks, with ``cornerstones`` of their own fabric where they cross, or without.

    ``outer`` adds them around the outside; on point they are always there.
    """

    width: Length
    fabric: Key
    cornerstones: Key | None = None
    outer: bool = True

    @field_validator("width")
    @classmethod
    def _width(cls, width: Length) -> Length:
        return in_range(width, "1/4 in", "40 in", tr("The width of a sash"))


class Border(Frozen):
    """A border. ``corners``: which strips run to the edge; or mitred, or with squares of ``corner_fabric``."""

    width: Length
    fabric: Key
    corners: Literal["top and bottom through", "sides through", "mitred", "squares"] = (
        "top and bottom through"
    )
    corner_fabric: Key | None = None

    @field_validator("width")
    @classmethod
    def _width(cls, width: Length) -> Length:
        return in_range(width, "1/4 in", "40 in", tr("The width of a border"))


Row = Annotated[tuple[Cell, ...], Field(min_length=1, max_length=MOST_ACROSS)]
Sizes = Annotated[tuple[Length | None, ...], Field(max_length=MOST_ACROSS)]


class _Cells(Frozen):
    rows: Annotated[tuple[Row, ...], Field(min_length=1, max_length=2 * MOST_ACROSS - 1)]
    sashing: Sashing | None = None

    def places(self) -> Iterator[tuple[str, Cell]]:
        """Every place with its cell, in reading order."""
        for r, row in enumerate(self.rows, 1):
            for c, cell in enumerate(row, 1):
                yield f"{r}-{c}", cell


class StraightRows(_Cells):
    """Rows and columns. By default a width or height is that of the largest block there.

    Every block fills its place, except a measured one, which keeps its own size.
    """

    kind: Literal["straight rows"] = "straight rows"
    widths: Sizes = ()
    heights: Sizes = ()

    @model_validator(mode="after")
    def _even(self) -> StraightRows:
        if len({len(row) for row in self.rows}) != 1:
            raise BadValue(tr("Every row holds the same number of blocks."), "rows")
        for field, given, count in (
            ("widths", self.widths, len(self.rows[0])),
            ("heights", self.heights, len(self.rows)),
        ):
            if given and len(given) != count:
                raise BadValue(
                    texts.counted(count, "There is {count} column.", "There are {count} columns.")
                    if field == "widths"
                    else texts.counted(count, "There is {count} row.", "There are {count} rows."),
                    field,
                )
            for size in given:
                if size:
                    in_range(size, "1/2 in", LARGEST, tr("The size of a row or column"))
        return self


class OnPoint(_Cells):
    """Blocks that stand on a corner, with triangles at the edge: long rows of n and short rows of n − 1 alternate."""

    kind: Literal["on point"] = "on point"
    triangles: Key

    @model_validator(mode="after")
    def _even(self) -> OnPoint:
        long = len(self.rows[0])
        if len(self.rows) % 2 == 0 or any(len(row) != long - k % 2 for k, row in enumerate(self.rows)):
            raise BadValue(
                tr(
                    "On point, long rows and rows with one block less come by turns; the first and last are long."
                ),
                "rows",
            )
        return self


Layout = Annotated[StraightRows | OnPoint, Field(discriminator="kind")]
