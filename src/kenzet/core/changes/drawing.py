"""Changes of a hand-drawn block: seams, curves, appliqués, its grid."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Annotated, Literal

from pydantic import Field
from shapely.geometry import Polygon

from kenzet.core.changes.base import Change
from kenzet.core.changes.blocks import AddBlock, block_of, with_block
from kenzet.core.changes.fabrics import remade_block
from kenzet.core.errors import BadValue, Unknown
from kenzet.core.geom.arcs import Vertex, bulge_for, drawn
from kenzet.core.numbers.measure import Length, in_words
from kenzet.core.params import Frozen, key_for
from kenzet.core.tolerances import EQUAL, LEAST_APPLIQUE
from kenzet.core.top.blocks import MOST_GRID, Block, Drawn, Fabric, Key, Name, Patch, Seam
from kenzet.core.top.document import Quilt
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.core.top.seams import patches_of
from kenzet.core.top.tidy import remade
from kenzet.texts import tr

_MOST_RISE = 0.75  # of the chord: a bulge of one and a half
Count = Annotated[int, Field(ge=1, le=MOST_GRID)]
Point = tuple[float, float]


class Side(Frozen):
    """From ``start`` to ``end`` in grid units; ``rise`` curves it, to the left of its direction or to the right."""

    start: Point
    end: Point
    rise: Length | None = None
    left: bool = True

    def bulge(self, block: Block, grid: tuple[int, int], field: str = "rise") -> float:
        """The bulge of its arc in ``block``. Raises BadValue at ``field`` if the rise is too large for its length."""
        if not self.rise or not self.rise.mm:
            return 0.0
        across, up = float(block.width.mm) / grid[0], float(block.height.mm) / grid[1]
        chord = math.hypot((self.end[0] - self.start[0]) * across, (self.end[1] - self.start[1]) * up)
        rise = float(self.rise.mm)
        if not 0 < rise <= _MOST_RISE * chord:
            raise BadValue(
                tr(
                    "The rise must be above 0 and at most {most_rise}, three quarters of its length; {rise} was given.",
                    most_rise=in_words(_MOST_RISE * chord, self.rise.unit),
                    rise=self.rise.text,
                ),
                field,
            )
        return bulge_for(chord, rise) * (-1 if self.left else 1)


class OwnBlock(Change):
    """A new block on a grid, in one piece, to be drawn by hand."""

    kind: Literal["own block"] = "own block"
    name: Name = tr("My block")
    width: Length
    height: Length
    columns: Count = 4
    rows: Count = 4

    def apply(self, laid: QuiltLayout) -> tuple[Quilt, str]:
        """It gets the quilt's first fabric."""
        grid = (self.columns, self.rows)
        outline = ((0.0, 0.0), (grid[0], 0.0), (float(grid[0]), float(grid[1])), (0.0, grid[1]))
        patch = Patch(outline=outline, fabric=next(iter(laid.quilt.fabrics)))
        art = Drawn(grid=grid, patches={"piece-1": patch})
        block = Block(name=self.name, width=self.width, height=self.height, art=art)
        return AddBlock(block=block).apply(laid)


class _Drawing(Change):
    """A change of a hand-drawn block."""

    key: Key

    def drawn(self, quilt: Quilt) -> tuple[Block, Drawn]:
        """The block and its drawing. Raises Unknown; BadValue for a block with a pattern."""
        block = block_of(quilt, self.key)
        if not isinstance(block.art, Drawn):
            raise BadValue(
                tr("{name} is drawn from its numbers. Draw a block of your own instead.", name=block.name),
                "key",
            )
        return block, block.art

    def with_art(self, quilt: Quilt, block: Block, **update: object) -> Quilt:
        """The quilt with the block's art changed."""
        art = Drawn(**({name: getattr(block.art, name) for name in Drawn.model_fields} | update))
        return with_block(quilt, self.key, remade_block(block, art=art))

    def with_seams(self, quilt: Quilt, seams: Sequence[Seam]) -> Quilt:
        """The quilt with the block pieced by ``seams``."""
        block, art = self.drawn(quilt)
        size = (float(block.width.mm), float(block.height.mm))
        patches = patches_of(art.grid, size, seams, art.patches)
        return self.with_art(quilt, block, seams=tuple(seams), patches=patches)


