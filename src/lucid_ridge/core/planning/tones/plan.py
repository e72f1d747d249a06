"""Step 5, the picture in tones: what the sensor holds of the scene as it is predicted, frame by frame, and what a
filter would change.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy import ndimage

from ...facts.materials import material_of, reflectance_of
from ...facts.settings import settings_of, standing_on
from ...facts.shot import ShotFacts
from ...facts.spots import SpotPart
from ...framing.projection import Camera
from ...light.materials import REFLECTANCES
from ...tones.monochrome import MonochromeFilter, material_stops, sky_stops
from ...tones.picture import GROUND, LAND, SKY, Marks
from ...tones.quantiles import quantiles
from ...tones.response import response_table, screen_tone
from ..exposure.plan import ExposureStep
from ..exposure.reading_in_force import reading_in_force
from ..focus.camera import focused_camera, scene_solids
from ..light.plan import LightStep
from ..plan.shot_plan import ShotPlan
from .graduated import GraduatedEdge, graduated_edge
from .scene_layers import SceneTones, scene_tones
from .scene_light import LitScene, disc_seen, lit_scene
from .scene_picture import PICTURE_POINTS, ScenePicture, scene_picture

Floats = NDArray[np.float64]
# A long exposure smooths ripples: with a streak of this share of the frame's short side half of them are gone (our
# own model).
_SMOOTHED_SHARE = 0.05
_BINS = 40
# What is let go at either end of a picture's tones.
LET_GO = 0.01
# Readings of one part that lie further apart than this contradict each other.
_ODD_STOPS = 1.0


@dataclass(frozen=True)
class FrameTones:
    """What one exposure makes of the scene. brightest_ev, darkest_ev: between which it holds detail [EV at ISO 100].

    clipped, blocked: shares of the picture over and under.
    """

    shutter_s: float
    darkest_ev: float
    brightest_ev: float
    clipped: float
    blocked: float


@dataclass(frozen=True)
class PartTones:
    """A part of the picture: its middle EV and between which its tones lie (a twentieth beyond at either end), and its
    share of the frame.

    spread_stops: by how much the prediction may be off each way, by its material's range and by the cloud.
    """

    name: str
    element_id: int | None
    middle_ev: float
    low_ev: float
    high_ev: float
    share: float
    spread_stops: float


@dataclass(frozen=True)
class Corrections:
    """What spot readings move the predicted light by [stops]: of sky, land, every element by its id.

    Most where they were taken, half everywhere else (our own model). odd: names of parts whose readings contradict
    each other, with how far apart they lie [stops].
    """

    sky: float = 0.0
    land: float = 0.0
    elements: tuple[tuple[int, float], ...] = ()
    odd: tuple[tuple[str, float], ...] = ()

    def of(self, element_id: int) -> float:
        return dict(self.elements).get(element_id, 0.0)

    def over(self, marks: Marks, ids: tuple[int, ...]) -> Floats:
        """Return the corrections all over a picture (high, wide)."""
        made = np.full(len(ids) - min(SKY, LAND, GROUND), self.land)
        made[: len(ids)] = [self.of(id_) for id_ in ids]
        # Marks of parts other than elements count from the end.
        made[SKY] = self.sky
        return np.asarray(made[marks])


@dataclass(frozen=True)
class Monochrome:
    """What a coloured filter does to a black-and-white picture [stops], negative darker: to sky, ground and land, and
    elements by their id.
    """

    filter: MonochromeFilter
    sky: float
    land: float
    elements: tuple[tuple[int, float], ...]


@dataclass(frozen=True)
class Separation:
    """How far the subject stands out from what surrounds it [stops], positive where it is the brighter.

    behind: the name of most of that.
    """

    stops: float
    behind: str
    against_sky: bool


@dataclass(frozen=True, kw_only=True)
class TonesStep:
    """The scene and what each frame holds of it.

    bare_ev: of the picture as readings correct it, without filters; seen_ev: with those on the lens. carrying: the one
    that carries the picture. reference_ev: about the scene's own middle, for drawing. shift_stops: what the meter says
    against the prediction; corrections: what spot readings say beside.

    shadow_ev, middle_ev, highlight_ev: of the whole picture, a hundredth beyond at either end, the sun's disc let go,
    filters on the lens counted.
    """

    lit: LitScene
    scene: SceneTones
    camera: Camera
    picture: ScenePicture
    bare_ev: Floats
    seen_ev: Floats
    frames: tuple[FrameTones, ...]
    carrying: int
    parts: tuple[PartTones, ...]
    histogram_from_ev: float
    histogram_step_ev: float
    histogram: tuple[float, ...]
    shadow_ev: float
    middle_ev: float
    highlight_ev: float
    reference_ev: float
    shift_stops: float
    corrections: Corrections
    held_stops: float
    response_stops: Floats
    response_tones: Floats
    graduated: GraduatedEdge | None
    polariser_on: bool
    polariser_low_stops: float | None
    polariser_high_stops: float | None
    separation: Separation | None
    monochrome: tuple[Monochrome, ...]
    disc: tuple[float, float] | None


def plan_tones(facts: ShotFacts, plan: ShotPlan, points: int = PICTURE_POINTS) -> TonesStep | None:
    """Return the picture in tones; None while body, lens or the time are not chosen.

    points: along the longer side of the small picture.
    """
    facts = reading_in_force(facts)
    settings = settings_of(facts)
    if settings is None or facts.body is None or facts.lens is None:
        return None
    camera = standing_on(focused_camera(facts, settings, plan.depth.imaging), facts.ground)
    calm = 1 / (1 + (plan.exposure.streak_share or 0.0) / _SMOOTHED_SHARE)
    lit = lit_scene(facts, camera, scene_solids(facts), plan.light, calm)
    if lit is None:
        return None
    scene, picture = scene_tones(lit), scene_picture(lit, tuple(item.id for item in facts.elements), points)
    shift = _shift_stops(plan.exposure, plan.light, picture)
    edge = graduated_edge(facts, settings, facts.body, camera, _skyline_share(picture.marks))
    polariser_on = any(item.kind.polarises for item in facts.filters_on_lens)
    ids = tuple(item.id for item in facts.elements)
    corrections = _corrections(facts, picture, shift, ids)
    bare = picture.ev + shift + corrections.over(picture.marks, ids)
    seen = _seen(bare, picture, edge, polariser_on)
    held = facts.body.held_stops(settings.iso)
    frames = tuple(_frame(item.shutter_s, item.darkest_ev, item.brightest_ev, seen) for item in plan.exposure.exposures)
    shadow, middle, highlight = (float(item) for item in quantiles(seen, (LET_GO, 0.5, 1 - LET_GO)))
    counts, edges = np.histogram(seen, bins=_BINS, range=(min(shadow - 2, middle - 8), max(highlight + 2, middle + 8)))
    stops, tones = response_table(held)
    parts = _parts(facts, picture, bare, _light_spread_stops(plan.light))
    low, high = _sky_polarised(picture)
    separation = _separation(facts, picture, seen)
    return TonesStep(
        lit=lit,
        scene=scene,
        camera=camera,
        picture=picture,
        bare_ev=bare,
        seen_ev=seen,
        frames=frames,
        carrying=plan.exposure.carrying,
        parts=parts,
        histogram_from_ev=float(edges[0]),
        histogram_step_ev=float(edges[1] - edges[0]),
        histogram=tuple(float(item) / seen.size for item in counts),
        shadow_ev=shadow,
        middle_ev=middle,
        highlight_ev=highlight,
        reference_ev=float(np.median(picture.ev)),
        shift_stops=shift,
        corrections=corrections,
        held_stops=held,
        response_stops=stops,
        response_tones=tones,
        graduated=edge,
        polariser_on=polariser_on,
        polariser_low_stops=low,
        polariser_high_stops=high,
        separation=separation,
        monochrome=_monochrome(facts, scene),
        disc=disc_seen(scene.light),
    )


def seen_through(step: TonesStep, facts: ShotFacts) -> Floats:
    """Return the picture's tones through the filters on the lens of other facts [EV at ISO 100]. Body and lens must be
    those of the step.
    """
    settings = settings_of(facts)
    assert settings is not None and facts.body is not None
    edge = graduated_edge(facts, settings, facts.body, step.camera, _skyline_share(step.picture.marks))
    polarised = any(item.kind.polarises for item in facts.filters_on_lens)
    return _seen(step.bare_ev, step.picture, edge, polarised)


def _seen(bare: Floats, picture: ScenePicture, edge: GraduatedEdge | None, polarised: bool) -> Floats:
    seen = bare + (picture.polariser_stops if polarised else 0.0)
    return seen if edge is None else seen - edge.stops_over(*seen.shape)


def _shift_stops(exposure: ExposureStep, light: LightStep, picture: ScenePicture) -> float:
    """Return the difference of the shot's own reading from the prediction: through the lens it is the mean of the
    picture, by hand-held meter the light.
    """
    if exposure.predicted or exposure.scene_ev100 is None:
        return 0.0
    if exposure.read_through_lens:
        return exposure.scene_ev100 - float(np.log2(np.exp2(picture.ev).mean()))
    return exposure.scene_ev100 - (light.ev100 or 0.0)


def _corrections(facts: ShotFacts, picture: ScenePicture, shift: float, ids: tuple[int, ...]) -> Corrections:
    """Return the differences of the shot's spot readings from the prediction, part by part."""
    masks: dict[int | None, NDArray[np.bool_]] = {id_: picture.marks == at for at, id_ in enumerate(ids)}
    masks[None] = picture.marks == SKY
    land = (picture.marks == LAND) | (picture.marks == GROUND)
    said: dict[tuple[SpotPart, int | None], list[float]] = {}
    for spot in facts.spots:
        mask = land if spot.part == SpotPart.LAND else masks.get(spot.element_id)
        # What the frame does not see has no prediction to be held against.
        if mask is not None and mask.any():
            said.setdefault((spot.part, spot.element_id), []).append(
                spot.bare_ev100 - shift - float(np.median(picture.ev[mask]))
            )
    if not said:
        return Corrections()
    means = {key: sum(values) / len(values) for key, values in said.items()}
    elsewhere = sum(means.values()) / len(means) / 2
    names = {item.id: item.name for item in facts.elements}
    odd = tuple(
        (names[key[1]] if key[1] is not None else f"the {key[0]}", max(values) - min(values))
        for key, values in said.items()
        if max(values) - min(values) > _ODD_STOPS
    )
    return Corrections(
        means.get((SpotPart.SKY, None), elsewhere),
        means.get((SpotPart.LAND, None), elsewhere),
        tuple((id_, means.get((SpotPart.ELEMENT, id_), elsewhere)) for id_ in ids),
        odd,
    )


