"""python -m lucid_ridge: prepare the database, serve, answer at once, print the OpenAPI document."""

from __future__ import annotations

import argparse
import dataclasses
import gc
import json
import os
import sys
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

from . import configuration as environment
from . import now_commands


def main(argv: list[str] | None = None) -> int:
    """Run one command and return its exit status."""
    parser = argparse.ArgumentParser(prog="lucid_ridge")
    commands = parser.add_subparsers(dest="command", required=True)
    prepare = commands.add_parser("prepare", help="bring the database up to date and load the demo into an empty one")
    prepare.add_argument("--no-demo", action="store_true")
    serve = commands.add_parser("serve", help="serve on 127.0.0.1, or at another address with accounts")
    serve.add_argument("--port", type=int, required=True)
    serve.add_argument("--listen", help="an address of the network")
    serve.add_argument("--certificate", type=Path)
    serve.add_argument("--private-key", type=Path)
    _declare_accounts(commands)
    now_commands.declare(commands)
    commands.add_parser("schema", help="say whether the database's schema is none, behind, current or ahead")
    commands.add_parser("check", help="read the whole notebook and plan every shot; say what is broken")
    archive = commands.add_parser(
        "archive", help="write the whole notebook into a file, or add what one holds to this notebook"
    )
    archive.add_argument("way", choices=("out", "in"))
    archive.add_argument("file", type=Path)
    files = commands.add_parser(
        "files",
        help="move large files out of the database or into it again, or let those go that nobody names any more",
    )
    files.add_argument("way", choices=("out", "in", "sweep"))
    commands.add_parser("openapi", help="print the OpenAPI document")
    commands.add_parser("facts", help="print the declared facts as a TypeScript module")
    options = parser.parse_args(argv)
    if options.command == "openapi":
        return _openapi()
    if options.command == "facts":
        from .api.platform.fact_tables import fact_tables

        print(fact_tables(), end="")
        return 0
    if options.command == "now":
        return now_commands.run(options)
    settings = environment.from_environment()
    if options.command == "schema":
        from .store.database import schema_state

        print(schema_state(settings.database_url))
        return 0
    if options.command == "archive":
        return _archive(settings, options.way, options.file)
    if options.command == "files":
        return _files(settings, options.way)
    if options.command == "check":
        return _check(settings)
    if options.command == "accounts":
        from .account_commands import run
        from .store.database import open_store

        return run(options, open_store(settings.database_url, settings.files_address))
    return _prepare(settings, options.no_demo) if options.command == "prepare" else _serve(settings, options)


def _declare_accounts(commands: Any) -> None:
    """Declare `accounts` and its subcommands."""
    accounts = commands.add_parser("accounts", help="invite, recover, close, list: who may sign in")
    kinds = accounts.add_subparsers(dest="what", required=True)
    invite = kinds.add_parser(
        "invite", help=f"make a link by which somebody makes an account, once, within {environment.INVITED_DAYS} days"
    )
    invite.add_argument(
        "--own", action="store_true", help="give the account the notebook that this machine has had so far"
    )
    recover = kinds.add_parser("recover", help="make a link that sets an account's password again, once, within a day")
    recover.add_argument("name")
    for what in ("close", "reopen"):
        kinds.add_parser(what, help=f"{what} an account; its notebook stays").add_argument("name")
    kinds.add_parser("list", help="who has an account")
    kinds.add_parser("any", help="succeed where there is an account, or a link that makes one")


def _prepare(settings: environment.Configuration, no_demo: bool) -> int:
    from .store.database import migrate, open_store
    from .store.notebook import is_from_another
    from .store.tables import is_empty

    migrate(settings.database_url)
    sessions = open_store(settings.database_url, settings.files_address)
    with sessions() as session, session.begin():
        if is_from_another(session):
            # Only after a backup has replaced the notebook: it needs the whole store.
            from .operations.notebook.predecessors import settle_token

            settle_token(session)
    if no_demo:
        return 0
    with sessions() as session, session.begin():
        if not is_empty(session):
            return 0
        # Imported here: the demo computes with the whole core, which takes a second to load.
        from .demo.load import load_demo

        load_demo(session)
    from .work import plan_notebook

    plan_notebook(sessions)
    return 0


