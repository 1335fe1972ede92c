"""A new quilt from a few answers: its use, its setting, its size."""

from __future__ import annotations

from itertools import cycle
from typing import Annotated, Literal

from pydantic import Field, field_validator, model_validator

from kenzet.core.changes.arranging import on_point_rows, straight_rows
from kenzet.core.errors import BadValue
from kenzet.core.numbers.measure import Length
from kenzet.core.params import Frozen, in_range
from kenzet.core.top.arrangement import MOST_ACROSS, Border, Cell, OnPoint, StraightRows
from kenzet.core.top.blocks import LARGEST, Block, Fabric, Name, Patterned
from kenzet.core.top.document import Quilt, Use
from kenzet.core.top.patterns import PATTERNS, offers
from kenzet.texts import tr

Arrangement = Literal["rows", "on point", "medallion", "single block", "strips"]
PALETTE = {
    "ground": Fabric(name="Ground", colour="#e8e0d0"),
    "main": Fabric(name="Main", colour="#6f8fa6"),
    "accent": Fabric(name="Accent", colour="#c98a6b"),
    "second": Fabric(name="Second", colour="#9aa67c"),
    "dark": Fabric(name="Dark", colour="#3f4f63"),
}
"""The fabrics of a new quilt, to be renamed and recolored."""


def _block_size(wish: NewQuilt, columns: int, rows: int) -> tuple[Length, Length]:
    if wish.block and wish.arrangement != "strips":
        return wish.block, wish.block
    width, height = wish.width, wish.height
    if wish.arrangement == "medallion" and width and height:
        inner = min(width.mm, height.mm) * 2 / 5  # two borders, each a tenth of the quilt, at either side
        return Length.near(width.mm - inner, width.unit), Length.near(height.mm - inner, height.unit)
    if wish.block and wish.arrangement == "strips":
        if not height:
            raise BadValue(tr("Give the finished height: the length of the strips."), "height")
        return wish.block, height
    assert width and height
    if wish.arrangement == "on point":
        size = Length.near(min(float(width.mm) / columns, float(height.mm) / rows) / 2**0.5, width.unit)
        return size, size
    return Length.near(width.mm / columns, width.unit), Length.near(height.mm / rows, height.unit)


def _plain(name: str, width: Length, height: Length, fabric: str) -> Block:
    art = Patterned(pattern=PATTERNS["plain"](), fabrics={"patch": fabric})
    return Block(name=name, width=width, height=height, art=art)


class NewQuilt(Frozen):
    """``columns`` by ``rows`` blocks of size ``block``, or blocks that fill a finished ``width`` by ``height``.

    Every block is the pattern named ``first``, or plain; ``border`` is the width of a border all around.
    """

    name: Name
    use: Use = "lap"
    arrangement: Arrangement = "rows"
    columns: Annotated[int, Field(ge=1, le=MOST_ACROSS)] = 3
    rows: Annotated[int, Field(ge=1, le=MOST_ACROSS)] = 4
    block: Length | None = None
    width: Length | None = None
    height: Length | None = None
    first: str = tr("Plain")
    border: Length | None = None

    @field_validator("first")
    @classmethod
    def _first(cls, name: str) -> str:
        if name not in dict(offers()):
            raise BadValue(tr("There is no block called “{name}”.", name=name[:40]))
        return name

    @field_validator("border")
    @classmethod
    def _border(cls, width: Length | None) -> Length | None:
        return width and in_range(width, "1/4 in", "40 in", tr("The width of a border"))

    @field_validator("block")
    @classmethod
    def _block(cls, size: Length | None) -> Length | None:
        return size and in_range(size, "1/2 in", LARGEST, tr("A block's size"))

    @field_validator("width", "height")
    @classmethod
    def _size(cls, size: Length | None) -> Length | None:
        return size and in_range(size, "1 in", "200 in", tr("The finished size"))

    @model_validator(mode="after")
    def _sized(self) -> NewQuilt:
        if not self.block and not (self.width and self.height):
            raise BadValue(tr("Give the size of a block, or the finished width and height."), "block")
        return self


def _patterned(name: str, width: Length, height: Length) -> Block:
    """One of the patterns offered; its roles take the fabrics in order."""
    pattern = dict(offers())[name]
    art = Patterned(pattern=pattern, fabrics=dict(zip(pattern.roles(), cycle(PALETTE), strict=False)))
    return Block(name=name, width=width, height=height, art=art)


def new_quilt(wish: NewQuilt) -> Quilt:
    """The quilt that ``wish`` describes, ready to be edited. Raises BadValue at the field of the wish."""
    columns, rows = (1, 1) if wish.arrangement in ("medallion", "single block") else (wish.columns, wish.rows)
    if wish.arrangement == "strips":
        rows = 1
    width, height = _block_size(wish, columns, rows)
    plain = wish.first == tr("Plain") or wish.arrangement == "strips"
    first = _plain(tr("Plain"), width, height, "ground") if plain else _patterned(wish.first, width, height)
    blocks = {"plain" if plain else "first": first}
    cells: tuple[tuple[Cell, ...], ...] = ((Cell(block=next(iter(blocks))),),)
    borders: tuple[Border, ...] = ()
    layout: StraightRows | OnPoint
    if wish.arrangement == "strips":
        blocks["strip"] = _plain(tr("Strip"), width, height, "main")
        cells = ((Cell(block="plain"), Cell(block="strip")),)
    if wish.arrangement == "medallion":
        wide = Length.near(min(width.mm, height.mm) / 6, width.unit)
        borders = tuple(Border(width=wide, fabric=key, corners="squares") for key in ("main", "second"))
    if wish.border:
        borders = (*borders, Border(width=wish.border, fabric="dark"))
    if wish.arrangement == "on point":
        layout = OnPoint(rows=on_point_rows(cells, columns, rows), triangles="ground")
    else:
        layout = StraightRows(rows=straight_rows(cells, columns, rows))
    alone = wish.arrangement == "single block" or wish.use == "practice piece"
    over = Length.parse("0 in") if alone else None
    return Quilt(
        name=wish.name, use=wish.use, fabrics=PALETTE, blocks=blocks, layout=layout, borders=borders, zones={},
        **({"batting_overhang": over, "backing_overhang": over} if over else {}),
    )  # fmt: skip
