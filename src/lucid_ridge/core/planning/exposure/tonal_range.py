"""The range of tones: what each frame holds of the scene, and the bracket that holds all of it."""

from __future__ import annotations

import math
from dataclasses import dataclass
from enum import StrEnum
from typing import Any

import numpy as np
from numpy.typing import NDArray

from ...errors import InputError
from ...exposure.bracketing import HIGHLIGHT_ROOM_STOPS, plan_bracket
from ...exposure.exposure_sets import marked_time_s, times_around_s, times_over_s
from ...facts.choices import BracketMode
from ...facts.kit import Body, FilmKind
from ...facts.shot import ShotFacts
from ..reasons import Reason
from . import wording as say

Floats = NDArray[np.float64]
# A highlight or shadow beyond the range by less than this is not mentioned [stops].
HARDLY_STOPS = 0.05
# What a negative still holds above its range, and the margin to keep over the highlights of a slide (common practice)
# [stops].
_NEGATIVE_OVER, _SLIDE_SPARE = 2.0, 1 / 3


@dataclass(frozen=True)
class Exposure:
    """One exposure to take.

    shutter_s: how long its shutter is open [s]; metered_s: its metered time, in the light of the shot's time and
    before a film's loss of speed. offset_ev: how much brighter than the darkest exposure [EV]. darkest_ev,
    brightest_ev: the range it holds [EV at ISO 100]. look, streak_share: of what moves in this time. iso: None for the
    shot's own. bare: taken without neutral density.
    """

    shutter_s: float
    offset_ev: float
    darkest_ev: float
    brightest_ev: float
    look: str | None = None
    streak_share: float | None = None
    iso: float | None = None
    bare: bool = False
    metered_s: float = 0.0


@dataclass(frozen=True)
class SceneRange:
    """The darkest and brightest part that must keep detail, at the sensor [EV at ISO 100]; None: not read."""

    shadow_ev: float | None
    highlight_ev: float | None

    @property
    def stops(self) -> float | None:
        return None if self.shadow_ev is None or self.highlight_ev is None else self.highlight_ev - self.shadow_ev


def scene_range(facts: ShotFacts, through_stops: float, metered: bool) -> SceneRange:
    """Return the range of tones at the sensor.

    Readings taken through filters are corrected for them. Highlights count as sky, so a graduated filter on the lens
    darkens them, but never below the shadows. through_stops: filters on when metered [stops]. metered: whether anything
    was metered.
    """
    shadow, highlight = facts.exposure.shadow_ev, facts.exposure.highlight_ev
    spots = [item.bare_ev100 - through_stops for item in facts.spots]
    # Spot readings replace readings of the range that were not typed; a single one is the highlights.
    highlight = max(spots, default=None) if highlight is None else highlight
    shadow = min(spots, default=None) if shadow is None and len(spots) > 1 else shadow
    if shadow is None or highlight is None:
        return SceneRange(shadow, highlight)
    graduated = [item for item in facts.filters if item.kind.graduates]
    on_lens = sum(item.stops for item in graduated if item.on_lens)
    read_through = sum(item.stops for item in graduated if item.on_when_metered and metered)
    dark, bright = shadow + through_stops, highlight + through_stops + read_through
    if bright < dark:
        return SceneRange(dark, bright)
    return SceneRange(dark, max(dark, bright - on_lens))


def plan_exposures(
    facts: ShotFacts, iso: float, scene: float, base_s: float, span: SceneRange
) -> tuple[tuple[Exposure, ...], list[Reason]]:
    """Return the exposures to take, darkest first, and the reasons about the range.

    iso: of the exposures. scene: EV at ISO 100 of the reading. base_s: shutter time of the ledger with compensation
    [s]. span: the range to hold.
    """
    body = facts.body
    assert body is not None
    held = body.held_stops(iso)
    # Mid-grey moves with compensation, not with filters, which darken all tones alike.
    top = scene - facts.exposure.compensation_ev + HIGHLIGHT_ROOM_STOPS
    try:
        times, lacking = _times(facts, body, held, base_s, top, span)
    except InputError as error:
        field = "bracket_step_ev" if error.field == "step_ev" else error.field
        return _exposures((base_s,), base_s, top, held), [say.bad_bracket(message=error.message).fails(field)]
    frames = _exposures(times, base_s, top, held)
    if lacking:
        return frames, [lacking]
    if span.stops is None or span.shadow_ev is None or span.highlight_ev is None:
        return frames, _unread_reasons(facts, frames)
    return frames, _range_reasons(facts, held, span, frames)


