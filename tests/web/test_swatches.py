"""The swatch book over the API."""

from __future__ import annotations

import io
import json
import zipfile

import pypdf
import pytest
from PIL import Image

from kenzet.store import swatches as store
from kenzet.store.quilts import LOCAL_OWNER
from tests.web.test_api import fill_change


@pytest.fixture(autouse=True)
def empty_book(conn):
    with conn.cursor() as cursor:
        cursor.execute("DELETE FROM swatch")
    conn.commit()


def add(client, zone="star-background", **more):
    return client.post("swatches", zone=zone, **more)


def found(client, key, **said):
    return client.raw.post(f"/api/swatches/{key}", json={"found": said})


def rows(swatch):
    return {
        row["label"][0]: "".join(w if isinstance(w, str) else w["text"] for w in row["words"])
        for row in swatch["rows"]
    }


def test_a_zone_goes_into_the_book_with_its_figures(client):
    view = add(client, name=" Grid on cotton ").json
    (swatch,) = view["swatches"]
    assert (swatch["name"], swatch["of"], view["added"]) == (
        "Grid on cotton",
        "Harbour Lights, Star background",
        swatch["id"],
    )
    told = rows(swatch)
    assert (
        told["Fill"] == "Grid"
        and told["Spacing"] == "3/4"
        and told["Stitching"].startswith("2.8 in per sq in")
    )
    assert told["Feels"] == "–" and "by the relief" in told["Height"]
    assert [field["name"] for field in swatch["fields"] if field["used"]] == [
        "felt",
        "high",
        "pieced",
        "before",
        "washed",
        "again",
    ]
    assert add(client, zone="star-points").json["swatches"][0]["name"] == "Star points"


def test_a_swatch_stays_as_it_was_when_its_quilt_changes(client):
    before = add(client).json["swatches"][0]
    assert client.change(1, "other-spacing-2", fill_change("1 in", "star-background")).status_code == 200
    (after,) = client.raw.get("/api/swatches").json["swatches"]
    assert after == before


def test_what_cannot_be_kept_is_told_and_nothing_is_lost(client):
    assert add(client, zone="border").status_code == 422
    assert add(client, zone="nowhere").status_code == 404
    assert add(client, name="a" * 81).status_code == 422
    key = add(client).json["added"]
    assert found(client, key, high="1/16 in", felt="soft").status_code == 200
    for said, field in (
        ({"high": "9 in"}, "high"),
        ({"felt": "lumpy"}, "felt"),
        ({"high": "thick"}, "high"),
        ({"name": ""}, "name"),
        ({"odd": 1}, "odd"),
    ):
        answer = found(client, key, **said)
        assert (answer.status_code, answer.json["field"]) == (422, field), said
    assert found(client, key, photos=["0123456789ab"]).status_code == 404
    (swatch,) = client.raw.get("/api/swatches").json["swatches"]
    assert rows(swatch)["Feels"] == "soft" and rows(swatch)["Height"].startswith("1/16")
    assert found(client, "0123456789ab", felt="soft").status_code == 404


def test_a_swatch_that_is_taken_out_is_struck_out_not_lost(client, conn):
    key = add(client).json["added"]
    assert client.raw.delete(f"/api/swatches/{key}").json["swatches"] == []
    assert client.raw.delete(f"/api/swatches/{key}").status_code == 404
    with conn.cursor() as cursor:
        cursor.execute("SELECT struck_at FROM swatch WHERE id = %s", (key,))
        assert cursor.fetchone()["struck_at"] is not None


def test_its_picture_is_its_fabric_in_relief(client):
    key = add(client).json["added"]
    answer = client.raw.get(f"/api/swatches/{key}/picture.jpg")
    picture = Image.open(io.BytesIO(answer.data))
    assert answer.mimetype == "image/jpeg" and max(picture.size) > 240
    assert len({picture.getpixel((20 + k, 30)) for k in range(40)}) > 5


def test_swatches_teach_the_batting_and_taking_it_moves_the_relief(client):
    key = add(client, zone="sashing").json["added"]
    found(client, key, high="1/4 in")
    row = next(one for one in client.get("/log").json["learnt"] if one["key"] == "thickness")
    assert row["differs"] and row["evidence"].startswith("1 swatch measured") and row["used"] == "0.125 in"
    before = client.get("/relief.jpg", long=200).data
    assert client.change_kit(1, "learnt-thickness", **row["change"]["kit"]).status_code == 200
    assert client.get("/relief.jpg", long=200).data != before
    again = next(one for one in client.get("/log").json["learnt"] if one["key"] == "thickness")
    assert again["used"] == row["value"]


