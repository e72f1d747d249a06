"""Finding anything by words, and shots by their settings."""

import pytest


def _found(api, words):
    return [(item["kind"], item["label"]) for item in api.get(f"/find?words={words}")["found"]]


def test_rows_of_every_kind(api):
    assert ("shot", "Posts at the ebb") in _found(api, "posts at")
    assert any(kind == "location" and name.startswith("Blackwater") for kind, name in _found(api, "blackwater"))
    assert any(kind == "kit" for kind, _ in _found(api, "10-stop"))
    assert any(kind == "outing" for kind, _ in _found(api, "bog at first"))
    entry = api.get("/log")["entries"][0]["name"]
    assert ("entry", entry) in _found(api, entry)
    assert _found(api, "no such thing anywhere") == [] and _found(api, " ") == []


def test_shots_by_settings(api):
    api.get("/notebook")
    shot = api.shot_id("Posts at the ebb")
    facts = api.get(f"/shots/{shot}")["facts"]
    assert facts["depth"]["f_number"] == pytest.approx(16)
    assert ("shot", "Posts at the ebb") in _found(api, "f/16")
    assert ("shot", "Posts at the ebb") in _found(api, "Dec")
    assert ("shot", "Posts at the ebb") in _found(api, "ten stops") and ("shot", "Posts at the ebb") in _found(
        api, "10 stops"
    )
    marks = {item["name"]: [v["mark"] for v in item["verdicts"]] for item in api.get("/notebook")["shots"]}
    tight = {name for kind, name in _found(api, "tight") if kind == "shot"}
    assert tight and all("tight" in marks[name] for name in tight if name in marks)


def test_signs_of_patterns_are_only_signs(api):
    assert ("shot", "Posts at the ebb") not in _found(api, "P%25b")
    api.get(f"/find?words={'x' * 201}", 422)
