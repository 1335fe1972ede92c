"""A proposed plan in words: its effect in one sentence, and its own figures."""

from __future__ import annotations

import hashlib
from collections.abc import Mapping

from kenzet import texts
from kenzet.core.balance.density import hand
from kenzet.core.balance.weigh import threads_for, weigh
from kenzet.core.kit.things.supplies import Thread
from kenzet.core.marks.totals import totals_of
from kenzet.core.numbers.measure import COARSE, Unit
from kenzet.core.plan.planner import plan_quilt
from kenzet.core.proposals.propose import Aim, Proposal
from kenzet.core.tolerances import VISIBLE
from kenzet.say import words as w
from kenzet.texts import tr

TITLES: dict[Aim, str] = {
    "quick": tr("Quickest"), "texture": tr("Most texture"), "straight": tr("All straight lines"), "soft": tr("Softest"),
}  # fmt: skip
_LOOSE = {"soft", "loose"}


class ZoneFill(w.Said):
    """The fill that a zone gets."""

    zone: str
    name: str
    words: w.Words


class ProposalView(w.Said):
    """A whole plan; its ``key`` is sent to accept it."""

    key: str
    aim: Aim
    title: str
    sentence: str
    rows: list[w.Row]
    zones: list[ZoneFill]


def key_of(proposal: Proposal) -> str:
    """A key that is equal for equal fills."""
    told = "|".join(f"{zone}:{fill.model_dump_json()}" for zone, fill in sorted(proposal.fills.items()))
    return hashlib.blake2b(told.encode(), digest_size=8).hexdigest()


def proposal_view(proposal: Proposal, threads: Mapping[str, Thread], unit: Unit) -> ProposalView:
    """The proposal with the figures it will have if it is accepted."""
    laid = proposal.laid
    found = weigh(laid)
    ranked, _ = threads_for(laid, found, threads)
    widest = max((gap for gap in found.gaps if gap.zone in proposal.fills), key=lambda gap: gap.width)
    alike = sum(pair.alike(proposal.wish.reads) for pair in found.pairs)
    feels = f"{tr(hand(found.spread.mean, laid.quilt.use, laid.quilt.kit.batting))}, {w.density(found.spread.mean, unit)}"
    rows = [
        w.Row(label=[tr("On the whole")], words=[feels]),
        w.Row(label=[tr("Widest gap")], words=[w.shown(widest.width, unit, COARSE[unit], about=True)]),
        w.Row(
            label=[tr("Neighbors that look alike")],
            words=[texts.many(alike, "pair") if alike else tr("none")],
        ),
    ]
    if ranked:
        rows.append(w.Row(label=[tr("Thread that shows least")], words=[ranked[0].thread.name]))
    return ProposalView(
        key=key_of(proposal),
        aim=proposal.wish.aim,
        title=TITLES[proposal.wish.aim],
        sentence=_sentence(proposal, float(laid.quilt.kit.batting.limit.mm) >= widest.width - VISIBLE),
        rows=rows,
        zones=[
            ZoneFill(
                zone=key,
                name=laid.zone(key).name,
                words=[f"{fill.label}, ", w.shown(fill.spacing.mm, unit, about=True)],
            )
            for key, fill in proposal.fills.items()
        ],
    )


def proposal_figures(proposal: Proposal) -> list[w.Row]:
    """Time, thread and marks, computed as if it were accepted."""
    laid = proposal.laid
    marks = totals_of(plan_quilt(laid).values())
    route = proposal.route
    return [
        w.Row(label=[tr("Sewing time, about")], words=[w.minutes(60 * proposal.minutes)]),
        w.Row(
            label=[tr("Thread cuts on the way")], words=[f"{route.stops:,}" if route.stops else tr("none")]
        ),
        w.Row(
            label=[tr("Marks to make")], words=[f"{texts.number(marks.marks)}, {w.minutes(marks.seconds)}"]
        ),
    ]


def _sentence(proposal: Proposal, allowed: bool) -> str:
    kinds = len({type(fill) for fill in proposal.fills.values()})
    fills = texts.many(kinds, "kind of fill", "kinds of fill")
    aim = proposal.wish.aim
    if aim == "texture":
        return tr(
            "Loose in “{name}”, dense around it, so that it stands up; {fills}.",
            name=proposal.laid.zone(proposal.focus).name,
            fills=fills,
        )
    said = {
        "quick": tr("The fewest minutes at the needle, with {fills}.", fills=fills),
        "straight": tr("Straight lines only, at spacings that your ruler has; {fills}.", fills=fills),
        "soft": tr("Lines as far apart as they can be, so that it drapes; {fills}.", fills=fills),
    }[aim]
    return said if allowed else tr("{said} One gap is wider than the batting allows.", said=said)
