"""What surrounds a shot is kept between edits: whatever is written, by whom and how, the plan is the one that is made
when all is read again.
"""

import gc
import re
from contextlib import contextmanager

import pytest
from api_client import Api
from databases import own_database
from every_operation import OPERATIONS, named, table_of, with_ids
from hypothesis import HealthCheck, Phase, given, settings
from sqlalchemy import literal, select, text, union_all

from lucid_ridge.app import create_app
from lucid_ridge.configuration import Configuration
from lucid_ridge.operations.platform import shot_context
from lucid_ridge.store.base import Base

WRITING = [item for item in OPERATIONS if item.method.upper() != "GET"]
# One with tide and neighbours, and one with a rig and a stack.
WATCHED = ("Posts at the ebb", "Beetle head")


class Watched:
    """An application whose shots are read as kept, and again with nothing kept."""

    def __init__(self, app):
        self.app, self.api = app, Api(app.test_client())
        shots = self.api.get("/notebook")["shots"]
        self.shots = [item["id"] for item in shots if item["name"] in WATCHED] or [item["id"] for item in shots[:2]]

    def read(self):
        return [self.app.test_client().get(f"/api/shots/{shot}").get_json() for shot in self.shots]

    def hold(self):
        """Hold that what is planned with what is kept is what is planned again; returns it."""
        kept = self.read()
        shot_context._cache.clear()
        assert kept == self.read()
        return kept


@contextmanager
def served(server_url, template):
    """An application on a copy of the demo of its own."""
    with own_database(server_url, template) as address:
        app = create_app(Configuration(database_url=address))
        app.config["TESTING"] = True
        shot_context._cache.clear()
        yield Watched(app)
        gc.collect()
        app.extensions["sessions"].kw["bind"].dispose()


@pytest.fixture(scope="module")
def worn(server_url, template):
    """One for all operations: each finds what the ones before have left."""
    with served(server_url, template) as made:
        yield made


@pytest.fixture
def here(server_url, template):
    with served(server_url, template) as made:
        yield made


def ids_of(sessions):
    found = {table.name: [] for table in NUMBERED}
    with sessions() as session:
        for name, number in session.execute(union_all(*(_first_ids(table) for table in NUMBERED))):
            found[name].append(number)
    return {name: sorted(numbers) for name, numbers in found.items()}


NUMBERED = [table for table in Base.metadata.sorted_tables if "id" in table.c and str(table.c.id.type) == "INTEGER"]


def _first_ids(table):
    first = select(table.c.id).order_by(table.c.id).limit(30).subquery()
    return select(literal(table.name), first.c.id)


@pytest.mark.parametrize("operation", WRITING, ids=named)
def test_whatever_is_written_is_planned_with(worn, operation):
    sessions = worn.app.extensions["sessions"]
    in_address = [name for name in re.findall(r"{(\w+)}", operation.path) if table_of(name, operation.path)]
    turns = iter(range(10_000))
    asked = []
    # What one example leaves is what the next one finds.
    now = worn.read()

    @settings(
        max_examples=3,
        deadline=None,
        database=None,
        derandomize=True,
        phases=[Phase.generate],
        suppress_health_check=list(HealthCheck),
    )
    @given(case=operation.as_strategy())
    def run(case):
        nonlocal now
        turn, ids = next(turns), ids_of(sessions)
        for name in in_address:
            there = ids[table_of(name, operation.path)]
            if there:
                case.path_parameters[name] = there[turn % len(there)]
        case.query = with_ids(case.query or {}, operation.path, ids, turn)
        if isinstance(case.body, dict):
            case.body = with_ids(case.body, operation.path, ids, turn)
        asked.append(case.call(app=worn.app).status_code)
        if asked[-1] < 400:
            now = worn.hold()
        else:
            assert worn.read() == now

    run()
    assert asked


