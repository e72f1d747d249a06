"""Blend sheets as files, read back by the standard library's readers."""

import csv
import io
import json
import zipfile
from xml.etree.ElementTree import fromstring

import pytest
from sample_shot import FULL

from lucid_ridge.core.facts.frame_groups import FrameGroup, Role, Together
from lucid_ridge.core.facts.shot import changed
from lucid_ridge.core.planning.plan.shot_plan import plan_shot
from lucid_ridge.core.planning.sequence.blend_sheet import blend_sheet
from lucid_ridge.formats.blend_sheets import write_sheet

# ISO 16684-1: keywords stand in dc:subject as an rdf:Bag.
RDF, DC = "{http://www.w3.org/1999/02/22-rdf-syntax-ns#}", "{http://purl.org/dc/elements/1.1/}"
NAME = '=HYPERLINK("x") <Posts & "ebb">\n'


@pytest.fixture(scope="module")
def step():
    group = FrameGroup(Role.STACK, "near & far", together=Together.STACK)
    return plan_shot(changed(FULL, frame_groups=(group,))).sequence


def test_a_table_has_a_line_for_each_frame_and_no_formula(step):
    text = write_sheet("csv", NAME, blend_sheet(step), step.frames).decode()
    rows = list(csv.DictReader(io.StringIO(text)))
    assert [int(row["frame"]) for row in rows] == [frame.number for frame in step.frames]
    assert rows[0]["shot"].startswith("'=")
    assert [row["first_set"] for row in rows] == ["stack 1"] * len(rows)
    assert float(rows[0]["focus_m"]) == pytest.approx(step.frames[0].focus_distance_m, abs=1e-4)


def test_json_says_the_same(step):
    read = json.loads(write_sheet("json", NAME, blend_sheet(step), step.frames))
    assert (read["version"], read["shot"], read["together"]) == (1, NAME, None)
    assert [frame["number"] for frame in read["groups"][0]["frames"]] == [frame.number for frame in step.frames]
    assert read["groups"][0]["steps"] == [{"how": "stack", "sets": [[frame.number for frame in step.frames]]}]


def test_sidecars_carry_their_keywords(step):
    content = write_sheet("zip", NAME, blend_sheet(step), step.frames)
    assert content == write_sheet("zip", NAME, blend_sheet(step), step.frames)
    with zipfile.ZipFile(io.BytesIO(content)) as archive:
        assert archive.namelist() == [f"frame-{frame.number:04d}.xmp" for frame in step.frames]
        words = [item.text for item in fromstring(archive.read("frame-0002.xmp")).iter(f"{RDF}li")]
        assert next(fromstring(archive.read("frame-0001.xmp")).iter(f"{DC}subject")) is not None
    assert words == [NAME.strip("\n"), "near & far", "whole stack", f"frame 2 of {len(step.frames)}", "stack 1"]
