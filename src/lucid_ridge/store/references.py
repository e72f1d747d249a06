"""References to rows by id that are no foreign keys: inside nested values and texts.

They are updated when rows get other ids.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from typing import Any

from ..core.facts.choices import FRAMED, shot_facts_declared
from ..core.field.events import EventKind

# Returns the new id of a row, by table and former id; None if it does not exist.
Move = Callable[[str, int], int | None]
# Paths to the ids in a nested value: names, and * for each item of a list or value of an object.
Path = tuple[str, ...]

_FILTERS_OF_FRAMES: Path = ("frames", "*", "filter_ids", "*")
_NESTED: Mapping[tuple[str, str], Sequence[tuple[Path, str]]] = {
    ("shot", "motion_wishes"): ((("*", "element_id"), "element"),),
    ("shot", "spots"): ((("*", "element_id"), "element"),),
    ("shot", "frame_groups"): ((("*", "focus_element_id"), "element"), (("*", "filter_ids", "*"), "filter")),
    ("framing", "choices"): tuple(
        (("values", name), item.fact.refers)
        for name, item in shot_facts_declared().items()
        if name in FRAMED and item.fact.refers
    ),
    ("field_card", "run"): (
        (("shot_id",), "shot"),
        (("elements", "*", "id"), "element"),
        (("filters", "*", "id"), "filter"),
        (("record", *_FILTERS_OF_FRAMES), "filter"),
        (("record", "moving_id"), "element"),
        (("tables", "readings", "*", "missing", "*"), "filter"),
    ),
    ("log_entry", "planned"): ((_FILTERS_OF_FRAMES, "filter"), (("moving_id",), "element")),
    ("log_frame", "filter_ids"): ((("*",), "filter"),),
    ("calibration", "evidence"): ((("*",), "log_frame"),),
}
# Tables of a text such as filter:12 or place:3:north.
_SUBJECTS = {"filter": "filter", "place": "location", "element": "element"}
_PIECES = {name: name for name in ("body", "lens", "accessory", "support", "filter")}


def named_by(table: str) -> set[str]:
    """Return the tables that a table's values refer to without a foreign key."""
    found = {target for (name, _), paths in _NESTED.items() if name == table for _, target in paths}
    found |= {
        "shot": {"element"},
        "outing": set(_PIECES.values()),
        "calibration": set(_SUBJECTS.values()),
        "field_event": {"element", "filter"},
    }.get(table, set())
    return found - {table}


def followed(table: str, row: Mapping[str, Any], move: Move) -> dict[str, Any]:
    """Return a row with its references updated to the new ids; references to missing rows are removed."""
    made = dict(row)
    for (name, column), paths in _NESTED.items():
        if name == table and made.get(column) is not None:
            for path, target in paths:
                made[column] = _along(made[column], path, target, move)
    if table == "shot" and made.get("muted_readings"):
        made["muted_readings"] = sorted(
            key for item in made["muted_readings"] if (key := _of_elements(item, move)) is not None
        )
    if table == "outing" and made.get("packed"):
        made["packed"] = [key for item in made["packed"] if (key := _keyed(item, _PIECES, move)) is not None]
    if table == "calibration" and made.get("subject"):
        made["subject"] = _keyed(made["subject"], _SUBJECTS, move)
    if table == "field_event" and made.get("kind") == EventKind.STANDS_AT and str(made.get("text")).isdecimal():
        made["text"] = str(move("element", int(made["text"])) or "")
    if table == "field_event" and made.get("kind") == EventKind.FILTER_MISSING and made.get("value") is not None:
        made["value"] = move("filter", int(made["value"]))
    return made


def _keyed(text: str, kinds: Mapping[str, str], move: Move) -> str | None:
    """Return a text such as filter:12 with the new id; unchanged if it refers to no row, None if its row is missing."""
    kind, _, rest = text.partition(":")
    number, _, side = rest.partition(":")
    if kind not in kinds or not number.isdecimal():
        return text
    found = move(kinds[kind], int(number))
    return None if found is None else ":".join([kind, str(found), *([side] if side else [])])


def _of_elements(key: str, move: Move) -> str | None:
    """Return the key of a reading of the frame, such as air:3:5, with the elements' new ids, the lesser first."""
    kind, *ids = key.split(":")
    if not all(item.isdecimal() for item in ids):
        return key
    found = [move("element", int(item)) for item in ids]
    return None if None in found else ":".join([kind, *map(str, sorted(item for item in found if item is not None))])


def _along(value: Any, path: Path, target: str, move: Move) -> Any:
    if value is None:
        return None
    if not path:
        return move(target, value) if isinstance(value, int) else value
    head, rest = path[0], path[1:]
    if head == "*" and isinstance(value, dict):
        return {name: _along(item, rest, target, move) for name, item in value.items()}
    if head == "*" and isinstance(value, list):
        items = [_along(item, rest, target, move) for item in value]
        return items if rest else [item for item in items if item is not None]
    if isinstance(value, dict) and head in value:
        return {**value, head: _along(value[head], rest, target, move)}
    return value
