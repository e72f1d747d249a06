"""The stops ledger: from a reading to the shutter, one line for each thing that costs or gives light."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

from ..units.markings import format_aperture, format_shutter
from ..units.quantities import finite, positive
from .film import corrected_time_s, reciprocity_stops
from .filters import shutter_with_filters_s

# Smaller changes get no line of their own.
_SEEN_STOPS = 0.005


@dataclass(frozen=True)
class LedgerFilter:
    """A filter in the ledger: whether it is on the lens now, and whether it was on for the reading."""

    name: str
    stops: float
    on_lens: bool = True
    on_when_metered: bool = False
    # Where its cost was measured: "10.3 by 14 frames, not 10".
    measured: str = ""


@dataclass(frozen=True)
class LedgerLine:
    """One line: the stops it adds to the shutter (negative: takes away) and the shutter [s] after it."""

    label: str
    detail: str
    stops: float
    shutter_s: float
    kind: str


@dataclass(frozen=True)
class Ledger:
    """All lines from the reading down. shutter_s: shutter time of the last line; stops: sum of all lines."""

    lines: tuple[LedgerLine, ...]

    @property
    def shutter_s(self) -> float:
        return self.lines[-1].shutter_s

    @property
    def stops(self) -> float:
        return sum(line.stops for line in self.lines)


@dataclass(frozen=True)
class ExposureReading:
    """Settings that expose the scene correctly, as metered or as estimated from the light.

    for_the_sky: estimated for the stars in the night sky and not for the land.
    """

    f_number: float
    shutter_s: float
    iso: float
    predicted: bool = False
    through_lens: bool = True
    for_the_sky: bool = False


def carried_by(ledger: Ledger, shutter_s: float, count: int) -> Ledger:
    """Return the ledger down to the frame of a set that carries the picture; unchanged if that is the ledger's own
    shutter time.
    """
    stops = math.log2(shutter_s / ledger.shutter_s)
    if abs(stops) < _SEEN_STOPS:
        return Ledger((*ledger.lines[:-1], replace(ledger.lines[-1], shutter_s=shutter_s)))
    label, detail = (
        ("Bracket", "the frame that carries the picture")
        if count > 1
        else ("Range", "so that highlights and shadows are held")
    )
    line = LedgerLine(label, detail, stops, shutter_s, "bracket")
    return Ledger((*ledger.lines, line))


def on_film(ledger: Ledger, exponent: float) -> Ledger:
    """Return the ledger with a line for a film's reciprocity failure; unchanged at 1 s and less."""
    stops = float(reciprocity_stops(ledger.shutter_s, exponent))
    if stops < _SEEN_STOPS:
        return ledger
    detail = f"{format_shutter(ledger.shutter_s)} by the meter, to the power of {exponent:g}"
    return Ledger(
        (*ledger.lines, LedgerLine("Film", detail, stops, float(corrected_time_s(ledger.shutter_s, exponent)), "film"))
    )


def in_changing_light(ledger: Ledger, open_s: float) -> Ledger:
    """Return the ledger with a line for light that falls or rises while the shutter is open; without one where that is
    hardly seen.

    open_s: how long it really has to be open [s].
    """
    stops = math.log2(open_s / ledger.shutter_s)
    if abs(stops) < _SEEN_STOPS:
        return Ledger((*ledger.lines[:-1], replace(ledger.lines[-1], shutter_s=open_s)))
    label, goes = ("Fading light", "falls") if stops > 0 else ("Rising light", "rises")
    line = LedgerLine(label, f"the light {goes} while the shutter is open", stops, open_s, "fading")
    return Ledger((*ledger.lines, line))


def build_ledger(
    reading: ExposureReading,
    f_number: float,
    iso: float,
    filters: tuple[LedgerFilter, ...] = (),
    extension_stops: float = 0.0,
    compensation_ev: float = 0.0,
) -> Ledger:
    """Return the ledger from a reading to the shutter time at f_number and iso.

    A filter that was on for the reading costs nothing more; one that has since come off gives its stops back. A
    reading through the lens already contains the extension. Raises InputError for values that are not finite or not
    positive.
    """
    marked, speed = float(positive("f_number", f_number)), float(positive("iso", iso))
    shutter = float(positive("shutter_s", reading.shutter_s))
    source = "Predicted" if reading.predicted else "Metered"
    settings = f"{format_aperture(reading.f_number)} at {format_shutter(shutter)}, ISO {reading.iso:g}"
    what = "night sky" if reading.for_the_sky else "light"
    lines = [LedgerLine(f"{source} {what}", settings, 0.0, shutter, "reading")]

    def add(label: str, detail: str, stops: float, kind: str) -> None:
        after = shutter_with_filters_s(lines[-1].shutter_s, float(finite("stops", stops)))
        lines.append(LedgerLine(label, detail, stops, after, kind))

    if not math.isclose(marked, reading.f_number):
        change = 2 * math.log2(marked / reading.f_number)
        add("Aperture", f"{format_aperture(reading.f_number)} to {format_aperture(marked)}", change, "aperture")
    if not math.isclose(speed, reading.iso):
        add("ISO", f"{reading.iso:g} to {speed:g}", math.log2(reading.iso / speed), "iso")
    for item in filters:
        if item.on_lens and item.on_when_metered:
            add(item.name, "on when metered: already counted", 0.0, "filter")
        elif item.on_lens:
            detail = "on the lens" if item.stops else "on the lens, costs the shutter nothing"
            add(item.name, f"{detail}, {item.measured}" if item.measured else detail, item.stops, "filter")
        elif item.on_when_metered:
            add(item.name, "taken off since metering", -item.stops, "filter")
    if extension_stops > 0.005:
        counted = reading.through_lens and not reading.predicted
        detail = "metered through the lens: already counted" if counted else "light lost close up"
        add("Extension", detail, 0.0 if counted else extension_stops, "extension")
    if compensation_ev:
        add("Compensation", "brighter" if compensation_ev > 0 else "darker", compensation_ev, "compensation")
    return Ledger(tuple(lines))
