"""All quilts, tools and logs in files that other programs can read: plans, tables and pictures in one zip."""

from __future__ import annotations

import csv
import io
import json
import zipfile
from collections.abc import Iterable, Sequence
from dataclasses import asdict
from datetime import datetime
from typing import Any

from kenzet.core.advice.recipes import RecipeBook
from kenzet.core.errors import KenzetError
from kenzet.core.kit.inventory import KitFile
from kenzet.core.logbook.swatch import KeptSwatch, SwatchBook
from kenzet.formats import kit_csv, plan_file
from kenzet.store import inventory, logbook, marked, photos, printers, quilts, recipes, sewing, swatches


def open_files(conn: Any, owner: int) -> bytes:
    """A zip: for each quilt its plan, what was sewn and what is marked; and photographs, tools and supplies,
    recipes, swatches and printers."""
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED, compresslevel=6) as kept:
        for name, data in _files(conn, owner):
            kept.writestr(name, data)
    return out.getvalue()


def _files(conn: Any, owner: int) -> Iterable[tuple[str, bytes]]:
    pictures: set[str] = set()
    for one in quilts.listed(conn, owner):
        folder = f"quilts/{_plain(one.name)}-{one.id}"
        try:
            quilt = quilts.load(conn, owner, one.id).quilt
        except (KenzetError, ValueError):  # one that cannot be read must not hold the others back
            yield f"{folder}/plan-as-kept.json", quilts.document(conn, owner, one.id).encode()
        else:
            yield f"{folder}/plan.json", plan_file.dump(quilt)
            if quilt.ground:
                pictures.add(quilt.ground.photo)
        events = [event for _, event in sewing.after(conn, one.id, 0)]
        if events:
            yield f"{folder}/sewn.json", json.dumps([asdict(event) for event in events], indent=1).encode()
            yield (
                f"{folder}/sewn.csv",
                _table(
                    ["when", "what", "place", "pieces sewn", "mm of thread's way", "freehand"],
                    [
                        [
                            _time(event.when),
                            event.kind,
                            event.place,
                            len(event.sewn),
                            f"{event.far:.1f}",
                            event.freehand,
                        ]
                        for event in events
                    ],
                ),
            )
        remarks = logbook.remarks(conn, one.id)
        if remarks:
            rows = [[_time(said.when), said.about, said.kind, said.told] for said in remarks]
            yield f"{folder}/remarks.csv", _table(["when", "about", "what", "told"], rows)
        measured = logbook.inspections(conn, one.id)
        if measured:
            yield (
                f"{folder}/measured.json",
                json.dumps([asdict(found) for found in measured], indent=1).encode(),
            )
        pictures |= {said.told for said in remarks if said.kind == "photo"} | {
            found.photo for found in measured
        }
        marks = marked.marked(conn, one.id).values()
        if marks:
            yield (
                f"{folder}/marked.csv",
                _table(
                    ["zone", "marks drawn", "put on", "taken off"],
                    [[m.zone, m.done, m.put_on or "", m.taken_off or ""] for m in marks],
                ),
            )
    yield from _hers(conn, owner, pictures)


def _hers(conn: Any, owner: int, pictures: set[str]) -> Iterable[tuple[str, bytes]]:
    """What belongs to no quilt; with the ``pictures`` that quilts refer to."""
    things = inventory.things(conn, owner)
    yield "tools-and-supplies.json", KitFile(things=tuple(things.values())).model_dump_json(indent=1).encode()
    yield "tools-and-supplies.csv", kit_csv.dump(things.values())
    book = recipes.listed(conn, owner)
    if book:
        yield "recipes.json", RecipeBook(recipes=tuple(book)).model_dump_json(indent=1).encode()
    pieces = [one.dated for one in swatches.listed(conn, owner)]
    if pieces:
        kept = tuple(KeptSwatch(swatch=one.swatch, found=one.found) for one in pieces)
        yield "swatches.json", SwatchBook(swatches=kept).model_dump_json(indent=1).encode()
        pictures |= {photo for one in pieces for photo in one.found.photos}
    for photo in sorted(pictures):
        if photos.is_there(conn, owner, photo):
            yield f"photographs/{photo}.jpg", photos.load(conn, owner, photo).jpeg
    known = printers.printers(conn, owner)
    if known:
        yield "printers.json", json.dumps([asdict(one) for one in known], indent=1, default=str).encode()


def _plain(name: str) -> str:
    """A folder name that is valid on any system."""
    return "".join(c if c.isalnum() else "-" for c in name).strip("-")[:40] or "quilt"


def _time(seconds: float) -> str:
    return datetime.fromtimestamp(seconds).isoformat(timespec="seconds") if seconds else ""


def _table(head: Sequence[str], rows: Iterable[Sequence[object]]) -> bytes:
    out = io.StringIO(newline="")
    writer = csv.writer(out)
    writer.writerow(head)
    writer.writerows(rows)
    return out.getvalue().encode("utf-8-sig")
