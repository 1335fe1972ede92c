"""Zones: areas quilted as one, how they are cut out of the piecing, and places with a fill of their own.

Glossary: a zone belongs to a *part*: a block's key, ``sashing``, ``border-1`` …, ``side`` or ``corner`` (the
triangles on point), or ``top``, the whole quilt, whose patches are named ``place/patch``. A *cut* divides an area
by lines that will be quilted; a *slice* is a cut and the pieces kept, given by points as shares of the part's
width and height. An area *left open* is unquilted on purpose.
"""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, field_validator, model_validator

from kenzet.core.errors import BadValue
from kenzet.core.fills import AnyFill
from kenzet.core.fills.manual_lines import MOST_BY_HAND, ManualLine
from kenzet.core.kit.kit import SewWith, ThingKey
from kenzet.core.numbers.measure import Length
from kenzet.core.params import Frozen, in_range
from kenzet.core.top.blocks import Key, Name
from kenzet.core.top.line_ends import LineEnds
from kenzet.texts import tr

SASHING, SIDE, CORNER, TOP, BORDER = "sashing", "side", "corner", "top", "border-"
"""The parts that are not blocks; ``BORDER`` is followed by its number from the inside."""

Cells = Literal["all", "every other", "the others"]
"""The cells of the first fill in which a second one is sewn."""

MOST_PINS = 3
"""The number of variants that can be compared side by side."""

MOST_DRAWN_TOO = 40
"""The number of lines of a zone that can be marked in addition."""

MarkMethod = Literal[
    "nothing", "first lines", "anchors", "ticks", "dots", "all lines", "half", "tape", "stencil", "fill signs"
]
"""How a zone is marked."""
Share = Annotated[float, Field(ge=0, le=1)]
Spot = tuple[Share, Share]
Place = Annotated[str, Field(pattern=r"^[a-z0-9-]{1,40}$")]
PatchRef = Annotated[str, Field(pattern=r"^[a-z0-9-]{1,40}(/[a-z0-9-]{1,40})?$")]


class Diagonals(Frozen):
    """Both diagonals of the zone's bounds."""

    kind: Literal["diagonals"] = "diagonals"


class Cross(Frozen):
    """A horizontal and a vertical line through the zone's center."""

    kind: Literal["cross"] = "cross"


class InsetSquare(Frozen):
    """A square (a rectangle in an oblong) ``inset`` inside the zone's bounds."""

    kind: Literal["inset square"] = "inset square"
    inset: Length

    @field_validator("inset")
    @classmethod
    def _inset(cls, inset: Length) -> Length:
        return in_range(inset, "1/8 in", "100 in", tr("The inset"))


class InsetOutline(Frozen):
    """The zone's own outline, moved inwards by ``distance``."""

    kind: Literal["inset outline"] = "inset outline"
    distance: Length

    @field_validator("distance")
    @classmethod
    def _distance(cls, distance: Length) -> Length:
        return in_range(distance, "1/8 in", "100 in", tr("The distance"))


class Line(Frozen):
    """The line between two points, as shares of the part's size; ``around``: repeated from all four sides."""

    kind: Literal["line"] = "line"
    start: Spot
    end: Spot
    around: bool = False

    @model_validator(mode="after")
    def _long(self) -> Line:
        if self.start == self.end:
            raise BadValue(tr("The line needs two different points."), "end")
        return self


Cut = Annotated[Diagonals | Cross | InsetSquare | InsetOutline | Line, Field(discriminator="kind")]


class Slice(Frozen):
    """What is kept of an area after a cut: the pieces that contain a point of ``inside``."""

    by: Cut
    inside: Annotated[tuple[Spot, ...], Field(min_length=1, max_length=400)]


class Over(Frozen):
    """A second fill on top of the first: in the whole zone or only in some ``cells`` of the first one."""

    fill: AnyFill
    cells: Cells = "all"


class Apart(Frozen):
    """Places where the zone has another fill, or none; ``taken_by`` names a zone that took its area there."""

    places: Annotated[tuple[Place, ...], Field(min_length=1)]
    fill: AnyFill | None = None
    taken_by: Key | None = None


class Zone(Frozen):
    """Patches of one part quilted as one, with a common fill except at places ``apart``, and ``over`` on top of it.

    ``pins`` are variants to compare; ``ruler`` (its key in the kit) and ``sew_with`` are what it is sewn with,
    ``marking`` is the method and ``mark_with`` the tool of marking, ``drawn_too`` points on lines marked in
    addition; all of these default to the best choice. ``by_hand`` are lines placed by hand, at every place. Lines
    begin away from the machine's body unless ``begin_other``; with ``second_first``, the second of two sets, the
    innermost ring, or everything before an outline, is sewn first.
    """

    name: Name
    part: Key
    patches: Annotated[tuple[PatchRef, ...], Field(min_length=1, max_length=20_000)]
    slices: Annotated[tuple[Slice, ...], Field(max_length=20)] = ()
    stand_off: Length | None = None
    fill: AnyFill | None = None
    over: Over | None = None
    left_open: bool = False
    pins: Annotated[tuple[AnyFill, ...], Field(max_length=MOST_PINS)] = ()
    marking: MarkMethod | None = None
    mark_with: ThingKey | None = None
    drawn_too: Annotated[tuple[Spot, ...], Field(max_length=MOST_DRAWN_TOO)] = ()
    ruler: ThingKey | None = None
    sew_with: SewWith | None = None
    begin_other: bool = False
    second_first: bool = False
    line_ends: LineEnds | None = None
    edge: Length | None = None
    on_top: bool = False
    by_hand: Annotated[tuple[ManualLine, ...], Field(max_length=MOST_BY_HAND)] = ()
    apart: Annotated[tuple[Apart, ...], Field(max_length=200)] = ()

    @field_validator("stand_off")
    @classmethod
    def _stand_off(cls, stand_off: Length | None) -> Length | None:
        return stand_off and in_range(stand_off, "1/16 in", "10 in", tr("The distance from the appliqué"))

    @field_validator("edge")
    @classmethod
    def _edge(cls, edge: Length | None) -> Length | None:
        return edge and in_range(edge, "0 in", "2 in", tr("How far it is from the edge"))

    @model_validator(mode="after")
    def _whole(self) -> Zone:
        places = [place for apart in self.apart for place in apart.places]
        if len(places) != len(set(places)):
            raise BadValue(tr("Each block can have its own settings only once."), "apart")
        return self

    @property
    def holds_no_cloth(self) -> bool:
        """Whether it only has lines on top of others: lines that divide them, or their ditch."""
        return self.on_top and (self.fill is None or self.fill.surrounds == "ditch")

    def lies_beside(self, other: Zone) -> bool:
        """Whether both are different pieces of one cut, so that they may hold the same patches."""
        for mine, its in zip(self.slices, other.slices, strict=False):
            if mine != its:
                return mine.by == its.by and not set(mine.inside) & set(its.inside)
        return False

    def apart_at(self, place: str) -> Apart | None:
        """The exception at ``place``, or None."""
        return next((apart for apart in self.apart if place in apart.places), None)

    def fill_at(self, place: str) -> AnyFill | None:
        """The fill at ``place``."""
        apart = self.apart_at(place)
        return apart.fill if apart else self.fill
