"""Whole plans for a quilt, one at a time: by an aim, or starting from one that was shown."""

from __future__ import annotations

from typing import Annotated, Literal

from flask import Response
from pydantic import Field

from kenzet.core.errors import BadValue, Unknown
from kenzet.core.fills import AnyFill
from kenzet.core.kit.things.supplies import Thread
from kenzet.core.memo import Table
from kenzet.core.numbers.measure import Unit
from kenzet.core.proposals.candidates import SKILLS, Skill
from kenzet.core.proposals.propose import Aim, Move, Proposal, Wish, open_zones, propose
from kenzet.core.top.document import zone_of
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.formats.relief_picture import relief_picture
from kenzet.say import words as w
from kenzet.say.proposal_words import ProposalView, key_of, proposal_figures, proposal_view
from kenzet.store.quilts import Kept
from kenzet.texts import tr
from kenzet.web.blueprint import Blueprint
from kenzet.web.request_context import answer, her_things, laid_quilt
from kenzet.web.wire import base as m

proposals = Blueprint("proposals", __name__, url_prefix="/api/quilts/<quilt>/proposals")
ProposalKey = Annotated[str, Field(pattern=r"^[0-9a-f]{16}$")]
PROPOSALS: Table[tuple[str, int, str], Proposal] = Table("proposals", most=40)
_LONG = 520


class ProposalRequest(m.Wire):
    """What to propose.

    ``scope``: only zones without a fill, all zones, or the ``zones`` named. ``shown`` are plans to exclude; with
    ``base`` the next plan is a ``move`` from that one. ``reads`` is the ratio from which two zones look different.
    """

    aim: Aim = "quick"
    scope: Literal["open", "all", "some"] = "open"
    zones: Annotated[tuple[m.ZoneKey, ...], Field(max_length=200)] = ()
    hours: Annotated[float, Field(gt=0, le=1000)] | None = None
    kinds: Annotated[int, Field(ge=1, le=12)] = 3
    skills: Annotated[tuple[Skill, ...], Field(min_length=1, max_length=len(SKILLS))] = ("straight", "curves")
    reads: Annotated[float, Field(ge=1.1, le=10)] = 2.0
    shown: Annotated[tuple[ProposalKey, ...], Field(max_length=40)] = ()
    base: ProposalKey | None = None
    move: Move | None = None
    unit: Unit = "in"


class ProposalPath(m.QuiltKey):
    """Identifies a proposed plan."""

    proposal: ProposalKey


class ProposalFills(w.Said):
    """The fills of a proposal, by zone."""

    fills: dict[str, AnyFill]


class ProposalFigures(w.Said):
    """Time, thread cuts and marks of a proposal."""

    rows: list[w.Row]


@proposals.post("", responses={200: ProposalView})
def propose_one(path: m.QuiltKey, body: ProposalRequest) -> Response:
    """The next plan. It changes nothing until it is accepted."""
    kept, laid = laid_quilt(path.quilt)
    zones = _zones(laid, body)
    base = _known(kept, laid, body.base) if body.base else None
    shown = [
        found for key in body.shown if (found := laid.memo.get(PROPOSALS, (kept.id, kept.revision, key)))
    ]
    wish = Wish(body.aim, zones, body.hours, body.kinds, frozenset(body.skills), body.reads)
    found = propose(laid, base.wish if base else wish, shown, base, body.move)
    laid.memo.put(PROPOSALS, (kept.id, kept.revision, key_of(found)), found)
    threads = {
        key: one for key, one in her_things().items() if isinstance(one, Thread) and one.state == "at hand"
    }
    return answer(proposal_view(found, threads, body.unit))


def _zones(laid: QuiltLayout, body: ProposalRequest) -> tuple[str, ...]:
    """The zones that get a fill, in the quilt's order. Raises BadValue if none is named, Unknown if one does not
    exist."""
    if body.scope != "some":
        return open_zones(laid, everything=body.scope == "all")
    every = open_zones(laid, everything=True)
    for key in body.zones:
        zone_of(laid.quilt, key)
    found = tuple(key for key in every if key in body.zones)
    if not found:
        raise BadValue(tr("Choose at least one zone that is to get a fill."), "zones")
    return found


@proposals.get("/<proposal>", responses={200: ProposalFills})
def fills_of(path: ProposalPath) -> Response:
    """What accepting it sets."""
    kept, laid = laid_quilt(path.quilt)
    return answer(ProposalFills(fills=_known(kept, laid, path.proposal).fills))


@proposals.get("/<proposal>/figures", responses={200: ProposalFigures})
def figures_of(path: ProposalPath) -> Response:
    """Its figures; its route is computed for them."""
    kept, laid = laid_quilt(path.quilt)
    return answer(ProposalFigures(rows=proposal_figures(_known(kept, laid, path.proposal))))


@proposals.get("/<proposal>/relief.jpg")
def picture(path: ProposalPath) -> Response:
    """The quilt as it would look."""
    kept, laid = laid_quilt(path.quilt)
    return Response(relief_picture(_known(kept, laid, path.proposal).laid, _LONG), mimetype="image/jpeg")


def _known(kept: Kept, laid: QuiltLayout, key: str) -> Proposal:
    found = laid.memo.get(PROPOSALS, (kept.id, kept.revision, key))
    if found is None:
        raise Unknown(tr("This proposal is of an earlier plan. Ask for proposals again."), "proposal")
    return found
