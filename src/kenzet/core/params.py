"""The types of a fill's parameters, declared once: form, checks, errors and help are derived from them.

Glossary: a *parameter* is a field of a fill's frozen model; its ``Form`` describes its form field. A new type of
parameter needs a new function here and a new control on the screen.
"""

from __future__ import annotations

import importlib
import pkgutil
import re
import unicodedata
from collections.abc import Iterable
from dataclasses import asdict, dataclass
from typing import Any, Literal, TypeVar

from pydantic import BaseModel, ConfigDict, Field

from kenzet.core.errors import BadValue
from kenzet.core.numbers.measure import MM_PER, Length
from kenzet.texts import tr

Control = Literal["length", "angle", "choice", "count", "text"]
M = TypeVar("M", bound=BaseModel)


class Frozen(BaseModel):
    """Base of every stored value: immutable, without undeclared fields."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False)


@dataclass(frozen=True, slots=True)
class Choice:
    """One option of a choice; ``picks`` says what can be clicked on the drawing to specify it."""

    key: str
    label: str
    picks: Literal["", "edge", "corner", "point"] = ""


@dataclass(frozen=True, slots=True)
class Form:
    """The form field of a parameter. ``empty`` is the meaning of an empty field, in words.

    ``only_with`` names another parameter and its values for which this one applies; ``after`` is the parameter
    after which it is shown, if not in the order of declaration. ``minor`` ones are rarely used and come last.
    """

    control: Control
    label: str
    help: str = ""
    empty: str = ""
    choices: tuple[Choice, ...] = ()
    presets: tuple[float, ...] = ()
    only_with: tuple[str, tuple[str, ...]] | None = None
    after: str = ""
    minor: bool = False


def asked(default: Any, form: Form, **limits: Any) -> Any:
    """A parameter with its default, its form and pydantic's constraints (``ge``, ``pattern``, …)."""
    if isinstance(default, str) and form.control == "length":
        default = Length.parse(default)
    return Field(default, json_schema_extra={"form": asdict(form)}, validate_default=False, **limits)


def forms(model: type[BaseModel]) -> dict[str, Form]:
    """The forms of a model's parameters in order."""
    found: dict[str, Form] = {}
    for name, field in model.model_fields.items():
        extra = field.json_schema_extra
        if isinstance(extra, dict) and isinstance(extra.get("form"), dict):
            raw: dict[str, Any] = dict(extra["form"])  # type: ignore[arg-type]
            raw["choices"] = tuple(Choice(**choice) for choice in raw["choices"])
            found[name] = Form(**raw)
    order = list(found)
    for name, form in found.items():
        if form.after in found:
            order.remove(name)
            order.insert(order.index(form.after) + 1, name)
    return {name: found[name] for name in order}


def kinds_in(package: str, path: Iterable[str], base: type[M]) -> dict[str, type[M]]:
    """Every model derived from ``base`` that has a ``kind``, from the modules of a package, by kind, sorted by
    ``order``.

    Raises RuntimeError if two models have the same kind.
    """
    kinds: dict[str, type[M]] = {}
    for module in sorted(info.name for info in pkgutil.iter_modules(path)):
        for value in vars(importlib.import_module(f"{package}.{module}")).values():
            if isinstance(value, type) and issubclass(value, base) and "kind" in value.model_fields:
                kind = str(value.model_fields["kind"].default)
                if kinds.setdefault(kind, value) is not value:
                    raise RuntimeError(f"two models in {package} are of the kind {kind!r}")
    return dict(sorted(kinds.items(), key=lambda item: (getattr(item[1], "order", 0), item[0])))


