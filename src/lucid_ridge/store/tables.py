"""Every table, imported once so that the metadata is whole."""

from .base import Base
from .journal import JournalEntry
from .kit import Body, Filter, Lens
from .photographer import Photographer
from .places import Element, Location, Viewpoint
from .shots import FieldCard, Shot, ShotFilter, ShotSharpElement

__all__ = [
    "Base", "Body", "Element", "FieldCard", "Filter", "JournalEntry", "Lens", "Location", "Photographer", "Shot",
    "ShotFilter", "ShotSharpElement", "Viewpoint",
]  # fmt: skip
