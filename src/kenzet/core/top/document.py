"""The quilt document: everything that is saved of a quilt, and the plan format of files.

Every document begins with ``format`` and ``version``; ``docs/plan-format.md`` describes it and
``docs/plan.schema.json`` is generated from these models. Older versions are upgraded when they are read.
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
from kenzet.texts import tr

FORMAT = "kenzet.plan"
VERSION = 3

Layered = Literal["after marking", "before marking"]
Basted = Literal["pins", "thread", "spray glue"]
Use = Literal["bed", "lap", "baby", "wall", "runner", "garment or bag", "practice piece"]


class Quilt(Frozen):
    """A quilt with its top, its zones and its kit.

    Lines end at the quilt's edge as ``line_ends`` says; ``edge`` is the distance inside or outside it. The
    overhangs are those of batting and backing beyond the top, 0 on a sample square. ``layered`` and ``basted`` say
    when and how the three layers are joined.
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
        return in_range(edge, "0 in", "2 in", tr("The allowance at the edge"))

    @field_validator("batting_overhang", "backing_overhang")
    @classmethod
    def _overhang(cls, overhang: Length) -> Length:
        return in_range(overhang, "0 in", "12 in", tr("The overhang"))

    @model_validator(mode="after")
    def _hangs_together(self) -> Quilt:
        _check_blocks(self)
        _check_fabrics(self)
        _check_ends(self)
        _check_zones(self)
        if self.ground and self.ground.place != TOP and self.ground.place not in self.parts_at:
            raise BadValue(tr("The photo belongs to a place that is not in this quilt."), "ground.place")
        return self

    @cached_property
    def spread(self) -> Spread:
        """The place of every block, strip and triangle."""
        return spread(self.layout, self.borders, self.blocks)

    def inset_of(self, zone: Zone | None = None) -> Fraction:
        """How far inside the finished edge the lines of ``zone`` end (by default those of any zone), exact mm;
        negative if they run off the edge."""
        ends = (zone and zone.line_ends) or self.line_ends
        by = (zone and zone.line_ends and zone.edge) or self.edge
        return inset_for(ends, by.mm)

    @property
    def triangle_fabric(self) -> str:
        """The fabric of the setting triangles on point."""
        return self.layout.triangles if isinstance(self.layout, OnPoint) else ""

    @cached_property
    def part_patches(self) -> dict[str, frozenset[str]]:
        """The patch keys of every part except the whole top."""
        found = {key: frozenset(block.fabric_of) for key, block in self.blocks.items()}
        found |= {part: frozenset(strips) for part, strips in self.spread.strips.items()}
        return found | {
            part: frozenset(["triangle"]) for part, there in self.spread.triangles.items() if there
        }

    @cached_property
    def parts_at(self) -> dict[str, str]:
        """The part key at every place."""
        found = {seat.place: seat.cell.block for seat in self.spread.seats}
        found |= {part: part for part in self.spread.strips}
        return found | {t.place: part for part, there in self.spread.triangles.items() for t in there}

    def has_patch(self, part: str, patch: str) -> bool:
        """Whether ``part`` has a patch named ``patch``; in the whole top it is named place/patch."""
        if part != TOP:
            return patch in self.part_patches.get(part, frozenset())
        place, _, name = patch.partition("/")
        return name in self.part_patches.get(self.parts_at.get(place, ""), frozenset())

    def places_of(self, part: str) -> tuple[str, ...]:
        """The places of ``part``."""
        return (
            (TOP,) if part == TOP else tuple(place for place, there in self.parts_at.items() if there == part)
        )

    def fabrics_used(self) -> Iterator[str]:
        """Every fabric in use, with repetitions."""
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
    """Whether ``key`` is reserved for a part and cannot be a block's key."""
    return key in (SASHING, SIDE, CORNER, TOP) or key.startswith(BORDER)


def _check_blocks(quilt: Quilt) -> None:
    for key in quilt.blocks:
        if reserved(key):
            raise BadValue(tr("A block cannot be called {key}.", key=key), "blocks")
    for name in sorted({cell.block for _, cell in quilt.layout.places()} - set(quilt.blocks)):
        raise BadValue(tr("There is no block called {name} in this plan.", name=name), "layout")


def _check_fabrics(quilt: Quilt) -> None:
    for fabric in sorted(set(quilt.fabrics_used()) - set(quilt.fabrics)):
        raise BadValue(tr("There is no fabric called {fabric} in this plan.", fabric=fabric), "fabrics")


def _check_ends(quilt: Quilt) -> None:
    """Refuses lines that end where there is no batting."""
    most = ALLOWANCE + quilt.batting_overhang.mm
    for field, zone in [("edge", None), *((f"zones.{key}.edge", zone) for key, zone in quilt.zones.items())]:
        if -quilt.inset_of(zone) > most:
            unit = quilt.edge.unit
            raise BadValue(
                tr(
                    "The batting ends {most} beyond the finished edge. Lines can run no farther past the edge.",
                    most=in_words(most, unit),
                ),
                field,
            )


