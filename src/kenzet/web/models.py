"""What goes over the wire. The OpenAPI description and the front end's types are made from these."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field

from kenzet.core.measure import Unit
from kenzet.core.top.zone import Cells

Layer = Annotated[int, Field(ge=0, le=1)]
Number = Annotated[int, Field(ge=0, le=1_000_000)]
QuiltId = Annotated[str, Field(pattern=r"^[a-z0-9]{12}$")]
PlaceKey = Annotated[str, Field(pattern=r"^[a-z0-9-]{0,40}$")]
ZoneKey = Annotated[str, Field(pattern=r"^[a-z0-9][a-z0-9-]{0,39}$")]


class Wire(BaseModel):
    """Base: nothing undeclared is taken."""

    model_config = ConfigDict(extra="forbid")


class Shown(Wire):
    """A figure ready to read; ``num`` 0 where there is no fraction; ``unit`` empty where it is not said."""

    minus: bool
    whole: str
    num: int
    den: int
    hair: int
    unit: str
    text: str


Words = list[str | Shown]


class Problem(Wire):
    """An error: ``detail`` is a sentence for the person, ``field`` the field it is about."""

    type: str = "about:blank"
    title: str
    status: int
    detail: str
    field: str = ""


class QuiltPath(Wire):
    """Which quilt."""

    quilt: QuiltId


class ZonePath(QuiltPath):
    """Which zone of which quilt."""

    zone: ZoneKey


class Reading(Wire):
    """In which unit figures are wanted."""

    unit: Unit = "in"


class Listed(Wire):
    """A line of the list of quilts."""

    id: str
    name: str
    put_away: bool


class Home(Wire):
    """What the app starts with."""

    unit: Unit
    quilts: list[Listed]


class PatchView(Wire):
    """A patch: its fabric and its rings as flat x, y lists in mm, y up, holes after outlines."""

    key: str
    fabric: str
    rings: list[list[float]]


class PlaceView(Wire):
    """A place and the placing (a, b, c, d, e, f) of what lies there."""

    id: str
    at: list[float]


class PartView(Wire):
    """A part and its places; ``of`` is the part that zones name."""

    key: str
    of: str
    name: str
    width: float
    height: float
    places: list[PlaceView]
    patches: list[PatchView]


class DrawingView(Wire):
    """Lines of one drawing: straight ones as x0, y0, x1, y1, others as flat x, y lists that end where a closed
    one began; hints only show what a freehand texture looks like; mm, y up.
    """

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
    """A zone as the whole quilt shows it; ``cut`` where it is a piece of one, ``stands_off`` where it could."""

    key: str
    name: str
    part: str
    patches: list[str]
    shapes: list[ShapeView]
    occurs: str
    fill: str
    left_open: bool
    cut: bool
    stand_off: str
    stands_off: bool
    drawings: list[DrawingView]


class FillKind(Wire):
    """A fill that can be chosen; ``tile`` is an SVG path in a box of 72 by 39."""

    kind: str
    label: str
    group: str
    help: str
    tile: str


class Total(Wire):
    """A figure of the tally, with the bare number so that a change can be told."""

    label: str
    words: Words
    amount: float


class GroundView(Wire):
    """A photograph under ``place``: the straightened picture, where it lies upright, and how it was set."""

    url: str
    at: list[float]
    width: float
    height: float
    place: str
    strength: float
    photo: str
    corners: list[list[float]]


class StateRequest(Wire):
    """Whether a quilt is at hand, put away or deleted."""

    state: Literal["at hand", "put away", "deleted"]


class QuiltView(Wire):
    """A quilt as it is kept now, laid out and drawn."""

    id: str
    version: int
    name: str
    use: str
    size: Words
    width: float
    height: float
    undo: str | None
    redo: str | None
    fabrics: dict[str, dict[str, str]]
    parts: list[PartView]
    zones: list[ZoneInfo]
    ground: GroundView | None
    fills: list[FillKind]
    totals: list[Total]
    kit: dict[str, Any]


class ChoiceView(Wire):
    """One option; ``picks`` says what may be clicked on the drawing with it."""

    key: str
    label: str
    picks: str


class FieldView(Wire):
    """One parameter as it is asked for. ``text`` is what the field holds; empty means ``empty``."""

    name: str
    label: str
    help: str
    control: Literal["length", "angle", "choice", "count", "text"]
    text: str
    shown: Shown | None
    empty: str
    choices: list[ChoiceView]
    presets: list[float]
    used: bool
    minor: bool


class Term(Wire):
    """A term of a sum and what it stands for."""

    words: Words
    label: str


class Offer(Wire):
    """Something that one click sets: a spacing, what else with it (``values`` holds all), and what it does."""

    value: str
    values: dict[str, str]
    words: Words
    does: str
    now: bool


class SumView(Wire):
    """The sum of a spacing: terms that add up to ``total``, or a sentence that says why none do."""

    kind: Literal["etched", "edge", "behind", "none"]
    terms: list[Term]
    total: Term
    sentence: Words
    instead: Words
    offers: list[Offer]


class Row(Wire):
    """A line of figures in the slip."""

    label: Words
    words: Words
    typed: bool = False


class Spot(Wire):
    """An edge (x0, y0, x1, y1) or a corner (x, y) that can be clicked; mm in the part, y up."""

    points: list[float]
    name: str


class FeatureView(Spot):
    """A feature that lines can meet or be counted from; ``share`` is its place in shares of the zone's bounds."""

    share: list[float]


