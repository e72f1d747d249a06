"""Make the answers that the page Now has without a network: python tools/now_tables.py."""

from __future__ import annotations

import json
import math
import sys
from itertools import product
from pathlib import Path
from typing import Any

ROOT = Path(__file__).resolve().parents[1]
sys.path.insert(0, str(ROOT / "src"))

from lucid_ridge.core.now.answer import Answer  # noqa: E402
from lucid_ridge.core.now.bracket import bracket_now, range_ends  # noqa: E402
from lucid_ridge.core.now.depth import depth_now  # noqa: E402
from lucid_ridge.core.now.formats import body_of  # noqa: E402
from lucid_ridge.core.now.neutral_density import behind_filters  # noqa: E402
from lucid_ridge.core.now.stars import stars_now  # noqa: E402
from lucid_ridge.core.units.lengths import parse_distance_m, parse_length_mm  # noqa: E402
from lucid_ridge.core.units.markings import SHUTTER_MARKINGS, parse_aperture, parse_shutter  # noqa: E402
from lucid_ridge.core.units.stops import parse_filter_stops  # noqa: E402

TABLES = ROOT / "web" / "src" / "now" / "tables.json"
SHUTTERS = [mark.label.removesuffix(" s") for mark in SHUTTER_MARKINGS][6:]
STOPS = ["1", "2", "3", "4", "6", "6.6", "7", "9", "10", "13", "15", "16", "20", "nd8", "nd64", "nd1000"]
FOCALS = ["14", "16", "18", "20", "24", "28", "35", "50", "70", "85", "100", "135", "200"]
APERTURES = ["2.8", "4", "5.6", "8", "11", "16"]
NEAR = ["0.3", "0.4", "0.5", "0.6", "0.8", "1", "1.5", "2", "3", "5", "10"]
ENDS = "1/4000 1/2000 1/1000 1/500 1/250 1/125 1/60 1/30 1/15 1/8 1/4 1/2 1 2 4 8".split()
WIDE = ["1.4", "1.8", "2", "2.8", "4"]


def answer_to(key: str, *texts: str) -> Answer:
    """Return the core's answer to texts of a table."""
    if key == "density":
        return behind_filters(parse_shutter(_seconds(texts[0])), parse_filter_stops(texts[1])).answer
    if key == "depth":
        near_m, far_m = parse_distance_m(texts[2]), math.inf
        return depth_now(parse_length_mm(texts[0]), parse_aperture(texts[1]), near_m, far_m, body_of("full")).answer
    if key == "bracket":
        return bracket_now(*range_ends(_seconds(texts[0]), _seconds(texts[1]))).answer
    return stars_now(parse_length_mm(texts[0]), parse_aperture(texts[1]), body_of("full")).answer


def _seconds_of(key: str, texts: tuple[str, ...]) -> list[float]:
    """Return the time to count down [s], where there is one."""
    if key != "density":
        return []
    found = behind_filters(parse_shutter(_seconds(texts[0])), parse_filter_stops(texts[1]))
    return [float(f"{found.open_s:.4g}")]


def _seconds(text: str) -> str:
    return text if "/" in text else f"{text} s"


FIELDS: dict[str, list[tuple[str, list[str]]]] = {
    "density": [("shutter", SHUTTERS), ("filters", STOPS)],
    "depth": [("focal_mm", FOCALS), ("f_number", APERTURES), ("near_m", NEAR), ("far", ["inf"])],
    "bracket": [("darkest", ENDS[::-1]), ("brightest", ENDS), ("holds", ["11"])],
    "stars": [("focal_mm", FOCALS), ("f_number", WIDE)],
}
WHERE_THEY_END = {
    "density": "the tables know times in thirds of a stop from 1/4000 to 30 s, the filters "
    f"{', '.join(STOPS[:-3])} stops, ND8, ND64 and ND1000, steady light, no film.",
    "depth": f"the tables know full frame, {', '.join(FOCALS)} mm, f/{', '.join(APERTURES)}, near from "
    f"{', '.join(NEAR)} m, far at infinity.",
    "bracket": "the tables know whole stops from 1/4000 to 8 s, 11 stops in a frame, 2 EV apart.",
    "stars": f"the tables know full frame of 24 megapixels, {', '.join(FOCALS)} mm, f/{', '.join(WIDE)}.",
}


def table(key: str) -> dict[str, Any]:
    """Return a question's table: the texts known of each field, and figure and words of every combination."""
    answers = []
    for texts in product(*(known for _, known in FIELDS[key])):
        try:
            found = answer_to(key, *texts)
            answers.append([found.figure, found.words, *_seconds_of(key, texts)])
        except ValueError as error:
            answers.append(["none", str(error)])
    return {"fields": FIELDS[key], "answers": answers, "ends": WHERE_THEY_END[key]}


if __name__ == "__main__":
    TABLES.write_text(json.dumps({key: table(key) for key in FIELDS}, ensure_ascii=False, separators=(",", ":")) + "\n")
