"""A longer search over the API."""

from __future__ import annotations

import time

from kenzet.store import quilts
from tests.web.conftest import Client
from tests.web.test_api import words


def waited(client, until, number, seconds=60):
    """What is told once ``until`` holds of it."""
    ends = time.monotonic() + seconds
    while True:
        view = client.get("/route/search", number=number).json
        if until(view) or time.monotonic() > ends:
            return view
        time.sleep(0.1)


def stars(client):
    """The number of a star's place in the order."""
    return next(
        k
        for k, visit in enumerate(client.post("route").json["visits"], 1)
        if visit["name"] == "Eight-point star"
    )


def test_a_shorter_way_is_found_taken_and_given_back(client):
    number = stars(client)
    before = client.post("route", number=number).json
    assert client.get("/route/search").json["state"] == "idle"
    begun = client.post("route/search", number=number).json
    assert begun["state"] == "looking"
    view = waited(client, lambda view: view["ways"], number)
    assert 0.5 < view["share"] < 1
    said = " ".join(words(some) for some in view["words"])
    assert "to travel, before" in said and "more could be saved" in said
    stopped = client.delete("/route/search", number=number).json
    assert stopped["state"] == "done" and stopped["ways"]
    client.change(
        1, "longer-1", {"kind": "stitching", "stitching": {**before["doc"], "ways": stopped["ways"]}}
    )
    after = client.post("route", number=number).json
    length = [sum(leg["length"] for leg in one["here"]["legs"] if not leg["sews"]) for one in (before, after)]
    assert length[1] <= length[0]  # cheaper as she weighs it, and no longer
    assert after["here"]["kept"] in stopped["ways"] and before["here"]["kept"] == ""
    assert client.get("/route/search", number=number).json["state"] == "idle"  # it was for the plan before
    client.change(2, "longer-2", {"kind": "stitching", "stitching": {**after["doc"], "ways": {}}})
    assert client.post("route", number=number).json["here"]["legs"] == before["here"]["legs"]


def test_one_search_at_a_time_and_only_for_what_is_sewn(client, app, conn, demo, monkeypatch):
    monkeypatch.setattr("kenzet.web.state.searches._PATIENCE_S", 3600.0)  # however busy the machine is
    assert client.post("route/search", number=0).json["state"] == "looking"
    other = Client(app.test_client(), quilts.add(conn, quilts.LOCAL_OWNER, demo))
    answer = other.post("route/search", number=0)
    assert answer.status_code == 422 and "another quilt" in answer.json["detail"]
    assert other.get("/route/search").json["state"] == "idle"
    assert client.post("route/search", number=1).json["state"] == "looking"  # in place of the one for all
    assert client.get("/route/search", number=0).json["state"] == "idle"  # which another page waited for
    assert client.delete("/route/search", number=0).json["state"] == "idle"  # and no longer stops
    assert client.get("/route/search", number=1).json["state"] in (
        "looking",
        "done",
    )  # one star is soon looked at
    assert client.delete("/route/search", number=1).json["state"] == "done"
    assert other.post("route/search", number=0).status_code == 200
    other.delete("/route/search")
    assert client.post("route/search", number=99).json["field"] == "number"
    bad = client.change(1, "longer-3", {"kind": "stitching", "stitching": {"ways": {"not a word": [1]}}})
    assert bad.status_code == 422


def test_it_ends_where_nobody_asks_for_it(client, monkeypatch):
    monkeypatch.setattr("kenzet.web.state.searches._PATIENCE_S", 0.0)
    number = stars(client)
    client.post("route/search", number=number)
    view = waited(client, lambda view: view["state"] == "done", number, seconds=20)
    assert view["state"] == "done" and view["share"] < 1


def test_what_has_too_many_lines_is_left_and_told(client, monkeypatch):
    monkeypatch.setattr("kenzet.core.route.local_search.DENSE", 150)
    answer = client.post("route/search", number=stars(client))
    assert (answer.status_code, answer.json["field"]) == (422, "number")
    view = client.post("route/search", number=0).json
    client.delete("/route/search")
    assert "Eight-point star: too many lines for a longer search." in [words(some) for some in view["words"]]
