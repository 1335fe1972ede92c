"""The API as the front end uses it: one good way and the refusals of each blueprint, on the real database."""

from __future__ import annotations

import importlib
import json
import pkgutil
import subprocess
import sys
from functools import cache
from pathlib import Path

import pytest
from openapi_spec_validator import OpenAPIV31SpecValidator
from pydantic import BaseModel

import kenzet
from kenzet.core.changes import CHANGES
from kenzet.core.fills import FILLS
from kenzet.core.numbers.measure import Length
from kenzet.core.plan import widest_gap
from kenzet.web.exports import EXPORTS

UI = Path(__file__).resolve().parents[2] / "ui"
ZONE = "star-background"


def fill_change(spacing="1/2 in", zone=ZONE):
    return {"kind": "fill", "zone": zone, "fill": {"kind": "lines", "spacing": spacing}}


def words(row):
    return "".join(w if isinstance(w, str) else f"{w['text']} {w['unit']}".strip() for w in row)


def test_the_quilt_is_shown_with_parts_zones_and_lines(client):
    view = client.get().json
    assert (view["name"], words(view["size"]), view["version"]) == ("Harbour Lights", "52 × 66 in", 1)
    assert {p["key"]: len(p["places"]) for p in view["parts"]} == {"star": 12, "sashing": 1, "border-1": 1}
    zones = {z["key"]: z for z in view["zones"]}
    assert zones[ZONE]["occurs"] == "8 patches in this block · identical in all 12"
    assert len(zones[ZONE]["drawings"][0]["lines"]) == 92
    assert zones["border"]["drawings"] == []
    assert words(client.get(unit="mm").json["size"]) == "1320.8 × 1676.4 mm"


def test_a_plan_says_the_sum_the_figures_and_what_comes_out_even(client):
    view = client.post("preview", zone=ZONE).json
    assert [words(t["words"]) for t in view["sum"]["terms"]] == ["1/2", "1/4"]
    figures = {words(r["label"]): words(r["words"]) for r in view["rows"]}
    assert figures["Step along the edge, at 45°"] == "scant 1 1/16 in"
    assert figures["Lines to sew here · in the quilt"] == "92 · 1,104"
    assert figures["Lines here"] == "92"
    assert figures["Widest gap · allowed"] == "3/4 in · 8 in"
    assert 2 <= len(view["offers"]) <= 4
    lacks = ["ruler has" in offer["label"] for offer in view["offers"]]
    assert lacks == sorted(lacks)  # those first that her rulers have
    assert any(label.endswith("ruler has 3/4") for label in (offer["label"] for offer in view["offers"]))
    tried = client.post("preview", zone=ZONE, fill={**view["fill"], **view["offers"][0]["values"]}).json
    assert any(offer["now"] for offer in tried["offers"])


@pytest.mark.parametrize(("by", "spacing"), [(1, "7/8 in"), (-2, "1/2 in"), (4, "1 1/4 in")])
def test_stepping_goes_by_the_marking_step(client, by, spacing):
    view = client.post("preview", zone=ZONE, step={"field": "spacing", "by": by}).json
    assert view["fill"]["spacing"] == spacing


def test_stepping_the_lean_and_the_rounds(client):
    assert client.post("preview", zone=ZONE, step={"field": "angle", "by": 1}).json["fill"]["angle"] == 50
    echo = client.post("preview", zone="star-points", step={"field": "rounds", "by": 1}).json
    assert echo["fill"]["rounds"] == 1
    assert client.post("preview", zone=ZONE, step={"field": "origin", "by": 1}).status_code == 422


@pytest.mark.parametrize(
    ("typed", "unit", "kept"),
    [("3/4", "in", "3/4 in"), ("19", "mm", "19 mm"), ("19 mm", "in", "19 mm"), ("19 3/8", "mm", "19.375 mm")],
)
def test_what_is_typed_is_meant_in_the_unit_she_reads(client, typed, unit, kept):
    view = client.post("preview", zone=ZONE, unit=unit, fill={"kind": "lines", "spacing": typed}).json
    assert Length.parse(view["fill"]["spacing"]) == Length.parse(kept)


