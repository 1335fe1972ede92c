"""At the table, and printers, over the API."""

from __future__ import annotations

import io
import math

import pytest
from pypdf import PdfReader

from tests.web.test_api import ZONE, words


def test_strokes_come_in_order_and_what_is_drawn_is_kept(client):
    view = client.post("table", zone=ZONE).json
    assert (len(view["steps"]), view["times"], view["done"], view["still_on"]) == (2, 12, 0, [])
    assert words(view["steps"][0]["lay"])
    assert client.post("table", zone=ZONE, done=3).json["done"] == 3
    kept = client.post("table", zone=ZONE).json
    assert kept["done"] == 3 and kept["still_on"][0]["zone"] == ZONE and "water" in kept["still_on"][0]["off"]
    assert client.post("table", zone=ZONE, done=2 * 12 + 1).status_code == 422
    off = client.post("table", zone=ZONE, off=True).json
    assert (off["still_on"], off["done"]) == ([], 0)
    assert client.post("table", zone=ZONE, done=1).json["still_on"]
    assert client.post("table", zone=ZONE, done=0).json["still_on"] == []
    assert client.post("table", zone="border").status_code == 422


def marked_by(client, method, version, **more):
    client.change(version, f"marking-{version}", {"kind": "marking", "zone": ZONE, "marking": method})
    return client.post("table", zone=ZONE, **more).json


def test_ticks_and_tape_are_gone_through_as_strokes_are(client):
    ticked = marked_by(client, "ticks", 1)
    assert {step["kind"] for step in ticked["steps"]} == {"ticks"}
    assert ticked["steps"][0]["figures"] and len(ticked["steps"][0]["figures"]) == len(
        ticked["steps"][0]["dots"]
    )
    taped = marked_by(client, "tape", 2, done=1)
    assert [bool(step["laid"]) and not step["lines"] for step in taped["steps"]] == [True]
    assert words(taped["steps"][0]["lay"]).startswith("Cut ") and "stitch" in taped["still_on"][0]["off"]
    assert taped["pins"] == ""  # they come in after marking
    marks = client.post("marks", zone=ZONE, method="tape").json
    assert marks["rounds"] > 1 == marks["at_the_table"]
    assert all(one["sewn"] for one in marks["laid"])


def test_a_mark_is_a_sewn_line_or_where_the_ruler_goes_and_never_both(client):
    lines = client.post("marks", zone=ZONE, method="all lines").json
    edges = client.post("marks", zone=ZONE, method="all lines", kind="ruler edges").json
    assert (lines["stands_for"], edges["stands_for"]) == ("sewn line", "ruler edge")
    foot = 6.35
    for line, edge in zip(lines["strokes"][:20], edges["strokes"][:20], strict=True):
        (x, y), (u, v), (ex, ey) = line[:2], line[2:], edge[:2]
        long = math.dist((x, y), (u, v))
        assert abs((u - x) * (ey - y) - (v - y) * (ex - x)) / long == pytest.approx(foot, abs=0.01)


def test_the_order_before_sewing_is_hers(client):
    first = client.post("prep").json
    assert (first["layered"], first["basted"]) == ("after marking", "pins")
    client.change(1, "layers-1", {"kind": "layers", "layered": "before marking", "basted": "spray glue"})
    later = client.post("prep").json
    assert later["layered"] == "before marking" and later["steps"] != first["steps"]
    said = " ".join(PdfReader(io.BytesIO(client.get("/job.pdf").data)).pages[0].extract_text().split())
    assert "Before you sew" in said and "window open" in said
    assert client.post("table", zone=ZONE).json["pins"] == ""
    client.change(2, "layers-2", {"kind": "layers", "layered": "before marking", "basted": "pins"})
    assert "count them" in client.post("table", zone=ZONE).json["pins"]


