"""The log at 100,000 frames: a page of it, its filters, an entry, its figures and what it teaches; and reading a
camera's file of 45 million pixels.

Goals: a filtered page under 200 ms, figures under 1 s, learning under 2 s; a JPEG of 45 million pixels under 1.5 s and
400 MB. Beside it stand the same log with a hundredth of that, and decoding that JPEG alone.
"""

from __future__ import annotations

import io
import multiprocessing
import statistics
import time
from collections.abc import Callable
from pathlib import Path
from typing import Any

import numpy as np
from PIL import Image
from sqlalchemy import create_engine, text

from lucid_ridge.app import create_app
from lucid_ridge.configuration import from_environment

SIZES = (50, 5000)
FRAMES_AN_ENTRY = 20
GOAL_MS = 200.0
GOALS_MS = {"all figures": 1000.0, "learning": 2000.0}
QUERIES = {
    "a page": "/api/log",
    "by look": "/api/log?look=textured",
    "by words and keeper": "/api/log?words=sill%20weir&outcome=keep",
    "the last page": "/api/log?offset={last}",
    "an entry": "/api/log/{entry}",
    "all figures": "/api/log/figures",
}


def fill(url: str, entries: int) -> None:
    """Copy the demo's entries, with frames of ticks, until there are so many."""
    engine = create_engine(url)
    with engine.begin() as connection:
        have = connection.scalar(text("select count(*) from log_entry")) or 0
        if entries > have:
            columns = [
                name
                for name in connection.scalars(
                    text("select column_name from information_schema.columns where table_name = 'log_entry'")
                )
                if name not in ("id", "run_id", "taken_at_utc")
            ]
            listed = ", ".join(f'"{name}"' for name in columns)
            connection.execute(
                text(
                    f"insert into log_entry ({listed}, taken_at_utc) select {listed}, taken_at_utc - "
                    "make_interval(hours => n) from "
                    "(select * from log_entry where run_id is not null order by id limit 16) as one, "
                    "generate_series(1, 100000) as n limit :more"
                ),
                {"more": entries - have},
            )
        connection.execute(
            text(
                "insert into log_frame (owner_id, entry_id, matched, taken_at_utc, f_number, shutter_s, iso, "
                "filters, filter_ids, hold, look, group_kind, group_number, file_name, linear,"
                " spot_means, blur_kind, curation, exposure_error_ev, streak_share, stars)"
                " select e.owner_id, e.id, 'sure', e.taken_at_utc + make_interval(secs => n), 11, 0.25, 100, "
                "'{\"version\": 1, \"value\": []}', '{\"version\": 1, \"value\": []}', 'tripod', 'textured',"
                " '', 0, '', false, '{\"version\": 1, \"value\": []}', 'sharp', 'keep', random() - 0.5, "
                "random(), 1 + n % 5"
                " from log_entry e cross join generate_series(1, :frames) as n where not exists (select 1 "
                "from log_frame f where f.entry_id = e.id)"
            ),
            {"frames": FRAMES_AN_ENTRY},
        )
    with engine.connect().execution_options(isolation_level="AUTOCOMMIT") as connection:
        connection.execute(text("analyze"))
    engine.dispose()


def median_ms(work: Callable[[], Any], rounds: int) -> float:
    """Return the median of some rounds [ms], the first left out."""
    work()
    found = []
    for _ in range(rounds):
        began = time.perf_counter()
        work()
        found.append((time.perf_counter() - began) * 1000)
    return statistics.median(found)


def main() -> None:
    settings = from_environment()
    client = create_app(settings).test_client()
    for entries in SIZES:
        fill(settings.database_url, entries)
        total = client.get("/api/log").get_json()["total"]
        entry = client.get("/api/log").get_json()["entries"][0]["id"]
        print(f"\nThe log with {total} entries, {total * FRAMES_AN_ENTRY} frames")
        for name, path in QUERIES.items():
            address = path.format(last=max(0, total - 30), entry=entry)

            def ask(address: str = address) -> None:
                answer = client.get(address)
                assert answer.status_code == 200, answer.get_data(as_text=True)

            if name == "all figures":
                began, requests = time.perf_counter(), 1
                while client.get(address).get_json()["behind"]:
                    requests += 1
                print(f"  counted after filling   {time.perf_counter() - began:7.1f} s in {requests} requests")
            say(name, median_ms(ask, 3 if name == "all figures" else 9))
        say("learning", median_ms(lambda: client.post("/api/calibrations"), 3))
    print("\nA JPEG of 45 million pixels, and decoding it alone")
    content = large_jpeg()
    for name, work in (("read and looked at", look), ("decoded alone", decode)):
        with multiprocessing.get_context("spawn").Pool(1) as pool:
            seconds, megabytes = pool.apply(in_own_process, (work, content))
        goal = (
            f"   goals 1.5 s, 400 MB{'' if seconds <= 1.5 and megabytes <= 400 else ' MISSED'}" if work is look else ""
        )
        print(f"  {name:22} {seconds:6.2f} s {megabytes:6.0f} MB more{goal}")


def say(name: str, took_ms: float) -> None:
    goal = GOALS_MS.get(name, GOAL_MS)
    print(f"  {name:22} {took_ms:8.1f} ms   goal {goal:.0f} ms{'' if took_ms <= goal else ' MISSED'}")


def large_jpeg() -> bytes:
    """Return a picture with detail of every size, 8,256 × 5,504."""
    rng = np.random.default_rng(45)
    small = rng.integers(0, 255, (688, 1032, 3), dtype=np.uint8)
    out = io.BytesIO()
    Image.fromarray(small).resize((8256, 5504), Image.Resampling.BICUBIC).save(out, "JPEG", quality=92)
    return out.getvalue()


def look(content: bytes) -> None:
    from lucid_ridge.operations.log.files import examine

    examine("large.jpg", content)


def decode(content: bytes) -> None:
    Image.open(io.BytesIO(content)).load()


def in_own_process(work: Callable[[bytes], None], content: bytes) -> tuple[float, float]:
    """Return how long work takes [s], the shortest of three, and how much memory it takes at most beside what the
    process has before [MB].
    """
    work(SMALL)
    before = _peak_mb(forget=True)
    found = []
    for _ in range(3):
        began = time.perf_counter()
        work(content)
        found.append(time.perf_counter() - began)
    return min(found), _peak_mb() - before


def _peak_mb(forget: bool = False) -> float:
    """Return the most memory this process has held [MB].

    forget: what it held before; a process begins with the peak of the one that started it.
    """
    if forget:
        Path("/proc/self/clear_refs").write_text("5")
    line = next(item for item in Path("/proc/self/status").read_text().splitlines() if item.startswith("VmHWM"))
    return int(line.split()[1]) / 1024


def _small() -> bytes:
    out = io.BytesIO()
    Image.new("RGB", (300, 200), (90, 120, 150)).save(out, "JPEG")
    return out.getvalue()


SMALL = _small()

if __name__ == "__main__":
    main()