def _edits(api):
    """Return edits of everything that surrounds a shot, by what they are."""
    shot = api.get(f"/shots/{api.shot_id('Posts at the ebb')}")
    place, point = shot["place"], shot["place"]["viewpoint"]
    location = next(item for item in api.get("/locations")["locations"] if item["id"] == place["location_id"])
    kit = api.get("/kit")
    element = point["elements"][0]["id"]
    lens, body = shot["facts"]["lens_id"], shot["facts"]["body_id"]
    return {
        "element": ("PATCH", f"/elements/{element}", {"distance_m": "7.5 m"}),
        "viewpoint": ("PATCH", f"/viewpoints/{point['id']}", {"ground_slope_deg": 4}),
        "location": ("PATCH", f"/locations/{place['location_id']}", {"drive_min": 77}),
        "hazard": ("POST", f"/locations/{location['id']}/hazards", {"kind": "edge", "note": "loose"}),
        "lens": ("PATCH", f"/lenses/{lens}", {"name": "Another lens"}),
        "body": ("PATCH", f"/bodies/{body}", {"name": "Another body"}),
        "filter": ("PATCH", f"/filters/{kit['filters'][0]['id']}", {"name": "Another filter"}),
        "preparation": ("PATCH", "/photographer", {"set_up_min": 44}),
        "spelling": ("PATCH", "/photographer", {"lengths": "feet"}),
        "another shot at the place": ("POST", f"/shots/{shot['id']}/copy", None),
        "its own name": ("PATCH", f"/shots/{shot['id']}", {"name": "Posts, renamed"}),
        "what is sharp": ("PATCH", f"/shots/{shot['id']}", {"depth": {"sharp_element_ids": [element]}}),
        "its filters": (
            "PATCH",
            f"/shots/{shot['id']}",
            {
                "exposure": {
                    "filters": [{"filter_id": kit["filters"][0]["id"], "on_lens": True, "on_when_metered": False}]
                }
            },
        ),
        "its card": ("POST", f"/shots/{shot['id']}/cards", None),
        "undo": ("POST", "/undo", {"scopes": [f"location:{location['id']}", "kit", f"shot:{shot['id']}"]}),
    }


def test_each_edit_of_the_context_shows(here):
    """The edits are such that the answer is another one: none of them would be noticed if what is kept stood for
    ever.
    """
    edits = _edits(here.api)
    for name, (method, path, body) in edits.items():
        before = here.read()
        here.api.call(method, path, body, expect=201 if method == "POST" and path != "/undo" else 200)
        here.hold()
        assert here.read() != before, name


def test_a_dial_keeps_what_surrounds_and_nothing_else_does(here):
    shot = here.shots[0]
    sessions = here.app.extensions["sessions"]

    def token():
        with sessions() as session:
            return session.scalar(text("select context_token from photographer order by id limit 1"))

    first = token()
    for body in (
        {"depth": {"f_number": "f/9"}},
        {"exposure": {"iso": 400}},
        {"light": {"date_local": "2027-03-04"}},
        {"intent": "else"},
        {"favourite": True},
        {"wishes": {"most_frames": 3}},
    ):
        here.app.test_client().patch(f"/api/shots/{shot}", json=body)
        here.hold()
    assert token() == first
    for body in (
        {"name": "else"},
        {"depth": {"sharp_element_ids": []}},
        {"frame": {"accessory_ids": []}},
        {"exposure": {"filters": []}},
    ):
        assert here.app.test_client().patch(f"/api/shots/{shot}", json=body).status_code == 200
        assert token() != first
        first = token()


def test_an_edit_that_is_taken_back_by_an_error_leaves_nothing(here):
    """A write that fails gives its token back to nobody: what was read under it is never asked for again."""
    shot = here.shots[0]
    before = here.read()
    refused = here.app.test_client().patch(f"/api/shots/{shot}", json={"name": "x", "depth": {"f_number": "f/0.5"}})
    assert refused.status_code == 422
    here.hold()
    assert here.read() == before


def test_what_is_kept_has_a_bound(here):
    session = here.app.extensions["sessions"]()
    shot_context.use_context_token(session, "t")
    for number in range(shot_context._MOST_SHOTS + 50):
        assert shot_context.cached_context(session, -1 - number, "x", lambda number=number: number) == number
    assert len(shot_context._cache) == shot_context._MOST_SHOTS
    shot_context.use_context_token(session, "u")
    assert shot_context.cached_context(session, -200, "x", lambda: "read again") == "read again"
    shot_context._cache.clear()
    session.close()
