"""Large files beside the database, in a folder and in S3-compatible storage (object_storage.py answers as S3 does, on
loopback).
"""

import io
import random
import zipfile
from datetime import UTC, datetime, timedelta

import pytest
from api_client import Api
from object_storage import ObjectStorage
from obstore.exceptions import GenericError
from PIL import Image
from sqlalchemy import text

from lucid_ridge.app import create_app
from lucid_ridge.cli import main
from lucid_ridge.configuration import Configuration, from_environment
from lucid_ridge.operations.platform.file_moves import move_files, sweep_files
from lucid_ridge.store.database import make_engine
from lucid_ridge.store.file_store import LARGE_BYTES, FilesAway, FileStore, refuse_address
from lucid_ridge.store.shots import Backdrop

NOW = datetime.now(UTC)


@pytest.fixture(scope="module")
def storage():
    running = ObjectStorage("notebook")
    told = {"ENDPOINT_URL": running.url, "ACCESS_KEY_ID": "any", "SECRET_ACCESS_KEY": "any", "REGION": "anywhere"}
    with pytest.MonkeyPatch.context() as patch:
        for name, value in told.items():
            patch.setenv(f"AWS_{name}", value)
        yield running
    running.stop()


@pytest.fixture(params=["folder", "bucket"])
def address(request, tmp_path):
    if request.param == "folder":
        return f"file://{tmp_path}/files"
    return f"s3://{request.getfixturevalue('storage').bucket}/files"


def _picture(seed=1):
    out = io.BytesIO()
    Image.frombytes("RGB", (300, 200), random.Random(seed).randbytes(180_000)).save(out, "JPEG", quality=90)
    return out.getvalue()


def _client(database, address):
    app = create_app(Configuration(database_url=database, files_address=address))
    app.config["TESTING"] = True
    return app, Api(app.test_client())


def _held(database):
    """How the database has the only backdrop: the raw bytes."""
    engine = make_engine(database)
    with engine.connect() as connection:
        found = bytes(connection.execute(text("select content from backdrop")).scalar_one())
    engine.dispose()
    return found


def test_a_file_goes_in_and_comes_out_and_goes(address):
    files = FileStore(address)
    name = files.put(b"wide" * 5000)
    assert files.get(name) == b"wide" * 5000
    written = dict(files.names())[name]
    assert abs(written - datetime.now(UTC)) < timedelta(minutes=10)
    other = files.put(b"wide" * 5000)
    assert other != name
    files.remove([name])
    assert name not in dict(files.names())
    assert files.get(other) == b"wide" * 5000
    with pytest.raises(FilesAway, match="is missing"):
        files.get(name)
    files.remove([other])


def test_a_file_that_was_changed_is_no_file(tmp_path):
    files = FileStore(f"file://{tmp_path}")
    name = files.put(b"true" * 5000)
    (tmp_path / name[:2] / name).write_bytes(b"false" * 4000)
    with pytest.raises(FilesAway, match="not what it was"):
        files.get(name)


@pytest.mark.parametrize("said", ["files", "file://host/a", "file://", "s3://", "https://somewhere/a", "/srv/files"])
def test_addresses_that_say_nowhere_are_refused(said, monkeypatch):
    with pytest.raises(ValueError, match="file:///a/folder"):
        refuse_address(said)
    monkeypatch.setenv("LUCID_RIDGE_DATABASE_URL", "postgresql://x")
    monkeypatch.setenv("LUCID_RIDGE_FILES", said)
    with pytest.raises(SystemExit, match="LUCID_RIDGE_FILES"):
        from_environment()


def test_a_photograph_lies_outside_and_a_small_file_in_its_row(demo_database, address):
    app, api = _client(demo_database, address)
    path = f"/shots/{api.shot_id('Split boulder under the fell')}/backdrop"
    made = api.client.post(
        f"/api{path}?file_name=scout.jpg", data=_picture(), content_type="application/octet-stream"
    ).get_json()
    shown = api.client.get(made["backdrop"]["url"]).data
    assert shown.startswith(b"\xff\xd8\xff") and len(shown) > LARGE_BYTES
    assert len(_held(demo_database)) < 200
    engine = app.extensions["sessions"].kw["bind"]
    # Out of the database it comes again, and the archive holds it whichever way.
    with zipfile.ZipFile(io.BytesIO(api.client.get("/api/archive").data)) as archived:
        assert shown in [archived.read(name) for name in archived.namelist() if name.endswith(".jpg")]
    files = FileStore(address, writes=False)
    inwards = make_engine(demo_database, files)
    assert move_files(inwards, outwards=False) >= 1
    assert _held(demo_database) == shown
    assert move_files(inwards, outwards=False) == 0
    assert api.client.get(made["backdrop"]["url"]).data == shown
    assert move_files(engine, outwards=True) >= 1
    assert len(_held(demo_database)) < 200
    assert move_files(engine, outwards=True) == 0
    assert api.client.get(made["backdrop"]["url"]).data == shown
    # What is small stays, also where it looks like the name of a file.
    for small in (b"\xff\xd8\xff small", b"lucid-ridge:outside:" + b"0" * 64, b"lucid-ridge:plain:x"):
        with app.extensions["sessions"]() as session, session.begin():
            row = session.query(Backdrop).one()
            row.content = small
            session.flush()
            session.expire(row)
            assert row.content == small
    inwards.dispose()
    engine.dispose()


