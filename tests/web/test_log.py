"""The logbook over the API."""

from __future__ import annotations

import csv
import io
import json
import re
from datetime import datetime

import numpy as np
import pypdf
import pytest
import vobject

from kenzet.formats.photo import jpeg_of
from kenzet.store import quilts
from tests.photographed import block_at, photographed
from tests.web.conftest import Client
from tests.web.test_api import fill_change
from tests.web.test_sewing import done, sew, told


def remark(client, number, about, kind, said):
    return client.post("log/remarks", id=f"remark-{number:04}", about=about, kind=kind, told=said)


def rows(there):
    return {
        row["label"][0]: "".join(w if isinstance(w, str) else w["text"] for w in row["words"])
        for row in there["rows"]
    }


def test_before_anything_is_sewn_everything_is_planned(client):
    view = client.get("/log").json
    assert (view["sewn"], view["time"], view["sittings"], view["blocks"]) == ("0 %", "none", [], [])
    assert {stage["stage"]: stage["many"] for stage in view["stages"]} == {"planned": 13}
    assert view["next"] == "Eight-point star, row 3, block 2"
    assert len(view["places"]) == 13 and view["todo"][-1]["key"] == "pins"


def test_what_was_sewn_stands_in_sittings_blocks_zones_and_tools(client):
    sew(client, 12)
    view = client.get("/log").json
    (sitting,), (block,) = view["sittings"], view["blocks"]
    assert block["place"] == "3-2" and sitting["there"][0]["name"] == "Star background"
    told_rows = rows(sitting["there"][0])
    assert (
        rows(sitting)["By technique"].startswith("along a ruler ")
        and rows(block)["By technique"] == rows(sitting)["By technique"]
    )
    assert told_rows["Fill"] == "Grid" and told_rows["Spacing planned"].startswith("3/4")
    assert "needle to rim 1/4" in told_rows["Foot"] and told_rows["Ruler lines"].startswith("Straight ruler:")
    assert [zone["name"] for zone in view["zones"]] == [there["name"] for there in sitting["there"]]
    assert {tool["note"].split(",")[0] for tool in view["tools"]} == {"foot", "ruler", "thread"}
    assert view["sewn"] == "1 %" and client.get("/progress").json == {"sewn": "1 %", "next": view["next"]}
    place = next(one for one in view["places"] if one["place"] == "3-2")
    assert place["stage"] == "begun" and 0 < place["share"] < 1 and place["words"].endswith("% sewn")
    assert any(todo["key"] == "ends:3-2" for todo in view["todo"])


def test_what_was_sewn_stays_as_it_was_sewn_when_the_plan_changes(client):
    sew(client, 12)
    before = client.get("/log").json["blocks"][0]["there"]
    changed = client.change(1, "other-spacing-1", fill_change("1 in", "star-background"))
    assert changed.status_code == 200
    view = client.get("/log").json
    assert view["blocks"][0]["there"] == before
    client.post("undo", version=2)
    assert client.get("/log").json["blocks"][0]["there"] == before


def test_remarks_are_kept_once_and_struck_out(client):
    first = remark(client, 1, "place:3-2", "note", "Loosen the tension.").json
    again = remark(client, 1, "place:3-2", "note", "Loosen the tension.").json
    assert (
        [one["told"] for one in again["remarks"]]
        == ["Loosen the tension."]
        == [one["told"] for one in first["remarks"]]
    )
    remark(client, 2, "place:3-2", "verdict", "keep")
    view = remark(client, 3, "place:3-2", "verdict", "touch up").json
    assert [one["told"] for one in view["remarks"]] == ["Loosen the tension.", "touch up"]
    view = client.post("log/strike", id="remark-0001").json
    assert [one["told"] for one in view["remarks"]] == ["touch up"]
    assert client.post("log/strike", id="remark-0001").status_code == 404


def test_a_place_that_is_sewn_and_judged_is_inspected(client):
    here = client.post("sewing").json["here"]
    number = 1
    while here["place"] == "3-2":
        events = [done(number + k, step, here["place"]) for k, step in enumerate(here["steps"])]
        client.post("sewing/events", events=events)
        number += len(events)
        here = client.post("sewing").json["here"]
    stage = {one["place"]: one["stage"] for one in client.get("/log").json["places"]}["3-2"]
    view = remark(client, 9, "place:3-2", "verdict", "keep").json
    assert (stage, {one["place"]: one["stage"] for one in view["places"]}["3-2"]) == ("finished", "inspected")


