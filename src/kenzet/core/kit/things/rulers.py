"""Rulers and templates: thick ones for a ruler foot, and stencils for marking."""

from __future__ import annotations

from typing import Any, ClassVar, Literal

from pydantic import ValidationInfo, field_validator, model_validator

from kenzet.core.errors import BadValue
from kenzet.core.kit.edges import ArcEdge, Edge, StraightEdge, WaveEdge, ZigzagEdge, whole_circle
from kenzet.core.kit.things.base import ETCHED, Edged, Etched, Group, Thing, check_etched, etched_lines
from kenzet.core.numbers.measure import Length
from kenzet.core.params import Choice, Form, asked
from kenzet.texts import tr

_SIZE = ("1/2 in", "60 in")
_THICK = ("1 mm", "20 mm")


class StraightRuler(Edged):
    """A thick straight ruler; ``etched`` lines are parallel to the working edge, lines ``across`` are
    perpendicular to it."""

    label: ClassVar[str] = tr("Straight ruler")
    says: ClassVar[tuple[str, ...]] = ("length", "width")
    order: ClassVar[int] = 11
    ranges: ClassVar[dict[str, tuple[str, str]]] = {
        "length": _SIZE, "width": _SIZE, "across": ("1/32 in", "12 in"), "thickness": _THICK,
    }  # fmt: skip

    kind: Literal["straight ruler"] = "straight ruler"
    length: Length = asked("12 in", Form("length", tr("Along its working edge")))
    width: Length = asked("2 1/2 in", Form("length", tr("Across")))
    etched: Etched = asked("quarters", ETCHED)
    second: Etched | None = asked(
        None,
        Form(
            "text",
            tr("A second scale"),
            tr("From the other edge, as a list."),
            empty=tr("the same"),
            minor=True,
        ),
    )
    across: Length | None = asked(
        "1 in", Form("length", tr("Lines across it, every"), empty=tr("none"), minor=True)
    )
    angles: str = asked(
        "45, 60", Form("text", tr("Slanted lines, degrees"), tr("As a list."), empty=tr("none"), minor=True)
    )

    @field_validator("etched", "second", mode="before")
    @classmethod
    def _etched(cls, value: Any, info: ValidationInfo) -> Etched | None:
        if info.field_name == "second" and value in (None, ""):
            return None
        return check_etched(value, (info.context or {}).get("unit", "in"))

    @field_validator("angles")
    @classmethod
    def _angles(cls, text: str) -> str:
        for part in filter(None, (piece.strip() for piece in text.split(","))):
            if not part.replace(".", "", 1).isdigit() or not 0 < float(part) < 180:
                raise BadValue(
                    tr("Degrees between 0 and 180, like 30, 45, 60; “{part}” was given.", part=part[:20])
                )
        return text

    @property
    def edges(self) -> tuple[Edge, ...]:
        """One edge, or two if the opposite edge has its own scale."""
        scales = [self.etched] if self.second is None else [self.etched, self.second]
        across = None if self.across is None else self.across.mm
        angles = tuple(float(part) for part in self.angles.split(",") if part.strip())
        return tuple(
            StraightEdge(self.length.mm, self.width.mm, etched_lines(one, self.width), across, angles)
            for one in scales
        )


class ArcRuler(Edged):
    """An arc or a circle, described by the radius (or diameter) of its edges, measured on the plastic or as sewn."""

    label: ClassVar[str] = tr("Arc or circle")
    says: ClassVar[tuple[str, ...]] = ("outside", "inside")
    order: ClassVar[int] = 12
    ranges: ClassVar[dict[str, tuple[str, str]]] = {
        "outside": ("1/4 in", "200 in"), "inside": ("1/4 in", "200 in"), "label_foot": ("1/16 in", "1 in"),
        "usable": ("1/4 in", "400 in"), "usable_inside": ("1/4 in", "400 in"), "thickness": _THICK,
    }  # fmt: skip

    kind: Literal["arc"] = "arc"
    measured: Literal["radius", "diameter"] = asked(
        "diameter", Form("choice", tr("Its size is its"), choices=(Choice("diameter", tr("diameter")), Choice("radius", tr("radius"))))
    )  # fmt: skip
    by: Literal["edge", "sewn"] = asked(
        "edge",
        Form("choice", tr("of"), tr("Some are named by the plastic, some by the line they sew."), choices=(Choice("edge", tr("the plastic's edge")), Choice("sewn", tr("the sewn line")))),
    )  # fmt: skip
    label_foot: Length = asked(
        "1/4 in", Form("length", tr("sewn with a foot of"), only_with=("by", ("sewn",)))
    )
    outside: Length | None = asked("14 in", Form("length", tr("Outside curve"), empty=tr("cannot be used")))
    inside: Length | None = asked(None, Form("length", tr("Inside curve"), empty=tr("cannot be used")))
    usable: Length | None = asked(
        None, Form("length", tr("Usable along the outside"), empty=tr("all round"), minor=True)
    )
    usable_inside: Length | None = asked(
        None, Form("length", tr("Usable along the inside"), empty=tr("all round"), minor=True)
    )

    @model_validator(mode="after")
    def _has_an_edge(self) -> ArcRuler:
        if self.outside is None and self.inside is None:
            raise BadValue(tr("Give its outside curve, its inside curve, or both."), "outside")
        if any(edge.radius <= 0 for edge in self.edges if isinstance(edge, ArcEdge)):
            raise BadValue(tr("The plastic would have no radius left inside that sewn line."), "outside")
        return self

    @property
    def edges(self) -> tuple[Edge, ...]:
        """Edges described by what they sew are converted with F25."""
        found: list[Edge] = []
        for side, size, usable in (
            ("outside", self.outside, self.usable),
            ("inside", self.inside, self.usable_inside),
        ):
            if size is None:
                continue
            radius = float(size.mm) / (2 if self.measured == "diameter" else 1)
            if self.by == "sewn":
                radius += float(self.label_foot.mm) * (-1 if side == "outside" else 1)
            length = whole_circle(radius) if usable is None else float(usable.mm)
            found.append(ArcEdge("outside" if side == "outside" else "inside", radius, length))
        return tuple(found)


