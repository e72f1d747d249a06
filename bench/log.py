"""The log at 100,000 frames: a page of it, its filters, an entry and its figures. Goal: a filtered page under 200 ms. Beside it stands the same log with a hundredth of that."""

from __future__ import annotations

import statistics
import time
from collections.abc import Callable
from typing import Any

from sqlalchemy import create_engine, text

from lucid_ridge.app import create_app
from lucid_ridge.configuration import from_environment

SIZES = (50, 5000)
FRAMES_AN_ENTRY = 20
GOAL_MS = 200.0
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
                for name in connection.scalars(text("select column_name from information_schema.columns where table_name = 'log_entry'"))
                if name not in ("id", "run_id", "taken_at_utc")
            ]
            listed = ", ".join(f'"{name}"' for name in columns)
            connection.execute(
                text(
                    f"insert into log_entry ({listed}, taken_at_utc) select {listed}, taken_at_utc - make_interval(hours => n) from "
                    "(select * from log_entry where run_id is not null order by id limit 16) as one, generate_series(1, 100000) as n limit :more"
                ),
                {"more": entries - have},
            )
        connection.execute(
            text(
                "insert into log_frame (owner_id, entry_id, matched, taken_at_utc, f_number, shutter_s, iso, filters, filter_ids, hold, look, group_kind, group_number, file_name, linear,"
                " spot_means, blur_kind, curation, exposure_error_ev, streak_share, stars)"
                " select e.owner_id, e.id, 'sure', e.taken_at_utc + make_interval(secs => n), 11, 0.25, 100, '{\"version\": 1, \"value\": []}', '{\"version\": 1, \"value\": []}', 'tripod', 'textured',"
                " '', 0, '', false, '{\"version\": 1, \"value\": []}', 'sharp', 'keep', random() - 0.5, random(), 1 + n % 5"
                " from log_entry e cross join generate_series(1, :frames) as n where not exists (select 1 from log_frame f where f.entry_id = e.id)"
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

            took = median_ms(ask, 3 if name == "all figures" else 9)
            goal = "" if name == "all figures" else f"   goal {GOAL_MS:.0f} ms{'' if took <= GOAL_MS else ' MISSED'}"
            print(f"  {name:22} {took:8.1f} ms{goal}")


main()
