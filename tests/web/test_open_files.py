"""All of a person’s data as open files: what comes out can be read, and brought in again."""

from __future__ import annotations

import csv
import io
import json
import zipfile

from PIL import Image

from kenzet.core.kit.inventory import KitFile
from kenzet.formats import kit_csv, plan_file
from tests.pictures import picture
from tests.web.test_api import ZONE
from tests.web.test_sewing import sew
from tests.web.test_top import made


def test_plans_tables_and_pictures_come_out_as_open_files(client):
    client.post("table", zone=ZONE, done=3)
    sew(client, 3)
    photo = client.raw.post(
        "/api/photos", data=picture(size=(80, 60)), content_type="application/octet-stream"
    )
    corners = [[0.1, 0.1], [0.9, 0.1], [0.9, 0.9], [0.1, 0.9]]
    made(client, {"kind": "ground", "ground": {"photo": photo.json["id"], "corners": corners}})
    data = client.raw.get("/api/files.zip").data
    with zipfile.ZipFile(io.BytesIO(data)) as kept:
        assert kept.testzip() is None
        names = kept.namelist()
        folder = next(name for name in names if client.quilt_id in name).rsplit("/", 1)[0]
        assert folder == f"quilts/Harbour-Lights-{client.quilt_id}"
        assert plan_file.load(kept.read(f"{folder}/plan.json")).name == "Harbour Lights"
        marks = list(csv.DictReader(io.StringIO(kept.read(f"{folder}/marked.csv").decode("utf-8-sig"))))
        assert [(row["zone"], row["marks drawn"]) for row in marks] == [(ZONE, "3")]
        sewn = list(csv.DictReader(io.StringIO(kept.read(f"{folder}/sewn.csv").decode("utf-8-sig"))))
        told = json.loads(kept.read(f"{folder}/sewn.json"))
        assert [row["what"] for row in sewn] == [event["kind"] for event in told]
        assert len(sewn) == 3
        picture_in = Image.open(io.BytesIO(kept.read(f"photographs/{photo.json['id']}.jpg")))
        assert picture_in.size == (80, 60)
        things = KitFile.model_validate(json.loads(kept.read("tools-and-supplies.json"))).things
        assert len(kit_csv.load(kept.read("tools-and-supplies.csv"))) == len(things) > 0
        assert len(names) == len(set(names))


def test_what_she_says_of_a_block_goes_along(client):
    client.post(
        "log/remarks", id="remark-open-1", about="place:3-2", kind="note", told="Slow down at the points."
    )
    answer = client.raw.get("/api/files.zip")
    with zipfile.ZipFile(io.BytesIO(answer.data)) as kept:
        (name,) = (name for name in kept.namelist() if name.endswith(f"{client.quilt_id}/remarks.csv"))
        assert "place:3-2,note,Slow down at the points." in kept.read(name).decode()
