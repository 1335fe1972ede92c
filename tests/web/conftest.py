from __future__ import annotations

import pytest

from kenzet.store import quilts
from kenzet.web.app import Settings, create_app


@pytest.fixture(scope="session")
def app(pool):
    return create_app(Settings(pool))


@pytest.fixture
def quilt_id(conn, demo):
    return quilts.add(conn, quilts.LOCAL_OWNER, demo)


class Client:
    """Speaks to one quilt as the front end does."""

    def __init__(self, client, quilt_id):
        self.raw = client
        self.quilt_id = quilt_id

    def get(self, path="", **query):
        return self.raw.get(f"/api/quilts/{self.quilt_id}{path}", query_string=query)

    def delete(self, path, **query):
        return self.raw.delete(f"/api/quilts/{self.quilt_id}{path}", query_string=query)

    def post(self, path, **body):
        return self.raw.post(f"/api/quilts/{self.quilt_id}/{path}", json=body)

    def change(self, version, key, change, **more):
        return self.post("changes", version=version, changes=[{"key": key, "change": change}], **more)

    def change_kit(self, version, key, unit="in", **kit):
        """Another kit, answered with it as the Kit station shows it."""
        changes = [{"key": key, "kit": kit}]
        return self.post("changes", version=version, unit=unit, changes=changes, views={"kit": True})


@pytest.fixture
def client(app, quilt_id):
    return Client(app.test_client(), quilt_id)