@pytest.mark.parametrize(
    ("about", "kind", "said"),
    [
        ("place:3-2", "verdict", "awful"),
        ("place:3-2", "note", ""),
        ("nothing", "note", "x"),
        ("place:3-2", "done", "some"),
        ("place:3-2", "photo", "000000000000"),
        ("place:3-2", "note", "x" * 2001),
    ],
)
def test_what_cannot_be_said(client, about, kind, said):
    answer = remark(client, 1, about, kind, said)
    assert answer.status_code in (404, 422) and answer.json["detail"]
    assert client.get("/log").json["remarks"] == []


def test_what_is_ticked_is_done_until_there_is_more_of_it(client):
    sew(client, 6)
    todo = {one["key"]: one for one in client.get("/log").json["todo"]}
    many = len(todo["ends:3-2"]["at"])
    view = remark(client, 1, "ends:3-2", "done", str(many)).json
    assert {one["key"]: one["done"] for one in view["todo"]} == {"ends:3-2": True, "pins": False}
    client.post("sewing/events", events=[told(90, "begun", place="3-2", at=[500.0, 500.0])])
    after = {one["key"]: one for one in client.get("/log").json["todo"]}["ends:3-2"]
    assert not after["done"] and len(after["at"]) > many


def test_the_log_goes_out_as_table_as_json_and_on_paper(client):
    sew(client, 12)
    remark(client, 1, "place:3-2", "note", "Ruler slipped once.")
    table = list(csv.DictReader(io.StringIO(client.get("/log.csv").get_data(as_text=True))))
    assert {row["fill"] for row in table} >= {"Grid"} and all(float(row["mm sewn"]) > 0 for row in table)
    whole = json.loads(client.get("/log.json").get_data(as_text=True))
    assert len(whole["events"]) == 12 and whole["remarks"][0]["told"] == "Ruler slipped once."
    text = "".join(
        page.extract_text() for page in pypdf.PdfReader(io.BytesIO(client.get("/log.pdf").data)).pages
    )
    assert "Log of Harbour Lights" in text and "Ruler slipped once." in text and "Star background" in text


def test_a_sewn_block_is_measured_and_its_offset_is_taken_over(client):
    """Every line comes a tenth of a mm too far from the last: the foot is wider than its label says."""
    photo, truth = photographed(block_at(0, "1-1", False), seed=41, drift=0.12, offset=0.15)
    kept = client.raw.post("/api/photos", data=jpeg_of(photo), content_type="application/octet-stream").json
    corners = (np.array(truth["clicked"]) / [photo.shape[1], photo.shape[0]]).tolist()
    found = client.post("inspections", photo=kept["id"], place="1-1", corners=corners).json
    assert found["verdict"] in ("keep", "touch up", "rip") and len(found["sides"]) == 148
    assert client.get(f"/inspections/{found['id']}/flat.jpg").status_code == 200
    assert [one["place"] for one in client.get("/inspections").json["inspections"]] == ["1-1"]
    learnt = {one["key"]: one for one in client.get("/log").json["learnt"]}
    offset = learnt["offset-left"]
    assert offset["differs"] and 0.252 < float(offset["value"].split()[0]) < 0.258

    side = next(one for one in found["sides"] if one["truth"] == "within")
    struck = client.post(f"inspections/{found['id']}/side", side=side["key"]).json
    assert next(one for one in struck["sides"] if one["key"] == side["key"])["truth"] == "unseen"
    nudged = client.post(f"inspections/{found['id']}/side", side=side["key"], nudged=2.0).json
    assert next(one for one in nudged["sides"] if one["key"] == side["key"])["offset"] == 2.0
    back = client.post(f"inspections/{found['id']}/side", side=side["key"], back=True).json
    assert back["sides"] == found["sides"]

    taken = client.change_kit(1, "learnt-offset-1", **offset["change"]["kit"])
    assert taken.status_code == 200
    again = {one["key"]: one for one in client.get("/log").json["learnt"]}["offset-left"]
    assert not again["differs"] and again["used"] == offset["value"]

    assert client.post(f"inspections/{found['id']}/strike").json["inspections"] == []
    assert client.get("/log").json["learnt"] == []


