"""What goes over the wire about one zone: its slip, its ruler, what it can meet."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import Field

from kenzet.core.top.zone import Cells
from kenzet.web.models import (
    DrawingView,
    FieldView,
    Layer,
    Number,
    PlaceKey,
    Reading,
    Row,
    Spot,
    Total,
    Wire,
    Words,
    ZoneKey,
)


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

    kind: Literal["etched", "edge", "behind", "gauge", "none"]
    terms: list[Term]
    total: Term
    sentence: Words
    instead: Words
    offers: list[Offer]
    ruler: str


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

    ``measuring`` is true where the widest gap takes long and was not waited for.
    ``own_ruler`` is the ruler that she has chosen for the zone, by its key.
    ``across`` holds what to set so that lines go on from block to block, where they do not.
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
    drift: Words
    own_ruler: str
    sew_with: str
    rows: list[Row]
    notes: list[str]
    advice: list[Words]
    across: dict[str, str]
    gap: GapView | None
    measuring: bool
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
    of the one below. ``gap`` waits for the widest gap, however long it takes. Nothing is kept.
    """

    zone: ZoneKey
    place: PlaceKey = ""
    fill: dict[str, Any] | None = None
    switch: str | None = None
    step: Step | None = None
    along_edge: Annotated[str, Field(max_length=80)] | None = None
    layer: Layer = 0
    cells: Cells | None = None
    gap: bool = False


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


class CurveView(Wire):
    """One of her curved edges for a curve: which side of which ruler, how it strays, and whether it will do."""

    name: str
    side: str
    words: Words
    verdict: Literal["fits", "can be nudged", "will not do"]


class RulerChoice(Wire):
    """A straight ruler for a line: what lies on the reference and how often it is laid along; ``fault`` where it must not."""

    key: str
    name: str
    words: Words
    fits: bool
    fault: str


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
    curves: list[CurveView]
    rulers: list[RulerChoice]
    ruler: str
    tag: Words
    caution: str
