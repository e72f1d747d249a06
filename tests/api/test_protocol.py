"""What holds for every request: one error shape, owners, limits, the OpenAPI document."""

import json
import subprocess
from pathlib import Path

import pytest

from lucid_ridge.api.platform.fact_tables import fact_tables
from lucid_ridge.operations.accounts.photographers import local_photographer
from lucid_ridge.store.photographer import Photographer
from lucid_ridge.store.places import Location
from lucid_ridge.store.shots import Shot

ROOT = Path(__file__).resolve().parents[2]


def test_unknown_addresses_and_methods(api):
    assert api.refusal("GET", "/nowhere", None, status=404)["kind"] == "not_found"
    assert api.refusal("PUT", "/notebook", {}, status=405)["kind"] == "method"


@pytest.mark.parametrize(
    ("data", "kind", "status"),
    [
        ("{", "application/json", 400),
        ("a=1", "application/x-www-form-urlencoded", 415),
        ("[1]", "application/json", 422),
    ],
)
def test_bodies_that_are_no_json_object(api, data, kind, status):
    answer = api.client.post("/api/shots", data=data, content_type=kind)
    assert answer.status_code == status
    assert set(answer.get_json()["error"]) == {"kind", "message", "fields"}


def test_an_enormous_body_is_refused(api):
    answer = api.client.post("/api/shots", json={"name": "x" * 2_000_000})
    assert answer.status_code == 413
    assert answer.get_json()["error"]["kind"] == "too_large"


def test_other_hosts_and_other_sites_are_refused(api):
    assert api.client.get("/api/health", headers={"Host": "evil.example"}).status_code == 400
    assert (
        api.client.post("/api/shots", json={"name": "x"}, headers={"Origin": "http://evil.example"}).status_code == 403
    )
    assert api.client.get("/api/health", headers={"Host": "127.0.0.1:8710"}).status_code == 200


def test_ids_beyond_the_database_are_just_not_there(api):
    for path in ("/shots/99999999999999999999", f"/shots/{2**31}", f"/locations/{2**40}", f"/cards/{2**33}"):
        api.refusal("GET", path, None, status=404)


def test_nobody_sees_another_photographers_rows(app, api):
    with app.extensions["test_sessions"]() as session:
        local_photographer(session)
        other = Photographer(name="Someone else")
        session.add(other)
        session.flush()
        place = Location(owner_id=other.id, name="Hidden", latitude_deg=1, longitude_deg=1, zone="UTC")
        shot = Shot(owner_id=other.id, name="Hidden")
        session.add_all([place, shot])
        session.commit()
        ids = place.id, shot.id
    assert "Hidden" not in json.dumps([api.get("/locations"), api.get("/notebook")])
    api.refusal("GET", f"/locations/{ids[0]}", None, status=404)
    for method, body in (("GET", None), ("PATCH", {"name": "Mine"}), ("DELETE", None)):
        api.refusal(method, f"/shots/{ids[1]}", body, status=404)


def test_theme_is_remembered(api):
    assert api.patch("/photographer", {"theme": "ember"})["theme"] == "ember"
    assert api.get("/photographer")["theme"] == "ember"
    api.refusal("PATCH", "/photographer", {"theme": "mauve"}, "theme")


def test_markings(api):
    markings = api.get("/markings")
    assert {"value": 1 / 64, "label": "1/60"} in markings["shutters"]
    assert {"value": 16.0, "label": "f/16"} in markings["apertures"]


def test_undo_with_nothing_to_undo(api):
    assert "nothing to undo" in api.refusal("POST", "/undo", {"scopes": ["shot:999"]}, status=409)["message"]


def test_the_openapi_document_names_every_path_once(api):
    document = api.get("/openapi.json")
    assert document["openapi"].startswith("3.1")
    assert "/api/shots/{shot_id}" in document["paths"]
    assert all("." not in name for name in document["components"]["schemas"])


def test_the_front_ends_types_are_those_of_the_api(api, tmp_path):
    document = tmp_path / "openapi.json"
    document.write_text(json.dumps(api.get("/openapi.json"), indent=1, sort_keys=True))
    made = tmp_path / "schema.d.ts"
    subprocess.run(
        [ROOT / "web/node_modules/.bin/openapi-typescript", document, "-o", made, "--default-non-nullable", "false"],
        check=True,
        capture_output=True,
    )
    committed = (ROOT / "web/src/api/schema.d.ts").read_text()
    assert made.read_text() == committed, "The API has changed: run tools/api-types"


def test_the_front_ends_tables_are_those_of_the_core():
    assert (ROOT / "web/src/api/facts.ts").read_text() == fact_tables(), "The facts have changed: run tools/api-types"


def test_the_front_end_is_served_compressed_and_pages_fall_back_to_it(api):
    page = api.client.get("/shots/3/depth", headers={"Accept-Encoding": "gzip"})
    assert page.headers["Content-Encoding"] == "gzip"
    assert page.headers["Content-Type"].startswith("text/html")
    assert api.client.get("/assets/nothing.js").status_code == 404
    assert api.client.get("/favicon.ico").mimetype == "image/svg+xml"
    assert api.client.get("/..%2f..%2fpyproject.toml").status_code == 404
