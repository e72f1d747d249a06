"""The declared facts and choices as a TypeScript module, so that the front end does not repeat them."""

from __future__ import annotations

import json
from collections.abc import Mapping
from enum import StrEnum

from ...core.exposure.graduated import Gradation
from ...core.exposure.highlights import MARGINS_EV
from ...core.exposure.motion import LookName
from ...core.exposure.moving_things import MovingKind
from ...core.facts.accessory import FIGURES, LIGHTS, Accessory, AccessoryKind
from ...core.facts.calibrations import CalibrationKind
from ...core.facts.choices import BESIDE, GROUPS, IN_HAND, BracketMode, DepthMethod, FocusSchool, Hold, ShotHead
from ...core.facts.declaring import Declared, facts_of
from ...core.facts.filters import FilterKind, Mount
from ...core.facts.frame_groups import FrameOrder, GroupExposure, GroupFilters, GroupFocus, GroupStart, Role, Together
from ...core.facts.glossary import TERMS
from ...core.facts.kit import FilmKind
from ...core.facts.log import Outcome, WentWrong
from ...core.facts.notebook import NotebookOrder
from ...core.facts.outing import Nights, StopOrder
from ...core.facts.place import HazardKind, Horizon, OpeningDays, OpeningKind, SeasonKind
from ...core.facts.settings import DEFAULT_CAMERA_HEIGHT_M
from ...core.facts.wishes import Leaning, Stake
from ...core.facts.words import choice_words
from ...core.framing.composition import Guide
from ...core.framing.crop import Aspect
from ...core.framing.projection import Orientation
from ...core.framing.solids import FLAT, LINES, WET, Shape
from ...core.ground.walk import Terrain
from ...core.learning.practice import Exercise
from ...core.light.alignment import SkyBody, Touch
from ...core.light.bands import Band
from ...core.light.kinds import LightKind
from ...core.light.limits import MOON_LIMITS, SUN_LIMITS, Limits
from ...core.light.materials import Material
from ...core.now.water import WaterSeen
from ...core.optics.circle_of_confusion import CocCriterion
from ...core.planning.day.outlook import Travel
from ...core.planning.exposure.movers import Told
from ...core.solving.solver import PlanKind
from ...core.taken.grouping import GroupKind
from ...core.tones.monochrome import MonochromeFilter
from ...core.weather.measures import UNITS, Measure
from ...store.accounts import SignInOutcome

_CHOICES: tuple[type[StrEnum], ...] = (
    AccessoryKind,
    Aspect,
    BracketMode,
    CocCriterion,
    DepthMethod,
    FilmKind,
    FilterKind,
    FocusSchool,
    FrameOrder,
    Leaning,
    Stake,
    Gradation,
    GroupExposure,
    GroupFilters,
    GroupFocus,
    GroupStart,
    Guide,
    HazardKind,
    Hold,
    Horizon,
    LightKind,
    LookName,
    WaterSeen,
    Material,
    Measure,
    MonochromeFilter,
    MovingKind,
    Mount,
    Nights,
    NotebookOrder,
    OpeningDays,
    OpeningKind,
    StopOrder,
    Orientation,
    Outcome,
    Role,
    SeasonKind,
    Shape,
    SkyBody,
    Terrain,
    Together,
    Touch,
    WentWrong,
    Band,
    CalibrationKind,
    Exercise,
    PlanKind,
    SignInOutcome,
    GroupKind,
    Told,
    Travel,
)


def fact_tables() -> str:
    """Return the module's source."""
    shot = {
        name: _row(item, group)
        for group, kind in {"": ShotHead, **GROUPS}.items()
        for name, item in facts_of(kind).items()
    }
    beside = {name: {"group": group, "label": label} for name, (group, label) in BESIDE.items()}
    options = {kind.__name__: [{"value": str(item), "label": choice_words(item)} for item in kind] for kind in _CHOICES}
    shapes = {
        "lines": [str(item) for item in LINES],
        "flat": [str(item) for item in FLAT],
        "wet": [str(item) for item in WET],
    }
    numbers = {"DEFAULT_CAMERA_HEIGHT_M": DEFAULT_CAMERA_HEIGHT_M}
    parts: dict[str, Mapping[str, object]] = {
        "NUMBERS": numbers,
        "SHOT_FACTS": {**shot, **beside},
        "OPTIONS": options,
        "SHAPES": shapes,
        "ACCESSORY_FIGURES": {str(kind): list(names) for kind, names in FIGURES.items()},
        "ACCESSORY_LABELS": {name: item.label for name, item in facts_of(Accessory).items()},
        "KINDS": {"lights": sorted(LIGHTS), "in_hand": list(IN_HAND)},
        "HIGHLIGHT_MARGINS": MARGINS_EV,
        "MEASURE_UNITS": {str(measure): unit for measure, unit in UNITS.items()},
        "SUN_LIMITS": _limits(SUN_LIMITS),
        "MOON_LIMITS": _limits(MOON_LIMITS),
        "GLOSSARY": TERMS,
    }
    body = "\n".join(f"export const {name} = {{\n{_lines(value)}}} as const;" for name, value in parts.items())
    return f"// Made by tools/api-types from the facts that the core declares.\n{body}\n"


def _lines(table: Mapping[str, object]) -> str:
    return "".join(f"  {json.dumps(name)}: {json.dumps(value, ensure_ascii=False)},\n" for name, value in table.items())


def _limits(series: tuple[Limits, ...]) -> dict[str, object]:
    return {item.key: {"label": item.label, "low": item.low, "high": item.high} for item in series}


def _row(item: Declared, group: str = "") -> dict[str, object]:
    row: dict[str, object] = {"group": group, "label": item.label}
    if item.fact.low is not None:
        row |= {"low": item.fact.low, "high": item.fact.high}
    return row
