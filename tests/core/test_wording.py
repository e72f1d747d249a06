"""Catalogues of sentences: one code each, made nowhere else, and figures that go out as plain JSON."""

import ast
import math
from datetime import UTC, date, datetime
from pathlib import Path

import pytest

import lucid_ridge.core.outing.plan
import lucid_ridge.core.planning.plan
import lucid_ridge.core.planning.tones.reasons
from lucid_ridge.core.planning.focus import wording as focus
from lucid_ridge.core.planning.reasons import plain_figures
from lucid_ridge.core.planning.verdicts import FAILS
from lucid_ridge.core.planning.wording import Catalogue, after_colon, ended, joined, plural, stops
from lucid_ridge.core.units.spelling import Lengths, LocalTime

CORE = Path(lucid_ridge.core.planning.plan.__file__).parents[2]


def test_every_code_names_one_sentence():
    codes = [code for catalogue in Catalogue.every() for code in catalogue.codes]
    assert len(codes) > 200
    assert len(codes) == len(set(codes))


def test_a_sentence_knows_its_code_its_figures_and_its_step():
    reason = focus.range_soft(focused_m=1.2, times_limit=2.1).fails("depth_method")
    assert (reason.code, reason.step, reason.severity, reason.dial) == (
        "focus.range_soft",
        "depth",
        FAILS,
        "depth_method",
    )
    assert reason.figures == {"focused_m": 1.2, "times_limit": 2.1}
    assert (
        reason.text
        == "One frame focused at 1.20 m is too soft at the ends (2.1× the limit): stop down or take a stack."
    )


def test_reasons_are_made_by_catalogues_alone():
    seen = 0
    for path in CORE.rglob("*.py"):
        for node in ast.walk(ast.parse(path.read_text())):
            if isinstance(node, ast.Call) and isinstance(node.func, ast.Name) and node.func.id == "Reason":
                seen += 1
                assert path == CORE / "planning" / "wording.py", (
                    f"{path}:{node.lineno} makes a reason without a catalogue"
                )
    assert seen == 1


def test_parts_of_sentences():
    assert (plural(1, "frame"), plural(3, "frame"), plural(2, "try", "tries")) == ("1 frame", "3 frames", "2 tries")
    assert (stops(0.34), stops(1.0), stops(1, 0), stops(2, 0)) == ("0.3 stops", "1.0 stops", "1 stop", "2 stops")
    assert [joined(list(parts)) for parts in ("", "a", "ab", "abc")] == ["", "a", "a and b", "a, b and c"]
    assert [ended(text) for text in ("", " wet ", "Why?", "so …")] == ["", "wet.", "Why?", "so …"]
    assert (after_colon(" note "), after_colon("  ")) == (": note", "")


def test_figures_go_out_as_plain_json():
    noon = LocalTime(datetime(2026, 6, 1, 12, tzinfo=UTC), date(2026, 6, 1))
    figures = {
        "at": noon,
        "on": date(2026, 6, 1),
        "far_m": math.inf,
        "kind": Lengths.FEET,
        "legs": (("in", noon), 2),
        "none": None,
    }
    assert plain_figures(figures) == {
        "at": "2026-06-01T12:00:00+00:00",
        "on": "2026-06-01",
        "far_m": None,
        "kind": "feet",
        "legs": [["in", "2026-06-01T12:00:00+00:00"], 2],
        "none": None,
    }
    with pytest.raises(TypeError, match="set is no figure"):
        plain_figures({"ids": {1}})
