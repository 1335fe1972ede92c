"""Rebuilds documents after a change of the top: what no longer fits is dropped, the rest is validated again."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

from pydantic import ValidationError

from kenzet.core.top.document import Quilt, at_field
from kenzet.core.top.zone import TOP, Apart, Zone


def remade(quilt: Quilt, **update: Any) -> Quilt:
    """``quilt`` with ``update``, validated; zones lose patches and places that no longer exist. Raises BadValue."""
    fields = {name: getattr(quilt, name) for name in Quilt.model_fields} | update
    zones, ground = fields.pop("zones"), fields.pop("ground")
    try:
        bare = Quilt(**fields, zones={})
        if ground and (ground.place == TOP or ground.place in bare.parts_at):
            fields["ground"] = ground
        return Quilt(**fields, zones=_fitting(bare, zones))
    except ValidationError as error:
        raise at_field(error) from error


def _fitting(bare: Quilt, zones: dict[str, Zone]) -> dict[str, Zone]:
    kept = {}
    for key, zone in zones.items():
        patches = tuple(patch for patch in zone.patches if bare.has_patch(zone.part, patch))
        if patches:
            kept[key] = zone if patches == zone.patches else zone.model_copy(update={"patches": patches})
    return {key: _places_tidied(bare, zone, kept) for key, zone in kept.items()}


def _places_tidied(bare: Quilt, zone: Zone, kept: dict[str, Zone]) -> Zone:
    there = set(bare.places_of(zone.part))
    apart = []
    for one in zone.apart:
        places = tuple(place for place in one.places if place in there)
        if places and (one.taken_by is None or one.taken_by in kept):
            apart.append(one if places == one.places else one.model_copy(update={"places": places}))
    return zone if tuple(apart) == zone.apart else zone.model_copy(update={"apart": tuple(apart)})


def without_places(apart: Iterable[Apart], places: Iterable[str]) -> tuple[Apart, ...]:
    """``apart`` without ``places``, which follow the others again."""
    gone = set(places)
    left = ((one, tuple(place for place in one.places if place not in gone)) for one in apart)
    return tuple(
        one if some == one.places else one.model_copy(update={"places": some}) for one, some in left if some
    )
