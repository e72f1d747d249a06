"""A recipe as sentences."""

from __future__ import annotations

from ....core.spans.instants import zone_info
from ....core.units.lengths import compass_point
from ....core.units.markings import spoken_shutter
from ....core.units.spelling import format_day, format_moment, percent
from ....operations.log.recipes import Recipe
from ..schemas import practice as out


def present_recipe(found: Recipe | None) -> out.RecipeOut:
    """Return the sun's position, the streak of the water, and when that light returns."""
    if found is None:
        return out.RecipeOut(
            lines=["This frame belongs to no place: its light cannot be looked up."], place="", again=[]
        )
    zone = zone_info(found.place.zone)
    side = compass_point(found.sun.azimuth_deg)
    lines = [
        f"The sun stood {abs(found.sun.altitude_deg):.0f}° "
        f"{'above' if found.sun.altitude_deg >= 0 else 'below'} the horizon in the {side}."
    ]
    if found.share is not None:
        how = "measured on the picture" if found.measured else "by its speed as known, not measured"
        lines.append(f"The water drew {percent(found.share)} of the frame's short side ({how}): {found.look}.")
    if found.same_s is not None:
        lines.append(f"On {found.water} of {found.shot_name} {spoken_shutter(found.same_s)} draws the same.")
    elif found.shot is not None:
        lines.append(
            f"Nothing moves in {found.shot_name}, or not in this frame: there is no shutter that draws the same."
        )
    again = []
    for span in found.again:
        days = (
            format_day(span.first)
            if span.first == span.last
            else f"{format_day(span.first)} to {format_day(span.last)}"
        )
        local = span.time_utc.astimezone(zone)
        again.append(out.LightAgainOut(days=days, clock=format_moment(local, local.date())))
    if not again:
        lines.append(f"In the year to come the sun does not stand so at {found.place.name}.")
    return out.RecipeOut(lines=lines, place=found.place.name, again=again)
