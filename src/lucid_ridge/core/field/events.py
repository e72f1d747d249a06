"""What happens in the field, as events: never changed, only added to; ids are made where they happen, so that logs
merge by union.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime

from ..labels import NamedEnum


class EventKind(NamedEnum):
    """taken: count frames at once; skipped: left out; again: to be taken once more.

    undone: undoes the event it refers to. reading, filter_missing, wind, stands_at, late: conditions differ. checked,
    packed: text names the item. photo: a picture of the scene. waves: value is the period [s]. set out: on foot;
    arrived: at the viewpoint; ready: set up. battery: value is the level shown [%]. countdown started: of a frame,
    value is its length [s]; countdown stopped: value is how long it ran [s].
    """

    BEGAN = "began"
    SET_OUT = "set_out"
    ARRIVED = "arrived"
    READY = "ready"
    TAKEN = "taken"
    SKIPPED = "skipped"
    AGAIN = "again"
    LATE = "late"
    READING = "reading"
    FILTER_MISSING = "filter_missing"
    WIND = "wind"
    STANDS_AT = "stands_at"
    NOTE = "note"
    PHOTO = "photo"
    CHECKED = "checked"
    PACKED = "packed"
    RATING = "rating"
    WAVES = "waves"
    BATTERY = "battery"
    COUNTDOWN_STARTED = "countdown_started"
    COUNTDOWN_STOPPED = "countdown_stopped"
    ENDED = "ended"
    UNDONE = "undone"


@dataclass(frozen=True)
class FieldEvent:
    """A field event. id: a UUID as text.

    run_id: of its field session. frame: the key of a planned frame. refers: the event that is undone.

    value: minutes late, wind [m/s], distance [m], stops, stars, seconds, per cent, by its kind; f_number, shutter_s,
    iso: of a reading, or as really taken.
    """

    id: str
    run_id: str
    device: str
    at_utc: datetime
    kind: EventKind
    frame: str | None = None
    count: int = 1
    value: float | None = None
    text: str = ""
    refers: str | None = None
    f_number: float | None = None
    shutter_s: float | None = None
    iso: float | None = None


def merged(*logs: Iterable[FieldEvent]) -> tuple[FieldEvent, ...]:
    """Return the union of logs, each event once as it came first, in the order in which they happened; what two
    devices noted at one instant by device and id.
    """
    found: dict[str, FieldEvent] = {}
    for log in logs:
        for event in log:
            # An event never changes: the first version received is kept.
            found.setdefault(event.id, event)
    return tuple(sorted(found.values(), key=lambda event: (event.at_utc, event.device, event.id)))


def standing(events: Iterable[FieldEvent]) -> tuple[FieldEvent, ...]:
    """Return the effective events: neither undone nor undo events themselves.

    A undoing that is itself undone counts no more.
    """
    ordered = merged(events)
    gone: set[str] = set()
    # An undo happens after the event it undoes: from the last to the first, each is known to be in effect or not.
    for event in reversed(ordered):
        if event.kind == EventKind.UNDONE and event.refers is not None and event.id not in gone:
            gone.add(event.refers)
    return tuple(event for event in ordered if event.kind != EventKind.UNDONE and event.id not in gone)
