"""Files that nobody ticked: matched to the cards and plans of their day, told by hand, waiting, two cameras, archived,
and all of it undone.
"""

from __future__ import annotations

import dataclasses
from datetime import UTC, datetime, timedelta
from zoneinfo import ZoneInfo

import numpy as np
import pytest
from sqlalchemy import select

from lucid_ridge.core.field.cameras import FrameOrder
from lucid_ridge.standins.camera import write_jpeg
from lucid_ridge.store.log import LogEntry
from lucid_ridge.store.shots import FieldCard

SHOT = "Posts at the ebb"


def picture(seed):
    return np.clip(np.random.default_rng(seed).normal(0.3, 0.1, (120, 180, 3)), 0, 1)


def send(api, name, content):
    answer = api.client.post(f"/api/log/files?file_name={name}", data=content, content_type="application/octet-stream")
    assert answer.status_code == 201, answer.get_data(as_text=True)
    return answer.get_json()["frame_id"]


@dataclasses.dataclass
class Day:
    """A planned day: where it begins on the clock of the place, and its frames in order."""

    shot_id: int
    card_id: int
    begins: datetime
    frames: list
    focal_mm: float

    def files(self, api, off_s=0.0, camera="b", seed=50, frames=None, iso=None):
        """Send a file of each frame, taken as planned by a clock that is off; return their ids."""
        made = []
        for at, item in enumerate(self.frames if frames is None else frames):
            clock = (self.begins + timedelta(seconds=item["start_s"] + off_s)).replace(tzinfo=None, microsecond=0)
            order = FrameOrder(item["f_number"], item["shutter_s"], iso or item["iso"], self.focal_mm, 5.0)
            made.append(send(api, f"{camera}{at}.JPG", write_jpeg(picture(seed + at), order, clock, camera)))
        return made


@pytest.fixture
def day(api):
    """Return the card of a shot and what it plans, by the notebook's own answers."""
    shot = api.get(f"/shots/{api.shot_id(SHOT)}")
    sheet = api.get(f"/cards/{shot['card_id']}/run")["sheet"]
    zone = ZoneInfo(
        next(item["zone"] for item in api.get("/locations")["locations"] if sheet["place"].startswith(item["name"]))
    )
    frames = [
        {
            "f_number": float(item["aperture"].removeprefix("f/")),
            "shutter_s": item["shutter_s"],
            "iso": float(item["iso"]),
            "start_s": item["start_s"],
            "key": item["key"],
        }
        for item in sheet["frames"]
    ]
    begins = datetime.fromisoformat(sheet["start_utc"]).astimezone(zone)
    return Day(shot["id"], shot["card_id"], begins, frames, shot["plan"]["frame"]["focal_mm"])


def entries(api):
    return api.get("/log?limit=200")["entries"]


def new_entries(api, known):
    return [item for item in entries(api) if item["id"] not in known]


def the_new(api, known):
    (found,) = new_entries(api, known)
    return api.get(f"/log/{found['id']}")


def undo(api, scope):
    return api.call("POST", "/undo", {"scopes": [scope]})


@pytest.fixture
def known(api):
    return {item["id"] for item in entries(api)}


def test_files_of_who_worked_from_paper_are_judged_by_the_card_of_that_day(api, day, known):
    day.files(api, iso=800)
    assert api.call("POST", "/log/sort")["matched"] == len(day.frames)
    entry = the_new(api, known)
    assert (entry["shot_id"], entry["name"]) == (day.shot_id, SHOT)
    assert [frame["planned_key"] for frame in entry["frames"]] == [item["key"] for item in day.frames]
    assert {frame["matched"] for frame in entry["frames"]} == {"sure"}
    assert {frame["differs"] for frame in entry["frames"]} == {"ISO 800 instead of ISO 100"}
    # The page of pictures says what the entry says first.
    listed = next(item for item in entries(api) if item["id"] == entry["id"])
    assert listed["told"] == next(item for item in entry["findings"] if item["severity"] in ("fails", "tight"))
    assert listed["best_frame_id"] in {frame["id"] for frame in entry["frames"]}
    assert api.client.get(f"/api/log/{entry['id']}/planned").data.startswith(b"\x89PNG")
    assert [item["number"] for item in entry["strip"]["taken"]] == [1, 2, 3]
    assert all(
        0 <= item["from_share"] <= item["to_share"] <= 1 for row in ("planned", "taken") for item in entry["strip"][row]
    )
    assert any(
        "ISO 800 instead of ISO 100, 3.0 stops more exposure" in item["text"] and item["severity"] == "fails"
        for item in entry["findings"]
    )