def _times(
    facts: ShotFacts, body: Body, held: float, base_s: float, top: float, span: SceneRange
) -> tuple[tuple[float, ...], Reason | None]:
    """Return the shutter times of the chosen bracket [s], and a reason if a reading is missing."""
    said, slowest = facts.exposure, body.slowest_shutter_s
    if said.bracket == BracketMode.AROUND:
        if said.bracket_step_ev > held:
            raise InputError(
                "step_ev", f"Steps of {said.bracket_step_ev:g} EV would leave gaps: one frame holds {held:.3g} stops."
            )
        return times_around_s(base_s, said.bracket_count, said.bracket_step_ev, slowest), None
    if said.bracket in (BracketMode.NONE, BracketMode.FROZEN_AND_LONG):
        return (base_s,), None
    if span.highlight_ev is None or (span.shadow_ev is None and said.bracket == BracketMode.RANGE):
        return (base_s,), say.no_readings(bracket=said.bracket).unsaid("highlight_ev")
    # How much brighter than the base the darkest frame may be and still hold the highlights.
    room = top - span.highlight_ev - said.highlight_margin_ev
    if said.bracket != BracketMode.RANGE or span.shadow_ev is None:
        sky = marked_time_s(base_s * 2**room, slowest, -1)
        if said.bracket == BracketMode.HIGHLIGHTS:
            return (sky,), None
        land = marked_time_s(base_s, slowest)
        return ((sky, land) if sky < land else (land,)), None
    found = plan_bracket(span.shadow_ev, span.highlight_ev, held, said.bracket_step_ev, said.highlight_margin_ev)
    least = room - found.spare_stops
    if found.count == 1:
        # A single frame that holds everything stays as metered, or moves no further than needed.
        return (base_s * 2 ** min(room, max(least, 0.0)),), None
    return times_over_s(base_s, least, room, found.count, said.bracket_step_ev, slowest, HARDLY_STOPS), None


def _exposures(times: tuple[float, ...], base_s: float, top: float, held: float) -> tuple[Exposure, ...]:
    made = []
    for time in times:
        brightest = top - math.log2(time / base_s)
        made.append(Exposure(time, math.log2(time / times[0]), brightest - held, brightest, metered_s=time))
    return tuple(made)


def _unread_reasons(facts: ShotFacts, frames: tuple[Exposure, ...]) -> list[Reason]:
    if len(frames) < 2:
        return []
    words = say.bracket(
        frames=len(frames),
        step_ev=facts.exposure.bracket_step_ev,
        fastest_s=frames[0].shutter_s,
        slowest_s=frames[-1].shutter_s,
        by_hand=why_by_hand(facts, frames),
    )
    return [words.holds("bracket_step_ev")]


