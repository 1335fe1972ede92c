"""Help in choosing: every fill that suits a zone, at settings that are sensible there.

Glossary: a fill is *suited* to a zone where its lines can be laid out in it and some of them can be sewn.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from fractions import Fraction

from pydantic import ValidationError

from kenzet.core.drawing import Drawing, draw
from kenzet.core.errors import KenzetError
from kenzet.core.fills import FILLS, Fill, default_fill
from kenzet.core.measure import MM_PER, Length, rounded
from kenzet.core.plan import ZonePlan, check_hollow, site_at
from kenzet.core.top.laid import LaidQuilt, ZoneShape

_SHARES = (Fraction(1), Fraction(1, 2), Fraction(1, 4), Fraction(1, 8))
_MOST_LINES = 4000
_GRAIN = MM_PER["in"] / 16


@dataclass(frozen=True)
class Tried:
    """A fill tried in a zone: its plan, of one place only."""

    fill: Fill
    plan: ZonePlan

    @property
    def drawing(self) -> Drawing:
        """What it looks like there."""
        return self.plan.drawings[0]


def suited(
    laid: LaidQuilt, key: str, kind: str, given: dict[str, object] | None = None, place: str = ""
) -> Tried | None:
    """A fill of ``kind`` at settings sensible in zone ``key``: those of ``given`` that fit, else its own, as large
    as they are or halved until some lines fit. None where it does not suit the zone.
    """
    zone = laid.zone(key)
    shape = (laid.shape_at(zone, place) if place else None) or laid.shapes(zone)[0]
    place = place if place in shape.places else shape.places[0]
    for fill in _candidates(kind, given):
        found = tried(laid, key, fill, shape, place)
        if found and 0 < _amount(found.drawing) <= _MOST_LINES:
            return found
    return None


def tried(laid: LaidQuilt, key: str, fill: Fill, shape: ZoneShape, place: str) -> Tried | None:
    """``fill`` in one shape of a zone; None where it cannot be laid out there."""
    site = site_at(shape, place, laid.middle)
    try:
        check_hollow(fill, site, laid.quilt.kit)
        drawing = draw(shape, fill, tuple(fill.lay_out(site)), (place,))
    except KenzetError:
        return None
    return Tried(fill, ZonePlan(key, laid.zone(key), laid.quilt.kit, (drawing,), laid.middle))


def gallery(
    laid: LaidQuilt, key: str, given: dict[str, object] | None = None, place: str = ""
) -> Iterator[Tried]:
    """Every fill that suits the zone, in the order of the chooser."""
    for kind in FILLS:
        found = suited(laid, key, kind, given, place)
        if found:
            yield found


def _candidates(kind: str, given: dict[str, object] | None) -> Iterable[Fill]:
    if given and given.get("kind") == kind:
        yield default_fill(kind, given)
    elif given:
        yield default_fill(kind, {k: v for k, v in given.items() if k == "spacing"})
    for share in _SHARES:
        try:
            yield _scaled(FILLS[kind].model_validate({}), share)
        except ValidationError:
            return


def _scaled(fill: Fill, share: Fraction) -> Fill:
    """``fill`` with all its lengths times ``share``, to whole sixteenths."""
    if share == 1:
        return fill
    lengths = {
        name: Length.near(max(rounded(value.mm * share, _GRAIN), _GRAIN), "in").text
        for name, value in fill
        if isinstance(value, Length)
    }
    return type(fill).model_validate({**fill.model_dump(mode="json"), **lengths})


def _amount(drawing: Drawing) -> int:
    return drawing.lines + len(drawing.hints)