@pytest.mark.parametrize(
    ("fill", "field", "says"),
    [
        ({"spacing": ""}, "fill.spacing", "missing"),
        ({"spacing": "0"}, "fill.spacing", "between 1/16 in and 100 in"),
        ({"spacing": "-1"}, "fill.spacing", "between"),
        ({"spacing": "1/0"}, "fill.spacing", "divided by 0"),
        ({"spacing": "3//4"}, "fill.spacing", "not a length"),
        ({"spacing": "500 in"}, "fill.spacing", "between"),
        ({"spacing": "1/32"}, "fill.spacing", "between"),
        ({"angle": "x"}, "fill.angle", "“x” is not an angle"),
        ({"angle": None}, "fill.angle", "missing"),
        ({"kind": "grid", "angle": 45, "second_angle": 47}, "fill.second_angle", "5 degrees or more"),
        ({"origin": "edge", "at": 99}, "at", "no number"),
        ({"kind": "fur"}, "fill", "fur"),
    ],
)
def test_wrong_input_is_refused_at_its_field_and_nothing_is_written(client, fill, field, says):
    answer = client.post("preview", zone=ZONE, fill={"kind": "lines", "spacing": "1/2 in", **fill})
    assert (answer.status_code, answer.mimetype) == (422, "application/problem+json")
    assert answer.json["field"] == field
    assert says in answer.json["detail"]
    change = {**fill_change(), "fill": {"kind": "lines", "spacing": "1/2 in", **fill}}
    assert client.change(1, "abcdef", change).status_code == 422
    assert client.get().json["version"] == 1


def test_nothing_fits_is_said_plainly(client):
    view = client.post("preview", zone="star-points", fill={"kind": "echo", "spacing": "1 in"}).json
    assert "No line fits" in words(view["known"][0]["words"])
    assert (
        client.post("ruler", zone="star-points", fill={"kind": "echo", "spacing": "1 in"}).status_code == 422
    )


def test_a_sliver_is_told_with_what_would_leave_more(client):
    fill = {"kind": "lines", "angle": 0, "spacing": "1 15/32 in", "origin": "centre line"}
    view = client.post("preview", zone="star-centre", fill=fill).json
    assert (
        words(view["known"][0]["words"])
        == "Along the top edge a sliver of 1/16 in is left. With a gap on the center it becomes 51/64 in."
    )
    figures = {words(r["label"]): words(r["words"]) for r in view["rows"]}
    assert figures["Left along an edge"] == "1/16 in"
    mend = view["known"][0]["mend"]
    assert (view["known"][0]["tone"], mend["label"]) == ("warns", "Put a gap on the center")
    after = client.post("preview", zone="star-centre", fill={**fill, **mend["values"]}).json
    assert not any("sliver" in words(known["words"]) for known in after["known"])


def test_a_gap_wider_than_the_batting_allows_is_told_with_a_way_out(client):
    view = client.post(
        "preview", zone="sashing", fill={"kind": "lines", "spacing": "90 in", "origin": "centre gap"}
    ).json
    assert not any(
        "batting" in words(a) for a in (k["words"] for k in view["known"])
    )  # the sashing itself is narrow
    kit = {"batting": {"name": "thin", "limit": "1 in"}}
    client.change(1, "abcdef", {"kind": "kit", "kit": kit})
    view = client.post("preview", zone="sashing").json
    assert "choose another batting" in words(view["known"][0]["words"])