class DrawSeams(_Drawing):
    """Adds seams."""

    kind: Literal["seams"] = "seams"
    sides: Annotated[tuple[Side, ...], Field(min_length=1, max_length=200)]

    def apply(self, laid: QuiltLayout) -> tuple[Quilt, str]:
        """Raises BadValue for a seam that has no length, lies outside the block, or exists already."""
        block, art = self.drawn(laid.quilt)
        seams = list(art.seams)
        for side in self.sides:
            _refuse_outside(art, (side.start, side.end))
            if side.start == side.end:
                raise BadValue(tr("A seam needs two different points."), "seam")
            seam = Seam(start=side.start, end=side.end, bulge=side.bulge(block, art.grid))
            if seam in seams:
                raise BadValue(tr("There is such a seam already."), "seam")
            seams.append(seam)
        return self.with_seams(laid.quilt, seams), f"{block.name}: {_many(len(self.sides))}"


class BendSeam(_Drawing):
    """Curves a seam, or makes it straight."""

    kind: Literal["seam rise"] = "seam rise"
    seam: Annotated[int, Field(ge=0)]
    rise: Length | None = None
    left: bool = True

    def apply(self, laid: QuiltLayout) -> tuple[Quilt, str]:
        """The ends do not move. Raises Unknown; BadValue at ``rise``."""
        block, art = self.drawn(laid.quilt)
        seam = _seam(art, self.seam)
        side = Side(start=seam.start, end=seam.end, rise=self.rise, left=self.left)
        bent = seam.model_copy(update={"bulge": side.bulge(block, art.grid)})
        seams = [bent if k == self.seam else one for k, one in enumerate(art.seams)]
        return self.with_seams(laid.quilt, seams), tr("{name}: a seam", name=block.name)


class RemoveSeams(_Drawing):
    """Deletes seams; the patches that they separated are merged."""

    kind: Literal["seams gone"] = "seams gone"
    seams: Annotated[tuple[int, ...], Field(min_length=1)]

    def apply(self, laid: QuiltLayout) -> tuple[Quilt, str]:
        """Raises Unknown."""
        block, art = self.drawn(laid.quilt)
        for number in self.seams:
            _seam(art, number)
        seams = [one for k, one in enumerate(art.seams) if k not in self.seams]
        return self.with_seams(laid.quilt, seams), tr(
            "{name}: {many} removed", name=block.name, many=_many(len(self.seams))
        )


class SetGrid(_Drawing):
    """Changes the grid on which the block is drawn; the drawing itself does not change."""

    kind: Literal["drawing grid"] = "drawing grid"
    columns: Count
    rows: Count

    def apply(self, laid: QuiltLayout) -> tuple[Quilt, str]:
        """Every point is converted to units of the new grid."""
        block, art = self.drawn(laid.quilt)
        x, y = self.columns / art.grid[0], self.rows / art.grid[1]

        def ring(outline: Sequence[Vertex]) -> tuple[Vertex, ...]:
            return tuple((round(v[0] * x, 9), round(v[1] * y, 9), *v[2:]) for v in outline)

        patches = {
            name: patch.model_copy(
                update={"outline": ring(patch.outline), "holes": tuple(ring(hole) for hole in patch.holes)}
            )
            for name, patch in art.patches.items()
        }
        seams = tuple(
            seam.model_copy(update={"start": ring([seam.start])[0], "end": ring([seam.end])[0]})
            for seam in art.seams
        )
        quilt = self.with_art(laid.quilt, block, grid=(self.columns, self.rows), patches=patches, seams=seams)
        return quilt, tr(
            "{name}: grid {columns} by {rows}", name=block.name, columns=self.columns, rows=self.rows
        )


