"""Killed at random moments: the server, the database and migrations, while one saves, imports and has long work done.

    .venv/bin/python bench/survival.py [rounds]

Nothing that was acknowledged may be lost, nothing be there by half, and all come back by itself: the server and its
database are watched by what `./start` watches them with.
"""

from __future__ import annotations

import contextlib
import json
import os
import random
import shutil
import statistics
import subprocess
import sys
import tempfile
import threading
import time
import urllib.error
import urllib.request
import uuid
from collections import Counter
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

sys.path.insert(0, str(Path(__file__).resolve().parent.parent / "tools"))

import notebook
import start
from environment import PYTHON
from postgres import Cluster

ROUNDS = int(sys.argv[1]) if len(sys.argv) > 1 else 100
SEED = 14
# So long after a kill all must answer again [s].
PATIENCE_S = 60.0
OLD_REVISION = "0005"
_PLACES = 3


class Client:
    """What a browser sends; nothing is believed to be kept but what was answered."""

    def __init__(self, port: int) -> None:
        self.address = f"http://127.0.0.1:{port}/api"

    def ask(self, method: str, path: str, body: object = None) -> Any:
        """Return the answer. Raises OSError or ValueError where none came, or one that is no success."""
        content = body if isinstance(body, bytes) else None if body is None else json.dumps(body).encode()
        kind = "application/octet-stream" if isinstance(body, bytes) else "application/json"
        request = urllib.request.Request(self.address + path, content, {"Content-Type": kind}, method=method)
        with urllib.request.urlopen(request, timeout=20) as answer:
            return json.loads(answer.read() or "null")


class Hand(threading.Thread):
    """Somebody at work all the time. sent, kept: what was asked for, and what of it was acknowledged."""

    def __init__(self, client: Client, work: Any) -> None:
        super().__init__(daemon=True)
        self.client, self.work = client, work
        self.sent: list[Any] = []
        self.kept: list[Any] = []
        self.refused: Counter[int] = Counter()
        self.over = threading.Event()

    def run(self) -> None:
        while not self.over.is_set():
            try:
                self.work(self)
            except urllib.error.HTTPError as error:
                self.refused[error.code] += 1
                time.sleep(0.05)
            except (OSError, ValueError):
                # Nobody answers.
                time.sleep(0.05)


def saving(shot_id: int) -> Any:
    """Turn a shot's tilt on and on."""

    def work(hand: Hand) -> None:
        value = (len(hand.sent) + 1) / 1000
        hand.sent.append(value)
        hand.client.ask("PATCH", f"/shots/{shot_id}", {"frame": {"pitch_deg": value}})
        hand.kept.append(value)

    return work


def counting(card_id: int) -> Any:
    """Take frame after frame in the field, each with a countdown that starts, stops or ends, as a phone sends it."""
    run_id = str(uuid.uuid4())

    def work(hand: Hand) -> None:
        kinds = ("countdown_started", "countdown_stopped" if len(hand.sent) % 4 else "countdown_started", "taken")
        events = [
            {
                "id": str(uuid.uuid4()),
                "run_id": run_id,
                "device": "phone",
                "kind": kind,
                "card_id": card_id,
                "frame": "0.0.0.0",
                "value": 1.0,
                "at_utc": datetime.now(UTC).isoformat(),
            }
            for kind in kinds
        ]
        for event in events:
            hand.sent.append(event["id"])
            hand.kept += hand.client.ask("POST", "/field/events", {"events": [event]})["kept"]
            time.sleep(0.02)

    work.run_id = run_id
    return work


def importing(hand: Hand) -> None:
    """Make locations of files."""
    name = f"Imported {len(hand.sent)}"
    hand.sent.append(name)
    rows = "".join(f"Point {at},{55 + at / 100},{-3 - at / 100}\n" for at in range(_PLACES))
    hand.client.ask(
        "POST",
        f"/locations/import?file_name={urllib.request.quote(name)}.csv",
        f"name,latitude,longitude\n{rows}".encode(),
    )
    hand.kept.append(name)
    time.sleep(0.1)


def asking(viewpoint_id: int) -> Any:
    """Have a skyline worked out again and again."""

    def work(hand: Hand) -> None:
        hand.sent.append(len(hand.sent))
        job = hand.client.ask("POST", f"/viewpoints/{viewpoint_id}/skyline/compute")["id"]
        hand.kept.append(job)
        while not hand.over.is_set() and hand.client.ask("GET", f"/jobs/{job}")["state"] in ("waiting", "running"):
            time.sleep(0.05)

    return work