def _range_reasons(facts: ShotFacts, held: float, span: SceneRange, frames: tuple[Exposure, ...]) -> list[Reason]:
    """Return the reasons about the range over all frames: highlights of the darkest, shadows of the brightest."""
    assert span.shadow_ev is not None and span.highlight_ev is not None and span.stops is not None
    margin = facts.exposure.highlight_margin_ev
    top, foot = frames[0].brightest_ev, frames[-1].darkest_ev
    over, under = (float(item) for item in range_misses_stops(span, margin, top, foot))
    alone = len(frames) == 1
    found = []
    if alone and span.stops > held:
        needed = plan_bracket(
            span.shadow_ev, span.highlight_ev, held, min(facts.exposure.bracket_step_ev, held), margin
        ).count
        words = say.too_wide(
            range_stops=span.stops, held_stops=held, frames=needed, step_ev=facts.exposure.bracket_step_ev
        )
        return [words.fails("bracket")]
    film = facts.body.film if facts.body is not None else None
    if film == FilmKind.NEGATIVE and HARDLY_STOPS < over <= _NEGATIVE_OVER:
        found.append(say.negative_highlights(over_stops=over).tight("compensation_ev"))
    elif over > HARDLY_STOPS:
        found.append(say.highlights_clip(over_stops=over, alone=alone).fails("compensation_ev"))
    elif film == FilmKind.SLIDE and over > -_SLIDE_SPARE + 1e-9:
        found.append(say.slide_highlights(spare_stops=max(0.0, -over)).tight("compensation_ev"))
    if under > HARDLY_STOPS:
        found.append(say.shadows_block(under_stops=under, alone=alone).fails("compensation_ev" if alone else "bracket"))
    if found:
        return found
    if alone:
        asked = facts.exposure.bracket == BracketMode.RANGE
        words = say.one_frame_holds(range_stops=span.stops, spare_stops=max(0.0, -over), bracket_asked=asked)
        return [words.holds("bracket" if asked else "compensation_ev")]
    words = say.bracket_holds(
        range_stops=span.stops,
        held_stops=held,
        frames=len(frames),
        step_ev=None if facts.exposure.bracket == BracketMode.LAND_AND_SKY else facts.exposure.bracket_step_ev,
        fastest_s=frames[0].shutter_s,
        slowest_s=frames[-1].shutter_s,
        by_hand=why_by_hand(facts, frames),
        spare_stops=max(0.0, -under),
    )
    return [words.holds("bracket_step_ev")]


def range_misses_stops(span: SceneRange, margin_ev: float, brightest_ev: Any, darkest_ev: Any) -> tuple[Floats, Floats]:
    """Return by how much highlights and shadows lie beyond the exposures' range [stops]; negative within. Broadcasts.

    brightest_ev: held by the darkest exposure. darkest_ev: held by the brightest. The range must be read.
    """
    assert span.shadow_ev is not None and span.highlight_ev is not None
    return np.asarray(span.highlight_ev + margin_ev - brightest_ev), np.asarray(darkest_ev - span.shadow_ev)


def lost_stops(span: SceneRange, margin_ev: float, brightest_ev: Any, darkest_ev: Any, film: FilmKind | None) -> Floats:
    """Return how much of the range is lost [stops]; 0 if nothing fails.

    A negative holds some highlights beyond it. Broadcasts.
    """
    over, under = range_misses_stops(span, margin_ev, brightest_ev, darkest_ev)
    forgiven = _NEGATIVE_OVER if film == FilmKind.NEGATIVE else HARDLY_STOPS
    return np.asarray(np.where(over > forgiven, over, 0.0) + np.where(under > HARDLY_STOPS, under, 0.0))


class ByHand(StrEnum):
    """Why a body does not take a bracket by itself."""

    PAIR = "pair"
    STEP = "step"
    COUNT = "count"
    TIME = "time"
    EVEN = "even"


def is_automatic(facts: ShotFacts, exposures: tuple[Exposure, ...]) -> bool | None:
    """Return whether the body can take this bracket automatically; None without a bracket."""
    return None if len(exposures) < 2 or facts.body is None else why_by_hand(facts, exposures) is None


def why_by_hand(facts: ShotFacts, exposures: tuple[Exposure, ...]) -> ByHand | None:
    """Return why the body does not take a bracket of two and more by itself; None where it does."""
    body, mode = facts.body, facts.exposure.bracket
    assert body is not None
    if mode in (BracketMode.LAND_AND_SKY, BracketMode.FROZEN_AND_LONG):
        return ByHand.PAIR
    if facts.exposure.bracket_step_ev > body.bracket_step_ev:
        return ByHand.STEP
    if len(exposures) > body.bracket_frames:
        return ByHand.COUNT
    if body.needs_bulb(exposures[-1].shutter_s):
        return ByHand.TIME
    # Bodies bracket around a middle, so in odd numbers.
    return ByHand.EVEN if len(exposures) % 2 == 0 else None
