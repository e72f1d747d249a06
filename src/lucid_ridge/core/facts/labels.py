"""What the values of all that is kept are called in a sentence."""

from __future__ import annotations

from .choices import label_of
from .declaring import facts_of, plain_words
from .filters import Filter
from .kit import Body, Lens, Support
from .place import Element, Hazard, Opening, Scouting, SeasonNote

_DECLARED: dict[str, type] = {
    "body": Body,
    "lens": Lens,
    "filter": Filter,
    "support": Support,
    "element": Element,
    "hazard": Hazard,
    "opening": Opening,
    "scouting": Scouting,
    "season_note": SeasonNote,
}


def label_in(thing: str, name: str) -> str:
    """Return the display name of a value of a thing (shot, lens, element, location …)."""
    if thing == "shot":
        return label_of(name)
    declared = facts_of(_DECLARED[thing]) if thing in _DECLARED else {}
    return declared[name].label if name in declared else plain_words(name)