def test_another_block_and_a_place_without_lines_are_refused(client):
    photo, truth = photographed(block_at(1, "2-1", None), seed=42)
    kept = client.raw.post("/api/photos", data=jpeg_of(photo), content_type="application/octet-stream").json
    corners = (np.array(truth["clicked"]) / [photo.shape[1], photo.shape[0]]).tolist()
    refused = client.post("inspections", photo=kept["id"], place="1-1", corners=corners)
    assert (
        refused.status_code == 422
        and refused.json["field"] == "photo"
        and "does not show" in refused.json["detail"]
    )
    cards = client.post("inspections", photo=kept["id"], place="1-1")
    assert cards.status_code == 422 and "corner cards" in cards.json["detail"]
    assert client.post("inspections", photo="000000000000", place="1-1").status_code == 404
    sashing = client.post("inspections", photo=kept["id"], place="sashing", corners=corners)
    assert sashing.status_code == 422 and "four corners" in sashing.json["detail"]
    assert client.post("inspections", photo=kept["id"], place="9-9", corners=corners).status_code == 404
    assert client.get("/inspections").json["inspections"] == []


def test_what_fits_into_an_evening(client):
    def says(minutes):
        return client.get("/log/fits", minutes=minutes).json

    view = client.get("/log").json
    assert view["range"] and all(one["left"] for one in view["places"])
    short, long = says(5), says(600)
    assert short["places"] == [] and short["says"].startswith("Eight-point star, row 3, block 2 takes ")
    assert long["places"][0] == "3-2" and len(long["places"]) > 5
    some = says(90)["places"]
    assert some == long["places"][: len(some)] and some
    refused = client.get("/log/fits", minutes=0)
    assert refused.status_code == 422 and refused.json["detail"]


def asked(client, **query):
    return client.get(
        "/schedule", **{"begin": "2026-11-30", "days": "02", "minutes": 90, "at": "19:00", **query}
    )


def test_sessions_hold_all_that_is_left_on_her_days(client):
    view = asked(client).json
    first, *rest = view["sessions"]
    assert (first["day"], first["times"].split(" to ")[0]) == ("Monday, November 30", "7:00 pm")
    assert first["lines"][0].startswith("Wind ") and any(
        "Eight-point star, row 3, block 2" in line for line in first["lines"]
    )
    assert {one["day"].split(",")[0] for one in rest} == {"Monday", "Wednesday"}
    places = {place for one in view["sessions"] for place in one["places"]}
    assert len(places) == 13
    assert view["says"].endswith(f"all lines are sewn on {view['sessions'][-1]['day']}.")
    soon = asked(client, by="2026-12-02").json["says"]
    assert "sew about" in soon and "instead of 90" in soon
    assert asked(client, by="2027-12-02").json["says"].endswith("That is on time.")


def test_ahead_of_it_fewer_sessions_are_left(client):
    before = len(asked(client).json["sessions"])
    here = client.post("sewing").json["here"]
    number = 1
    for _ in range(6):
        events = [done(number + k, step, here["place"]) for k, step in enumerate(here["steps"])]
        client.post("sewing/events", events=events)
        number += len(events)
        here = client.post("sewing").json["here"]
    assert len(asked(client).json["sessions"]) < before


@pytest.mark.parametrize("query", [{"days": "79"}, {"minutes": 5}, {"begin": "soon"}, {"at": "evening"}])
def test_a_schedule_that_cannot_be(client, query):
    refused = asked(client, **query)
    assert refused.status_code == 422 and refused.json["detail"]


def test_sessions_that_come_to_no_end_are_refused_at_their_minutes(client, monkeypatch):
    monkeypatch.setattr("kenzet.core.logbook.schedule.MOST", 3)
    refused = asked(client, minutes=20)
    assert (refused.status_code, refused.json["field"]) == (422, "minutes")
    assert "Choose longer sessions" in refused.json["detail"]


def test_no_day_no_session(client):
    assert asked(client, days="").json == {
        "says": "Nothing is left to sew, or no day is chosen.",
        "sessions": [],
    }


