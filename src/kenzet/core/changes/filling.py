"""Changes of the quilting in a zone, and of places with a fill of their own."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from kenzet.core.changes.base import Change
from kenzet.core.errors import BadValue
from kenzet.core.fills import AnyFill
from kenzet.core.kit.kit import SewWith, ThingKey
from kenzet.core.numbers.measure import Length
from kenzet.core.top.blocks import Key
from kenzet.core.top.document import Quilt, with_zone
from kenzet.core.top.line_ends import LineEnds
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.core.top.tidy import remade, without_places
from kenzet.core.top.zone import MOST_DRAWN_TOO, MOST_PINS, Apart, MarkMethod, Over, Place, Spot, Zone
from kenzet.texts import tr


class SetFill(Change):
    """A zone's fill, or None to leave it unquilted. If ``place`` has a fill of its own, only that one changes."""

    kind: Literal["fill"] = "fill"
    zone: Key
    fill: AnyFill | None
    place: Place | None = None

    def apply(self, laid: QuiltLayout) -> tuple[Quilt, str]:
        """The zone's other settings do not change."""
        zone = laid.zone(self.zone)
        said = f"{self.fill.label} {self.fill.spacing.text}" if self.fill else tr("unquilted")
        return with_fill(laid.quilt, self.zone, self.fill, self.place or ""), f"{zone.name}: {said}"


class SetFills(Change):
    """Fills for several zones at once, as when a whole plan is accepted."""

    kind: Literal["fills"] = "fills"
    fills: Annotated[dict[Key, AnyFill], Field(min_length=1, max_length=400)]

    def apply(self, laid: QuiltLayout) -> tuple[Quilt, str]:
        """A second fill on top is removed with the first one. Raises Unknown for a zone that does not exist."""
        quilt = laid.quilt
        for key, fill in self.fills.items():
            laid.zone(key)
            quilt = with_zone(quilt, key, fill=fill, left_open=False, drawn_too=(), over=None)
        return quilt, tr("fills for {fills} zones", fills=len(self.fills))


def with_fill(quilt: Quilt, key: str, fill: AnyFill | None, place: str) -> Quilt:
    """The quilt with ``fill`` in zone ``key``: everywhere, or only at ``place`` if that has a fill of its own."""
    zone = quilt.zones[key]
    held = zone.apart_at(place)
    if held is None or held.taken_by:
        return with_zone(quilt, key, fill=fill, left_open=fill is None, drawn_too=())
    apart = tuple(one.model_copy(update={"fill": fill}) if one is held else one for one in zone.apart)
    return with_zone(quilt, key, apart=apart)


class SetLaying(Change):
    """What a zone is sewn with: a chosen ruler, or the other foot; None for the best choice."""

    kind: Literal["laying"] = "laying"
    zone: Key
    ruler: ThingKey | None = None
    sew_with: SewWith | None = None

    def apply(self, laid: QuiltLayout) -> tuple[Quilt, str]:
        """Raises BadValue for a ruler that is not in the quilt's kit."""
        if self.ruler is not None and self.ruler not in laid.quilt.kit.rulers:
            raise BadValue(tr("There is no such ruler in this quilt's kit."), "ruler")
        quilt = with_zone(laid.quilt, self.zone, ruler=self.ruler, sew_with=self.sew_with)
        return quilt, tr("{name}: another ruler or foot", name=laid.zone(self.zone).name)


class SetSewingOrder(Change):
    """On which side a zone's lines begin (of rings: at which end), which of two sets is first, and whether an
    outline is sewn last."""

    kind: Literal["sewing order"] = "sewing order"
    zone: Key
    begin_other: bool = False
    second_first: bool = False

    def apply(self, laid: QuiltLayout) -> tuple[Quilt, str]:
        """Raises Unknown for a zone that does not exist."""
        quilt = with_zone(laid.quilt, self.zone, begin_other=self.begin_other, second_first=self.second_first)
        return quilt, tr("{name}: sewn in another order", name=laid.zone(self.zone).name)


class SetLineEnds(Change):
    """Where a zone's lines end at the quilt's edge, if this differs from the rest of the quilt."""

    kind: Literal["line ends"] = "line ends"
    zone: Key
    line_ends: LineEnds | None = None
    edge: Length | None = None

    def apply(self, laid: QuiltLayout) -> tuple[Quilt, str]:
        """Raises BadValue if there is no batting there, or nothing would be left of the zone."""
        zone = laid.zone(self.zone).model_copy(update={"line_ends": self.line_ends, "edge": self.edge})
        quilt = remade(laid.quilt, zones={**laid.quilt.zones, self.zone: zone})
        if not laid.with_quilt(quilt).shapes(zone):
            raise BadValue(tr("Nothing of the zone is left that far inside the edge."), "edge")
        return quilt, tr("{name}: where its lines end", name=zone.name)


class SetOver(Change):
    """A second fill on top of a zone's own, or None."""

    kind: Literal["over"] = "over"
    zone: Key
    over: Over | None

    def apply(self, laid: QuiltLayout) -> tuple[Quilt, str]:
        """Raises BadValue if the zone has no fill of its own."""
        zone = laid.zone(self.zone)
        said = (
            tr("{label} on top", label=self.over.fill.label) if self.over else tr("the fill on top removed")
        )
        return with_over(laid.quilt, self.zone, self.over), f"{zone.name}: {said}"


