"""Events of the field: merging, undoing, and what a field session comes to."""

import json
from datetime import UTC, datetime, timedelta
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lucid_ridge.core.field.events import EventKind, FieldEvent, merged, standing
from lucid_ridge.core.field.run import run_of

CASES = json.loads((Path(__file__).parents[1] / "reference" / "field_events.json").read_text())["cases"]
START = datetime(2026, 6, 1, 4, tzinfo=UTC)


def event(**said):
    kind = EventKind(said.pop("kind"))
    return FieldEvent(run_id="r", at_utc=START + timedelta(seconds=said.pop("at")), kind=kind, **said)


@pytest.mark.parametrize("case", CASES, ids=lambda case: case["what"])
def test_the_cases_that_the_page_is_held_to_as_well(case):
    run = run_of("r", [event(**item) for item in case["events"]])
    assert {key: frame.taken for key, frame in run.frames.items()} == case["taken"]
    assert [key for key, frame in run.frames.items() if frame.skipped] == case["skipped"]
    assert run.next_of(["0.0.0.0", "0.0.1.0"]) == case["next"]
    assert run.late_min == case["late"]
    noted = {"set_out": run.set_out_utc, "arrived": run.arrived_utc, "ready": run.ready_utc}
    way = {kind: (moment - START).total_seconds() for kind, moment in noted.items() if moment is not None}
    assert way == case.get("way", {})
    assert [value for _, value in run.battery] == case.get("battery", [])


events = st.lists(
    st.builds(
        lambda number, device, at, kind, frame, refers: event(
            id=f"e{number}",
            device=device,
            at=at,
            kind=kind,
            frame=frame,
            refers=f"e{refers}" if kind == "undone" else None,
        ),
        st.integers(0, 30),
        st.sampled_from(["x", "y"]),
        st.integers(0, 50),
        st.sampled_from(["taken", "skipped", "again", "undone", "note"]),
        st.sampled_from(["0.0.0.0", "0.0.1.0", None]),
        st.integers(0, 30),
    ),
    unique_by=lambda item: item.id,
    max_size=25,
)


@given(events, st.randoms())
def test_the_order_of_arrival_and_sending_twice_change_nothing(log, random):
    shuffled = [*log, *log[: len(log) // 2]]
    random.shuffle(shuffled)
    assert merged(shuffled) == merged(log)
    assert run_of("r", shuffled) == run_of("r", log)


@given(events, events)
def test_merging_is_a_union(one, other):
    assert {item.id for item in merged(one, other)} == {item.id for item in one} | {item.id for item in other}
    assert merged(merged(one, other), one) == merged(one, other)


@given(events)
def test_what_stands_was_not_taken_back_by_anything_that_stands(log):
    left = {item.id for item in standing(log)}
    undone = {item.id: item.refers for item in log if item.kind == EventKind.UNDONE}
    for refers in undone.values():
        assert refers not in left or any(refers == other or key in undone.values() for key, other in undone.items())


def test_other_times_out_are_left_alone():
    mine = event(id="a", device="x", at=0, kind="taken", frame="0.0.0.0")
    other = FieldEvent("b", "other", "x", START, EventKind.TAKEN, frame="0.0.0.0")
    assert run_of("r", [mine, other]).frames["0.0.0.0"].taken == 1