def picture_tones(step: TonesStep) -> Floats:
    """Return how light a screen shows each point of the picture, 0 to 1, as the frame that carries it holds it."""
    top = step.frames[step.carrying].brightest_ev if step.frames else step.highlight_ev
    return screen_tone(top - step.seen_ev)


def _monochrome(facts: ShotFacts, scene: SceneTones) -> tuple[Monochrome, ...]:
    return tuple(
        Monochrome(
            item,
            sky_stops(item, scene.light.oktas),
            material_stops(item, facts.exposure.ground_material),
            tuple((element.id, material_stops(item, material_of(element))) for element in facts.elements),
        )
        for item in MonochromeFilter
    )


def _frame(shutter_s: float, darkest: float, brightest: float, seen: Floats) -> FrameTones:
    return FrameTones(shutter_s, darkest, brightest, _share(seen > brightest), _share(seen < darkest))


def _share(mask: NDArray[np.bool_]) -> float:
    return int(np.count_nonzero(mask)) / mask.size


def _skyline_share(marks: Marks) -> float:
    """Return how far down the frame its skyline lies, as the mean over its width [share of the height]; the horizon's
    middle where no sky is seen.
    """
    sky = marks == SKY
    depth = np.where(sky.all(axis=0), marks.shape[0], sky.argmin(axis=0))
    return float(depth.mean() / marks.shape[0])


