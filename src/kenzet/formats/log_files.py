"""The log as files: PDF in words, CSV with a row for every zone of every sitting, JSON of everything."""

from __future__ import annotations

import csv
import io
import json
from collections.abc import Sequence
from dataclasses import asdict
from datetime import UTC, datetime
from typing import Any

from reportlab.platypus import Flowable, KeepTogether, Paragraph, Spacer

from kenzet.core.logbook.sewn_with import SewnWith
from kenzet.core.logbook.sittings import Sitting, There
from kenzet.core.sewing.log import Event
from kenzet.formats.placement import Paper
from kenzet.formats.prose import kept_whole, printed, styles_of
from kenzet.say.log_words import VERDICT_WORDS, Facts, LogView, RemarkRow, ThereRow
from kenzet.say.words import Row, plain
from kenzet.texts import tr

_COLUMNS = (
    "begun", "ended", "place", "zone", "drawing", "fill", "planned spacing mm", "foot", "needle to rim mm", "ruler lines mm", "thread", "needle", "tension", "stitch mm",
    "lines", "mm sewn", "mm freehand", "mm unpicked", "skipped", "thread broke", "threads begun", "stitches", "seconds",
)  # fmt: skip


def _time(when: float) -> str:
    return datetime.fromtimestamp(when, UTC).isoformat(timespec="seconds")


def log_csv(some: Sequence[Sitting], facts: Facts) -> bytes:
    """A row for every zone of every block of every sitting; times are UTC, lengths mm."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow(_COLUMNS)
    for sitting in some:
        for one in sitting.there:
            writer.writerow(_told(one, facts.get((one.plan, one.drawing))))
    return out.getvalue().encode()


def _told(one: There, known: SewnWith | None) -> list[Any]:
    kit = known.kit if known else None
    fill = known.fill if known else None
    lines = sorted({str(round(float(line), 3)) for _, line in known.etched}) if known else []  # type: ignore[arg-type]
    return [
        _time(one.first), _time(one.last), one.place, known.zone if known else one.zone, one.drawing, fill.label if fill else "",
        round(float(fill.spacing.mm), 3) if fill and fill.is_spaced else "", kit.foot.name if kit else "",
        round(float(kit.foot_offset), 3) if kit else "", " ".join(lines), kit.thread.name if kit else "", kit.needle if kit else "", kit.tension if kit else "", float(kit.stitch.mm) if kit else "",
        len(one.lines), round(one.length, 1), round(one.freehand, 1), round(one.unpicked, 1), one.skipped, one.broken, one.threads, one.stitches,
        round(one.seconds, 1),
    ]  # fmt: skip


def log_json(
    name: str,
    events: Sequence[Event],
    view: LogView,
    remarks: Sequence[dict[str, Any]],
    inspections: Sequence[dict[str, Any]],
) -> bytes:
    """Every event as reported, and everything derived from them: lengths mm, times seconds since 1970; sentences
    are as on the screen."""
    told = {
        "format": "kenzet.log",
        "version": 1,
        "quilt": name,
        "events": [asdict(event) for event in events],
        "sittings": [one.model_dump(mode="json", exclude={"search"}) for one in view.sittings],
        "blocks": [one.model_dump(mode="json", exclude={"search"}) for one in view.blocks],
        "remarks": list(remarks),
        "inspections": list(inspections),
    }
    return (json.dumps(told, indent=1) + "\n").encode()


def log_pdf(name: str, view: LogView, paper: Paper) -> bytes:
    """The progress, then every block with its remarks, then every sitting."""
    styles = styles_of(1.0)

    def line(text: str, style: str = "text") -> Flowable:
        return Paragraph(kept_whole(text), styles[style])

    story = [
        line(tr("Log of {name}", name=name), "title"),
        line(
            tr(
                "{sewn} sewn · {time} at the needle · {left} to sew",
                sewn=view.sewn,
                time=view.time,
                left=view.left,
            ),
            "soft",
        ),
        line(", ".join(f"{one.words}: {one.many}" for one in view.stages)),
        Spacer(1, 8),
    ]
    if view.blocks:
        story.append(line(tr("Blocks"), "title"))
    for block in view.blocks:
        said = [one for one in view.remarks if one.about == f"place:{block.place}"]
        lines = [
            *_rows(block.rows),
            *_there(block.there),
            *(one.words for one in block.mishaps),
            *_said(said),
        ]
        story.append(KeepTogether([line(block.name, "zone"), *(line(one) for one in lines), Spacer(1, 6)]))
    if view.sittings:
        story.append(line(tr("Sittings"), "title"))
    for one in view.sittings:
        said = [remark for remark in view.remarks if remark.about == one.key]
        lines = [*_rows(one.rows), *(mishap.words for mishap in one.mishaps), *_said(said)]
        story.append(
            KeepTogether(
                [line(f"{one.day}, {one.times}", "zone"), *(line(text) for text in lines), Spacer(1, 6)]
            )
        )
    open_ = [todo for todo in view.todo if not todo.done]
    if open_:
        story.append(line(tr("To finish"), "title"))
        story += [line(f"☐ {todo.words}{f' ({todo.note})' if todo.note else ''}") for todo in open_]
    return printed(story, tr("Log of {name}", name=name), paper)


def _rows(rows: Sequence[Row]) -> list[str]:
    return [" · ".join(f"{plain(row.label)}: {plain(row.words)}" for row in rows)] if rows else []


def _there(there: Sequence[ThereRow]) -> list[str]:
    return [
        f"{one.name} – " + " · ".join(f"{plain(row.label)}: {plain(row.words)}" for row in one.rows)
        for one in there
    ]


def _said(remarks: Sequence[RemarkRow]) -> list[str]:
    found = [
        tr("Verdict: {verdict}", verdict=VERDICT_WORDS[one.told].lower())
        for one in remarks
        if one.kind == "verdict"
    ]
    return [*found, *(f"“{one.told}”" for one in remarks if one.kind == "note")]
