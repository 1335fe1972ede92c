"""Models shared by requests and answers. The OpenAPI description and the front end's types are generated from
them."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import Field

from kenzet.core.kit.inventory import Slot
from kenzet.core.kit.kit import SewWith, ThingKey
from kenzet.core.numbers.measure import Unit
from kenzet.say import words as w
from kenzet.say.words import Said
from kenzet.web.wire.docs import ChangeDoc, KitDoc, WishDoc

Layer = Annotated[int, Field(ge=0, le=2)]
Number = Annotated[int, Field(ge=0, le=1_000_000)]
QuiltId = Annotated[str, Field(pattern=r"^[a-z0-9]{12}$")]
PlaceKey = Annotated[str, Field(pattern=r"^[a-z0-9-]{0,40}$")]
ZoneKey = Annotated[str, Field(pattern=r"^[a-z0-9][a-z0-9-]{0,39}$")]


class Wire(Said):
    """Base: undeclared fields are refused."""


class Problem(Wire):
    """An error: ``detail`` is a sentence for the person, ``field`` the field it is about."""

    type: str = "about:blank"
    title: str
    status: int
    detail: str
    field: str = ""


class QuiltKey(Wire):
    """Identifies a quilt in an address."""

    quilt: QuiltId


class ZoneOfQuilt(QuiltKey):
    """Identifies a zone of a quilt."""

    zone: ZoneKey


class Reading(Wire):
    """The unit of figures."""

    unit: Unit = "in"


class Listed(Wire):
    """A card of the list of quilts: when it was last ``changed`` (seconds since 1970), how many of its zones are
    ``filled``, whether sewing has begun, and the station to continue at."""

    id: str
    name: str
    put_away: bool
    revision: int
    changed: int
    size: w.Words
    zones: int
    filled: int
    sewn: bool
    next: Literal["top", "fills", "marks", "machine"]
    next_says: str


class ExportLink(Wire):
    """A file to save: ``url`` with {quilt} and {zone} to be filled in; those ``of_sheet`` are beside the mark
    sheet, if there is what they ``need``."""

    key: str
    label: str
    url: str
    of_sheet: bool
    needs: Literal["", "ticks", "strokes"]


class Home(Wire):
    """The data of the home page."""

    unit: Unit
    quilts: list[Listed]
    exports: list[ExportLink]


class PatchView(Wire):
    """A patch: its fabric and its rings as flat x, y lists in mm, y up, holes after outlines."""

    key: str
    fabric: str
    rings: list[list[float]]


class PlaceView(Wire):
    """A place and the placing (a, b, c, d, e, f) of the part there."""

    id: str
    at: list[float]


class PartView(Wire):
    """A part and its places; ``kin`` is the key that zones use for it."""

    key: str
    kin: str
    name: str
    width: float
    height: float
    places: list[PlaceView]
    patches: list[PatchView]


class DrawingView(Wire):
    """The lines of one drawing: straight ones as x0, y0, x1, y1, others as flat x, y lists; a closed one ends with
    its first point. Hints only illustrate a freehand texture. mm, y up."""

    part: str
    places: list[str]
    layer: int
    lines: list[list[float]]
    paths: list[list[float]]
    hints: list[list[float]]


class ShapeView(Wire):
    """One shape of a zone: its rings in the part's coordinates and the places that have it."""

    part: str
    places: list[str]
    rings: list[list[float]]


class ZoneInfo(Wire):
    """A zone in the view of the whole quilt; ``cut`` if it is a piece of a division, ``on_top`` if it lies on
    others, ``stands_off`` if it contains appliqué."""

    key: str
    name: str
    part: str
    patches: list[str]
    shapes: list[ShapeView]
    occurs: str
    fill: str
    left_open: bool
    cut: bool
    on_top: bool
    stand_off: str
    stands_off: bool
    drawings: list[DrawingView]


class FillKind(Wire):
    """A fill of the chooser; ``tile`` is an SVG path in a box of 72 by 39."""

    kind: str
    label: str
    group: str
    help: str
    tile: str


class GroundView(Wire):
    """A photograph under ``place``: the straightened picture, its upright frame, and its settings."""

    url: str
    at: list[float]
    width: float
    height: float
    place: str
    strength: float
    photo: str
    corners: list[list[float]]


class StateRequest(Wire):
    """Whether a quilt is active, archived or deleted."""

    state: Literal["at hand", "put away", "deleted"]


class QuiltView(Wire):
    """A quilt as stored, laid out and drawn."""

    id: str
    version: int
    name: str
    use: str
    size: w.Words
    width: float
    height: float
    undo: str | None
    redo: str | None
    fabrics: dict[str, dict[str, str]]
    parts: list[PartView]
    zones: list[ZoneInfo]
    ground: GroundView | None
    fills: list[FillKind]
    totals: list[w.Total]
    kit: KitDoc


class Spot(Wire):
    """An edge (x0, y0, x1, y1) or a corner (x, y) that can be clicked; mm in the part, y up."""

    points: list[float]
    name: str


class NewQuilts(Reading):
    """A plan to store as a new quilt, or a ``wish`` to create one; if both are left out, the demo quilts."""

    plan: dict[str, Any] | None = None
    wish: WishDoc | None = None


class KitChange(Wire):
    """Changes of the quilt's kit: items chosen by slot, numbers as typed, or an update of everything."""

    picks: dict[Slot, ThingKey] | None = None
    values: dict[str, Any] | None = None
    sew_with: SewWith | None = None
    take_over: bool = False


class ChangeMade(Wire):
    """One change, of the document or of its kit; ``key`` identifies it so that a retry is harmless.

    ``joins`` makes it one undo step with the change before.
    """

    key: Annotated[str, Field(pattern=r"^[A-Za-z0-9-]{6,40}$")]
    joins: bool = False
    change: ChangeDoc | None = None
    kit: KitChange | None = None


class UnitRequest(Wire):
    """The unit to use from now on."""

    unit: Unit


class Health(Wire):
    """The app answers."""

    name: str
    version: str
