"""`now`: quick answers on the command line, as texts are typed in the application."""

from __future__ import annotations

import argparse
import sys
from typing import Any

from .core.errors import InputError


def declare(commands: Any) -> None:
    """Declare `now` and its subcommands."""
    now = commands.add_parser("now", help="answer at once: a filter's time, depth, a bracket, stars")
    kinds = now.add_subparsers(dest="what", required=True)
    nd = kinds.add_parser("nd", help="the time behind a filter: now nd 1/15 10")
    nd.add_argument("shutter", help="as read without it: 1/15, 0.5 s, 2 min")
    nd.add_argument("stops", help="10, ND1000, 3.0 ND")
    nd.add_argument("--film", type=float, metavar="EXPONENT", help="of the film's reciprocity failure, such as 1.31")
    depth = kinds.add_parser("depth", help="where to focus: now depth 24 f/11 0.8 inf")
    for name, words in (("focal", "in mm"), ("aperture", "f/11"), ("near", "0.8 m"), ("far", "40 m, or inf")):
        depth.add_argument(name, help=words)
    bracket = kinds.add_parser("bracket", help="frames for a range: now bracket 3 16")
    bracket.add_argument("darkest", help="EV at ISO 100 of the darkest part that keeps detail")
    bracket.add_argument("brightest", help="of the brightest")
    bracket.add_argument("--holds", type=float, default=11.0, metavar="STOPS", help="of one frame (11)")
    bracket.add_argument("--step", type=float, default=2.0, metavar="EV", help="between frames (2)")
    stars = kinds.add_parser("stars", help="how long stars stay points: now stars 24")
    stars.add_argument("focal", help="in mm")
    stars.add_argument("--aperture", default="f/2.8")
    for command in (depth, stars):
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
    from .core.units.markings import parse_aperture, parse_shutter

    if options.what == "nd":
        from .core.now.neutral_density import behind_filters
        from .core.units.stops import parse_filter_stops

        return behind_filters(parse_shutter(options.shutter), parse_filter_stops(options.stops), options.film).lines
    if options.what == "bracket":
        from .core.now.bracket import bracket_now
        from .core.units.ratios import parse_ev

        return bracket_now(parse_ev(options.darkest), parse_ev(options.brightest), options.holds, options.step).lines
    from .core.units.lengths import parse_length_mm

    focal_mm = parse_length_mm(options.focal)
    if options.what == "stars":
        from .core.now.stars import stars_now

        return stars_now(focal_mm, parse_aperture(options.aperture), options.format).lines
    from .core.now.depth import depth_now
    from .core.units.lengths import parse_distance_m

    near_m, far_m = parse_distance_m(options.near), parse_distance_m(options.far)
    return depth_now(focal_mm, parse_aperture(options.aperture), near_m, far_m, options.format).lines
