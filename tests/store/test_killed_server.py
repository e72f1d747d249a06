"""A server that is killed at random moments loses no event that it has acknowledged.

More rounds: LUCID_RIDGE_KILL_ROUNDS=100.
"""

from __future__ import annotations

import contextlib
import json
import os
import random
import socket
import subprocess
import sys
import threading
import time
import urllib.request
import uuid
from pathlib import Path

from sqlalchemy import create_engine, text

from lucid_ridge.store.database import migrate

ROUNDS = int(os.environ.get("LUCID_RIDGE_KILL_ROUNDS", "2"))
ROOT = Path(__file__).resolve().parents[2]


class Device:
    """A phone that sends its events until they are acknowledged, whatever becomes of the server."""

    def __init__(self, port: int) -> None:
        self.port, self.run_id = port, str(uuid.uuid4())
        self.events: list[dict[str, object]] = []
        self.kept: set[str] = set()
        self.stopped = threading.Event()
        self.thread = threading.Thread(target=self._live, daemon=True)

    def _live(self) -> None:
        while not self.stopped.is_set():
            if len(self.events) - len(self.kept) > 60:
                # Nobody ticks without end while the server is away.
                self.send()
                continue
            moment = f"2026-06-01T04:{len(self.events) // 60 % 60:02d}:{len(self.events) % 60:02d}Z"
            self.events.append(
                {
                    "id": str(uuid.uuid4()),
                    "run_id": self.run_id,
                    "device": "phone",
                    "at_utc": moment,
                    "kind": "taken",
                    "frame": f"0.{len(self.events)}.0.0",
                }
            )
            self.send()

    def send(self) -> None:
        waiting = [item for item in self.events if item["id"] not in self.kept][:20]
        request = urllib.request.Request(
            f"http://127.0.0.1:{self.port}/api/field/events",
            json.dumps({"events": waiting}).encode(),
            {"Content-Type": "application/json"},
            method="POST",
        )
        try:
            with urllib.request.urlopen(request, timeout=5) as answer:
                self.kept.update(json.load(answer)["kept"])
        except (OSError, ValueError):
            time.sleep(0.02)


def _start(database_url: str, port: int) -> subprocess.Popen[bytes]:
    environment = {**os.environ, "LUCID_RIDGE_DATABASE_URL": database_url, "PYTHONPATH": str(ROOT / "src")}
    return subprocess.Popen(
        [sys.executable, "-m", "lucid_ridge", "serve", "--port", str(port)],
        env=environment,
        stdout=subprocess.DEVNULL,
        stderr=subprocess.DEVNULL,
    )


def _answers(port: int) -> bool:
    with contextlib.suppress(OSError), urllib.request.urlopen(f"http://127.0.0.1:{port}/api/health", timeout=1):
        return True
    return False


def _wait(port: int) -> None:
    end = time.monotonic() + 30
    while not _answers(port):
        assert time.monotonic() < end, "the server does not come back"
        time.sleep(0.05)


def test_no_acknowledged_event_is_lost(empty_database):
    migrate(empty_database)
    with socket.socket() as free:
        free.bind(("127.0.0.1", 0))
        port = free.getsockname()[1]
    chance = random.Random(14)
    server = _start(empty_database, port)
    device = Device(port)
    try:
        _wait(port)
        device.thread.start()
        for _ in range(ROUNDS):
            time.sleep(chance.uniform(0.05, 0.6))
            server.kill()
            server.wait()
            server = _start(empty_database, port)
            _wait(port)
        device.stopped.set()
        device.thread.join(timeout=30)
        for _ in range(200):
            if len(device.kept) == len(device.events):
                break
            device.send()
    finally:
        device.stopped.set()
        server.kill()
        server.wait()
    engine = create_engine(empty_database)
    with engine.connect() as connection:
        stored = list(connection.scalars(text("select id from field_event")))
        frames = connection.scalar(text("select count(*) from log_frame"))
    engine.dispose()
    assert len(device.events) > ROUNDS
    # Each once, and none of those acknowledged is lacking; in the end all have arrived, and the log has a frame
    # for each.
    assert len(stored) == len(set(stored))
    assert device.kept <= set(stored)
    assert {item["id"] for item in device.events} == set(stored)
    assert frames == len(device.events)
