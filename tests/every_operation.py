"""Every operation of the API as its description names it, with ids put into what is asked."""

import re

import schemathesis

from lucid_ridge.app import create_app
from lucid_ridge.configuration import Configuration

DOCUMENT = schemathesis.openapi.from_wsgi(
    "/api/openapi.json", create_app(Configuration(database_url="postgresql+psycopg://"))
)
OPERATIONS = [found.ok() for found in DOCUMENT.get_all_operations()]
# Which table an id is of, by the name of the parameter or field.
OF = {
    "location": "location",
    "viewpoint": "viewpoint",
    "element": "element",
    "shot": "shot",
    "plan_b_shot": "shot",
    "plan_b_location": "location",
    "body": "body",
    "lens": "lens",
    "filter": "filter",
    "support": "support",
    "accessory": "accessory",
    "card": "field_card",
    "framing": "framing",
    "hazard": "hazard",
    "reading": "meter_reading",
    "note": "season_note",
    "track": "walk_track",
    "opening": "opening",
    "scouting": "scouting",
    "photo": "scouting_photo",
    "outing": "outing",
    "stop": "outing_stop",
    "entry": "log_entry",
    "frame": "log_frame",
    "calibration": "calibration",
    "job": "job",
    "subject_element": "element",
    "focus_element": "element",
    "water_element": "element",
    "sign_in": "sign_in",
    "share": "share",
    "missing_filter": "filter",
    "sharp_element": "element",
    "attachment": "accessory",
}

PIECES = {"bodies": "body", "lenses": "lens", "filters": "filter", "supports": "support", "accessories": "accessory"}


def table_of(name, path):
    """Return which table the ids of a parameter or field are of; None of what is no id of a thing."""
    bare = re.sub(r"_ids?$", "", name)
    if bare == name:
        return None
    if bare == "piece":
        return next(table for words, table in PIECES.items() if f"/{words}/" in path)
    return OF.get(bare)


def with_ids(value, path, ids, turn):
    """Return a body in which every id is one of these, by table."""
    if isinstance(value, list):
        return [with_ids(item, path, ids, turn + at) for at, item in enumerate(value)]
    if not isinstance(value, dict):
        return value
    made = {}
    for name, item in value.items():
        there = ids.get(table_of(name, path) or "", [])
        if there and isinstance(item, int) and not isinstance(item, bool):
            made[name] = there[turn % len(there)]
        elif there and isinstance(item, list):
            made[name] = [there[(turn + at) % len(there)] for at in range(len(item))]
        else:
            made[name] = with_ids(item, path, ids, turn)
    return made


def named(operation) -> str:
    return f"{operation.method.upper()} {operation.path}"
