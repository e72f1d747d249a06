"""An archive into a notebook that is written in already: what it lacks comes, nothing comes twice, and everything
names what it named.
"""

import contextlib
import copy
import io
import json
import zipfile

import pytest
from backups import ANOTHER_TOKEN
from databases import own_database
from sqlalchemy import text

from lucid_ridge.cli import main
from lucid_ridge.store.database import make_engine, make_sessions

ODD = 1000


class Notebook:
    """A notebook of its own, over HTTP and in its tables."""

    def __init__(self, app, address):
        self.address = address
        self._app, self._client = app, app.test_client()
        self._engine = make_engine(address)
        self.sessions = make_sessions(self._engine)

    @property
    def client(self):
        """Who asks next asks this one of the notebooks that share the application."""
        self._app.extensions["sessions"] = self.sessions
        return self._client

    def call(self, method, path, body=None, expect=(200, 201, 204)):
        answer = self.client.open(f"/api{path}", method=method, json=body)
        assert answer.status_code in expect, answer.get_data(as_text=True)
        return answer.get_json(silent=True)

    def run(self, statement):
        with self.sessions() as session, session.begin():
            return session.execute(text(statement))

    def saved(self):
        return self.client.get("/api/archive").get_data()

    def take(self, content, expect=201):
        answer = self.client.post("/api/archive?file_name=a.zip", data=content, content_type="application/octet-stream")
        assert answer.status_code == expect, answer.get_data(as_text=True)
        return answer.get_json()

    def shots(self):
        return {row["name"]: row["id"] for row in self.call("GET", "/notebook")["shots"]}

    def rows(self, table):
        return self.tables(table)[table]

    def tables(self, *names):
        with zipfile.ZipFile(io.BytesIO(self.saved())) as read:
            return {table: json.loads(read.read(f"tables/{table}.json")) for table in names}

    def close(self):
        self._engine.dispose()


@pytest.fixture
def notebooks(server_url, template, migrated, clean_app):
    """A function that makes notebooks: of the demo, or empty.

    What a serial number gives next is far from the demo's.
    """
    with contextlib.ExitStack() as stack:

        def new(demo=False):
            found = Notebook(clean_app, stack.enter_context(own_database(server_url, template if demo else migrated)))
            stack.callback(found.close)
            # A copied template has the token of the one it was copied from.
            found.run("update notebook set token = gen_random_uuid()::text")
            if not demo:
                found.run(
                    "do $$ declare name text; begin for name in select sequencename from pg_sequences where "
                    "schemaname = 'public' loop"
                    f" perform setval(name, {ODD} + 7 * length(name)); end loop; end $$"
                )
            return found

        yield new


@pytest.fixture
def demo(notebooks):
    """The demo with everything that names something else by its id in a nested value."""
    found = notebooks(demo=True)
    shot = found.shots()["Posts at the ebb"]
    facts = found.call("GET", f"/shots/{shot}")["facts"]
    sharp = facts["depth"]["sharp_element_ids"]
    found.call(
        "PATCH",
        f"/shots/{shot}",
        {
            "exposure": {
                "spots": [{"part": "element", "element_id": sharp[0], "said": "EV 9"}],
                "motion_wishes": [{"element_id": sharp[1], "wish": "frozen"}],
            },
            "frame": {"muted_readings": [f"place:{sharp[0]}", f"air:{min(sharp)}:{max(sharp)}"]},
            "sequence": {
                "frame_groups": [
                    {
                        "role": "whole",
                        "focus": "element",
                        "focus_element_id": sharp[0],
                        "filters": "chosen",
                        "filter_ids": [3],
                    }
                ]
            },
        },
    )
    found.run('update outing set packed = \'{"version": 1, "value": ["filter:3", "to get there:tea"]}\' where id = 1')
    return found


@pytest.fixture(scope="module")
def archived(server_url, template, made_app):
    """The demo as an archive, as it was made once."""
    with own_database(server_url, template) as address:
        found = Notebook(made_app, address)
        yield found.saved()
        found.close()


def _begun(notebooks):
    """A notebook in which something is written already, so that it keeps its ids for itself."""
    found = notebooks()
    # The demo's tides are simulated: only a notebook that practises with them plans by them.
    found.call("PATCH", "/photographer", {"simulated_weather": True})
    found.call("POST", "/locations", {"name": "Own strand", "latitude_deg": 55.0, "longitude_deg": -6.0})
    return found


def _plan(notebook, shot):
    """What is planned of a shot, without the ids in it."""

    def bare(value):
        if isinstance(value, dict):
            return {
                name: bare(item)
                for name, item in value.items()
                if not name.endswith(("id", "ids")) and name not in ("key", "path")
            }
        return [bare(item) for item in value] if isinstance(value, list) else value

    plan = notebook.call("GET", f"/shots/{shot}")["plan"]
    # A card is of the notebook in which it was made: elsewhere it is older than what stands there.
    steps = [step for step in plan["because"] if step["step"] != "field"]
    return bare({**plan, "because": steps, "verdicts": [item for item in plan["verdicts"] if item["step"] != "field"]})


