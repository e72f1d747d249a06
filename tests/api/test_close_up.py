"""From nothing to a card: a rosette with tubes and flash, an insect by hand, a flower before a ridge, a capsule at the
tripod's foot, a view camera.
"""

import pytest

PLACE = {"name": "Kelda Moss", "latitude_deg": 54.6, "longitude_deg": "-3.1", "elevation_m": "210"}


def _kit(api, *keys):
    """Add usual pieces to the kit; return their ids by key."""
    found = {}
    for key in keys:
        before = _ids(api)
        api.call("POST", f"/kit/presets/{key}", None, 201)
        (found[key],) = _ids(api) - before
    return {key: piece_id for key, (_, piece_id) in found.items()}


def _ids(api):
    kit = api.get("/kit")
    return {
        (kind, item["id"]) for kind in ("bodies", "lenses", "filters", "supports", "accessories") for item in kit[kind]
    }


def _shot(api, name, body, lens, *elements, **support):
    place = api.post("/locations", {**PLACE, "name": f"{PLACE['name']}, {name}"})
    point = place["viewpoints"][0]["id"]
    ids = [api.post(f"/viewpoints/{point}/elements", element)["id"] for element in elements]
    made = api.post("/shots", {"name": name, "viewpoint_id": point, "body_id": body, "lens_id": lens})
    if support:
        api.patch(f"/shots/{made['id']}", support)
    return made["id"], ids


def _card(api, shot_id):
    return api.post(f"/shots/{shot_id}/cards", None)["content"]


def _verdict(shot, step):
    return next(item for item in shot["plan"]["verdicts"] if item["step"] == step)


def _said(shot, step):
    return " ".join(reason["text"] for reason in shot["plan"]["because"] if reason["step"] == step)


METERED = {"metered_f_number": "f/8", "metered_shutter_s": "1/8", "metered_iso": 100}


def test_a_rosette_beyond_the_lens_with_tubes_a_rail_and_flash(api):
    kit = _kit(api, *"body-full-24 lens-100-macro tubes-36 tubes-12 rail flash-small diffuser".split())
    rosette = {
        "name": "Rosette",
        "shape": "flower",
        "bearing_deg": 300,
        "distance_m": "16 cm",
        "width_m": 0.012,
        "height_m": 0.01,
        "base_m": 0.11,
    }
    shot, _ = _shot(api, "Sundew", kit["body-full-24"], kit["lens-100-macro"], rosette)
    # Alone the lens reaches 1:1; the refusal says so, and the tubes change it.
    refused = api.refusal("PATCH", f"/shots/{shot}", {"magnification": 1.5}, "magnification")
    assert "reaches 1:1, not 1.5:1" in refused["fields"][0]["message"]
    rig = [kit[key] for key in ("tubes-36", "tubes-12", "rail", "flash-small", "diffuser")]
    api.patch(f"/shots/{shot}", {"accessory_ids": rig})
    made = api.patch(
        f"/shots/{shot}",
        {
            "magnification": 1.5,
            "subject_depth_mm": 4,
            "f_number": "f/5.6",
            "overlap": 0.25,
            "depth_method": "rail",
            "camera_height_m": "11.5 cm",
            "flash_distance_m": "15 cm",
            **METERED,
        },
    )
    assert made["facts"]["frame"]["accessory_ids"] == sorted(rig)
    depth = made["plan"]["depth"]
    assert depth["magnification"] == pytest.approx(1.5)
    assert (depth["method_words"], _verdict(made, "depth")["mark"]) == ("on the rail", "holds")
    # f/5.6 on 36 × 24 mm at 1.5:1: slices of about 0.29 mm less a quarter of overlap over 4 mm (hand-worked for a
    # bare lens: 20).
    assert len(depth["positions"]) == pytest.approx(20, abs=2)
    assert "Geared rail can" in _said(made, "depth")
    assert made["plan"]["exposure"]["flash"]["setting"].startswith("1/")
    assert made["plan"]["frame"]["close_up"]["working_mm"] > 50
    card = _card(api, shot)
    assert card["frames"][1]["focus"].startswith("rail 0.2")
    assert card["frames"][0]["shutter"] == "1/200"
    assert {"36 mm tube", "12 mm tube", "Geared rail", "Small flash"} <= set(card["rig"])
    assert "frames on the rail" in card["stack"]
    # Undone and done again, the rig is the same.
    api.patch(f"/shots/{shot}", {"accessory_ids": []})
    assert api.get(f"/shots/{shot}")["facts"]["frame"]["accessory_ids"] == []
    assert "rig" in api.post("/undo", {"scopes": [f"shot:{shot}"]}, 200)["label"]
    assert api.get(f"/shots/{shot}")["facts"]["frame"]["accessory_ids"] == sorted(rig)
    assert [
        use["name"] for item in api.get("/kit")["accessories"] if item["id"] == kit["rail"] for use in item["used_by"]
    ] == ["Sundew"]


