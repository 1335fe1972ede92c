"""Lengths: the only file that knows units.

Glossary: a *length* is an exact ``Fraction`` of a millimetre together with the text that says it
(1 in = 127/5 mm). A *figure* is a length made ready to be read: sign, whole, fraction, unit, and
whether the true length is a hair less (scant) or more (generous) than what is printed.
"""

from __future__ import annotations

import re
import unicodedata
from dataclasses import dataclass
from decimal import Decimal, localcontext
from fractions import Fraction
from typing import Any, Literal

from pydantic import GetCoreSchemaHandler, GetJsonSchemaHandler, ValidationInfo
from pydantic_core import core_schema

from kenzet.core.errors import BadValue
from kenzet.texts import tr

Unit = Literal["in", "mm"]

MM_PER: dict[str, Fraction] = {"in": Fraction(127, 5), "mm": Fraction(1), "cm": Fraction(10)}
INCH = 25.4
"""Millimetres in an inch, for drawing and estimates only; decisions use the exact ``MM_PER["in"]``."""
FOOT = 12 * INCH
YARD = 36 * INCH
METRE = 1000.0
POINT = INCH / 72
"""Millimetres in a point, the unit of PDF pages."""
PIXEL = INCH / 96
"""Millimetres in a pixel: the unit of a drawing file that names none."""

_NAMES = {
    "in": "in", "inch": "in", "inches": "in", '"': "in", "″": "in", "”": "in",
    "mm": "mm", "millimetre": "mm", "millimetres": "mm", "millimeter": "mm", "millimeters": "mm",
    "cm": "cm", "centimetre": "cm", "centimetres": "cm", "centimeter": "cm", "centimeters": "cm",
}  # fmt: skip
_FORMS = re.compile(
    r"""^(?P<minus>-)?\s*
    (?: (?:(?P<whole>\d+)(?:\s+|\s*-\s*))? (?P<num>\d+)\s*/\s*(?P<den>\d+)
      | (?P<decimal>\d+(?:[.,]\d*)?|[.,]\d+) )
    \s*(?P<unit>[^\d\s./,-]+)?\.?$""",
    re.VERBOSE,
)
_EXAMPLES: dict[str, str] = {
    "in": tr("Type it like 3/4, 1 3/8, 0.75 or 19 mm."),
    "mm": tr("Type it like 19, 19.5, 3.5 cm or 3/4 in."),
}
_LONGEST = 40
_MOST_MM = Fraction(10**6)