@pytest.mark.parametrize(
    ("spacing", "kind", "says"),
    [
        ("1/4 in", "edge", ""),
        ("1/8 in", "behind", "1/8 in behind"),
        ("5/8 in", "none", "3/8 in is the mark you would need"),
    ],
)
def test_the_sum_or_why_there_is_none(client, spacing, kind, says):
    view = client.post("preview", zone=ZONE, fill={"kind": "lines", "spacing": spacing}).json
    assert view["sum"]["kind"] == kind
    assert says in words(view["sum"]["sentence"])
    if kind == "none":
        assert [o["value"] for o in view["sum"]["offers"]] == ["1/2 in", "3/4 in"]


def stands(answer):
    return answer["version"], answer["undo"], answer["redo"]


def test_identical_in_all_is_said_only_where_the_drawings_are_one(client):
    """Lines counted from the middle of the quilt fall differently in every block."""

    def zone():
        return next(zone for zone in client.get().json["zones"] if zone["key"] == ZONE)

    assert zone()["occurs"].endswith("identical in all 12")
    fill = {"kind": "lines", "spacing": "1 in", "origin": "quilt centre", "angle": 30}
    changed = client.change(1, "through-1", {"kind": "fill", "zone": ZONE, "fill": fill})
    assert changed.status_code == 200, changed.json
    most = max(len(drawing["places"]) for drawing in zone()["drawings"])
    assert most < 12 and zone()["occurs"].endswith(f"the same in {most} of 12")


def test_a_change_is_answered_with_what_it_touched_and_nothing_else(client):
    saved = client.change(1, "first-1", fill_change()).json
    assert [zone["key"] for zone in saved["zones"]] == [ZONE]
    assert (saved["zones"][0]["fill"], len(saved["zones"][0]["drawings"])) == ("Lines", 1)
    assert [saved[what] for what in ("fabrics", "parts", "order", "kit")] == [None] * 4
    assert saved["totals"] == client.get().json["totals"]
    assert not any(saved["views"][name] for name in ("zone", "marks", "route", "top", "kit"))
    undone = client.post("undo", version=2).json
    assert [zone["fill"] for zone in undone["zones"]] == ["Grid"]


def test_a_change_whose_answer_was_lost_is_answered_with_everything(client):
    client.change(1, "first-1", fill_change())
    again = client.change(1, "first-1", fill_change()).json
    whole = client.get().json
    assert all(again[what] == whole[what] for what in ("fabrics", "parts", "zones", "kit", "totals"))
    assert again["order"] == [zone["key"] for zone in whole["zones"]]


def test_an_edit_sent_with_one_whose_answer_was_lost_is_made_and_the_lost_one_is_not_made_again(client):
    gone = {"key": "gone-1", "change": {"kind": "zone gone", "zone": "star-background"}}
    assert client.post("changes", version=1, changes=[gone]).status_code == 200
    newer = {"key": "newer-1", "change": {"kind": "name", "name": "Renamed"}, "joins": True}
    found = client.post("changes", version=1, changes=[gone, newer])
    assert found.status_code == 200 and found.json["name"] == "Renamed" and found.json["version"] == 3
    assert "star-background" not in found.json["order"]
    undone = client.post("undo", version=3).json
    assert undone["name"] != "Renamed" and "star-background" in undone["order"]


def test_lines_that_the_screen_knows_are_not_sent_again(client):
    saved = client.change(1, "first-1", fill_change(), knows=[ZONE]).json
    assert saved["zones"] == []


def test_zones_that_come_and_go_are_told_in_order(client):
    keys = [zone["key"] for zone in client.get().json["zones"]]
    gone = client.change(1, "first-1", {"kind": "zone gone", "zone": ZONE}).json
    assert (gone["order"], gone["zones"]) == ([key for key in keys if key != ZONE], [])
    back = client.post("undo", version=2).json
    assert (back["order"], [zone["key"] for zone in back["zones"]]) == (keys, [ZONE])