def test_an_insect_asleep_by_hand(api):
    kit = _kit(api, "body-full-24", "lens-100-macro", "flash-small")
    lacewing = {
        "name": "Lacewing",
        "shape": "insect",
        "bearing_deg": 75,
        "distance_m": "25 cm",
        "width_m": 0.013,
        "height_m": 0.011,
        "base_m": 0.35,
    }
    rush = {
        "name": "Rush",
        "shape": "post",
        "bearing_deg": 75,
        "distance_m": "25.5 cm",
        "width_m": 0.003,
        "height_m": 0.7,
    }
    shot, _ = _shot(api, "Lacewing", kit["body-full-24"], kit["lens-100-macro"], lacewing, rush)
    made = api.patch(
        f"/shots/{shot}",
        {
            "accessory_ids": [kit["flash-small"]],
            "magnification": 1,
            "subject_depth_mm": 3,
            "f_number": "f/8",
            "depth_method": "rail",
            "hold": "hand",
            "braced": True,
            "frames_per_s": 10,
            "hit_rate": 0.25,
            "patience_s": 600,
            "flash_distance_m": "12 cm",
            "camera_height_m": "36 cm",
            **METERED,
        },
    )
    assert made["plan"]["depth"]["method_words"] == "leaning in"
    assert "lean in at 5.4 mm/s while taking 10 frames a second" in _said(made, "depth")
    assert "expect 4 tries" in _said(made, "depth")
    assert "burst is the exposure" in _said(made, "exposure")
    assert [_verdict(made, step)["mark"] for step in ("depth", "exposure")] == ["holds", "holds"]
    # What it sits upon is no collision.
    assert "Rush" not in _said(made, "frame")
    card = _card(api, shot)
    assert card["held"] == "hand, braced"
    assert len(card["frames"]) == 7


def test_a_flower_before_a_far_ridge_in_three(api):
    kit = _kit(api, "body-full-24", "lens-24-70")
    flower = {
        "name": "Thrift",
        "shape": "flower",
        "bearing_deg": 200,
        "distance_m": "40 cm",
        "width_m": 0.03,
        "height_m": 0.08,
    }
    ridge = {
        "name": "Fell",
        "shape": "ridge",
        "bearing_deg": 200,
        "distance_m": "5 km",
        "width_m": 4000,
        "height_m": 500,
    }
    shot, ids = _shot(api, "Thrift", kit["body-full-24"], kit["lens-24-70"], flower, ridge)
    made = api.patch(
        f"/shots/{shot}",
        {
            "sharp_element_ids": ids,
            "focal_mm": 24,
            "bearing_deg": 200,
            "camera_height_m": "20 cm",
            "pitch_deg": -4,
            "f_number": "f/11",
            "overlap": 0.1,
            **METERED,
        },
    )
    depth = made["plan"]["depth"]
    # From 0.385 m, at f/11.7: 25.6 µm for defocus, ln(385/361) = 0.064 over slices of 0.0235 are 2.7; with 10 %
    # of overlap 2.9 (hand-worked).
    assert (depth["method_words"], len(depth["positions"])) == ("refocusing", 3)
    assert _verdict(made, "depth")["mark"] == "holds"
    assert [choice["words"] for choice in depth["choices"] if choice["chosen"]] == ["refocusing"]
    assert depth["checks"][0]["what"] == "the nearest that must be sharp"
    assert len(_card(api, shot)["frames"]) == 3


def test_a_capsule_at_the_tripod_s_foot_with_the_column_inverted(api):
    kit = _kit(api, "body-full-24", "lens-100-macro", "tripod-low", "rail")
    capsule = {
        "name": "Capsule",
        "shape": "post",
        "bearing_deg": 10,
        "distance_m": "12 cm",
        "width_m": 0.004,
        "height_m": 0.03,
    }
    shot, _ = _shot(api, "Capsule", kit["body-full-24"], kit["lens-100-macro"], capsule, support_id=kit["tripod-low"])
    made = api.patch(
        f"/shots/{shot}",
        {
            "accessory_ids": [kit["rail"]],
            "magnification": 0.8,
            "subject_depth_mm": 4,
            "f_number": "f/8",
            "camera_height_m": "15 cm",
            "pitch_deg": -45,
            "bearing_deg": 10,
            "depth_method": "rail",
            **METERED,
        },
    )
    assert "Reverse the column" in _said(made, "frame")
    assert _verdict(made, "depth")["mark"] == "holds"
    # From above at 45° the capsule's top is nearest: there the focus begins, at the distance that 0.8:1 has.
    (seen,) = made["plan"]["depth"]["elements"]
    assert seen["near_m"] == pytest.approx(made["plan"]["depth"]["near"]["value"])
    assert _card(api, shot)["frames"]


