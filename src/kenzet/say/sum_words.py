"""The sum that places a line, in the order in which the hands do it."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

from kenzet.core.kit.kit import Kit
from kenzet.core.numbers.measure import Length, Unit, little
from kenzet.core.ruler.offset_sums import THAT_LINE, Mode, OffsetSum, etched_line_for
from kenzet.say import words as w
from kenzet.texts import tr


class Term(w.Said):
    """A term of a sum and its label."""

    words: w.Words
    label: str


class Offer(w.Said):
    """What one click sets: a spacing, everything that changes with it (``values``), and the effect."""

    value: str
    values: dict[str, str]
    words: w.Words
    label: str
    now: bool


class SumView(w.Said):
    """The sum of a spacing: terms that add up to ``total``, or a sentence that says why there are none."""

    kind: Literal["etched", "edge", "behind", "gauge", "none"]
    terms: list[Term]
    total: Term
    sentence: w.Words
    instead: w.Words
    offers: list[Offer]
    ruler: str


SumKind = Literal["etched", "edge", "behind", "gauge", "none"]


def the_sum(total: OffsetSum, kit: Kit, unit: Unit, on: str = "", result: str = "") -> SumView:
    """The sum in the order in which the hands do it, or why no etched line fits.

    By default it is measured ``on`` the last line, and its ``result`` is the distance between lines.
    """
    on, result = on or tr("your last line"), result or tr("apart")
    foot = Term(words=[w.shown(total.foot, unit, bare=True)], label=tr("your foot"))
    makes = total.spacing + (total.out if abs(total.out) > THAT_LINE else 0)
    made = Term(words=[w.shown(makes, unit, bare=True)], label=result)
    ruler = kit.rulers[total.ruler].name if total.ruler in kit.rulers else ""

    def view(kind: SumKind, terms: Sequence[Term] = (), sentence: w.Words | None = None) -> SumView:
        return SumView(
            kind=kind,
            terms=list(terms),
            total=made,
            sentence=sentence or [],
            instead=[],
            offers=[],
            ruler=ruler,
        )

    if total.mode in (Mode.TOE, Mode.BAR):
        return view("gauge" if total.gauge else "none", sentence=_by_gauge(total, on, unit))
    if total.etched is not None and total.etched > 0:
        etched = Term(words=[w.shown(total.etched, unit, bare=True)], label=tr("mark on {on}", on=on))
        return view("etched", [etched, foot])
    if total.etched is not None:
        return view("edge", [Term(words=[tr("edge")], label=tr("on {on}", on=on)), foot])
    if total.behind > 0:
        said: w.Words = w.told(
            "This is closer than your foot’s offset, so no etched line works. Put the ruler’s edge {behind} behind {on}. That much of it then shows beyond the plastic.",
            behind=w.shown(total.behind, unit),
            on=on,
        )
        return view("behind", sentence=said)
    if not total.ruler:
        return view(
            "none",
            sentence=[tr("None of your straight rulers is safe with this foot: see Kit. Mark every line.")],
        )
    none = view("none", sentence=_no_line(total, unit))
    none.offers = _near(total, unit)
    return none


def _by_gauge(total: OffsetSum, on: str, unit: Unit) -> w.Words:
    spacing = w.shown(total.spacing, unit)
    if total.gauge == "guide bar":
        return w.told(
            "Set the guide bar {spacing} from the needle and keep it on {on}.", spacing=spacing, on=on
        )
    if total.gauge:
        return w.told(
            "Let the foot's {gauge} run along {on}: it sews {spacing} beside it.",
            gauge=total.gauge,
            on=on,
            spacing=spacing,
        )
    return [tr("This is wider than your guide bar reaches. Mark every line and sew on the marks.")]


def _no_line(total: OffsetSum, unit: Unit) -> w.Words:
    return w.told(
        "No etched line fits: {wanted} is the mark you would need. Use a ruler that has it, mark every line, or choose a spacing close to it:",
        wanted=w.shown(total.wanted, unit),
    )


def _near(total: OffsetSum, unit: Unit) -> list[Offer]:
    offers = []
    for etched, spacing in total.nearest:
        off = spacing - total.spacing
        mark: w.Words = (
            [tr("the edge")]
            if etched == 0
            else w.told("{etched} mark", etched=w.shown(etched, unit, bare=True))
        )
        offers.append(
            Offer(
                value=Length.near(spacing, unit).text,
                values={"spacing": Length.near(spacing, unit).text},
                words=[*mark, " → ", w.shown(spacing, unit)],
                label=tr("{length} wider", length=little(abs(off), unit))
                if off > 0
                else tr("{length} closer", length=little(abs(off), unit)),
                now=False,
            )
        )
    return offers


def instead(total: OffsetSum, unit: Unit) -> w.Words:
    """The other way to place the same line: marked along the ruler, without the foot's offset."""
    if total.mode is not Mode.RULER_FOOT or (total.etched is None and not total.behind):
        return []
    drawn = etched_line_for(total.spacing, total.foot, Mode.DRAWING)
    return w.told(
        "If you mark it instead: use the {drawn} mark, no foot.", drawn=w.shown(drawn, unit, bare=True)
    )


def sum_line(view: SumView) -> str:
    """A sum in one line, for paper."""
    if not view.terms:
        return w.plain(view.sentence)
    said = " + ".join(f"{w.plain(term.words)} {term.label}" for term in view.terms)
    ruler = tr(" With “{ruler}”.", ruler=view.ruler) if view.ruler else ""
    return f"{said} = {w.plain(view.total.words)} {view.total.label}.{ruler}"


def tag(total: OffsetSum, on: str, unit: Unit) -> w.Words:
    """The short label beside the ruler: what lies on what."""
    if total.etched is not None:
        mark: w.Words = (
            [tr("edge")]
            if total.etched == 0
            else w.told("{etched} mark", etched=w.shown(total.etched, unit, bare=True))
        )
        return w.told("{mark} on {on}", mark=mark, on=on)
    if total.behind > 0:
        return w.told("edge {behind} behind {on}", behind=w.shown(total.behind, unit), on=on)
    return [tr("no etched line fits")]
