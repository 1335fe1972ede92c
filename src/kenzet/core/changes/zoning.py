"""Changes of zones: making, dividing, renaming, deleting."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Annotated, Literal

import shapely
from pydantic import Field
from shapely.geometry import Polygon

from kenzet.core.changes.base import Change
from kenzet.core.errors import BadValue, Unknown
from kenzet.core.fills import FILLS, AnyFill
from kenzet.core.fills.base import Fill, Surrounds
from kenzet.core.fills.manual_lines import ManualLine
from kenzet.core.numbers.measure import Length
from kenzet.core.params import free, key_for
from kenzet.core.tolerances import ALIKE_SHARE, EQUAL, SAME_PLACE
from kenzet.core.top.blocks import Key, Name
from kenzet.core.top.cutting import cloth_of, cut_up, lines_of, spot_in
from kenzet.core.top.document import Quilt, with_zone
from kenzet.core.top.naming import many, nested, piece_words, where, zone_name
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.core.top.tidy import remade, without_places
from kenzet.core.top.zone import TOP, Apart, Cut, InsetOutline, PatchRef, Slice, Spot, Zone
from kenzet.texts import tr

_SIDE = 10 * SAME_PLACE  # mm²: pieces whose seam is longer than a few mm share a side


Taking = Literal["take out", "replace", "on top"]


class MakeZone(Change):
    """Makes a zone of patches; ``refs`` are place/patch.

    ``everywhere``: the same patches of the block at all its places; the refs are then at one place. ``each``:
    every patch becomes a zone. ``taking`` says what happens to zones that hold these patches: the patches are
    removed from them, the zones are replaced, or the new zone lies ``on top``. By default patches are removed as
    long as no fill is lost.
    """

    kind: Literal["zone"] = "zone"
    refs: Annotated[tuple[PatchRef, ...], Field(min_length=1, max_length=20_000)]
    everywhere: bool = True
    name: Name | None = None
    stand_off: Length | None = None
    taking: Taking | None = None
    each: bool = False

    def apply(self, laid: QuiltLayout) -> tuple[Quilt, str]:
        """Raises Unknown for a patch or zone, BadValue if the patches cannot form a zone."""
        quilt = laid.quilt
        part, patches = _meant(quilt, self.refs, self.everywhere)
        zones = self._left(quilt, part, patches)
        made = []
        for some in [(patch,) for patch in patches] if self.each else [patches]:
            taken = [zone.name for zone in (*quilt.zones.values(), *zones.values())]
            name = free(self.name or zone_name(quilt, part, some), taken, " ")
            key = key_for(name, {*quilt.zones, *zones}, "zone")
            zone = Zone(
                name=name, part=part, patches=some, stand_off=self.stand_off, on_top=self.taking == "on top"
            )
            if part == TOP and self.taking != "on top":
                zones = given_up(quilt.model_copy(update={"zones": zones}), part, some, key)
            zones[key] = zone
            made.append(name)
        return remade(quilt, zones=zones), tr("zone {made}", made=made[0]) if len(made) == 1 else tr(
            "{made} zones", made=len(made)
        )

    def _left(self, quilt: Quilt, part: str, patches: tuple[str, ...]) -> dict[str, Zone]:
        """The other zones after ``patches`` are taken. Raises BadValue if a fill would be lost without being asked
        for."""
        on_top = self.taking == "on top"
        level = {key: zone for key, zone in quilt.zones.items() if zone.on_top == on_top}
        beside = {key: zone for key, zone in quilt.zones.items() if zone.on_top != on_top}
        if self.taking == "replace":
            gone = set(holders(quilt, part, patches))
            return beside | {key: zone for key, zone in level.items() if key not in gone}
        left = (
            given_up(quilt.model_copy(update={"zones": level}), part, patches, "") if part != TOP else level
        )
        lost = [zone.name for key, zone in level.items() if key not in left and zone.fill is not None]
        if self.taking is None and lost:
            raise BadValue(
                tr(
                    "“{lost}” has a fill and would disappear. Choose whether to take these patches out of it, to replace it, or to put the new zone on top of it.",
                    lost=lost[0],
                ),
                "taking",
            )
        return beside | left


def holders(quilt: Quilt, part: str, patches: Sequence[str]) -> list[str]:
    """The keys of the zones that hold any of ``patches`` of ``part`` anywhere, except zones on top."""
    if part == TOP:
        refs = set(patches)
        split = [ref.partition("/")[::2] for ref in patches]
        own = {(quilt.parts_at[place], patch) for place, patch in split}
    else:
        refs = {f"{place}/{patch}" for place in quilt.places_of(part) for patch in patches}
        own = {(part, patch) for patch in patches}
    return [
        key
        for key, zone in quilt.zones.items()
        if not zone.on_top
        and (
            refs & set(zone.patches)
            if zone.part == TOP
            else any((zone.part, patch) in own for patch in zone.patches)
        )
    ]


def _meant(quilt: Quilt, refs: Sequence[str], everywhere: bool) -> tuple[str, tuple[str, ...]]:
    """The part and the patches that ``refs`` refer to."""
    split = [ref.partition("/")[::2] for ref in dict.fromkeys(refs)]
    for (place, patch), ref in zip(split, refs, strict=False):
        if not quilt.has_patch(TOP, ref) or not patch:
            raise Unknown(tr("There is no patch {ref} in this top.", ref=ref), "refs")
        assert place
    places = {place for place, _ in split}
    if not everywhere:
        return TOP, tuple(dict.fromkeys(refs))
    parts = {quilt.parts_at[place] for place in places}
    if len(places) != 1:
        raise BadValue(
            tr("Patches of several blocks can form one zone only in those blocks, not in every block."),
            "everywhere",
        )
    return parts.pop(), tuple(patch for _, patch in split)


def given_up(quilt: Quilt, part: str, patches: Sequence[str], by: str) -> dict[str, Zone]:
    """The other zones after the new zone named ``by`` has taken ``patches`` of ``part``.

    Raises BadValue if the patches are in a zone that has been divided.
    """
    if part != TOP:
        wanted = set(patches)
        elsewhere = {f"{place}/{patch}" for place in quilt.places_of(part) for patch in patches}
        zones: dict[str, Zone] = {}
        for key, zone in quilt.zones.items():
            lost = wanted if zone.part == part else elsewhere if zone.part == TOP else set()
            zones |= _without(key, zone, lost)
        return zones
    at: dict[tuple[str, str], set[str]] = {}  # places by part and patch
    for ref in patches:
        place, _, patch = ref.partition("/")
        at.setdefault((quilt.parts_at[place], patch), set()).add(place)
    zones = {}
    for key, zone in quilt.zones.items():
        if zone.part == TOP:
            zones |= _without(key, zone, set(patches))
            continue
        by_places: dict[frozenset[str], list[str]] = {}
        for patch in zone.patches:
            by_places.setdefault(frozenset(at.get((zone.part, patch), ())), []).append(patch)
        for n, (places, some) in enumerate(sorted(by_places.items(), key=lambda item: len(item[0]))):
            own = key if n == 0 else key_for(key, {*quilt.zones, *zones})
            zones |= _taken_at(quilt, own, zone, some, places, by)
    return zones


def _without(key: str, zone: Zone, lost: set[str]) -> dict[str, Zone]:
    left = tuple(patch for patch in zone.patches if patch not in lost)
    if len(left) == len(zone.patches):
        return {key: zone}
    _refuse_cut(zone)
    return {key: zone.model_copy(update={"patches": left})} if left else {}


def _taken_at(
    quilt: Quilt, key: str, zone: Zone, patches: list[str], places: frozenset[str], by: str
) -> dict[str, Zone]:
    """The zone with only ``patches``, and without ``places``."""
    if len(patches) < len(zone.patches):
        _refuse_cut(zone)
        zone = zone.model_copy(update={"patches": tuple(patches)})
    if not places:
        return {key: zone}
    if places >= set(quilt.places_of(zone.part)):
        return {}
    apart = (*without_places(zone.apart, places), Apart(places=tuple(sorted(places)), taken_by=by))
    return {key: zone.model_copy(update={"apart": apart})}


def _refuse_cut(zone: Zone) -> None:
    if zone.slices:
        raise BadValue(
            tr("“{name}” is a piece of a divided zone. Join its pieces first.", name=zone.name),
            "refs",
        )


class RemoveZone(Change):
    """Deletes a zone; its patches are left unquilted."""

    kind: Literal["zone gone"] = "zone gone"
    zone: Key

    def apply(self, laid: QuiltLayout) -> tuple[Quilt, str]:
        """Patches that it took from other zones at single places go back to them."""
        name = laid.zone(self.zone).name
        zones = {key: zone for key, zone in laid.quilt.zones.items() if key != self.zone}
        return remade(laid.quilt, zones=zones), tr("zone {name} deleted", name=name)


class NameZone(Change):
    """Renames a zone."""

    kind: Literal["zone name"] = "zone name"
    zone: Key
    name: Name

    def apply(self, laid: QuiltLayout) -> tuple[Quilt, str]:
        """The key does not change."""
        old = laid.zone(self.zone).name
        return with_zone(laid.quilt, self.zone, name=self.name), tr(
            "{old} renamed {name}", old=old, name=self.name
        )


class SetStandOff(Change):
    """The distance that a zone keeps from the appliqué in it."""

    kind: Literal["stand-off"] = "stand-off"
    zone: Key
    stand_off: Length | None

    def apply(self, laid: QuiltLayout) -> tuple[Quilt, str]:
        """Raises BadValue if nothing would be left of the zone."""
        quilt = laid.quilt
        zone = laid.zone(self.zone)
        other = Zone(**({f: getattr(zone, f) for f in Zone.model_fields} | {"stand_off": self.stand_off}))
        changed = quilt.model_copy(update={"zones": {**quilt.zones, self.zone: other}})
        if not laid.with_quilt(changed).shapes(other):
            raise BadValue(
                tr("That far from the appliqué nothing of the zone is left. Use a smaller distance."),
                "stand_off",
            )
        return changed, tr("{name}: distance from the appliqué", name=zone.name)


class CutZone(Change):
    """Divides a zone by a line that will be quilted; its pieces become zones.

    ``alike``: pieces of equal size and shape that share no side form one zone; otherwise every piece is a zone.
    ``sewn``: the line itself is planned too, in a zone on top of the pieces, and sewn before them.
    """

    kind: Literal["cut"] = "cut"
    zone: Key
    cut: Cut
    alike: bool = True
    sewn: bool = False

    def apply(self, laid: QuiltLayout) -> tuple[Quilt, str]:
        """Every piece keeps the fill. Raises BadValue if the line divides nothing."""
        quilt, zone = laid.quilt, laid.zone(self.zone)
        found = pieces_of(laid, zone, self.cut, self.alike)
        names = [one.name for key, one in quilt.zones.items() if key != self.zone]
        zones: dict[str, Zone] = {}
        for key, one in quilt.zones.items():
            if key != self.zone:
                zones[key] = one
                continue
            for words, spots in found:
                name = free(words, names, " ")
                names.append(name)
                sliced = (*zone.slices, Slice(by=self.cut, inside=spots))
                own = key_for(name, {*quilt.zones, *zones}, "zone")
                zones[own] = zone.model_copy(update={"name": name, "slices": sliced})
        if self.sewn:
            name = free(
                tr("{split}: dividing lines", split=zone.name.split(":")[0]),
                [one.name for one in zones.values()],
                " ",
            )
            lines = dividing_lines(laid, zone, self.cut)
            zones[key_for(name, zones, "zone")] = Zone(
                name=name, part=zone.part, patches=zone.patches, slices=zone.slices, by_hand=lines, on_top=True, left_open=True,
            )  # fmt: skip
        return remade(quilt, zones=zones), tr(
            "{name}: divided into {found}", name=zone.name, found=len(found)
        )


def dividing_lines(laid: QuiltLayout, zone: Zone, cut: Cut) -> tuple[ManualLine, ...]:
    """The parts of the lines of ``cut`` that lie in ``zone``, to be sewn."""
    part = laid.parts(zone.part)[0]
    cloth = cloth_of(part, zone)
    found = []
    for line in lines_of(part, cloth, cut):
        inside = line if line.is_ring else line.intersection(cloth.area)
        for piece in getattr(inside, "geoms", [inside]):
            if piece.geom_type in ("LineString", "LinearRing") and piece.length > SAME_PLACE:
                points = shapely.get_coordinates(shapely.simplify(piece, EQUAL))
                found.append(ManualLine(vertices=tuple((x, y, 0.0) for x, y in points.tolist())))
    return tuple(found)


class Surround(Change):
    """Sews a zone in the ditch, adds ``rounds`` echoes inside, and fills the rest freehand: one choice for a
    curved shape, appliquéd or pieced."""

    kind: Literal["surround"] = "surround"
    zone: Key
    spacing: Length = Length.parse("1/4 in")
    rounds: Annotated[int, Field(ge=1, le=20)] = 2
    texture: AnyFill | None = None

    def apply(self, laid: QuiltLayout) -> tuple[Quilt, str]:
        """The zone becomes three: its ditch, the echoes, and the rest, which begins half a spacing inside the last
        echo.

        Raises BadValue if nothing is left inside.
        """
        quilt, zone = laid.quilt, laid.zone(self.zone)
        inset = Length.near(self.spacing.mm * (2 * self.rounds + 1) / 2, self.spacing.unit)
        cut = InsetOutline(distance=inset)
        part = laid.parts(zone.part)[0]
        pieces, _ = cut_up(part, cloth_of(part, zone), cut)
        spots: dict[bool, list[Spot]] = {True: [], False: []}
        rims = [piece for piece in pieces if piece.interiors]
        for piece in pieces:
            spots[piece in rims].append(spot_in(part, piece))
        if not rims or not spots[False]:
            raise BadValue(
                tr(
                    "{rounds} echoes leave nothing inside. Use fewer echoes, or set them closer together.",
                    rounds=self.rounds,
                ),
                "spacing",
            )
        rest = {key: one for key, one in quilt.zones.items() if key != self.zone}
        base = zone.name.split(":")[0]
        around = zone.model_copy(update={"slices": (*zone.slices, Slice(by=cut, inside=tuple(spots[True])))})
        inside = zone.model_copy(update={"slices": (*zone.slices, Slice(by=cut, inside=tuple(spots[False])))})
        made = (
            (
                tr("{base}: in the ditch", base=base),
                zone.model_copy(update={"fill": self._fill("ditch"), "on_top": True, "over": None}),
            ),
            (
                tr("{base}: echoes", base=base),
                around.model_copy(update={"fill": self._fill("echoes"), "over": None}),
            ),
            (
                tr("{base}: inside", base=base),
                inside.model_copy(update={"fill": self.texture or self._fill("inside"), "over": None}),
            ),
        )
        for name, one in made:
            name = free(name[:80], [other.name for other in rest.values()], " ")
            rest[key_for(name, rest, "zone")] = one.model_copy(update={"name": name, "left_open": False})
        return remade(quilt, zones=rest), tr(
            "{name}: ditch, {rounds} echoes and a texture", name=zone.name, rounds=self.rounds
        )

    def _fill(self, what: Surrounds) -> Fill:
        """The fill for one of the three zones."""
        kind = next(kind for kind in FILLS.values() if kind.surrounds == what)
        return kind.surrounding(self.spacing, self.rounds)


def pieces_of(laid: QuiltLayout, zone: Zone, cut: Cut, alike: bool) -> list[tuple[str, tuple[Spot, ...]]]:
    """For every zone into which ``cut`` divides ``zone``: its name and a point inside each of its pieces. Raises
    BadValue."""
    part = laid.parts(zone.part)[0]
    cloth = cloth_of(part, zone)
    pieces, soft = cut_up(part, cloth, cut)
    if len(pieces) <= len(cloth.area.geoms):
        raise BadValue(tr("This does not divide the zone: both ends must lie on its outline."), "cut")
    base = zone.name.split(":")[0]
    groups = _groups(pieces, alike)
    frames = [piece for piece in pieces if piece.interiors]
    found = []
    for group in groups:
        words = many(len(group), piece_words(group[0], soft))
        if len(group) == 1 and len(groups) > 1:
            spot = nested(group[0], frames) or where(group[0], part.width, part.height)
            words = f"{spot} {words}" if len(frames) > 1 or group[0] not in frames else words
        found.append((f"{base}: {words}"[:80], tuple(spot_in(part, piece) for piece in group)))
    return found


def _groups(pieces: list[Polygon], alike: bool) -> list[list[Polygon]]:
    """Pieces in groups that are congruent and share no side, such as opposite quarters."""
    groups: list[list[Polygon]] = []
    for piece in pieces:
        kin = (g for g in groups if alike and all(_alike(one, piece) and not _touch(one, piece) for one in g))
        group = next(kin, None)
        if group is None:
            groups.append([piece])
        else:
            group.append(piece)
    return groups


def _alike(one: Polygon, other: Polygon) -> bool:
    return bool(
        abs(one.area - other.area) < ALIKE_SHARE * one.area
        and abs(one.length - other.length) < ALIKE_SHARE * one.length
    )


def _touch(one: Polygon, other: Polygon) -> bool:
    return bool(one.distance(other) < SAME_PLACE and one.buffer(SAME_PLACE).intersection(other).area > _SIDE)


class PutTogether(Change):
    """Undoes the last division of a zone: its pieces become one zone with the chosen one's fill."""

    kind: Literal["together"] = "together"
    zone: Key

    def apply(self, laid: QuiltLayout) -> tuple[Quilt, str]:
        """Pieces that were divided further are merged too. Raises BadValue for a zone that is not divided."""
        quilt, zone = laid.quilt, laid.zone(self.zone)
        if not zone.slices:
            raise BadValue(tr("This zone is not divided."), "zone")
        level = len(zone.slices) - 1
        kin = [
            key
            for key, one in quilt.zones.items()
            if _shares_cut(zone, one, level) or _divides(zone, one, level)
        ]
        rest = {key: one for key, one in quilt.zones.items() if key not in kin}
        name = zone_name(quilt, zone.part, zone.patches) if level == 0 else zone.name
        name = free(name, [one.name for one in rest.values()], " ")
        whole = zone.model_copy(update={"name": name, "slices": zone.slices[:level]})
        return remade(quilt, zones={**rest, key_for(name, rest, "zone"): whole}), tr(
            "{name}: pieces joined", name=name
        )


def _divides(zone: Zone, other: Zone, level: int) -> bool:
    """Whether ``other`` lies on top of what ``zone`` was divided from: its dividing lines, or its ditch."""
    same = (zone.part, zone.patches, zone.slices[:level]) == (other.part, other.patches, other.slices)
    return (
        other.on_top
        and same
        and (bool(other.by_hand) or (other.fill is not None and other.fill.surrounds == "ditch"))
    )


def _shares_cut(zone: Zone, other: Zone, level: int) -> bool:
    """Whether ``other`` comes from the division that made slice number ``level`` of ``zone``."""
    return (
        (zone.part, zone.patches, zone.slices[:level]) == (other.part, other.patches, other.slices[:level])
        and len(other.slices) > level
        and other.slices[level].by == zone.slices[level].by
    )
