"""The blend sheet as a table, as JSON, and as XMP sidecars, one for each frame.

Sources: [1] ISO 16684-1:2019, XMP: rdf:Description with dc:subject as an rdf:Bag of keywords; [2] RFC 4180, CSV.
"""

from __future__ import annotations

import csv
import io
import json
import zipfile
from collections.abc import Sequence
from xml.etree.ElementTree import Element, SubElement, register_namespace, tostring

from ..core.planning.sequence.blend_sheet import BlendRow, BlendSheet
from ..core.planning.sequence.timeline import Frame
from .csv_points import guarded

MEDIA_TYPES = {"csv": "text/csv", "json": "application/json", "zip": "application/zip"}
SHEET_VERSION = 1
_RDF, _DC, _X = "http://www.w3.org/1999/02/22-rdf-syntax-ns#", "http://purl.org/dc/elements/1.1/", "adobe:ns:meta/"
# A fixed date in every sidecar, so that the same sheet gives the same file.
_MADE = (2000, 1, 1, 0, 0, 0)
for _prefix, _space in (("rdf", _RDF), ("dc", _DC), ("x", _X)):
    register_namespace(_prefix, _space)


def write_sheet(ending: str, name: str, sheet: BlendSheet, frames: Sequence[Frame]) -> bytes:
    """Return a shot's blend sheet as csv, json, or a zip of sidecars. name: of the shot."""
    return {"csv": _csv, "json": _json, "zip": _sidecars}[ending](name, sheet, frames)


def _csv(name: str, sheet: BlendSheet, frames: Sequence[Frame]) -> bytes:
    """Return one line per frame. Source: [2]."""
    text = io.StringIO()
    table = csv.writer(text, lineterminator="\r\n")
    table.writerow(
        ["shot", "frame", "group", "role", "focus_m", "rail_mm", "aperture", "shutter_s", "iso", "filters", *_STEPS]
    )
    for row, frame in _in_order(sheet, frames):
        rail = "" if frame.rail_mm is None else f"{frame.rail_mm:.3f}"
        table.writerow(
            [
                guarded(name),
                frame.number,
                guarded(row.group.called),
                row.group.role,
                f"{frame.focus_distance_m:.4f}",
                rail,
                f"{frame.f_number:.2f}",
                f"{frame.shutter_s:.6g}",
                f"{frame.iso:g}",
                guarded(" + ".join(frame.filters)),
                *_set_numbers(row, frame.number),
            ]
        )
    return text.getvalue().encode()


_STEPS = ("first_set", "second_set", "third_set", "fourth_set")


def _set_numbers(row: BlendRow, number: int) -> list[str]:
    """Return which set of each step of its group a frame belongs to: the action and the set's number."""
    found = [
        f"{step.how} {1 + next(at for at, numbers in enumerate(step.sets) if number in numbers)}" for step in row.steps
    ]
    return found + [""] * (len(_STEPS) - len(found))


def _json(name: str, sheet: BlendSheet, frames: Sequence[Frame]) -> bytes:
    by_number = {frame.number: frame for frame in frames}
    groups = [
        {
            "name": row.group.called, "role": row.group.role,
            "frames": [_frame(by_number[number]) for number in row.frames],
            "steps": [{"how": step.how, "sets": [list(numbers) for numbers in step.sets]} for step in row.steps],
        }
        for row in sheet.rows
    ]  # fmt: skip
    return json.dumps(
        {"version": SHEET_VERSION, "shot": name, "groups": groups, "together": sheet.last}, ensure_ascii=False, indent=1
    ).encode()


def _frame(frame: Frame) -> dict[str, object]:
    return {
        "number": frame.number,
        "focus_m": round(frame.focus_distance_m, 4),
        "rail_mm": frame.rail_mm,
        "aperture": round(frame.f_number, 2),
        "shutter_s": frame.shutter_s,
        "iso": frame.iso,
        "filters": list(frame.filters),
        "bearing_deg": frame.aim.bearing_deg if frame.aim else None,
        "pitch_deg": frame.aim.pitch_deg if frame.aim else None,
    }


def _sidecars(name: str, sheet: BlendSheet, frames: Sequence[Frame]) -> bytes:
    """Return a zip of one sidecar per frame, in order. Source: [1]."""
    made = io.BytesIO()
    with zipfile.ZipFile(made, "w", zipfile.ZIP_DEFLATED) as archive:
        for row, frame in _in_order(sheet, frames):
            words = [
                name,
                row.group.called,
                row.group.role.label,
                f"frame {frame.number} of {len(frames)}",
                *(item for item in _set_numbers(row, frame.number) if item),
            ]
            archive.writestr(zipfile.ZipInfo(f"frame-{frame.number:04d}.xmp", _MADE), _xmp(words))
    return made.getvalue()


def _xmp(words: Sequence[str]) -> bytes:
    root = Element(f"{{{_X}}}xmpmeta")
    about = SubElement(SubElement(root, f"{{{_RDF}}}RDF"), f"{{{_RDF}}}Description", {f"{{{_RDF}}}about": ""})
    bag = SubElement(SubElement(about, f"{{{_DC}}}subject"), f"{{{_RDF}}}Bag")
    for word in dict.fromkeys(words):
        SubElement(bag, f"{{{_RDF}}}li").text = "".join(sign for sign in word if sign >= " ")
    return bytes(tostring(root, encoding="utf-8", xml_declaration=True))


def _in_order(sheet: BlendSheet, frames: Sequence[Frame]) -> list[tuple[BlendRow, Frame]]:
    rows = {number: row for row in sheet.rows for number in row.frames}
    return [(rows[frame.number], frame) for frame in frames]
