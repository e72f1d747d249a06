"""A PostgreSQL server of a test's own."""

import os

import pytest
from postgres import Cluster


@pytest.fixture
def cluster(tmp_path):
    # Another user must be able to pass through pytest's private folder when we are root.
    for folder in (tmp_path, *list(tmp_path.parents)[:3]):
        if folder.stat().st_uid == os.geteuid() and folder != folder.parent:
            folder.chmod(folder.stat().st_mode | 0o011)
    made = Cluster(tmp_path / "with a space" / "data", durable=False)
    made.data.parent.mkdir(mode=0o755)
    yield made
    made.stop()
