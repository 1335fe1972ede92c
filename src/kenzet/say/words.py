"""Figures and words as they are shown: lengths with fractions, amounts, rows of figures, form fields.

Glossary: *words* are pieces of text and figures in a list; a screen sets the figures like those on a ruler.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping
from fractions import Fraction
from typing import Literal

from pydantic import BaseModel, ConfigDict

from kenzet.core.balance.density import hand, spread, zone_densities
from kenzet.core.fills import Fill
from kenzet.core.marks.totals import Totals, together, totals_of
from kenzet.core.numbers.measure import COARSE, INCH, Length, Unit, figure, in_words, long_figure
from kenzet.core.params import Form, forms
from kenzet.core.plan.zone_plan import ZonePlan
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.texts import number, tr


class Said(BaseModel):
    """Base of everything shown: undeclared fields are refused."""

    model_config = ConfigDict(extra="forbid")


class Shown(Said):
    """A figure ready to be shown; ``num`` is 0 without a fraction; ``unit`` is empty if it is not shown."""

    minus: bool
    whole: str
    num: int
    den: int
    hair: int
    unit: str
    text: str


Words = list[str | Shown]


class Row(Said):
    """A row of figures in the panel."""

    label: Words
    words: Words
    typed: bool = False


class Mend(Said):
    """The settings of a button that mends something."""

    label: str
    values: dict[str, str | None]


class Known(Said):
    """A point of advice: ``tone`` "warns" if something comes out wrong, "tells" if it is only worth knowing.
    ``at`` is the place it is about, in the part's coordinates."""

    words: Words
    tone: Literal["warns", "tells"]
    mend: Mend | None = None
    at: list[float] | None = None


class Total(Said):
    """A figure of the tally, with its bare number to show changes, and ``how`` it is computed."""

    label: str
    words: Words
    amount: float
    how: str


class ChoiceView(Said):
    """One option; ``picks`` says what can be clicked on the drawing with it."""

    key: str
    label: str
    picks: str


class FieldView(Said):
    """A form field. ``text`` is its content; if that is empty, the meaning is ``empty``. Numbers are limited to
    ``least`` and ``most`` if given."""

    name: str
    label: str
    help: str
    control: Literal["length", "angle", "choice", "count", "text"]
    text: str
    shown: Shown | None
    empty: str
    choices: list[ChoiceView]
    presets: list[float]
    used: bool
    minor: bool
    theme: str
    least: float | None
    most: float | None


def shown(
    mm: Fraction | float, unit: Unit, grain: Fraction | None = None, bare: bool = False, about: bool = False
) -> Shown:
    """A figure for the API; ``bare`` omits the unit, ``about`` omits scant and generous."""
    f = figure(mm, unit, grain, about)
    return Shown(
        minus=f.minus,
        whole=f.whole,
        num=f.num,
        den=f.den,
        hair=f.hair,
        unit="" if bare else unit,
        text=f.text,
    )


def by(width: Length, height: Length, unit: Unit) -> Words:
    """A size; a square shows one figure."""
    if width.mm == height.mm:
        return [shown(width.mm, unit)]
    return [shown(width.mm, unit, bare=True), " × ", shown(height.mm, unit)]


def fields(fill: Fill, unit: Unit) -> list[FieldView]:
    """The form of a fill with its present values."""
    values = fill.model_dump(mode="json")
    found = []
    for name, form in forms(type(fill)).items():
        used = form.only_with is None or values[form.only_with[0]] in form.only_with[1]
        found.append(model_field(fill, name, unit, used=used))
    return found


def model_field(model: BaseModel, name: str, unit: Unit, prefix: str = "", used: bool = True) -> FieldView:
    """One field of a model, with its present value and limits; ``prefix`` precedes its name."""
    form = forms(type(model))[name]
    return field(prefix + name, form, getattr(model, name), unit, used, limits(type(model), name))


def limits(model: type[BaseModel], name: str) -> tuple[float | None, float | None]:
    """The least and the greatest value of a number of a model, both accepted; None if there is no limit."""
    least = most = None
    for rule in model.model_fields[name].metadata:
        least = getattr(rule, "ge", least)
        most = getattr(rule, "le", most)
    return least, most


def field(
    name: str,
    form: Form,
    value: object,
    unit: Unit,
    used: bool = True,
    limits: tuple[float | None, float | None] = (None, None),
) -> FieldView:
    """One field for the API."""
    return FieldView(
        name=name,
        label=form.label,
        help=form.help,
        control=form.control,
        text=length_text(value, unit) if isinstance(value, Length) else _plain(value),
        shown=shown(value.mm, unit) if isinstance(value, Length) else None,
        empty=form.empty,
        choices=[ChoiceView(key=c.key, label=c.label, picks=c.picks) for c in form.choices],
        presets=list(form.presets),
        used=used,
        minor=form.minor,
        theme=theme_of(name),
        least=limits[0],
        most=limits[1],
    )


_THEMES = {
    "Direction": (
        "angle",
        "along",
        "second_angle",
        "crossed_from",
        "second_spacing",
        "crossed",
        "lean",
        "narrow",
    ),
    "Position": ("origin", "first_gap", "start", "base", "about", "at", "slide", "turns"),
    "Rows": ("rhythm", "rows", "rounds", "lines", "together"),
    "Small pieces": ("skip",),
}
_THEME = {name: theme for theme, names in _THEMES.items() for name in names}


