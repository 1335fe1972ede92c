"""The changes a person can make to a quilt; each gives a new document and a few words for undo."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import Field

from kenzet.core.errors import Unknown
from kenzet.core.fills import AnyFill
from kenzet.core.kit.kit import Kit
from kenzet.core.params import Frozen
from kenzet.core.top.document import Key, MarkMethod, Name, Quilt, Zone


class SetFill(Frozen):
    """A zone's fill, or none: left open."""

    kind: Literal["fill"] = "fill"
    zone: Key
    fill: AnyFill | None


class SetMarking(Frozen):
    """How a zone's lines are marked."""

    kind: Literal["marking"] = "marking"
    zone: Key
    marking: MarkMethod


class SetKit(Frozen):
    """The foot, the ruler, the batting and the marking step."""

    kind: Literal["kit"] = "kit"
    kit: Kit


class Rename(Frozen):
    """The quilt's name."""

    kind: Literal["name"] = "name"
    name: Name


Change = Annotated[SetFill | SetMarking | SetKit | Rename, Field(discriminator="kind")]


def apply(quilt: Quilt, change: SetFill | SetMarking | SetKit | Rename) -> tuple[Quilt, str]:
    """The changed document and what was done, in words. Raises Unknown for a zone that is not there."""
    if isinstance(change, SetFill):
        name = zone_of(quilt, change.zone).name
        said = f"{change.fill.label} {change.fill.spacing.text}" if change.fill else "left open"
        return with_zone(quilt, change.zone, fill=change.fill), f"{name}: {said}"
    if isinstance(change, SetMarking):
        name = zone_of(quilt, change.zone).name
        return with_zone(quilt, change.zone, marking=change.marking), f"{name}: mark {change.marking}"
    if isinstance(change, SetKit):
        return quilt.model_copy(update={"kit": change.kit}), "kit"
    return quilt.model_copy(update={"name": change.name}), "name"


def zone_of(quilt: Quilt, key: str) -> Zone:
    """Raises Unknown."""
    if key not in quilt.zones:
        raise Unknown(f"This quilt has no zone called {key}.", "zone")
    return quilt.zones[key]


def with_zone(quilt: Quilt, key: str, **update: Any) -> Quilt:
    """The quilt with one zone's settings replaced by checked ones."""
    zone = zone_of(quilt, key).model_copy(update=update)
    return quilt.model_copy(update={"zones": {**quilt.zones, key: zone}})
