"""Supplies: tape and markers, threads, bobbins, battings."""

from __future__ import annotations

from typing import ClassVar, Literal

from kenzet.core.kit.things.base import Group, Thing
from kenzet.core.numbers.measure import Length
from kenzet.core.params import Choice, Form, asked
from kenzet.texts import tr

_SORTS = ("pen that washes out", "pen that fades", "chalk", "powder", "pencil", "crease", "heat pen")
_OFF = ("water", "brushing", "time", "an iron")


class Tape(Thing):
    """Tape to sew along; a strip can be used ``moves`` times before it loses its tack (F37)."""

    label: ClassVar[str] = tr("Tape")
    says: ClassVar[tuple[str, ...]] = ("width",)
    group: ClassVar[Group] = "marking"
    order: ClassVar[int] = 22
    ranges: ClassVar[dict[str, tuple[str, str]]] = {
        "width": ("1/16 in", "6 in"),
        "roll": ("12 in", "10000 in"),
    }

    kind: Literal["tape"] = "tape"
    width: Length = asked("1 in", Form("length", tr("Width")))
    roll: Length = asked("720 in", Form("length", tr("On the roll")))
    moves: int = asked(5, Form("count", tr("A strip can be moved")), ge=1, le=40)


class Marker(Thing):
    """A marking tool, how its marks are removed, and how long they stay."""

    label: ClassVar[str] = tr("Marking tool")
    says: ClassVar[tuple[str, ...]] = ("sort",)
    group: ClassVar[Group] = "marking"
    order: ClassVar[int] = 23

    kind: Literal["marker"] = "marker"
    sort: Literal["pen that washes out", "pen that fades", "chalk", "powder", "pencil", "crease", "heat pen"] = asked(
        "pen that washes out", Form("choice", tr("It is a"), choices=tuple(Choice(sort, tr(sort)) for sort in _SORTS))
    )  # fmt: skip
    colour: str = asked("blue", Form("text", tr("Color")))
    off: Literal["water", "brushing", "time", "an iron"] = asked(
        "water", Form("choice", tr("Removed by"), choices=tuple(Choice(way, tr(way)) for way in _OFF))
    )
    hours: int | None = asked(
        None, Form("count", tr("Fades after, in hours"), empty=tr("stays")), ge=1, le=2000
    )


class Thread(Thing):
    """A thread."""

    label: ClassVar[str] = tr("Thread")
    says: ClassVar[tuple[str, ...]] = ("weight",)
    group: ClassVar[Group] = "supplies"
    order: ClassVar[int] = 31
    ranges: ClassVar[dict[str, tuple[str, str]]] = {"long": ("36 in", "39000 in")}

    kind: Literal["thread"] = "thread"
    colour: str = asked("#8a8f98", Form("text", tr("Color")), pattern=r"^#[0-9a-fA-F]{6}$")
    weight: str = asked("50", Form("text", tr("Weight")))
    long: Length = asked("18000 in", Form("length", tr("On the spool")))


class Bobbin(Thing):
    """A bobbin as the quilter winds it (F41)."""

    label: ClassVar[str] = tr("Bobbin")
    says: ClassVar[tuple[str, ...]] = ("holds",)
    group: ClassVar[Group] = "supplies"
    order: ClassVar[int] = 32
    ranges: ClassVar[dict[str, tuple[str, str]]] = {"holds": ("36 in", "20000 in")}

    kind: Literal["bobbin"] = "bobbin"
    holds: Length = asked("2500 in", Form("length", tr("Holds")))


class Batting(Thing):
    """The middle layer; ``limit`` is the widest gap that its maker allows, ``thickness`` its loft.

    ``shrinks`` is per cent of a side in the wash, ``takes_up`` per cent of a side when quilted. ``rise`` is its
    height between two lines an inch apart, in per cent of its thickness; ``firmness`` is how firm quilting makes
    it, in per cent of the usual. Sewn swatches give both.
    """

    label: ClassVar[str] = tr("Batting")
    says: ClassVar[tuple[str, ...]] = ("limit",)
    group: ClassVar[Group] = "supplies"
    order: ClassVar[int] = 33
    ranges: ClassVar[dict[str, tuple[str, str]]] = {
        "limit": ("1/2 in", "30 in"),
        "thickness": ("1/32 in", "2 in"),
    }

    kind: Literal["batting"] = "batting"
    limit: Length = asked("8 in", Form("length", tr("Widest gap it allows"), tr("See its label.")))
    thickness: Length = asked("1/8 in", Form("length", tr("Thickness")))
    shrinks: int | None = asked(
        None,
        Form("count", tr("Shrinks in the wash, %"), tr("See its label."), empty=tr("not known")),
        ge=0,
        le=20,
    )
    takes_up: int | None = asked(
        None,
        Form(
            "count",
            tr("Quilting takes up, %"),
            tr("Of a side, before washing. Your swatches measure it."),
            empty=tr("not known"),
            minor=True,
        ),
        ge=0,
        le=20,
    )
    rise: int = asked(
        80,
        Form(
            "count",
            tr("Rises between lines 1 in apart, %"),
            tr("Of its thickness. Your swatches measure it."),
            minor=True,
        ),
        ge=10,
        le=100,
    )
    firmness: int = asked(
        100,
        Form(
            "count",
            tr("How firm it feels quilted, %"),
            tr("100 is usual. Your swatches measure it."),
            minor=True,
        ),
        ge=30,
        le=300,
    )
