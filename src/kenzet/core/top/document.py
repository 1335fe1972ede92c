"""The quilt document: everything that is kept of a quilt, and the plan format that is written to files.

``format`` and ``version`` head every document; ``docs/plan-format.md`` describes it and
``docs/plan.schema.json`` is generated from the models here.
"""

from __future__ import annotations

import re
from typing import Annotated, Any, Literal

from pydantic import Field, ValidationError, field_validator, model_validator

from kenzet.core.errors import BadValue
from kenzet.core.fills import FILLS, AnyFill
from kenzet.core.kit.kit import Kit
from kenzet.core.measure import Length, Unit
from kenzet.core.params import Frozen, in_range

FORMAT = "kenzet.plan"
VERSION = 1
SASHING, BORDER = "sashing", "border"
_LARGEST = "200 in"

Key = Annotated[str, Field(pattern=r"^[a-z0-9][a-z0-9-]{0,39}$")]
Name = Annotated[str, Field(min_length=1, max_length=80)]
Place = tuple[float, float]


class Fabric(Frozen):
    """A cloth with its name and its colour as #rrggbb."""

    name: Name
    colour: str

    @field_validator("colour")
    @classmethod
    def _colour(cls, colour: str) -> str:
        if not re.fullmatch(r"#[0-9a-fA-F]{6}", colour):
            raise BadValue("A colour is # and six hexadecimal digits, like #ded9cb.")
        return colour.lower()


class Patch(Frozen):
    """One piece of fabric: its outline, and its holes, in the units of the block's grid, y up."""

    outline: Annotated[tuple[Place, ...], Field(min_length=3, max_length=500)]
    holes: tuple[Annotated[tuple[Place, ...], Field(min_length=3, max_length=500)], ...] = ()
    fabric: Key


class Block(Frozen):
    """A pieced block: its finished size and its patches on a grid of ``grid`` columns and rows."""

    name: Name
    width: Length
    height: Length
    grid: tuple[Annotated[int, Field(ge=1, le=100)], Annotated[int, Field(ge=1, le=100)]]
    patches: Annotated[dict[Key, Patch], Field(min_length=1, max_length=400)]

    @field_validator("width", "height")
    @classmethod
    def _size(cls, size: Length) -> Length:
        return in_range(size, "1/2 in", _LARGEST, "A block's size")


class Cell(Frozen):
    """A block at its place, turned by quarter turns to the left, then mirrored left to right."""

    block: Key
    turns: Annotated[int, Field(ge=0, le=3)] = 0
    mirrored: bool = False


class Strips(Frozen):
    """Sashes or a border: one width and one fabric."""

    width: Length
    fabric: Key

    @field_validator("width")
    @classmethod
    def _width(cls, width: Length) -> Length:
        return in_range(width, "1/4 in", "40 in", "The width of a sash or border")


class StraightRows(Frozen):
    """Blocks of one size in rows (the first row at the top), with sashes between and all round, and a border."""

    kind: Literal["straight rows"] = "straight rows"
    rows: Annotated[tuple[tuple[Cell, ...], ...], Field(min_length=1, max_length=60)]
    sashing: Strips | None = None
    border: Strips | None = None

    @model_validator(mode="after")
    def _even(self) -> StraightRows:
        if len({len(row) for row in self.rows}) != 1 or not 1 <= len(self.rows[0]) <= 60:
            raise BadValue("Every row holds the same number of blocks, from 1 to 60.")
        return self


MarkMethod = Literal["first lines", "all lines"]


class Zone(Frozen):
    """Patches of one part that are quilted as one: ``part`` is a block's key, ``sashing`` or ``border``."""

    name: Name
    part: Key
    patches: Annotated[tuple[Key, ...], Field(min_length=1)]
    fill: AnyFill | None = None
    marking: MarkMethod = "first lines"