def test_what_a_notebook_lacks_comes_with_all_that_it_names(demo, notebooks):
    other = _begun(notebooks)
    told = other.take(demo.saved())
    assert told["shots"] == 11
    assert told["known"] == 0
    theirs, mine = other.shots(), demo.shots()
    assert set(theirs) == set(mine)
    assert not set(theirs.values()) & set(mine.values())
    for name, number in mine.items():
        assert _plan(other, theirs[name]) == _plan(demo, number), name
    names = {
        table: {row["id"]: row.get("name") for row in rows} for table, rows in other.tables("element", "filter").items()
    }
    shot = next(row for row in other.rows("shot") if row["id"] == theirs["Posts at the ebb"])
    was = next(row for row in demo.rows("shot") if row["id"] == mine["Posts at the ebb"])
    were = {
        table: {row["id"]: row.get("name") for row in rows} for table, rows in demo.tables("element", "filter").items()
    }

    def named(row, of):
        group = row["frame_groups"][0]
        return (
            of["element"][row["spots"][0]["element_id"]],
            of["element"][row["motion_wishes"][0]["element_id"]],
            of["element"][group["focus_element_id"]],
            [of["filter"][item] for item in group["filter_ids"]],
            {tuple(sorted(of["element"][int(part)] for part in key.split(":")[1:])) for key in row["muted_readings"]},
        )

    assert named(shot, names) == named(was, were)
    filters = {row["name"]: row["id"] for row in other.rows("filter")}
    assert next(row for row in other.rows("outing") if row["packed"])["packed"] == [
        f"filter:{filters[were['filter'][3]]}",
        "to get there:tea",
    ]
    # What the log taught is of the same filter, place and frames.
    frames = {row["id"] for row in other.rows("log_frame")}
    for row in other.rows("calibration"):
        assert set(row["evidence"]) <= frames and len(row["evidence"]) > 0
        kind, number = row["subject"].split(":")[:2] if ":" in row["subject"] else ("", "")
        if kind == "filter":
            assert int(number) in names["filter"]
    card = other.rows("field_card")[0]
    assert card["run"]["shot_id"] == card["shot_id"]
    assert {item["id"] for item in card["run"]["elements"]} <= set(names["element"])


def test_the_same_archive_twice_adds_nothing(demo, notebooks):
    other = _begun(notebooks)
    content = demo.saved()
    other.take(content)
    before = other.tables("shot", "element", "log_frame", "shot_filter", "field_event", "outing_stop")
    told = other.take(content)
    assert (told["rows"], told["shots"]) == (0, 0)
    assert "here already" in told["words"]
    assert other.tables(*before) == before
    # Nor does its own.
    assert demo.take(content)["rows"] == 0


def test_what_was_changed_here_stays_and_what_is_new_there_comes(demo, notebooks):
    other = _begun(notebooks)
    other.take(demo.saved())
    posts = other.shots()["Posts at the ebb"]
    other.call("PATCH", f"/shots/{posts}", {"name": "Posts, mine", "exposure": {"filters": []}})
    kept = other.rows("shot_filter")
    # There one goes on: a new element at a place that is known, a new shot, and one that goes.
    viewpoint = demo.call("GET", "/locations")["locations"][0]["viewpoints"][0]["id"]
    demo.call(
        "POST",
        f"/viewpoints/{viewpoint}/elements",
        {"name": "Late buoy", "bearing_deg": 200, "distance_m": 40, "width_m": 1, "height_m": 1},
    )
    demo.call("POST", f"/shots/{demo.shots()['Lichen map']}/copy")
    demo.call("DELETE", f"/shots/{demo.shots()['Layered riggs']}")
    told = other.take(demo.saved())
    assert told["shots"] == 1
    assert told["known"] > 100
    names = other.shots()
    assert {"Posts, mine", "Lichen map (copy)", "Layered riggs"} <= set(names)
    assert "Posts at the ebb" not in names
    assert [row["name"] for row in other.rows("element")].count("Late buoy") == 1
    assert [row for row in other.rows("shot_filter") if row["shot_id"] == posts] == [
        row for row in kept if row["shot_id"] == posts
    ]
    # What was deleted here and is wanted again comes again.
    other.call("DELETE", f"/shots/{names['Layered riggs']}")
    first = other.shots()
    assert "Layered riggs" not in first


def test_a_notebook_that_moved_on_an_empty_machine_is_known_by_its_old_one(demo, notebooks):
    moved = notebooks()
    moved.take(demo.saved())
    assert moved.shots() == demo.shots()
    # Both go on: their next rows bear the same numbers and are not the same.
    for notebook, name in ((demo, "Here"), (moved, "There")):
        notebook.call("POST", "/shots", {"name": name})
    assert demo.shots()["Here"] == moved.shots()["There"]
    assert demo.take(moved.saved())["shots"] == 1
    assert moved.take(demo.saved())["shots"] == 1
    assert set(demo.shots()) == set(moved.shots())
    # And back and forth nothing grows.
    assert demo.take(moved.saved())["rows"] == 0


