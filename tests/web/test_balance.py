"""The quilt weighed, over the wire."""

from __future__ import annotations

import csv
import io

import numpy as np
import pytest
from PIL import Image

from kenzet.core.kit.things.supplies import Thread
from tests.web.test_api import words


def test_it_tells_firmness_gaps_relief_thread_and_time(client):
    found = client.get("/balance").json
    assert found["hand"] == "soft"
    assert [row["name"] for row in found["densities"]][:2] == ["Star points", "Star background"]
    assert found["gaps"][0]["name"] == "Border"
    assert not any(gap["over"] for gap in found["gaps"])
    assert {row["zone"] for row in found["standings"]} == {row["zone"] for row in found["densities"]}
    assert [thread["used"] for thread in found["threads"]].count(True) == 1
    assert all(len(thread["cells"]) == 5 for thread in found["threads"])  # four fabrics and the backing
    assert found["times"][0]["share"] == 1
    assert len(found["blocks"]) == 2


def test_two_zones_alike_are_told_with_a_step_that_leaves_fewer_alike(client):
    """In the demo no spacing helps: the next neighbor would look alike. With a wider sashing one does."""
    found = client.get("/balance").json
    (step,) = next(one for one in found["known"] if "alike" in words(one["words"]))["steps"]
    assert (step["values"], step["station"]) == (None, "fills")
    sashing = client.post("preview", zone="sashing", fill=None).json["fill"] | {"spacing": "3 in"}
    client.change(1, "wide-sashing", {"kind": "fill", "zone": "sashing", "fill": sashing})
    found = client.get("/balance").json
    (step,) = next(one for one in found["known"] if "alike" in words(one["words"]))["steps"]
    fill = client.post("preview", zone=step["zone"], fill=None).json["fill"] | step["values"]
    client.change(2, "wider-1", {"kind": "fill", "zone": step["zone"], "fill": fill})
    again = client.get("/balance").json
    assert sum(pair["alike"] for pair in again["pairs"]) < sum(pair["alike"] for pair in found["pairs"])
    assert all(pair["alike"] for pair in client.get("/balance", reads=10).json["pairs"][:1])


def test_a_gap_that_the_batting_does_not_allow_warns_first_and_its_step_closes_it(client):
    client.change(
        1,
        "wide-lines",
        {"kind": "fill", "zone": "star-centre", "fill": {"kind": "lines", "spacing": "3 in", "angle": 0}},
    )
    client.change_kit(
        2, "thin-batting", values={"batting": {"kind": "batting", "name": "Thin", "limit": "2 in"}}
    )
    found = client.get("/balance").json
    assert found["known"][0]["tone"] == "warns"
    sentence = next(
        one for one in found["known"] if "Star centre" in words(one["words"]) and "gap" in words(one["words"])
    )
    step = sentence["steps"][0]
    fill = client.post("preview", zone="star-centre", fill=None).json["fill"] | step["values"]
    client.change(3, "closed-gap", {"kind": "fill", "zone": "star-centre", "fill": fill})
    gap = next(one for one in client.get("/balance").json["gaps"] if one["zone"] == "star-centre")
    assert not gap["over"]


def test_a_line_through_a_gap_is_one_change_that_closes_it(client):
    """Lines ten inches apart, where the batting allows eight."""
    change = {"kind": "fill", "zone": "border", "fill": {"kind": "echo", "spacing": "1 in", "rounds": 1}}
    assert client.change(1, "one-ring-only", change).status_code == 200
    limit = client.change_kit(
        2, "thin-batting", values={"batting": {"kind": "batting", "name": "Thin", "limit": "2 in"}}
    )
    assert limit.status_code == 200
    told = client.get("/balance").json["known"]
    gap = next(one for one in told if "Border" in words(one["words"]))
    step = next(one for one in gap["steps"] if one["change"])
    assert client.change(3, "lines-through-it", step["change"]).status_code == 200
    told = client.get("/balance").json["known"]
    assert not any("Border” has a gap" in words(one["words"]) for one in told)
    refused = client.change(4, "nothing-to-close", step["change"])
    assert (refused.status_code, refused.json["field"]) == (422, "limit")


def test_an_accent_is_tried_in_another_zone_and_nothing_changes(client):
    accent = client.post("balance/try", name="Grid", zone="border")
    assert accent.status_code == 200 and accent.json["fill"]["kind"] == "grid"
    assert words(accent.json["row"]["words"]) == "13 places"
    assert accent.json["at"] == pytest.approx([26 * 25.4, 33 * 25.4], abs=15)  # the middle of the quilt
    grid = next(one for one in client.get("/balance").json["accents"] if one["name"] == "Grid")
    assert words(grid["words"]) == "12 places" and client.get().json["version"] == 1
    assert client.post("balance/try", name="Shells", zone="border").status_code == 404
    assert client.post("balance/try", name="Grid", zone="nowhere").status_code == 404


def test_the_map_is_darkest_where_the_table_is_highest(client):
    picture = Image.open(io.BytesIO(client.get("/density.png").data))
    table = list(csv.reader(io.StringIO(client.get("/density.csv").get_data(as_text=True))))
    values = np.array([[float(v) for v in row[1:]] for row in table[1:]])
    assert picture.size == (values.shape[1], values.shape[0])
    light = np.asarray(picture.convert("L")).astype(float)
    assert np.corrcoef(light.ravel(), values.ravel())[0, 1] < -0.9
    assert float(table[1][0]) == pytest.approx(66, abs=0.3)  # inches from the lower edge


def test_a_quilt_without_fills_is_told_as_such(client):
    for number, zone in enumerate(("star-background", "star-points", "star-centre", "sashing"), start=1):
        client.change(number, f"open-{zone}", {"kind": "fill", "zone": zone, "fill": None})
    found = client.get("/balance").json
    assert (found["hand"], found["time"]) == ("open", "nothing to sew yet")
    assert found["accents"] == []
    assert Thread().colour.startswith("#")


@pytest.mark.parametrize("query", [{"reads": 0.5}, {"reads": "many"}, {"unit": "ell"}, {"colour": "red"}])
def test_a_wrong_wish_is_refused(client, query):
    assert client.get("/balance", **query).status_code == 422
