"""Whatever is sent, the answer is the plan or a refusal in the one shape, and a long run of edits can be undone to
its start.
"""

import random
import string

import pytest
from wire import grouped

NUMBERS = [
    0,
    -1,
    1,
    0.5,
    7.3,
    24,
    1e-9,
    1e9,
    -1e308,
    1e308,
    2**31,
    2**63,
    "",
    " ",
    "f/8",
    "1/60",
    "2'30\"",
    "∞",
    "NaN",
    "1e5",
    "１２",
    "12,5",
    "−3",
    None,
    True,
    [],
    {},
    "x" * 5000,
]
TEXTS = ["", "a", "\0", "é" * 300, "<b>", "'; drop table shot; --", "landscape", "none", None, 3, [], {"a": 1}]
FIELDS = [
    "focal_mm",
    "bearing_deg",
    "pitch_deg",
    "camera_height_m",
    "near_m",
    "far_m",
    "far_infinite",
    "magnification",
    "subject_depth_mm",
    "coc_custom_mm",
    "print_width_mm",
    "viewing_distance_mm",
    "f_number",
    "subject_element_id",
    "overlap",
    "metered_f_number",
    "metered_shutter_s",
    "metered_iso",
    "metered_through_lens",
    "shadow_ev",
    "highlight_ev",
    "highlight_margin_ev",
    "compensation_ev",
    "iso",
    "follow_fading",
    "wanted_shutter_s",
    "moving_element_id",
    "bracket_step_ev",
    "timer_s",
    "settle_s",
    "viewpoint_id",
    "body_id",
    "lens_id",
    "sharp_element_ids",
    "filters",
    "water_low_m",
    "water_high_m",
    "water_element_id",
    "camera_east_m",
    "camera_north_m",
    "crop_focal_mm",
    "muted_readings",
    "roll_deg",
    "crop_share",
    "crop_ratio",
    "crop_x",
    "crop_y",
    "pano_across_deg",
    "pano_upwards_deg",
    "pano_overlap",
    "pano_pivot_mm",
    "hood_on",
    "support_id",
]
WORDS = [
    "name",
    "intent",
    "orientation",
    "coc_criterion",
    "focus_school",
    "depth_method",
    "wanted_look",
    "bracket",
    "date_local",
    "time_utc",
    "clock_local",
    "window_end_utc",
    "wanted_light",
    "guide",
    "crop_aspect",
]


@pytest.mark.parametrize("field", FIELDS)
def test_odd_numbers_are_taken_or_refused(api, field):
    shot = api.shot_id("Posts at the ebb")
    for value in NUMBERS:
        _patch(api, shot, {field: value})


@pytest.mark.parametrize("field", WORDS)
def test_odd_texts_are_taken_or_refused(api, field):
    shot = api.shot_id("Posts at the ebb")
    for value in TEXTS:
        _patch(api, shot, {field: value})


def _patch(api, shot, body):
    answer = api.client.patch(f"/api/shots/{shot}", json=grouped(body) if isinstance(body, dict) else body)
    assert answer.status_code in (200, 422), (body, answer.get_data(as_text=True)[:400])
    content = answer.get_json()
    if answer.status_code == 200:
        assert len(content["plan"]["verdicts"]) == 7
    else:
        assert content["error"]["message"]
        assert all(item["message"] and "pydantic" not in item["message"] for item in content["error"]["fields"])
    return content


def _random_edit(chance, shot, filters):
    pick = chance.choice
    elements = [item["id"] for item in shot["place"]["viewpoint"]["elements"]] if shot["place"] else []
    return pick(
        [
            {"f_number": pick([4, 5.6, 8, 11, 16, None])},
            {"iso": pick([100, 200, 800, None])},
            {"focal_mm": pick([24, 35, 50, 70, None])},
            {"orientation": pick(["portrait", "landscape"])},
            {"bearing_deg": chance.uniform(0, 359)},
            {"sharp_element_ids": chance.sample(elements, chance.randint(0, len(elements)))},
            {"near_m": pick([0.5, 1.5, None]), "far_infinite": pick([True, False]), "far_m": None},
            {
                "filters": [
                    {"filter_id": number, "on_lens": pick([True, False]), "on_when_metered": pick([True, False])}
                    for number in filters
                ]
            },
            {"date_local": pick(["2026-12-01", "2027-06-21"])},
            {"wanted_look": pick(["textured", "veiled", None]), "wanted_shutter_s": None},
            {"bracket": pick(["range", "none"]), "shadow_ev": 2, "highlight_ev": chance.uniform(6, 18)},
            {"magnification": None, "depth_method": pick(["auto", "single", "ring"])},
            {"name": "".join(chance.choices(string.ascii_letters, k=8))},
        ]
    )


