"""The composition bench: tuner, stored framings, backdrop, measuring, and scene files."""

from __future__ import annotations

import re
from datetime import UTC, datetime
from typing import Any

from apiflask import APIBlueprint
from flask import Response

from ...formats.photo import LARGEST_BYTES
from ...formats.scene_files import write_ground_geojson, write_scene_json
from ...operations.platform.errors import NotFound
from ...operations.shots import backdrops, framings, lens_table, measuring, tuner
from ...operations.shots import shots as operations
from ...operations.shots import tones as scene_tones
from ...operations.shots.facts import shot_facts
from ...operations.shots.view import view_shot
from ..platform.context import changes_nothing, context
from ..platform.fact_fields import said
from ..platform.files import answers_with, file_response, sent_file, takes_file
from ..platform.shared_schemas import FileQuery
from .present.framings import present_framings
from .present.lenses import present_lenses
from .present.shots import present_shot
from .present.tones import present_scene, present_tones
from .present.tuned import present_measured, present_tuned
from .schemas import framings as kept
from .schemas import tuning
from .schemas.lenses import LensTableOut
from .schemas.shots import ShotOut
from .schemas.tones import LitSceneOut, TonesOut

frames = APIBlueprint("frames", __name__, url_prefix="/api")


@frames.post("/shots/<int:shot_id>/tune")
@frames.input(tuning.TuneIn, location="json")
@frames.output(tuning.TunedOut)
@changes_nothing
def tune(shot_id: int, json_data: tuning.TuneIn) -> Any:
    """Find the camera that puts the elements where they should be; changes nothing."""
    here = context()
    wish = tuner.TuneWish(
        **{**dict(json_data), "targets": tuple(tuner.TargetWish(**dict(item)) for item in json_data.targets)}
    )
    return present_tuned(tuner.tune_shot(here.session, here.owner_id, shot_id, wish))


@frames.get("/shots/<int:shot_id>/lenses")
@frames.output(LensTableOut)
def lenses(shot_id: int) -> Any:
    """All lenses of the bag for the shot's subject at its size."""
    here = context()
    return present_lenses(lens_table.lenses_for(here.session, here.owner_id, shot_id))


@frames.get("/shots/<int:shot_id>/tones")
@frames.output(TonesOut)
def tones(shot_id: int) -> Any:
    """The picture of a shot in tones: luminances of its scene, and what each frame holds of them."""
    here = context()
    return present_tones(scene_tones.tones_for(here.session, here.owner_id, shot_id))


@frames.get("/shots/<int:shot_id>/scene")
@frames.output(LitSceneOut)
def lit_scene(shot_id: int) -> Any:
    """The scene of a shot as finely divided meshes in its light; refused without body, lens or time."""
    here = context()
    return present_scene(scene_tones.scene_for(here.session, here.owner_id, shot_id))


@frames.get("/shots/<int:shot_id>/framings")
@frames.output(kept.FramingsOut)
def all_framings(shot_id: int) -> Any:
    """The stored framings of a shot, and its earlier ones."""
    here = context()
    return _framings(here, shot_id)


@frames.post("/shots/<int:shot_id>/framings")
@frames.input(kept.FramingIn, location="json")
@frames.output(kept.FramingsOut, status_code=201)
def keep_framing(shot_id: int, json_data: kept.FramingIn) -> Any:
    """Store the current framing."""
    here = context()
    framings.keep_framing(here.session, here.owner_id, shot_id, json_data.name)
    return _framings(here, shot_id)


@frames.post("/framings/<int:framing_id>/take")
@frames.output(ShotOut)
def take_framing(framing_id: int) -> Any:
    """Set the shot to a stored framing."""
    here = context()
    return present_shot(
        view_shot(here.session, here.owner_id, framings.take_framing(here.session, here.owner_id, framing_id))
    )


@frames.post("/shots/<int:shot_id>/framing")
@frames.input(kept.FramingChoices, location="json")
@frames.output(ShotOut)
def take_choices(shot_id: int, json_data: kept.FramingChoices) -> Any:
    """Set the shot to an earlier framing."""
    here = context()
    row = framings.take_choices(here.session, here.owner_id, shot_id, said(json_data))
    return present_shot(view_shot(here.session, here.owner_id, row))


