"""A new shot's highlights: a graduated filter of the bag where the sky needs one, else frames around the exposure."""

from __future__ import annotations

from dataclasses import dataclass, replace

from ..facts.choices import BracketMode
from ..facts.shot import ShotFacts
from ..planning.plan.shot_plan import plan_shot
from ..planning.tones.plan import plan_tones
from ..planning.tones.reasons import compensation_to_the_right, needed_graduated_stops, to_the_right_stops
from ..planning.tones.reasons import nearest_graduated as nearest

# A sky that clips by less is let clip; one that clips by more than a bracket's frame apart needs several frames.
_LITTLE_STOPS, _BRACKET_FROM_STOPS = 0.3, 1.5
_LEAST_GRADUATED_STOPS = 1.0


@dataclass(frozen=True)
class HeldHighlights:
    """graduated_id: of a filter to put on; None: none. compensation_ev: for the one frame. bracketed: three frames two
    stops apart.
    """

    graduated_id: int | None = None
    compensation_ev: float = 0.0
    bracketed: bool = False


def held_highlights(facts: ShotFacts) -> HeldHighlights:
    """Return the filter, compensation or bracket that keeps a planned shot's highlights, by its picture in tones."""
    over, needed = _over(facts)
    if over <= _LITTLE_STOPS:
        return HeldHighlights()
    filter_ = nearest(facts, needed) if needed is not None and needed >= _LEAST_GRADUATED_STOPS else None
    if filter_ is not None:
        on = replace(filter_, on_lens=True)
        facts = replace(facts, filters=tuple(on if item.id == on.id else item for item in facts.filters))
        over, _ = _over(facts)
    graduated_id = filter_.id if filter_ is not None else None
    if over <= _LITTLE_STOPS:
        return HeldHighlights(graduated_id)
    if over > _BRACKET_FROM_STOPS and facts.exposure.bracket is BracketMode.NONE:
        return HeldHighlights(graduated_id, bracketed=True)
    tones = plan_tones(facts, plan_shot(facts))
    held = compensation_to_the_right(facts, tones) if tones is not None else None
    return HeldHighlights(graduated_id, held or 0.0)


def _over(facts: ShotFacts) -> tuple[float, float | None]:
    """Return by how much the highlights lie over what the darkest frame holds [stops, 0 or more], and the graduated
    filter that the picture needs [stops].
    """
    tones = plan_tones(facts, plan_shot(facts))
    room = to_the_right_stops(facts, tones) if tones is not None else None
    if tones is None or room is None:
        return 0.0, None
    return max(0.0, -room), needed_graduated_stops(tones)