def test_another_top_sends_its_parts_and_all_zones(client):
    rows = client.get("/top").json["doc"]["layout"]
    saved = client.change(
        1, "first-1", {"kind": "sashing", "sashing": {**rows["sashing"], "width": "3 in"}}
    ).json
    whole = client.get().json
    assert (saved["parts"], saved["zones"]) == (whole["parts"], whole["zones"])
    assert (saved["width"], saved["order"]) == (whole["width"], None)


def test_what_is_open_is_answered_with_the_change(client):
    """A zone whose kit changes, its marks and the route are told at once: nothing has to be asked for again."""
    views = {
        "zone": {"zone": ZONE},
        "marks": {"zone": ZONE},
        "route": {"quick": True},
        "top": True,
        "kit": True,
    }
    kit = {"values": {"foot": {**client.get("/kit").json["kit"]["foot"], "offset": "3/8 in"}}}
    saved = client.post("changes", version=1, changes=[{"key": "first-1", "kit": kit}], views=views).json
    told = saved["views"]
    assert told["faults"] == {} and saved["kit"]["foot"]["offset"] == "3/8 in" and saved["zones"] == []
    assert told["zone"]["sum"] == client.post("preview", zone=ZONE).json["sum"]
    assert told["marks"]["methods"] == client.post("marks", zone=ZONE).json["methods"]
    assert told["top"] == client.get("/top").json and told["kit"] == client.get("/kit").json
    assert told["route"]["visits"] and told["route"]["rows"]


def test_a_view_that_cannot_be_made_spoils_neither_the_change_nor_the_others(client):
    views = {"zone": {"zone": ZONE}, "marks": {"zone": ZONE}, "kit": True}
    saved = client.change(1, "first-1", {"kind": "zone gone", "zone": ZONE}, views=views).json
    assert (saved["version"], saved["views"]["zone"], saved["views"]["marks"]) == (2, None, None)
    assert saved["views"]["kit"] and set(saved["views"]["faults"]) == {"zone", "marks"}
    assert saved["views"]["faults"]["zone"]["status"] == 404


def test_changes_undo_redo_and_what_the_other_window_sees(client):
    saved = client.change(1, "first-1", fill_change()).json
    assert stands(saved) == (2, "Star background: Lines 1/2 in", None)
    assert stands(client.change(1, "first-1", fill_change()).json) == stands(saved)
    stale = client.change(1, "other-1", fill_change("1 in"))
    assert (stale.status_code, stale.json["field"]) == (409, "version")
    undone = client.post("undo", version=2).json
    assert (undone["undo"], undone["redo"]) == (None, "Star background: Lines 1/2 in")
    assert client.get().json["zones"][0]["fill"] == "Grid"
    assert client.post("redo", version=3).json["version"] == 4
    assert client.get().json["zones"][0]["fill"] == "Lines"
    assert client.post("undo", version=1).status_code == 409


def test_marks_count_ticks_and_pages(client):
    view = client.post("marks", zone=ZONE).json
    assert (len(view["strokes"]), view["method"], view["chosen_by_her"]) == (2, "first lines", True)
    told = {one["key"]: words(one["words"]) for one in view["methods"]}
    assert (told["first lines"], told["all lines"]) == ("2 to mark", "92 to mark")
    assert told["nothing"].endswith("by eye") and told["anchors"].startswith("every 4th")
    top = next(e for e in view["edges"] if e["name"] == "top edge")
    assert (top["from_corner"], words([top["ticks"][0]["shown"]])) == ("left", "3/8")
    assert view["pages"] == 3  # the fourth would show a seam only
    assert client.post("marks", zone=ZONE, method="all lines", paper="a4").json["pages"] > 0
    assert len(client.post("marks", zone=ZONE, method="all lines").json["strokes"]) == 92
    assert client.post("marks", zone=ZONE, method="dots").json["dots"]
    refused = client.post("marks", zone="border")
    assert (refused.status_code, refused.json["field"]) == (422, "zone")