def part_name(facts: ShotFacts, mark: int) -> str:
    """Return the display name of a part of the picture, by its mark."""
    return {SKY: "the sky", LAND: "the land", GROUND: "the ground"}.get(mark) or facts.elements[mark].name


def _parts(facts: ShotFacts, picture: ScenePicture, ev: Floats, spread_stops: float) -> tuple[PartTones, ...]:
    """Return the tones of the sky, the land and every element that is seen."""
    land = (picture.marks == LAND) | (picture.marks == GROUND)
    masks: list[tuple[str, int | None, NDArray[np.bool_]]] = [
        ("Sky", None, picture.marks == SKY),
        ("Ground and land", None, land),
    ]
    masks += [(item.name, item.id, picture.marks == at) for at, item in enumerate(facts.elements)]
    found = []
    for name, element_id, mask in masks:
        if mask.any():
            low, middle, high = (float(item) for item in quantiles(ev[mask], (0.05, 0.5, 0.95)))
            found.append(
                PartTones(
                    name,
                    element_id,
                    middle,
                    low,
                    high,
                    _share(mask),
                    spread_stops + _material_spread(facts, name, element_id),
                )
            )
    return tuple(found)


def _light_spread_stops(light: LightStep) -> float:
    return (
        (light.ev100_high - light.ev100_low) / 2
        if light.ev100_low is not None and light.ev100_high is not None
        else 0.0
    )


