"""The preference of the photographer reaches every sentence of an answer, and nothing that is kept."""

import re

import pytest


@pytest.fixture
def american(api):
    api.patch("/photographer", {"lengths": "feet", "hours": "12", "day_order": "month_first", "dial_steps": "halves"})
    return api


def _texts(found):
    if isinstance(found, dict):
        for name, value in found.items():
            if name != "zone":
                yield from _texts(value)
    elif isinstance(found, list):
        for value in found:
            yield from _texts(value)
    elif isinstance(found, str):
        yield found


# Coordinates, file formats and what is kept stay metric: instants, dates, names.
METRIC = re.compile(r"\d ?(m|km|cm)\b(?!/s)")


def test_no_metre_and_no_24_hour_clock_is_left_in_a_plan(american):
    for name in ("Posts at the ebb", "Split boulder under the fell", "Layered riggs", "Midnight sun over the sound"):
        shot = american.get(f"/shots/{american.shot_id(name)}")
        day = american.get(f"/shots/{shot['id']}/day")
        for text in _texts([shot["plan"], shot["facts"]["labels"], day]):
            # Instants, and keys such as air:11:13, are for the page alone.
            if not re.match(r"\d{4}-\d\d-\d\d|[a-z]+:\d", text):
                assert not METRIC.search(text), text
                assert not re.search(r"\b([01]\d|2[0-3]):[0-5]\d\b(?! [ap]m)", text), text


def test_the_notebook_speaks_as_is_preferred_too(api):
    before = [shot["verdicts"] for shot in api.get("/notebook")["shots"]]
    assert any(METRIC.search(verdict["text"]) for verdicts in before for verdict in verdicts)
    api.patch("/photographer", {"lengths": "feet", "hours": "12"})
    after = api.get("/notebook")["shots"]
    assert not any(METRIC.search(verdict["text"]) for shot in after for verdict in shot["verdicts"])
    api.patch("/photographer", {"lengths": "metres", "hours": "24"})
    assert [shot["verdicts"] for shot in api.get("/notebook")["shots"]] == before


def test_values_are_kept_as_ever(american):
    shot = american.shot_id("Posts at the ebb")
    facts = american.patch(
        f"/shots/{shot}", {"near_m": "6′ 2″", "date_local": "Nov 24, 2026", "clock_local": "4:05 pm"}
    )["facts"]
    assert facts["depth"]["near_m"] == pytest.approx(1.8796)
    assert facts["labels"]["near_m"] == "6′ 2″"
    assert facts["light"]["date_local"] == "2026-11-24"
    assert facts["light"]["clock_local"] == "4:05 pm"


def test_a_preference_that_is_none_is_refused(api):
    api.refusal("PATCH", "/photographer", {"lengths": "ells"}, "lengths")
    api.refusal("PATCH", "/photographer", {"dial_steps": "quarters"}, "dial_steps")