@pytest.mark.parametrize(("kind", "mime"), [("pdf", "application/pdf"), ("svg", "image/svg+xml")])
def test_sheets_are_files_to_keep(client, kind, mime):
    answer = client.get(f"/zones/{ZONE}/sheet.{kind}", method="all lines", paper="a4", unit="mm")
    assert (answer.status_code, answer.mimetype) == (200, mime)
    assert f"{ZONE}-marks.{kind}" in answer.headers["Content-Disposition"]
    assert client.get(f"/zones/nowhere/sheet.{kind}").status_code == 404
    assert client.get(f"/zones/{ZONE}/sheet.{kind}", paper="a0").status_code == 422


def test_the_ruler_lies_for_a_line_and_for_one_that_shows_it_well(client):
    view = client.post("ruler", zone=ZONE).json
    assert words(view["tag"]) == "1/2 mark on the line beside it"
    assert len(view["body"]) == 8
    assert client.post("ruler", zone=ZONE, line=view["line"], unit="mm").json["line"] == view["line"]
    assert client.post("ruler", zone=ZONE, line=9999).status_code == 404
    assert client.post("ruler", zone=ZONE, place="9-9").status_code == 404
    views = (client.post("ruler", zone=ZONE, line=k).json for k in range(92))
    marked = next(view for view in views if view["sum"] is None)
    assert "marked line" in words(marked["laid"]) or "square line" in words(marked["laid"])


def test_the_unit_is_kept_and_a_plan_can_be_taken_away_and_brought_back(client):
    assert client.raw.put("/api/unit", json={"unit": "mm"}).status_code == 200
    assert client.raw.get("/api/home").json["unit"] == "mm"
    client.raw.put("/api/unit", json={"unit": "in"})
    plan = client.get("/plan.json").json
    before = len(client.raw.get("/api/home").json["quilts"])
    assert len(client.raw.post("/api/quilts", json={"plan": plan}).json["quilts"]) == before + 1
    assert len(client.raw.post("/api/quilts", json={"plan": None}).json["quilts"]) == before + 4
    assert client.raw.post("/api/quilts", json={"plan": {"format": "x"}}).status_code == 422


@pytest.mark.parametrize(
    ("send", "status"),
    [
        ({"data": "{", "content_type": "application/json"}, 400),
        ({"data": "[]", "content_type": "application/json"}, 400),
        ({"data": "zone=x", "content_type": "application/x-www-form-urlencoded"}, 415),
        ({"data": b"{" + b" " * 20_000_000, "content_type": "application/json"}, 413),
        ({"json": {"zone": ZONE}, "headers": {"Origin": "http://elsewhere.example"}}, 403),
        ({"json": {"zone": ZONE}, "headers": {"Host": "elsewhere.example"}}, 403),
        ({"json": {"zone": "nowhere"}}, 404),
        ({"json": {"zone": ZONE, "place": "?"}}, 422),
        ({"json": {"zone": ZONE, "surprise": 1}}, 422),
        ({"json": {}}, 422),
    ],
)
def test_the_gate(client, send, status):
    answer = client.raw.post(f"/api/quilts/{client.quilt_id}/preview", **send)
    assert answer.status_code == status
    assert answer.json["detail"].endswith(".")
    assert "Traceback" not in answer.text


def test_unknown_quilts_and_addresses_are_said(client):
    for path in ("/api/quilts/aaaaaaaaaaaa", "/api/nowhere", "/api/quilts/aaaaaaaaaaaa/plan.json"):
        answer = client.raw.get(path)
        assert (answer.status_code, answer.mimetype) == (404, "application/problem+json")


def test_every_answer_carries_the_headers(client):
    headers = client.get().headers
    assert "default-src 'self'" in headers["Content-Security-Policy"]
    assert headers["X-Content-Type-Options"] == "nosniff"
    assert headers["Cache-Control"] == "no-store"