def test_the_calendar_file_is_read_by_another_library(client):
    view = asked(client).json
    answer = client.get("/schedule.ics", begin="2026-11-30", days="02", minutes=90, at="19:00")
    assert answer.mimetype == "text/calendar"
    calendar = vobject.readOne(answer.get_data(as_text=True))
    entries = calendar.vevent_list
    assert len(entries) == len(view["sessions"]) and len({entry.uid.value for entry in entries}) == len(
        entries
    )
    first = entries[0]
    assert first.dtstart.value == datetime(2026, 11, 30, 19, 0)
    assert first.summary.value == f"Quilting 1 of {len(entries)}: Harbour Lights"
    assert first.description.value.split("\n") == view["sessions"][0]["lines"]
    for entry in entries:
        assert 0 < (entry.dtend.value - entry.dtstart.value).total_seconds() / 60 <= 90
        assert entry.dtstart.value.weekday() in (0, 2)
    again = client.get("/schedule.ics", begin="2026-11-30", days="02", minutes=90, at="19:00").get_data(
        as_text=True
    )
    assert [one.uid.value for one in vobject.readOne(again).vevent_list] == [one.uid.value for one in entries]


def test_the_figures_of_the_route_shrink_as_she_sews(client):
    def figures():
        view = client.post("route").json
        return {row["label"][0]: row["words"] for row in view["rows"]}

    before = figures()
    assert all(len(words) == 1 for words in before.values())
    sew(client, 40)
    after = figures()
    shrinking = {label for label, words in after.items() if len(words) > 1}
    assert shrinking == {"Lines", "Sewing time, about", "Thread to buy (incl. 10 % spare)"}
    assert {label: words[0] for label, words in after.items()} == {
        label: words[0] for label, words in before.items()
    }
    whole, left = (int(re.sub("[^0-9]", "", words)) for words in (after["Lines"][0], after["Lines"][1]))
    log = client.get("/log").json
    assert left / whole == pytest.approx(1 - log["share"], abs=0.001)
    assert after["Sewing time, about"][1] == f" · {log['left']} left"


def tape(client, number, **more):
    body = {
        "id": f"tape-{number:05}",
        "place": "1-1",
        "zone": "star-background",
        "lines": 10,
        "span": "7 in",
        **more,
    }
    return client.post("log/measured", **body)


def test_a_block_measured_with_a_tape_is_told_taught_from_and_struck_out(client):
    (row,) = tape(client, 1, gap="1").json["taped"]
    told = "".join(w if isinstance(w, str) else w["text"] for w in row["words"])
    assert told.startswith(
        "10 lines: 7 from first to last, planned 6 3/4. 1/4 too wide, 0.028 in in each gap"
    )
    assert (row["truth"], row["place"], row["name"]) == (
        "out",
        "1-1",
        "Star background",
    ) and "Widest gap 1, planned 3/4" in told
    view = tape(client, 1).json  # told again
    assert len(view["taped"]) == 1
    offset = next(one for one in view["learnt"] if one["key"].startswith("offset"))
    assert offset["evidence"].startswith("9 lines measured")
    place = next(one for one in view["places"] if one["place"] == "1-1")
    changed = client.change(1, "wider-spacing", fill_change("1 in", "star-background"))
    assert changed.status_code == 200
    assert client.get("/log").json["taped"] == view["taped"] and place["stage"] == "planned"
    view = client.post("log/strike", id="tape-00001").json
    assert view["taped"] == [] and not any(one["key"].startswith("offset") for one in view["learnt"])


@pytest.mark.parametrize(
    ("more", "field"),
    [
        ({"span": "long"}, "span"),
        ({"span": "70 in"}, "span"),
        ({"lines": 2}, "lines"),
        ({"gap": "x"}, "gap"),
        ({"zone": "border"}, "zone"),
        ({"zone": "none"}, "zone"),
    ],
)
def test_a_wrong_reading_is_told_at_its_field_and_not_kept(client, more, field):
    refused = tape(client, 2, **more)
    assert refused.status_code in (404, 422) and refused.json["field"] == field
    assert client.get("/log").json["taped"] == []
    assert remark(client, 9, "place:1-1", "measured", "{}").status_code == 422


