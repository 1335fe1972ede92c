"""The quilt document: everything that is kept of a quilt, and the plan format that is written to files.

``format`` and ``version`` head every document; ``docs/plan-format.md`` describes it and
``docs/plan.schema.json`` is generated from the models here. Older versions are brought up to date as
they are read.
"""

from __future__ import annotations

from collections.abc import Iterator
from fractions import Fraction
from functools import cached_property
from typing import Annotated, Any, Literal

from pydantic import Field, ValidationError, field_validator, model_validator

from kenzet.core.errors import BadValue, Unknown
from kenzet.core.fills import FILLS
from kenzet.core.kit.kit import Kit
from kenzet.core.kit.things import THINGS
from kenzet.core.numbers.measure import Length, Unit, in_words
from kenzet.core.params import Frozen, in_range
from kenzet.core.top.arrangement import Border, Layout, OnPoint
from kenzet.core.top.blocks import Block, Fabric, Key, Name, Patterned
from kenzet.core.top.ground import Ground
from kenzet.core.top.line_ends import ALLOWANCE, LineEnds, inset_for
from kenzet.core.top.patterns import PATTERNS
from kenzet.core.top.spread import Spread, spread
from kenzet.core.top.stitching import Stitching
from kenzet.core.top.upgrade import upgraded
from kenzet.core.top.zone import BORDER, CORNER, SASHING, SIDE, TOP, Zone

FORMAT = "kenzet.plan"
VERSION = 3

Layered = Literal["after marking", "before marking"]
Basted = Literal["pins", "thread", "spray glue"]
Use = Literal["bed", "lap", "baby", "wall", "runner", "garment or bag", "practice piece"]


class Quilt(Frozen):
    """A quilt with its top, its zones and the kit it is planned with.

    Lines end at the quilt's edge as ``line_ends`` says; ``edge`` is how far inside or off it they do. The overhangs are those
    of batting and backing beyond the top, 0 on a sample square. ``layered`` and ``basted`` say when and how the
    three layers are put together.
    """

    format: Literal["kenzet.plan"] = "kenzet.plan"
    version: Literal[3] = 3
    name: Name
    use: Use = "lap"
    fabrics: Annotated[dict[Key, Fabric], Field(min_length=1, max_length=60)]
    blocks: Annotated[dict[Key, Block], Field(min_length=1, max_length=60)]
    layout: Layout
    borders: Annotated[tuple[Border, ...], Field(max_length=12)] = ()
    line_ends: LineEnds = "finished edge"
    edge: Length = Length.parse("1/4 in")
    batting_overhang: Length = Length.parse("2 in")
    backing_overhang: Length = Length.parse("3 in")
    backing: Key | None = None
    layered: Layered = "after marking"
    basted: Basted = "pins"
    ground: Ground | None = None
    zones: Annotated[dict[Key, Zone], Field(max_length=400)]
    stitching: Stitching = Stitching()
    kit: Kit = Kit()

    @field_validator("edge")
    @classmethod
    def _edge(cls, edge: Length) -> Length:
        return in_range(edge, "0 in", "2 in", "The allowance at the edge")

    @field_validator("batting_overhang", "backing_overhang")
    @classmethod
    def _overhang(cls, overhang: Length) -> Length:
        return in_range(overhang, "0 in", "12 in", "The overhang")

    @model_validator(mode="after")
    def _hangs_together(self) -> Quilt:
        _check_blocks(self)
        _check_fabrics(self)
        _check_ends(self)
        _check_zones(self)
        if self.ground and self.ground.place != TOP and self.ground.place not in self.parts_at:
            raise BadValue("The photograph lies under a place that is not there.", "ground.place")
        return self

    @cached_property
    def spread(self) -> Spread:
        """Where everything lies."""
        return spread(self.layout, self.borders, self.blocks)

    def inset_of(self, zone: Zone | None = None) -> Fraction:
        """How far inside the finished edge the lines of ``zone`` end (of any zone, where it says nothing), exact mm; below 0 where
        they run off the edge.
        """
        ends = (zone and zone.line_ends) or self.line_ends
        by = (zone and zone.line_ends and zone.edge) or self.edge
        return inset_for(ends, by.mm)

    @property
    def triangle_fabric(self) -> str:
        """The fabric of the setting triangles on point."""
        return self.layout.triangles if isinstance(self.layout, OnPoint) else ""

    @cached_property
    def part_patches(self) -> dict[str, frozenset[str]]:
        """The patch keys of every part but the whole top."""
        found = {key: frozenset(block.fabric_of) for key, block in self.blocks.items()}
        found |= {part: frozenset(strips) for part, strips in self.spread.strips.items()}
        return found | {
            part: frozenset(["triangle"]) for part, there in self.spread.triangles.items() if there
        }

    @cached_property
    def parts_at(self) -> dict[str, str]:
        """What lies at every place."""
        found = {seat.place: seat.cell.block for seat in self.spread.seats}
        found |= {part: part for part in self.spread.strips}
        return found | {t.place: part for part, there in self.spread.triangles.items() for t in there}

    def has_patch(self, part: str, patch: str) -> bool:
        """Whether ``part`` has a patch called ``patch``; in the whole top it is called place/patch."""
        if part != TOP:
            return patch in self.part_patches.get(part, frozenset())
        place, _, name = patch.partition("/")
        return name in self.part_patches.get(self.parts_at.get(place, ""), frozenset())

    def places_of(self, part: str) -> tuple[str, ...]:
        """Where ``part`` lies."""
        return (
            (TOP,) if part == TOP else tuple(place for place, there in self.parts_at.items() if there == part)
        )

    def fabrics_used(self) -> Iterator[str]:
        """Every fabric that something is made of, as often as it is named."""
        for block in self.blocks.values():
            yield from block.fabric_of.values()
            if isinstance(block.art, Patterned):
                yield from block.art.fabrics.values()
        for strips in self.spread.strips.values():
            yield from (strip.fabric for strip in strips.values())
        if self.triangle_fabric:
            yield self.triangle_fabric
        if self.backing:
            yield self.backing


