"""Many photographers at once: 1,000 of them with 200 shots each, 50 at their dials.

Run it with tools/on_demo.py bench/load.py.
"""

from __future__ import annotations

import hashlib
import http.client
import json
import os
import statistics
import subprocess
import sys
import threading
import time
from collections import Counter

from sqlalchemy import Table, create_engine, text

from lucid_ridge.store.tables import Base

PHOTOGRAPHERS, SHOTS_EACH, AT_ONCE = int(os.environ.get("LUCID_RIDGE_PHOTOGRAPHERS", "1000")), 200, 50
SECONDS = 20.0
# Ids of the copies lie so far apart, by photographer and by copy of a shot.
_APART, _SHOTS_APART = 10_000, 100
_PLAIN = ("location", "viewpoint", "element", "body", "lens", "support", "filter", "accessory")
_OF_SHOTS = ("shot", "shot_filter", "shot_sharp_element", "shot_accessory")
_NAME = "load.example"


def copy_of(table: Table, shots: bool) -> str:
    """Return SQL that copies the demo's rows of a table for every photographer, and of shots as many times as it
    takes.
    """
    said = []
    for column in table.columns:
        targets = {key.column.table.name for key in column.foreign_keys}
        own_id = column.name == "id"
        of_shot = "shot" in targets or (own_id and table.name == "shot")
        if "photographer" in targets:
            value = "o.id + k.n"
        elif of_shot:
            value = f't."{column.name}" + k.n * {_APART} + m.n * {_SHOTS_APART}'
        elif own_id or targets & set(_PLAIN):
            value = f't."{column.name}" + k.n * {_APART}'
        elif targets:
            value = "null"
        else:
            value = f't."{column.name}"'
        said.append((f'"{column.name}"', value))
    copies = f" cross join generate_series(0, {SHOTS_EACH // 10 - 1}) m(n)" if shots else ""
    kept = " where t.id <= 10" if table.name == "shot" else " where t.shot_id <= 10" if shots else ""
    return (
        f"insert into {table.name} ({', '.join(name for name, _ in said)}) select "
        f"{', '.join(value for _, value in said)}"
        f" from {table.name} t cross join (select min(id) id from photographer) o cross join "
        f"generate_series(1, {PHOTOGRAPHERS}) k(n){copies}{kept}"
    )


def fill(url: str) -> list[tuple[str, int]]:
    """Make the photographers with their notebooks and accounts; return a cookie's token and a shot for each of those
    who work at once.
    """
    engine = create_engine(url)
    tables = Base.metadata.tables
    with engine.begin() as connection:
        first = connection.execute(text("select min(id) from photographer")).scalar_one()
        connection.execute(
            text(
                "insert into photographer (id, name, theme) select :first + n, 'P' || n, 'graphite' from "
                "generate_series(1, :many) n"
            ),
            {"first": first, "many": PHOTOGRAPHERS},
        )
        for name in _PLAIN + _OF_SHOTS:
            connection.execute(text(copy_of(tables[name], name in _OF_SHOTS)))
        tokens = [(f"token-{number}", first + number) for number in range(1, AT_ONCE + 1)]
        for at, (token, owner) in enumerate(tokens, 1):
            connection.execute(
                text(
                    "insert into account (id, owner_id, name, password, made_at_utc) values (:at, :owner, "
                    ":name, 'x', now())"
                ),
                {"at": at, "owner": owner, "name": f"P{at}"},
            )
            digest = hashlib.sha256(token.encode()).hexdigest()
            connection.execute(
                text(
                    "insert into sign_in (account_id, token_digest, began_at_utc, seen_at_utc) values (:at, "
                    ":digest, now(), now())"
                ),
                {"at": at, "digest": digest},
            )
        shots = connection.execute(text("select count(*) from shot")).scalar_one()
    with engine.connect().execution_options(isolation_level="AUTOCOMMIT") as connection:
        connection.execute(text("analyze"))
    print(f"{PHOTOGRAPHERS} photographers, {shots} shots")
    return [(token, 2 + number * _APART) for number, (token, _) in enumerate(tokens, 1)]


def hand(
    port: int, token: str, shot: int, pause_s: float, until: float, times: list[float], seen: Counter[int]
) -> None:
    """Turn a dial until the time is over."""
    connection = http.client.HTTPConnection("127.0.0.1", port, timeout=60)
    told = {
        "Host": _NAME,
        "Cookie": f"__Host-lucid-ridge={token}",
        "Origin": f"https://{_NAME}",
        "Content-Type": "application/json",
        "X-Forwarded-Proto": "https",
        "X-Forwarded-Host": _NAME,
        "X-Forwarded-For": "192.0.2.1",
    }
    turn = 0
    while time.monotonic() < until:
        began = time.monotonic()
        connection.request("PATCH", f"/api/shots/{shot}", json.dumps({"depth": {"f_number": 8 + turn % 8}}), told)
        answer = connection.getresponse()
        body = answer.read()
        if answer.status != 200 and not seen[answer.status]:
            print(answer.status, body[:200].decode())
        seen[answer.status] += 1
        times.append((time.monotonic() - began) * 1000)
        turn += 1
        time.sleep(max(0.0, pause_s - (time.monotonic() - began)))


def main() -> None:
    people = fill(os.environ["LUCID_RIDGE_DATABASE_URL"])
    port = 48_219
    environment = os.environ | {
        "LUCID_RIDGE_ACCESS": "accounts",
        "LUCID_RIDGE_HOSTS": _NAME,
        "LUCID_RIDGE_BEHIND_PROXY": "1",
    }
    server = subprocess.Popen(
        [sys.executable, "-m", "lucid_ridge", "serve", "--port", str(port), "--listen", "127.0.0.1"], env=environment
    )
    try:
        time.sleep(10)
        print(
            f"\n{f'{os.cpu_count()} processors, two processes of six threads':52}{'p50':>8}{'p95':>8}{'a second':>10}{'refused':>9}   [ms]"
        )
        for name, hands, pause in (
            ("one hand, as fast as it is answered", 1, 0.0),
            (f"{AT_ONCE} hands, a turn every 2 s each", AT_ONCE, 2.0),
            (f"{AT_ONCE} hands, as fast as they are answered", AT_ONCE, 0.0),
        ):
            times: list[float] = []
            seen: Counter[int] = Counter()
            until = time.monotonic() + SECONDS
            threads = [
                threading.Thread(target=hand, args=(port, *people[at], pause, until, times, seen))
                for at in range(hands)
            ]
            for thread in threads:
                thread.start()
                time.sleep(pause / hands if pause else 0)
            for thread in threads:
                thread.join()
            refused = sum(count for status, count in seen.items() if status != 200)
            print(
                f"{name:52}{statistics.median(times):8.0f}{statistics.quantiles(times, n=20)[-1]:8.0f}{len(times) / SECONDS:10.1f}{refused:9d}"
            )
    finally:
        server.terminate()
        server.wait()


if __name__ == "__main__":
    main()
