"""The whole notebook out and in again: over HTTP and by command, into an empty notebook, all of it or nothing."""

import io
import json
import zipfile

import pytest
from sqlalchemy import make_url, text

from lucid_ridge.app import create_app
from lucid_ridge.cli import main
from lucid_ridge.configuration import Configuration
from lucid_ridge.operations.notebook.archive import LEFT_OUT
from lucid_ridge.store.base import Base
from lucid_ridge.store.database import make_engine


def saved(client):
    answer = client.get("/api/archive")
    assert answer.status_code == 200
    assert answer.mimetype == "application/zip"
    return answer.get_data()


def contents(content):
    """Return the content of an archive without its date and its notebook."""
    with zipfile.ZipFile(io.BytesIO(content)) as read:
        held = {name: read.read(name) for name in read.namelist()}
    manifest = json.loads(held.pop("manifest.json"))
    return held, {name: value for name, value in manifest.items() if name not in ("written_at_utc", "notebook")}


def _without_origins(content):
    """Return the same without where rows had come from: that is another notebook's own."""
    held, manifest = contents(content)
    held.pop("tables/origin.json")
    manifest["tables"].pop("origin")
    return held, manifest


@pytest.fixture
def empty(migrated_database):
    """A client on an empty notebook, and its address."""
    app = create_app(Configuration(database_url=migrated_database))
    app.config["TESTING"] = True
    yield app.test_client(), migrated_database
    app.extensions["sessions"].kw["bind"].dispose()


def test_everything_goes_out_and_comes_back(api, empty):
    api.call("PATCH", "/photographer", {"hours": "12", "set_up_min": 31})
    # An interval may have no end, which JSON cannot say.
    with api.client.application.extensions["sessions"]() as session, session.begin():
        session.execute(
            text(
                "update calibration set low = '-Infinity', high = 'Infinity' where id = (select min(id) from "
                "calibration)"
            )
        )
    content = saved(api.client)
    held, manifest = _without_origins(content)
    assert set(manifest["tables"]) == {table.name for table in Base.metadata.sorted_tables} - LEFT_OUT - {
        "notebook",
        "photographer",
        "origin",
    }
    assert manifest["tables"]["shot"] == len(api.get("/notebook")["shots"]) == 11
    assert any(name.startswith("files/log_frame/") for name in held)
    client, _ = empty
    answer = client.post("/api/archive?file_name=a.zip", data=content, content_type="application/octet-stream")
    assert answer.status_code == 201, answer.get_data(as_text=True)
    assert answer.get_json()["shots"] == 11
    # What comes out of the other notebook is the same, byte by byte.
    assert _without_origins(saved(client)) == (held, manifest)
    for path in ("/api/log", "/api/kit", "/api/outings/1", "/api/calibrations"):
        theirs, mine = client.get(path).get_json(), api.client.get(path).get_json()
        theirs.pop("undo", None), mine.pop("undo", None)
        assert theirs == mine
    for shot in api.get("/notebook")["shots"]:
        assert client.get(f"/api/shots/{shot['id']}").get_json()["plan"] == api.get(f"/shots/{shot['id']}")["plan"]
    assert client.get("/api/photographer").get_json()["hours"] == "12"
    # What is made now does not get a number that is taken.
    made = client.post("/api/filters", json={"name": "New", "kind": "neutral_density", "stops": 3})
    assert made.status_code == 201, made.get_data(as_text=True)


def changed(content, table, change):
    """Return an archive in which the rows of a table, or the manifest, are others."""
    target = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(content)) as read, zipfile.ZipFile(target, "w", zipfile.ZIP_DEFLATED) as made:
        for name in read.namelist():
            told = read.read(name)
            made.writestr(name, json.dumps(change(json.loads(told))) if name.endswith(f"{table}.json") else told)
        if not any(name.endswith(f"{table}.json") for name in read.namelist()):
            made.writestr(f"tables/{table}.json", json.dumps(change([])))
    return target.getvalue()


def first(**said):
    return lambda rows: [rows[0] | said, *rows[1:]]


@pytest.mark.parametrize(
    ("table", "change", "told"),
    [
        ("manifest", lambda said: said | {"schema": "0001"}, "schema"),
        ("manifest", lambda said: said | {"preferences": {"revision": 9}}, "preferences"),
        ("manifest", lambda said: said | {"preferences": {"theme": "pink"}}, "preferences"),
        ("secrets", lambda _: [{"id": 1}], "not known"),
        ("photographer", lambda _: [{"id": 9, "name": "x"}], "not known"),
        ("shot", first(owner_id=7), "no column owner_id"),
        ("shot", first(colour="red"), "no column colour"),
        ("shot", first(f_number="wide open"), "shot"),
        ("shot", first(f_number=-3), "shot"),
        ("shot", first(viewpoint_id=99999), "shot"),
        ("shot", first(frame_groups=[{"role": 1}]), "shot"),
        ("shot", first(date_local="tomorrow"), "is no date"),
        ("log_frame", first(preview={"file": "files/none"}), "lacks"),
        ("lens", first(name=None), "lens"),
        ("lens", lambda rows: [*rows, rows[0]], "lens"),
    ],
)
def test_what_does_not_fit_is_refused_and_nothing_is_kept(api, empty, table, change, told):
    client, address = empty
    answer = client.post(
        "/api/archive?file_name=a.zip",
        data=changed(saved(api.client), table, change),
        content_type="application/octet-stream",
    )
    assert answer.status_code == 422, answer.get_data(as_text=True)
    assert told in answer.get_json()["error"]["message"]
    engine = make_engine(address)
    with engine.connect() as connection:
        assert (
            connection.scalar(
                text(
                    "select (select count(*) from shot) + (select count(*) from lens) + (select count(*) from location)"
                )
            )
            == 0
        )
    engine.dispose()


def test_by_command(own_api, empty, tmp_path, monkeypatch, capsys):
    file = tmp_path / "mine.zip"
    engine = own_api.client.application.extensions["sessions"].kw["bind"]
    monkeypatch.setenv("LUCID_RIDGE_DATABASE_URL", engine.url.render_as_string(hide_password=False))
    assert main(["archive", "out", str(file)]) == 0
    assert file.stat().st_mode & 0o777 == 0o600
    assert [path.name for path in tmp_path.iterdir()] == ["mine.zip"]
    assert main(["archive", "in", str(file)]) == 0
    assert "0 rows, 0 shots read in" in capsys.readouterr().out
    client, address = empty
    monkeypatch.setenv("LUCID_RIDGE_DATABASE_URL", address)
    assert main(["archive", "in", str(tmp_path / "none.zip")]) == 1
    assert main(["archive", "in", str(file)]) == 0
    assert "11 shots read in" in capsys.readouterr().out
    assert _without_origins(saved(client)) == _without_origins(file.read_bytes())
    assert make_url(address).database
    assert main(["check"]) == 0
