"""Cures and workings over HTTP: the patch of a cure does what it says, and figures are those of the plan."""


def _codes(plan):
    return {(item["step"], item["code"]) for item in plan["because"] if item["severity"] in ("fails", "tight")}


def test_a_cure_is_a_patch(api):
    shot = api.shot_id("Posts at the ebb")
    before = api.patch(f"/shots/{shot}", {"roll_deg": 4.0})
    cure = next(item for item in api.get(f"/shots/{shot}/cures")["cures"] if item["code"] == "composition.not_level")
    assert cure["words"] == "level the camera"
    after = api.call("PATCH", f"/shots/{shot}", cure["choices"])
    assert (cure["step"], cure["code"]) not in _codes(after["plan"])
    assert (cure["step"], cure["code"]) in _codes(before["plan"])


def test_every_cure_of_the_demo_does_what_it_says(api):
    cured = 0
    for entry in api.get("/notebook")["shots"]:
        for cure in api.get(f"/shots/{entry['id']}/cures")["cures"]:
            copy = api.post(f"/shots/{entry['id']}/copy", {})["id"]
            texts = {item["text"] for item in api.call("PATCH", f"/shots/{copy}", cure["choices"])["plan"]["because"]}
            assert cure["text"] not in texts, (entry["name"], cure)
            cured += 1
    assert cured


def test_a_shot_that_is_not_there(api):
    api.get("/shots/2147483647/cures", 404)


def test_workings_of_a_shot(api):
    shot = api.shot_id("Posts at the ebb")
    found = {item["figure"]: item for item in api.get(f"/shots/{shot}/workings")["workings"]}
    assert {"hyperfocal", "worst_blur", "diffraction", "shutter", "light"} <= set(found)
    plan = api.get(f"/shots/{shot}")["plan"]
    assert found["hyperfocal"]["result"] == plan["depth"]["hyperfocal"]["label"]
    assert all(item["given"] and item["formula"] and item["source"] for item in found.values())
