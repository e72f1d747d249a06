"""Every operation with the ids of another photographer's things: nothing of theirs is read, and nothing of theirs is
written or taken hold of.
"""

import gc
import io
import json
import re
import zipfile
from collections import defaultdict
from dataclasses import dataclass, field
from datetime import UTC, datetime

import pytest
from api_client import Api
from apiflask import APIFlask
from databases import own_database
from every_operation import OF, OPERATIONS, named, table_of, with_ids
from hypothesis import HealthCheck, Phase, given, settings
from sqlalchemy import select, text
from sqlalchemy.orm import sessionmaker

from lucid_ridge.app import create_app
from lucid_ridge.configuration import Configuration
from lucid_ridge.store.accounts import Account, SignIn
from lucid_ridge.store.base import Base
from lucid_ridge.store.jobs import Job
from lucid_ridge.store.photographer import Photographer
from lucid_ridge.store.places import Scouting, ScoutingPhoto
from lucid_ridge.store.sharing import Share, ShareCard
from lucid_ridge.store.shots import Backdrop, FieldCard

# What is written into every text of theirs: where it turns up in an answer, something of theirs was read.
MARK = "⁂"
TABLES = {table.name: table for table in Base.metadata.sorted_tables}
# Texts with a meaning of their own stay: a mark in them would be broken data, not somebody's words.
WORDS = {"name", "intent", "notes", "note", "words", "source", "file_name", "place", "title", "label"}


def owner_of(name, alias):
    """Return SQL for the owner of a row: its own column, or its parent's; None where a table belongs to nobody."""
    table = TABLES[name]
    if "owner_id" in table.columns:
        return f"{alias}.owner_id"
    for key in table.foreign_keys:
        if not key.parent.nullable and key.column.table.name != name:
            inner = owner_of(key.column.table.name, f"{alias}p")
            if inner:
                parent = key.column.table.name
                return (
                    f"(select {inner} from {parent} {alias}p where {alias}p.{key.column.name} = "
                    f"{alias}.{key.parent.name})"
                )
    return None


OWNED = {name: sql for name in TABLES if (sql := owner_of(name, "t"))}
# One question each to the database for all tables: they are asked after every operation.
DIGEST = " union all ".join(
    f"select '{name}', md5(coalesce(string_agg(md5(t::text), '' order by md5(t::text)), '')) from {name} t "
    f"where {sql} = :other"
    for name, sql in OWNED.items()
)
HELD = " union all ".join(
    f"select distinct '{name}.{key.parent.name}' from {name} t join {key.column.table.name} r on "
    f"r.{key.column.name} = t.{key.parent.name}"
    f" where {sql} <> {owner_of(key.column.table.name, 'r')}"
    for name, sql in OWNED.items()
    for key in TABLES[name].foreign_keys
    if key.column.table.name in OWNED
)


def fill(api, session, other):
    """Let them have one of each thing that the demo has none of, so that there is something to ask for; and edits that
    could be undone.
    """
    shot = api.shot_id("Posts at the ebb")
    api.patch(f"/shots/{shot}", {"intent": "theirs"})
    assert (
        api.client.post(
            "/api/practice/answers", json={"exercise": "counting_stops", "seed": 1, "answer": "1"}
        ).status_code
        < 300
    )
    session.add(
        Backdrop(
            shot_id=shot,
            name="b.jpg",
            pixels_wide=3,
            pixels_high=2,
            focal_mm=24,
            focal_source="said",
            sensor_width_mm=36,
            sensor_height_mm=24,
            bearing_deg=0,
            pitch_deg=0,
            kept_at_utc=datetime(2026, 1, 1, tzinfo=UTC),
            content=b"\xff\xd8\xff",
        )
    )
    visit = session.scalars(select(Scouting.id)).first()
    session.add(
        ScoutingPhoto(
            scouting_id=visit, name="p.jpg", kept_at_utc=datetime(2026, 1, 1, tzinfo=UTC), content=b"\xff\xd8\xff"
        )
    )
    account = Account(owner_id=other, name="Theirs", password="x", made_at_utc=datetime(2026, 1, 1, tzinfo=UTC))
    session.add(account)
    session.flush()
    session.add(
        SignIn(
            account_id=account.id, token_digest="x", began_at_utc=account.made_at_utc, seen_at_utc=account.made_at_utc
        )
    )
    card = session.scalars(select(FieldCard.id)).first()
    link = Share(
        owner_id=other,
        token="theirs",
        where_told="exact",
        made_at_utc=account.made_at_utc,
        until_utc=datetime(2100, 1, 1, tzinfo=UTC),
    )
    session.add(link)
    session.flush()
    session.add(ShareCard(share_id=link.id, card_id=card, place=0))
    session.add(Job(owner_id=other, kind="skyline", label="theirs", subject="x", state="done"))
    session.flush()