class GapView(Wire):
    """The widest gap where it is too wide: the circle's middle and radius; mm in the part, y up."""

    x: float
    y: float
    radius: float


class ApartView(Wire):
    """Places with a fill of their own, or that another zone has ``taken``."""

    places: list[str]
    where: str
    fill: str
    taken: bool


class ZoneView(Wire):
    """A zone with its plan as the slip shows it. Nothing here is kept yet.

    ``over`` names the fill on top, ``cells`` says where it lies. ``times`` is how often it lies in the quilt, ``here_apart`` whether the place at hand is apart.
    """

    zone: str
    place: str
    where: str
    times: int
    apart: list[ApartView]
    here_apart: bool
    name: str
    occurs: str
    fill: dict[str, Any] | None
    layer: int
    over: str
    cells: str
    pins: list[dict[str, Any]]
    fields: list[FieldView]
    step: FieldView | None
    sum: SumView | None
    offers: list[Offer]
    figures: list[Row]
    rows: list[Row]
    notes: list[str]
    advice: list[Words]
    gap: GapView | None
    can_meet: bool
    features: list[FeatureView]
    slivers: list[list[float]]
    drawings: list[DrawingView]
    edges: list[Spot]
    corners: list[Spot]
    totals: list[Total]


class Step(Wire):
    """One step of a parameter by the marking step."""

    field: str
    by: Annotated[int, Field(ge=-200, le=200)]


class PlanRequest(Reading):
    """A zone to reckon, with what is typed; ``fill`` left out means the kept one.

    ``switch`` changes to another fill and takes over what fits; ``along_edge`` is a step along the edge that lines
    meet at a slant, from which the spacing follows. Layer 1 is the fill on top, in ``cells``
    of the one below. Nothing is kept.
    """

    zone: ZoneKey
    place: PlaceKey = ""
    fill: dict[str, Any] | None = None
    switch: str | None = None
    step: Step | None = None
    along_edge: Annotated[str, Field(max_length=80)] | None = None
    layer: Layer = 0
    cells: Cells | None = None


class MeetRequest(PlanRequest):
    """Features, by number, that lines must hit; the first one is the datum."""

    features: Annotated[list[Number], Field(min_length=2, max_length=12)]


class MeetingView(Wire):
    """Settings that meet the features: what to set, and in words what that means; ``hits`` is false where some miss."""

    values: dict[str, Any]
    words: Words
    does: str
    hits: bool


class MeetView(Wire):
    """The ways to meet the chosen features, the nearest to her wish first; ``said`` where there is none."""

    ways: list[MeetingView]
    said: str


class RulerRequest(PlanRequest):
    """The line to lay: its number in the drawing (none: one that shows it well), and the side of a ring.

    Side -1 is the longest.
    """

    line: Number | None = None
    side: Annotated[int, Field(ge=-1, le=1_000_000)] = -1


class StopView(Wire):
    """An end of the line: where the needle stops, and where the ruler's edge crosses the seam."""

    needle: list[float]
    edge: list[float]
    words: Words


class RulerView(Wire):
    """The ruler where it lies, in the part's coordinates: mm, y up."""

    line: int
    ends: list[float]
    body: list[float]
    etched: list[list[float]]
    chosen: int | None
    foot: list[float]
    radius: float
    stops: list[StopView]
    laid: Words
    sum: SumView | None
    rows: list[Row]
    tag: Words
    caution: str


class NewQuilts(Reading):
    """A plan to keep as a new quilt, or a ``wish`` to begin one with; both left out: the demo quilts."""

    plan: dict[str, Any] | None = None
    wish: dict[str, Any] | None = None


class ChangeMade(Wire):
    """One change; ``key`` names it so that a retry is harmless.

    ``joins`` makes it one undo step with the change before.
    """

    key: Annotated[str, Field(pattern=r"^[A-Za-z0-9-]{6,40}$")]
    joins: bool = False
    change: dict[str, Any]


class ChangeRequest(Reading):
    """Changes to keep, in order, the first made on ``version``; ``unit`` is meant where none is typed."""

    version: Number
    changes: Annotated[list[ChangeMade], Field(min_length=1, max_length=50)]


class VersionRequest(Wire):
    """Undo or redo from ``version``."""

    version: Number


class Saved(Wire):
    """How the quilt stands after a change."""

    version: int
    undo: str | None
    redo: str | None


class UnitRequest(Wire):
    """The unit to read in from now on."""

    unit: Unit


class Health(Wire):
    """The app answers."""

    name: str
    version: str