def grid() -> bytes:
    """Return an elevation grid around the first viewpoint of the demo, large enough that a skyline takes its time."""
    side = 400
    rows = [" ".join(str(100 + (row * 7 + column * 13) % 400) for column in range(side)) for row in range(side)]
    head = f"ncols {side}\nnrows {side}\nxllcorner {{west}}\nyllcorner {{south}}\ncellsize 0.001\nNODATA_value -9999\n"
    return (head + "\n".join(rows) + "\n").encode()


def backends(cluster: Cluster) -> list[int]:
    """Return the processes that serve connections to the notebook."""
    found = cluster.sql_in("postgres", f"select pid from pg_stat_activity where datname = '{notebook.DATABASE}'")
    return [int(item) for item in found.split()]


def kill(what: str, server: start.Server, cluster: Cluster, chance: random.Random) -> None:
    with contextlib.suppress(ProcessLookupError):
        if what == "server":
            server.process.kill()
        elif what == "database":
            pid = cluster._server_pid()
            if pid is not None:
                os.kill(pid, 9)
        elif what == "connection":
            os.kill(chance.choice(backends(cluster)), 9)


def back(client: Client, shot_id: int) -> None:
    """Wait until the notebook is read and written again."""
    until = time.monotonic() + PATIENCE_S
    while True:
        try:
            client.ask("GET", f"/shots/{shot_id}")
            client.ask("GET", "/notebook")
            return
        except (OSError, ValueError):
            assert time.monotonic() < until, "it does not come back"
            time.sleep(0.02)


def migrate_killed(cluster: Cluster, chance: random.Random, number: int) -> bool:
    """Bring an older notebook up to date, kill that, and do it again; whether it was killed before it was done."""
    name = f"older_{number}"
    cluster.create_database(name, "older")
    environment = notebook.environment(cluster, name)
    before = cluster.sql_in(name, "select name || orientation from shot order by id").strip()
    process = subprocess.Popen(
        [PYTHON, "-m", "lucid_ridge", "prepare", "--no-demo"], env=environment, stdout=subprocess.DEVNULL
    )
    time.sleep(chance.uniform(0.8, 3.0))
    process.kill()
    killed = process.wait() != 0
    # As at the next ./start.
    notebook._fill(cluster, name, no_demo=True)
    assert notebook.schema(cluster, name).startswith("current")
    after = cluster.sql_in(name, "select name || orientation from shot order by id").strip()
    assert (before, after) == ("Shotupright", "Shotportrait"), (before, after)
    cluster.drop_database(name)
    return killed


def main() -> None:
    chance = random.Random(SEED)
    scratch = Path(tempfile.mkdtemp(prefix="lucid-ridge-survival-"))
    scratch.chmod(0o711)
    cluster = Cluster(scratch / "data")
    server = None
    try:
        cluster.create()
        cluster.start()
        cluster.create_database(notebook.DATABASE)
        notebook._fill(cluster, notebook.DATABASE, no_demo=False)
        older(cluster)
        port = start.free_port()
        environment = notebook.environment(cluster)
        server = start.Server([str(PYTHON), "-m", "lucid_ridge", "serve", "--port", str(port)], environment)
        start.WATCH_S = 0.2
        # Here it is meant to be killed all the time.
        start.KILLED_MOST = ROUNDS + 1
        watching = threading.Thread(target=start.watch, args=(server, cluster), daemon=True)
        watching.start()
        survive(Client(port), server, cluster, chance)
        server.end()
        watching.join(30)
    finally:
        if server is not None and server.poll() is None:
            server.process.kill()
        cluster.stop()
        shutil.rmtree(scratch, ignore_errors=True)


def older(cluster: Cluster) -> None:
    """Make a filled notebook of an older version, to copy from."""
    cluster.create_database("older")
    script = (
        "import os, sys; sys.path.insert(0, 'tests/store')\n"
        "from alembic import command; from sqlalchemy import create_engine\n"
        "from lucid_ridge.store.database import alembic_config; from test_filled_migrations import _fill\n"
        "url = os.environ['LUCID_RIDGE_DATABASE_URL']; command.upgrade(alembic_config(url), "
        f"'{OLD_REVISION}'); _fill(create_engine(url))\n"
    )
    subprocess.run([PYTHON, "-c", script], env=notebook.environment(cluster, "older"), cwd=notebook.ROOT, check=True)