def test_what_does_not_repeat_is_no_sheet_of_repeats(client):
    refused = client.get(f"/zones/{ZONE}/sheet.pdf", scope="repeat")
    assert (refused.status_code, refused.json["field"]) == (422, "scope")
    wave = {"kind": "waves", "spacing": "1 in", "period": "2 in", "depth": "1/2 in", "angle": 0}
    client.change(1, "border-fill", {"kind": "fill", "zone": "border", "fill": wave})
    client.change(
        2, "ends-0002", {"kind": "line ends", "zone": "border", "line_ends": "inside", "edge": "1/4 in"}
    )
    view = client.post("marks", zone="border", scope="repeat", method="all lines").json
    assert view["repeats"] and view["pages"] == 1
    assert any("Margin" in words(row["label"]) for row in view["rows"])
    assert client.get("/zones/border/sheet.pdf", scope="repeat", method="all lines").data.startswith(b"%PDF")


@pytest.fixture
def printers(app):
    raw = app.test_client()
    yield raw
    for printer in raw.get("/api/printers").json["printers"]:
        raw.delete("/api/printers", query_string={"name": printer["name"]})


def test_a_printer_is_corrected_by_what_is_read_and_asks_before_much(printers):
    read = {"name": "Desk", "across": "5.97", "up": "6"}
    view = printers.post("/api/printers", json=read).json
    assert (view["printers"][0]["name"], view["asks"]) == ("Desk", "")
    assert view["printers"][0]["across"] == pytest.approx(6 / 5.97, abs=1e-5)
    far = {**read, "name": "Far", "across": "5.4"}
    asked = printers.post("/api/printers", json=far).json
    assert "fit to page" in asked["asks"] and len(asked["printers"]) == 1
    assert len(printers.post("/api/printers", json={**far, "sure": True}).json["printers"]) == 2
    assert printers.get("/api/printer-check.pdf", query_string={"name": "Desk"}).data.startswith(b"%PDF")
    assert (
        printers.delete("/api/printers", query_string={"name": "Far"}).json["printers"][0]["name"] == "Desk"
    )
    odd = printers.post("/api/printers", json={**read, "name": "Up/stairs"}).json
    assert (
        len(odd["printers"])
        == 2
        == 1 + len(printers.delete("/api/printers", query_string={"name": "Up/stairs"}).json["printers"])
    )


@pytest.mark.parametrize(
    ("field", "text"), [("across", "0"), ("up", "40 in"), ("across", "wide"), ("name", " ")]
)
def test_what_no_bar_can_read_is_refused_at_its_field(printers, field, text):
    found = printers.post("/api/printers", json={"name": "Desk", "across": "6", "up": "6", field: text})
    assert (found.status_code, found.json["field"]) == (422, field)


@pytest.mark.parametrize(
    ("file", "begins"),
    [("sheet.dxf", b"  0"), ("ticks.csv", b"edge,"), ("strokes.csv", b"stroke,"), ("sheet.pdf", b"%PDF")],
)
def test_other_files_of_a_sheet(client, file, begins):
    got = client.get(
        f"/zones/{ZONE}/{file}", method="all lines", scope="block", kind="ruler edges", back=True, paper="a3"
    )
    assert got.status_code == 200 and got.data.startswith(begins)


def test_the_job_sheet_tells_every_block_its_sums_and_its_strokes(client):
    pages = {
        large: PdfReader(io.BytesIO(client.get("/job.pdf", large=large).data)).pages
        for large in (False, True)
    }
    said = [" ".join(page.extract_text().split()) for page in pages[False]]
    assert "Harbour Lights" in said[0] and "Marks to make" in said[0]
    star = next(text for text in said if "12 of them" in text)
    assert "1/2 mark on your last line + 1/4 your foot = 3/4 apart" in star
    assert "mark sheet has 3 pages" in star
    look = next(text for text in said if "How it will look" in text)
    assert "Thread “Gray thread”" in look and "Grid, 12 places" in look
    assert len(pages[True]) >= len(pages[False])
    assert client.get("/job.pdf", unit="mm", paper="a4").status_code == 200


def test_without_a_fill_there_is_no_job(app):
    raw = app.test_client()
    new = raw.post(
        "/api/quilts", json={"wish": {"name": "Bare", "columns": 2, "rows": 2, "block": "6 in"}}
    ).json["quilts"][0]
    refused = raw.get(f"/api/quilts/{new['id']}/job.pdf")
    assert (refused.status_code, "no job" in refused.json["detail"]) == (422, True)
    raw.put(f"/api/quilts/{new['id']}/state", json={"state": "deleted"})
