"""The trade's rounded markings for shutter, aperture and ISO, and the exact values behind them.

Cameras work in thirds of a stop: shutter times are 2^(k/3) s, f-numbers 2^(k/6), and the engraved figures are rounded.
"1/60" stands for 1/64 s, "30 s" for 32 s, "f/11" for 2^3.5 = 11.31. Sources: [1] ISO 516 (exposure-time markings), [2]
ISO 517 (aperture markings).
"""

from __future__ import annotations

import math
import re
from dataclasses import dataclass
from functools import lru_cache

from ..errors import InputError
from .lengths import format_duration
from .numbers import shown
from .spelling import DialSteps

_SHUTTER_NAMES = (
    "1/16000 1/13000 1/10000 1/8000 1/6400 1/5000 1/4000 1/3200 1/2500 1/2000 1/1600 1/1250 1/1000 1/800 1/640 "
    "1/500 1/400 1/320 1/250 1/200 1/160 1/125 1/100 1/80 1/60 1/50 1/40 1/30 1/25 1/20 1/15 1/13 1/10 1/8 1/6 1/5 "
    "1/4 0.3 0.4 0.5 0.6 0.8 1 1.3 1.6 2 2.5 3.2 4 5 6 8 10 13 15 20 25 30"
).split()
_FIRST_SHUTTER_THIRD = -42
_APERTURE_NAMES = (
    "0.7 0.8 0.9 1 1.1 1.2 1.4 1.6 1.8 2 2.2 2.5 2.8 3.2 3.5 4 4.5 5 5.6 6.3 7.1 8 9 10 11 13 14 16 18 20 22 "
    "25 29 32 36 40 45 51 57 64"
).split()
_FIRST_APERTURE_THIRD = -3
_ISO_MARKINGS = (
    25, 32, 40, 50, 64, 80, 100, 125, 160, 200, 250, 320, 400, 500, 640, 800, 1000, 1250, 1600, 2000, 2500, 3200, 4000,
    5000, 6400, 8000, 10000, 12800, 16000, 20000, 25600, 32000, 40000, 51200, 64000, 80000, 102400,
)  # fmt: skip

# A marking may stand up to this far from the exact value behind it (1/60 for 1/64 is 0.093 stop).
_MARKING_TOLERANCE_STOPS = 0.1


@dataclass(frozen=True)
class Marking:
    """One engraved mark: the exact value and the figure the trade writes for it."""

    value: float
    label: str


def _seconds_label(name: str) -> str:
    return name if "/" in name else f"{name} s"


SHUTTER_MARKINGS: tuple[Marking, ...] = tuple(
    Marking(2.0 ** ((_FIRST_SHUTTER_THIRD + index) / 3), _seconds_label(name))
    for index, name in enumerate(_SHUTTER_NAMES)
)
APERTURE_MARKINGS: tuple[Marking, ...] = tuple(
    Marking(2.0 ** ((_FIRST_APERTURE_THIRD + index) / 6), f"f/{name}") for index, name in enumerate(_APERTURE_NAMES)
)
ISO_MARKINGS: tuple[Marking, ...] = tuple(Marking(float(iso), str(iso)) for iso in _ISO_MARKINGS)
# Half stops whose figures no third-stop time has; the others are written out.
_HALF_NAMES = {
    -12.5: "1/6000",
    -11.5: "1/3000",
    -10.5: "1/1500",
    -9.5: "1/750",
    -8.5: "1/350",
    -7.5: "1/180",
    -6.5: "1/90",
    -5.5: "1/45",
    -0.5: "0.7",
    0.5: "1.5",
    1.5: "3",
}

_EXACT_SHUTTER = dict(zip(_SHUTTER_NAMES, (m.value for m in SHUTTER_MARKINGS), strict=True)) | {
    "1/2": 0.5,
    "1/3": 2 ** (-5 / 3),
}
_EXACT_SHUTTER |= {name: 2.0**stops for stops, name in _HALF_NAMES.items()}
_EXACT_APERTURE = dict(zip(_APERTURE_NAMES, (m.value for m in APERTURE_MARKINGS), strict=True))