def _files(settings: environment.Configuration, way: str) -> int:
    from .operations.platform.file_moves import move_files, sweep_files
    from .store.database import make_engine
    from .store.file_store import FilesAway, FileStore

    if not settings.files_address:
        print("LUCID_RIDGE_FILES does not say where files are kept outside the database.", file=sys.stderr)
        return 1
    files = FileStore(settings.files_address, writes=way == "out")
    engine = make_engine(settings.database_url, files)
    try:
        if way == "sweep":
            print(f"{sweep_files(engine, files, datetime.now(UTC))} files let go.")
        else:
            print(
                f"{move_files(engine, outwards=way == 'out')} files moved "
                f"{'out of' if way == 'out' else 'into'} the database."
            )
    except (FilesAway, OSError) as error:
        print(error, file=sys.stderr)
        return 1
    return 0


def _check(settings: environment.Configuration) -> int:
    from .operations.notebook.consistency import look_through
    from .store.database import open_store

    with open_store(settings.database_url, settings.files_address)() as session:
        found = look_through(session)
    print(f"{found.rows} rows in {found.tables} tables read, {found.shots} shots planned.")
    for trouble in found.troubles:
        print(f"- {trouble}")
    print("Nothing is broken." if not found.troubles else f"{len(found.troubles)} found.")
    return 1 if found.troubles else 0


def _archive(settings: environment.Configuration, way: str, path: Path) -> int:
    from .core.errors import InputError
    from .operations.accounts.photographers import local_photographer
    from .operations.notebook.archive import read_archive, write_archive
    from .store.database import open_store

    try:
        with open_store(settings.database_url, settings.files_address)() as session, session.begin():
            owner_id = local_photographer(session).id
            if way == "in":
                with open(path, "rb") as source:
                    found = read_archive(session, owner_id, source)
            else:
                # Renamed once it is complete.
                aside = path.with_name(path.name + ".part")
                with open(aside, "wb", opener=lambda name, flags: os.open(name, flags, 0o600)) as target:
                    found = write_archive(session, owner_id, target, datetime.now(UTC))
                aside.rename(path)
    except (InputError, OSError) as error:
        print(getattr(error, "message", None) or error, file=sys.stderr)
        return 1
    known = f" {found.known} rows were here already and stay as they are." if found.known else ""
    print(f"{found.rows} rows, {found.shots} shots {'read in' if way == 'in' else 'written'}.{known}")
    return 0


def _serve(settings: environment.Configuration, options: argparse.Namespace) -> int:
    # Before the application is loaded, which takes seconds.
    if refusal := _refused(settings, options):
        print(refusal, file=sys.stderr)
        return 1
    from . import watching

    if settings.log_json:
        watching.log_as_json()
    if settings.metrics_port is not None and options.listen is not None:
        watching.share_figures()
    # All loaded objects stay; scanning them for garbage takes a sixth of the time.
    gc.disable()
    from .app import create_app
    from .serving import Wire, serve_beyond, serve_on_loopback

    gc.freeze()
    gc.enable()

    if settings.forecast_url is None:
        # Without a configured service the simulated one runs beside, called over HTTP like a real one.
        from .standins.forecast_service import ForecastService

        service = ForecastService(os.environ.get("LUCID_RIDGE_FORECAST_MODE", "well"))
        settings = dataclasses.replace(settings, forecast_url=service.url, forecast_simulated=True)
    if options.listen is None:
        if settings.metrics_port is not None:
            watching.serve_figures(settings.metrics_port)
        serve_on_loopback(create_app(settings), options.port)
        return 0
    serve_beyond(
        lambda: create_app(settings),
        Wire(
            options.listen, options.port, options.certificate, options.private_key, metrics_port=settings.metrics_port
        ),
    )
    return 0


def _refused(settings: environment.Configuration, options: argparse.Namespace) -> str | None:
    """Return why it cannot be served as requested, in words; None if it can."""
    if options.listen is None:
        return None
    if settings.access is not environment.Access.ACCOUNTS:
        return "Beyond this machine it is served with accounts alone."
    if not settings.behind_proxy and (options.certificate is None or options.private_key is None):
        return "Beyond this machine it is served encrypted alone: give a certificate and its key, or name a proxy."
    return None


def _openapi() -> int:
    from .app import create_app

    app = create_app(environment.Configuration(database_url="postgresql+psycopg://"))
    with app.app_context():
        json.dump(app.spec, sys.stdout, indent=1, sort_keys=True)
    return 0
