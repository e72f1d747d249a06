"""The frames of a shot: their small pictures, and the blend sheet."""

from __future__ import annotations

import re
from typing import Any

from apiflask import APIBlueprint
from flask import Response

from ...formats.blend_sheets import MEDIA_TYPES, write_sheet
from ...formats.tonal_png import as_data_url, tonal_png
from ...operations.platform.errors import NotFound
from ...operations.shots.sequences import pictures_for, sheet_for
from ..platform.context import context
from ..platform.files import answers_with, file_response
from .present.frame import aim_label
from .schemas import sequence as schemas

sequences = APIBlueprint("sequences", __name__, url_prefix="/api")


@sequences.get("/shots/<int:shot_id>/frames/pictures")
@sequences.output(schemas.FramePicturesOut)
def frame_pictures(shot_id: int) -> Any:
    """The picture of each frame in its own tones: one for each aim and brightness."""
    here = context()
    return schemas.FramePicturesOut(
        pictures=[
            schemas.FramePictureOut(
                brightest_ev=item.brightest_ev,
                aim_label=aim_label(item.aim) if item.aim else None,
                picture=as_data_url(tonal_png(item.tones)),
            )
            for item in pictures_for(here.session, here.owner_id, shot_id)
        ]
    )


@sequences.get("/shots/<int:shot_id>/blend-sheet")
@sequences.output(schemas.BlendSheetOut)
def blend_sheet(shot_id: int) -> Any:
    """Which frames belong together, and how they become one picture."""
    here = context()
    found = sheet_for(here.session, here.owner_id, shot_id).sheet
    return schemas.BlendSheetOut(
        rows=[
            schemas.BlendRowOut(
                called=row.group.called,
                role=row.group.role,
                frames_words=row.span,
                count=len(row.frames),
                steps=[step.words for step in row.steps],
            )
            for row in found.rows
        ],
        last=found.last,
    )


@sequences.get("/shots/<int:shot_id>/blend-sheet/<ending>")
@answers_with(*MEDIA_TYPES.values())
def blend_sheet_file(shot_id: int, ending: str) -> Response:
    """The blend sheet as a file: csv, json, or a zip of XMP sidecars."""
    if ending not in MEDIA_TYPES:
        raise NotFound("kind of file")
    here = context()
    found = sheet_for(here.session, here.owner_id, shot_id)
    plain = re.sub(r"[^a-z0-9]+", "-", found.name.lower()).strip("-") or "shot"
    content = write_sheet(ending, found.name, found.sheet, found.frames)
    return file_response(content, MEDIA_TYPES[ending], f"{plain}-blend-sheet.{ending}")