@dataclass(frozen=True, slots=True)
class Length:
    """A length as it was typed: exact ``mm`` and its canonical ``text`` with the unit.

    >>> Length.parse("1 3/8").text, Length.parse("19mm").text, Length.parse(".75").text
    ('1 3/8 in', '19 mm', '3/4 in')
    >>> Length.parse("3.5 cm").mm
    Fraction(35, 1)
    """

    mm: Fraction
    text: str

    @classmethod
    def parse(cls, text: str, unit: Unit = "in") -> Length:
        """Read a length as a person types it; a number without a unit is in ``unit``.

        Raises BadValue where the text is empty, is not a number, divides by zero or has an unknown unit.

        >>> Length.parse("1½").mm == Length.parse("1 1/2 in").mm == Length.parse("1-1/2").mm
        True
        >>> Length.parse("3//4")
        Traceback (most recent call last):
        kenzet.core.errors.BadValue: “3//4” is not a length. Type it like 3/4, 1 3/8, 0.75 or 19 mm.
        >>> Length.parse("1/0")
        Traceback (most recent call last):
        kenzet.core.errors.BadValue: Nothing can be divided by 0. Type it like 3/4, 1 3/8, 0.75 or 19 mm.
        """
        typed = _plain_fractions(text).strip().lower()
        if not typed:
            raise BadValue(tr("A length is missing. {examples}", examples=_EXAMPLES[unit]))
        found = _FORMS.match(typed) if len(typed) <= _LONGEST else None
        if not found:
            raise BadValue(
                tr(
                    "“{text_}” is not a length. {examples}",
                    text_=text.strip()[:_LONGEST],
                    examples=_EXAMPLES[unit],
                )
            )
        named = found["unit"]
        if named and named not in _NAMES:
            raise BadValue(tr("“{named}” is not a unit known here; use in, mm or cm.", named=named))
        if found["den"] and int(found["den"]) == 0:
            raise BadValue(tr("Nothing can be divided by 0. {examples}", examples=_EXAMPLES[unit]))
        return cls.of(_number(found), _NAMES[named] if named else unit)

    @classmethod
    def of(cls, number: Fraction | int, unit: str = "in") -> Length:
        """``number`` of ``unit`` as a length with its canonical text."""
        number = Fraction(number)
        if abs(number) * MM_PER[unit] > _MOST_MM:
            raise BadValue(tr("That is longer than a kilometre."))
        return cls(number * MM_PER[unit], f"{_exact(number, unit)} {unit}")

    @classmethod
    def near(cls, mm: Fraction | float, unit: Unit) -> Length:
        """``mm`` in ``unit``: as a plain fraction where it is one, else rounded to nine decimals (it may be
        irrational).

        >>> Length.near(19.05, "in").text, Length.near(17.9605122421, "in").text, Length.near(19.05, "mm").text
        ('3/4 in', '0.707106781 in', '19.05 mm')
        >>> Length.near(Fraction(7, 12) * MM_PER["in"], "in").text
        '7/12 in'
        """
        number = Fraction(mm) / MM_PER[unit]
        plain = number.limit_denominator(1000)
        if abs(plain - number) < Fraction(1, 10**9):
            return cls.of(plain, unit)
        return cls.of(Fraction(round(number * 10**9), 10**9), unit)

    @property
    def unit(self) -> Unit:
        """The unit to show answers in: inches if the length was typed in inches, else millimetres."""
        return "in" if self.text.endswith(" in") else "mm"

    def __float__(self) -> float:
        return float(self.mm)

    @classmethod
    def __get_pydantic_core_schema__(
        cls, source: Any, handler: GetCoreSchemaHandler
    ) -> core_schema.CoreSchema:
        def check(value: Any, info: ValidationInfo) -> Length:
            if isinstance(value, Length):
                return value
            if not isinstance(value, str):
                raise BadValue(tr('A length is text with its unit, like "3/4 in" or "19 mm".'))
            unit: Unit = (info.context or {}).get("unit", "in")
            return cls.parse(value, unit)

        return core_schema.with_info_plain_validator_function(
            check,
            serialization=core_schema.plain_serializer_function_ser_schema(
                lambda length: length.text, return_schema=core_schema.str_schema()
            ),
        )

    @classmethod
    def __get_pydantic_json_schema__(
        cls, schema: core_schema.CoreSchema, handler: GetJsonSchemaHandler
    ) -> dict[str, Any]:
        return {
            "type": "string",
            "description": tr("A length with its unit; in where none is written."),
            "examples": ["3/4 in", "1 3/8 in", "19 mm", "3.5 cm"],
        }


def _plain_fractions(text: str) -> str:
    """``1½`` becomes ``1 1/2``; a fraction slash becomes a slash."""
    out: list[str] = []
    for sign in text.replace("\u2044", "/").replace("\u2212", "-"):
        if unicodedata.category(sign) == "No" and "VULGAR FRACTION" in unicodedata.name(sign, ""):
            part = Fraction(unicodedata.numeric(sign)).limit_denominator(16)
            out.append(f" {part.numerator}/{part.denominator}")
        else:
            out.append(sign)
    return "".join(out)


def _number(found: re.Match[str]) -> Fraction:
    if found["decimal"]:
        number = Fraction(found["decimal"].replace(",", ".").rstrip("."))
    else:
        number = int(found["whole"] or 0) + Fraction(int(found["num"]), int(found["den"]))
    return -number if found["minus"] else number


def _exact(number: Fraction, unit: str) -> str:
    """The number written exactly: as a fraction of a ruler, a decimal or a plain fraction, in this order of
    preference.

    >>> _exact(Fraction(11, 8), "in"), _exact(Fraction(1, 3), "in"), _exact(Fraction(39, 2), "mm")
    ('1 3/8', '1/3', '19.5')
    >>> _exact(Fraction(-3, 4), "in"), _exact(Fraction(717, 1000), "in")
    ('-3/4', '0.717')
    """
    on_a_ruler = 64 % number.denominator == 0
    if number.denominator == 1:
        return str(number.numerator)
    decimal = _decimal(number)
    if decimal and (unit != "in" or not on_a_ruler):
        return decimal
    whole, rest = divmod(abs(number), 1)
    sign = "-" if number < 0 else ""
    return f"{sign}{whole} {rest}" if whole else f"{sign}{rest}"


def _decimal(number: Fraction) -> str:
    """The terminating decimal of ``number``; empty where it has none within 30 digits."""
    with localcontext(prec=30):
        decimal = Decimal(number.numerator) / Decimal(number.denominator)
    return f"{decimal:f}" if Fraction(decimal) == number else ""