class AddApplique(_Drawing):
    """Adds a closed shape on top; it replaces what is below it."""

    kind: Literal["applique"] = "applique"
    sides: Annotated[tuple[Side, ...], Field(min_length=2, max_length=200)]
    fabric: Key

    def apply(self, laid: QuiltLayout) -> tuple[Quilt, str]:
        """Raises BadValue for an outline that is not closed, crosses itself or leaves the block."""
        block, art = self.drawn(laid.quilt)
        for side, after in zip(self.sides, [*self.sides[1:], self.sides[0]], strict=True):
            _refuse_outside(art, (side.start,))
            if side.end != after.start:
                raise BadValue(tr("The outline of an appliqué must close."), "seam")
        outline = tuple((*side.start, side.bulge(block, art.grid)) for side in self.sides)
        ring = drawn(outline)[0]
        area = Polygon(ring) if len(ring) > 2 else Polygon()
        if not area.is_valid or area.area < LEAST_APPLIQUE:
            raise BadValue(
                tr(
                    "The outline of an appliqué must enclose something and not cross itself. Curve its sides, or take more points."
                ),
                "seam",
            )
        number = 1 + sum(patch.applique for patch in art.patches.values())
        name = key_for(f"applique-{number}", art.patches)
        patches = {**art.patches, name: Patch(outline=outline, fabric=self.fabric, applique=True)}
        return self.with_art(laid.quilt, block, patches=patches), tr("{name}: an appliqué", name=block.name)


class RemoveApplique(_Drawing):
    """Deletes an appliqué."""

    kind: Literal["applique gone"] = "applique gone"
    patch: Key

    def apply(self, laid: QuiltLayout) -> tuple[Quilt, str]:
        """Raises Unknown."""
        block, art = self.drawn(laid.quilt)
        if self.patch not in art.patches or not art.patches[self.patch].applique:
            raise Unknown(
                tr("{name} has no appliqué called {patch}.", name=block.name, patch=self.patch), "patch"
            )
        patches = {name: patch for name, patch in art.patches.items() if name != self.patch}
        return self.with_art(laid.quilt, block, patches=patches), tr(
            "{name}: an appliqué removed", name=block.name
        )


class Bring(Change):
    """Adds a block read from a drawing file, with its fabrics; a fabric of the quilt with the same color is used
    instead."""

    kind: Literal["bring"] = "bring"
    block: Block
    fabrics: Annotated[dict[Key, Fabric], Field(max_length=60)]

    def apply(self, laid: QuiltLayout) -> tuple[Quilt, str]:
        """Raises BadValue for a block that is not hand-drawn."""
        quilt, art = laid.quilt, self.block.art
        if not isinstance(art, Drawn):
            raise BadValue(tr("Only a drawn block can be brought in."), "block")
        palette = dict(quilt.fabrics)
        known = {fabric.colour: key for key, fabric in reversed(palette.items())}
        called = {}
        for own, fabric in self.fabrics.items():
            key = known.get(fabric.colour) or key_for(fabric.name, palette, "fabric")
            palette.setdefault(key, fabric)
            called[own] = key
        patches = {
            name: patch.model_copy(update={"fabric": called.get(patch.fabric, patch.fabric)})
            for name, patch in art.patches.items()
        }
        block = remade_block(self.block, art=art.model_copy(update={"patches": patches}))
        return AddBlock(block=block).apply(QuiltLayout(remade(quilt, fabrics=palette)))


def _seam(art: Drawn, number: int) -> Seam:
    if not 0 <= number < len(art.seams):
        raise Unknown(
            tr(
                "There are {seams} seams here; there is no number {number}.",
                seams=len(art.seams),
                number=number + 1,
            ),
            "seam",
        )
    return art.seams[number]


def _refuse_outside(art: Drawn, points: Sequence[Point]) -> None:
    for x, y in points:
        if not (-EQUAL <= x <= art.grid[0] + EQUAL and -EQUAL <= y <= art.grid[1] + EQUAL):
            raise BadValue(tr("A seam begins and ends in the block."), "seam")


def _many(count: int) -> str:
    return tr("a seam") if count == 1 else tr("{count} seams", count=count)