_NUMBER = r"\d+(?:\.\d*)?|\.\d+"
_FRACTION = re.compile(rf"({_NUMBER})\s*/\s*({_NUMBER})\s*(?:s|secs?|seconds?)?")
_CLOCK = re.compile(
    rf"(?:({_NUMBER})\s*(?:h|hrs?|hours?)\s*)?"
    rf"(?:({_NUMBER})\s*(?:mins?|minutes?|m|')\s*)?"
    rf"(?:({_NUMBER})\s*(?:s|secs?|seconds?|\"|'')?)?",
    re.ASCII,
)
# A number behind hours, without a unit, is minutes.
_HOURS_MINUTES = re.compile(rf"({_NUMBER})\s*(?:h|hrs?|hours?)\s*({_NUMBER})", re.ASCII)
_BULB = re.compile(r"^(?:bulb|b)[\s:,]+")
_MINUTES_SECONDS = re.compile(r"(\d+):([0-5]\d)(?::([0-5]\d))?", re.ASCII)
_WHOLE = re.compile(r"\d+", re.ASCII)
_APERTURE = re.compile(rf"(?:[fƒ]\s*/?\s*)?({_NUMBER})", re.ASCII)
_APERTURE_PAIR = re.compile(rf"(?:[fƒ]\s*/?\s*)?({_NUMBER})\s*(?:-|–|to)\s*(?:[fƒ]\s*/?\s*)?({_NUMBER})", re.ASCII)


def markings_by(steps: DialSteps) -> tuple[tuple[Marking, ...], tuple[Marking, ...], tuple[Marking, ...]]:
    """Return the markings of apertures, shutter times and ISO speeds in thirds, halves or whole stops."""
    if steps is DialSteps.THIRDS:
        return APERTURE_MARKINGS, SHUTTER_MARKINGS, ISO_MARKINGS
    each = 1 if steps is DialSteps.WHOLE else 0.5
    apertures = tuple(
        Marking(value, format_aperture(value)) for value in (2.0 ** (stops / 2) for stops in _stops(-1, 12, each))
    )
    shutters = tuple(Marking(value, format_shutter(value)) for value in (2.0**stops for stops in _stops(-14, 5, each)))
    isos = tuple(
        nearest_marked_iso(100 * 2.0**stops) if stops % 1 == 0 else round(100 * 2.0**stops, -1)
        for stops in _stops(-2, 10, each)
    )
    return apertures, shutters, tuple(Marking(float(iso), f"{iso:.0f}") for iso in isos)


def _stops(first: int, last: int, each: float) -> list[float]:
    return [first + number * each for number in range(round((last - first) / each) + 1)]


def nearest_third_shutter_s(shutter_s: float) -> float:
    """Return the exact third-stop shutter time [s] nearest in stops to shutter_s [s].

    Goes beyond the engraved range (60 s gives 64 s). Raises InputError unless 0 < shutter_s < infinity.
    """
    _check("shutter_s", shutter_s)
    return float(2.0 ** (round(3 * math.log2(shutter_s)) / 3))


def nearest_third_f_number(f_number: float) -> float:
    """Return the exact third-stop f-number nearest in stops to f_number.

    Raises InputError unless positive and finite.
    """
    _check("f_number", f_number)
    return float(2.0 ** (round(6 * math.log2(f_number)) / 6))


def nearest_marked_iso(iso: float) -> float:
    """Return the engraved ISO speed nearest in stops to iso. Raises InputError unless positive and finite."""
    _check("iso", iso)
    return min(ISO_MARKINGS, key=lambda marking: abs(math.log2(marking.value / iso))).value


def spoken_shutter(shutter_s: float) -> str:
    """Return a shutter time [s] as a sentence says it: its marking below a minute, "2 min 08 s" from there on.

    Raises as format_shutter.
    """
    return format_shutter(shutter_s) if shutter_s < 59.5 else format_duration(shutter_s)


@lru_cache(maxsize=4096)
def format_shutter(shutter_s: float) -> str:
    """Return the trade's marking for a shutter time [s]: "1/60", "0.6 s", "30 s", "2'30\\"", "1 h 05 min".

    Times within 0.1 stop of a third-stop value take its marking; others are written out.
    Raises InputError unless 0 < shutter_s < infinity.
    """
    _check("shutter_s", shutter_s)
    nearest = min(SHUTTER_MARKINGS, key=lambda marking: abs(math.log2(marking.value / shutter_s)))
    if abs(math.log2(nearest.value / shutter_s)) <= _MARKING_TOLERANCE_STOPS:
        return nearest.label
    stops = round(2 * math.log2(shutter_s)) / 2
    if stops in _HALF_NAMES and abs(math.log2(shutter_s) - stops) <= _MARKING_TOLERANCE_STOPS / 2:
        return _seconds_label(_HALF_NAMES[stops])
    if shutter_s < 0.1:
        return "1/" + _unlike_a_marking(1 / shutter_s, 0, "1/")
    if shutter_s < 59.5:
        return _unlike_a_marking(shutter_s, 2 if shutter_s < 0.995 else 1 if shutter_s < 9.95 else 0) + " s"
    whole = round(shutter_s)
    if whole == 60:
        return "60 s"
    if whole < 3600:
        return f"{whole // 60}'{whole % 60:02d}\"" if whole % 60 else f"{whole // 60}'"
    minutes = round(shutter_s / 60)
    return f"{minutes // 60} h {minutes % 60:02d} min"