def test_a_plan_of_another_notebook_shows_no_card_of_this_one(api, app, day, known):
    day.files(api)
    api.call("POST", "/log/sort")
    entry = the_new(api, known)
    assert entry["plan_picture"]
    # As after a merge: the plan came along, and the number of its card is that of another card here.
    with app.extensions["sessions"]() as session, session.begin():
        row = session.get_one(LogEntry, entry["id"])
        other = session.scalars(select(FieldCard).where(FieldCard.shot_id != day.shot_id)).first()
        if other is None:
            other = FieldCard(
                shot_id=api.shot_id("Layered riggs"),
                made_at_utc=datetime.now(UTC),
                inputs_hash="x",
                content={"picture": "data:image/png;base64,AAAA"},
                run=None,
            )
            session.add(other)
            session.flush()
        row.planned = {**row.planned, "card_id": other.id}
    again = api.get(f"/log/{entry['id']}")
    assert not again["plan_picture"]
    api.call("GET", f"/log/{entry['id']}/planned", None, 404)
    # Nor does one of its own shot that was planned for another time.
    with app.extensions["sessions"]() as session, session.begin():
        row = session.get_one(LogEntry, entry["id"])
        row.planned = {**row.planned, "card_id": day.card_id, "start_utc": "2020-01-01T08:00:00+00:00"}
    api.call("GET", f"/log/{entry['id']}/planned", None, 404)


def test_sorting_is_taken_back_and_done_again(api, day, known):
    day.files(api)
    before = api.get("/log")["waiting"]
    api.call("POST", "/log/sort")
    assert api.get("/log")["waiting"] == 0
    undo(api, "log")
    assert api.get("/log")["waiting"] == before
    assert new_entries(api, known) == []
    api.call("POST", "/redo", {"scopes": ["log"]})
    assert len(the_new(api, known)["frames"]) == len(day.frames)


def test_a_clock_hours_off_is_asked_about(api, day, known):
    day.files(api, off_s=-5.3 * 3600)
    found = api.call("POST", "/log/sort")
    assert (found["matched"], found["asked"]) == (0, len(day.frames))
    assert {frame["matched"] for frame in the_new(api, known)["frames"]} == {"asked"}


def test_files_of_another_day_are_of_no_plan_until_one_says_of_which(api, day, known):
    day.files(api, off_s=-9 * 86_400)
    assert api.call("POST", "/log/sort")["unplanned"] == len(day.frames)
    entry = the_new(api, known)
    assert (entry["shot_id"], entry["planned"]) == (None, [])
    told = api.call("POST", f"/log/{entry['id']}/shot", {"shot_id": day.shot_id})
    assert (told["name"], [frame["planned_key"] for frame in told["frames"]]) == (
        SHOT,
        [item["key"] for item in day.frames],
    )
    assert any("settings are as planned" in item["text"] for item in told["findings"])
    undo(api, f"log:{entry['id']}")
    again = api.get(f"/log/{entry['id']}")
    assert (again["shot_id"], {frame["planned_key"] for frame in again["frames"]}) == (None, {None})
    api.call("POST", f"/log/{entry['id']}/shot", {"shot_id": 10_000_000}, 404)


def test_other_settings_fit_no_plan(api, day, known):
    frames = [item | {"f_number": 2.8, "shutter_s": 1 / 500} for item in day.frames]
    day.files(api, frames=frames)
    assert api.call("POST", "/log/sort")["matched"] == 0
    assert the_new(api, known)["shot_id"] is None


def test_a_scan_without_a_clock_waits_until_it_is_told_its_time(api, day, known):
    order = FrameOrder(day.frames[0]["f_number"], day.frames[0]["shutter_s"], 100.0, day.focal_mm, 5.0)
    scan = send(api, "roll-7.JPG", without_clock(write_jpeg(picture(90), order, datetime(2026, 1, 1), "film")))
    api.call("POST", "/log/sort")
    (waits,) = api.get("/log/waiting")["files"]
    assert (waits["id"], waits["clock"]) == (scan, None)
    assert "says no time" in waits["why"]
    told = api.patch(f"/log/waiting/{scan}", {"clock": "2026-05-02T19:30:00"})
    assert told["files"][0]["clock"] == "2026-05-02T19:30"
    undo(api, "log")
    assert api.get("/log/waiting")["files"][0]["clock"] is None
    api.refusal("PATCH", f"/log/waiting/{scan}", {"clock": "2026-05-02T19:30:00Z"}, "clock")
    api.patch(f"/log/waiting/{scan}", {"clock": "2026-05-02T19:30:00"})
    assert api.call("POST", "/log/sort")["unplanned"] == 1
    assert the_new(api, known)["frames"][0]["file_name"] == "roll-7.JPG"


def test_a_scan_gets_a_place_in_the_order_of_an_entry(api, day, known):
    ids = day.files(api)
    api.call("POST", "/log/sort")
    entry = the_new(api, known)
    scan = send(
        api,
        "scan.JPG",
        without_clock(write_jpeg(picture(91), FrameOrder(8.0, 0.5, 100.0, 35.0, 5.0), datetime(2026, 1, 1), "film")),
    )
    api.patch(f"/log/waiting/{scan}", {"entry_id": entry["id"], "after_frame_id": ids[0]})
    assert [frame["id"] for frame in api.get(f"/log/{entry['id']}")["frames"]][:3] == [ids[0], scan, ids[1]]
    other = next(item["id"] for item in entries(api) if item["id"] != entry["id"])
    api.refusal("PATCH", f"/log/waiting/{scan}", {"entry_id": other, "after_frame_id": ids[0]}, "after_frame_id")


