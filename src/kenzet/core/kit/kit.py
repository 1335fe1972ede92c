"""What a quilt is planned with: copies of the quilter's tools and supplies, so that a plan keeps its meaning."""

from __future__ import annotations

from fractions import Fraction
from functools import cached_property
from typing import Annotated, Any, Literal, cast

from pydantic import AfterValidator, Field, field_validator

from kenzet.core.kit.compatibility import foot_fault, ruler_fault
from kenzet.core.kit.edges import Edge, StraightEdge
from kenzet.core.kit.things import AnyEdged, AnyTool, Edged, Thing
from kenzet.core.kit.things.machine import Machine, RulerFoot, WalkingFoot
from kenzet.core.kit.things.rulers import StraightRuler
from kenzet.core.kit.things.supplies import Batting, Bobbin, Marker, Tape, Thread
from kenzet.core.numbers.measure import MM_PER, Length, Unit
from kenzet.core.params import Frozen, in_range, plain_name
from kenzet.texts import tr

ThingKey = Annotated[str, Field(pattern=r"^[a-z0-9][a-z0-9-]{0,59}$")]
SewWith = Literal["ruler foot", "walking foot"]


class Kit(Frozen):
    """The items a quilt is planned with, each with its key among the quilter's tools and supplies.

    ``tools`` are for marking. ``tolerance`` is the error of a line that the quilter accepts, ``spread`` the
    scatter of hand and eye (F36), ``hand`` the length sewn before the hand on the ruler moves, ``stitch`` the
    stitch length, ``seen_from`` the viewing distance. ``needle`` and ``tension`` are notes for the log.
    """

    machine: Machine = Machine()
    machine_key: ThingKey | None = None
    foot: RulerFoot = RulerFoot()
    foot_key: ThingKey | None = None
    walking: WalkingFoot | None = None
    walking_key: ThingKey | None = None
    rulers: Annotated[dict[ThingKey, AnyEdged], Field(max_length=80)] = Field(
        default_factory=lambda: {"straight-ruler": cast(Edged, StraightRuler())}
    )
    tools: Annotated[dict[ThingKey, AnyTool], Field(max_length=60)] = Field(
        default_factory=lambda: {
            "tape": cast(Thing, Tape()),
            "blue-pen": Marker(name=tr("Blue pen")),
            "chalk": Marker(name=tr("Chalk"), sort="chalk", colour="white", off="brushing"),
        }
    )
    batting: Batting = Batting()
    batting_key: ThingKey | None = None
    bobbin: Bobbin = Bobbin()
    bobbin_key: ThingKey | None = None
    thread: Thread = Thread(name=tr("Gray thread"))
    thread_key: ThingKey | None = None
    sew_with: SewWith = "ruler foot"
    marking_step: Length = Length.parse("1/8 in")
    tolerance: Length = Length.parse("1/8 in")
    spread: Length = Length.parse("1/32 in")
    hand: Length = Length.parse("5 in")
    stitch: Length = Length.parse("2.5 mm")
    seen_from: Length = Length.parse("72 in")
    needle: Annotated[str, Field(max_length=40), AfterValidator(plain_name)] = ""
    tension: Annotated[str, Field(max_length=40), AfterValidator(plain_name)] = ""

    def step_in(self, unit: Unit) -> Fraction:
        """The step to which measured figures are rounded in ``unit``, exact mm: the marking step, or, if that is
        in the other unit, half a millimetre or a sixteenth of an inch."""
        if self.marking_step.unit == unit:
            return self.marking_step.mm
        return Fraction(1, 2) if unit == "mm" else MM_PER["in"] / 16

    @field_validator("marking_step")
    @classmethod
    def _marking_step(cls, step: Length) -> Length:
        return in_range(step, "1/64 in", "1 in", tr("The marking step"))

    @field_validator("tolerance", "spread")
    @classmethod
    def _tolerance(cls, length: Length) -> Length:
        return in_range(length, "0 in", "1 in", tr("The largest error of a line"))

    def changed(self, **values: Any) -> Kit:
        """The kit with other ``values``; no cached results are taken over."""
        mine = {name: getattr(self, name) for name in Kit.model_fields}
        return Kit(**{**mine, **values})

    def for_zone(self, ruler: str | None, sew_with: SewWith | None, begin_other: bool = False) -> Kit:
        """The kit for a zone with a chosen ruler, with the other foot, or with lines that begin on the other side.
        In the last case rulers lie on the other side of the needle too."""
        values: dict[str, Any] = {}
        if begin_other:
            throat = "left" if self.machine.throat == "right" else "right"
            values["machine"] = self.machine.model_copy(update={"throat": throat})
        if ruler in self.rulers:
            values["rulers"] = {ruler: self.rulers[ruler]}
        if sew_with and sew_with != self.sew_with:
            values["sew_with"] = sew_with
        return self.changed(**values) if values else self

    @field_validator("hand")
    @classmethod
    def _hand(cls, length: Length) -> Length:
        return in_range(length, "1 in", "20 in", tr("What your hand covers"))

    @field_validator("stitch")
    @classmethod
    def _stitch(cls, length: Length) -> Length:
        return in_range(length, "0.5 mm", "8 mm", tr("A stitch"))

    @field_validator("seen_from")
    @classmethod
    def _seen_from(cls, length: Length) -> Length:
        return in_range(length, "12 in", "600 in", tr("The viewing distance"))

    @property
    def foot_offset(self) -> Fraction:
        """The foot's offset r, exact mm: from the needle to the rim of the ruler foot on the side where rulers
        lie, away from the machine's body. A collar is included (F46)."""
        collar = self.foot.collar
        side: Literal["left", "right"] = "left" if self.machine.throat == "right" else "right"
        return self.foot.to_rim_at(side) + (collar.mm if collar else 0)

    @cached_property
    def usable(self) -> dict[str, Edged]:
        """The rulers at hand that are safe with foot and machine."""
        if foot_fault(self.machine, self.foot):
            return {}
        at_hand = {key: ruler for key, ruler in self.rulers.items() if ruler.state == "at hand"}
        return {key: ruler for key, ruler in at_hand.items() if not ruler_fault(self.foot, ruler)}

    @cached_property
    def edges(self) -> tuple[tuple[str, Edge], ...]:
        """Every edge of the usable rulers, with the key of its ruler."""
        return tuple((key, edge) for key, ruler in self.usable.items() for edge in ruler.edges)

    @cached_property
    def straight(self) -> tuple[tuple[str, StraightEdge], ...]:
        """The straight edges among them."""
        return tuple((key, edge) for key, edge in self.edges if isinstance(edge, StraightEdge))

    @cached_property
    def sums(self) -> dict[object, object]:
        """A cache of ruler placements computed with this kit, by question."""
        return {}
