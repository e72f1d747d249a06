"""The field over HTTP: run sheets, events that count once, what is found otherwise, and the file to take along."""

import base64
import io
import json
import re
import uuid

import pytest
from PIL import Image

from lucid_ridge.core.field.events import EventKind

SHOT = "Split boulder under the fell"
POSTS = "Posts at the ebb"


def card_of(api, name=SHOT):
    return api.get(f"/shots/{api.shot_id(name)}")["card_id"]


def event(kind, run_id, **said):
    return {
        "id": str(uuid.uuid4()),
        "run_id": run_id,
        "device": "phone",
        "at_utc": "2026-06-01T04:00:00Z",
        "kind": kind,
    } | said


def test_a_run_sheet_says_frame_by_frame_what_to_do(api):
    run = api.get(f"/cards/{card_of(api, POSTS)}/run")
    frames = run["sheet"]["frames"]
    card = api.get(f"/cards/{card_of(api, POSTS)}")["content"]
    assert [frame["shutter"] for frame in frames] == [frame["shutter"] for frame in card["frames"]]
    assert [frame["focus"] for frame in frames] == [frame["focus"] for frame in card["frames"]]
    # The filter goes on before the first frame, and is not forgotten after the last.
    assert "Put on 10-stop ND" in frames[0]["actions"]
    assert run["sheet"]["last_actions"] == ["Take off 10-stop ND"]
    assert all(not action.startswith(("Put on", "Take off")) for frame in frames[1:] for action in frame["actions"])
    assert [phase["kind"] for phase in frames[0]["phases"]] == ["settle", "timer", "exposure"]
    assert run["sheet"]["tide"]["turns"]


def test_phases_add_up_to_the_plans_times(api):
    run = api.get(f"/cards/{card_of(api)}/run")["sheet"]
    for before, frame in zip(run["frames"], run["frames"][1:], strict=False):
        waits = sum(phase["seconds"] for phase in frame["phases"] if phase["kind"] != "exposure")
        gap = frame["start_s"] - before["start_s"] - before["shutter_s"]
        # Between them lies what is waited for, and the writing of the frame before.
        assert gap >= waits - 1e-6
        assert gap - waits <= 1.0 + before["shutter_s"]


def test_tables_agree_with_the_server(api):
    shot_id, card = api.shot_id(POSTS), card_of(api, POSTS)
    sheet = api.get(f"/cards/{card}/run")["sheet"]
    ten = sheet["filters"][0]["id"]
    marks = {
        name: {mark["label"]: mark["ev"] for mark in sheet["meter"][name]} for name in ("apertures", "shutters", "isos")
    }
    said = ("f/16", "1/15", "100")
    ev = marks["apertures"][said[0]] + marks["shutters"][said[1]] + marks["isos"][said[2]]
    for missing in ([], [ten]):
        table = next(item for item in sheet["tables"]["readings"] if item["missing"] == missing)
        row = min(table["rows"], key=lambda item: abs(item["ev100"] - ev))
        body = {"f_number": said[0], "shutter_s": said[1], "iso": said[2], "missing_filter_ids": missing}
        found = api.call("POST", f"/shots/{shot_id}/found", body)
        for frame in found["frames"]:
            wanted = row["sets"][row["frames"][frame["key"]]]["shutter_s"]
            assert frame["shutter_s"] == pytest.approx(wanted, rel=0.13)  # rows are a third of a stop apart
    delay = next(item for item in sheet["tables"]["delays"] if item["minutes"] == 10)
    found = api.call("POST", f"/shots/{shot_id}/found", {"later_min": 10})
    assert [frame["shutter_s"] for frame in found["frames"]] == [
        pytest.approx(delay["sets"][delay["frames"][frame["key"]]]["shutter_s"]) for frame in found["frames"]
    ]


def test_a_missing_ten_stop_shortens_the_exposure_by_ten_stops(api):
    shot_id = api.shot_id(POSTS)
    sheet = api.get(f"/cards/{card_of(api, POSTS)}/run")["sheet"]
    # By hand: metered f/16 at 1/8 s; with ten stops 128 s, without them 1/8 s.
    assert sheet["frames"][0]["shutter_s"] == pytest.approx(128, rel=0.05)
    found = api.call("POST", f"/shots/{shot_id}/found", {"missing_filter_ids": [sheet["filters"][0]["id"]]})
    assert found["frames"][0]["shutter_s"] == pytest.approx(1 / 8, rel=0.05)
    assert found["frames"][0]["on_lens"] == []
    assert api.get(f"/shots/{shot_id}")["plan"]["sequence"]["frames"][0]["shutter_s"] == pytest.approx(128, rel=0.05)


def test_what_cannot_be_found_is_refused_at_its_field(api):
    shot_id = api.shot_id(SHOT)
    for body, field in (
        ({"f_number": 8}, "shutter_s"),
        ({"distance_m": 2}, "element_id"),
        ({"wind_mps": 200}, "wind_mps"),
        ({"nonsense": 1}, "nonsense"),
    ):
        api.refusal("POST", f"/shots/{shot_id}/found", body, field)


