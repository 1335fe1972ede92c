"""The kit that a quilt is planned with: checked as it is typed, and what it makes."""

from __future__ import annotations

from typing import Any

from flask import Response
from flask_openapi3 import APIBlueprint

from kenzet.core.kit.kit import SCALES, Kit
from kenzet.core.measure import Length, Unit, in_words
from kenzet.core.params import Choice, Form
from kenzet.core.plan import check_kit
from kenzet.core.top.document import validated
from kenzet.web import models as m
from kenzet.web import show
from kenzet.web.at_hand import answer, laid_quilt

kit = APIBlueprint("kit", __name__, url_prefix="/api/quilts/<quilt>")


class KitRequest(m.Reading):
    """A kit as typed; left out means the kept one."""

    kit: dict[str, Any] | None = None


class EtchedView(m.Wire):
    """An etched line ``at`` mm from the working edge, its name, and the spacing that it makes."""

    at: float
    label: m.Words
    words: m.Words


class KitView(m.Wire):
    """The checked kit with its fields and what each etched line makes."""

    kit: dict[str, Any]
    fields: list[m.FieldView]
    makes: list[EtchedView]
    foot: float
    sentence: m.Words


_LENGTHS = {
    "foot.offset": Form(
        "length",
        "Needle to rim of the ruler foot",
        "Half of the foot's width, where the needle is in its middle.",
    ),
    "ruler.length": Form("length", "Ruler, along its working edge"),
    "ruler.width": Form("length", "Ruler, across"),
    "marking_step": Form("length", "You mark in steps of", "Ticks are rounded to it, and [ ] step by it."),
    "batting.limit": Form("length", "Widest gap your batting allows", "It stands on its label."),
    "batting.thickness": Form("length", "Thickness of the batting"),
}
_ETCHED = Form(
    "choice",
    "Etched lines",
    "Or a list of their distances from the working edge.",
    choices=tuple(Choice(key, f"every {Length.parse(step).text.removesuffix(' in')} in") for key, step in SCALES.items()),
)  # fmt: skip


@kit.post("/kit", responses={200: KitView})
def kit_view(path: m.QuiltPath, body: KitRequest) -> Response:
    """Check a kit as typed; nothing is kept."""
    kept, laid = laid_quilt(path.quilt)
    typed = kept.quilt.kit
    if body.kit is not None:
        typed = validated(Kit, body.kit, body.unit, "kit")
        check_kit(laid.with_quilt(kept.quilt.model_copy(update={"kit": typed})))
    return answer(_view(typed, body.unit))


def _view(kit: Kit, unit: Unit) -> KitView:
    values = {
        "foot.offset": kit.foot.offset,
        "ruler.length": kit.ruler.length,
        "ruler.width": kit.ruler.width,
        "marking_step": kit.marking_step,
        "batting.limit": kit.batting.limit,
        "batting.thickness": kit.batting.thickness,
    }
    fields = [show.field(name, form, values[name], unit) for name, form in _LENGTHS.items()]
    etched = kit.ruler.etched
    listed = etched if isinstance(etched, str) else ", ".join(line.text for line in etched)
    foot = in_words(kit.foot.offset.mm, unit)
    return KitView(
        kit=kit.model_dump(mode="json"),
        fields=[*fields, show.field("ruler.etched", _ETCHED, listed, unit)],
        makes=_etched_rows(kit, unit),
        foot=float(kit.foot.offset.mm),
        sentence=[f"Your foot counts in: every mark stitches {foot} further out than it says."],
    )


def _etched_rows(kit: Kit, unit: Unit) -> list[EtchedView]:
    """F5: what each etched line of her ruler makes with her foot."""
    return [
        EtchedView(
            at=float(line),
            label=["edge"] if line == 0 else [show.shown(line, unit, bare=True), " mark"],
            words=[show.shown(line + kit.foot.offset.mm, unit)],
        )
        for line in kit.ruler.lines
    ]
