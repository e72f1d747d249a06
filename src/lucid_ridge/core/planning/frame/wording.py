"""Sentences about the frame: what it shows and cuts, composition, standing, panorama and vignetting."""

from __future__ import annotations

from ...units.lengths import format_distance
from ...units.spelling import percent
from ..verdicts import StepName
from ..wording import Catalogue, joined, plural

sentence = Catalogue("frame", StepName.FRAME)
composition = Catalogue("composition", StepName.FRAME)
standing = Catalogue("standing", StepName.FRAME)
panorama = Catalogue("panorama", StepName.FRAME)
vignetting = Catalogue("vignetting", StepName.FRAME)


@sentence
def no_body_or_lens(*, lacking: str) -> str:
    return f"Choose a {lacking}: the frame is drawn from it."


@sentence
def view(*, focal_mm: float, orientation: str, across_deg: float, upwards_deg: float, bearing_deg: float) -> str:
    return (
        f"{focal_mm:g} mm {orientation} covers {across_deg:.1f}° by {upwards_deg:.1f}°, centred on {bearing_deg:.0f}°."
    )


@sentence
def sun_in_frame() -> str:
    return (
        "The sun is in the frame: never look at it through an optical finder or a long lens; a neutral "
        "density filter is not a solar filter."
    )


@sentence
def galactic_centre(*, inside: bool, turn_deg: float, altitude_deg: float, compass: str, bearing_deg: float) -> str:
    where = f"{altitude_deg:.0f}° high in the {compass} (bearing {bearing_deg:.0f}°)"
    if inside:
        return f"The galactic centre is in the frame, {where}."
    side = f"{abs(turn_deg):.0f}° {'right' if turn_deg > 0 else 'left'} of the frame's middle"
    return f"The galactic centre is outside the frame: {where}, {side}."


@sentence
def crop(
    *,
    aspect: str,
    as_focal_mm: float | None,
    pixels_wide: int,
    pixels_high: int,
    pixel_share: float,
    print_cm: tuple[float, float],
    field_mm: float | None,
) -> str:
    shape = [aspect, f"the view of {as_focal_mm:g} mm" if as_focal_mm is not None else ""]
    text = (
        f"Cropped to {joined([part for part in shape if part])}: {pixels_wide} × {pixels_high} pixels remain, "
        f"{percent(pixel_share)}, "
        f"a print of {print_cm[0]:.0f} × {print_cm[1]:.0f} cm at 300 ppi."
    )
    return text if field_mm is None else f"{text} The field shrinks to {field_mm:.1f} mm across; a crop adds no detail."


@sentence
def no_such_focal_length(*, focal_mm: float, lens: str, shortest_mm: float, longest_mm: float) -> str:
    return f"{focal_mm:g} mm is outside the range of the {lens} ({shortest_mm:g} to {longest_mm:g} mm)."


@sentence
def out_of_frame(*, element: str) -> str:
    return f"Out of the frame: {element}. Turn the camera or take a wider lens."


@sentence
def cut(*, element: str, edges: tuple[str, ...], share: float) -> str:
    return f"Cut at the {joined(list(edges)) or 'edge'}: {element}, {percent(share)} in the frame."


@composition
def touches_edge(*, element: str, edge: str, margin: float) -> str:
    side = "just inside" if margin >= 0 else "just over"
    return f"{element} touches the {edge} edge ({side}, {percent(abs(margin), 1)}): cut it clearly or leave a gap."


@composition
def pair(*, one: str, other: str, clearance: float, touching: bool, move: str, opens: float) -> str:
    names = f"{one} and {other}"
    help_ = f" {move[0].upper()}{move[1:]} opens it by {percent(opens, 1)}." if move else ""
    if clearance < 0:
        return f"{names} overlap by {percent(-clearance, 1)} of the width.{help_}"
    if touching:
        return f"{names} touch: {percent(clearance, 1)} of the width between them.{help_}"
    return f"{names} are {percent(clearance, 1)} of the width apart."


@composition
def on_diagonal(*, element: str, off: float, on_line: bool) -> str:
    where = "on a diagonal" if on_line else f"{percent(off)} of the width off the nearer diagonal"
    return f"{element} is {where}."


@composition
def on_line(*, element: str, line: str, off: float, is_on: bool) -> str:
    if is_on:
        return f"{element} is on the {line}."
    return f"{element} is {percent(abs(off))} {'right' if off > 0 else 'left'} of the {line}."


@composition
def lead(*, element: str, edge: str, at: tuple[float, float], target: str | None, off: float, points: bool) -> str:
    x, y = at
    share = f"{percent(x)} from the left" if edge in ("top", "bottom") else f"{percent(y)} from the top"
    enters = f"enters at the {edge}, {share}" if edge else f"begins inside the frame, {percent(x)} from the left"
    if target is None:
        return f"{element} {enters}, and leads to nothing in the frame."
    if points:
        return f"{element} {enters}, and points at {target} ({percent(off)} off)."
    return f"{element} {enters}, and passes {target} by {percent(off)} of the width."