def test_events_sent_twice_count_once_and_never_change(api):
    card = card_of(api)
    key = api.get(f"/cards/{card}/run")["sheet"]["frames"][0]["key"]
    run_id = str(uuid.uuid4())
    began, taken = event("began", run_id, card_id=card), event("taken", run_id, frame=key, card_id=card, count=2)
    first = api.call("POST", "/field/events", {"events": [taken, began]})
    assert sorted(first["kept"]) == sorted([began["id"], taken["id"]])
    again = api.call("POST", "/field/events", {"events": [{**taken, "count": 9, "text": "changed"}]})
    assert again["kept"] == [taken["id"]]
    known = {item["id"]: item for item in api.get(f"/field/runs/{run_id}")["events"]}
    assert set(known) == {began["id"], taken["id"]}
    assert known[taken["id"]]["count"] == 2
    assert run_id in api.get(f"/cards/{card}/run")["run_ids"]


def test_events_of_the_field_become_a_log_entry(api):
    card = card_of(api)
    keys = [frame["key"] for frame in api.get(f"/cards/{card}/run")["sheet"]["frames"]]
    run_id = str(uuid.uuid4())
    ticks = [
        event("taken", run_id, frame=key, card_id=card, at_utc=f"2026-06-01T04:0{at}:00Z")
        for at, key in enumerate(keys[:3])
    ]
    api.call(
        "POST",
        "/field/events",
        {"events": [*ticks, event("rating", run_id, text="joy", value=4), event("note", run_id, text="cold fingers")]},
    )
    entry = next(item for item in api.get("/log")["entries"] if item["name"] == SHOT and item["frames"] == 3)
    seen = api.get(f"/log/{entry['id']}")
    assert [frame["planned_key"] for frame in seen["frames"]] == keys[:3]
    assert (seen["joy_stars"], seen["words"]) == (4, "cold fingers")
    # A tick that is undone goes, and what was skipped never came.
    undone = event("undone", run_id, refers=ticks[1]["id"]) | {"at_utc": "2026-06-01T05:00:00Z"}
    api.call("POST", "/field/events", {"events": [undone, event("skipped", run_id, frame=keys[4])]})
    assert [frame["planned_key"] for frame in api.get(f"/log/{entry['id']}")["frames"]] == [keys[0], keys[2]]
    assert len([item for item in api.get("/log")["entries"] if item["name"] == SHOT]) == 1


def test_the_way_in_is_learnt_from_what_was_noted(api):
    card = card_of(api)
    key = api.get(f"/cards/{card}/run")["sheet"]["frames"][0]["key"]
    before = next(item for item in api.get("/log/figures")["measured"] if item["name"] == "Setting up")
    for day in range(10, 30):
        run_id = str(uuid.uuid4())
        noted = [
            event("arrived", run_id, card_id=card, at_utc=f"2026-06-{day}T03:00:00Z"),
            event("ready", run_id, card_id=card, at_utc=f"2026-06-{day}T04:00:00Z"),
            event("taken", run_id, card_id=card, frame=key, at_utc=f"2026-06-{day}T04:05:00Z"),
        ]
        api.call("POST", "/field/events", {"events": noted})
    figures = api.get("/log/figures")
    assert sum(item["took_min"] == 60 for item in figures["lasted"]) == 20
    after = next(item for item in figures["measured"] if item["name"] == "Setting up")
    assert after["frames"] > before["frames"]
    assert after["value"] > before["value"]
    shot = api.shot_id(SHOT)
    api.call("POST", "/calibrations")
    row = next(item for item in api.get("/calibrations")["calibrations"] if item["name"] == "Setting up")
    plain = api.get(f"/shots/{shot}")["plan"]
    api.call("PATCH", f"/calibrations/{row['id']}", {"state": "on"})
    taught = api.get(f"/shots/{shot}")["plan"]
    said = [reason["text"] for reason in taught["because"] if reason["code"] == "way.own_set_up"]
    assert said == [
        f"You take {20 * row['value']:.0f} min to set up (from {row['frames']} sessions), not the 20 min entered."
    ]
    assert not [reason for reason in plain["because"] if reason["code"] == "way.own_set_up"]


