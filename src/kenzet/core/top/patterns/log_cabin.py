"""Logs around a center."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Annotated, ClassVar, Literal

from pydantic import Field

from kenzet.core.params import Choice, Form, asked
from kenzet.core.top.patterns.base import Grid, Pattern, Piece
from kenzet.texts import tr


class LogCabin(Pattern):
    """``rounds`` rounds of four logs, each as wide as the centre."""

    label: ClassVar[str] = tr("Log cabin")
    help: ClassVar[str] = tr("Logs around a center, one after the other or in opposite pairs.")
    offers: ClassVar[dict[str, dict[str, object]]] = {
        tr("Log cabin"): {"rounds": 3, "logs": "one by one"},
        tr("Courthouse steps"): {"rounds": 3, "logs": "in pairs"},
    }
    order: ClassVar[int] = 8

    kind: Literal["log-cabin"] = "log-cabin"
    rounds: Annotated[int, Field(ge=1, le=8)] = asked(3, Form("count", tr("Rounds")))
    logs: Literal["one by one", "in pairs"] = asked(
        "one by one",
        Form(
            "choice", tr("Logs are added"),
            choices=(Choice("one by one", tr("one by one")), Choice("in pairs", tr("in opposite pairs"))),
        ),
    )  # fmt: skip

    def roles(self) -> Sequence[str]:
        """Centre, light logs, dark logs."""
        return ("light logs", "dark logs", "centre")

    def draw(self, width: float, height: float) -> Sequence[Piece]:
        """Round 1 is next to the center."""
        n = self.rounds
        grid = Grid(width, height, 2 * n + 1, 2 * n + 1)
        pieces = [grid.box("centre", "centre", n, n)]
        for k in range(n):
            low, size = n - k, 2 * k + 1  # the square so far, in units
            if self.logs == "one by one":
                logs = {
                    "top": ("light logs", low, low + size, size, 1),
                    "right": ("light logs", low + size, low, 1, size + 1),
                    "bottom": ("dark logs", low, low - 1, size + 1, 1),
                    "left": ("dark logs", low - 1, low - 1, 1, size + 2),
                }
            else:
                logs = {
                    "top": ("light logs", low, low + size, size, 1),
                    "bottom": ("light logs", low, low - 1, size, 1),
                    "right": ("dark logs", low + size, low - 1, 1, size + 2),
                    "left": ("dark logs", low - 1, low - 1, 1, size + 2),
                }
            pieces += [grid.box(f"round-{k + 1}-{side}", *log) for side, log in logs.items()]
        return pieces