def with_over(quilt: Quilt, key: str, over: Over | None) -> Quilt:
    """The quilt with ``over`` on top of the zone's own fill. Raises BadValue if the zone has none."""
    zone = quilt.zones[key]
    if over is not None and zone.fill is None and not any(apart.fill for apart in zone.apart):
        raise BadValue(
            tr("This zone is unquilted. Give it a fill before you add a second one on top."), "over"
        )
    return with_zone(quilt, key, over=over)


class SetPins(Change):
    """The variants of a zone kept to compare side by side."""

    kind: Literal["pins"] = "pins"
    zone: Key
    pins: Annotated[tuple[AnyFill, ...], Field(max_length=MOST_PINS)]

    def apply(self, laid: QuiltLayout) -> tuple[Quilt, str]:
        """Equal variants are kept once."""
        name = laid.zone(self.zone).name
        pins = tuple(pin for k, pin in enumerate(self.pins) if pin not in self.pins[:k])
        return with_zone(laid.quilt, self.zone, pins=pins), tr(
            "{name}: {pins} pinned", name=name, pins=len(pins)
        )


class SetDrawnToo(Change):
    """Lines of a zone to be marked in addition: those nearest to ``spots``, given as shares of its part's width
    and height."""

    kind: Literal["drawn too"] = "drawn too"
    zone: Key
    spots: Annotated[tuple[Spot, ...], Field(max_length=MOST_DRAWN_TOO)] = ()

    def apply(self, laid: QuiltLayout) -> tuple[Quilt, str]:
        """Raises Unknown for a zone that does not exist."""
        said = tr("more lines marked") if self.spots else tr("only the needed lines marked")
        return with_zone(laid.quilt, self.zone, drawn_too=self.spots), f"{laid.zone(self.zone).name}: {said}"


class SetMarking(Change):
    """How a zone's lines are marked."""

    kind: Literal["marking"] = "marking"
    zone: Key
    marking: MarkMethod | None = None

    def apply(self, laid: QuiltLayout) -> tuple[Quilt, str]:
        """The zone's other settings do not change."""
        name = laid.zone(self.zone).name
        return with_zone(laid.quilt, self.zone, marking=self.marking), tr(
            "{name}: mark {marking}", name=name, marking=tr(self.marking or "what is best")
        )


class SetMarkWith(Change):
    """The tool that a zone is marked with; None for the one that shows best."""

    kind: Literal["mark with"] = "mark with"
    zone: Key
    tool: ThingKey | None = None

    def apply(self, laid: QuiltLayout) -> tuple[Quilt, str]:
        """Raises BadValue for a tool that is not in the quilt's kit."""
        if self.tool is not None and self.tool not in laid.quilt.kit.tools:
            raise BadValue(tr("There is no such marking tool in this quilt's kit."), "tool")
        name = laid.zone(self.zone).name
        return with_zone(laid.quilt, self.zone, mark_with=self.tool), tr(
            "{name}: another marking tool", name=name
        )


class SetApart(Change):
    """Some places get a fill of their own, at first the same as everywhere."""

    kind: Literal["apart"] = "apart"
    zone: Key
    places: tuple[Place, ...]

    def apply(self, laid: QuiltLayout) -> tuple[Quilt, str]:
        """Raises BadValue for a place that is not in the zone, or if all its places are given."""
        zone = laid.zone(self.zone)
        there = _there(laid, zone, self.places)
        rest = without_places(zone.apart, there)
        apart = Apart(places=there, fill=zone.fill)
        return with_zone(laid.quilt, self.zone, apart=(*rest, apart)), tr(
            "{name}: its own settings at {there}", name=zone.name, there=len(there)
        )


class JoinAgain(Change):
    """Some places use the zone's common fill again."""

    kind: Literal["join"] = "join"
    zone: Key
    places: tuple[Place, ...]

    def apply(self, laid: QuiltLayout) -> tuple[Quilt, str]:
        """Places that were taken by another zone do not change."""
        zone = laid.zone(self.zone)
        kept = tuple(one for one in zone.apart if one.taken_by)
        own = without_places((one for one in zone.apart if not one.taken_by), self.places)
        return with_zone(laid.quilt, self.zone, apart=(*kept, *own)), tr(
            "{name}: the same settings everywhere", name=zone.name
        )


def _there(laid: QuiltLayout, zone: Zone, places: tuple[str, ...]) -> tuple[str, ...]:
    lies_at = set(laid.places(zone))
    for place in places:
        held = zone.apart_at(place)
        if place not in lies_at or (held and held.taken_by):
            raise BadValue(tr("{name} is not at {place}.", name=zone.name, place=place), "places")
    if not places or len(set(places)) == len(lies_at):
        raise BadValue(
            tr("At least one block must keep the zone’s common settings. Change the fill itself instead."),
            "places",
        )
    return tuple(dict.fromkeys(places))