def without_clock(content):
    """Return a JPEG whose EXIF says nothing of its time."""
    return content.replace(b"2026:01:01 00:00:00", b"    :  :     :  :  ")


def test_a_picture_read_in_by_mistake_goes_and_comes_back(api, day, known):
    ids = day.files(api)
    api.call("POST", "/log/sort")
    entry = the_new(api, known)

    def files():
        return [frame["id"] for frame in api.get(f"/log/{entry['id']}")["frames"]]

    api.client.delete(f"/api/log/frames/{ids[1]}")
    assert files() == [ids[0], ids[2]]
    assert api.get("/log")["waiting"] == 0
    undo(api, f"log:{entry['id']}")
    assert files() == ids
    api.client.delete(f"/api/log/frames/{ids[1]}")
    # Sent again it is no longer known, and waits.
    assert day.files(api, frames=day.frames[:2])[1] == ids[1]
    assert api.get("/log")["waiting"] == 1


def test_two_bodies_have_a_clock_each(api, day, known):
    run_id = "11111111-1111-4111-8111-111111111111"
    # No two pauses are alike, so that two files of a body are enough to find its clock.
    taken = [
        item | {"start_s": start_s}
        for item, start_s in zip([day.frames[0], *day.frames], (0.0, 200.0, 700.0, 1130.0), strict=True)
    ]
    ticks = [
        {
            "id": f"22222222-2222-4222-8222-00000000000{at}",
            "run_id": run_id,
            "device": "phone",
            "kind": "taken",
            "frame": item["key"],
            "card_id": day.card_id,
            "at_utc": (day.begins + timedelta(seconds=item["start_s"] + item["shutter_s"] + 3))
            .astimezone(UTC)
            .isoformat(),
        }
        for at, item in enumerate(taken)
    ]
    api.call("POST", "/field/events", {"events": ticks})
    entry = the_new(api, known)
    one = day.files(api, off_s=4_020.0, camera="one", frames=taken[:2])
    other = day.files(api, off_s=-95.0, camera="other", seed=70, frames=taken[2:])
    api.call("POST", "/log/sort")
    by_id = {frame["id"]: frame for frame in api.get(f"/log/{entry['id']}")["frames"]}
    assert [by_id[item]["planned_key"] for item in (*one, *other)] == [item["key"] for item in taken]
    # A file that is removed gives way to its tick, and comes back in its place.
    api.client.delete(f"/api/log/frames/{other[0]}")
    ticked = [frame["planned_key"] for frame in api.get(f"/log/{entry['id']}")["frames"] if frame["matched"] == "tick"]
    assert ticked == [taken[2]["key"]]
    undo(api, f"log:{entry['id']}")
    frames = api.get(f"/log/{entry['id']}")["frames"]
    assert other[0] in {frame["id"] for frame in frames}
    assert not [frame for frame in frames if frame["matched"] == "tick"]


def test_what_is_said_of_frames_is_taken_back(api, day, known):
    ids = day.files(api)
    api.call("POST", "/log/sort")
    entry = the_new(api, known)
    scope = f"log:{entry['id']}"

    def frame(at=0):
        return next(item for item in api.get(f"/log/{entry['id']}")["frames"] if item["id"] == ids[at])

    api.patch(f"/log/frames/{ids[0]}", {"stars": 4})
    api.patch(f"/log/frames/{ids[0]}", {"curation": "drop"})
    undo(api, scope)
    assert (frame()["stars"], frame()["curation"]) == (4, "open")
    undo(api, scope)
    assert frame()["stars"] is None
    api.patch(f"/log/frames/{ids[0]}", {"planned_key": day.frames[1]["key"]})
    assert frame()["matched"] == "by hand"
    undo(api, scope)
    assert (frame()["planned_key"], frame()["matched"]) == (day.frames[0]["key"], "sure")
    measurable = next((at for at in range(len(ids)) if frame(at)["measurable"]), None)
    if measurable is not None:
        api.patch(f"/log/frames/{ids[measurable]}", {"seen_share": 0.2})
        undo(api, scope)
        assert frame(measurable)["seen_share"] is None


def test_keeping_the_sharpest_is_taken_back(api):
    riggs = next(item for item in entries(api) if item["name"] == "Layered riggs")

    def kept():
        return [frame["curation"] for frame in api.get(f"/log/{riggs['id']}")["frames"]]

    for frame in api.get(f"/log/{riggs['id']}")["frames"]:
        api.patch(
            f"/log/frames/{frame['id']}",
            {"planned_key": api.get(f"/log/{riggs['id']}")["planned"][0]["key"], "curation": "open"},
        )
    before = kept()
    api.call("POST", f"/log/{riggs['id']}/best")
    assert kept() != before
    undo(api, f"log:{riggs['id']}")
    assert kept() == before
