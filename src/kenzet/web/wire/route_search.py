"""The progress of a longer search."""

from __future__ import annotations

from kenzet.core.marks.marking import spot_on
from kenzet.core.numbers.measure import Unit, long_figure
from kenzet.core.route.local_search import Kind, LocalSearch
from kenzet.core.tolerances import TOLD_SHARE
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.say import words as w
from kenzet.say.route_words import _kind_words, _percent
from kenzet.texts import tr
from kenzet.web.wire import base as m


class SearchQuery(m.Reading):
    """The search that was started for the ``number``-th place (0 for all)."""

    number: m.Number = 0


class MarkOffer(m.Wire):
    """A line that makes the route shorter if it is marked too: the ``spots`` on lines of the ``zone`` to be marked
    in addition."""

    zone: str
    spots: list[tuple[float, float]]
    words: w.Words


class SearchView(m.Wire):
    """``state`` is ``idle`` if none was started or the plan has changed since. ``words`` are the results,
    ``share`` is how close they are to the proven bound, 0 to 1. ``ways`` are the shorter routes, to be added to
    those saved with the quilt."""

    state: str
    doing: str
    words: list[w.Words]
    share: float
    marks: list[MarkOffer]
    ways: dict[str, list[int]]


def search_view(laid: QuiltLayout, found: LocalSearch | None, unit: Unit) -> SearchView:
    """The progress of a search, and its results."""
    if found is None:
        return SearchView(state="idle", doing="", words=[], share=0.0, marks=[], ways={})
    at, left, gained = found.at, found.left, found.gained
    words: list[w.Words] = [_kind_words(kind, unit) for kind in found.kinds if kind.better]
    if words:
        words.append(
            [
                tr(
                    "With your settings for thread cuts and resewing: {percent} better.",
                    percent=_percent(gained),
                )
            ]
        )
    many = len(found.kinds) + len(found.skipped) > 1
    if left < TOLD_SHARE:
        words.append(
            [tr("All of these are proven shortest.") if many else tr("This route is proven shortest.")]
        )
    elif at or found.done:
        words.append([tr("At most {percent} more could be saved, perhaps less.", percent=_percent(left))])
    if found.done and not found.ways and left >= TOLD_SHARE:
        words.insert(0, [tr("No shorter route found.")])
    if found.skipped:
        names = ", ".join(dict.fromkeys(one.unit.part.name for one in found.skipped))
        words.append([tr("{names}: too many lines for a longer search.", names=names)])
    return SearchView(
        state="done" if found.done else "looking",
        doing=f"{at.one.unit.part.name} …" if at else "",
        words=words,
        share=1 - min(left, 1.0),
        marks=[_mark_offer(laid, kind, unit) for kind in found.kinds if kind.mark_saves],
        ways={word: list(edges) for word, edges in found.ways.items()},
    )


def _mark_offer(laid: QuiltLayout, kind: Kind, unit: Unit) -> MarkOffer:
    mark = kind.mark
    assert mark is not None
    key, drawing = kind.one.unit.drawings[mark.drawing]
    zone = laid.zone(key)
    saved = long_figure(kind.mark_saves, unit)
    return MarkOffer(
        zone=key,
        spots=[*zone.drawn_too, spot_on(drawing, mark.line)],
        words=w.told(
            "Mark one more line of “{name}”: then the route has {saved} less to travel.",
            name=zone.name,
            saved=saved,
        ),
    )
