"""How fast the core and the interface are, each beside a plain reference in the same run. Run it with tools/bench.

Prints medians in milliseconds; machines are noisy, so nothing here fails.
"""

from __future__ import annotations

import dataclasses
import json
import math
import statistics
import time
from collections.abc import Callable
from datetime import UTC, date, datetime, timedelta

import ephem
import numpy as np

from lucid_ridge.core.exposure.ev import ev100_from_illuminance
from lucid_ridge.core.light.day import light_curve
from lucid_ridge.core.light.illuminance import sun_illuminance_lux
from lucid_ridge.core.light.track import _track
from lucid_ridge.core.optics.depth import blur_diameter_mm
from lucid_ridge.core.planning.depth import FocusPosition
from lucid_ridge.core.planning.facts import Body, Element, Filter, Lens, Location, ShotFacts
from lucid_ridge.core.planning.plan import plan_shot
from lucid_ridge.core.planning.sequence import Overheads, build_sequence
from lucid_ridge.core.planning.tonal_range import Exposure

PLACE = (54.55, -3.10, 10.0)
START = datetime(2026, 11, 24, tzinfo=UTC)
END = START + timedelta(days=1)


def median_ms(work: Callable[[], object], runs: int = 15) -> float:
    """Return the median time of a call [ms]; the first, which may load things, does not count."""
    work()
    times = []
    for _ in range(runs):
        began = time.perf_counter()
        work()
        times.append((time.perf_counter() - began) * 1000)
    return statistics.median(times)


def depth_curve() -> object:
    return blur_diameter_mm(24, 16, np.array([[358.0], [589.0], [1751.0]]), np.geomspace(250, 1e6, 1000)[None, :]).min(axis=0)


def depth_curve_reference() -> object:
    """The same point by point in plain Python."""
    result = []
    for distance in np.geomspace(250, 1e6, 1000).tolist():
        other = 24 * distance / (distance - 24)
        result.append(min(1.5 * abs(24 * focus / (focus - 24) - other) / other for focus in (358.0, 589.0, 1751.0)))
    return result


def day_of_light() -> object:
    _track.cache_clear()
    return light_curve(*PLACE, START, END)


def day_of_light_reference() -> object:
    """ephem asked once a minute."""
    observer, sun = ephem.Observer(), ephem.Sun()
    observer.lat, observer.lon, observer.pressure = str(PLACE[0]), str(PLACE[1]), 0
    result = []
    for minute in range(1440):
        observer.date = (START + timedelta(minutes=minute)).replace(tzinfo=None)
        sun.compute(observer)
        result.append(ev100_from_illuminance(sun_illuminance_lux(math.degrees(sun.alt))))
    return result


POSITIONS = [FocusPosition(0.3 + n, 0.35 + n, 0.2 + n, 0.5 + n) for n in range(20)]
EXPOSURES = [Exposure(0.25 * 4**n, 2.0 * n, 0.0, 11.0) for n in range(3)]


def sequence() -> object:
    return build_sequence(POSITIONS, EXPOSURES, 16, 100, ("ten",), Overheads())


def sequence_reference() -> object:
    """The same as bare tuples."""
    clock, frames = 0.0, []
    for position in POSITIONS:
        clock += 5
        for exposure in EXPOSURES:
            frames.append((position.object_distance_m, exposure.shutter_s, clock + 2))
            clock += 2 + exposure.shutter_s + 0.5
    return frames


FACTS = ShotFacts(
    location=Location("Estuary", 54.53, -3.21, 4, "Europe/London"),
    viewpoint_name="Bank",
    elements=(Element(1, "Stone", "boulder", 233, 0.3, 0.2, 0.15), Element(2, "Shore", "ridge", 233, 2400, 2600, 140)),
    date_local=date(2026, 11, 25),
    time_utc=datetime(2026, 11, 25, 15, 25, tzinfo=UTC),
    body=Body(1, "Body", 36, 24, 8256, 5504, 100, 25600, 1 / 8192, 32, True, 11, 9, 3),
    lens=Lens(1, "Zoom", 24, 70, 2.8, 22.6, 280, 8),
    focal_mm=24,
    sharp_element_ids=frozenset({1, 2}),
    f_number=16,
    metered_f_number=16,
    metered_shutter_s=0.125,
    metered_iso=100,
    wanted_shutter_s=120,
    filters=tuple(Filter(n, f"{n} stops", "neutral density", n) for n in (3, 6, 10)),
)


def plan() -> object:
    return plan_shot(dataclasses.replace(FACTS, iso=200))


def server() -> list[tuple[str, float]]:
    """Time whole requests against a database given by the environment, if there is one."""
    from lucid_ridge.app import create_app
    from lucid_ridge.settings import from_environment

    client = create_app(from_environment()).test_client()
    shot = next(item["id"] for item in client.get("/api/notebook").get_json()["shots"] if item["date_local"])
    values = iter(range(10_000))

    def turn() -> object:
        return client.patch(
            f"/api/shots/{shot}", data=json.dumps({"f_number": 8 + next(values) % 8}), content_type="application/json"
        ).get_json()

    def read() -> object:
        return client.get(f"/api/shots/{shot}").get_json()

    def notebook() -> object:
        return client.get("/api/notebook").get_json()

    return [
        ("a dial turned, saved and planned", median_ms(turn, 40)),
        ("a shot read", median_ms(read)),
        ("the notebook", median_ms(notebook)),
    ]


def main() -> None:
    rows = (
        ("blur over 1,000 distances, 3 positions", depth_curve, depth_curve_reference, 50),
        ("light over 1,440 min with the sun", day_of_light, day_of_light_reference, 50),
        ("sequence of 60 frames", sequence, sequence_reference, 50),
        ("whole plan of a shot", plan, None, 30),
    )
    print(f"{'core':44}{'here':>10}{'reference':>12}{'goal':>8}   [ms, median]")
    for name, work, reference, goal in rows:
        shown = f"{median_ms(reference, 5):12.2f}" if reference else f"{'–':>12}"
        print(f"{name:44}{median_ms(work):10.2f}{shown}{goal:8}")
    print(f"\n{'server, with PostgreSQL':44}{'here':>10}{'':12}{'goal':>8}")
    for name, milliseconds in server():
        print(f"{name:44}{milliseconds:10.2f}{'':12}{30 if 'dial' in name else '':>8}")


if __name__ == "__main__":
    main()