def in_range(length: Length, least: str, most: str, what: str) -> Length:
    """``length`` if it is between ``least`` and ``most``, inclusive.

    Raises BadValue with both limits in the unit that was typed.

    >>> in_range(Length.parse("0"), "1/16 in", "100 in", "The spacing")
    Traceback (most recent call last):
    kenzet.core.errors.BadValue: The spacing must be between 1/16 in and 100 in; 0 in was given.
    """
    low, high = Length.parse(least), Length.parse(most)
    if low.mm <= length.mm <= high.mm:
        return length
    metric = length.unit == "mm"
    inwards = (-(-low.mm * 10).__floor__(), (high.mm * 10).__floor__())
    said = [f"{x / 10:g} mm" for x in inwards] if metric else [low.text, high.text]
    raise BadValue(
        tr(
            "{what} must be between {said} and {said2}; {length} was given.",
            what=what,
            said=said[0],
            said2=said[1],
            length=length.text,
        )
    )


_TURNING = frozenset("\u202a\u202b\u202c\u202d\u202e\u2066\u2067\u2068\u2069")
"""Characters that change the direction of the text after them."""


def _is_unseen(letter: str) -> bool:
    return unicodedata.category(letter) in ("Cc", "Zl", "Zp") or letter in _TURNING


def with_plain_names(document: Any) -> Any:
    """JSON values without invisible characters in names, which may have been stored before names were checked."""
    if isinstance(document, list):
        return [with_plain_names(one) for one in document]
    if not isinstance(document, dict):
        return document
    return {
        key: "".join(c for c in one if not _is_unseen(c)).strip() or tr("no name")
        if key == "name" and isinstance(one, str) and any(map(_is_unseen, one))
        else with_plain_names(one)
        for key, one in document.items()
    }


def plain_name(name: str) -> str:
    """A name without characters that cannot be seen. Raises BadValue for line breaks, control characters and
    characters that change the direction of text.

    >>> plain_name("Star")
    'Star'
    >>> plain_name("Star" + chr(10))
    Traceback (most recent call last):
    kenzet.core.errors.BadValue: A name is one line of letters, digits and signs. This name holds a character that cannot be seen.
    """
    if any(map(_is_unseen, name)):
        raise BadValue(
            tr(
                "A name is one line of letters, digits and signs. This name holds a character that cannot be seen."
            )
        )
    return name


def step_length(length: Length, step: Length, by: int) -> Length:
    """``length`` moved by ``by`` steps to a whole multiple of ``step``, in the step's own unit.

    >>> step_length(Length.parse("0.7"), Length.parse("1/8"), 1).text
    '3/4 in'
    >>> step_length(Length.parse("3/4"), Length.parse("1/8"), -2).text
    '1/2 in'
    """
    unit = step.text.rsplit(" ", 1)[1]
    count = length.mm / step.mm
    down = count.__floor__()
    on_step = down == count
    target = down + by if by > 0 or on_step else down + by + 1
    return Length.of(target * step.mm / MM_PER[unit], unit)


def normal_angle(degrees: float) -> float:
    """An undirected angle in [0, 180) degrees.

    >>> normal_angle(-45), normal_angle(180), normal_angle(405)
    (135.0, 0.0, 45.0)
    """
    return float(degrees) % 180.0


def key_for(name: str, taken: Iterable[str], otherwise: str = "thing") -> str:
    """A key derived from ``name`` that is not taken.

    >>> key_for("Corner triangles, blue", ["corner-triangles-blue"])
    'corner-triangles-blue-2'
    >>> key_for("Été à la mer", [])
    'ete-a-la-mer'
    """
    bare = "".join(c for c in unicodedata.normalize("NFKD", name) if not unicodedata.combining(c))
    base = re.sub(r"[^a-z0-9]+", "-", bare.lower()).strip("-")[:32].strip("-") or otherwise
    return free(base, taken, "-")


def free(base: str, taken: Iterable[str], joint: str) -> str:
    """``base``, or ``base`` with the first number that makes it unique."""
    used = set(taken)
    found, number = base, 1
    while found in used:
        number += 1
        found = f"{base}{joint}{number}"
    return found