def survive(client: Client, server: start.Server, cluster: Cluster, chance: random.Random) -> None:
    shots = first_answer(client, "/notebook")["shots"]
    location = client.ask("GET", "/locations")["locations"][0]
    corner = {"west": round(location["longitude_deg"] - 0.2, 3), "south": round(location["latitude_deg"] - 0.2, 3)}
    client.ask(
        "POST", f"/locations/{location['id']}/grid?file_name=survival.asc", grid().decode().format(**corner).encode()
    )
    shot_ids = [item["id"] for item in shots[:3]]
    savers = [Hand(client, saving(shot_id)) for shot_id in shot_ids]
    importer, asker = Hand(client, importing), Hand(client, asking(location["viewpoints"][0]["id"]))
    card_id = next(
        client.ask("GET", f"/shots/{item['id']}")["card_id"] for item in shots if item["name"] == "Posts at the ebb"
    )
    outside = Hand(client, counting(card_id))
    hands = [*savers, importer, asker, outside]
    for hand in hands:
        hand.start()
    killed: Counter[str] = Counter()
    away_s = []
    for number in range(ROUNDS):
        time.sleep(chance.uniform(0.1, 1.2))
        what = chance.choices(("server", "database", "connection", "migration"), (4, 3, 2, 2))[0]
        began = time.monotonic()
        if what == "migration":
            if migrate_killed(cluster, chance, number):
                killed[what] += 1
            continue
        kill(what, server, cluster, chance)
        killed[what] += 1
        back(client, shot_ids[0])
        away_s.append(time.monotonic() - began)
        print(f"\r{number + 1} of {ROUNDS}", end="", flush=True)
    for hand in hands:
        hand.over.set()
    for hand in hands:
        hand.join(30)
    report(
        client=client,
        savers=savers,
        shot_ids=shot_ids,
        importer=importer,
        asker=asker,
        outside=outside,
        killed=killed,
        away_s=away_s,
    )


def first_answer(client: Client, path: str) -> Any:
    for _ in range(300):
        with contextlib.suppress(OSError, ValueError):
            return client.ask("GET", path)
        time.sleep(0.1)
    raise SystemExit("The server does not begin.")


def report(
    client: Client,
    savers: list[Hand],
    shot_ids: list[int],
    importer: Hand,
    asker: Hand,
    outside: Hand,
    killed: Counter[str],
    away_s: list[float],
) -> None:
    lost = 0
    for hand, shot_id in zip(savers, shot_ids, strict=True):
        value = client.ask("GET", f"/shots/{shot_id}")["facts"]["frame"]["pitch_deg"]
        # The last that was acknowledged, or one sent after it whose answer did not arrive.
        lost += not (hand.kept and value in hand.sent and value >= hand.kept[-1])
    places = {row["name"]: len(row["viewpoints"]) for row in client.ask("GET", "/locations")["locations"]}
    names = [row["name"] for row in client.ask("GET", "/locations")["locations"] if row["name"].startswith("Imported")]
    lost += sum(name not in places for name in importer.kept)
    by_half = sum(places[name] != _PLACES for name in names)
    twice = len(names) - len(set(names))
    events = [item["id"] for item in client.ask("GET", f"/field/runs/{outside.work.run_id}")["events"]]
    lost += len(set(outside.kept) - set(events))
    twice += len(events) - len(set(events))
    states: Counter[str] = Counter()
    for job in asker.kept:
        states[ended(client, job)] += 1
    refused = sum((hand.refused for hand in (*savers, importer, asker, outside)), Counter())
    print(f"\nkilled: {', '.join(f'{what} {times}' for what, times in sorted(killed.items()))}")
    print(
        f"acknowledged: {sum(len(hand.kept) for hand in savers)} edits, {len(importer.kept)} imports, "
        f"{len(outside.kept)} events of the field, {len(asker.kept)} jobs ({dict(states)})"
    )
    print(f"answers that were no success meanwhile: {dict(refused)}")
    away = sorted(away_s)
    print(f"away: median {statistics.median(away):.1f} s, longest {away[-1]:.1f} s")
    print(f"lost: {lost}; there by half: {by_half}; twice: {twice}")
    assert not (lost or by_half or twice)
    assert set(states) <= {"done", "failed"}
    assert min(len(hand.kept) for hand in (*savers, importer, asker, outside)) > 0


def ended(client: Client, job: int) -> str:
    """Wait until a job has ended; return how."""
    until = time.monotonic() + PATIENCE_S
    while True:
        state = str(client.ask("GET", f"/jobs/{job}")["state"])
        if state not in ("waiting", "running"):
            return state
        assert time.monotonic() < until, f"job {job} does not end"
        time.sleep(0.1)


if __name__ == "__main__":
    main()
