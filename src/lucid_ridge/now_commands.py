"""`now`: quick answers on the command line, as texts are typed in the application."""

from __future__ import annotations

import argparse
import sys
from datetime import UTC, datetime
from typing import Any

from .core.errors import InputError


def declare(commands: Any) -> None:
    """Declare `now` and its subcommands."""
    now = commands.add_parser("now", help="answer at once: light, a filter's time, depth, close-up, water, stars …")
    kinds = now.add_subparsers(dest="what", required=True)
    light = kinds.add_parser("light", help="light here: now light 54.56,-3.07")
    light.add_argument("coordinates", help="decimal degrees, degrees and minutes, UTM or MGRS")
    nd = kinds.add_parser("nd", help="the time behind a filter: now nd 1/15 10")
    nd.add_argument("shutter", help="as read without it: 1/15, 0.5 s, 2 min")
    nd.add_argument("filters", help="10, ND1000, 3.0 ND, ND64 + pol")
    nd.add_argument("--film", type=float, metavar="EXPONENT", help="of the film's reciprocity failure, such as 1.31")
    depth = kinds.add_parser("depth", help="where to focus: now depth 24 f/11 0.8 inf")
    for name, words in (("focal", "in mm"), ("aperture", "f/11"), ("near", "0.8 m"), ("far", "40 m, or inf")):
        depth.add_argument(name, help=words)
    close = kinds.add_parser("closeup", help="depth per frame and frames: now closeup 1.5:1 4 f/5.6")
    close.add_argument("magnification", help="1.5:1, or the width that fills the frame: 24 mm")
    close.add_argument("depth", help="of the subject, in mm")
    close.add_argument("aperture", help="as marked")
    close.add_argument("--focal", default="100", help="in mm (100)")
    bracket = kinds.add_parser("bracket", help="frames for a range: now bracket 1/2 1/1000")
    bracket.add_argument("darkest", help="part that keeps detail: EV 3, 1/2 at f/8, or a shutter time")
    bracket.add_argument("brightest", help="the same of the brightest")
    bracket.add_argument("--holds", type=float, default=11.0, metavar="STOPS", help="of one frame (11)")
    bracket.add_argument("--step", type=float, default=2.0, metavar="EV", help="between frames (2)")
    water = kinds.add_parser("water", help="shutter times by look: now water brisk_stream 4 24")
    water.add_argument("seen", help="ripples, trickle, slow_stream, brisk_stream, rapids, fall, flood or surf")
    water.add_argument("distance", help="4 m")
    water.add_argument("focal", help="in mm")
    stars = kinds.add_parser("stars", help="how long stars stay points: now stars 24")
    stars.add_argument("focal", help="in mm")
    stars.add_argument("--aperture", default="f/2.8")
    for command in (depth, close, water, stars):
        command.add_argument("--format", default="full", help="full, aps-c, four-thirds, 44x33 or 4x5")


def run(options: argparse.Namespace) -> int:
    """Print the answer; return 1 and say why on standard error for what cannot be read."""
    try:
        print("\n".join(_lines(options)))
    except InputError as error:
        print(error.message, file=sys.stderr)
        return 1
    return 0


def _lines(options: argparse.Namespace) -> tuple[str, ...]:
    from .core.units.lengths import parse_distance_m, parse_length_mm
    from .core.units.markings import parse_aperture, parse_shutter

    if options.what == "light":
        return _light(options.coordinates)
    if options.what == "nd":
        from .core.now.neutral_density import behind_filters
        from .core.units.stops import parse_filters_stops

        stops = parse_filters_stops(options.filters)
        return behind_filters(parse_shutter(options.shutter), stops, options.film).answer.lines
    if options.what == "bracket":
        from .core.now.bracket import bracket_now, range_ends

        return bracket_now(*range_ends(options.darkest, options.brightest), options.holds, options.step).answer.lines
    from .core.now.formats import body_of

    body = body_of(options.format)
    if options.what == "closeup":
        from .core.now.close_up import close_up_now, parse_scale

        magnification, field_mm = parse_scale(options.magnification)
        return close_up_now(
            magnification=magnification,
            field_mm=field_mm,
            depth_mm=parse_length_mm(options.depth),
            f_number=parse_aperture(options.aperture),
            body=body,
            focal_mm=parse_length_mm(options.focal),
        ).answer.lines
    focal_mm = parse_length_mm(options.focal)
    if options.what == "water":
        from .core.now.water import parse_water, water_now

        return water_now(parse_water(options.seen), parse_distance_m(options.distance), focal_mm, body).answer().lines
    if options.what == "stars":
        from .core.now.stars import stars_now

        return stars_now(focal_mm, parse_aperture(options.aperture), body).answer.lines
    from .core.now.depth import depth_now

    near_m, far_m = parse_distance_m(options.near), parse_distance_m(options.far)
    return depth_now(focal_mm, parse_aperture(options.aperture), near_m, far_m, body).answer.lines


def _light(coordinates: str) -> tuple[str, ...]:
    from .core.facts.place import Location
    from .core.facts.shot import ShotFacts
    from .core.now.light import light_now
    from .formats.coordinates import parse_coordinates
    from .operations.places.locations import propose_zone

    here = parse_coordinates(coordinates)
    zone = propose_zone(here.latitude_deg, here.longitude_deg)
    location = Location(coordinates, here.latitude_deg, here.longitude_deg, 0.0, zone)
    return light_now(ShotFacts(location=location), datetime.now(UTC)).answer.lines
