"""Accounts: who is let in, who is not, what is seen of others, and what of it is recorded."""

import re
import threading
from datetime import UTC, datetime, timedelta

import pytest
from argon2 import PasswordHasher
from every_operation import OPERATIONS, named
from sqlalchemy import select, text, update
from sqlalchemy.orm import sessionmaker

from lucid_ridge.app import create_app
from lucid_ridge.configuration import Access, Configuration
from lucid_ridge.operations.accounts import accounts as operations
from lucid_ridge.operations.accounts.photographers import local_photographer
from lucid_ridge.store.accounts import Account, Pass, SignIn, SignInEvent

HERE = {"Origin": "http://localhost"}
FIREFOX = "Mozilla/5.0 (X11; Linux x86_64; rv:140.0) Gecko/20100101 Firefox/140.0"
# What one may ask without being signed in.
OPEN = {
    ("GET", "/api/health"),
    ("GET", "/api/session"),
    ("POST", "/api/session"),
    ("DELETE", "/api/session"),
    ("POST", "/api/session/key"),
    ("POST", "/api/passes"),
    ("POST", "/api/passes/look"),
    ("GET", "/api/markings"),
    ("POST", "/api/shared"),
    ("GET", "/api/openapi.json"),
}


class Browser:
    """A browser with its own cookies, at an application with accounts."""

    def __init__(self, app, **environ):
        self.client = app.test_client()
        self.client.environ_base.update({"HTTP_USER_AGENT": FIREFOX, **environ})

    def ask(self, method, path, body=None, expect=200, headers=HERE):
        answer = self.client.open(f"/api{path}", method=method, json=body, headers=headers)
        assert answer.status_code == expect, answer.get_data(as_text=True)
        return answer.get_json(silent=True)

    def join(self, token, name, password="four short plain words"):
        return self.ask("POST", "/passes", {"token": token, "name": name, "password": password}, expect=201)

    def sign_in(self, name, password="four short plain words", expect=201):
        return self.ask("POST", "/session", {"name": name, "password": password}, expect=expect)


@pytest.fixture
def sessions(demo_engine):
    with demo_engine.connect() as connection:
        transaction = connection.begin()
        yield sessionmaker(connection, join_transaction_mode="create_savepoint", expire_on_commit=False)
        transaction.rollback()


@pytest.fixture
def app(sessions):
    made = create_app(Configuration(database_url="", access=Access.ACCOUNTS), sessions)
    made.config["TESTING"] = True
    return made


@pytest.fixture
def invite(sessions):
    def make(days=7, own=False, recover=None):
        with sessions() as session, session.begin():
            account = operations.account_named(session, recover) if recover else None
            mine = local_photographer(session).id if own else None
            return operations.make_pass(session, datetime.now(UTC), days, account, mine)

    return make


def test_nothing_is_answered_to_who_is_not_signed_in(app):
    stranger = Browser(app)
    for operation in OPERATIONS:
        method, path = operation.method.upper(), operation.path
        if (method, path) in OPEN:
            continue
        filled = re.sub(r"{\w+}", "1", path)
        files = "application/octet-stream" in str(operation.definition.raw.get("requestBody", ""))
        answer = stranger.client.open(
            filled,
            method=method,
            headers=HERE,
            **(
                {"data": b"x", "content_type": "application/octet-stream"}
                if files
                else {"json": {}}
                if method != "GET"
                else {}
            ),
        )
        assert answer.status_code == 401, (named(operation), answer.status_code)
        assert answer.get_json()["error"]["kind"] == "sign_in"
    told = stranger.ask("GET", "/notebook", expect=401)["error"]
    assert told["message"] == "Sign in to open your notebook."
    assert stranger.ask("GET", "/session") == {"access": "accounts", "signed_in": False, "name": None}


def test_an_invitation_makes_an_account_with_a_notebook_of_its_own(app, invite):
    token = invite()
    guest = Browser(app)
    assert guest.ask("POST", "/passes/look", {"token": token})["name"] is None
    assert guest.join(token, "  Ada   Fell ") == {"access": "accounts", "signed_in": True, "name": "Ada Fell"}
    assert guest.ask("GET", "/notebook")["shots"] == []
    made = guest.ask("POST", "/shots", {"name": "Mine"}, expect=201)
    # The link holds once, and another notebook is another.
    assert (
        "used"
        in guest.ask(
            "POST", "/passes", {"token": token, "name": "b", "password": "four short plain words"}, expect=422
        )["error"]["message"]
    )
    other = Browser(app)
    other.join(invite(), "Bo")
    other.ask("GET", f"/shots/{made['id']}", expect=404)
    other.ask("PATCH", f"/shots/{made['id']}", {"intent": "theirs"}, expect=404)
    assert [item["name"] for item in guest.ask("GET", "/notebook")["shots"]] == ["Mine"]


