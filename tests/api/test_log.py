"""The log over HTTP: entries by hand, found again, files read in, judged and taken out, lessons switched, recipes and
practice.
"""

from __future__ import annotations

import csv
import io
import json
import uuid
import zipfile
from datetime import datetime
from xml.etree import ElementTree

import numpy as np
import pytest

from lucid_ridge.core.field.cameras import FrameOrder
from lucid_ridge.operations.log import digests as log_digests
from lucid_ridge.standins.camera import write_dng, write_jpeg

CLOCK = datetime(2025, 2, 3, 7, 30)


def picture(seed=1):
    return np.clip(np.random.default_rng(seed).normal(0.3, 0.1, (120, 180, 3)), 0, 1)


def send(api, name, content, expect=201):
    answer = api.client.post(f"/api/log/files?file_name={name}", data=content, content_type="application/octet-stream")
    assert answer.status_code == expect, answer.get_data(as_text=True)
    return answer.get_json()


def order(shutter_s=1 / 60):
    return FrameOrder(8.0, shutter_s, 100.0, 35.0, 5.0)


def entry_named(api, name):
    return next(item for item in api.get("/log")["entries"] if item["name"] == name)


def test_an_entry_by_hand_is_found_changed_and_put_away(api):
    made = api.post(
        "/log",
        {"name": "Rime on the fence", "taken_at_utc": "2026-01-03T08:10:00Z", "words": "cold fingers", "joy_stars": 5},
    )
    assert entry_named(api, "Rime on the fence")["joy_stars"] == 5
    for words in ("rime", "cold fing", "fence rime"):
        assert [item["id"] for item in api.get(f"/log?words={words}")["entries"]] == [made["id"]]
    # What stands for any letter elsewhere is a letter here.
    assert api.get("/log?words=%25")["entries"] == []
    changed = api.patch(f"/log/{made['id']}", {"outcome": "keep", "went_wrong": ["shake", "shake"], "water_stars": 3})
    assert (changed["outcome"], changed["went_wrong"], changed["water_stars"]) == ("keep", ["shake"], 3)
    api.call("POST", "/undo", {"scopes": [f"log:{made['id']}"]})
    assert api.get(f"/log/{made['id']}")["outcome"] == "open"
    api.patch(f"/log/{made['id']}", {"archived": True})
    assert all(item["id"] != made["id"] for item in api.get("/log")["entries"])
    assert [item["id"] for item in api.get("/log?archived=true")["entries"]] == [made["id"]]


@pytest.mark.parametrize(
    ("body", "field"),
    [
        ({"joy_stars": 6}, "joy_stars"),
        ({"went_wrong": ["bad luck"]}, "went_wrong.0"),
        ({"cloud_share": 2}, "cloud_share"),
        ({"name": " "}, "name"),
        ({"taken_at_utc": "soon"}, "taken_at_utc"),
        ({"shot_id": 10_000_000}, "shot_id"),
        ({"mood": "good"}, "mood"),
    ],
)
def test_odd_words_are_refused_at_their_field(api, body, field):
    api.refusal("POST", "/log", {"name": "x", "taken_at_utc": "2026-01-03T08:10:00Z"} | body, field)


def test_the_demos_log_is_found_by_what_one_remembers(api):
    whole = api.get("/log")
    assert whole["total"] == 16
    for name, query in (("look", "look"), ("subject", "subject"), ("lens", "lens"), ("light", "light")):
        for value in whole["kinds"][name]:
            found = api.call("GET", f"/log?{query}={value}")
            assert 0 < found["total"] < 16
    place = next(item["id"] for item in api.get("/locations")["locations"] if item["name"] == "Tern Weir")
    assert api.get(f"/log?location_id={place}")["total"] == 4
    assert sum(api.get(f"/log?outcome={outcome}")["total"] for outcome in ("open", "keep", "maybe", "drop")) == 16
    assert len(api.get("/log?limit=5&offset=14")["entries"]) == 2


def test_files_are_read_once_sorted_and_shown(api):
    jpeg, dng = (
        write_jpeg(picture(), order(), CLOCK, "b"),
        write_dng(picture(2), order(0.5), CLOCK.replace(minute=31), "b"),
    )
    first = send(api, "A.JPG", jpeg)
    assert send(api, "again.jpg", jpeg) == {"frame_id": first["frame_id"], "known": True, "file_name": "A.JPG"}
    send(api, "B.DNG", dng)
    assert api.get("/log")["waiting"] == 2
    found = api.call("POST", "/log/sort")
    assert (found["matched"], found["unplanned"]) == (0, 2)
    entry = entry_named(api, "Unplanned, 2 frames")
    frames = api.get(f"/log/{entry['id']}")["frames"]
    assert [frame["shutter"] for frame in frames] == ["1/60", "0.5 s" if frames[1]["shutter"] == "0.5 s" else "1/2"]
    preview = api.client.get(f"/api/log/frames/{frames[0]['id']}/preview")
    assert preview.data.startswith(b"\xff\xd8\xff")


