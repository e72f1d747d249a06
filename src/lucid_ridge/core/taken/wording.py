"""Sentences about what was taken: light, highlights, sharpness and settings of the files beside the plan."""

from __future__ import annotations

from ..planning.verdicts import StepName
from ..planning.wording import Catalogue, joined
from ..units.lengths import format_distance
from ..units.spelling import percent
from .judged import numbered

sentence = Catalogue("taken", StepName.FIELD)
# A smaller difference of exposure is none.
_SAME_EXPOSURE_STOPS = 1 / 3


def names_of(numbers: tuple[int, ...], files: tuple[str, ...]) -> str:
    """Return frames as a sentence begins with them: Frame 3; Frames 1 to 6; frames without a plan by their files."""
    return joined(list(files)) if 0 in numbers else numbered(numbers)


def _inside(number: int, file: str) -> str:
    return f"frame {number}" if number else file


def _focused(focus_m: float | None) -> str:
    return f", focused at {format_distance(focus_m)}" if focus_m is not None else ""


def _blurred(across_px: float, allowed_px: float) -> str:
    allowed = f"{allowed_px:.1f}" if allowed_px < 10 else f"{allowed_px:.0f}"
    return f"blurred over {across_px:.0f} px of the file, {allowed} allowed"


@sentence
def missing(*, numbers: tuple[int, ...]) -> str:
    one = len(numbers) == 1
    return (
        f"{numbered(numbers)} {'is' if one else 'are'} missing among the files: take {'it' if one else 'them'} while "
        "you still can."
    )


@sentence
def other_light(*, numbers: tuple[int, ...], files: tuple[str, ...], more_stops: float) -> str:
    way = "more" if more_stops > 0 else "less"
    return f"{names_of(numbers, files)} had {abs(more_stops):.1f} stops {way} light than the others."


@sentence
def light_as_planned() -> str:
    return "The light was as planned, within a tenth of a stop."


@sentence
def light_differs(*, brighter_stops: float) -> str:
    way = "brighter" if brighter_stops > 0 else "darker"
    return f"The light was {abs(brighter_stops):.1f} stops {way} than planned."


@sentence
def clips(
    *,
    numbers: tuple[int, ...],
    files: tuple[str, ...],
    channel: str,
    share: float,
    planned_share: float | None,
    holds_most: bool,
) -> str:
    return f"{names_of(numbers, files)}: {clipped_words(channel, share, planned_share, holds_most)}."


def clipped_words(channel: str, share: float, planned_share: float | None, holds_most: bool) -> str:
    """Return the clipped channel and its share of the picture; frames with the same words share a finding."""
    planned = f" ({percent(planned_share, 1)} planned)" if planned_share else ""
    most = " even in the frame that holds most" if holds_most else ""
    return f"{channel} clips in {percent(share, 1)} of the picture{planned}{most}"


@sentence
def moved(*, numbers: tuple[int, ...], files: tuple[str, ...]) -> str:
    return f"{names_of(numbers, files)} moved as a whole: the camera shook or was bumped."


@sentence
def panorama_as_a_whole() -> str:
    return "Each frame of the panorama is judged as a whole: in which of them a thing stands is not known."


@sentence
def place_without_detail(*, element: str) -> str:
    return f"{element}: too little detail to tell whether it is sharp."


@sentence
def place_sharp(*, element: str, number: int | None, file: str) -> str:
    return f"{element}: sharp{f' in {_inside(number, file)}' if number is not None else ''}."


@sentence
def place_soft(
    *, element: str, number: int, file: str, focus_m: float | None, across_px: float, allowed_px: float
) -> str:
    return (
        f"{element}: soft. The sharpest is {_inside(number, file)}{_focused(focus_m)}: "
        f"{_blurred(across_px, allowed_px)}."
    )


@sentence
def view_soft(*, numbers: tuple[int, ...], files: tuple[str, ...], across_px: float, allowed_px: float) -> str:
    return f"{names_of(numbers, files)}: nothing is sharp. {_blurred(across_px, allowed_px).capitalize()}."


@sentence
def views_without_detail(*, numbers: tuple[int, ...], files: tuple[str, ...]) -> str:
    they = "it is" if len(numbers) == 1 else "they are"
    return f"{names_of(numbers, files)}: too little detail to tell whether {they} sharp."


@sentence
def views_sharp(*, views: int) -> str:
    return f"All {views} views of the panorama are sharp."


@sentence
def gap_in_stack(*, numbers: tuple[int, ...], files: tuple[str, ...], focus_m: float | None) -> str:
    where = f"{_focused(focus_m)}," if focus_m is not None else ""
    return f"{names_of(numbers, files)}{where} shows nothing sharp: the stack may have a gap there."


@sentence
def settings_as_planned() -> str:
    return "The settings are as planned."


@sentence
def settings_differ(
    *, numbers: tuple[int, ...], files: tuple[str, ...], differing: tuple[str, ...], exposure_stops: float | None
) -> str:
    return f"{names_of(numbers, files)}: {differing_words(differing, exposure_stops)}."


def differing_words(differing: tuple[str, ...], exposure_stops: float | None) -> str:
    """Return which settings differ and what that does; frames with the same words share a finding."""
    return f"{', '.join(differing)}{_exposure(exposure_stops)}"


def _exposure(change_stops: float | None) -> str:
    if change_stops is None:
        return ""
    if abs(change_stops) <= _SAME_EXPOSURE_STOPS:
        return ", the exposure about the same"
    return f", {abs(change_stops):.1f} stops {'more' if change_stops > 0 else 'less'} exposure"