def _check_zones(quilt: Quilt) -> None:
    """Checks that every patch exists, and that none is in two zones at one place, except pieces of one cut, or
    zones on top of others."""
    held: dict[tuple[str, str, bool], list[tuple[str, Zone]]] = {}
    for key, zone in quilt.zones.items():
        field = f"zones.{key}"
        for patch in zone.patches:
            if not quilt.has_patch(zone.part, patch):
                raise BadValue(
                    tr(
                        "“{name}” names a patch that is not there: {part} {patch}.",
                        name=zone.name,
                        part=zone.part,
                        patch=patch,
                    ),
                    field,
                )
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
                            tr(
                                "“{name}” holds a patch that another zone, “{name2}”, holds already.",
                                name=zone.name,
                                name2=other.name,
                            ),
                            field,
                        )
                if not zone.holds_no_cloth:
                    others.append((key, zone))


def read(data: Any, unit: Unit = "in") -> Quilt:
    """A document from its JSON values; ``unit`` applies to lengths without one. Raises BadValue with the field's
    path."""
    if not isinstance(data, dict) or data.get("format") != FORMAT:
        raise BadValue(tr('This is not a quilt plan: "format" must be "{format}".', format=FORMAT), "format")
    if data.get("version") not in range(1, VERSION + 1):
        raise BadValue(
            tr(
                "This plan is of version {get}; versions 1 to {version} can be read.",
                get=f"{data.get('version')!r}",
                version=VERSION,
            ),
            "version",
        )
    quilt: Quilt = validated(Quilt, upgraded(data), unit)
    return quilt


def validated(model: Any, data: Any, unit: Unit = "in", prefix: str = "") -> Any:
    """``data`` as ``model``. Raises BadValue for the first error, at its field."""
    try:
        return model.model_validate(data, context={"unit": unit})
    except ValidationError as error:
        raise at_field(error, prefix) from error


def zone_of(quilt: Quilt, key: str) -> Zone:
    """The zone with that key. Raises Unknown."""
    if key not in quilt.zones:
        raise Unknown(tr("This quilt has no zone called {key}.", key=key), "zone")
    return quilt.zones[key]


def with_zone(quilt: Quilt, key: str, **update: Any) -> Quilt:
    """The quilt with other, already validated, settings of one zone."""
    zone = zone_of(quilt, key).model_copy(update=update)
    return quilt.model_copy(update={"zones": {**quilt.zones, key: zone}})


_TAGS = {*FILLS, *PATTERNS, *THINGS, "pattern", "drawn", "straight rows", "on point"}
_TAGGED = {"fill", "pattern", "art", "layout", "cut", "change", "thing"}


def at_field(error: ValidationError, prefix: str = "") -> BadValue:
    """The first error of a failed validation as a sentence at its field."""
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
    "missing": tr("This is missing."),
    "int_parsing": tr("Enter a whole number."),
    "int_type": tr("Enter a whole number."),
    "int_from_float": tr("Enter a whole number."),
    "float_type": tr("Enter a number."),
    "float_parsing": tr("Enter a number."),
    "finite_number": tr("Enter a number."),
    "bool_type": tr("Enter yes or no: true or false."),
    "bool_parsing": tr("Enter yes or no: true or false."),
    "string_type": tr("Enter text."),
    "dict_type": tr("Enter settings by their names."),
    "model_type": tr("Enter settings by their names."),
    "model_attributes_type": tr("Enter settings by their names."),
    "list_type": tr("Enter a list."),
    "tuple_type": tr("Enter a list."),
    "date_type": tr("Enter a day, like 2026-05-31."),
    "date_from_datetime_parsing": tr("Enter a day, like 2026-05-31."),
    "date_parsing": tr("Enter a day, like 2026-05-31."),
    "json_invalid": tr("This is not JSON."),
    "string_pattern_mismatch": tr("Enter a short name in small letters, digits and hyphens."),
    "union_tag_not_found": tr("The kind is missing."),
}


_LIMITS = {
    "greater_than_equal": tr("It must be {ge} or more; {given} was given."),
    "greater_than": tr("It must be more than {gt}; {given} was given."),
    "less_than_equal": tr("It must be {le} or less; {given} was given."),
    "less_than": tr("It must be less than {lt}; {given} was given."),
    "literal_error": tr("It must be {expected}; {given} was given."),
    "union_tag_invalid": tr("It must be one of {expected_tags}; {given} was given."),
    "string_too_long": tr("Use at most {max_length} letters."),
    "string_too_short": tr("Use at least {min_length} letters."),
    "too_long": tr("At most {max_length} are allowed."),
    "too_short": tr("At least {min_length} are needed."),
}
_MOST_SHOWN = 40  # letters of what was given


def _plain(fault: Any) -> str:
    """The library's error in plain words."""
    kind, given = fault["type"], str(fault["input"])
    if kind == "extra_forbidden":
        return tr("There is no setting called “{cut}”.", cut=_cut(str(fault["loc"][-1])))
    if kind == "union_tag_invalid":
        given = str(fault["ctx"].get("tag", given))
    if kind in _LIMITS:
        return _LIMITS[kind].format(**fault["ctx"], given=f"“{_cut(given)}”" if given else tr("nothing"))
    return _PLAIN.get(kind, tr("This value is not allowed here."))


def _cut(text: str) -> str:
    return text if len(text) <= _MOST_SHOWN else f"{text[:_MOST_SHOWN]}…"


def write(quilt: Quilt) -> dict[str, Any]:
    """The document's JSON values; ``read`` restores the same document."""
    return quilt.model_dump(mode="json")