@frames.delete("/framings/<int:framing_id>")
@frames.output({}, status_code=204)
def drop_framing(framing_id: int) -> Any:
    """Delete a stored framing; undo restores it."""
    here = context()
    framings.drop_framing(here.session, here.owner_id, framing_id)
    return ""


@frames.post("/shots/<int:shot_id>/backdrop")
@frames.input(FileQuery, location="query")
@frames.output(ShotOut, status_code=201)
@takes_file(LARGEST_BYTES)
def keep_backdrop(shot_id: int, query_data: FileQuery) -> Any:
    """Put a photograph behind the finder, scaled by its EXIF."""
    here = context()
    backdrops.keep_backdrop(here.session, here.owner_id, shot_id, query_data.file_name, sent_file(), datetime.now(UTC))
    return present_shot(
        view_shot(here.session, here.owner_id, operations.get_shot(here.session, here.owner_id, shot_id))
    )


@frames.patch("/shots/<int:shot_id>/backdrop")
@frames.input(kept.BackdropPatch, location="json")
@frames.output(ShotOut)
def edit_backdrop(shot_id: int, json_data: kept.BackdropPatch) -> Any:
    """Edit the aim, lens or opacity of the photograph."""
    here = context()
    backdrops.edit_backdrop(here.session, here.owner_id, shot_id, json_data.model_dump(exclude_unset=True))
    return present_shot(
        view_shot(here.session, here.owner_id, operations.get_shot(here.session, here.owner_id, shot_id))
    )


@frames.delete("/shots/<int:shot_id>/backdrop")
@frames.output({}, status_code=204)
def drop_backdrop(shot_id: int) -> Any:
    """Remove the photograph."""
    here = context()
    backdrops.drop_backdrop(here.session, here.owner_id, shot_id)
    return ""


@frames.get("/shots/<int:shot_id>/backdrop/picture")
@answers_with("image/jpeg")
def backdrop_picture(shot_id: int) -> Response:
    """The photograph behind the finder."""
    here = context()
    row = backdrops.backdrop_of(here.session, here.owner_id, shot_id)
    if row is None:
        raise NotFound("backdrop")
    return Response(row.content, mimetype="image/jpeg")


@frames.post("/shots/<int:shot_id>/measure")
@frames.input(tuning.MeasureIn, location="json")
@frames.output(tuning.MeasureOut)
@changes_nothing
def measure(shot_id: int, json_data: tuning.MeasureIn) -> Any:
    """Size or distance of something from thumbs at arm's length or pixels of a test frame; changes nothing."""
    here = context()
    return present_measured(
        measuring.measure(here.session, here.owner_id, shot_id, measuring.MeasureWish(**dict(json_data)))
    )


@frames.get("/shots/<int:shot_id>/scene.json")
@answers_with("application/json")
def scene_file(shot_id: int) -> Response:
    """The scene as JSON."""
    return _scene_file(shot_id, write_scene_json, "json", "application/json")


@frames.get("/shots/<int:shot_id>/ground.geojson")
@answers_with("application/geo+json")
def ground_file(shot_id: int) -> Response:
    """The ground plan as GeoJSON in geographic coordinates."""
    return _scene_file(shot_id, write_ground_geojson, "geojson", "application/geo+json")


def _scene_file(shot_id: int, write: Any, ending: str, media_type: str) -> Response:
    here = context()
    shot = operations.get_shot(here.session, here.owner_id, shot_id)
    plain = re.sub(r"[^a-z0-9]+", "-", shot.name.lower()).strip("-") or "scene"
    return file_response(write(shot.name, shot_facts(here.session, shot)), media_type, f"{plain}.{ending}")


def _framings(here: Any, shot_id: int) -> kept.FramingsOut:
    return present_framings(
        framings.kept_framings(here.session, here.owner_id, shot_id),
        framings.walk_through(here.session, here.owner_id, shot_id),
    )