def reserved(key: str) -> bool:
    """Whether a block may not be called ``key``, for a part is."""
    return key in (SASHING, SIDE, CORNER, TOP) or key.startswith(BORDER)


def _check_blocks(quilt: Quilt) -> None:
    for key in quilt.blocks:
        if reserved(key):
            raise BadValue(f"A block cannot be called {key}.", "blocks")
    for name in sorted({cell.block for _, cell in quilt.layout.places()} - set(quilt.blocks)):
        raise BadValue(f"There is no block called {name} in this plan.", "layout")


def _check_fabrics(quilt: Quilt) -> None:
    for fabric in sorted(set(quilt.fabrics_used()) - set(quilt.fabrics)):
        raise BadValue(f"There is no fabric called {fabric} in this plan.", "fabrics")


def _check_ends(quilt: Quilt) -> None:
    """Nothing is sewn where there is no batting."""
    most = ALLOWANCE + quilt.batting_overhang.mm
    for field, zone in [("edge", None), *((f"zones.{key}.edge", zone) for key, zone in quilt.zones.items())]:
        if -quilt.inset_of(zone) > most:
            unit = quilt.edge.unit
            raise BadValue(
                f"The batting ends {in_words(most, unit)} beyond the finished edge: lines can run off it by no more.",
                field,
            )


def _check_zones(quilt: Quilt) -> None:
    """Every patch is there, and none is held twice at one place, but by pieces of one cut, or by a zone that lies on top of the others."""
    held: dict[tuple[str, str, bool], list[tuple[str, Zone]]] = {}
    for key, zone in quilt.zones.items():
        field = f"zones.{key}"
        for patch in zone.patches:
            if not quilt.has_patch(zone.part, patch):
                raise BadValue(f"“{zone.name}” names a patch that is not there: {zone.part} {patch}.", field)
        for place in quilt.places_of(zone.part):
            apart = zone.apart_at(place)
            if apart and apart.taken_by:
                continue
            for patch in zone.patches:
                at = tuple(patch.split("/", 1)) if zone.part == TOP else (place, patch)
                others = held.setdefault((at[0], at[1], zone.on_top), [])
                for _, other in () if zone.holds_no_cloth else others:
                    if zone.part != other.part or not zone.lies_beside(other):
                        raise BadValue(
                            f"“{zone.name}” holds a patch that another zone, “{other.name}”, holds already.",
                            field,
                        )
                if not zone.holds_no_cloth:
                    others.append((key, zone))


def read(data: Any, unit: Unit = "in") -> Quilt:
    """A document from its JSON values; ``unit`` is meant where a length names none.

    Raises BadValue with the field's path.
    """
    if not isinstance(data, dict) or data.get("format") != FORMAT:
        raise BadValue(f'This is not a quilt plan: "format" must be "{FORMAT}".', "format")
    if data.get("version") not in range(1, VERSION + 1):
        raise BadValue(
            f"This plan is of version {data.get('version')!r}; versions 1 to {VERSION} can be read.",
            "version",
        )
    quilt: Quilt = validated(Quilt, upgraded(data), unit)
    return quilt


