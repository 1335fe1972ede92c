"""At the table, and printers, over the API."""

from __future__ import annotations

import io

import pytest
from pypdf import PdfReader

from tests.web.test_api import ZONE, words


def test_strokes_come_in_order_and_what_is_drawn_is_kept(client):
    view = client.post("table", zone=ZONE).json
    assert (len(view["strokes"]), view["times"], view["done"], view["still_on"]) == (8, 12, 0, [])
    assert words(view["strokes"][0]["lay"])
    assert client.post("table", zone=ZONE, done=5).json["done"] == 5
    kept = client.post("table", zone=ZONE).json
    assert kept["done"] == 5 and kept["still_on"][0]["zone"] == ZONE and "water" in kept["still_on"][0]["off"]
    assert client.post("table", zone=ZONE, done=8 * 12 + 1).status_code == 422
    off = client.post("table", zone=ZONE, off=True).json
    assert (off["still_on"], off["done"]) == ([], 0)
    assert client.post("table", zone=ZONE, done=1).json["still_on"]
    assert client.post("table", zone=ZONE, done=0).json["still_on"] == []
    assert client.post("table", zone="border").status_code == 422


@pytest.fixture
def printers(app):
    raw = app.test_client()
    yield raw
    for printer in raw.get("/api/printers").json["printers"]:
        raw.post("/api/printers/forget", json={"name": printer["name"]})


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
    assert printers.post("/api/printers/forget", json={"name": "Far"}).json["printers"][0]["name"] == "Desk"
    odd = printers.post("/api/printers", json={**read, "name": "Up/stairs"}).json
    assert (
        len(odd["printers"])
        == 2
        == 1 + len(printers.post("/api/printers/forget", json={"name": "Up/stairs"}).json["printers"])
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
        f"/zones/{ZONE}/{file}", method="all lines", of="block", kind="ruler edges", back=True, paper="a3"
    )
    assert got.status_code == 200 and got.data.startswith(begins)


def test_the_job_sheet_tells_every_block_its_sums_and_its_strokes(client):
    pages = {
        large: PdfReader(io.BytesIO(client.get("/job.pdf", large=large).data)).pages
        for large in (False, True)
    }
    said = [" ".join(page.extract_text().split()) for page in pages[False]]
    assert "Harbour Lights" in said[0] and "Marks to draw" in said[0]
    star = next(text for text in said if "12 of them" in text)
    assert "1/2 mark on your last line + 1/4 your foot = 3/4 apart" in star
    assert "Turn the quilt." in star and "mark sheet has 4 pages" in star
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
