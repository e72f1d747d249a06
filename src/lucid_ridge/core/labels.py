"""Labels of named choices, in one place: what a sentence or a screen calls a value.

Values themselves are neutral names.

A label that is missing here is the value with spaces for underscores.
"""

from __future__ import annotations

from enum import StrEnum

# By enum and value, where the label is not the value with spaces.
LABELS: dict[str, dict[str, str]] = {
    "Leaning": {
        "even": "balanced",
    },
    "MovingKind": {
        "plants": "plants in the wind",
    },
    "AccessoryKind": {
        "close_up_lens": "close-up lens",
        "led_light": "LED light",
    },
    "CalibrationKind": {
        "set_up_time": "set-up time",
        "hand_series": "series by hand",
    },
    "GroupExposure": {
        "all": "all exposures",
        "main": "the main one",
        "darkest": "the darkest",
        "brightest": "the brightest",
        "shortest": "the shortest",
        "own": "a time of its own",
    },
    "GroupFilters": {
        "planned": "as planned",
        "no_density": "without neutral density",
        "none": "no filter",
        "chosen": "chosen ones",
    },
    "GroupFocus": {
        "all": "all positions",
        "nearest": "the nearest",
        "middle": "the middle one",
        "farthest": "the farthest",
        "position": "one by its number",
        "element": "on an element",
        "distance": "at a distance",
    },
    "GroupStart": {
        "clock": "at a clock time",
        "moment": "at a moment",
    },
    "Moment": {
        "light_begins": "the light begins",
        "light_ends": "the light ends",
        "sun_on_rim": "the sun on the rim",
        "sun_behind_land": "the sun behind the land",
    },
    "Role": {
        "whole": "whole picture",
        "stack": "whole stack",
        "empty": "empty of people",
    },
    "Together": {
        "lighten": "keep the brightest",
        "alone": "as it is",
        "merge": "merge exposures",
        "best": "choose the best",
    },
    "WentWrong": {
        "late": "came too late",
        "cloud": "cloud in the way",
        "wind": "wind moved it",
        "shake": "camera shake",
        "focus": "focus missed",
        "clipped": "highlights clipped",
        "dark": "too dark",
        "water": "water not as wanted",
        "tide": "tide too high or low",
        "forgotten": "something forgotten",
        "people": "people in the frame",
        "filter": "filter left on or off",
    },
    "NotebookOrder": {
        "next": "what comes next",
    },
    "Horizon": {
        "land": "lower land",
    },
    "OpeningDays": {
        "monday_to_friday": "Monday to Friday",
        "weekend": "Saturday and Sunday",
        "monday": "Monday",
        "tuesday": "Tuesday",
        "wednesday": "Wednesday",
        "thursday": "Thursday",
        "friday": "Friday",
        "saturday": "Saturday",
        "sunday": "Sunday",
    },
    "Stake": {
        "strong": "strong wish",
    },
    "FailureKind": {
        "busy": "still writing",
    },
    "Exercise": {
        "time_behind_filter": "time behind a filter",
        "shutter_for_look": "the shutter for a look",
        "histogram": "reading a histogram",
        "shutter_ladder": "shutter ladder on moving water",
        "leaning_in": "leaning in by a beat",
    },
    "Material": {
        "dark_rock": "dark or wet rock",
        "lichen": "lichen on rock",
        "peat": "peat and heath",
        "leaves": "broad leaves",
        "wood": "weathered wood",
        "petals": "pale petals",
        "dark_petals": "deep red or blue petals",
        "peat_water": "peat-brown water",
    },
    "Cause": {
        "back": "back too late",
        "walk": "walk too long",
        "night": "night too short",
        "worthless": "worth nothing",
    },
    "Travel": {
        "hour": "within an hour's drive",
        "three_hours": "within three hours' drive",
        "far": "farther than three hours' drive",
        "unknown": "drive not known",
    },
    "Told": {
        "usual": "usual for its kind",
        "log": "by the log",
        "wind": "from the forecast wind",
    },
    "PlanKind": {
        "now": "as it stands",
    },
    "GroupKind": {
        "series": "stack or panorama",
    },
    "TableClock": {
        "local": "local time",
        "winter": "winter time all year",
        "utc": "UTC",
    },
    "SignInOutcome": {
        "wrong": "wrong name or password",
        "too_many": "too many tries",
    },
}

