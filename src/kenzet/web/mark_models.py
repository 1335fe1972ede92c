"""What goes over the wire about marks."""

from __future__ import annotations

from typing import Literal

from kenzet.core.marks.sheet import SheetKind
from kenzet.core.top.zone import MarkMethod
from kenzet.formats.placement import Paper
from kenzet.web import models as m

SheetOf = Literal["zone", "block", "repeat"]


class MarksRequest(m.Reading):
    """The marks of a zone as it is kept, by a method, on a paper."""

    zone: m.ZoneKey
    place: m.PlaceKey = ""
    layer: m.Layer = 0
    method: MarkMethod | None = None
    paper: Paper = "letter"
    kind: SheetKind = "stitched lines"
    of: SheetOf = "zone"


class MethodView(m.Wire):
    """A way of marking with what it costs."""

    key: MarkMethod
    label: str
    words: m.Words


class TickView(m.Wire):
    """A tick: its foot and tip in the part, and its figures."""

    points: list[float]
    shown: m.Shown
    error: m.Words


class EdgeView(m.Wire):
    """An edge with its ticks, counted from its datum corner (``points`` start there)."""

    name: str
    from_corner: str
    points: list[float]
    ticks: list[TickView]
    note: m.Words


class SignView(m.Wire):
    """A small sign of a texture: strokes, flat x, y lists; mm in the part."""

    names: str
    at: list[float]
    strokes: list[list[float]]


class LaidView(m.Wire):
    """A strip of tape or a stencil where it is laid in round ``round`` (from 0): its corners, flat x, y, and what is sewn
    along it, from start to end; mm in the part.
    """

    round: int
    corners: list[float]
    sewn: list[list[float]]


class ToolView(m.Wire):
    """A marking tool, and how it shows on this zone's fabrics."""

    key: str
    label: str
    words: str
    fits: bool


class LayerView(m.Wire):
    """One of the fills of a zone."""

    layer: int
    label: str


class MarksView(m.Wire):
    """The marks of a zone."""

    zone: str
    name: str
    occurs: str
    method: MarkMethod
    methods: list[MethodView]
    chosen_by_her: bool
    strokes: list[list[float]]
    dots: list[list[float]]
    signs: list[SignView]
    tools: list[ToolView]
    tool: str
    tool_words: list[str]
    laid: list[LaidView]
    rounds: int
    round_is: Literal["Round", "Placing"]
    stands_for: Literal["sewn line", "ruler edge"]
    repeats: bool
    at_the_table: int
    edges: list[EdgeView]
    pages: int
    pages_words: str
    rows: list[m.Row]
    note: m.Words
    caution: str
    layers: list[LayerView]
    layer: int
    drawings: list[m.DrawingView]
    totals: list[m.Total]
