"""Whole requests on the server with their parts, and how the notebook grows.

Run it with tools/bench; tools/bench-against COMMIT sets an older commit beside.
"""

from __future__ import annotations

import contextlib
import os
import statistics
import time
from collections import defaultdict
from collections.abc import Callable, Iterator
from typing import Any

from sqlalchemy import create_engine, event, text

from lucid_ridge.app import create_app

try:
    from lucid_ridge.configuration import from_environment
except ModuleNotFoundError:
    # As an older commit, measured beside this one, has it.
    from lucid_ridge.settings import from_environment  # type: ignore[import-not-found, no-redef]

PARTS: dict[str, float] = defaultdict(float)
GROWTH = (10, 50, 200, 400, 1000)
# Goal: under 2 s for 200 shots.
OUTLOOK, OUTLOOK_UP_TO = "/api/outlook?from_date=2026-12-09", 200


def timed(part: str, work: Callable[..., Any]) -> Callable[..., Any]:
    """Return work that adds the time it takes to a part."""

    def run(*arguments: Any, **named: Any) -> Any:
        began = time.perf_counter()
        try:
            return work(*arguments, **named)
        finally:
            PARTS[part] += time.perf_counter() - began

    return run


@contextlib.contextmanager
def instrumented(engine: Any) -> Iterator[None]:
    """Measure the time in the database, in the core's plan and in making the answer."""
    began = [0.0]
    event.listen(engine, "before_cursor_execute", lambda *_: began.__setitem__(0, time.perf_counter()))

    def ended(*_: Any) -> None:
        PARTS["SQL"] += time.perf_counter() - began[0]
        PARTS["statements"] += 1

    event.listen(engine, "after_cursor_execute", ended)
    try:
        from lucid_ridge.operations.shots import view as planning
    except ImportError:
        from lucid_ridge.api.shots.present import shots as planning  # an older commit plans where it presents
    from lucid_ridge.api.shots.present import shots as presenting

    planning.plan_shot = timed("core", planning.plan_shot)
    presenting.present_plan = timed("present", presenting.present_plan)
    yield


def times_ms(work: Callable[[], Any], rounds: int) -> tuple[float, float, dict[str, float]]:
    """Return the median, the 95th percentile and the mean of each part [ms]."""
    for _ in range(3):
        work()
    PARTS.clear()
    found = []
    for _ in range(rounds):
        began = time.perf_counter()
        work()
        found.append((time.perf_counter() - began) * 1000)
    parts = {name: seconds * 1000 / rounds for name, seconds in PARTS.items()}
    parts["statements"] = parts.get("statements", 0.0) / 1000
    return statistics.median(found), statistics.quantiles(found, n=20)[-1], parts


def grow(url: str, wanted: int) -> None:
    """Copy the demo's shots until there are so many."""
    engine = create_engine(url)
    with engine.begin() as connection:
        columns = connection.execute(
            text("select column_name from information_schema.columns where table_name = 'shot' and column_name <> 'id'")
        ).scalars()
        listed = ", ".join(f'"{name}"' for name in columns)
        there = connection.execute(text("select count(*) from shot")).scalar_one()
        while there < wanted:
            made = connection.execute(
                text(f"insert into shot ({listed}) select {listed} from shot order by id limit :left"),
                {"left": min(10, wanted - there)},
            )
            there += made.rowcount
        # Copies look elsewhere, so that no answer serves for two of them.
        connection.execute(text("update shot set bearing_deg = (id * 37) % 360 where id > 10"))
    engine.dispose()


def main() -> None:
    url = os.environ["LUCID_RIDGE_DATABASE_URL"]
    app = create_app(from_environment())
    with contextlib.suppress(ImportError):
        # An older commit has its long work in threads of its own.
        from lucid_ridge.work import make_worker

        make_worker(app.extensions["sessions"]).start()
    client = app.test_client()
    shot = next(
        item["id"]
        for item in client.get("/api/notebook").get_json()["shots"]
        if item["name"] == "Split boulder under the fell"
    )
    grouped = "frame" in client.get(f"/api/shots/{shot}").get_json()["facts"]
    numbers = iter(range(1, 100_000))

    def turn() -> None:
        values = {"f_number": 8 + next(numbers) % 8}
        answer = client.patch(f"/api/shots/{shot}", json={"depth": values} if grouped else values)
        assert answer.status_code == 200, answer.get_data(as_text=True)

    with instrumented(app.extensions["sessions"].kw["bind"]):
        print(
            f"\n{'server, one process':34}{'p50':>8}{'p95':>8}{'SQL':>8}{'core':>8}{'present':>9}{'statements':>12}   [ms]"
        )
        works = (
            ("an edit: a dial turned", turn, 120),
            ("a shot read", lambda: client.get(f"/api/shots/{shot}").get_json(), 60),
            ("the windows of its day", lambda: client.get(f"/api/shots/{shot}/day").get_json(), 20),
            ("its season", lambda: client.get(f"/api/shots/{shot}/season?from_date=2026-11-24").get_json(), 3),
        )
        for name, work, rounds in works:
            p50, p95, parts = times_ms(work, rounds)
            print(
                f"{name:34}{p50:8.1f}{p95:8.1f}{parts.get('SQL', 0):8.1f}{parts.get('core', 0):8.1f}{parts.get('present', 0):9.1f}{parts['statements']:12.0f}"
            )
        for wanted in GROWTH:
            grow(url, wanted)
            while client.get("/api/notebook").get_json().get("pending"):
                time.sleep(0.2)
            p50, p95, parts = times_ms(lambda: client.get("/api/notebook").get_json(), 5 if wanted > 50 else 12)
            print(
                f"{f'notebook of {wanted}':34}{p50:8.1f}{p95:8.1f}{parts.get('SQL', 0):8.1f}{parts.get('core', 0):8.1f}{'':9}{parts['statements']:12.0f}"
            )
            if wanted <= OUTLOOK_UP_TO and client.get(OUTLOOK).status_code == 200:
                p50, p95, parts = times_ms(lambda: client.get(OUTLOOK).get_json(), 3)
                print(
                    f"{f'which place, of {wanted} shots':34}{p50:8.1f}{p95:8.1f}{parts.get('SQL', 0):8.1f}{'':17}{parts['statements']:12.0f}"
                )


if __name__ == "__main__":
    main()
