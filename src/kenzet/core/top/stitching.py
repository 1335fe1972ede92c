"""How she likes to sew a quilt: what thread stops and travelling are worth to her, and in which order she goes."""

from __future__ import annotations

from typing import Literal

from kenzet.core.params import Choice, Form, Frozen, asked

Order = Literal["centre outward", "edge to edge", "column by column", "from the bottom"]
Retrace = Literal["wanted", "allowed", "forbidden"]
ThreadEnds = Literal["tie and bury", "tiny stitches", "run off", "caught by the edge"]


class Stitching(Frozen):
    """Kept with the quilt. ``stops`` is how much she minds a thread stop, 0 to 10; ``same_way`` how many lines she sews
    the same way in a row before she is told.
    """

    order: Order = asked(
        "centre outward",
        Form(
            "choice", "Order", "From block to block.",
            choices=(
                Choice("centre outward", "centre outward"), Choice("edge to edge", "edge to edge"),
                Choice("column by column", "column by column"), Choice("from the bottom", "from the bottom"),
            ),
        ),
    )  # fmt: skip
    stops: int = asked(5, Form("count", "A thread stop is", "0: no matter, 10: hated."), ge=0, le=10)
    ends: ThreadEnds = asked(
        "tie and bury",
        Form(
            "choice", "Threads end by",
            choices=(
                Choice("tie and bury", "tying and burying"), Choice("tiny stitches", "tiny stitches"),
                Choice("run off", "running off into the batting"), Choice("caught by the edge", "being caught by the edge"),
            ),
        ),
    )  # fmt: skip
    retrace: Retrace = asked(
        "allowed",
        Form(
            "choice", "Sewing over a line again", "To travel along it.",
            choices=(Choice("wanted", "wanted"), Choice("allowed", "allowed"), Choice("forbidden", "never")),
        ),
    )  # fmt: skip
    steps: Literal["allowed", "never"] = asked(
        "allowed",
        Form("choice", "Short steps from ring to ring", "Across open fabric.", choices=(Choice("allowed", "allowed"), Choice("never", "never"))),
    )  # fmt: skip
    same_way: int = asked(
        3,
        Form(
            "count", "Lines sewn the same way in a row, at most", "More make the layers creep: you are told."
        ),
        ge=1,
        le=50,
    )
