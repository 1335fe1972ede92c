"""The place of everything in the top as plain numbers: seats of blocks, and the strips between and around them.

Glossary: a *seat* is the rectangle that a block fills: its center and its size before it is tilted to stand on
point. A *strip* is any patch that belongs to no block: a sash, a cornerstone, a side of a border; its ring is in
mm, y up, without repeated point. Pure arithmetic, without geometry library.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from fractions import Fraction
from itertools import accumulate

from kenzet.core.geom.region import Point
from kenzet.core.top.arrangement import Border, Cell, OnPoint, StraightRows
from kenzet.core.top.blocks import Block
from kenzet.core.top.zone import BORDER, CORNER, SASHING, SIDE

Number = Fraction | float


@dataclass(frozen=True, slots=True)
class Seat:
    """The seat of a block: the center of its place, and its own size in the directions of its place, mm."""

    place: str
    cell: Cell
    centre: tuple[Number, Number]
    size: tuple[Fraction, Fraction]
    tilted: bool


@dataclass(frozen=True, slots=True)
class Strip:
    """A patch outside the blocks."""

    ring: tuple[Point, ...]
    fabric: str


@dataclass(frozen=True, slots=True)
class Triangle:
    """A setting triangle: the midpoint of its long side (or its right angle) and its quarter turns."""

    place: str
    at: Point
    turns: int


@dataclass
class Spread:
    """The whole top, mm, lower left corner at the origin."""

    width: Number = Fraction(0)
    height: Number = Fraction(0)
    seats: list[Seat] = field(default_factory=list)
    strips: dict[str, dict[str, Strip]] = field(default_factory=dict)
    triangles: dict[str, list[Triangle]] = field(default_factory=dict)
    leg: float = 0.0
    """The side of a block on point, which is the leg of a side triangle."""


def spread(layout: StraightRows | OnPoint, borders: Sequence[Border], blocks: Mapping[str, Block]) -> Spread:
    """Computes ``layout`` with its borders around it."""
    band = sum((border.width.mm for border in borders), Fraction(0))
    laid = (
        _straight(layout, band, blocks)
        if isinstance(layout, StraightRows)
        else _on_point(layout, band, blocks)
    )
    for number, border in enumerate(borders, 1):
        band -= border.width.mm
        laid.strips[f"{BORDER}{number}"] = _border(border, band, laid.width, laid.height)
    return laid


def _turned(block: Block, cell: Cell) -> tuple[Fraction, Fraction]:
    width, height = block.size
    return (height, width) if cell.turns % 2 else (width, height)


def sizes(layout: StraightRows, blocks: Mapping[str, Block]) -> tuple[list[Fraction], list[Fraction]]:
    """The widths of the columns and the heights of the rows, mm."""
    wide = [
        max(_turned(blocks[row[c].block], row[c])[0] for row in layout.rows)
        for c in range(len(layout.rows[0]))
    ]
    high = [max(_turned(blocks[cell.block], cell)[1] for cell in row) for row in layout.rows]
    widths = [w.mm if w else own for w, own in zip(layout.widths or [None] * len(wide), wide, strict=True)]
    heights = [h.mm if h else own for h, own in zip(layout.heights or [None] * len(high), high, strict=True)]
    return widths, heights


def _straight(layout: StraightRows, band: Fraction, blocks: Mapping[str, Block]) -> Spread:
    widths, heights = sizes(layout, blocks)
    sash = layout.sashing.width.mm if layout.sashing else Fraction(0)
    rim = sash if layout.sashing and layout.sashing.outer else Fraction(0)
    lefts = [band + rim + x for x in accumulate((w + sash for w in widths), initial=Fraction(0))][:-1]
    lows = [band + rim + y for y in accumulate((h + sash for h in reversed(heights)), initial=Fraction(0))][
        :-1
    ]
    lows.reverse()
    laid = Spread(
        sum(widths) + (len(widths) - 1) * sash + 2 * (rim + band),
        sum(heights) + (len(heights) - 1) * sash + 2 * (rim + band),
    )
    for r, row in enumerate(layout.rows):
        for c, cell in enumerate(row):
            centre = (lefts[c] + widths[c] / 2, lows[r] + heights[r] / 2)
            size = (widths[c], heights[r])
            measured = cell.measured or blocks[cell.block].measured
            if measured:
                own = (measured.width.mm, measured.height.mm)
                size = own[::-1] if cell.turns % 2 else own
            laid.seats.append(Seat(f"{r + 1}-{c + 1}", cell, centre, size, tilted=False))
    if layout.sashing:
        laid.strips[SASHING] = dict(_sashes(layout, lefts, widths, lows, heights))
    return laid


def _sashes(
    layout: StraightRows,
    lefts: list[Fraction],
    widths: list[Fraction],
    lows: list[Fraction],
    heights: list[Fraction],
) -> Iterable[tuple[str, Strip]]:
    """Upright sashes from left to right, horizontal ones from top to bottom, cornerstones; number 0 is outside the
    first block."""
    sashing = layout.sashing
    assert sashing is not None
    sash, outer = sashing.width.mm, sashing.outer
    first = 0 if outer else 1
    rights = [left + wide for left, wide in zip(lefts, widths, strict=True)]
    tops = [low + high for low, high in zip(lows, heights, strict=True)]
    ups = [(k, lefts[0] - sash if k == 0 else rights[k - 1]) for k in range(first, len(lefts) + outer)]
    levels = [(k, tops[0] if k == 0 else lows[k - 1] - sash) for k in range(first, len(lows) + outer)]
    for k, x in ups:
        for r, (low, top) in enumerate(zip(lows, tops, strict=True), 1):
            yield f"up-{r}-{k}", _box(x, low, x + sash, top, sashing.fabric)
    if sashing.cornerstones is None:
        rim = sash if outer else Fraction(0)
        for k, y in levels:
            yield f"level-{k}", _box(lefts[0] - rim, y, rights[-1] + rim, y + sash, sashing.fabric)
        return
    for k, y in levels:
        for c, (left, right) in enumerate(zip(lefts, rights, strict=True), 1):
            yield f"level-{k}-{c}", _box(left, y, right, y + sash, sashing.fabric)
        for n, x in ups:
            yield f"stone-{k}-{n}", _box(x, y, x + sash, y + sash, sashing.cornerstones)


def _on_point(layout: OnPoint, band: Fraction, blocks: Mapping[str, Block]) -> Spread:
    """Blocks have their centers half a diagonal apart. The edge runs through the outer corners or, with sashing,
    through the centers of the outer cornerstones."""
    block = max(max(_turned(blocks[cell.block], cell)) for _, cell in layout.places())
    sash = float(layout.sashing.width.mm) if layout.sashing else 0.0
    half = (float(block) + sash) / math.sqrt(2)
    across, down, off = len(layout.rows[0]), (len(layout.rows) + 1) // 2, float(band)
    width, height = 2 * across * half, 2 * down * half
    laid = Spread(width + 2 * off, height + 2 * off, leg=float(block))
    for r, row in enumerate(layout.rows):
        for c, cell in enumerate(row):
            centre = (off + (2 * c + 1 + r % 2) * half, off + height - (r + 1) * half)
            size = (block, block)
            measured = cell.measured or blocks[cell.block].measured
            if measured:
                own = (measured.width.mm, measured.height.mm)
                size = own[::-1] if cell.turns % 2 else own
            laid.seats.append(Seat(f"{r + 1}-{c + 1}", cell, centre, size, tilted=True))
    sides = [(2 * k * half, 0.0, 0) for k in range(1, across)]
    sides += [(width, 2 * k * half, 1) for k in range(1, down)]
    sides += [(2 * k * half, height, 2) for k in range(1, across)]
    sides += [(0.0, 2 * k * half, 3) for k in range(1, down)]
    corners = [(0.0, 0.0, 0), (width, 0.0, 1), (width, height, 2), (0.0, height, 3)]
    for part, found in ((SIDE, sides), (CORNER, corners)):
        laid.triangles[part] = [
            Triangle(f"{part}-{n}", (off + x, off + y), turns) for n, (x, y, turns) in enumerate(found, 1)
        ]
    if layout.sashing:
        laid.strips[SASHING] = dict(_tilted_sashes(layout, half, across, down, off))
    return laid


def _tilted_sashes(
    layout: OnPoint, half: float, across: int, down: int, off: float
) -> Iterable[tuple[str, Strip]]:
    """Sashes over the lattice of the cornerstones: points (i, j) half a diagonal apart, i + j odd, j upwards."""
    sashing = layout.sashing
    assert sashing is not None
    reach = float(sashing.width.mm) / math.sqrt(2)  # half the diagonal of a cornerstone
    most_i, most_j = 2 * across, 2 * down

    def at(i: int, j: int, dx: float = 0.0, dy: float = 0.0) -> Point:
        return off + i * half + dx, off + j * half + dy

    points = [(i, j) for j in range(most_j + 1) for i in range(most_i + 1) if (i + j) % 2]
    ring: tuple[Point, ...]
    for i, j in points:
        for name, step in (("rising", 1), ("falling", -1)):
            if name == "rising" and sashing.cornerstones is None:
                continue
            if i < most_i and 0 <= j + step <= most_j:
                ring = (
                    at(i, j, reach), at(i + 1, j + step, 0.0, -step * reach),
                    at(i + 1, j + step, -reach), at(i, j, 0.0, step * reach),
                )  # fmt: skip
                yield f"{name}-{i}-{j}", Strip(ring, sashing.fabric)
        if sashing.cornerstones is not None:
            corners = (
                (i > 0, -reach, 0.0),
                (j > 0, 0.0, -reach),
                (i < most_i, reach, 0.0),
                (j < most_j, 0.0, reach),
            )
            ring = tuple(at(i, j, dx, dy) for there, dx, dy in corners if there)
            yield f"stone-{i}-{j}", Strip(ring, sashing.cornerstones)
    if sashing.cornerstones is None:
        for i, j in points:
            if i == 0 or j == 0:  # a long strip rises from every point on the left and the bottom edge
                n = min(most_i - i, most_j - j)
                end = (i + n, j + n)
                low = at(i, j, 0.0, -reach) if i == 0 else at(i, j, reach)
                high = at(i, j, 0.0, reach) if i == 0 else at(i, j, -reach)
                far_low = at(*end, reach) if end[1] == most_j else at(*end, 0.0, -reach)
                far_high = at(*end, -reach) if end[1] == most_j else at(*end, 0.0, reach)
                yield f"long-{i}-{j}", Strip((low, far_low, far_high, high), sashing.fabric)


def _border(border: Border, off: Fraction, width: Number, height: Number) -> dict[str, Strip]:
    """The sides of a border with its outer edge ``off`` inside the quilt's edge."""
    wide = border.width.mm
    x0, y0, x3, y3 = off, off, width - off, height - off
    x1, y1, x2, y2 = x0 + wide, y0 + wide, x3 - wide, y3 - wide
    fabric = border.fabric
    if border.corners == "mitred":
        sides: dict[str, list[tuple[Number, Number]]] = {
            "top": [(x0, y3), (x1, y2), (x2, y2), (x3, y3)],
            "right": [(x3, y3), (x2, y2), (x2, y1), (x3, y0)],
            "bottom": [(x3, y0), (x2, y1), (x1, y1), (x0, y0)],
            "left": [(x0, y0), (x1, y1), (x1, y2), (x0, y3)],
        }
        return {
            key: Strip(tuple((float(x), float(y)) for x, y in ring), fabric) for key, ring in sides.items()
        }
    through, sides_through = border.corners == "top and bottom through", border.corners == "sides through"
    left, right = (x0, x3) if through else (x1, x2)
    low, top = (y0, y3) if sides_through else (y1, y2)
    found = {
        "top": _box(left, y2, right, y3, fabric),
        "right": _box(x2, low, x3, top, fabric),
        "bottom": _box(left, y0, right, y1, fabric),
        "left": _box(x0, low, x1, top, fabric),
    }
    if border.corners == "squares":
        cloth = border.corner_fabric or fabric
        found |= {
            "corner-top-left": _box(x0, y2, x1, y3, cloth),
            "corner-top-right": _box(x2, y2, x3, y3, cloth),
            "corner-bottom-right": _box(x2, y0, x3, y1, cloth),
            "corner-bottom-left": _box(x0, y0, x1, y1, cloth),
        }
    return found


def _box(left: Number, low: Number, right: Number, top: Number, fabric: str) -> Strip:
    x0, y0, x1, y1 = float(left), float(low), float(right), float(top)
    return Strip(((x0, y0), (x1, y0), (x1, y1), (x0, y1)), fabric)