def _material_spread(facts: ShotFacts, name: str, element_id: int | None) -> float:
    """Return half the range of what a part is made of [stops]; the sky's is its standard's, a third of a stop (our own
    estimate).
    """
    element = facts.element(element_id)
    if element is None and name == "Sky":
        return 1 / 3
    made = reflectance_of(element) if element is not None else REFLECTANCES[facts.exposure.ground_material]
    return math.log2(made.high / made.low) / 2


def _sky_polarised(picture: ScenePicture) -> tuple[float | None, float | None]:
    """Return how much a polariser darkens the sky in the frame at least and at most [stops, 0 or more]."""
    sky = picture.marks == SKY
    if not sky.any():
        return None, None
    low, high = quantiles(-picture.polariser_stops[sky], (0.02, 0.98))
    return float(low), float(high)


def tone_range_ev(ev: Floats) -> tuple[float, float]:
    """Return between which EV the tones of a picture lie, a hundredth let go at either end."""
    low, high = (float(item) for item in quantiles(ev, (LET_GO, 1 - LET_GO)))
    return low, high


def _separation(facts: ShotFacts, picture: ScenePicture, seen: Floats) -> Separation | None:
    """Return how the subject stands against what surrounds it in the picture; None where it is not seen, or nothing
    around it.
    """
    subject = facts.subject
    if subject is None:
        return None
    mask = picture.marks == facts.elements.index(subject)
    if np.count_nonzero(mask) < 4:
        return None
    reach = max(2, seen.shape[1] // 25)
    near = tuple(slice(max(0, int(places.min()) - reach), int(places.max()) + reach + 1) for places in np.nonzero(mask))
    mask, seen, marks = mask[near], seen[near], picture.marks[near]
    around = ndimage.binary_dilation(mask, iterations=reach) & ~mask
    if not around.any():
        return None
    # Marks of parts other than elements are negative.
    lowest = min(SKY, LAND, GROUND)
    most = int(np.bincount(marks[around] - lowest).argmax()) + lowest
    return Separation(float(np.median(seen[mask]) - np.median(seen[around])), part_name(facts, most), most == SKY)
