"""The quilt under raking light, over the wire and from the command line."""

from __future__ import annotations

import io

import numpy as np
import pytest
from PIL import Image

from kenzet.cli import main
from kenzet.formats import plan_file
from tests.jobs import block, whole


def hues(answer):
    """How far the middle half of the hues lies apart."""
    red, _, blue = np.asarray(Image.open(io.BytesIO(answer.data))).astype(float).transpose(2, 0, 1)
    return float(np.subtract(*np.quantile(red / np.maximum(blue, 1), [0.75, 0.25])))


def test_the_quilt_comes_in_relief_front_and_back(client):
    front = client.get("/relief.jpg", long=330, revision=1)
    assert (front.status_code, front.mimetype) == (200, "image/jpeg")
    picture = Image.open(io.BytesIO(front.data))
    assert picture.size == (260, 330)
    back = client.get("/relief.jpg", long=330, back=True)
    assert hues(back) < 0.1 < hues(front)  # of one fabric, but for the thread
    assert client.get("/relief.jpg", long=330, light="right").data != front.data


@pytest.mark.parametrize("query", [{"long": 10}, {"long": 99_999}, {"light": "behind"}, {"colour": "red"}])
def test_a_wrong_wish_is_refused(client, query):
    assert client.get("/relief.jpg", **query).status_code == 422


def test_a_change_shows_in_the_next_picture(client):
    before = client.get("/relief.jpg", long=200).data
    client.change(
        1, "relief", {"kind": "fill", "zone": "border", "fill": {"kind": "lines", "spacing": "1 in"}}
    )
    assert client.get("/relief.jpg", long=200).data != before


def test_the_command_line_draws_it_at_so_many_pixels_an_inch(tmp_path, capsys):
    plan, out = tmp_path / "plan.json", tmp_path / "out.png"
    plan.write_bytes(
        plan_file.dump(whole(block("Plain", "8 in"), {"kind": "lines", "spacing": "1/2 in"}).quilt)
    )
    assert main(["relief", str(plan), str(out), "--px", "15"]) == 0
    with Image.open(out) as picture:
        assert picture.size == (120, 120)
        assert picture.info["dpi"][0] == pytest.approx(15, abs=0.1)
    assert main(["relief", str(plan), str(out), "--px", "50"]) == 1
    assert "2 to 20 pixels an inch" in capsys.readouterr().err