def theme_of(name: str) -> str:
    """The heading for a parameter of a fill; "Shape" unless it is about where the lines lie.

    >>> theme_of("angle"), theme_of("rise")
    ('Direction', 'Shape')
    """
    return _THEME.get(name, "Shape")


def length_text(length: Length, unit: Unit) -> str:
    """The text of a field to edit: as typed, without the unit if it is the quilter's own."""
    return length.text.removesuffix(f" {unit}")


def _plain(value: object) -> str:
    if value is None:
        return ""
    return f"{value:g}" if isinstance(value, float) else str(value)


def plain(words: Words) -> str:
    """Words with their figures as plain text, for paper."""
    return "".join(word if isinstance(word, str) else f"{word.text} {word.unit}".strip() for word in words)


def minutes(seconds: float) -> str:
    """A duration.

    >>> minutes(20), minutes(160), minutes(7000)
    ('under a minute', '3 min', '1 h 57 min')
    """
    if seconds < 30:
        return tr("under a minute") if seconds else tr("none")
    hours, rest = divmod(round(seconds / 60), 60)
    if not hours:
        return tr("{whole} min", whole=rest)
    return tr("{hours} h {minutes} min", hours=hours, minutes=rest) if rest else tr("{hours} h", hours=hours)


def density(per_mm: float, unit: Unit) -> str:
    """Stitched length by area, in the quilter's unit."""
    return (
        tr("{per_mm} in per sq in", per_mm=f"{per_mm * INCH:.1f}")
        if unit == "in"
        else tr("{per_mm} cm per sq cm", per_mm=f"{per_mm * 10:.1f}")
    )


_MOST_ZONES = 6


def totals(laid: QuiltLayout, plans: Mapping[str, ZonePlan], unit: Unit) -> list[Total]:
    """The totals of the whole plan as far as they are computed, and how each comes about: what every zone adds."""
    by_zone = [(plan.zone.name, totals_of([plan])) for plan in plans.values()]
    found = together(its for _, its in by_zone)
    figures: list[tuple[str, Callable[[Totals], float], Callable[[Totals], str]]] = [
        (tr("Stitching"), lambda its: round(its.stitched, 2), lambda its: long_figure(its.stitched, unit)),
        (tr("Lines to sew"), lambda its: its.lines, lambda its: number(its.lines)),
        (tr("Marks to make"), lambda its: its.marks, lambda its: number(its.marks)),
        (tr("Marking"), lambda its: round(its.seconds), lambda its: minutes(its.seconds)),
    ]
    said = []
    for label, amount, shows in figures:
        parts = sorted(by_zone, key=lambda one: -amount(one[1]))
        how = [f"{name}: {shows(its)}" for name, its in parts if amount(its)]
        said.append(Total(label=label, words=[shows(found)], amount=amount(found), how=_how(how)))
    return [*said, *_widest(plans, unit), *_firmness(laid, plans, unit)]


def _how(parts: list[str]) -> str:
    rest = tr(" · {parts} zones more", parts=len(parts) - _MOST_ZONES) if len(parts) > _MOST_ZONES else ""
    return " · ".join(parts[:_MOST_ZONES]) + rest


def _widest(plans: Mapping[str, ZonePlan], unit: Unit) -> list[Total]:
    """F44 over all zones with a fill; left out if it takes long."""
    found = []
    for plan in plans.values():
        gaps = [plan.quick_gap(drawing) for drawing in plan.drawings if not drawing.layer]
        if any(gap is None for gap in gaps):
            return []
        if not plan.zone.on_top:
            found.append((max((gap.width for gap in gaps if gap), default=0.0), plan.zone.name))
    if not found:
        return []
    found.sort(reverse=True)
    widest = found[0][0]
    how = [f"{name}: {in_words(width, unit, COARSE[unit])}" for width, name in found]
    words: Words = [shown(widest, unit, COARSE[unit], about=True)]
    return [Total(label=tr("Widest gap in fills"), words=words, amount=round(widest, 1), how=_how(how))]


def _firmness(laid: QuiltLayout, plans: Mapping[str, ZonePlan], unit: Unit) -> list[Total]:
    found = zone_densities(laid, plans)
    mean = spread(found).mean
    if not mean:
        return []
    how = [f"{laid.zone(one.key).name}: {tr(one.hand)}" for one in found]
    return [
        Total(
            label=tr("On the whole"),
            words=[tr(hand(mean, laid.quilt.use, laid.quilt.kit.batting))],
            amount=round(mean * INCH, 2),
            how=_how(how),
        )
    ]


_VALUE = re.compile(r"\{(\w+)\}")


def told(text: str, **values: str | int | Shown | Words) -> Words:
    """A text of the catalogue with its values filled in; figures stay figures.

    >>> told("Sew {far} of {what}.", far="2 in", what="the line")
    ['Sew 2 in of the line.']
    """
    found: Words = []
    for k, part in enumerate(_VALUE.split(tr(text))):
        value = values[part] if k % 2 else part
        for one in value if isinstance(value, list) else [value]:
            if isinstance(one, Shown):
                found.append(one)
            elif found and isinstance(found[-1], str):
                found[-1] += str(one)
            elif one != "":
                found.append(str(one))
    return found


def as_sentence(words: str) -> str:
    """With a capital and a full stop.

    >>> as_sentence("one patch, in one block")
    'One patch, in one block.'
    """
    return f"{words[0].upper()}{words[1:]}."
