"""What a screen calls a field of a request: sentences about it never use its name in the code."""

from __future__ import annotations

from functools import cache

from ...core.facts import accessory, filters, frame_groups, kit, place
from ...core.facts.choices import BESIDE, shot_facts_declared
from ...core.facts.declaring import facts_of, plain_words

# Labels of fields that belong to no declared fact.
_OTHERS = {
    "coordinates": "coordinates",
    "day": "date",
    "far": "far",
    "scale": "magnification or width",
    "shutter": "reading",
    "said": "reading",
    "start_utc": "time",
    "clock": "time",
}
_DECLARED = (
    kit.Body,
    kit.Lens,
    kit.Support,
    filters.Filter,
    accessory.Accessory,
    place.Element,
    place.Hazard,
    frame_groups.FrameGroup,
)


@cache
def _labels() -> dict[str, str]:
    found = {name: fact.label for kind in _DECLARED for name, fact in facts_of(kind).items() if fact.label}
    found |= {name: fact.label for name, fact in shot_facts_declared().items() if fact.label}
    return found | {name: words for name, (_, words) in BESIDE.items()} | _OTHERS


def field_label(path: str) -> str:
    """Return the label of a field by its path in a request: "light.date_local" is "date", "filters.0" is "filters"."""
    named = [part for part in path.split(".") if not part.isdigit()]
    if not named:
        return ""
    return _labels().get(named[-1]) or plain_words(named[-1])