class Quilt(Frozen):
    """A quilt with its top, its zones and the kit it is planned with."""

    format: Literal["kenzet.plan"] = "kenzet.plan"
    version: Literal[1] = 1
    name: Name
    use: Literal["bed", "lap", "baby", "wall", "runner", "garment or bag", "practice piece"] = "lap"
    fabrics: Annotated[dict[Key, Fabric], Field(min_length=1, max_length=60)]
    blocks: Annotated[dict[Key, Block], Field(min_length=1, max_length=60)]
    layout: StraightRows
    zones: Annotated[dict[Key, Zone], Field(max_length=400)]
    kit: Kit = Kit()

    @model_validator(mode="after")
    def _hangs_together(self) -> Quilt:
        _check_fabrics(self)
        _check_layout(self)
        _check_zones(self)
        return self

    @property
    def part_patches(self) -> dict[str, frozenset[str]]:
        """The patch keys of every part."""
        found = {key: frozenset(block.patches) for key, block in self.blocks.items()}
        if self.layout.sashing:
            found[SASHING] = frozenset(["strips"])
        if self.layout.border:
            found[BORDER] = frozenset(["frame"])
        return found


def _check_fabrics(quilt: Quilt) -> None:
    used = {patch.fabric for block in quilt.blocks.values() for patch in block.patches.values()}
    used |= {strips.fabric for strips in (quilt.layout.sashing, quilt.layout.border) if strips}
    for fabric in sorted(used - set(quilt.fabrics)):
        raise BadValue(f"There is no fabric called {fabric} in this plan.")


def _check_layout(quilt: Quilt) -> None:
    if {SASHING, BORDER} & set(quilt.blocks):
        raise BadValue(f"A block cannot be called {SASHING} or {BORDER}.")
    cells = [cell for row in quilt.layout.rows for cell in row]
    for name in sorted({cell.block for cell in cells} - set(quilt.blocks)):
        raise BadValue(f"There is no block called {name} in this plan.")
    sizes = set()
    for cell in cells:
        block = quilt.blocks[cell.block]
        sizes.add((block.width.mm, block.height.mm)[:: -1 if cell.turns % 2 else 1])
    if len(sizes) > 1:
        raise BadValue("All blocks in straight rows have one finished size.")


def _check_zones(quilt: Quilt) -> None:
    parts = quilt.part_patches
    taken: set[tuple[str, str]] = set()
    for key, zone in quilt.zones.items():
        missing = sorted(set(zone.patches) - parts.get(zone.part, frozenset()))
        if missing:
            raise BadValue(f"The zone {key} names a patch that is not there: {zone.part} {missing[0]}.")
        both = {(zone.part, patch) for patch in zone.patches}
        if taken & both:
            raise BadValue(f"The zone {key} holds a patch that another zone holds already.")
        taken |= both


def read(data: Any, unit: Unit = "in") -> Quilt:
    """A document from its JSON values; ``unit`` is meant where a length names none.

    Raises BadValue with the field's path.
    """
    if not isinstance(data, dict) or data.get("format") != FORMAT:
        raise BadValue(f'This is not a quilt plan: "format" must be "{FORMAT}".', "format")
    if data.get("version") != VERSION:
        raise BadValue(
            f"This plan is of version {data.get('version')!r}; version {VERSION} can be read.", "version"
        )
    quilt: Quilt = validated(Quilt, data, unit)
    return quilt


def validated(model: Any, data: Any, unit: Unit = "in", prefix: str = "") -> Any:
    """``data`` as ``model``. Raises BadValue for the first thing that is wrong, at its field."""
    try:
        return model.model_validate(data, context={"unit": unit})
    except ValidationError as error:
        raise at_field(error, prefix) from error


def at_field(error: ValidationError, prefix: str = "") -> BadValue:
    """The first fault of a failed check as a sentence at its field."""
    first = error.errors(include_url=False)[0]
    loc = [str(part) for part in first["loc"]]
    named = [p for k, p in enumerate(loc) if not (p in FILLS and k and loc[k - 1] == "fill")]
    cause = first.get("ctx", {}).get("error")
    if isinstance(cause, BadValue) and cause.field:
        named.append(cause.field)
    path = ".".join([*([prefix] if prefix else []), *named])
    message = cause.message if isinstance(cause, BadValue) else _plain(first)
    return BadValue(message, path)


_PLAIN = {
    "missing": "This is missing.",
    "extra_forbidden": "There is no such setting.",
    "int_parsing": "A whole number is wanted here.",
    "int_type": "A whole number is wanted here.",
    "int_from_float": "A whole number is wanted here.",
    "string_type": "Text is wanted here.",
}


def _plain(fault: Any) -> str:
    return _PLAIN.get(fault["type"], f"{fault['msg']}.")


def write(quilt: Quilt) -> dict[str, Any]:
    """The document's JSON values; ``read`` gives the same document back."""
    return quilt.model_dump(mode="json")
