"""Frames that were taken, for post-processing: a sheet with the files' names, and XMP sidecars with ratings. Originals
are never changed.

Sources: [1] ISO 16684-1:2019, XMP: xmp:Rating from −1 (rejected) to 5, xmp:Label, dc:subject; [2] RFC 4180, CSV.
"""

from __future__ import annotations

import csv
import io
import json
import zipfile
from collections.abc import Sequence
from dataclasses import dataclass
from xml.etree.ElementTree import Element, SubElement, register_namespace, tostring

from ..core.facts.log import Outcome
from .csv_points import guarded

MEDIA_TYPES = {"csv": "text/csv", "json": "application/json", "zip": "application/zip"}
SHEET_VERSION = 1
_RDF, _DC, _X, _XMP = (
    "http://www.w3.org/1999/02/22-rdf-syntax-ns#",
    "http://purl.org/dc/elements/1.1/",
    "adobe:ns:meta/",
    "http://ns.adobe.com/xap/1.0/",
)
_MADE = (2000, 1, 1, 0, 0, 0)
for _prefix, _space in (("rdf", _RDF), ("dc", _DC), ("x", _X), ("xmp", _XMP)):
    register_namespace(_prefix, _space)
# The rating of a decision, if the frame has no stars. Source: [1].
_RATING = {Outcome.KEEP: 4, Outcome.MAYBE: 2, Outcome.DROP: -1, Outcome.OPEN: 0}


@dataclass(frozen=True)
class TakenFile:
    """A file, and its role in the picture. steps: its set in each step of merging, in words."""

    file_name: str
    group: str
    role: str
    planned: str
    shutter_s: float | None
    f_number: float | None
    iso: float | None
    filters: tuple[str, ...]
    steps: tuple[str, ...]
    curation: Outcome
    stars: int | None


def write_taken(ending: str, name: str, together: str | None, files: Sequence[TakenFile]) -> bytes:
    """Return the frames as csv, json, or a zip of sidecars. together: how the results of the groups are merged."""
    if ending == "csv":
        return _csv(name, files)
    return _json(name, together, files) if ending == "json" else _sidecars(name, files)


def rating_of(file: TakenFile) -> int:
    """Return a file's rating, −1 to 5: its stars unless it was dropped, else its decision."""
    return file.stars if file.stars is not None and file.curation != Outcome.DROP else _RATING[file.curation]


def _csv(name: str, files: Sequence[TakenFile]) -> bytes:
    text = io.StringIO()
    table = csv.writer(text, lineterminator="\r\n")
    table.writerow(
        [
            "shot",
            "file",
            "group",
            "role",
            "planned_frame",
            "shutter_s",
            "aperture",
            "iso",
            "filters",
            "put_together",
            "decision",
            "rating",
        ]
    )
    for file in files:
        figures = [f"{value:.6g}" if value is not None else "" for value in (file.shutter_s, file.f_number, file.iso)]
        table.writerow(
            [
                guarded(name),
                guarded(file.file_name),
                guarded(file.group),
                file.role,
                file.planned,
                *figures,
                guarded(" + ".join(file.filters)),
                "; ".join(file.steps),
                str(file.curation),
                rating_of(file),
            ]
        )
    return text.getvalue().encode()


def _json(name: str, together: str | None, files: Sequence[TakenFile]) -> bytes:
    listed = [
        {
            "file": file.file_name,
            "group": file.group,
            "role": file.role,
            "planned_frame": file.planned,
            "shutter_s": file.shutter_s,
            "aperture": file.f_number,
            "iso": file.iso,
            "filters": list(file.filters),
            "put_together": list(file.steps),
            "decision": str(file.curation),
            "rating": rating_of(file),
        }
        for file in files
    ]
    return json.dumps(
        {"version": SHEET_VERSION, "shot": name, "together": together, "files": listed}, ensure_ascii=False, indent=1
    ).encode()


def _sidecars(name: str, files: Sequence[TakenFile]) -> bytes:
    """Return a zip of one sidecar per file, named as raw converters expect: the file's name with extension xmp."""
    made = io.BytesIO()
    used: set[str] = set()
    with zipfile.ZipFile(made, "w", zipfile.ZIP_DEFLATED) as archive:
        for file in files:
            stem = (
                "".join(
                    sign
                    for sign in file.file_name.rpartition(".")[0] or file.file_name
                    if sign.isprintable() and sign not in '/\\:*?"<>|'
                )
                or "file"
            )
            # A raw file and its JPEG share one sidecar.
            if stem in used:
                continue
            used.add(stem)
            archive.writestr(zipfile.ZipInfo(f"{stem}.xmp", _MADE), _xmp(name, file))
    return made.getvalue()


def _xmp(name: str, file: TakenFile) -> bytes:
    root = Element(f"{{{_X}}}xmpmeta")
    about = SubElement(
        SubElement(root, f"{{{_RDF}}}RDF"),
        f"{{{_RDF}}}Description",
        {f"{{{_RDF}}}about": "", f"{{{_XMP}}}Rating": str(rating_of(file))},
    )
    if file.curation != Outcome.OPEN:
        about.set(f"{{{_XMP}}}Label", str(file.curation))
    bag = SubElement(SubElement(about, f"{{{_DC}}}subject"), f"{{{_RDF}}}Bag")
    for word in dict.fromkeys(item for item in (name, file.group, file.role, *file.steps) if item):
        SubElement(bag, f"{{{_RDF}}}li").text = "".join(sign for sign in word if sign >= " ")
    return bytes(tostring(root, encoding="utf-8", xml_declaration=True))