def validated(model: Any, data: Any, unit: Unit = "in", prefix: str = "") -> Any:
    """``data`` as ``model``. Raises BadValue for the first thing that is wrong, at its field."""
    try:
        return model.model_validate(data, context={"unit": unit})
    except ValidationError as error:
        raise at_field(error, prefix) from error


def zone_of(quilt: Quilt, key: str) -> Zone:
    """Raises Unknown."""
    if key not in quilt.zones:
        raise Unknown(f"This quilt has no zone called {key}.", "zone")
    return quilt.zones[key]


def with_zone(quilt: Quilt, key: str, **update: Any) -> Quilt:
    """The quilt with one zone's settings replaced by checked ones."""
    zone = zone_of(quilt, key).model_copy(update=update)
    return quilt.model_copy(update={"zones": {**quilt.zones, key: zone}})


_TAGS = {*FILLS, *PATTERNS, *THINGS, "pattern", "drawn", "straight rows", "on point"}
_TAGGED = {"fill", "pattern", "art", "layout", "cut", "change", "thing"}


def at_field(error: ValidationError, prefix: str = "") -> BadValue:
    """The first fault of a failed check as a sentence at its field."""
    first = error.errors(include_url=False)[0]
    loc = [str(part) for part in first["loc"]]
    named = [
        p
        for k, p in enumerate(loc)
        if not (p in _TAGS and (loc[max(k - 1, 0)] in _TAGGED or loc[max(k - 2, 0)] in ("rulers", "tools")))
    ]
    cause = first.get("ctx", {}).get("error")
    if isinstance(cause, BadValue) and cause.field:
        named.append(cause.field)
    path = ".".join([*([prefix] if prefix else []), *named])
    message = cause.message if isinstance(cause, BadValue) else _plain(first)
    return BadValue(message, path)


_PLAIN = {
    "missing": "This is missing.",
    "int_parsing": "A whole number is wanted here.",
    "int_type": "A whole number is wanted here.",
    "int_from_float": "A whole number is wanted here.",
    "float_type": "A number is wanted here.",
    "float_parsing": "A number is wanted here.",
    "finite_number": "A number is wanted here.",
    "bool_type": "Yes or no is wanted here: true or false.",
    "bool_parsing": "Yes or no is wanted here: true or false.",
    "string_type": "Text is wanted here.",
    "dict_type": "Settings by their names are wanted here.",
    "model_type": "Settings by their names are wanted here.",
    "model_attributes_type": "Settings by their names are wanted here.",
    "list_type": "A list is wanted here.",
    "tuple_type": "A list is wanted here.",
    "date_type": "A day is wanted here, as 2026-05-31.",
    "date_from_datetime_parsing": "A day is wanted here, as 2026-05-31.",
    "date_parsing": "A day is wanted here, as 2026-05-31.",
    "json_invalid": "This is no JSON.",
    "string_pattern_mismatch": "A short name in small letters, figures and hyphens is wanted here.",
    "union_tag_not_found": "Say of which kind it is.",
}


_LIMITS = {
    "greater_than_equal": "It must be {ge} or more; {given} was given.",
    "greater_than": "It must be more than {gt}; {given} was given.",
    "less_than_equal": "It must be {le} or less; {given} was given.",
    "less_than": "It must be less than {lt}; {given} was given.",
    "literal_error": "It must be {expected}; {given} was given.",
    "union_tag_invalid": "It must be one of {expected_tags}; {given} was given.",
    "string_too_long": "It must have {max_length} letters at the most.",
    "string_too_short": "It must not be shorter than {min_length} letters.",
    "too_long": "There must be {max_length} at the most.",
    "too_short": "There must be {min_length} at least.",
}
_MOST_SHOWN = 40  # letters of what was given


def _plain(fault: Any) -> str:
    """In her words, whatever the library says."""
    kind, given = fault["type"], str(fault["input"])
    if kind == "extra_forbidden":
        return f"There is no setting called “{_cut(str(fault['loc'][-1]))}”."
    if kind == "union_tag_invalid":
        given = str(fault["ctx"].get("tag", given))
    if kind in _LIMITS:
        return _LIMITS[kind].format(**fault["ctx"], given=f"“{_cut(given)}”" if given else "nothing")
    return _PLAIN.get(kind, "This cannot be taken here.")


def _cut(text: str) -> str:
    return text if len(text) <= _MOST_SHOWN else f"{text[:_MOST_SHOWN]}…"


def write(quilt: Quilt) -> dict[str, Any]:
    """The document's JSON values; ``read`` gives the same document back."""
    return quilt.model_dump(mode="json")