def test_a_book_goes_out_and_comes_in_without_doubling(client):
    add(client, name="Grid")
    book = client.raw.get("/api/swatches/book.json").data
    sent = {"data": book, "headers": {"Content-Type": "application/octet-stream"}}
    assert len(client.raw.post("/api/swatches/import", **sent).json["swatches"]) == 1
    other = json.loads(book)
    other["swatches"][0]["found"]["name"] = "Grid of a friend"
    sent["data"] = json.dumps(other)
    names = [one["name"] for one in client.raw.post("/api/swatches/import", **sent).json["swatches"]]
    assert sorted(names) == ["Grid", "Grid of a friend"]
    for wrong in (b"{", b"[]", b'{"format": "kenzet.recipes"}'):
        sent["data"] = wrong
        refused = client.raw.post("/api/swatches/import", **sent)
        assert (refused.status_code, refused.json["field"]) == (422, "file")
    pages = pypdf.PdfReader(io.BytesIO(client.raw.get("/api/swatches/book.pdf").data)).pages
    text = "".join(page.extract_text() for page in pages)
    assert "Grid of a friend" in text and "Widest gap" in text
    with zipfile.ZipFile(io.BytesIO(client.raw.get("/api/files.zip").data)) as kept:
        assert len(json.loads(kept.read("swatches.json"))["swatches"]) == 2


@pytest.mark.parametrize(
    ("field", "value", "says"),
    [
        ("rings", [[0, 0, 1e308, 0, 1e308, 1e308]], "larger than any quilt"),
        ("lines", [[0, 0, 1e308, 1e308]], "larger than any quilt"),
        ("rings", [[0, 0, float("inf"), 0, 5, 5]], ""),
        ("lines", [[0, 0, float("nan"), 5]], ""),
        ("lines", [[0, 0, 5, 5, 9]], "not whole"),
        ("rings", [[0, 0, 5, 5]], "not whole"),
        ("rings", [[0, 0, 5, 5, 10, 10]], "no area"),
        ("lines", [[0, 0, 5000, 5000] * 9000], "more stitching"),
        ("gap", 1e308, ""),
        ("density", float("nan"), ""),
    ],
)
def test_a_swatch_file_that_cannot_be_drawn_is_refused_at_import(client, field, value, says):
    add(client, name="Grid")
    book = json.loads(client.raw.get("/api/swatches/book.json").data)
    book["swatches"][0]["swatch"][field] = value
    book["swatches"][0]["found"]["name"] = "Hostile"
    sent = {"data": json.dumps(book), "headers": {"Content-Type": "application/octet-stream"}}
    refused = client.raw.post("/api/swatches/import", **sent)
    assert (refused.status_code, refused.json["field"]) == (422, "file")
    assert says in refused.json["detail"]
    assert [one["name"] for one in client.raw.get("/api/swatches").json["swatches"]] == ["Grid"]


def test_the_book_has_an_end(client, conn, monkeypatch):
    monkeypatch.setattr(store, "MOST_SWATCHES", 1)
    add(client)
    assert "at most 1" in add(client).json["detail"]
    assert len(store.listed(conn, LOCAL_OWNER)) == 1


def test_an_empty_book_is_printed_too(client):
    (page,) = pypdf.PdfReader(io.BytesIO(client.raw.get("/api/swatches/book.pdf").data)).pages
    assert "No swatches yet" in page.extract_text()


def test_two_washed_swatches_tell_what_each_zone_shrinks(client):
    def washed():
        return "".join(w if isinstance(w, str) else w["text"] for w in client.get("/balance").json["washed"])

    for zone, after in (("sashing", "9.9 in"), ("star-points", "9.5 in")):
        found(client, add(client, zone=zone).json["added"], before="10 in", washed="yes", after=after)
        if zone == "sashing":
            assert "By your swatches" not in washed()
    told = washed()
    assert (
        "By your swatches “Border” shrinks by 1.0 % and “Star points” by 5.0 %" in told
        and "after the wash about" in told
    )


def test_what_swatches_teach_beyond_what_a_batting_may_have_is_taken_as_far_as_it_may(client):
    """A piece that lost half of itself in the wash, and one that lies flat."""
    key = add(client, zone="star-points").json["added"]
    found(client, key, high="1/64 in", before="10 in", washed="yes", after="5 in")
    rows = {one["key"]: one for one in client.get("/log").json["learnt"]}
    assert rows["shrinks"]["change"]["kit"]["values"]["batting"]["shrinks"] == 20
    for number, name in enumerate(("shrinks", "rise"), 1):
        assert client.change_kit(number, f"learnt-{name}", **rows[name]["change"]["kit"]).status_code == 200
