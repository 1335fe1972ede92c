"""What distinguishes tools and supplies, and what a foot or a printer does."""

from __future__ import annotations

from collections.abc import Sequence

from kenzet.core.kit.edges import ArcEdge, Edge
from kenzet.core.kit.inventory import Slot
from kenzet.core.kit.kit import Kit
from kenzet.core.kit.things import Thing
from kenzet.core.marks.printer import Printer
from kenzet.core.numbers.measure import COARSE, Length, Unit, in_words
from kenzet.say import words as w
from kenzet.texts import tr

SLOT_LABELS: dict[Slot, str] = {
    "machine": tr("Machine"), "foot": tr("Ruler foot"), "walking": tr("Walking foot"), "batting": tr("Batting"), "bobbin": tr("Bobbin"), "thread": tr("Thread"),
}  # fmt: skip


def kit_sentence(kit: Kit, unit: Unit) -> w.Words:
    """The effect of the foot on every mark."""
    if kit.sew_with == "walking foot":
        return [
            tr(
                "With the walking foot you sew on marked lines, or run a toe or the guide bar along the line before."
            )
        ]
    return [
        tr(
            "Your foot is counted in: each mark sews {offset} farther out than it says.",
            offset=in_words(kit.foot_offset, unit),
        )
    ]


def thing_words(thing: Thing, unit: Unit) -> w.Words:
    """What distinguishes it from others of its kind."""
    words: w.Words = []
    for value in (getattr(thing, name) for name in thing.says):
        if value is not None:
            said = w.shown(value.mm, unit) if isinstance(value, Length) else tr(str(value))
            words += [" × ", said] if words else [said]
    return words


def printer_words(printer: Printer) -> str:
    """How sheets are corrected for a printer."""
    across, up = (f"{(fit - 1) * 100:+.1f}".replace("-", "−") for fit in (printer.across, printer.up))
    if across == up:
        return tr("true") if across in ("+0.0", "−0.0") else tr("corrected by {across} %", across=across)
    return tr("corrected by {across} % across and {up} % up", across=across, up=up)


def curves_sewn(edges: Sequence[Edge], kit: Kit, unit: Unit) -> w.Words:
    """The radii that the curves of a ruler sew (F25), and the distance between two passes along both sides of it
    without moving it."""
    if kit.sew_with == "walking foot":
        return []
    foot = float(kit.foot_offset)
    curves = [edge for edge in edges if isinstance(edge, ArcEdge) and edge.sewn(foot) > 0]
    if not curves:
        return []
    said: w.Words = [tr("With your foot it sews a radius of ")]
    for k, edge in enumerate(curves):
        said += w.told(
            "{which}{sewn} along its {side}",
            which=tr(" and of ") if k else "",
            sewn=w.shown(edge.sewn(foot), unit, COARSE[unit] / 4),
            side=tr(edge.side),
        )
    if len(curves) == len(edges) == 2:  # of one band
        apart = abs(curves[0].sewn(foot) - curves[1].sewn(foot))
        said += w.told(
            ": without moving the ruler, the two lie {apart} apart",
            apart=w.shown(apart, unit, COARSE[unit] / 4),
        )
    return [*(one for one in said if one != ""), "."]
