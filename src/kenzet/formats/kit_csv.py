"""Tools and supplies as a table: one row each, with a column for every field of any kind."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable
from typing import Any

from kenzet.core.errors import BadValue
from kenzet.core.kit.things import THINGS, Thing
from kenzet.core.params import forms
from kenzet.texts import tr

_NOTHING = "none"  # an empty cell means what a thing of that kind usually has
_HEAD = ("kind", "name", "state")
_FORMULA = ("=", "+", "-", "@", "\t", "\r")


def columns() -> list[str]:
    """Kind, name and state, then every other field, each once."""
    rest = [name for model in THINGS.values() for name in forms(model) if name not in _HEAD]
    return [*_HEAD, *dict.fromkeys(rest)]


def dump(things: Iterable[Thing]) -> bytes:
    """UTF-8 with a byte order mark, for spreadsheets; the histories of feet are only in the JSON file."""
    out = io.StringIO(newline="")
    writer = csv.DictWriter(out, columns(), restval="", extrasaction="ignore")
    writer.writeheader()
    for thing in things:
        writer.writerow({name: _cell(value) for name, value in thing.model_dump(mode="json").items()})
    return out.getvalue().encode("utf-8-sig")


def load(data: bytes) -> list[dict[str, Any]]:
    """A dictionary for each row without its empty cells, not validated yet. Raises BadValue at ``file``."""
    try:
        text = data.decode("utf-8-sig")
        head = text.split("\n", 1)[0]
        parted = (
            ";" if head.count(";") > head.count(",") else ","
        )  # as spreadsheets write it where a comma is in numbers
        rows = list(csv.DictReader(io.StringIO(text, newline=""), delimiter=parted))
    except (UnicodeDecodeError, csv.Error) as error:
        raise BadValue(tr("This file is not a CSV table in UTF-8."), "file") from error
    if not rows or "kind" not in rows[0]:
        raise BadValue(
            tr("The table's first line must name its columns, and one of them must be “kind”."), "file"
        )
    found = []
    for number, row in enumerate(rows, 2):
        if None in row or row["kind"] not in THINGS:
            kinds = ", ".join(THINGS)
            raise BadValue(
                tr(
                    "Line {number}: “{row}” is not a kind of tool. Known kinds: {kinds}.",
                    number=number,
                    row=str(row["kind"])[:30],
                    kinds=kinds,
                ),
                "file",
            )
        known = THINGS[row["kind"]].model_fields
        found.append({name: _bare(value) for name, value in row.items() if value and name in known})
    return found


def _cell(value: Any) -> Any:
    if value is None:
        return _NOTHING
    if isinstance(value, list):
        return "; ".join(map(str, value))
    if isinstance(value, str) and value.startswith(_FORMULA):
        return f"'{value}"  # a spreadsheet must not take it for a formula
    return value


def _bare(cell: str) -> str | None:
    if cell == _NOTHING:
        return None
    return cell[1:] if cell.startswith("'") and cell[1:2] in _FORMULA else cell
