"""What a choice is called where it is picked; most are called what they are."""

from __future__ import annotations

from enum import StrEnum

from ..framing.composition import Guide
from ..framing.solids import Shape
from ..labels import label_of
from ..optics.circle_of_confusion import CocCriterion
from .choices import BracketMode, DepthMethod, FocusSchool, Hold
from .filters import Mount
from .frame_groups import FrameOrder
from .log import Outcome
from .outing import Nights, StopOrder
from .place import Horizon

# By kind: members of two enumerations with the same text are equal.
_WORDS: dict[type[StrEnum], dict[str, str]] = {
    BracketMode: {
        BracketMode.NONE: "one frame",
        BracketMode.AROUND: "bracket around the reading",
        BracketMode.RANGE: "bracket over the range",
        BracketMode.LAND_AND_SKY: "two: land and sky",
        BracketMode.HIGHLIGHTS: "one, for the highlights",
        BracketMode.FROZEN_AND_LONG: "two: one frozen, one long",
    },
    CocCriterion: {CocCriterion.CUSTOM: "my own", CocCriterion.PIXELS: "two pixels", CocCriterion.PRINT: "by print"},
    DepthMethod: {
        DepthMethod.AUTO: "fewest frames that work",
        DepthMethod.RING: "turn the ring",
        DepthMethod.SINGLE: "one frame",
    },
    FocusSchool: {
        FocusSchool.BALANCED: "blur balanced between near and far",
        FocusSchool.HYPERFOCAL: "hyperfocal distance",
        FocusSchool.SUBJECT: "on the main subject",
        FocusSchool.THIRD: "a third of the way in",
    },
    Nights: {Nights.HOME: "at home", Nights.BASE: "at a base", Nights.OUT: "out, in a tent"},
    Horizon: {Horizon.SEA: "the sea"},
    StopOrder: {StopOrder.CHOSEN: "what promises most", StopOrder.PINNED: "as listed"},
    FrameOrder: {FrameOrder.CHOSEN: "fewest changes", FrameOrder.PINNED: "as listed"},
    Hold: {
        Hold.BOAT: "hand, from a moving boat",
        Hold.TRIPOD: "a tripod",
        Hold.BEAN_BAG: "a bean bag or the ground",
        Hold.HAND: "hand",
    },
    Guide: {Guide.GRID: "squares"},
    Outcome: {Outcome.OPEN: "not decided"},
    Mount: {Mount.PLATE: "plate in a holder", Mount.SCREW: "screwed in"},
    Shape: {Shape.POSTS: "row of posts", Shape.SKYLINE: "ridge from the skyline"},
}


def choice_words(item: StrEnum) -> str:
    """Return the display name of a choice."""
    return _WORDS.get(type(item), {}).get(item, label_of(item))
