"""Converts requests about shots to commands for operations."""

from __future__ import annotations

from dataclasses import replace

from ...core.facts.changes import Changes
from ...core.facts.choices import DepthChoices, ExposureChoices, FrameChoices, LightChoices, SequenceChoices, ShotHead
from ...core.facts.frame_groups import FrameGroup
from ...core.facts.wishes import WishChoices
from ...operations.shots.edits import FilterUse, MotionWished, ShotEdit, SpotSaid
from ..platform.fact_fields import said
from .schemas import shots as schemas


def edit_from_new(body: schemas.ShotIn) -> ShotEdit:
    """Return the edit that creates a new shot."""
    light = Changes(LightChoices, {} if body.date_local is None else {"date_local": body.date_local})
    return ShotEdit(head=Changes(ShotHead, said(body, but=["date_local"])), light=light)


def edit_from_patch(body: schemas.ShotPatch) -> ShotEdit:
    """Return the edit that a request makes to a shot."""
    sharp, filters, rig = body.depth.sharp_element_ids, body.exposure.filters, body.frame.accessory_ids
    wishes, groups = body.exposure.motion_wishes, body.sequence.frame_groups
    return ShotEdit(
        head=Changes(ShotHead, said(body, but=_GROUPED)),
        light=Changes(LightChoices, said(body.light, but=["clock_local"])),
        frame=Changes(FrameChoices, said(body.frame, but=["keep_subject_size", "crop_share", "accessory_ids"])),
        depth=Changes(DepthChoices, said(body.depth, but=["sharp_element_ids", "field_mm"])),
        exposure=Changes(ExposureChoices, said(body.exposure, but=["filters", "spots", "motion_wishes"])),
        sequence=Changes(SequenceChoices, said(body.sequence, but=["frame_groups"])),
        wishes=Changes(WishChoices, said(body.wishes)),
        clock_local=body.light.clock_local,
        sharp_element_ids=None if sharp is None else tuple(sharp),
        accessory_ids=None if rig is None else tuple(rig),
        filters=None
        if filters is None
        else tuple(FilterUse(item.filter_id, item.on_lens, item.on_when_metered, item.set_stops) for item in filters),
        spots=None
        if body.exposure.spots is None
        else tuple(SpotSaid(item.part, item.element_id, item.said, item.through_stops) for item in body.exposure.spots),
        motion_wishes=None if wishes is None else tuple(MotionWished(item.element_id, item.wish) for item in wishes),
        frame_groups=None if groups is None else tuple(_group(item) for item in groups),
        keep_subject_size=body.frame.keep_subject_size,
        crop_share=body.frame.crop_share,
        field_mm=body.depth.field_mm,
    )


def _group(body: schemas.FrameGroupIn) -> FrameGroup:
    return replace(FrameGroup(filter_ids=tuple(body.filter_ids)), **said(body, but=["filter_ids"]))  # type: ignore[arg-type]


_GROUPED = ("light", "frame", "depth", "exposure", "sequence", "wishes")