def test_a_saved_log_comes_back_into_a_copy_of_the_quilt_and_nothing_is_doubled(client, conn, demo):
    sew(client, 30)
    remark(client, 1, "place:3-2", "note", "Good tension.")
    remark(client, 2, "place:3-2", "verdict", "keep")
    tape(client, 3)
    saved = client.get("/log.json").data
    other = Client(client.raw, quilts.add(conn, quilts.LOCAL_OWNER, demo))

    def bring(data):
        address = f"/api/quilts/{other.quilt_id}/log/import"
        return other.raw.post(address, data=data, content_type="application/octet-stream")

    before = client.get("/log").json
    for _ in range(2):
        back = bring(saved)
        assert back.status_code == 200
        assert (back.json["sewn"], back.json["time"]) == (before["sewn"], before["time"])
        assert [one["told"] for one in back.json["remarks"]] == ["Good tension.", "keep"]
        assert [one["words"] for one in back.json["taped"]] == [one["words"] for one in before["taped"]]
    file = json.loads(saved)
    for wrong in (
        b"",
        b"{",
        b"[]",
        json.dumps({**file, "format": "other"}).encode(),
        json.dumps({**file, "events": [{"id": 1}]}).encode(),
    ):
        refused = bring(wrong)
        assert refused.status_code == 422 and refused.json["field"].startswith(
            ("file", "format", "events")
        ), refused.json
    file["remarks"] = [
        {**one, "id": f"other-{k:04}", "told": "odd"}
        for k, one in enumerate(file["remarks"])
        if one["kind"] != "note"
    ]
    assert bring(json.dumps(file).encode()).json["remarks"] == back.json["remarks"]


def test_marks_that_faded_teach_how_long_the_tool_stays(client, conn):
    assert client.post("table", zone="star-background", done=1).status_code == 200
    with conn.cursor() as cursor:
        cursor.execute(
            "UPDATE marked SET put_at = CURRENT_TIMESTAMP - INTERVAL 30 HOUR WHERE quilt_id = %s",
            (client.quilt_id,),
        )
    conn.commit()
    assert not any(one["key"].startswith("fades") for one in client.get("/log").json["learnt"])
    view = client.post("table", zone="star-background", off=True, faded=True).json
    assert view["still_on"] == []
    row = next(one for one in client.get("/log").json["learnt"] if one["key"].startswith("fades"))
    assert (
        row["differs"]
        and row["value"] == "30 hours"
        and row["used"] == "not known"
        and row["evidence"].startswith("1 zone faded")
    )
    assert client.change_kit(1, "fades-by-then", **row["change"]["kit"]).status_code == 200
    row = next(one for one in client.get("/log").json["learnt"] if one["key"].startswith("fades"))
    assert row["used"] == "30 hours" and not row["differs"]
    client.post("table", zone="star-background", done=1)  # marked again
    assert not any(one["key"].startswith("fades") for one in client.get("/log").json["learnt"])


CORNERS = ("corner-ne", "corner-nw", "corner-se", "corner-sw")
POINTS = ("n-left", "n-right", "e-top", "e-bottom", "s-left", "s-right", "w-top", "w-bottom")
BLOCK = ["centre", *CORNERS, *(f"point-{which}" for which in POINTS)]


@pytest.mark.parametrize(
    ("refs", "everywhere", "place", "name"),
    [
        ([f"1-1/{patch}" for patch in BLOCK], True, "1-1", "Eight-point star, row 1, block 1"),
        ([f"1-1/{patch}" for patch in BLOCK], False, "top", "New"),
        ([f"{at}/centre" for at in ("1-1", "2-2")], False, "top", "New"),
        (["sashing/up-1-0", "sashing/up-1-1"], True, "sashing", "Sashing"),
        (["border-1/top", "border-1/right"], True, "border-1", "Border 1"),
    ],
    ids=["block", "one block only", "across the quilt", "sash", "border"],
)
def test_the_log_of_a_zone_of_every_kind_of_place_is_shown(client, refs, everywhere, place, name):
    for version, zone in enumerate(("star-background", "star-points", "star-centre", "sashing", "border"), 1):
        client.change(version, f"gone-{version}", {"kind": "zone gone", "zone": zone})
    change = {"kind": "zone", "refs": refs, "everywhere": everywhere, "name": "New"}
    made = client.change(6, "made-1", change)
    assert made.status_code == 200, made.json
    zone = made.json["order"][-1]
    assert client.change(7, "fill-1", fill_change("1 in", zone)).status_code == 200
    sew(client, 4)
    found = client.get("/log")
    assert found.status_code == 200
    row = next(one for one in found.json["places"] if one["place"] == place)
    assert row["name"] == name and row["outline"] and all(len(ring) >= 6 for ring in row["outline"])
    began = {there["place"] for there in found.json["blocks"]}
    assert len(began) == 1 and began <= {one["place"] for one in found.json["places"]}
    assert client.get("/progress").status_code == client.get("/log/fits", minutes=30).status_code == 200
    assert client.get("/schedule", begin="2026-11-30", days="02", minutes=90, at="19:00").status_code == 200
