"""Whole plans over the wire, and from the command line."""

from __future__ import annotations

import io
import json

import pytest
from PIL import Image

from kenzet.cli import main
from kenzet.demo import demo_quilts
from kenzet.formats import plan_file
from tests.web.test_api import words


def test_only_the_zones_that_she_picks_get_another_fill(client):
    found = client.post("proposals", scope="some", zones=["star-points", "border"])
    assert {one["zone"] for one in found.json["zones"]} == {"star-points", "border"}
    none, unknown = (client.post("proposals", scope="some", zones=zones) for zones in ([], ["nowhere"]))
    assert (none.status_code, none.json["field"]) == (422, "zones")
    assert unknown.status_code == 404


def test_a_plan_is_proposed_looked_at_and_taken_as_one_change(client):
    first = client.post("proposals", aim="quick", scope="all").json
    assert [zone["zone"] for zone in first["zones"]] == [
        "star-background",
        "star-points",
        "star-centre",
        "sashing",
        "border",
    ]
    assert client.get().json["version"] == 1  # nothing has changed yet
    key = first["key"]
    assert Image.open(io.BytesIO(client.get(f"/proposals/{key}/relief.jpg").data)).size[1] == 520
    figures = client.get(f"/proposals/{key}/figures").json["rows"]
    assert [words(row["label"]) for row in figures] == [
        "Sewing time, about",
        "Thread cuts on the way",
        "Marks to make",
    ]
    fills = client.get(f"/proposals/{key}").json["fills"]
    taken = client.change(1, "take-the-plan", {"kind": "fills", "fills": fills}).json
    assert (taken["version"], taken["undo"]) == (2, "fills for 5 zones")
    time = next(
        row
        for row in client.post("route", quick=True).json["rows"]
        if words(row["label"]) == "Sewing time, about"
    )
    assert words(time["words"]) == words(figures[0]["words"])  # as the plan has it
    assert client.get(f"/proposals/{key}").status_code == 404  # of an earlier plan
    client.post("undo", version=2)
    assert client.get().json["totals"][0]["words"] != taken["totals"][0]["words"]


def test_the_next_one_is_another_and_a_move_goes_on_from_it(client):
    first = client.post("proposals", aim="texture", scope="all").json
    other = client.post("proposals", aim="texture", scope="all", shown=[first["key"]]).json
    assert other["key"] != first["key"]
    quicker = client.post("proposals", scope="all", base=first["key"], move="quicker").json
    assert (quicker["aim"], quicker["key"] != first["key"]) == ("texture", True)
    gone = client.post("proposals", scope="all", base="0" * 16, move="quicker")
    assert gone.status_code == 404


def test_only_open_zones_get_a_fill_unless_all_are_wished(client):
    found = client.post("proposals", aim="quick").json
    assert [zone["zone"] for zone in found["zones"]] == ["border"]
    fills = client.get(f"/proposals/{found['key']}").json["fills"]
    client.change(1, "take-the-plan", {"kind": "fills", "fills": fills})
    refused = client.post("proposals", aim="quick")
    assert (refused.status_code, refused.json["field"]) == (422, "zones")


@pytest.mark.parametrize(
    "wish", [{"aim": "prettiest"}, {"hours": 0}, {"kinds": 0}, {"skills": []}, {"skills": ["by hand"]}, {"scope": "few"}, {"shown": ["x"]}]
)  # fmt: skip
def test_a_wrong_wish_is_refused_at_its_field(client, wish):
    refused = client.post("proposals", **wish)
    assert refused.status_code == 422
    assert next(iter(wish)) in refused.json["field"]


def test_too_few_hours_are_said_as_such(client):
    refused = client.post("proposals", aim="quick", scope="all", hours=0.2)
    assert (refused.status_code, refused.json["field"]) == (422, "hours")
    assert "0.2 hours" in refused.json["detail"]


def test_the_command_line_writes_plan_files_and_their_figures(tmp_path, capsys):
    file = tmp_path / "cloth.json"
    file.write_bytes(plan_file.dump(demo_quilts()[2]))
    assert (
        main(["propose", str(file), "--out", str(tmp_path / "plans"), "--kinds", "2", "--skill", "straight"])
        == 0
    )
    told = json.loads(capsys.readouterr().out)
    assert [one["aim"] for one in told] == ["quick", "texture", "straight", "soft"]
    written = [one for one in told if "file" in one]
    assert written
    for one in written:
        quilt = plan_file.load((tmp_path / "plans" / f"{one['aim']}.json").read_bytes())
        assert all(zone.fill for zone in quilt.zones.values())
        assert "Sewing time, about" in one["figures"]
    assert main(["propose", str(file), "--out", str(tmp_path), "--kinds", "0"]) == 1
    assert "1 to 12 kinds" in capsys.readouterr().err