class WaveRuler(Edged):
    """A wave by its pitch and height."""

    label: ClassVar[str] = tr("Wave")
    says: ClassVar[tuple[str, ...]] = ("period", "depth")
    order: ClassVar[int] = 13
    ranges: ClassVar[dict[str, tuple[str, str]]] = {
        "period": ("1/4 in", "40 in"), "depth": ("1/32 in", "20 in"), "length": _SIZE, "thickness": _THICK,
    }  # fmt: skip

    kind: Literal["wave"] = "wave"
    period: Length = asked("2 1/2 in", Form("length", tr("Crest to crest")))
    depth: Length = asked("1/2 in", Form("length", tr("Crest to trough")))
    length: Length = asked("12 in", Form("length", tr("Along")))

    @property
    def edges(self) -> tuple[Edge, ...]:
        """Its one edge."""
        return (WaveEdge(float(self.period.mm), float(self.depth.mm), float(self.length.mm)),)


class ZigzagTemplate(Edged):
    """A zigzag template, described by its points."""

    label: ClassVar[str] = tr("Zigzag template")
    says: ClassVar[tuple[str, ...]] = ("pitch", "rise")
    order: ClassVar[int] = 14
    ranges: ClassVar[dict[str, tuple[str, str]]] = {
        "pitch": ("1/8 in", "40 in"), "rise": ("1/8 in", "40 in"), "length": _SIZE, "thickness": _THICK,
    }  # fmt: skip

    kind: Literal["zigzag template"] = "zigzag template"
    pitch: Length = asked("1 1/2 in", Form("length", tr("Point to point")))
    rise: Length = asked("3/4 in", Form("length", tr("How high")))
    length: Length = asked("10 in", Form("length", tr("Along")))

    @property
    def edges(self) -> tuple[Edge, ...]:
        """Its one edge."""
        return (ZigzagEdge(float(self.pitch.mm), float(self.rise.mm), float(self.length.mm)),)


class CombinedRuler(Edged):
    """A ruler with several edges: a straight one, curves, or both."""

    label: ClassVar[str] = tr("Several edges")
    says: ClassVar[tuple[str, ...]] = ("straight", "outside")
    order: ClassVar[int] = 15
    ranges: ClassVar[dict[str, tuple[str, str]]] = {
        "straight": _SIZE, "width": _SIZE, "outside": ("1/4 in", "200 in"), "usable": ("1/4 in", "100 in"),
        "inside": ("1/4 in", "200 in"), "usable_inside": ("1/4 in", "100 in"), "thickness": _THICK,
    }  # fmt: skip

    kind: Literal["combined"] = "combined"
    straight: Length | None = asked("6 in", Form("length", tr("Straight edge, along"), empty=tr("none")))
    width: Length = asked("2 in", Form("length", tr("Across")))
    etched: Etched = asked("quarters", ETCHED)
    outside: Length | None = asked("7 in", Form("length", tr("Outside curve, radius"), empty=tr("none")))
    usable: Length = asked("6 in", Form("length", tr("usable along it")))
    inside: Length | None = asked(None, Form("length", tr("Inside curve, radius"), empty=tr("none")))
    usable_inside: Length = asked("6 in", Form("length", tr("usable along that")))

    @field_validator("etched", mode="before")
    @classmethod
    def _etched(cls, value: Any, info: ValidationInfo) -> Etched:
        return check_etched(value, (info.context or {}).get("unit", "in"))

    @model_validator(mode="after")
    def _has_an_edge(self) -> CombinedRuler:
        if not self.edges:
            raise BadValue(tr("Give at least one of its edges."), "straight")
        return self

    @property
    def edges(self) -> tuple[Edge, ...]:
        """The edges that are given."""
        found: list[Edge] = []
        if self.straight is not None:
            found.append(StraightEdge(self.straight.mm, self.width.mm, etched_lines(self.etched, self.width)))
        if self.outside is not None:
            found.append(ArcEdge("outside", float(self.outside.mm), float(self.usable.mm)))
        if self.inside is not None:
            found.append(ArcEdge("inside", float(self.inside.mm), float(self.usable_inside.mm)))
        return tuple(found)


class Stencil(Thing):
    """A stencil for a grid: ``side`` across, lines every ``grid``."""

    label: ClassVar[str] = tr("Stencil")
    says: ClassVar[tuple[str, ...]] = ("side", "grid")
    group: ClassVar[Group] = "marking"
    order: ClassVar[int] = 21
    ranges: ClassVar[dict[str, tuple[str, str]]] = {"side": _SIZE, "grid": ("1/16 in", "20 in")}

    kind: Literal["stencil"] = "stencil"
    side: Length = asked("18 in", Form("length", tr("Side")))
    grid: Length = asked("1 in", Form("length", tr("Spacing of its lines")))
