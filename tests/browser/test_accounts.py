"""Coming in: by the key of this machine, by invitation, by name and password; and what was typed when the door fell
shut.
"""

from __future__ import annotations

import contextlib
from datetime import UTC, datetime

import pytest
from chromium import start_chromium
from databases import own_database
from screen import Screen
from served import served
from sqlalchemy import create_engine, text
from sqlalchemy.orm import Session

from lucid_ridge.configuration import Access
from lucid_ridge.operations.accounts.accounts import From as CameFrom
from lucid_ridge.operations.accounts.accounts import account_named, make_pass, use_pass
from lucid_ridge.operations.accounts.photographers import local_photographer

KEY = "a key that is long enough"
PASSWORD = "four short plain words"
# A tick in the store of the field, and how many there are.
_OPEN = (
    "const done = arguments[arguments.length - 1], asked = indexedDB.open('lucid-ridge-field', 2); "
    "asked.onupgradeneeded = () => { const events = asked.result.createObjectStore('events', {keyPath: "
    "'id'}); events.createIndex('run', 'run_id'); events.createIndex('sent', 'sent'); "
    "asked.result.createObjectStore('runs', {keyPath: 'run_id'}).createIndex('card', 'card_id'); "
    "asked.result.createObjectStore('sheets', {keyPath: 'card_id'}); asked.result.createObjectStore('counting'); };"
)
_TICK = (
    _OPEN + "asked.onsuccess = () => { const put = asked.result.transaction('events', 'readwrite'); "
    "put.objectStore('events').put({id: 'a', run_id: 'r', sent: 1, event: {}}); put.oncomplete = () => { "
    "asked.result.close(); done(); }; };"
)
_TICKS = (
    _OPEN + "asked.onsuccess = () => { const count = "
    "asked.result.transaction('events').objectStore('events').count(); count.onsuccess = () => { "
    "asked.result.close(); done(count.result); }; };"
)


@contextlib.contextmanager
def _served(server_url, template, access):
    with own_database(server_url, template) as url:
        engine = create_engine(url)
        with served(url, access=access, key=KEY) as address:
            yield address, engine
        engine.dispose()


@pytest.fixture
def visitor():
    """A browser that nobody has been in yet."""
    running = start_chromium()
    yield running
    running.quit()


def _link(engine, own=False, recover=None):
    with Session(engine) as session, session.begin():
        account = account_named(session, recover) if recover else None
        return make_pass(
            session, datetime.now(UTC), account=account, notebook_of_id=local_photographer(session).id if own else None
        )


def _fill(screen, act, **values):
    for label, value in values.items():
        box = screen.field(label)
        box.clear()
        box.send_keys(value)
    screen.press(act)


def test_the_key_opens_this_machines_notebook_once_and_for_all(visitor, server_url, template):
    with _served(server_url, template, Access.KEY) as (address, _):
        screen = Screen(visitor, address)
        screen.size(1280, 800)
        screen.open("/")
        screen.reads("This notebook is locked")
        # The same page, another key: as when the printed address is pasted into the open tab.
        visitor.get(f"{address}/#key=wrong")
        screen.reads("This notebook is locked")
        visitor.get(f"{address}/#key={KEY.replace(' ', '%20')}")
        screen.reads("Split boulder under the fell")
        assert "key" not in visitor.current_url
        visitor.get("about:blank")
        screen.open("/kit")
        screen.reads("16–35 mm wide zoom")
        assert "locked" not in screen.text()


def test_an_invited_photographer_comes_in_goes_and_comes_back(visitor, server_url, template):
    with _served(server_url, template, Access.ACCOUNTS) as (address, engine):
        screen = Screen(visitor, address)
        screen.size(390, 844)
        token = _link(engine, own=True)
        screen.open(f"/join#{token}")
        screen.reads("Welcome to Lucid Ridge")
        _fill(screen, "Make my account", Name="Ada", Password="short")
        screen.reads("10 to 200 characters")
        assert screen.field("Name").get_attribute("value") == "Ada"
        _fill(screen, "Make my account", Password=PASSWORD)
        screen.reads("Split boulder under the fell")
        screen.menu("Preferences")
        screen.reads("Your account: Ada")
        # What has not been sent is not thrown away without a word.
        visitor.execute_script("localStorage.setItem('draft:x', JSON.stringify({text: '2 m', at: Date.now()}))")
        screen.press("Sign out")
        screen.reads("have not reached the server")
        screen.press("Throw it away and sign out")
        screen.reads("Accounts are made by invitation")
        assert screen.text().count("Split boulder") == 0
        _fill(screen, "Sign in", Name="Ada", Password="not this one")
        screen.reads("Name or password is wrong.")
        _fill(screen, "Sign in", Password=PASSWORD)
        screen.reads("Split boulder under the fell")
        # The link holds once.
        screen.open(f"/join#{token}")
        screen.reads("has expired")
        visitor.get("about:blank")


def test_what_was_typed_when_the_door_fell_shut_is_sent_when_it_opens(visitor, server_url, template):
    with _served(server_url, template, Access.ACCOUNTS) as (address, engine):
        screen = Screen(visitor, address)
        screen.size(1280, 800)
        with Session(engine) as session, session.begin():
            token = make_pass(session, datetime.now(UTC), notebook_of_id=local_photographer(session).id)
            use_pass(session, token, "Ada", PASSWORD, datetime.now(UTC), CameFrom())
        screen.open("/")
        _fill(screen, "Sign in", Name="Ada", Password=PASSWORD)
        screen.reads("Split boulder under the fell")
        with engine.connect() as connection:
            shot = connection.execute(
                text("select id from shot where name = 'Split boulder under the fell'")
            ).scalar_one()
        screen.open(f"/shots/{shot}/depth")
        screen.find("//label[normalize-space()='Near limit']")
        with engine.begin() as connection:
            connection.execute(text("delete from sign_in"))
        screen.type("Near limit", "0.62 m")
        screen.reads("Accounts are made by invitation")
        _fill(screen, "Sign in", Name="ada", Password=PASSWORD)
        screen.wait(lambda: "Accounts are made" not in screen.text())

        def kept():
            with engine.connect() as connection:
                return connection.execute(
                    text("select near_m from shot where name = 'Split boulder under the fell'")
                ).scalar_one()

        screen.wait(lambda: kept() == 0.62)
        screen.wait(lambda: screen.field("Near limit").get_attribute("value") == "0.62 m")
        visitor.get("about:blank")