def test_series_by_hand_are_counted_and_those_on_a_rail_are_not(api):
    shot = api.shot_id("Sundew after rain")
    before = [item["name"] for item in api.get("/log/figures")["measured"]]
    assert "Series by hand" not in before

    def times_out(tries):
        card = api.post(f"/shots/{shot}/cards", None)["id"]
        keys = [frame["key"] for frame in api.get(f"/cards/{card}/run")["sheet"]["frames"]]
        run_id, events, second = str(uuid.uuid4()), [], 0
        for _ in range(tries):
            for key in keys:
                events.append(
                    event(
                        "taken",
                        run_id,
                        frame=key,
                        card_id=card,
                        at_utc=f"2026-06-02T04:{second // 60:02d}:{second % 60:02d}Z",
                    )
                )
                second += 1
        api.call("POST", "/field/events", {"events": events})

    # On the rail it is no series by hand.
    times_out(2)
    assert "Series by hand" not in [item["name"] for item in api.get("/log/figures")["measured"]]
    api.patch(f"/shots/{shot}", {"hold": "hand", "frames_per_s": 8, "hit_rate": None})
    for tries in (3, 2, 1):
        times_out(tries)
    # Nobody has said yet whether any of them came out: that tells nothing.
    assert "Series by hand" not in [item["name"] for item in api.get("/log/figures")["measured"]]
    made = [item["id"] for item in api.get("/log")["entries"] if item["name"] == "Sundew after rain"]
    for entry in made:
        api.patch(f"/log/{entry}", {"outcome": "keep"})
    found = next(item for item in api.get("/log/figures")["measured"] if item["name"] == "Series by hand")
    # Three were kept of six tries.
    assert (found["frames"], found["value"], found["figure"]) == (6, 0.5, "50\u202f%")
    assert found["worth"]


def test_a_photograph_of_the_scene_is_kept_and_shown(api):
    card = card_of(api)
    key = api.get(f"/cards/{card}/run")["sheet"]["frames"][0]["key"]
    run_id, photo = str(uuid.uuid4()), io.BytesIO()
    Image.new("RGB", (40, 30), (200, 90, 20)).save(photo, "JPEG")
    taken, shown = event("taken", run_id, frame=key, card_id=card), event("photo", run_id, card_id=card)
    shown["image"] = "data:image/jpeg;base64," + base64.b64encode(photo.getvalue()).decode()
    api.call("POST", "/field/events", {"events": [taken, shown]})
    entry = next(item for item in api.get("/log")["entries"] if item["name"] == SHOT)
    assert api.get(f"/log/{entry['id']}")["photos"] == [shown["id"]]
    assert api.client.get(f"/api/field/events/{shown['id']}/image").data == photo.getvalue()
    api.call("GET", f"/field/events/{taken['id']}/image", None, 404)


def test_odd_events_are_refused_at_their_place(api):
    run_id = str(uuid.uuid4())
    good = event("taken", run_id, frame="0.0.0.0")
    for change, field in (
        ({"id": "x"}, "events.0.id"),
        ({"kind": "danced"}, "events.0.kind"),
        ({"at_utc": "yesterday"}, "events.0.at_utc"),
        ({"count": 0}, "events.0.count"),
        ({"mood": 1}, "events.0.mood"),
        ({"image": "aGVsbG8="}, "events.0.image"),
        ({"value": 1e9}, "events.0.value"),
    ):
        api.refusal("POST", "/field/events", {"events": [good | change]}, field)
    assert api.get(f"/field/runs/{run_id}")["events"] == []


def test_every_kind_of_event_is_kept(api):
    run_id = str(uuid.uuid4())
    api.call("POST", "/field/events", {"events": [event(kind, run_id) for kind in EventKind]})
    assert {item["kind"] for item in api.get(f"/field/runs/{run_id}")["events"]} == set(EventKind)


def test_the_file_that_is_taken_along_holds_everything(api, app, tmp_path):
    page = '<script type="application/json" id="taken-along">null</script>'
    (tmp_path / "takealong.html").write_text(page)
    app.config["WEB_DIST"] = tmp_path
    api.patch(f"/shots/{api.shot_id(SHOT)}", {"name": "</script><b>boulder"})
    answer = api.client.get(f"/api/cards/{card_of(api, '</script><b>boulder')}/take-along")
    text = answer.get_data(as_text=True)
    # Nothing that is taken along can end the element that holds it.
    assert text.count("</script>") == 1
    found = re.search(r'id="taken-along">(.*)</script>', text)
    taken = json.loads(found[1])
    assert taken["cards"][0]["sheet"]["frames"]
    assert answer.headers["Content-Disposition"].startswith("attachment")


def test_an_outing_is_taken_along_with_the_cards_of_all_its_shots(api, app, tmp_path):
    (tmp_path / "takealong.html").write_text('<script type="application/json" id="taken-along">null</script>')
    app.config["WEB_DIST"] = tmp_path
    outing = next(item for item in api.get("/outings")["outings"] if "Bog" in item["name"])
    assert api.post(f"/outings/{outing['id']}/cards", None)["made"] == 3
    text = api.client.get(f"/api/outings/{outing['id']}/take-along").get_data(as_text=True)
    taken = json.loads(re.search(r'id="taken-along">(.*)</script>', text)[1])
    seen = api.get(f"/outings/{outing['id']}")
    shots = [seen["stops"][at]["name"] for at in seen["order"] if seen["stops"][at]["shot_id"] is not None]
    left = {"Lacewing asleep on a rush", "Sundew after rain", "Brown water over the sill"} - set(shots)
    assert [card["sheet"]["name"] for card in taken["cards"]] == [*shots, *sorted(left)]
    assert len(taken["times"]) > 5
    assert [item["key"] for item in taken["packing"]] == [item["key"] for item in seen["packing"]]
    assert taken["packing"]
