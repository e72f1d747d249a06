"""A PostgreSQL server of a test's own."""

import subprocess
import tempfile
from pathlib import Path

import pytest
from postgres import Cluster


@pytest.fixture(scope="session")
def made_data(open_folder):
    """The data folder of a server that was never begun: copying it takes less than making another."""
    made = Cluster(open_folder / "made" / "data", durable=False)
    made.data.parent.mkdir(mode=0o755)
    made.create()
    return made.data


@pytest.fixture
def made_cluster(cluster, made_data):
    """A server's data folder as it is when it has just been made."""
    subprocess.run(["cp", "-a", made_data, cluster.data], check=True)
    return cluster


@pytest.fixture
def cluster(open_folder):
    with tempfile.TemporaryDirectory(prefix="with a space ", dir=open_folder) as folder:
        Path(folder).chmod(0o755)
        made = Cluster(Path(folder) / "data", durable=False)
        yield made
        made.stop()


@pytest.fixture(scope="session")
def open_folder():
    """A folder that another user may pass through when we are root: pytest closes its own whenever it is started a
    second time.
    """
    with tempfile.TemporaryDirectory(prefix="lucid-ridge-servers-") as folder:
        Path(folder).chmod(0o755)
        yield Path(folder)
