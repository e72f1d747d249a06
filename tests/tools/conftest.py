"""A PostgreSQL server of a test's own."""

import os
import subprocess

import pytest
from postgres import Cluster


@pytest.fixture(scope="session")
def made_data(tmp_path_factory):
    """The data folder of a server that was never begun: copying it takes less than making another."""
    folder = tmp_path_factory.mktemp("cluster")
    _let_through(folder)
    made = Cluster(folder / "made" / "data", durable=False)
    made.data.parent.mkdir(mode=0o755)
    made.create()
    return made.data


@pytest.fixture
def made_cluster(cluster, made_data):
    """A server's data folder as it is when it has just been made."""
    subprocess.run(["cp", "-a", made_data, cluster.data], check=True)
    return cluster


@pytest.fixture
def cluster(tmp_path):
    _let_through(tmp_path)
    made = Cluster(tmp_path / "with a space" / "data", durable=False)
    made.data.parent.mkdir(mode=0o755)
    yield made
    made.stop()


def _let_through(folder):
    """Another user must be able to pass through pytest's private folder when we are root."""
    for one in (folder, *list(folder.parents)[:3]):
        if one.stat().st_uid == os.geteuid() and one != one.parent:
            one.chmod(one.stat().st_mode | 0o011)
