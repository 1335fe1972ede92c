"""How a quilt is to be sewn: the cost of thread cuts and travel, and the order."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import Field, field_validator

from kenzet.core.numbers.measure import Length
from kenzet.core.params import Choice, Form, Frozen, asked, in_range
from kenzet.texts import tr

Order = Literal["centre outward", "edge to edge", "column by column", "from the bottom", "my own"]
Ditch = Literal["with the rest", "first", "last"]
Families = Literal["one set whole", "in any order", "one by one"]
Corner = Literal["lower left", "lower right", "upper left", "upper right"]
WholeCell = Literal["first whole cell"]
Place = Annotated[str, Field(pattern=r"^[a-z0-9-]{1,40}$")]
PartKey = Annotated[str, Field(min_length=1, max_length=80)]
Coordinate = Annotated[float, Field(ge=-1e5, le=1e5, allow_inf_nan=False)]
ZoneKey = Annotated[str, Field(min_length=1, max_length=80)]
Turn = Literal["first", "last"]
Retrace = Literal["wanted", "allowed", "forbidden"]
ThreadEnds = Literal["tie and bury", "tiny stitches", "run off", "caught by the edge"]


WayWord = Annotated[str, Field(pattern=r"^[0-9a-f]{16}$")]
Edge = Annotated[int, Field(ge=0, le=100_000)]


class Avoided(Frozen):
    """A spot of a part (its key), mm in its coordinates: a seam that is ``bulky`` there, or ``never`` to be
    travelled along."""

    part: PartKey
    x: Coordinate
    y: Coordinate
    how: Literal["bulky", "never"]


class Pace(Frozen):
    """The length sewn in a minute with each technique, and the seconds for hand movements; our estimates until
    they are changed."""

    straight: Length = asked("45 in", Form("length", tr("Along a ruler")))
    curved: Length = asked("30 in", Form("length", tr("Along a curved edge")))
    walking: Length = asked("60 in", Form("length", tr("With the walking foot")))
    freehand: Length = asked("70 in", Form("length", tr("Freehand")))
    travel: Length = asked("25 in", Form("length", tr("Travelling, in a ditch")))
    lay: int = asked(12, Form("count", tr("Seconds to place a ruler")), ge=0, le=600)
    turn: int = asked(3, Form("count", tr("Seconds for a turn")), ge=0, le=120)

    @field_validator("straight", "curved", "walking", "freehand", "travel")
    @classmethod
    def _far(cls, value: Length) -> Length:
        return in_range(value, "1 in", "400 in", tr("What is sewn in a minute"))


class Stitching(Frozen):
    """Saved with the quilt. ``stops`` is how much a thread cut is minded, 0 to 10; ``same_way`` the number of lines
    in the same direction before a warning, ``over`` the greatest number of threads over one place.

    ``own`` is a hand-made order of places, as far as it goes; ``turns`` are zones sewn before or after all others;
    ``pins`` are by part key; ``ways`` are the travelled edges of routes found by a longer search, by fingerprint.
    """

    order: Order = asked(
        "centre outward",
        Form(
            "choice", tr("Order"), tr("From block to block."),
            choices=(
                Choice("centre outward", tr("center outward")), Choice("edge to edge", tr("edge to edge")),
                Choice("column by column", tr("column by column")), Choice("from the bottom", tr("from the bottom")),
                Choice("my own", tr("as I drag it")),
            ),
        ),
    )  # fmt: skip
    stops: int = asked(
        5,
        Form("count", tr("How much you mind a thread cut (0–10)"), tr("0: not at all. 10: avoid every cut.")),
        ge=0,
        le=10,
    )
    ends: ThreadEnds = asked(
        "tie and bury",
        Form(
            "choice", tr("Threads end by"),
            choices=(
                Choice("tie and bury", tr("tying and burying")), Choice("tiny stitches", tr("tiny stitches")),
                Choice("run off", tr("running off into the batting")), Choice("caught by the edge", tr("being caught by the edge")),
            ),
        ),
    )  # fmt: skip
    ditch: Ditch = asked(
        "with the rest",
        Form(
            "choice", tr("Stitching in the ditch"), tr("First, to anchor the quilt, or last, around the blocks."),
            choices=(Choice("with the rest", tr("with the rest")), Choice("first", tr("first")), Choice("last", tr("last"))),
        ),
    )  # fmt: skip
    families: Families = asked(
        "one set whole",
        Form(
            "choice", tr("Sets of a fill"), tr("One whole set first: a grid’s second direction after the first, uprights after rows."),
            choices=(
                Choice("one set whole", tr("one set whole, then the next")), Choice("in any order", tr("as it comes")),
                Choice("one by one", tr("each over the whole quilt")),
            ),
        ),
    )  # fmt: skip
    retrace: Retrace = asked(
        "allowed",
        Form(
            "choice", tr("Resewing a line"), tr("As a way to travel."),
            choices=(Choice("wanted", tr("wanted")), Choice("allowed", tr("allowed")), Choice("forbidden", tr("never"))),
        ),
    )  # fmt: skip
    steps: Literal["allowed", "never"] = asked(
        "allowed",
        Form("choice", tr("Short steps from ring to ring"), tr("Across open fabric."), choices=(Choice("allowed", tr("allowed")), Choice("never", tr("never")))),
    )  # fmt: skip
    longest_step: Length = asked(
        "1 1/4 in",
        Form(
            "length",
            tr("Longest step"),
            tr("If rings are farther apart, start a new thread."),
            only_with=("steps", ("allowed",)),
        ),
    )
    turning: Literal["allowed", "never"] = asked(
        "never",
        Form(
            "choice", tr("Turning where lines cross"), tr("Never: sew every line from end to end."),
            choices=(Choice("never", tr("never")), Choice("allowed", tr("allowed"))),
        ),
    )  # fmt: skip
    rim: Literal["allowed", "never"] = asked(
        "allowed",
        Form(
            "choice", tr("Travelling along the quilt's edge"), tr("Where the binding covers it."),
            choices=(Choice("allowed", tr("allowed")), Choice("never", tr("never"))),
        ),
    )  # fmt: skip
    across: Literal["allowed", "never"] = asked(
        "allowed",
        Form(
            "choice", tr("Travelling across a freehand texture"), tr("The texture hides travel."),
            choices=(Choice("allowed", tr("allowed")), Choice("never", tr("never"))),
        ),
    )  # fmt: skip
    same_way: int = asked(
        3,
        Form(
            "count",
            tr("Most lines in a row in one direction"),
            tr("More can shift the layers, and Kenzet warns you."),
        ),
        ge=1,
        le=50,
    )
    over: int = asked(
        4,
        Form(
            "count",
            tr("Most threads in one place"),
            tr("More make a lump, so Kenzet looks for other routes."),
        ),
        ge=1,
        le=9,
    )
    least_line: Length = asked(
        "1/4 in",
        Form(
            "length",
            tr("The shortest line to sew"),
            tr("Shorter pieces, cut off at a corner or an edge, are left out."),
        ),
    )
    rest: int = asked(
        25, Form("count", tr("Minutes of sewing before a rest"), tr("Rest sooner if your wrist or shoulder hurts.")), ge=5, le=180
    )  # fmt: skip
    pace: Pace = Pace()
    own: Annotated[tuple[Place, ...], Field(max_length=2000)] = ()
    turns: Annotated[dict[ZoneKey, Turn], Field(max_length=200)] = Field(default_factory=dict)
    pins: Annotated[dict[PartKey, PinnedEnds], Field(max_length=200)] = Field(default_factory=dict)
    avoided: Annotated[tuple[Avoided, ...], Field(max_length=200)] = ()
    ways: Annotated[
        dict[WayWord, Annotated[tuple[Edge, ...], Field(min_length=1, max_length=3000)]], Field(max_length=60)
    ] = Field(default_factory=dict)

    @field_validator("families", mode="before")
    @classmethod
    def _families(cls, value: Any) -> Any:
        """Reads "as it comes" in older plans, which nobody chose, as the default."""
        return "one set whole" if value == "as it comes" else value

    @field_validator("longest_step")
    @classmethod
    def _step(cls, value: Length) -> Length:
        return in_range(value, "1/16 in", "10 in", tr("A step from ring to ring"))

    @field_validator("least_line")
    @classmethod
    def _least_line(cls, value: Length) -> Length:
        return in_range(value, "0 in", "4 in", tr("The shortest line to sew"))

    @property
    def step(self) -> float:
        """The longest step across open fabric from ring to ring, mm; 0 if steps are not allowed."""
        return float(self.longest_step.mm) if self.steps == "allowed" else 0.0


class PinnedEnds(Frozen):
    """The corners near which the route through a part begins and ends; None if free. It may also begin at the
    first whole cell of a grid."""

    start: Corner | WholeCell | None = None
    end: Corner | None = None
