"""Blocks: a name, a finished size and patches, from a built-in pattern or drawn by hand.

Glossary: a *pattern* draws patches from a few numbers and gives each a *role* (background, star …); the block
assigns a fabric to each role. A *drawn* block stores its patches itself, on a grid. *Measured* is the real size of
the finished block; patches and fills are computed from it.
"""

from __future__ import annotations

import math
import re
from collections.abc import Mapping
from dataclasses import dataclass
from fractions import Fraction
from functools import cached_property
from typing import Annotated, Literal

import shapely
from pydantic import AfterValidator, Field, field_validator, model_validator
from shapely.geometry import Polygon

from kenzet.core.errors import BadValue
from kenzet.core.geom.arcs import Vertex, drawn
from kenzet.core.numbers.measure import Length
from kenzet.core.params import Frozen, in_range, plain_name
from kenzet.core.tolerances import CROSSED, LEAST_PATCH, OUTSIDE
from kenzet.core.top.patterns import AnyPattern
from kenzet.texts import tr

LARGEST = "200 in"
MOST_GRID = 100
MOST_PATCHES = 400
MOST_SEAMS = 2000
MOST_VERTICES = 5000
MOST_BULGE = 3
"""The limit for seams too: an arc of more than three quarters of a circle."""
DIAGONALS_MAY_DIFFER = Fraction(127, 40)
"""1/8 in: a greater difference of the diagonals is reported (job 1.3)."""

Key = Annotated[str, Field(pattern=r"^[a-z0-9][a-z0-9-]{0,39}$")]
Name = Annotated[str, Field(min_length=1, max_length=80), AfterValidator(plain_name)]
Outline = Annotated[tuple[Vertex, ...], Field(min_length=2, max_length=MOST_VERTICES)]


class Fabric(Frozen):
    """A fabric with its name, its color as #rrggbb, and whether its print is calm or busy."""

    name: Name
    colour: str
    print: Literal["calm", "busy"] = "calm"

    @field_validator("colour")
    @classmethod
    def _colour(cls, colour: str) -> str:
        if not re.fullmatch(r"#[0-9a-fA-F]{6}", colour):
            raise BadValue(tr("A color is # and six hexadecimal digits, like #ded9cb."))
        return colour.lower()

    @property
    def tone(self) -> Literal["light", "medium", "dark"]:
        """How light the color is, from its relative luminance."""
        light = luminance(self.colour)
        return "light" if light > 0.45 else "dark" if light < 0.16 else "medium"


def luminance(colour: str) -> float:
    """Relative luminance of #rrggbb, 0 black to 1 white (WCAG 2).

    >>> round(luminance("#ffffff"), 3), round(luminance("#56708a"), 3)
    (1.0, 0.154)
    """
    parts = [int(colour[k : k + 2], 16) / 255 for k in (1, 3, 5)]
    red, green, blue = (p / 12.92 if p <= 0.04045 else ((p + 0.055) / 1.055) ** 2.4 for p in parts)
    return 0.2126 * red + 0.7152 * green + 0.0722 * blue


class Patch(Frozen):
    """One piece of fabric: its outline and holes in units of the block's grid, y up.

    A third number of a vertex is the bulge of the arc that begins there. An appliqué is on top and replaces what
    is below; of several, the later is above.
    """

    outline: Outline
    holes: tuple[Outline, ...] = ()
    fabric: Key
    applique: bool = False


class Seam(Frozen):
    """A seam of a drawn block from ``start`` to ``end`` in grid units, with the ``bulge`` of its arc."""

    start: tuple[float, float]
    end: tuple[float, float]
    bulge: Annotated[float, Field(ge=-3, le=3)] = 0.0


class Patterned(Frozen):
    """A pattern with the fabrics of its roles; ``recoloured`` patches have a fabric of their own."""

    kind: Literal["pattern"] = "pattern"
    pattern: AnyPattern
    fabrics: dict[str, Key]
    recoloured: dict[Key, Key] = Field({})

    @model_validator(mode="after")
    def _roles(self) -> Patterned:
        for role in self.pattern.roles():
            if role not in self.fabrics:
                raise BadValue(tr("No fabric is chosen for {role}.", role=role), "fabrics")
        return self


class Drawn(Frozen):
    """Patches on a grid of ``grid`` columns and rows, and the seams that made them, if any."""

    kind: Literal["drawn"] = "drawn"
    grid: tuple[Annotated[int, Field(ge=1, le=MOST_GRID)], Annotated[int, Field(ge=1, le=MOST_GRID)]]
    patches: Annotated[dict[Key, Patch], Field(min_length=1, max_length=MOST_PATCHES)]
    seams: Annotated[tuple[Seam, ...], Field(max_length=MOST_SEAMS)] = ()

    @model_validator(mode="after")
    def _sound(self) -> Drawn:
        """Checks patches before they are used for cutting; the error names the patch that is impossible."""
        areas = {}
        for key, patch in self.patches.items():
            area = _cloth(key, patch, self.grid)
            if not patch.applique:
                areas[key] = area
        _refuse_overlaps(areas)
        return self