def test_a_view_camera_at_three_hundred_millimetres_of_draw(api):
    kit = _kit(api, "body-4x5", "lens-150-view", "view-camera")
    shell = {
        "name": "Shell",
        "shape": "block",
        "bearing_deg": 0,
        "distance_m": "32 cm",
        "width_m": 0.06,
        "height_m": 0.05,
        "base_m": 0.4,
    }
    shot, _ = _shot(api, "Shell", kit["body-4x5"], kit["lens-150-view"], shell)
    api.patch(f"/shots/{shot}", {"accessory_ids": [kit["view-camera"]]})
    made = api.patch(
        f"/shots/{shot}",
        {
            "magnification": 1,
            "subject_depth_mm": 6,
            "f_number": "f/22",
            "camera_height_m": "42.5 cm",
            "depth_method": "single",
            "metered_through_lens": False,
            "metered_f_number": "f/22",
            "metered_shutter_s": "1/8",
            "metered_iso": 100,
        },
    )
    close = made["plan"]["frame"]["close_up"]
    # 150 mm drawn to 300: factor 4, two stops, however it is counted (common practice).
    assert close["drawn_mm"] == pytest.approx(300, abs=0.1)
    assert [way["stops"] for way in close["drawn"]] == pytest.approx([2, 2, 2], abs=0.01)
    extension = next(line for line in made["plan"]["exposure"]["ledger"] if line["kind"] == "extension")
    assert extension["stops"] == pytest.approx(2, abs=0.01)
    assert made["plan"]["exposure"]["shutter"]["value"] == pytest.approx(0.5)
    assert _card(api, shot)["frames"][0]["shutter"] == "0.5 s"


def test_a_magnification_from_a_ruler(api):
    # 36 mm of sensor over 48 mm of a ruler are 0.75:1, upright 24 mm over 48 mm 0.5:1.
    shot = api.shot_id("Sundew after rain")
    across = api.patch(f"/shots/{shot}", {"field_mm": "48 mm"})
    assert across["facts"]["depth"]["magnification"] == 0.75
    assert across["plan"]["frame"]["close_up"]["field_width_mm"] == pytest.approx(48)
    api.patch(f"/shots/{shot}", {"orientation": "portrait"})
    assert api.patch(f"/shots/{shot}", {"field_mm": 48})["facts"]["depth"]["magnification"] == 0.5
    api.refusal("PATCH", f"/shots/{shot}", {"field_mm": 0}, "field_mm")
    # Smaller than the lens reaches: 24 mm over 8 are 3:1.
    api.refusal("PATCH", f"/shots/{shot}", {"field_mm": 8}, "magnification")


@pytest.mark.parametrize(
    ("body", "field", "words"),
    [
        ({"name": "Tube", "kind": "extension_tube"}, "length_mm", "Of an extension tube the length must be known."),
        ({"name": "Rail", "kind": "rail", "travel_mm": 100}, "finest_mm", "Of a rail the finest step must be known."),
        ({"name": "Flash", "kind": "flash", "guide_number_m": 0, "recycle_s": 3}, "guide_number_m", "at least 1"),
        ({"name": "Thing", "kind": "magic"}, "kind", ""),
        (
            {"name": "Bellows", "kind": "bellows", "shortest_mm": 90, "longest_mm": 40},
            "longest_mm",
            "at least the shortest",
        ),
        ({"name": "Tube", "kind": "extension_tube", "length_mm": 12, "depth_mm": 3}, "depth_mm", "no such field"),
    ],
)
def test_accessories_that_cannot_be_are_refused_at_their_field(api, body, field, words):
    error = api.refusal("POST", "/accessories", body, field)
    assert words in error["fields"][0]["message"]


def test_an_accessory_has_the_figures_of_its_kind_alone(api):
    made = api.post("/accessories", {"name": "Tube", "kind": "extension_tube", "length_mm": "25 mm", "dioptres": 3})
    assert (made["length_mm"], made["dioptres"], made["figures"]) == (25, None, ["length_mm"])
    assert made["words"] == "25 mm"
    api.refusal("PATCH", f"/accessories/{made['id']}", {"length_mm": None}, "length_mm")
    changed = api.patch(f"/accessories/{made['id']}", {"kind": "close_up_lens", "dioptres": 4})
    assert (changed["length_mm"], changed["words"]) == (None, "4 dioptres")
    shot = api.shot_id("Sundew after rain")
    api.refusal("PATCH", f"/shots/{shot}", {"accessory_ids": [10**6]}, "accessory_ids")
    api.delete(f"/accessories/{made['id']}")
    api.call("DELETE", f"/accessories/{made['id']}", None, 404)


def test_lenses_of_the_bag_side_by_side(api):
    table = api.get(f"/shots/{api.shot_id('Sundew after rain')}/lenses")
    assert table["words"].startswith("At 1.5:1")
    used = [item for item in table["choices"] if item["in_use"]]
    assert [item["name"] for item in used] == ["90 mm close-up, to 2:1"]
    assert not any(item["reached"] for item in table["choices"] if "zoom" in item["name"])
    assert api.get(f"/shots/{api.shot_id('Hollow lane, not scouted yet')}/lenses")["choices"] == []
    api.get("/shots/99999/lenses", 404)