# Texts by which values were stored before version 0.23, still found in archives, files and on devices.
FORMER: dict[str, dict[str, str]] = {
    "MovingKind": {
        "plants in the wind": "plants",
    },
    "AccessoryKind": {
        "extension tube": "extension_tube",
        "close-up lens": "close_up_lens",
        "reversing ring": "reversing_ring",
        "view camera bellows": "view_camera_bellows",
        "LED light": "led_light",
        "background card": "background_card",
    },
    "CalibrationKind": {
        "filter cost": "filter_cost",
        "light offset": "light_offset",
        "look band": "look_band",
        "hand held": "hand_held",
        "water speed": "water_speed",
        "set-up time": "set_up_time",
        "walking time": "walking_time",
        "filter change": "filter_change",
        "series by hand": "hand_series",
    },
    "BracketMode": {
        "land and sky": "land_and_sky",
        "frozen and long": "frozen_and_long",
    },
    "Hold": {
        "bean bag": "bean_bag",
    },
    "GroupExposure": {
        "all exposures": "all",
        "the main one": "main",
        "the darkest": "darkest",
        "the brightest": "brightest",
        "the shortest": "shortest",
        "a time of its own": "own",
    },
    "GroupFilters": {
        "as planned": "planned",
        "without neutral density": "no_density",
        "no filter": "none",
        "chosen ones": "chosen",
    },
    "GroupFocus": {
        "all positions": "all",
        "the nearest": "nearest",
        "the middle one": "middle",
        "the farthest": "farthest",
        "one by its number": "position",
        "on an element": "element",
        "at a distance": "distance",
    },
    "GroupStart": {
        "at once": "at_once",
        "at a clock time": "clock",
        "at a moment": "moment",
    },
    "Moment": {
        "the light begins": "light_begins",
        "the light ends": "light_ends",
        "civil dawn": "civil_dawn",
        "the sun on the rim": "sun_on_rim",
        "the sun behind the land": "sun_behind_land",
        "civil dusk": "civil_dusk",
        "nautical dusk": "nautical_dusk",
    },
    "Role": {
        "whole picture": "whole",
        "whole stack": "stack",
        "empty of people": "empty",
        "panorama row": "panorama_row",
        "dark frame": "dark_frame",
    },
    "Together": {
        "as it is": "alone",
        "merge exposures": "merge",
        "choose the best": "best",
    },
    "FilterKind": {
        "neutral density": "neutral_density",
    },
    "WentWrong": {
        "came too late": "late",
        "cloud in the way": "cloud",
        "wind moved it": "wind",
        "camera shake": "shake",
        "focus missed": "focus",
        "highlights clipped": "clipped",
        "too dark": "dark",
        "water not as wanted": "water",
        "tide too high or low": "tide",
        "something forgotten": "forgotten",
        "people in the frame": "people",
        "filter left on or off": "filter",
    },
    "NotebookOrder": {
        "what comes next": "next",
    },
    "HazardKind": {
        "slippery rock": "slippery_rock",
        "loose rock": "loose_rock",
    },
    "Horizon": {
        "as typed": "as_typed",
        "lower land": "land",
    },
    "OpeningDays": {
        "every day": "every_day",
        "Monday to Friday": "monday_to_friday",
        "Saturday and Sunday": "weekend",
        "Monday": "monday",
        "Tuesday": "tuesday",
        "Wednesday": "wednesday",
        "Thursday": "thursday",
        "Friday": "friday",
        "Saturday": "saturday",
        "Sunday": "sunday",
    },
    "SeasonKind": {
        "leaf colour": "leaf_colour",
        "river flow": "river_flow",
    },
    "Leaning": {
        "few frames": "few_frames",
    },
    "Stake": {
        "strong wish": "strong",
    },
    "FailureKind": {
        "card full": "card_full",
        "battery empty": "battery_empty",
        "cannot be set": "cannot_be_set",
        "still writing": "busy",
    },
    "EventKind": {
        "set out": "set_out",
        "filter missing": "filter_missing",
        "stands at": "stands_at",
        "countdown started": "countdown_started",
        "countdown stopped": "countdown_stopped",
    },
    "PhaseKind": {
        "dark frame": "dark_frame",
    },
    "Exercise": {
        "counting stops": "counting_stops",
        "time behind a filter": "time_behind_filter",
        "the shutter for a look": "shutter_for_look",
        "hyperfocal distance": "hyperfocal_distance",
        "reading a histogram": "histogram",
        "shutter ladder on moving water": "shutter_ladder",
        "leaning in by a beat": "leaning_in",
    },
    "LightKind": {
        "low side light": "low_side_light",
        "low back light": "low_back_light",
        "low front light": "low_front_light",
        "open shade": "open_shade",
        "blue hour": "blue_hour",
        "dark sky": "dark_sky",
    },
    "Material": {
        "fresh snow": "fresh_snow",
        "old snow": "old_snow",
        "dry sand": "dry_sand",
        "wet sand": "wet_sand",
        "light rock": "light_rock",
        "dark or wet rock": "dark_rock",
        "lichen on rock": "lichen",
        "peat and heath": "peat",
        "broad leaves": "leaves",
        "weathered wood": "wood",
        "pale petals": "petals",
        "deep red or blue petals": "dark_petals",
        "peat-brown water": "peat_water",
    },
    "Cause": {
        "no window": "no_window",
        "back too late": "back",
        "walk too long": "walk",
        "night too short": "night",
        "worth nothing": "worthless",
    },
    "Travel": {
        "within an hour's drive": "hour",
        "within three hours' drive": "three_hours",
        "farther than three hours' drive": "far",
        "drive not known": "unknown",
    },
    "Told": {
        "usual for its kind": "usual",
        "by the log": "log",
        "from the forecast wind": "wind",
    },
    "PlanKind": {
        "as it stands": "now",
        "one frame": "one_frame",
        "fewest filters": "fewest_filters",
    },
    "GroupKind": {
        "stack or panorama": "series",
    },
    "Measure": {
        "low cloud": "low_cloud",
    },
    "TableClock": {
        "local time": "local",
        "winter time all year": "winter",
        "UTC": "utc",
    },
    "SignInOutcome": {
        "signed in": "signed_in",
        "wrong name or password": "wrong",
        "too many tries": "too_many",
        "password changed": "password_changed",
        "password recovered": "password_recovered",
        "signed out": "signed_out",
        "signed out elsewhere": "signed_out_elsewhere",
    },
}


class NamedEnum(StrEnum):
    """An enum with neutral values. `label` is what a sentence calls a value; former texts are still read."""

    @property
    def label(self) -> str:
        """What a sentence calls this value."""
        return LABELS.get(type(self).__name__, {}).get(self.value) or self.value.replace("_", " ")

    @classmethod
    def _missing_(cls, value: object) -> NamedEnum | None:
        name = FORMER.get(cls.__name__, {}).get(value) if isinstance(value, str) else None
        return None if name is None else cls(name)


def label_of(value: str) -> str:
    """Return the label of a named value; other texts are their own label."""
    return value.label if isinstance(value, NamedEnum) else str(value)