def test_another_account_finds_nothing_of_the_one_before(visitor, server_url, template):
    with _served(server_url, template, Access.ACCOUNTS) as (address, engine):
        screen = Screen(visitor, address)
        screen.size(1280, 800)
        screen.open(f"/join#{_link(engine, own=True)}")
        _fill(screen, "Make my account", Name="Ada", Password=PASSWORD)
        screen.reads("Split boulder under the fell")
        visitor.execute_script(
            "localStorage.setItem('draft:x', JSON.stringify({text: 'of Ada', at: Date.now()})); "
            "localStorage.setItem('unsent:shot:2', '{\"near_m\": 3}')"
        )
        visitor.execute_async_script(_TICK)
        assert visitor.execute_async_script(_TICKS) == 1
        # The first is signed out from elsewhere; a second comes to the same browser by a link of their own.
        with engine.begin() as connection:
            connection.execute(text("delete from sign_in"))
        screen.open(f"/join#{_link(engine)}")
        _fill(screen, "Make my account", Name="Bo", Password=PASSWORD)
        screen.reads("New shot")
        screen.wait(lambda: "Split boulder" not in screen.text())
        assert visitor.execute_script(
            "return [localStorage.getItem('draft:x'), localStorage.getItem('unsent:shot:2')]"
        ) == [None, None]
        assert visitor.execute_async_script(_TICKS) == 0
        visitor.get("about:blank")


def _an_outing_is_shared_and_read_by_who_has_no_account(visitor, server_url, template):
    with _served(server_url, template, Access.ACCOUNTS) as (address, engine):
        screen = Screen(visitor, address)
        screen.size(1280, 800)
        with Session(engine) as session:
            outing, name = session.execute(
                text(
                    "select o.id, o.name from outing o join outing_stop s on s.outing_id = o.id where "
                    "s.shot_id is not null group by o.id order by count(distinct s.shot_id) desc limit 1"
                )
            ).one()
            shots = [
                row.name
                for row in session.execute(
                    text(
                        "select distinct h.name from outing_stop s join shot h on h.id = s.shot_id where "
                        "s.outing_id = :id"
                    ),
                    {"id": outing},
                )
            ]
            places = set(session.scalars(text("select name from location")))
        screen.open("/join#" + _link(engine, own=True))
        screen.reads("Welcome to Lucid Ridge")
        _fill(screen, "Make my account", Name="Ada", Password=PASSWORD)
        screen.reads("Split boulder under the fell")
        screen.open(f"/outings/{outing}")
        screen.press("share …")
        screen.find("//*[@role='dialog']")
        screen.press("Make a link")
        link = screen.find("//a[normalize-space()='see it']").get_attribute("href")
        visitor.delete_all_cookies()
        visitor.get(link)
        screen.wait(lambda: f"An outing of {len(shots)} shots" in screen.text())
        shown = screen.text()
        # Titles of shots are shown, unless a place has the same name; nothing of places is.
        assert len(screen.all("article")) == len(shots)
        assert not [place for place in places if place in shown]
        assert name not in shown


def _a_location_is_shared_and_copied_into_another_notebook(visitor, server_url, template):
    with _served(server_url, template, Access.ACCOUNTS) as (address, engine):
        screen = Screen(visitor, address)
        screen.size(1280, 800)
        screen.open("/join#" + _link(engine, own=True))
        _fill(screen, "Make my account", Name="Ada", Password=PASSWORD)
        screen.reads("Split boulder under the fell")
        screen.open("/locations")
        screen.find("//a[normalize-space()='Blackwater Tarn']").click()
        screen.press("Share …")
        screen.find("//*[@role='dialog']")
        screen.choose("the place itself")
        screen.reads("anyone who has a notebook here may copy it")
        screen.press("Make a link")
        link = screen.find("//a[normalize-space()='see it']").get_attribute("href")
        visitor.delete_all_cookies()
        visitor.get(link)
        screen.find("//h1[normalize-space()='Blackwater Tarn']")
        screen.reads("Whoever has an account here may copy it")
        assert not screen.all("nav")
        screen.open("/join#" + _link(engine))
        _fill(screen, "Make my account", Name="Bert", Password=PASSWORD)
        screen.reads("The notebook is empty")
        visitor.get(link)
        screen.press("Copy into my notebook")
        screen.reads("It is in your notebook.")
        screen.wait(lambda: "/locations/" in visitor.current_url)
        screen.shows("Name", "Blackwater Tarn")
        # A second time it leads there.
        visitor.get(link)
        screen.press("Copy into my notebook")
        screen.reads("It was in your notebook already.")
        with Session(engine) as session:
            assert session.scalar(text("select count(*) from location where name = 'Blackwater Tarn'")) == 2


def test_what_is_shared(visitor, server_url, template):
    """An outing is read by who has no account; a location is copied into another notebook."""
    _an_outing_is_shared_and_read_by_who_has_no_account(visitor, server_url, template)
    _a_location_is_shared_and_copied_into_another_notebook(visitor, server_url, template)