@dataclass
class World:
    """app: an application on a database in which all belongs to somebody else; the one who asks has nothing.

    ids: of what is theirs, by table. before: a digest of it.
    """

    app: APIFlask
    sessions: sessionmaker
    other: int
    ids: dict[str, list[int]]
    before: dict[str, str] = field(default_factory=dict)

    def unchanged(self):
        """Hold that all of theirs is as it was, and that nobody has taken hold of it."""
        with self.sessions() as session:
            assert digest(session, self.other) == self.before
            assert held(session) == []


@pytest.fixture(scope="module")
def world(server_url, template):
    with own_database(server_url, template) as address:
        app = create_app(Configuration(database_url=address))
        app.config["TESTING"] = True
        sessions = app.extensions["sessions"]
        with sessions() as session, session.begin():
            other = session.scalars(select(Photographer.id)).one()
        with sessions() as session, session.begin():
            fill(Api(app.test_client()), session, other)
            session.add(Photographer(id=0, name="Me"))
            session.flush()
            ids = {}
            for table_name, sql in OWNED.items():
                table = TABLES[table_name]
                for column in table.columns:
                    if column.name in WORDS and str(column.type) == "TEXT":
                        session.execute(
                            text(
                                f"update {table_name} t set {column.name} = {column.name} || '{MARK}' where "
                                f"{sql} = :other"
                            ),
                            {"other": other},
                        )
                if "id" in table.columns:
                    query = text(f"select id from {table_name} t where {sql} = :other order by 1 limit 40")
                    ids[table_name] = list(session.scalars(query, {"other": other}))
        made = World(app, sessions, other, ids)
        with sessions() as session:
            made.before = digest(session, other)
        yield made
        gc.collect()
        sessions.kw["bind"].dispose()


def digest(session, other):
    """Return a digest of all that is theirs, by table."""
    _without_compiling(session)
    return dict(session.execute(text(DIGEST), {"other": other}).all())


def held(session):
    """Return which rows hold something that is another's, by table and column."""
    _without_compiling(session)
    return sorted(session.scalars(text(HELD)))


def _without_compiling(session):
    # Compiling a query with that many parts takes longer than answering it.
    session.execute(text("set local jit = off"))


def test_their_edits_cannot_be_undone(world):
    kinds = (("shot", "shot"), ("location", "location"), ("log", "log_entry"), ("outing", "outing"))
    scopes = [
        "locations",
        "kit",
        "notebook",
        "calibrations",
        "log",
        *(f"{kind}:{row}" for kind, table in kinds for row in world.ids[table]),
    ]
    for scope in scopes:
        for path in ("/undo", "/redo"):
            answer = world.app.test_client().post(f"/api{path}", json={"scopes": [scope]})
            assert MARK not in answer.get_data(as_text=True)
    world.unchanged()


def test_an_archive_holds_ones_own_alone(world):
    content = world.app.test_client().get("/api/archive").get_data()
    with zipfile.ZipFile(io.BytesIO(content)) as read:
        told = b"".join(read.read(name) for name in read.namelist())
    assert json.loads(told[told.rindex(b'{\n "format"') :])["tables"]["shot"] == 0
    assert MARK.encode() not in told
    assert (
        world.app.test_client()
        .post("/api/archive?file_name=a.zip", data=content, content_type="application/octet-stream")
        .status_code
        < 500
    )
    world.unchanged()


def test_every_id_in_an_address_is_of_a_known_table():
    lacking = defaultdict(list)
    for operation in OPERATIONS:
        for name in re.findall(r"{(\w+)}", operation.path):
            if name.endswith("_id") and table_of(name, operation.path) is None:
                lacking[name].append(operation.path)
    # A run and an event are named by UUIDs that devices make; who knows none cannot guess one, and anyone who asks
    # finds only one's own.
    assert set(lacking) <= {"run_id", "event_id"}
    assert set(OF.values()) <= set(OWNED)
    assert len(OWNED) > 25


@pytest.mark.parametrize("operation", OPERATIONS, ids=named)
def test_nothing_of_another_is_read_or_written(world, operation):
    in_address = [name for name in re.findall(r"{(\w+)}", operation.path) if table_of(name, operation.path)]
    turns = iter(range(10_000))
    statuses = []

    @settings(
        max_examples=12,
        deadline=None,
        database=None,
        derandomize=True,
        phases=[Phase.explicit, Phase.generate],
        suppress_health_check=list(HealthCheck),
    )
    @given(case=operation.as_strategy())
    def run(case):
        turn = next(turns)
        for name in in_address:
            there = world.ids[table_of(name, operation.path)]
            if there:
                case.path_parameters[name] = there[turn % len(there)]
        case.query = with_ids(case.query or {}, operation.path, world.ids, turn)
        if isinstance(case.body, dict):
            case.body = with_ids(case.body, operation.path, world.ids, turn)
        answer = case.call(app=world.app)
        statuses.append(answer.status_code)
        assert MARK.encode() not in answer.content, answer.content[:300]
        if in_address:
            assert answer.status_code >= 400, (answer.status_code, answer.text[:300])

    run()
    assert statuses
    world.unchanged()
