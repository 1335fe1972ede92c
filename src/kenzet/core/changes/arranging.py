"""Changes of the arrangement: placing blocks, rows and columns, sashing, borders, straight or on point."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Annotated, Literal

from pydantic import Field

from kenzet.core.changes.base import Change
from kenzet.core.changes.blocks import block_of
from kenzet.core.errors import BadValue
from kenzet.core.numbers.measure import Length
from kenzet.core.params import in_range
from kenzet.core.top.arrangement import MOST_ACROSS, Border, Cell, OnPoint, Sashing, StraightRows
from kenzet.core.top.blocks import LARGEST, Key
from kenzet.core.top.document import Quilt
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.core.top.tidy import remade
from kenzet.core.top.zone import Place
from kenzet.texts import tr

Rows = tuple[tuple[Cell, ...], ...]
Count = Annotated[int, Field(ge=1, le=MOST_ACROSS)]


class Paint(Change):
    """A block is put at ``places``, turned and mirrored; measurements taken there are deleted."""

    kind: Literal["paint"] = "paint"
    places: Annotated[tuple[Place, ...], Field(min_length=1)]
    block: Key
    turns: Annotated[int, Field(ge=0, le=3)] = 0
    mirrored: bool = False

    def apply(self, laid: QuiltLayout) -> tuple[Quilt, str]:
        """Raises Unknown for a block, BadValue for a place that does not exist."""
        name = block_of(laid.quilt, self.block).name
        new = Cell(block=self.block, turns=self.turns, mirrored=self.mirrored)
        return _over(laid.quilt, self.places, lambda _: new), tr(
            "{name} at {count}", name=name, count=_count(self.places)
        )


class Turn(Change):
    """Blocks at ``places`` are turned counter-clockwise by quarter turns, or mirrored left to right."""

    kind: Literal["turn"] = "turn"
    places: Annotated[tuple[Place, ...], Field(min_length=1)]
    by: Annotated[int, Field(ge=0, le=3)] = 0
    mirror: bool = False

    def apply(self, laid: QuiltLayout) -> tuple[Quilt, str]:
        """Turns as seen on the quilt: inside a mirrored block the turn is the other way round."""

        def turned(cell: Cell) -> Cell:
            # a cell is turned, then mirrored: turning what is mirrored turns it back inside the mirror
            turns = (cell.turns + (-self.by if cell.mirrored else self.by)) % 4
            return cell.model_copy(update={"turns": turns, "mirrored": cell.mirrored != self.mirror})

        what = "mirrored" if self.mirror else "turned"
        return _over(laid.quilt, self.places, turned), f"{what} {_count(self.places)}"


def _count(places: Sequence[str]) -> str:
    return tr("{places} places", places=len(places)) if len(places) != 1 else tr("one place")


def _over(quilt: Quilt, places: Sequence[str], other: Callable[[Cell], Cell]) -> Quilt:
    wanted = set(places)
    missing = wanted - {place for place, _ in quilt.layout.places()}
    if missing:
        raise BadValue(tr("There is no block at {missing}.", missing=min(missing)), "places")
    rows = tuple(
        tuple(other(cell) if f"{r}-{c}" in wanted else cell for c, cell in enumerate(row, 1))
        for r, row in enumerate(quilt.layout.rows, 1)
    )
    return remade(quilt, layout=remade_layout(quilt.layout, rows=rows))


def remade_layout(layout: StraightRows | OnPoint, **update: object) -> StraightRows | OnPoint:
    """A layout with the values of ``update``, validated again."""
    return type(layout)(**({name: getattr(layout, name) for name in type(layout).model_fields} | update))


class SetCount(Change):
    """The number of columns and rows; on point, of the long rows. New places repeat the existing ones."""

    kind: Literal["count"] = "count"
    columns: Count
    rows: Count

    def apply(self, laid: QuiltLayout) -> tuple[Quilt, str]:
        """The sizes of removed rows and columns are deleted."""
        layout = laid.quilt.layout
        if isinstance(layout, OnPoint):
            new: StraightRows | OnPoint = remade_layout(
                layout, rows=on_point_rows(layout.rows, self.columns, self.rows)
            )
        else:
            new = remade_layout(
                layout,
                rows=straight_rows(layout.rows, self.columns, self.rows),
                widths=_sized(layout.widths, self.columns),
                heights=_sized(layout.heights, self.rows),
            )
        return remade(laid.quilt, layout=new), tr("{columns} by {rows}", columns=self.columns, rows=self.rows)


def straight_rows(rows: Rows, columns: int, count: int) -> Rows:
    """The cells of ``rows`` repeated or cut to ``count`` rows of ``columns``."""
    return tuple(
        tuple(rows[r % len(rows)][c % len(rows[r % len(rows)])] for c in range(columns)) for r in range(count)
    )


def on_point_rows(rows: Rows, columns: int, count: int) -> Rows:
    """Long rows of ``columns`` and the short rows between them, from the cells of ``rows``."""
    found = []
    for r in range(2 * count - 1):
        wide = columns - r % 2
        if wide == 0:
            raise BadValue(tr("On point, more than one row needs at least two columns."), "columns")
        source = rows[r % len(rows)] if len(rows) > 1 or r == 0 else rows[0]
        found.append(tuple(source[c % len(source)] for c in range(wide)))
    return tuple(found)


def _sized(sizes: Sequence[Length | None], count: int) -> tuple[Length | None, ...]:
    return (*sizes, *[None] * count)[:count] if sizes else ()


class SetArrangement(Change):
    """Changes to straight rows or on point, with the existing blocks."""

    kind: Literal["arrangement"] = "arrangement"
    on_point: bool
    triangles: Key | None = None

    def apply(self, laid: QuiltLayout) -> tuple[Quilt, str]:
        """``triangles`` is the fabric of the setting triangles; by default the present one, or the first fabric."""
        quilt, layout = laid.quilt, laid.quilt.layout
        columns, rows = len(layout.rows[0]), len(layout.rows)
        cloth = self.triangles or quilt.triangle_fabric or next(iter(quilt.fabrics))
        new: StraightRows | OnPoint
        if self.on_point and isinstance(layout, OnPoint):
            new = remade_layout(layout, triangles=cloth)
        elif self.on_point:
            cells = on_point_rows(layout.rows, columns, rows if columns > 1 else 1)
            new = OnPoint(rows=cells, sashing=layout.sashing, triangles=cloth)
        elif isinstance(layout, OnPoint):
            cells = straight_rows(layout.rows, columns, (rows + 1) // 2)
            new = StraightRows(rows=cells, sashing=layout.sashing)
        else:
            new = layout
        return remade(quilt, layout=new), "on point" if self.on_point else "straight rows"


class SetSizes(Change):
    """Widths of the columns and heights of the rows; None for the size of their blocks."""

    kind: Literal["sizes"] = "sizes"
    widths: tuple[Length | None, ...]
    heights: tuple[Length | None, ...]

    def apply(self, laid: QuiltLayout) -> tuple[Quilt, str]:
        """Raises BadValue at ``widths.n`` or ``heights.n``, and for layouts on point."""
        layout = laid.quilt.layout
        if not isinstance(layout, StraightRows):
            raise BadValue(tr("On point all blocks have one size."), "widths")
        for name, given in (("widths", self.widths), ("heights", self.heights)):
            for k, size in enumerate(given):
                if size:
                    try:
                        in_range(size, "1/2 in", LARGEST, tr("The size"))
                    except BadValue as error:
                        raise BadValue(error.message, f"{name}.{k}") from error
        plain = {
            name: given if any(given) else ()
            for name, given in (("widths", self.widths), ("heights", self.heights))
        }
        return remade(laid.quilt, layout=remade_layout(layout, **plain)), tr("sizes of rows and columns")


class SetSashing(Change):
    """The sashing, or None for no sashing."""

    kind: Literal["sashing"] = "sashing"
    sashing: Sashing | None

    def apply(self, laid: QuiltLayout) -> tuple[Quilt, str]:
        """Zones of removed sashing are deleted too."""
        layout = remade_layout(laid.quilt.layout, sashing=self.sashing)
        return remade(laid.quilt, layout=layout), tr("sashes") if self.sashing else tr("sashes removed")


class SetBorders(Change):
    """All borders, from the inside out."""

    kind: Literal["borders"] = "borders"
    borders: Annotated[tuple[Border, ...], Field(max_length=12)]

    def apply(self, laid: QuiltLayout) -> tuple[Quilt, str]:
        """Zones of removed borders are deleted too."""
        return remade(laid.quilt, borders=self.borders), tr("borders")