def test_what_no_row_names_is_swept_a_day_later(demo_database, address):
    app, api = _client(demo_database, address)
    files, engine = FileStore(address), app.extensions["sessions"].kw["bind"]
    path = f"/shots/{api.shot_id('Split boulder under the fell')}/backdrop"
    made = api.client.post(
        f"/api{path}?file_name=a.jpg", data=_picture(2), content_type="application/octet-stream"
    ).get_json()
    idle = files.put(b"of a transaction that was rolled back" * 500)
    assert sweep_files(engine, files, NOW) == 0
    assert idle in dict(files.names())
    gone = sweep_files(engine, files, NOW + timedelta(days=2))
    assert gone >= 1
    assert idle not in dict(files.names())
    assert api.client.get(made["backdrop"]["url"]).status_code == 200
    api.delete(path)
    assert sweep_files(engine, files, NOW + timedelta(days=2)) == 1
    engine.dispose()


def test_storage_that_is_away_is_told_and_changes_nothing(demo_database, tmp_path):
    app, api = _client(demo_database, f"file://{tmp_path}/files")
    path = f"/shots/{api.shot_id('Split boulder under the fell')}/backdrop"
    made = api.client.post(
        f"/api{path}?file_name=a.jpg", data=_picture(), content_type="application/octet-stream"
    ).get_json()
    (tmp_path / "files").rename(tmp_path / "aside")
    (tmp_path / "files").write_text("in the way")
    answer = api.client.get(made["backdrop"]["url"])
    assert (answer.status_code, answer.get_json()["error"]["kind"]) == (503, "unavailable")
    refused = api.client.post(f"/api{path}?file_name=b.jpg", data=_picture(3), content_type="application/octet-stream")
    assert refused.status_code == 503
    assert api.get(f"/shots/{made['id']}")["backdrop"]["name"] == "a.jpg"
    (tmp_path / "files").unlink()
    (tmp_path / "aside").rename(tmp_path / "files")
    assert api.client.get(made["backdrop"]["url"]).status_code == 200
    app.extensions["sessions"].kw["bind"].dispose()


def test_a_full_disk_is_called_a_full_disk(demo_database, tmp_path, monkeypatch):
    app, api = _client(demo_database, f"file://{tmp_path}/files")
    # As the folder's storage words it.
    full = GenericError(
        "Generic LocalFileSystem error: Unable to copy data to file /srv/x: No space left on device (os error 28)"
    )

    def put(*_):
        raise full

    monkeypatch.setattr("obstore.store.LocalStore.put", put)
    path = f"/shots/{api.shot_id('Split boulder under the fell')}/backdrop"
    answer = api.client.post(f"/api{path}?file_name=a.jpg", data=_picture(), content_type="application/octet-stream")
    assert (answer.status_code, answer.get_json()["error"]["kind"]) == (507, "no_room")
    app.extensions["sessions"].kw["bind"].dispose()


def test_the_commands_move_and_sweep_and_the_check_tells_what_is_missing(demo_database, tmp_path, monkeypatch, capsys):
    monkeypatch.setenv("LUCID_RIDGE_DATABASE_URL", demo_database)
    monkeypatch.delenv("LUCID_RIDGE_FILES", raising=False)
    assert main(["files", "out"]) == 1
    assert "LUCID_RIDGE_FILES" in capsys.readouterr().err
    monkeypatch.setenv("LUCID_RIDGE_FILES", f"file://{tmp_path}/files")
    assert main(["files", "out"]) == 0
    moved = int(capsys.readouterr().out.split()[0])
    assert moved > 0
    assert main(["files", "sweep"]) == 0
    assert capsys.readouterr().out.startswith("0 ")
    assert main(["check"]) == 0
    lost = next(path for path in (tmp_path / "files").rglob("*") if path.is_file())
    kept = lost.read_bytes()
    lost.unlink()
    assert main(["check"]) == 1
    assert "A file is missing" in capsys.readouterr().out
    lost.write_bytes(kept)
    # Where nobody says where they are, that is said.
    monkeypatch.delenv("LUCID_RIDGE_FILES")
    assert main(["check"]) == 1
    assert "LUCID_RIDGE_FILES does not say where" in capsys.readouterr().out
    monkeypatch.setenv("LUCID_RIDGE_FILES", f"file://{tmp_path}/files")
    assert main(["files", "in"]) == 0
    assert int(capsys.readouterr().out.split()[0]) == moved
    monkeypatch.delenv("LUCID_RIDGE_FILES")
    assert main(["check"]) == 0