@pytest.mark.parametrize(
    ("name", "content"),
    [("A.JPG", b""), ("A.JPG", b"\xff\xd8\xffx"), ("A.exe", b"MZ"), ("A.DNG", b"II*\0" + b"\0" * 90)],
)
def test_what_is_no_picture_is_refused_and_nothing_is_kept(api, name, content):
    before = api.get("/log")["waiting"]
    answer = send(api, name, content, expect=422)
    assert answer["error"]["message"]
    assert api.get("/log")["waiting"] == before


def test_a_file_is_placed_by_hand(api):
    posts = next(item for item in api.get("/log")["entries"] if item["name"] == "Posts at the ebb")
    entry = api.get(f"/log/{posts['id']}")
    frame = next(item for item in entry["frames"] if item["planned_key"])
    other = next(item["key"] for item in entry["planned"] if item["key"] != frame["planned_key"])
    api.patch(f"/log/frames/{frame['id']}", {"planned_key": other, "stars": 4, "curation": "keep"})
    now = next(item for item in api.get(f"/log/{posts['id']}")["frames"] if item["id"] == frame["id"])
    assert (now["planned_key"], now["matched"], now["stars"], now["curation"]) == (other, "by hand", 4, "keep")
    api.patch(f"/log/frames/{frame['id']}", {"planned_key": None})
    assert (
        next(item for item in api.get(f"/log/{posts['id']}")["frames"] if item["id"] == frame["id"])["planned_key"]
        is None
    )
    api.refusal("PATCH", f"/log/frames/{frame['id']}", {"planned_key": "9.9.9.9"}, "planned_key")
    api.call("PATCH", "/log/frames/999999", {"stars": 1}, 404)


def test_a_frame_skipped_in_the_field_is_not_missing_among_the_files(api):
    known = {item["id"] for item in api.get("/log")["entries"]}
    shot = api.get(f"/shots/{api.shot_id('Posts at the ebb')}")
    run_id, device = str(uuid.uuid4()), "phone"

    def event(kind, key, minute):
        at = f"2026-06-01T04:{minute:02}:00Z"
        return {
            "id": str(uuid.uuid4()),
            "run_id": run_id,
            "device": device,
            "at_utc": at,
            "kind": kind,
            "frame": key,
            "card_id": shot["card_id"],
        }

    keys = [frame["key"] for frame in api.get(f"/cards/{shot['card_id']}/run")["sheet"]["frames"]]
    assert len(keys) >= 3
    api.call("POST", "/field/events", {"events": [event("taken", keys[0], 0), event("taken", keys[1], 1)]})
    (entry,) = [item for item in api.get("/log")["entries"] if item["id"] not in known]
    file = send(api, "C.JPG", write_jpeg(picture(7), order(), CLOCK, "b"))
    api.patch(f"/log/frames/{file['frame_id']}", {"entry_id": entry["id"], "planned_key": keys[0]})

    def missing():
        return [
            item["text"]
            for item in api.get(f"/log/{entry['id']}")["findings"]
            if "missing among the files" in item["text"]
        ]

    assert missing() == [
        f"Frames 2 {'to' if len(keys) > 3 else 'and'} {len(keys)} are missing among the files: take them "
        "while you still can."
    ]
    api.call("POST", "/field/events", {"events": [event("skipped", key, 5) for key in keys[2:]]})
    assert missing() == ["Frame 2 is missing among the files: take it while you still can."]


def test_what_was_taken_goes_out_with_the_files_real_names(api):
    posts = next(item for item in api.get("/log")["entries"] if item["name"] == "Posts at the ebb")
    entry = api.get(f"/log/{posts['id']}")
    files = [frame["file_name"] for frame in entry["frames"] if frame["preview"]]
    rows = list(
        csv.DictReader(io.StringIO(api.client.get(f"/api/log/{posts['id']}/export/csv").get_data(as_text=True)))
    )
    assert [row["file"] for row in rows] == files
    assert {row["role"] for row in rows} >= {"test", "whole"}
    told = json.loads(api.client.get(f"/api/log/{posts['id']}/export/json").data)
    assert [item["file"] for item in told["files"]] == files
    with zipfile.ZipFile(io.BytesIO(api.client.get(f"/api/log/{posts['id']}/export/zip").data)) as archive:
        assert [name.removesuffix(".xmp") for name in archive.namelist()] == [name.rpartition(".")[0] for name in files]
        about = ElementTree.fromstring(archive.read(archive.namelist()[0]))[0][0]
    # ISO 16684-1: a rating is −1 (rejected) to 5.
    assert -1 <= int(about.get("{http://ns.adobe.com/xap/1.0/}Rating")) <= 5