@composition
def horizon(*, from_top: float) -> str:
    return f"The horizon is at {percent(from_top)} from the top."


@composition
def not_level(*, leans_deg: float) -> str:
    side = "right" if leans_deg > 0 else "left"
    return f"The camera leans {abs(leans_deg):.1f}° to the {side}: level it, unless you want that."


@composition
def verticals(*, pitch_deg: float, lean_deg: float) -> str:
    way = "upwards" if pitch_deg > 0 else "downwards"
    return f"Pitched {abs(pitch_deg):g}°, verticals converge {way}: they lean {lean_deg:.0f}° at the sides."


@composition
def room(*, bare: float, emptiest: str) -> str:
    where = f", most of it {emptiest}" if emptiest else ""
    return f"{percent(bare)} of the frame is bare ground and sky{where}."


@standing
def outside_area(*, outside_m: float) -> str:
    return f"The camera is {format_distance(outside_m)} outside the standing area."


@standing
def near_edge(*, drop_m: float) -> str:
    return (
        f"The edge is {format_distance(drop_m)} away: never step back with your eye at the finder, and "
        "keep the tripod legs off it."
    )


@standing
def edge_not_drawn(*, moved_m: float) -> str:
    return (
        f"An edge is recorded here, but no standing area: the camera is {format_distance(moved_m)} from the "
        "tripod mark. "
        "Draw the standing area first."
    )


@standing
def tripod_too_low(*, support: str, reach_m: float, over_m: float) -> str:
    return (
        f"The tripod is too low: {support} reaches {format_distance(reach_m)}, {format_distance(over_m)} "
        "less than the camera height you want."
    )


@standing
def tripod_reaches(*, support: str, height_m: float, lowest_m: float, reach_m: float) -> str:
    return (
        f"{support} holds the camera at {format_distance(height_m)} ({format_distance(lowest_m)} to "
        f"{format_distance(reach_m)})."
    )


@standing
def column_reversed(*, support: str, height_m: float) -> str:
    return f"Reverse the column: at {format_distance(height_m)} the camera hangs under {support}."


@standing
def tripod_too_high(*, support: str, lowest_m: float, over_m: float) -> str:
    return (
        f"The tripod is too high: {support} goes no lower than {format_distance(lowest_m)}, "
        f"{format_distance(over_m)} above the camera height "
        "you want. Use a bean bag on the ground."
    )


@panorama
def not_possible(*, message: str) -> str:
    return message


@panorama
def size(
    *, across_deg: float, upwards_deg: float, columns: int, rows: int, pixels: tuple[int, int], projection: str
) -> str:
    shape = plural(columns, "frame") + (f" in {rows} rows" if rows > 1 else "")
    return (
        f"A panorama of {across_deg:.0f}° by {upwards_deg:.0f}°: {shape}, {pixels[0]} × {pixels[1]} "
        f"pixels, {projection} projection."
    )


@panorama
def one_frame_enough() -> str:
    return "One frame covers the whole field: no panorama is needed."


@panorama
def cylinder() -> str:
    return (
        "Wider than 120°, a flat projection stretches its sides: stitch on a cylinder, where straight level lines bow."
    )


@panorama
def head_not_level() -> str:
    return "The frames are counted for a levelled head: set the roll to 0."


@panorama
def slip(*, element: str, slip_px: float, pivot_mm: float, shows: bool) -> str:
    advice = ": move the pivot under it" if shows else ""
    return (
        f"{element} slips by {slip_px:.1f} pixels between frames with the pivot {pivot_mm:g} mm off the "
        f"entrance pupil{advice}."
    )


@panorama
def lock_exposure(*, sunward_frame: int | None) -> str:
    where = f" on frame {sunward_frame}, towards the sun" if sunward_frame is not None else ""
    return (
        f"Meter the brightest part{where}, and lock exposure, white balance and focus; with several focus "
        "positions, take one whole pass for each."
    )


@panorama
def things_move() -> str:
    return (
        "Clouds, water and light move on between the frames: take them quickly, with the moving part within one frame."
    )


@vignetting
def no_thread(*, lens: str) -> str:
    return f"Whether filters clear the corners is not known: {lens} has no filter thread in the kit."


@vignetting
def clear(*, ring: str) -> str:
    return f"{ring} clears the corners at this focal length."


def _at_worst(pupil_known: bool) -> str:
    return "" if pupil_known else " at worst (the depth of the lens's entrance pupil is not in the kit)"


@vignetting
def cuts(*, ring: str, from_share: float, pupil_known: bool) -> str:
    return (
        f"{ring} vignettes: dark from {percent(from_share)} of the half diagonal "
        f"outwards{_at_worst(pupil_known)}. Zoom in, crop, or take one off."
    )


@vignetting
def darkens(*, ring: str, from_share: float, pupil_known: bool) -> str:
    return (
        f"{ring} darkens the corners: from {percent(from_share)} of the half diagonal "
        f"outwards{_at_worst(pupil_known)}, less when stopped down."
    )