def test_the_notebook_of_this_machine_is_given_to_one_account(app, invite):
    token, second = invite(own=True), invite(own=True)
    owner = Browser(app)
    owner.join(token, "Keeper")
    assert len(owner.ask("GET", "/notebook")["shots"]) >= 10
    late = Browser(app)
    refused = late.ask(
        "POST", "/passes", {"token": second, "name": "Late", "password": "four short plain words"}, expect=422
    )
    assert refused["error"]["fields"][0]["field"] == "token"
    assert late.ask("GET", "/session")["signed_in"] is False


def test_names_and_passwords_that_cannot_be(app, invite):
    Browser(app).join(invite(), "Ada")
    token = invite()
    guest = Browser(app)
    for name, password, field in (
        ("aDA", "four short plain words", "name"),
        ("   ", "four short plain words", "name"),
        ("x" * 101, "four short plain words", "name"),
        ("Cy", "short", "password"),
        ("Cy", "x" * 201, "password"),
        ("Cy", "aaaaaaaaaaaa", "password"),
        ("A long name", "a LONG name", "password"),
    ):
        error = guest.ask("POST", "/passes", {"token": token, "name": name, "password": password}, expect=422)["error"]
        assert [item["field"] for item in error["fields"]] == [field]
    guest.join(token, "Cy")


def test_signing_in_and_out(app, invite):
    Browser(app).join(invite(), "Ada")
    browser = Browser(app)
    wrong = [
        browser.sign_in(name, password, expect=422)["error"]
        for name, password in (("Ada", "wrong words here"), ("Nobody", "wrong words here"))
    ]
    assert wrong[0] == wrong[1]
    browser.sign_in("  ada ")
    assert browser.ask("GET", "/session")["name"] == "Ada"
    browser.ask("DELETE", "/session", expect=204)
    browser.ask("GET", "/notebook", expect=401)


def test_the_cookie(app, invite, sessions):
    browser = Browser(app)
    body = {"token": invite(), "name": "Ada", "password": "four short plain words"}
    cookie = browser.client.post("/api/passes", json=body, headers=HERE).headers["Set-Cookie"]
    assert all(part in cookie for part in ("HttpOnly", "SameSite=Strict", "Path=/"))
    assert "Secure" not in cookie and not cookie.startswith("__Host-")
    safe = app.test_client().post(
        "/api/session",
        json={"name": "Ada", "password": "four short plain words"},
        headers={"Origin": "https://localhost"},
        base_url="https://localhost",
    )
    assert safe.headers["Set-Cookie"].startswith("__Host-lucid-ridge=") and "Secure" in safe.headers["Set-Cookie"]
    token = re.search(r"=([^;]+)", safe.headers["Set-Cookie"])[1]
    # Neither what a cookie holds nor a password is kept anywhere.
    with sessions() as session:
        kept = session.execute(text("select string_agg(t::text, ' ') from (select * from sign_in) t")).scalar_one()
        account = session.scalars(select(Account)).one()
    assert token not in kept
    assert account.password.startswith("$argon2id$")


def test_other_sites_pages_can_write_nothing(app, invite):
    browser = Browser(app)
    browser.join(invite(), "Ada")
    for headers in (
        {},
        {"Origin": "https://elsewhere.example"},
        {"Origin": "null"},
        {"Sec-Fetch-Site": "cross-site"},
        {"Origin": "http://localhost:9"},
    ):
        browser.ask("POST", "/shots", {"name": "x"}, expect=403, headers=headers)
    browser.ask("POST", "/shots", {"name": "x"}, expect=201, headers={"Sec-Fetch-Site": "same-origin"})
    assert len(browser.ask("GET", "/notebook")["shots"]) == 1


@pytest.fixture
def cheap(monkeypatch):
    """Passwords that cost nothing to check, where it is counted how often one is tried."""
    hasher = PasswordHasher(time_cost=1, memory_cost=8, parallelism=1)
    monkeypatch.setattr(operations, "_hasher", hasher)
    monkeypatch.setattr(operations, "nobodys_password", lambda: hasher.hash("nobody's"))


