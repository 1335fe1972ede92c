"""What goes over the wire. The OpenAPI description and the front end's types are made from these."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field

from kenzet.core.measure import Unit

Number = Annotated[int, Field(ge=0, le=1_000_000)]
QuiltId = Annotated[str, Field(pattern=r"^[a-z0-9]{12}$")]
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


class Home(Wire):
    """What the app starts with."""

    unit: Unit
    quilts: list[Listed]


class PatchView(Wire):
    """A patch: its fabric and its rings as flat x, y lists in mm, y up, holes after outlines."""

    key: str
    fabric: str
    rings: list[list[float]]


class PartView(Wire):
    """A part and its placings (a, b, c, d, e, f)."""

    key: str
    name: str
    width: float
    height: float
    placings: list[list[float]]
    patches: list[PatchView]


class DrawingView(Wire):
    """Lines of one drawing: straight ones as x0, y0, x1, y1, rings as flat closed x, y lists; mm, y up."""

    placings: list[int]
    lines: list[list[float]]
    rings: list[list[float]]


class ZoneInfo(Wire):
    """A zone as the whole quilt shows it."""

    key: str
    name: str
    part: str
    patches: list[str]
    occurs: str
    fill: str
    drawings: list[DrawingView]


class FillKind(Wire):
    """A fill that can be chosen; ``tile`` is an SVG path in a box of 72 by 39."""

    kind: str
    label: str
    help: str
    tile: str


class Total(Wire):
    """A figure of the tally, with the bare number so that a change can be told."""

    label: str
    words: Words
    amount: float


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
    control: Literal["length", "angle", "choice", "count"]
    text: str
    shown: Shown | None
    empty: str
    choices: list[ChoiceView]
    presets: list[float]
    used: bool


class Term(Wire):
    """A term of a sum and what it stands for."""

    words: Words
    label: str


class Offer(Wire):
    """Something that one click sets: a spacing, and what it does."""

    value: str
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


class Spot(Wire):
    """An edge (x0, y0, x1, y1) or a corner (x, y) that can be clicked; mm in the part, y up."""

    points: list[float]
    name: str


class ZoneView(Wire):
    """A zone with its plan as the slip shows it. Nothing here is kept yet."""

    zone: str
    name: str
    occurs: str
    fill: dict[str, Any] | None
    fields: list[FieldView]
    sum: SumView | None
    offers: list[Offer]
    rows: list[Row]
    advice: list[Words]
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

    ``switch`` changes to another fill and takes over what fits. Nothing is kept.
    """

    zone: ZoneKey
    placing: Number = 0
    fill: dict[str, Any] | None = None
    switch: str | None = None
    step: Step | None = None


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


class NewQuilts(Wire):
    """A plan to keep as a new quilt; left out: the demo quilts."""

    plan: dict[str, Any] | None = None


class ChangeMade(Wire):
    """One change; ``key`` names it so that a retry is harmless.

    ``joins`` makes it one undo step with the change before.
    """

    key: Annotated[str, Field(pattern=r"^[A-Za-z0-9-]{6,40}$")]
    joins: bool = False
    change: dict[str, Any]


class ChangeRequest(Wire):
    """Changes to keep, in order, the first made on ``version``."""

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