def _cloth(key: str, patch: Patch, grid: tuple[int, int]) -> Polygon:
    """The patch in grid units. Raises BadValue if it is not a valid area."""
    field = f"patches.{key}"
    rings = []
    for outline in (patch.outline, *patch.holes):
        for x, y, *bulge in outline:
            beyond = max(-x, -y, x - grid[0], y - grid[1])
            if not math.isfinite(x + y) or beyond > OUTSIDE:
                raise BadValue(tr("A corner of this patch lies outside the block."), field)
            if bulge and not abs(bulge[0]) <= MOST_BULGE:
                raise BadValue(
                    tr(
                        "A curve of this patch bulges too far: its bulge lies between -{most_bulge} and {most_bulge}.",
                        most_bulge=MOST_BULGE,
                    ),
                    field,
                )
        if len(outline) < 3 and not any(len(vertex) > 2 and vertex[2] for vertex in outline):
            raise BadValue(tr("A patch has at least three corners."), field)
        rings.append([(x, y) for x, y in drawn(outline)[0]])
    if len(rings[0]) < 3 or any(len(ring) < 3 for ring in rings):
        raise BadValue(tr("This patch has no area."), field)
    area = Polygon(rings[0], rings[1:])
    whole = area if area.is_valid else shapely.make_valid(area)
    if whole.area < LEAST_PATCH:
        raise BadValue(tr("This patch has no area."), field)
    if abs(whole.area - area.area) > CROSSED * whole.area:
        raise BadValue(tr("The outline of this patch crosses itself."), field)
    return area.buffer(0)


def _refuse_overlaps(areas: Mapping[str, Polygon]) -> None:
    """Raises BadValue if two patches overlap."""
    keys = list(areas)
    tree = shapely.STRtree([areas[key] for key in keys])
    for k, key in enumerate(keys):
        for other in tree.query(areas[key]).tolist():
            if other > k and areas[key].intersection(areas[keys[other]]).area > CROSSED * min(
                areas[key].area, areas[keys[other]].area
            ):
                raise BadValue(
                    tr("The patches {key} and {keys} lie on one another.", key=key, keys=keys[other]),
                    f"patches.{keys[other]}",
                )


class Measured(Frozen):
    """Measurements of a finished block: width, height and optionally both diagonals."""

    width: Length
    height: Length
    diagonals: tuple[Length, Length] | None = None

    @field_validator("width", "height")
    @classmethod
    def _size(cls, size: Length) -> Length:
        return in_range(size, "1/2 in", LARGEST, tr("A measured size"))

    @property
    def diagonals_differ(self) -> Fraction:
        """The difference of the diagonals, mm; 0 if they were not measured."""
        return abs(self.diagonals[0].mm - self.diagonals[1].mm) if self.diagonals else Fraction(0)

    @property
    def out_of_square(self) -> float:
        """The offset of the top edge against the bottom edge, mm: (d1² − d2²) / 4w of a parallelogram."""
        if not self.diagonals:
            return 0.0
        first, second = (float(d.mm) for d in self.diagonals)
        return (first**2 - second**2) / (4 * float(self.width.mm))


@dataclass(frozen=True, slots=True)
class Shape:
    """A patch in mm in its block, y up; vertices may have bulges."""

    outline: tuple[Vertex, ...]
    holes: tuple[tuple[Vertex, ...], ...]
    fabric: str
    applique: bool = False


class Block(Frozen):
    """A block: its finished size, its art, and its measurements if there are any."""

    name: Name
    width: Length
    height: Length
    measured: Measured | None = None
    art: Annotated[Patterned | Drawn, Field(discriminator="kind")]

    @field_validator("width", "height")
    @classmethod
    def _size(cls, size: Length) -> Length:
        return in_range(size, "1/2 in", LARGEST, tr("A block's size"))

    @model_validator(mode="after")
    def _draws(self) -> Block:
        if isinstance(self.art, Patterned):
            self.art.pattern.check(float(self.width.mm), float(self.height.mm))
        return self

    @property
    def size(self) -> tuple[Fraction, Fraction]:
        """Width and height in mm: as measured, else nominal."""
        as_is = self.measured or self
        return as_is.width.mm, as_is.height.mm

    @cached_property
    def fabric_of(self) -> Mapping[str, str]:
        """The fabric of every patch, by patch key."""
        if isinstance(self.art, Drawn):
            return {key: patch.fabric for key, patch in self.art.patches.items()}
        art = self.art
        return {
            piece.key: art.recoloured.get(piece.key, art.fabrics[piece.role])
            for piece in art.pattern.draw(float(self.width.mm), float(self.height.mm))
        }

    def shapes(self, width: float, height: float) -> dict[str, Shape]:
        """Every patch in mm, for a block of ``width`` by ``height``."""
        if isinstance(self.art, Drawn):
            return {
                key: _scaled(patch, self.art.grid, width, height) for key, patch in self.art.patches.items()
            }
        fabrics = self.fabric_of
        return {
            piece.key: Shape(piece.outline, piece.holes, fabrics[piece.key], piece.applique)
            for piece in self.art.pattern.draw(width, height)
        }

    def role_of(self, patch: str) -> str:
        """The role of the patch in words, or its key."""
        if isinstance(self.art, Patterned):
            for piece in self.art.pattern.draw(float(self.width.mm), float(self.height.mm)):
                if piece.key == patch:
                    return piece.role
        return patch.replace("-", " ")


def _scaled(patch: Patch, grid: tuple[int, int], width: float, height: float) -> Shape:
    def ring(outline: tuple[Vertex, ...]) -> tuple[Vertex, ...]:
        return tuple((v[0] * width / grid[0], v[1] * height / grid[1], *v[2:]) for v in outline)

    return Shape(ring(patch.outline), tuple(ring(hole) for hole in patch.holes), patch.fabric, patch.applique)