def test_guessing_ends(app, invite, cheap):
    Browser(app).join(invite(), "Ada")
    thief = Browser(app)
    for _ in range(8):
        thief.sign_in("Ada", "wrong words here", expect=422)
    # Not even the right one is looked at any more from there; from elsewhere the owner still gets in.
    assert thief.sign_in("Ada", expect=429)["error"]["kind"] == "too_many"
    Browser(app, REMOTE_ADDR="192.0.2.7").sign_in("Ada")
    # One address that tries many names is stopped as well.
    for number in range(22):
        thief.sign_in(f"name {number}", "wrong words here", expect=422)
    thief.sign_in("another", "wrong words here", expect=429)


def test_guessing_from_many_places_ends(app, invite, sessions, cheap):
    Browser(app).join(invite(), "Ada")
    for number in range(60):
        Browser(app, REMOTE_ADDR=f"198.51.100.{number}").sign_in("Ada", "wrong words here", expect=422)
    Browser(app, REMOTE_ADDR="203.0.113.1").sign_in("Ada", expect=429)
    with sessions() as session, session.begin():
        session.execute(update(SignInEvent).values(at_utc=datetime.now(UTC) - operations.WITHIN - timedelta(seconds=1)))
    Browser(app, REMOTE_ADDR="203.0.113.1").sign_in("Ada")


def test_where_one_is_signed_in_is_seen_and_ended(app, invite):
    first, second, other = (
        Browser(app),
        Browser(app, HTTP_USER_AGENT="Mozilla/5.0 (Android 16) Chrome/140 Safari/537"),
        Browser(app),
    )
    first.join(invite(), "Ada")
    second.sign_in("Ada")
    other.join(invite(), "Bo")
    told = first.ask("GET", "/account")
    assert {(item["device"], item["here"]) for item in told["sign_ins"]} == {
        ("Firefox on Linux", True),
        ("Chrome on Android", False),
    }
    assert [item["outcome"] for item in told["events"]] == ["signed_in", "joined"]
    elsewhere = next(item["id"] for item in told["sign_ins"] if not item["here"])
    other.ask("DELETE", f"/account/sign-ins/{elsewhere}", expect=404)
    first.ask("DELETE", f"/account/sign-ins/{elsewhere}", expect=204)
    second.ask("GET", "/notebook", expect=401)
    first.ask("GET", "/notebook")
    assert len(other.ask("GET", "/account")["sign_ins"]) == 1


def test_another_password_signs_out_elsewhere(app, invite):
    first, second = Browser(app), Browser(app)
    first.join(invite(), "Ada")
    second.sign_in("Ada")
    error = first.ask(
        "POST", "/account/password", {"old": "wrong words here", "new": "other plain short words"}, expect=422
    )["error"]
    assert error["fields"][0]["field"] == "old"
    assert (
        first.ask("POST", "/account/password", {"old": "four short plain words", "new": "short"}, expect=422)["error"][
            "fields"
        ][0]["field"]
        == "new"
    )
    first.ask(
        "POST", "/account/password", {"old": "four short plain words", "new": "other plain short words"}, expect=204
    )
    first.ask("GET", "/notebook")
    second.ask("GET", "/notebook", expect=401)
    second.sign_in("Ada", expect=422)
    second.sign_in("Ada", "other plain short words")
    assert [item["outcome"] for item in first.ask("GET", "/account")["events"]][:4] == [
        "signed_in",
        "wrong",
        "password_changed",
        "wrong",
    ]


def test_a_link_of_recovery_sets_the_password_and_signs_out_everywhere(app, invite):
    old = Browser(app)
    old.join(invite(), "Ada")
    token = invite(recover="ada")
    new = Browser(app)
    assert new.ask("POST", "/passes/look", {"token": token})["name"] == "Ada"
    new.join(token, "", "other plain short words")
    assert new.ask("GET", "/session")["name"] == "Ada"
    old.ask("GET", "/notebook", expect=401)
    Browser(app).sign_in("Ada", expect=422)


def test_what_is_over_lets_nobody_in(app, invite, sessions):
    browser = Browser(app)
    browser.ask("POST", "/passes/look", {"token": invite(days=0)}, expect=422)
    browser.ask("POST", "/passes/look", {"token": "no such thing"}, expect=422)
    browser.join(invite(), "Ada")
    for column, ago in (("seen_at_utc", operations.UNSEEN), ("began_at_utc", operations.LONGEST)):
        with sessions() as session, session.begin():
            session.execute(update(SignIn).values(**{column: datetime.now(UTC) - ago - timedelta(minutes=1)}))
        browser.ask("GET", "/notebook", expect=401)
        browser.sign_in("Ada")
        browser.ask("GET", "/notebook")
    recovery = invite(recover="Ada")
    with sessions() as session, session.begin():
        session.execute(update(Account).values(closed=True))
    browser.ask("GET", "/notebook", expect=401)
    browser.sign_in("Ada", expect=422)
    browser.ask("POST", "/passes/look", {"token": recovery}, expect=422)