def _unlike_a_marking(value: float, decimals: int, before: str = "") -> str:
    """Return value with the given decimals, or one more if it would read like the marking of another time."""
    text = f"{value:.{decimals}f}"
    return f"{value:.{decimals + 1}f}" if before + text in _EXACT_SHUTTER else text


def parse_shutter(text: str) -> float:
    """Return the exact shutter time [s] meant by text: "1/60", "0.6 s", "30 s", "2'30\\"", "2:30", "2 min", "1h30",
    "bulb 4 min".

    A text that is a marking gives the exact value behind it ("1/60" is 1/64 s, "30 s" is 32 s); any other time is
    taken
    as written. A bare whole number of 2 and more is refused: 60 is 1/60 on a camera and 60 s on a timer. Raises
    InputError with
    what is allowed.
    """
    cleaned = _BULB.sub("", _cleaned(text, "shutter_s"))
    if _WHOLE.fullmatch(cleaned) and int(cleaned[:9]) > 1:
        raise InputError(
            "shutter_s", f"“{shown(text)}” can be read in two ways: write 1/{cleaned[:9]} or {cleaned[:9]} s."
        )
    bare = re.sub(r"\s*(?:s|secs?|seconds?|\")$", "", cleaned).strip()
    if bare in _EXACT_SHUTTER:
        return _EXACT_SHUTTER[bare]
    seconds = 0.0
    if match := _MINUTES_SECONDS.fullmatch(cleaned):
        parts = [int(part) for part in match.groups() if part is not None]
        seconds = float(sum(part * 60**power for power, part in enumerate(reversed(parts))))
    elif match := _FRACTION.fullmatch(cleaned):
        divisor = float(match[2])
        seconds = float(match[1]) / divisor if divisor else 0.0
    elif match := _HOURS_MINUTES.fullmatch(cleaned):
        seconds = 3600 * float(match[1]) + 60 * float(match[2])
    elif (match := _CLOCK.fullmatch(cleaned)) and any(match.groups()):
        hours, minutes, rest = (float(part or 0) for part in match.groups())
        seconds = hours * 3600 + minutes * 60 + rest
    if not (0 < seconds < math.inf):
        raise InputError(
            "shutter_s", f"“{shown(text)}” is not a shutter time. Write 1/60, 0.6 s, 30 s, 2'30\" or 2 min."
        )
    return seconds


@lru_cache(maxsize=4096)
def format_aperture(f_number: float) -> str:
    """Return the trade's marking for an f-number: "f/11" for 11.31, "f/5.9" where it is no third-stop value.

    Raises InputError unless 0 < f_number < infinity.
    """
    _check("f_number", f_number)
    nearest = min(APERTURE_MARKINGS, key=lambda marking: abs(math.log2(marking.value / f_number)))
    if 2 * abs(math.log2(nearest.value / f_number)) <= _MARKING_TOLERANCE_STOPS:
        return nearest.label
    return f"f/{f_number:.2g}" if f_number < 10 else f"f/{round(f_number)}"


def parse_aperture(text: str) -> float:
    """Return the exact f-number meant by text: "f/11", "ƒ/11", "F11", "11" (all 11.31), "5.9" (as written).

    Raises InputError with what is allowed.
    """
    cleaned = _cleaned(text, "f_number")
    match = _APERTURE.fullmatch(cleaned)
    value = float(match[1]) if match else 0.0
    if not match or value <= 0:
        raise InputError("f_number", f"“{shown(text)}” is not an aperture. Write f/11, f11 or 11.")
    return _EXACT_APERTURE.get(f"{value:g}", value)


def parse_aperture_pair(text: str) -> tuple[float, float]:
    """Return the widest f-numbers of a zoom at its short and long end, as lenses are labelled: "f/3.5-5.6"; one figure
    stands for both.

    Raises InputError with what is allowed.
    """
    match = _APERTURE_PAIR.fullmatch(_cleaned(text, "f_number"))
    if match:
        return parse_aperture(match[1]), parse_aperture(match[2])
    return parse_aperture(text), parse_aperture(text)


def _cleaned(text: str, field: str) -> str:
    if not isinstance(text, str) or not text.strip():
        raise InputError(field, "A value is needed here.")
    swapped = (
        text.strip().lower().replace("′", "'").replace("’", "'").replace("″", '"').replace("”", '"').replace(",", ".")
    )
    return re.sub(r"\s+", " ", swapped)


def _check(field: str, value: float) -> None:
    if not (isinstance(value, (int, float)) and 0 < value < math.inf):
        raise InputError(field, f"{field} must be greater than zero and finite, not {value!r}.")
