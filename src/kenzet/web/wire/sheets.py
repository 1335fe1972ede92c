"""Mark sheets and the printers for them."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from kenzet.core.errors import BadValue
from kenzet.core.marks.sheet import SheetKind
from kenzet.core.numbers.measure import Length
from kenzet.core.relief.cloth import Light
from kenzet.core.top.zone import MarkMethod
from kenzet.formats.placement import Paper
from kenzet.web.wire import base as m
from kenzet.web.wire.marks import SheetOf

PrinterName = Annotated[str, Field(min_length=1, max_length=60)]


class SheetQuery(m.Reading):
    """The kind of sheet: of the zone or of its whole block, and for which printer."""

    place: m.PlaceKey = ""
    layer: m.Layer = 0
    method: MarkMethod | None = None
    kind: SheetKind = "stitched lines"
    back: bool = False
    scope: SheetOf = "zone"
    paper: Paper = "letter"
    printer: str = Field("", max_length=60)


class CardsQuery(m.Reading):
    """The paper and printer for corner cards."""

    paper: Paper = "letter"
    printer: str = Field("", max_length=60)


class BookQuery(m.Reading):
    """The paper for the swatch book."""

    paper: Paper = "letter"


class CheckQuery(m.Reading):
    """The page for checking a printer."""

    name: PrinterName
    paper: Paper = "letter"


class CheckRequest(m.Reading):
    """The readings of the bars; ``sure`` confirms a large correction."""

    name: PrinterName
    across: str = Field(max_length=40)
    up: str = Field(max_length=40)
    sure: bool = False


class ForgetQuery(m.Reading):
    """Identifies a printer."""

    name: PrinterName


class PrinterView(m.Wire):
    """A printer with its correction, in per cent and in words."""

    name: str
    across: float
    up: float
    words: str


class PrintersView(m.Wire):
    """All printers; ``asks`` has to be answered before a large correction is stored. ``bar`` is the length of the
    bars on the check page."""

    printers: list[PrinterView]
    bar: str
    asks: str = ""


class StripQuery(SheetQuery):
    """The edge, by its number among those with ticks."""

    edge: int = Field(0, ge=0)


def bar_length(body: CheckRequest, way: Literal["across", "up"]) -> Length:
    """The reading of a bar. Raises BadValue at its field."""
    try:
        return Length.parse(getattr(body, way), body.unit)
    except BadValue as error:
        raise BadValue(error.message, way) from error


class ReliefPng(m.Reading):
    """The relief with ``px`` pixels an inch, lit from a side; optionally of the back, mirrored."""

    px: Annotated[int, Field(ge=2, le=20)] = 20
    light: Light = "upper left"
    back: bool = False