def test_one_link_used_twice_at_once_makes_one_account(own_api):
    """Two browsers with the same link at the same moment, on connections of their own."""
    sessions = own_api.client.application.extensions["sessions"]
    app = create_app(Configuration(database_url="", access=Access.ACCOUNTS), sessions)
    with sessions() as session, session.begin():
        token = operations.make_pass(session, datetime.now(UTC))
    statuses, gate = [], threading.Barrier(2)

    def use(name):
        client = app.test_client()
        gate.wait()
        body = {"token": token, "name": name, "password": "four short plain words"}
        statuses.append(client.post("/api/passes", json=body, headers=HERE).status_code)

    threads = [threading.Thread(target=use, args=(name,)) for name in ("One", "Two")]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert sorted(statuses) == [201, 422]
    with sessions() as session:
        assert len(session.scalars(select(Account)).all()) == 1
        assert session.scalars(select(Pass.used_at_utc)).one() is not None


def test_an_archive_holds_no_account(app, invite):
    browser = Browser(app)
    browser.join(invite(), "Ada")
    content = browser.client.get("/api/archive").get_data()
    assert b"argon2" not in content and b"sign_in" not in content
    # One that was filled is taken by another account, with nothing of the first's door.
    assert (
        browser.client.post(
            "/api/archive?file_name=a.zip", data=content, content_type="application/octet-stream", headers=HERE
        ).status_code
        == 201
    )


def test_the_key_of_this_machine(sessions):
    app = create_app(Configuration(database_url="", access=Access.KEY, key="the very key"), sessions)
    browser = Browser(app)
    assert browser.ask("GET", "/session") == {"access": "key", "signed_in": False, "name": None}
    assert "./start" in browser.ask("GET", "/notebook", expect=401)["error"]["message"]
    browser.ask("GET", "/health")
    assert (
        browser.ask("POST", "/session/key", {"key": "another key"}, expect=422)["error"]["fields"][0]["field"] == "key"
    )
    browser.ask("POST", "/session/key", {"key": ""}, expect=422)
    browser.ask("GET", "/notebook", expect=401)
    browser.ask("POST", "/session/key", {"key": "the very key"}, expect=201)
    assert len(browser.ask("GET", "/notebook")["shots"]) >= 10
    # Where the key has changed the old cookie opens nothing; and an application without a key lets nobody in by
    # an empty one.
    for key in ("another one", ""):
        locked = create_app(Configuration(database_url="", access=Access.KEY, key=key), sessions)
        visitor = Browser(locked)
        visitor.client.set_cookie("lucid-ridge-localhost", "the very key")
        visitor.client.set_cookie("lucid-ridge-", "")
        visitor.ask("GET", "/notebook", expect=401)
        visitor.ask("POST", "/session/key", {"key": ""}, expect=422)
    browser.ask("POST", "/session", {"name": "a", "password": "b"}, expect=409)
    browser.ask("GET", "/account", expect=409)


def test_names_it_answers_to(sessions):
    app = create_app(
        Configuration(database_url="", access=Access.ACCOUNTS, hosts=frozenset({"club.example"}), behind_proxy=True),
        sessions,
    )
    told = {"X-Forwarded-Proto": "https", "X-Forwarded-Host": "club.example", "X-Forwarded-For": "192.0.2.9"}
    assert app.test_client().get("/api/session", headers=told).status_code == 200
    assert app.test_client().get("/api/session", headers=told | {"X-Forwarded-Host": "evil.example"}).status_code == 400
    for _ in range(8):
        body = {"name": "Ada", "password": "wrong words here"}
        assert (
            app.test_client()
            .post("/api/session", json=body, headers=told | {"Origin": "https://club.example"})
            .status_code
            == 422
        )
    assert (
        app.test_client().post("/api/session", json=body, headers=told | {"Origin": "https://club.example"}).status_code
        == 429
    )
    # The limit is of the address that the proxy tells, not of the proxy's.
    elsewhere = told | {"Origin": "https://club.example", "X-Forwarded-For": "192.0.2.10"}
    assert app.test_client().post("/api/session", json=body, headers=elsewhere).status_code == 422
    with sessions() as session:
        assert set(session.scalars(select(SignInEvent.address))) == {"192.0.2.9", "192.0.2.10"}
