"""Sentences about an outing: its stops, what is left out, and its limits."""

from __future__ import annotations

from ..labels import label_of
from ..planning.wording import Catalogue, joined
from ..units.lengths import format_distance, format_duration
from ..units.spelling import LocalTime

sentence = Catalogue("outing", "outing")


@sentence
def no_stops() -> str:
    return "Add the shots and places that the outing goes to."


@sentence
def tell_someone() -> str:
    return "Tell someone where you are going and when you will be back."


@sentence
def all_fit(*, stops: int, back_at: LocalTime) -> str:
    fit = {1: "The stop fits", 2: "Both stops fit"}.get(stops, f"All {stops} stops fit")
    return f"{fit}; back at {back_at}."


@sentence
def begins_late(*, stop: str, begins_at: LocalTime, late_s: float, window: str) -> str:
    return f"{stop} begins at {begins_at}, {format_duration(late_s)} after {label_of(window)} has ended for it."


@sentence
def begins_close(*, stop: str, ready_at: LocalTime, spare_s: float) -> str:
    return f"{stop}: ready at {ready_at}, only {format_duration(spare_s)} before it is too late to begin."


@sentence
def begins(*, stop: str, begins_at: LocalTime, window: str) -> str:
    return f"{stop} begins at {begins_at} in {label_of(window)}."


def _left_out(stop: str, why: str) -> str:
    return f"{stop} is left out: {why}"


@sentence
def no_light(*, stop: str, why: str) -> str:
    return _left_out(stop, why or "on these days it has no light that you want.")


@sentence
def closed(*, stop: str, other: str | None, closures: str) -> str:
    why = f"with it, {other} would be closed." if other else "there is no open way in and out in its light."
    return _left_out(stop, f"{why} {closures}".rstrip())


@sentence
def too_late(*, stop: str, other: str | None, late_s: float | None) -> str:
    by = format_duration(late_s) if late_s is not None else ""
    why = (
        f"with it {other} would begin {by} too late."
        if other
        else f"between the others it would begin at least {by} too late."
    )
    return _left_out(stop, why.replace("  ", " "))


@sentence
def back_too_late_with(*, stop: str, late_s: float) -> str:
    return _left_out(stop, f"with it you would be back {format_duration(late_s)} too late.")


@sentence
def walk_too_long_with(*, stop: str, over_m: float) -> str:
    return _left_out(stop, f"with it you would walk {format_distance(over_m)} more than you want to.")


@sentence
def night_too_short_with(*, stop: str, night_h: float) -> str:
    return _left_out(stop, f"with it the night would be shorter than {night_h:g} h.")


@sentence
def adds_nothing(*, stop: str) -> str:
    return _left_out(stop, "with its priority and its chance of good light it adds nothing to the day.")


@sentence
def back_too_late(*, back_at: LocalTime, late_s: float) -> str:
    return f"Back at {back_at}, {format_duration(late_s)} later than you want."


@sentence
def walk_too_long(*, walk_m: float, most_walk_m: float) -> str:
    return f"You would walk {format_distance(walk_m)}, more than the {format_distance(most_walk_m)} you want."


@sentence
def drive_not_known(*, stop: str, assumed_s: float) -> str:
    return (
        f"The drive from home to {stop} is not known: {format_duration(assumed_s)} are assumed. Enter it "
        "here, or at the place."
    )


@sentence
def drive_estimated() -> str:
    return "A drive between two places is estimated from the straight line: enter how long it takes."


@sentence
def walks_in_the_dark(*, at: tuple[LocalTime, ...]) -> str:
    return f"On foot in the dark at {joined([str(time) for time in at])}: a head torch for everyone."


@sentence
def no_rest() -> str:
    return "More than five hours without food or a rest: add one."