def test_the_sharpest_of_what_was_taken_again_is_kept(api):
    riggs = next(item for item in api.get("/log")["entries"] if item["name"] == "Layered riggs")
    before = api.get(f"/log/{riggs['id']}")["frames"]
    for frame in before:
        api.patch(f"/log/frames/{frame['id']}", {"curation": "open"})
    api.call("POST", f"/log/{riggs['id']}/best")
    decided = {frame["curation"] for frame in api.get(f"/log/{riggs['id']}")["frames"]}
    assert decided <= {"open", "keep", "drop"}


def test_lessons_are_used_only_when_switched_on_and_taken_back(api):
    shot = api.shot_id("Posts at the ebb")

    def ledger():
        lines = api.get(f"/shots/{shot}")["plan"]["exposure"]["ledger"]
        return next(line for line in lines if line["label"] == "10-stop ND")

    assert ledger()["stops"] == 10.0
    ten = next(item for item in api.get("/calibrations")["calibrations"] if item["name"] == "10-stop ND")
    assert ten["state"] == "proposed"
    assert ten["low"] <= 10.3 <= ten["high"] + 0.1
    api.call("PATCH", f"/calibrations/{ten['id']}", {"state": "on"})
    assert ledger()["stops"] == pytest.approx(ten["value"])
    assert f"by {ten['frames']} frames, not 10" in ledger()["detail"]
    api.call("POST", "/undo", {"scopes": ["calibrations"]})
    assert ledger()["stops"] == 10.0
    api.call("PATCH", f"/calibrations/{ten['id']}", {"state": "refused"})
    api.call("POST", "/calibrations")
    again = next(item for item in api.get("/calibrations")["calibrations"] if item["name"] == "10-stop ND")
    assert again["state"] == "refused"
    api.call("PATCH", f"/calibrations/{ten['id']}", {"state": "proposed"}, 409)