@dataclass(frozen=True, slots=True)
class Figure:
    """A length made ready to read. ``hair`` is -1 (scant), 0 (exact) or 1 (generous).

    ``minus``, ``whole``, ``num``, ``den`` are for stacked fractions; ``text`` says the same in a line.
    """

    minus: bool
    whole: str
    num: int
    den: int
    unit: Unit
    hair: int
    text: str


INCH_GRAIN = Fraction(1, 64)
MM_GRAIN = Fraction(1, 100)
COARSE: dict[Unit, Fraction] = {"in": Fraction(1, 16), "mm": Fraction(1, 10)}
"""The step to which figures are rounded that are only read, never measured off."""


def rounded(mm: Fraction | float, grain: Fraction) -> Fraction:
    """``mm`` to the nearest whole number of ``grain`` (both mm); halves go up.

    >>> rounded(Fraction(10), Fraction(4)), rounded(9.9, Fraction(4))
    (Fraction(12, 1), Fraction(8, 1))
    """
    steps = (Fraction(mm) / grain + Fraction(1, 2)).__floor__()
    return steps * grain


def figure(mm: Fraction | float, unit: Unit, grain: Fraction | None = None, about: bool = False) -> Figure:
    """``mm`` to the nearest ``grain`` (in ``unit``; 1/64 in or 0.01 mm unless given).

    ``about`` leaves scant and generous unsaid.

    >>> figure(Fraction(0.530) * MM_PER["in"], "in").text
    'scant 17/32'
    >>> figure(0.530 * 25.4, "in", Fraction(1, 16)).text
    'generous 1/2'
    >>> figure(Fraction(127, 5), "mm").text, figure(-19.05, "in").text
    ('25.4', '-3/4')
    """
    grain = grain or (INCH_GRAIN if unit == "in" else MM_GRAIN)
    exact = Fraction(mm) / MM_PER[unit]
    near = rounded(abs(exact), grain)
    off = abs(exact) - near
    hair = 0 if about or unit == "mm" or abs(off) < Fraction(1, 5000) else (1 if off > 0 else -1)
    minus = exact < 0 and near != 0
    if unit == "mm":
        whole, num, den = _short(float(near)), 0, 1
    else:
        part = near % 1
        whole, num, den = str(near.__floor__()), part.numerator, part.denominator
    return Figure(minus, whole, num, den, unit, hair, _say(minus, whole, num, den, hair))


def _say(minus: bool, whole: str, num: int, den: int, hair: int) -> str:
    body = whole if not num else (f"{num}/{den}" if whole == "0" else f"{whole} {num}/{den}")
    return {-1: f"{tr('scant')} ", 0: "", 1: f"{tr('generous')} "}[hair] + ("-" if minus else "") + body


def _short(number: float, places: int = 2) -> str:
    """``number`` with at most ``places`` decimals and no trailing zeros."""
    text = f"{number:.{places}f}"
    return text.rstrip("0").rstrip(".") if "." in text else text


def little(mm: Fraction | float, unit: Unit) -> str:
    """A small difference with its unit. Below 1/32 in it is written in hundredths, as a fraction would be too
    coarse.

    >>> little(0.254, "in"), little(25.4 / 16, "in"), little(0.254, "mm")
    ('0.01 in', '1/16 in', '0.25 mm')
    """
    exact = Fraction(mm) / MM_PER[unit]
    if unit == "in" and 0 < exact < Fraction(31, 1000):
        return tr(
            "{short} in", short=_short(float(exact)) if exact >= Fraction(1, 200) else tr("less than 0.01")
        )
    return f"{figure(mm, unit).text} {unit}"


def long_figure(mm: float, unit: Unit) -> str:
    """A stitched length: whole inches or centimetres, with a thousands comma and the unit.

    >>> long_figure(25.4 * 1284.4, "in"), long_figure(32123.0, "mm")
    ('1,284 in', '3,212 cm')
    """
    return tr("{mm} in", mm=f"{mm / INCH:,.0f}") if unit == "in" else tr("{mm} cm", mm=f"{mm / 10:,.0f}")


def in_words(mm: Fraction | float, unit: Unit, grain: Fraction | None = None) -> str:
    """``figure`` as text with the unit, for sentences.

    >>> in_words(Fraction(381, 20), "in"), in_words(Fraction(381, 20), "mm")
    ('3/4 in', '19.05 mm')
    """
    return f"{figure(mm, unit, grain).text} {unit}"
