"""Machines and their feet."""

from __future__ import annotations

from fractions import Fraction
from typing import ClassVar, Literal

from kenzet.core.kit.things.base import Group, Thing
from kenzet.core.numbers.measure import Length
from kenzet.core.params import Choice, Form, Frozen, asked
from kenzet.texts import tr

Shank = Literal["low", "high"]
SHANKS = (Choice("low", tr("low")), Choice("high", tr("high")))


class Machine(Thing):
    """A domestic or sit-down machine. ``throat`` is the side of the needle on which its body is."""

    label: ClassVar[str] = tr("Machine")
    says: ClassVar[tuple[str, ...]] = ("opening", "height")
    group: ClassVar[Group] = "machine"
    order: ClassVar[int] = 1
    ranges: ClassVar[dict[str, tuple[str, str]]] = {
        "opening": ("3 in", "40 in"), "height": ("2 in", "20 in"),
    }  # fmt: skip

    kind: Literal["machine"] = "machine"
    build: Literal["domestic", "sit-down"] = asked(
        "domestic", Form("choice", tr("It is a"), choices=(Choice("domestic", tr("domestic machine")), Choice("sit-down", tr("sit-down machine"))))
    )  # fmt: skip
    throat: Literal["right", "left"] = asked(
        "right",
        Form(
            "choice", tr("The machine’s body is"), tr("Rulers are kept on the other side, where nothing is in their way."),
            choices=(Choice("right", tr("right of the needle")), Choice("left", tr("left of the needle"))),
        ),
    )  # fmt: skip
    opening: Length = asked("8 in", Form("length", tr("Opening, needle to body")))
    height: Length = asked("5 in", Form("length", tr("Opening, its height")))
    shank: Shank = asked(
        "high", Form("choice", tr("Takes feet of a"), choices=SHANKS, help=tr("The height of the shank."))
    )
    table: Literal["yes", "no"] = asked(
        "yes", Form("choice", tr("Extension table"), tr("A ruler needs a flat surface to lie on."), choices=(Choice("yes", tr("yes")), Choice("no", tr("no"))))
    )  # fmt: skip


class Checked(Frozen):
    """An earlier offset of a foot and how it was measured; ``until`` is the ISO date on which it was replaced."""

    offset: Length
    until: str = ""
    how: str = ""


_OFF = tr("Where the needle is not in the middle of the foot.")


class RulerFoot(Thing):
    """A round foot for thick rulers. ``offset`` is r, from needle to rim; a collar adds its width (F46).

    ``left`` … ``back`` are r measured with the ruler on that side of the needle, for a needle that is not in the
    center of its foot.
    """

    label: ClassVar[str] = tr("Ruler foot")
    says: ClassVar[tuple[str, ...]] = ("offset",)
    group: ClassVar[Group] = "machine"
    order: ClassVar[int] = 2
    ranges: ClassVar[dict[str, tuple[str, str]]] = {
        "offset": ("1/16 in", "1 in"), "collar": ("1/16 in", "4 in"),
        **dict.fromkeys(("left", "right", "front", "back"), ("1/16 in", "1 in")),
        "thinnest": ("1 mm", "20 mm"), "thickest": ("1 mm", "20 mm"),
    }  # fmt: skip

    kind: Literal["ruler foot"] = "ruler foot"
    offset: Length = asked(
        "1/4 in",
        Form(
            "length",
            tr("Needle to rim"),
            tr("Half of the foot's width, where the needle is in its middle."),
        ),
    )
    measured: Literal["to the rim", "across"] = asked(
        "to the rim",
        Form(
            "choice", tr("That is"), tr("Across is the whole foot; half of it counts."),
            choices=(Choice("to the rim", tr("from the needle to the rim")), Choice("across", tr("right across the foot"))), after="offset",
        ),
    )  # fmt: skip
    shank: Shank = asked("high", Form("choice", tr("Shank"), choices=SHANKS))
    collar: Length | None = asked(
        None, Form("length", tr("A collar or ring adds"), empty=tr("none"), minor=True)
    )
    left: Length | None = asked(
        None, Form("length", tr("Ruler at its left"), _OFF, empty=tr("the same"), minor=True)
    )
    right: Length | None = asked(
        None, Form("length", tr("Ruler at its right"), _OFF, empty=tr("the same"), minor=True)
    )
    front: Length | None = asked(
        None, Form("length", tr("Ruler before it"), _OFF, empty=tr("the same"), minor=True)
    )
    back: Length | None = asked(
        None, Form("length", tr("Ruler behind it"), _OFF, empty=tr("the same"), minor=True)
    )
    thinnest: Length | None = asked(
        None, Form("length", tr("Rulers from"), tr("Thickness"), empty=tr("as its shank wants"), minor=True)
    )
    thickest: Length | None = asked(
        None, Form("length", tr("up to"), tr("Thickness"), empty=tr("as its shank wants"), minor=True)
    )
    history: tuple[Checked, ...] = ()

    @property
    def to_rim(self) -> Fraction:
        """r without a collar, exact mm."""
        return self.offset.mm / (2 if self.measured == "across" else 1)

    def to_rim_at(self, side: Literal["left", "right"]) -> Fraction:
        """r without a collar, exact mm, with the ruler on ``side`` of the needle."""
        own = self.left if side == "left" else self.right
        return self.to_rim if own is None else own.mm


class WalkingFoot(Thing):
    """A foot that feeds the top layer, for marked lines or with its toes as a gauge."""

    label: ClassVar[str] = tr("Walking foot")
    group: ClassVar[Group] = "machine"
    order: ClassVar[int] = 3
    ranges: ClassVar[dict[str, tuple[str, str]]] = {
        "left": ("1/16 in", "2 in"), "right": ("1/16 in", "2 in"), "bar": ("1/4 in", "12 in"),
    }  # fmt: skip

    kind: Literal["walking foot"] = "walking foot"
    left: Length | None = asked(
        "3/8 in", Form("length", tr("Needle to the left toe's edge"), empty=tr("not a gauge"))
    )
    right: Length | None = asked(
        "3/8 in", Form("length", tr("Needle to the right toe's edge"), empty=tr("not a gauge"))
    )
    bar: Length | None = asked("4 in", Form("length", tr("A guide bar reaches"), empty=tr("no guide bar")))


class Needle(Thing):
    """Needles."""

    label: ClassVar[str] = tr("Needles")
    says: ClassVar[tuple[str, ...]] = ("size",)
    group: ClassVar[Group] = "machine"
    order: ClassVar[int] = 4

    kind: Literal["needles"] = "needles"
    size: str = asked("80", Form("text", tr("Size")))