@pytest.mark.parametrize("seed", range(6))
def test_any_run_of_edits_can_be_taken_back_to_its_start(api, seed):
    chance = random.Random(seed)
    shot = api.get(f"/shots/{api.shot_id('Posts at the ebb')}")
    filters = [item["id"] for item in api.get("/kit")["filters"]]
    for _ in range(15):
        content = _patch(api, shot["id"], _random_edit(chance, shot, filters))
        assert "plan" in content, content
    scopes = {"scopes": [f"shot:{shot['id']}"]}
    for _ in range(16):
        if api.client.post("/api/undo", json=scopes).status_code == 409:
            break
    assert api.get(f"/shots/{shot['id']}")["facts"] == shot["facts"]
    assert api.get(f"/shots/{shot['id']}")["plan"] == shot["plan"]


@pytest.mark.parametrize(
    ("method", "path"),
    [
        ("GET", "/notebook"),
        ("GET", "/kit"),
        ("GET", "/locations"),
        ("GET", "/markings"),
        ("GET", "/photographer"),
        ("GET", "/shots/1"),
        ("GET", "/locations/1"),
        ("GET", "/viewpoints/1/light?date_local=2026-11-24"),
        ("GET", "/shots/1/day"),
        ("GET", "/locations/1/sketch"),
        ("GET", "/locations/1/forecast"),
        ("GET", "/shots/1/season?from_date=2026-11-24"),
        ("GET", "/viewpoints/1/carpet?from_date=2026-11-24"),
        ("GET", "/viewpoints/1/alignments?from_date=2026-11-24&bearing_deg=233&tolerance_deg=2"),
        ("GET", "/coordinates?text=1,2"),
        ("GET", "/cards/1"),
        ("GET", "/shots/2/framings"),
        ("GET", "/shots/3"),
        ("GET", "/shots/4"),
        ("GET", "/shots/6"),
        ("GET", "/zone?latitude_deg=1&longitude_deg=2"),
    ],
)
def test_answers_fit_the_openapi_document(api, method, path):
    """Every answer has exactly the fields that the document promises, at every depth."""
    document = api.get("/openapi.json")
    schemas = document["components"]["schemas"]
    template = next(
        name
        for name in document["paths"]
        if len(name.split("/")) == len(f"/api{path}".split("?")[0].split("/"))
        and all(
            a == b or a.startswith("{")
            for a, b in zip(name.split("/"), f"/api{path}".split("?")[0].split("/"), strict=True)
        )
    )
    promised = document["paths"][template][method.lower()]["responses"]["200"]["content"]["application/json"]["schema"]
    checked = _check(api.get(path), promised, schemas, path)
    assert checked > 0


def _check(value, schema, schemas, where):
    if schema == {}:
        return 0
    if "$ref" in schema:
        return _check(value, schemas[schema["$ref"].rsplit("/", 1)[-1]], schemas, where)
    if "anyOf" in schema:
        if value is None:
            assert {"type": "null"} in schema["anyOf"], where
            return 0
        return _check(value, next(option for option in schema["anyOf"] if option != {"type": "null"}), schemas, where)
    if schema.get("type") == "object" and "properties" in schema:
        assert set(value) == set(schema["properties"]), where
        return 1 + sum(
            _check(value[name], part, schemas, f"{where}.{name}") for name, part in schema["properties"].items()
        )
    if schema.get("type") == "object":
        return sum(_check(item, schema["additionalProperties"], schemas, f"{where}.*") for item in value.values())
    if schema.get("type") == "array":
        assert isinstance(value, list), where
        return sum(_check(item, schema["items"], schemas, f"{where}[]") for item in value[:3])
    kinds = {"string": str, "number": (int, float), "integer": int, "boolean": bool}
    assert isinstance(value, kinds[schema["type"]]), (where, value)
    if "enum" in schema:
        assert value in schema["enum"], where
    return 0