def test_a_notebook_restored_from_a_backup_is_known_by_the_one_before(demo, notebooks, monkeypatch):
    restored = notebooks(demo=True)
    # As a backup of the demo: its rows, its token.
    restored.run(f"update notebook set token = '{demo.run('select token from notebook').scalar()}'")
    restored.run(ANOTHER_TOKEN)
    monkeypatch.setenv("LUCID_RIDGE_DATABASE_URL", restored.address)
    assert main(["prepare", "--no-demo"]) == 0
    token = restored.run("select token from notebook").scalar()
    assert len(token) == 36
    for notebook, name in ((demo, "Here"), (restored, "There")):
        notebook.call("POST", "/shots", {"name": name})
    assert demo.shots()["Here"] == restored.shots()["There"]
    assert restored.take(demo.saved())["shots"] == 1
    assert demo.take(restored.saved())["shots"] == 1
    assert set(demo.shots()) == set(restored.shots())
    assert len(demo.shots()) == 13
    # Once is enough.
    assert main(["prepare", "--no-demo"]) == 0
    assert restored.run("select token from notebook").scalar() == token


def test_three_notebooks_in_a_ring_have_everything_once(demo, notebooks):
    one, two = _begun(notebooks), _begun(notebooks)
    one.take(demo.saved())
    two.take(one.saved())
    assert two.take(demo.saved())["shots"] == 0
    assert demo.take(two.saved())["shots"] == 0
    assert len(two.shots()) == len(demo.shots()) == 11


def test_what_is_in_the_bag_already_is_not_put_in_twice(demo, notebooks):
    other = _begun(notebooks)
    filter_ = next(row for row in demo.rows("filter") if row["id"] == 3)
    other.run(
        "insert into filter (owner_id, name, kind, stops, mount, thickness_mm, stops_max, gradation) values"
        f" ((select min(id) from photographer), '{filter_['name']}', '{filter_['kind']}', {filter_['stops']}, "
        f"'{filter_['mount']}', {filter_['thickness_mm']}, null, '{filter_['gradation']}')"
    )
    other.take(demo.saved())
    assert [row["name"] for row in other.rows("filter")].count(filter_["name"]) == 1
    assert len(other.rows("filter")) == len(demo.rows("filter"))


@pytest.mark.parametrize(
    ("table", "change"),
    [
        ("shot", lambda rows: [{**rows[0], "id": "one"}]),
        ("shot", lambda rows: [{name: value for name, value in rows[0].items() if name != "id"}]),
        ("shot", lambda rows: [{**rows[0], "f_number": -3}]),
        ("origin", lambda _: [{"what": "shot"}]),
        ("shot", lambda rows: [{**rows[0], "id": 10**12}]),
        ("lens", lambda rows: [{**rows[0], "name": None}]),
        ("shot", lambda rows: [{**rows[0], "spots": {"a": 1}}]),
        ("origin", lambda _: [{"notebook": "a", "what": "shot", "their_id": "b", "our_id": []}]),
    ],
)
def test_what_does_not_fit_is_refused_and_nothing_is_kept(archived, notebooks, table, change):
    other = _begun(notebooks)
    with zipfile.ZipFile(io.BytesIO(archived)) as read:
        held = {name: read.read(name) for name in read.namelist()}
    rows = json.loads(held[f"tables/{table}.json"])
    held[f"tables/{table}.json"] = json.dumps(change(copy.deepcopy(rows))).encode()
    target = io.BytesIO()
    with zipfile.ZipFile(target, "w") as made:
        for name, content in held.items():
            made.writestr(name, content)
    other.take(target.getvalue(), expect=422)
    assert other.shots() == {}
    assert len(other.call("GET", "/locations")["locations"]) == 1


def test_nothing_of_another_owner_is_taken_for_ones_own(demo):
    """An archive that claims this notebook's own token and the ids of another photographer's rows gets rows of its
    own.
    """
    demo.run(
        "insert into photographer (name, theme, set_up_min, reserve_min, lengths, hours, day_order, "
        "dial_steps, polariser_from_mm, promise_weights, thumb_mm, arm_mm, revision, context_token)"
        " select 'Another', theme, set_up_min, reserve_min, lengths, hours, day_order, dial_steps, "
        "polariser_from_mm, promise_weights, thumb_mm, arm_mm, revision, context_token from photographer limit 1"
    )
    demo.run("update shot set owner_id = (select max(id) from photographer) where name = 'Lichen map'")
    before = demo.rows("shot")
    assert all(row["name"] != "Lichen map" for row in before)
    demo.run("update shot set owner_id = (select min(id) from photographer)")
    content = demo.saved()
    demo.run("update shot set owner_id = (select max(id) from photographer) where name = 'Lichen map'")
    assert demo.take(content)["shots"] == 1
    demo.run("delete from photographer where name = 'Another'")
    assert "Lichen map" in demo.shots()
