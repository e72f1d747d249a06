"""Every table, imported once so that the metadata is whole."""

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from .accounts import Account, Pass, SignIn, SignInEvent
from .base import Base
from .jobs import Job
from .journal import JournalEntry
from .kit import Accessory, Body, Filter, Lens, Support
from .log import Calibration, FieldEventRow, LogEntry, LogFrame, PracticeScore
from .notebook import Notebook
from .origins import Origin
from .outings import Outing, OutingStop
from .photographer import Photographer
from .places import (
    Element,
    Hazard,
    KeptForecast,
    Location,
    LocationGrid,
    MeterReading,
    Opening,
    Scouting,
    ScoutingPhoto,
    SeasonNote,
    Viewpoint,
    WalkTrack,
)
from .sharing import Share
from .shots import Backdrop, FieldCard, Framing, Shot, ShotAccessory, ShotFilter, ShotSharpElement
from .summaries import KeptOutlook, LogDigest, ShotSummary


def is_empty(session: Session) -> bool:
    """Return whether nothing has been written to the notebook yet."""
    return not any(session.scalar(select(func.count()).select_from(kind)) for kind in (Location, Shot, Body))


__all__ = [
    "Accessory",
    "Account",
    "Backdrop",
    "Base",
    "Body",
    "Calibration",
    "Element",
    "FieldCard",
    "FieldEventRow",
    "Filter",
    "Framing",
    "Hazard",
    "Job",
    "JournalEntry",
    "KeptForecast",
    "KeptOutlook",
    "Lens",
    "Location",
    "LocationGrid",
    "LogDigest",
    "LogEntry",
    "LogFrame",
    "MeterReading",
    "Notebook",
    "Opening",
    "Origin",
    "Outing",
    "OutingStop",
    "Pass",
    "Photographer",
    "PracticeScore",
    "Scouting",
    "ScoutingPhoto",
    "SeasonNote",
    "Share",
    "Shot",
    "ShotAccessory",
    "ShotFilter",
    "ShotSharpElement",
    "ShotSummary",
    "SignIn",
    "SignInEvent",
    "Support",
    "Viewpoint",
    "WalkTrack",
    "is_empty",
]
