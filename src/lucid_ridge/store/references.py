"""What names another row by its id without a foreign key: inside nested values and texts.

Whoever gives rows other ids lets these follow.

"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from typing import Any

from ..core.facts.choices import FRAMED, shot_facts_declared
from ..core.field.events import EventKind

# Which id a row has from now on, by table and the id that it had; None: it is not there.
Move = Callable[[str, int], int | None]
# How one gets to the ids in a nested value: names, and * for each of a list or of an object's values.
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
# Of what a text such as filter:12 or place:3:north is.
_SUBJECTS = {"filter": "filter", "place": "location", "element": "element"}
_PIECES = {name: name for name in ("body", "lens", "accessory", "support", "filter")}


def named_by(table: str) -> set[str]:
    """Return the tables whose rows a table's values name without a foreign key."""
    found = {target for (name, _), paths in _NESTED.items() if name == table for _, target in paths}
    found |= {
        "shot": {"element"},
        "outing": set(_PIECES.values()),
        "calibration": set(_SUBJECTS.values()),
        "field_event": {"element", "filter"},
    }.get(table, set())
    return found - {table}


def followed(table: str, row: Mapping[str, Any], move: Move) -> dict[str, Any]:
    """Return a row in which what names other rows by their id names them by the one they have from now on; what is not
    there is named no more.

    """
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
    """Return a text such as filter:12 with the other id; as it is where it names no row, None where its row is not
    there.

    """
    kind, _, rest = text.partition(":")
    number, _, side = rest.partition(":")
    if kind not in kinds or not number.isdecimal():
        return text
    found = move(kinds[kind], int(number))
    return None if found is None else ":".join([kind, str(found), *([side] if side else [])])


def _of_elements(key: str, move: Move) -> str | None:
    """Return the key of a reading of the frame, such as air:3:5, with the elements' other ids, the lesser first."""
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
