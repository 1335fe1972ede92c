"""The door for a machine."""

from __future__ import annotations

import json
import time

import pytest


@pytest.fixture
def says(app, quilt_id):
    raw = app.test_client()

    def tell(*lines, **more):
        body = "\n".join(line if isinstance(line, str) else json.dumps(line) for line in lines)
        return raw.post(
            f"/api/quilts/{quilt_id}/machine",
            data=body,
            content_type=more.get("content_type", "application/x-ndjson"),
        )

    return tell


def line(says, seq, **more):
    return {"kind": says, "seq": seq, "at": time.time(), **more}


def test_it_is_told_what_to_sew_and_what_it_tells_is_logged_and_followed(says, client):
    step = says(line("hello", 0, name="counter")).json["step"]
    assert (step["kind"], step["line"], step["mm"]) == ("begin", 0, 0)
    step = says(line("pedal", 1)).json["step"]
    assert (step["kind"], step["line"]) == ("line", 1) and step["mm"] > 5
    says(line("stitches", 2, count=4, mm=9.0))
    found = client.get("/machine").json
    assert found["machine"] == {
        "name": "counter", "place": step["place"], "line": 1, "mm": 9.0, "stitches": 4, "faults": [],
    }  # fmt: skip
    says(line("stitches", 3, count=36, mm=80.0), line("pedal", 4))
    view = client.post("sewing").json
    assert view["here"]["steps"][0]["number"] == 2 and view["count"] == 2
    assert client.get("/machine").json["last"] == view["last"][0]
    assert {row["label"][0]: row["words"][0] for row in view["tally"]}["Stitches counted"] == "40"


def test_lines_cut_short_are_told_and_those_after_them_are_heard(says, client):
    whole = json.dumps(line("pedal", 1))
    answer = says(line("hello", 0), whole[:-9], "[]", '{"kind": "sings", "seq": 2, "at": 0}', "\x00", whole)
    faults = answer.json["faults"]
    assert [fault.split(" is ")[0] for fault in faults] == ["Line 2", "Line 3", "Line 4", "Line 5"]
    assert answer.json["step"]["kind"] == "line"
    assert client.get("/machine").json["machine"]["faults"] == faults
    assert says("", "  ").json["faults"] == []
    assert says(whole).json["faults"] == ["Message 1 came twice or too late. It was not counted again."]


def test_what_is_no_json_lines_is_refused(says):
    assert says("{}", content_type="text/plain").status_code == 415
    assert says("{}", content_type="application/json").json["step"]["kind"] == "begin"
    many = says(*["{}"] * 2001)
    assert many.status_code == 422 and "2000 lines" in many.json["detail"]


def test_a_machine_that_is_silent_is_followed_no_longer(says, client, monkeypatch):
    says(line("hello", 0, name="counter"))
    later = time.time() + 60
    monkeypatch.setattr("kenzet.web.machine.time.time", lambda: later)
    assert client.get("/machine").json["machine"] is None