def test_figures_are_those_of_the_log(api):
    found = api.get("/log/figures")
    assert len(found["taken"]) == 16
    assert sum(found["outcomes"].values()) == 16
    assert found["middle_ev"] == found["errors"][-1]["middle"]
    assert [item["number"] for item in found["errors"]] == list(range(1, len(found["errors"]) + 1))
    newest = sorted(abs(item["error_ev"]) for item in found["errors"][-20:])
    assert found["middle_ev"] == pytest.approx(newest[len(newest) // 2])
    assert {item["what"] for item in found["lasted"]} == {"set_up_time", "walking_time"}
    # Every time out of the demo had a forecast and has stars of light.
    assert len(found["light"]) == 16
    for counted, chosen in (
        (found["promising"], [item for item in found["light"] if item["promise"] >= 65]),
        (found["doubtful"], [item for item in found["light"] if item["promise"] < 45]),
    ):
        assert (counted["kept"], counted["said"]) == (sum(item["stars"] >= 4 for item in chosen), len(chosen))


def test_figures_follow_what_changed(api):
    before = api.get("/log/figures")
    assert before["behind"] == 0
    sill = entry_named(api, "Brown water over the sill")
    frame = next(item for item in api.get(f"/log/{sill['id']}")["frames"] if item["streak_share"] and item["stars"])

    def stars():
        return next(
            (item["stars"] for item in api.get("/log/figures")["looks"] if item["frame_id"] == frame["id"]), None
        )

    assert stars() == frame["stars"]
    api.patch(f"/log/frames/{frame['id']}", {"stars": None})
    assert stars() is None
    api.patch(f"/log/frames/{frame['id']}", {"stars": 1})
    assert stars() == 1
    api.client.delete(f"/api/log/frames/{frame['id']}")
    assert stars() is None
    api.patch(f"/log/{sill['id']}", {"archived": True})
    after = api.get("/log/figures")
    assert all(item["entry_id"] != sill["id"] for item in after["taken"])
    assert len(after["looks"]) < len(before["looks"])


def test_a_long_log_is_counted_part_by_part(api, monkeypatch):
    whole = api.get("/log/figures")
    monkeypatch.setattr(log_digests, "DIGEST_VERSION", 99)
    monkeypatch.setattr(log_digests, "MOST_AT_ONCE", 6)
    monkeypatch.setattr(log_digests, "_AT_A_TIME", 4)
    # Sixteen entries, six at a time; nothing is proposed of a part.
    before = api.get("/calibrations")["calibrations"]
    learnt = api.call("POST", "/calibrations", expect=200)
    assert (learnt["behind"], learnt["calibrations"]) == (10, before)
    assert [api.get("/log/figures")["behind"] for _ in range(2)] == [4, 0]
    assert api.get("/log/figures") == whole


def test_a_streak_is_measured_on_a_picture(api):
    sill = entry_named(api, "Brown water over the sill")
    frames = [item for item in api.get(f"/log/{sill['id']}")["frames"] if item["measurable"]]
    frame = next(item for item in frames if item["streak_line"] is None or item["streak_words"])
    path = f"/log/frames/{frame['id']}"

    def said(line):
        entry = api.patch(path, {"streak_line": line})
        return next(item for item in entry["frames"] if item["id"] == frame["id"])

    # The demo's pictures are 3:2 : two thirds of the width are the short side.
    seen = said([0.1, 0.5, 0.1 + 2 / 3, 0.5])
    assert seen["streak_line"] == pytest.approx([0.1, 0.5, 0.1 + 2 / 3, 0.5])
    assert seen["streak_words"].startswith("streak 100\u202f% of the short side, ")
    for line, field in (
        ([0.5, 0.5, 0.5, 0.5], "streak_line"),
        ([0, 0, 1.2, 1], "streak_line.2"),
        ([0, 0, 1], "streak_line"),
    ):
        api.refusal("PATCH", path, {"streak_line": line}, field)
    assert said(None)["streak_words"] == ""
    # In figures it needs no line, and no pointer to draw one.
    typed = next(item for item in api.patch(path, {"seen_share": 0.25})["frames"] if item["id"] == frame["id"])
    assert (typed["seen_share"], typed["streak_line"]) == (0.25, None)
    assert typed["streak_words"].startswith("streak 25\u202f% of the short side, ")
    for share in (0, 0.0039, -1, 1000, "long"):
        api.refusal("PATCH", path, {"seen_share": share}, "seen_share")
    assert said(None)["seen_share"] is None
    still = next(
        item
        for entry in api.get("/log")["entries"]
        for item in api.get(f"/log/{entry['id']}")["frames"]
        if item["preview"] and not item["measurable"]
    )
    api.refusal("PATCH", f"/log/frames/{still['id']}", {"streak_line": [0, 0, 1, 1]}, "streak_line")
    api.refusal("PATCH", f"/log/frames/{still['id']}", {"seen_share": 0.2}, "seen_share")


def test_water_that_is_faster_than_written_is_planned_so(api):
    shot = api.shot_id("Brown water over the sill")

    def water():
        return next(
            item for item in api.get(f"/shots/{shot}")["plan"]["exposure"]["movers"] if item["name"] == "Falling water"
        )

    plain = water()
    row = next(item for item in api.get("/calibrations")["calibrations"] if item["kind"] == "water_speed")
    assert 1.2 < 2 ** row["value"] < 1.6
    assert f"{2 ** row['value']:.2f} times as fast" in row["words"]
    api.call("PATCH", f"/calibrations/{row['id']}", {"state": "on"})
    taught = water()
    assert (plain["told"], taught["told"]) == ("said", "log")
    faster = float(taught["speed_label"].split()[0]) / float(plain["speed_label"].split()[0])
    assert faster == pytest.approx(2 ** row["value"], rel=0.05)
    words = " ".join(reason["text"] for reason in api.get(f"/shots/{shot}")["plan"]["because"])
    assert f"(from {row['frames']} streaks measured in the log)" in words
    # What is written of the element stays as it is written.
    point = next(
        item
        for place in api.get("/locations")["locations"]
        for item in place["viewpoints"]
        if any(e["name"] == "Falling water" for e in item["elements"])
    )
    element = next(item for item in point["elements"] if item["name"] == "Falling water")
    assert element["moves_mps"] == element["speed_mps"]


def test_a_frame_is_a_recipe(api):
    sill = next(item for item in api.get("/log")["entries"] if item["name"] == "Brown water over the sill")
    frame = next(item for item in api.get(f"/log/{sill['id']}")["frames"] if item["streak_share"])
    shot = api.shot_id("Brown water over the sill")
    found = api.get(f"/log/frames/{frame['id']}/recipe?shot_id={shot}")
    assert any(line.startswith("The sun stood") for line in found["lines"])
    assert any("draws the same" in line for line in found["lines"])
    assert found["again"]
    # What was measured on the picture counts: half the streak, and the shutter that draws it elsewhere is half as long.
    seen = []
    for share in (0.2, 0.1):
        api.patch(f"/log/frames/{frame['id']}", {"seen_share": share})
        lines = api.get(f"/log/frames/{frame['id']}/recipe?shot_id={shot}")["lines"]
        assert (
            f"The water drew {100 * share:.0f}\u202f% of the frame's short side (measured on the picture)"
            in " ".join(lines)
        )
        seen.append(next(line for line in lines if "draws the same" in line))
    assert seen[0] != seen[1]
    api.patch(f"/log/frames/{frame['id']}", {"seen_share": None})
    assert "not measured" in " ".join(api.get(f"/log/frames/{frame['id']}/recipe")["lines"])
    # Of a frame that belongs nowhere there is nothing to look up; that is an ordinary answer too.
    nowhere = send(api, "Z.JPG", write_jpeg(picture(77), order(), CLOCK, "b"))["frame_id"]
    assert "belongs to no place" in api.get(f"/log/frames/{nowhere}/recipe")["lines"][0]
    # Far in the north that sun may not come; that is an ordinary answer.
    north = next(item["id"] for item in api.get("/locations")["locations"] if item["name"] == "Isfold")
    assert api.get(f"/log/frames/{frame['id']}/recipe?location_id={north}")["place"] == "Isfold"


def test_somebodys_picture_tells_of_its_water(api):
    told = api.call("POST", "/recipe", {"look": "textured", "focal_mm": 24, "distance_m": 4, "shutter_s": "1/2"})
    assert told["lines"][0].startswith("Water that looks textured")
    api.refusal("POST", "/recipe", {"look": "frozen", "focal_mm": 24, "distance_m": 4, "shutter_s": 1}, "look")


def test_answers_are_scored_and_kept(api):
    names = [item["name"] for item in api.get("/practice")["exercises"]]
    assert len(names) == 7
    asked = api.get("/practice/question?exercise=hyperfocal%20distance&seed=4")
    assert "Hyperfocal" in asked["text"]
    assert (asked["seed"], asked["again"]) == (4, "")
    told = api.post("/practice/answers", {"exercise": "hyperfocal distance", "seed": 4, "answer": "1 cm"})
    assert told["score"] == 0
    assert told["working"]
    right = api.post(
        "/practice/answers", {"exercise": "hyperfocal distance", "seed": 4, "answer": told["right"].removesuffix(".")}
    )
    assert right["score"] == 100
    (today,) = next(item["days"] for item in api.get("/practice")["exercises"] if item["name"] == "hyperfocal_distance")
    assert (today["right"], today["count"]) == (1, 2)
    api.refusal("POST", "/practice/answers", {"exercise": "hyperfocal distance", "seed": 4, "answer": "far"}, "answer")
    # Wrong, then three others: it comes back by itself, whatever number is asked for.
    api.post("/practice/answers", {"exercise": "counting_stops", "seed": 1, "answer": "60"})
    for seed in (2, 3, 4):
        api.post("/practice/answers", {"exercise": "counting_stops", "seed": seed, "answer": "60"})
    again = api.get("/practice/question?exercise=counting%20stops&seed=77")
    assert again["seed"] == 1
    assert again["again"].startswith("You got this one wrong on ")


def test_exercises_ask_about_ones_own_kit_and_waters(api):
    names = {item["name"] for item in api.get("/kit")["filters"]}
    texts = [
        api.get(f"/practice/question?exercise=time%20behind%20a%20filter&seed={seed}")["text"] for seed in range(12)
    ]
    assert all(any(name in text for name in names) for text in texts)
    waters = [
        api.get(f"/practice/question?exercise=the%20shutter%20for%20a%20look&seed={seed}")["text"] for seed in range(30)
    ]
    assert any("Falling water at Tern Weir" in text for text in waters)
    row = next(item for item in api.get("/calibrations")["calibrations"] if item["kind"] == "water_speed")
    api.call("PATCH", f"/calibrations/{row['id']}", {"state": "on"})
    taught = [
        api.get(f"/practice/question?exercise=the%20shutter%20for%20a%20look&seed={seed}")["text"] for seed in range(30)
    ]
    assert any(one != other for one, other in zip(waters, taught, strict=True))