@cache
def description():
    """Of the API, made where the application is not loaded yet."""
    run = [sys.executable, "-m", "kenzet.web.describe"]
    return subprocess.run(run, check=True, capture_output=True, text=True).stdout


def test_the_description_of_the_api_is_valid_and_fresh():
    assert list(OpenAPIV31SpecValidator(json.loads(description())).iter_errors()) == []
    assert description() == (UI / "public" / "openapi.json").read_text(), "run tools/schema"
    for path in ("/api/home", "/api/quilts/{quilt}/changes"):
        assert path in json.loads(description())["paths"]


def test_the_front_ends_types_are_fresh(tmp_path):
    source, made = tmp_path / "openapi.json", tmp_path / "schema.ts"
    source.write_text(description())
    maker = UI / "node_modules" / ".bin" / "openapi-typescript"
    subprocess.run([maker, source, "-o", made], check=True, capture_output=True)
    assert made.read_text() == (UI / "src" / "api" / "schema.ts").read_text(), "run tools/schema"


def test_a_widest_gap_that_takes_long_comes_when_it_is_asked_for(client, monkeypatch):
    fill = {"kind": "lines", "spacing": "3 in", "angle": 45}
    monkeypatch.setattr(widest_gap, "_QUICK", 5)
    first = client.post("preview", zone="sashing", fill=fill).json
    gap = next(row for row in first["rows"] if words(row["label"]).startswith("Widest gap"))
    assert first["measuring"]
    assert "measuring" in words(gap["words"])
    measured = client.post("preview", zone="sashing", fill=fill, gap=True).json
    monkeypatch.undo()
    at_once = client.post("preview", zone="sashing", fill=fill).json
    assert not at_once["measuring"]
    assert measured["rows"] == at_once["rows"]


def test_no_two_models_share_a_name_in_the_description():
    """The description keeps models by their names alone: a second one of a name would take the place of the first."""
    where: dict[str, set[str]] = {}
    for found in pkgutil.walk_packages(kenzet.__path__, "kenzet."):
        module = importlib.import_module(found.name)
        for name, value in vars(module).items():
            if isinstance(value, type) and issubclass(value, BaseModel) and value.__module__ == found.name:
                where.setdefault(name, set()).add(found.name)
    published = json.loads(description())["components"]["schemas"]
    assert {name: modules for name, modules in where.items() if len(modules) > 1 and name in published} == {}


def test_changes_and_fills_are_published_with_kinds_limits_and_defaults():
    schemas = json.loads(description())["components"]["schemas"]
    change = schemas["ChangeMade"]["properties"]["change"]["anyOf"][0]
    assert set(change["discriminator"]["mapping"]) == set(CHANGES)
    fill = schemas["PlanRequest"]["properties"]["fill"]["anyOf"][0]
    assert set(fill["discriminator"]["mapping"]) == set(FILLS)
    stops = schemas["Stitching"]["properties"]["stops"]
    assert (stops["minimum"], stops["maximum"], stops["default"]) == (0, 10, 5)


@pytest.mark.parametrize("export", EXPORTS, ids=lambda export: export.key)
def test_every_export_is_linked_and_written(client, export):
    """The link that the app gives leads to a file of the kind that the table says."""
    (link,) = (one for one in client.raw.get("/api/home").json["exports"] if one["key"] == export.key)
    query = {"number": 1, "name": "My printer", "edge": 0}
    asked = {name: value for name, value in query.items() if name in export.query.model_fields}
    answer = client.raw.get(link["url"].format(quilt=client.quilt_id, zone=ZONE), query_string=asked)
    assert (answer.status_code, answer.mimetype) == (200, export.mime)
    assert len(answer.data) > 20 and "attachment" in answer.headers["Content-Disposition"]


def test_exports_have_keys_and_addresses_of_their_own():
    assert (
        len({export.key for export in EXPORTS}) == len({export.address for export in EXPORTS}) == len(EXPORTS)
    )
