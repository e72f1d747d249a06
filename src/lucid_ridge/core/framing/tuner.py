"""The fine-tuner: where the camera must stand and aim so that the elements fall where they belong.

Targets are misses measured in shares of the frame; the best camera has the least sum of their weighted squares within
what may change, and of several equally good ones it is the nearest. Many starts are improved at once by damped least
squares: Source: [1] Levenberg 1944, Marquardt 1963, any text on optimisation.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum
from typing import Any

import numpy as np
from numpy.typing import NDArray

from ..errors import InputError
from .footing import LEVEL_GROUND, Ground, StandingArea
from .many_cameras import EXACT_STEPS, QUICK_STEPS, WHOLE, Boxes, Cameras, InFocus, SceneModel, separation
from .projection import Camera
from .solids import Solid

Floats = NDArray[np.float64]
FREEDOMS = ("east_m", "north_m", "height_m", "focal_mm", "bearing_deg", "pitch_deg")


class TargetKind(StrEnum):
    PLACE = "place"
    CLEARANCE = "clearance"
    HORIZON = "horizon"
    WHOLE = "whole"


# A target is met when it is missed by less than half a per cent of the frame.
MET_WITHIN = 0.005
_STARTS, _STEPS, _SEED = 40, 26, 20_261_124
_FEW_STARTS, _FEW_STEPS = 8, 18
# What a freedom used up whole counts as a miss: far less than any target, so that of all good cameras the nearest is
# taken.
_STAY = 0.002
# Standing this near to the area counts as inside: a foot's width.
_INSIDE_M = 0.05
# Step of each freedom when testing its effect while its limit is in the way.
_BEYOND = {"east_m": 2.0, "north_m": 2.0, "height_m": 0.5, "focal_mm": 15.0, "bearing_deg": 10.0, "pitch_deg": 10.0}
_DIFFERENT = {"east_m": 0.35, "north_m": 0.35, "height_m": 0.25, "focal_mm": 4.0, "bearing_deg": 6.0, "pitch_deg": 5.0}


@dataclass(frozen=True)
class Target:
    """What is wanted of the frame; shares of its width (x, clearance) or height (y), 0..1 from the left and the top.

    place: element's middle at x and/or y. clearance: at least so much between element and other. horizon: at y. whole:
    element inside the frame with at least clearance to its edges. weight: what it counts against the others.
    """

    kind: str
    element: int | None = None
    other: int | None = None
    x: float | None = None
    y: float | None = None
    clearance: float = 0.0
    weight: float = 1.0

    def __post_init__(self) -> None:
        if self.kind not in tuple(TargetKind):
            raise InputError("kind", f"A target is one of {', '.join(TargetKind)}, not “{self.kind}”.")
        needs = {
            "place": self.element is not None and (self.x is not None or self.y is not None),
            "clearance": None not in (self.element, self.other),
            "horizon": self.y is not None,
            "whole": self.element is not None,
        }
        if not needs[self.kind]:
            raise InputError("targets", f"The target “{self.kind}” does not say all that it needs.")
        if self.kind == "clearance" and self.element == self.other:
            raise InputError("targets", "Air is wanted between two different elements.")
        if not 0 < self.weight <= 100:
            raise InputError("weight", "A weight must lie above 0 and up to 100.")


@dataclass(frozen=True, kw_only=True)
class Solution:
    """A camera, how far each target is missed by it [shares of the frame], and the weighted sum of squares."""

    camera: Camera
    misses: tuple[float, ...]
    cost: float

    @property
    def met(self) -> tuple[bool, ...]:
        return tuple(miss <= MET_WITHIN for miss in self.misses)


@dataclass(frozen=True)
class Relief:
    """What one more step of a freedom beyond its limit would bring: the freedom, the step with its sign, the cost
    then.

    For the standing area freedom is "area", step how far outside it one would stand [m], and camera the one that would
    stand there.
    """

    freedom: str
    step: float
    cost: float
    camera: Camera | None = None


@dataclass(frozen=True)
class Tuned:
    """solutions: the best camera first, then different ones.

    reliefs: limits that stand in the way. conflicts: indices of targets of which leaving one out would let all others
    be met.
    """

    solutions: tuple[Solution, ...]
    reliefs: tuple[Relief, ...]
    conflicts: tuple[int, ...]


def tune(
    solids: Sequence[Solid],
    targets: Sequence[Target],
    start: Camera,
    limits: Mapping[str, tuple[float, float]],
    area: StandingArea | None = None,
    seed: int = _SEED,
    ground: Ground = LEVEL_GROUND,
    window: tuple[float, float, float, float] = WHOLE,
    in_focus: InFocus | None = None,
) -> Tuned:
    """Return the cameras that meet the targets best.

    Deterministic for a seed.

    solids: targets name them by index. limits: for each freedom that may change its lower and upper bound, in the units
    of FREEDOMS; what is not named stays as in start. area: where one can stand; none leaves the limits alone. Heights
    are above the ground where the camera stands. window: the crop that the targets are counted in. in_focus: each
    camera is taken along its axis to where it is in focus. Raises InputError for no targets, no freedoms, unknown
    elements or empty limits.
    """
    _check(solids, targets, limits)
    named, renamed, focus = _only_named(solids, targets, in_focus)
    problem = _Problem(SceneModel(named, ground, focus), renamed, start, dict(limits), area, window)
    found = problem.solve(seed, _STARTS, _STEPS)
    best = found[0]
    found = problem.with_alternatives(found, seed)
    if all(best.met):
        return Tuned(tuple(found), (), ())
    return Tuned(tuple(found), problem.reliefs(best, seed), problem.conflicts(seed))


def misses_of(
    solids: Sequence[Solid],
    targets: Sequence[Target],
    camera: Camera,
    ground: Ground = LEVEL_GROUND,
    in_focus: InFocus | None = None,
) -> tuple[float, ...]:
    """Return how far each target is missed by one camera [shares of the frame]."""
    problem = _Problem(SceneModel(solids, ground, in_focus), tuple(targets), camera, {}, None, WHOLE)
    return tuple(problem.misses(np.empty((1, 0)))[0].tolist())


def _only_named(
    solids: Sequence[Solid], targets: Sequence[Target], in_focus: InFocus | None
) -> tuple[list[Solid], tuple[Target, ...], InFocus | None]:
    """Return the solids that targets and focus name, both with their new indices: nothing else needs to be looked
    at.
    """
    named = {index for target in targets for index in (target.element, target.other) if index is not None}
    kept = sorted(named | ({in_focus.element} if in_focus else set())) or [0]
    places = {index: place for place, index in enumerate(kept)}
    renamed = tuple(
        replace(
            target,
            element=None if target.element is None else places[target.element],
            other=None if target.other is None else places[target.other],
        )
        for target in targets
    )
    return (
        [solids[index] for index in kept],
        renamed,
        replace(in_focus, element=places[in_focus.element]) if in_focus else None,
    )


def _check(solids: Sequence[Solid], targets: Sequence[Target], limits: Mapping[str, tuple[float, float]]) -> None:
    if not targets:
        raise InputError("targets", "Say at least one thing that the frame should hold.")
    if not limits:
        raise InputError("freedoms", "Let at least one thing change: position, height, focal length, bearing or pitch.")
    for name, (low, high) in limits.items():
        if name not in FREEDOMS:
            raise InputError("freedoms", f"“{name}” is not one of {', '.join(FREEDOMS)}.")
        if not (math.isfinite(low) and math.isfinite(high) and low <= high):
            raise InputError(name, f"The lower limit {low:g} must not lie above the upper limit {high:g}.")
    for target in targets:
        for index in (target.element, target.other):
            if index is not None and not 0 <= index < len(solids):
                raise InputError("targets", "A target names an element that is not in the scene.")


@dataclass(frozen=True)
class _Problem:
    model: SceneModel
    targets: tuple[Target, ...]
    start: Camera
    limits: dict[str, tuple[float, float]]
    area: StandingArea | None
    window: tuple[float, float, float, float]
    # Where a freedom is drawn to instead of where it starts: how alternatives are looked for.
    anchor: tuple[tuple[str, float], ...] = ()

    def cameras(self, values: Floats) -> Cameras:
        """Return cameras from rows of the freedoms' values, in the order of limits."""
        columns: dict[str, Any] = {name: np.full(len(values), float(getattr(self.start, name))) for name in FREEDOMS}
        columns.update({name: values[:, index] for index, name in enumerate(self.limits)})
        return Cameras(**columns, frame_mm=self.start.frame_mm, roll_deg=self.start.roll_deg)

    def residuals(self, values: Floats) -> Floats:
        """Return weighted signed misses of every target, one column a number to be zero; shape (n, m)."""
        cameras = self.cameras(values)
        boxes = self.model.boxes(cameras, self.window)
        columns = [
            column * math.sqrt(target.weight)
            for target in self.targets
            for column in self._columns(target, boxes, QUICK_STEPS)
        ]
        columns += [
            _STAY * (values[:, index] - self._begin(name)) / max(high - low, 1e-9)
            for index, (name, (low, high)) in enumerate(self.limits.items())
        ]
        outside = self._outside(cameras)
        return np.stack([*columns, outside] if outside is not None else columns, axis=1)

    def misses(self, values: Floats) -> Floats:
        """Return each target's miss, not weighted; shape (n, targets)."""
        boxes = self.model.boxes(self.cameras(values), self.window)
        each = [
            np.sqrt(np.sum(np.square(self._columns(target, boxes, EXACT_STEPS)), axis=0)) for target in self.targets
        ]
        return np.stack(each, axis=1)

    def solve(self, seed: int, starts: int, steps: int) -> list[Solution]:
        low, high = (np.array([limit[side] for limit in self.limits.values()]) for side in (0, 1))
        values = low + (high - low) * np.random.default_rng(seed).random((starts, len(low)))
        values[0] = np.clip([self._begin(name) for name in self.limits], low, high)
        self._aim(values)
        values, cost = self._improve(np.clip(values, low, high), low, high, steps // 3)
        # The better ones are refined further: those still far off seldom recover.
        order = np.argsort(cost, kind="stable")[: max(6, starts * 5 // 8)]
        values, cost = self._improve(values[order], low, high, steps - steps // 3)
        order = np.argsort(cost, kind="stable")
        return self._distinct(values[order], cost[order])

    def with_alternatives(self, found: list[Solution], seed: int, most: int = 3) -> list[Solution]:
        """Return the results and, if they are fewer than most, equally good cameras with another position or aim: low,
        high, wide, long.
        """
        chosen = list(found)
        for name in ("height_m", "focal_mm"):
            for bound in self.limits.get(name, ()):
                if len(chosen) == most:
                    return chosen
                other = replace(self, anchor=((name, bound),)).solve(seed, _FEW_STARTS, _FEW_STEPS)[0]
                as_good = all(
                    miss <= max(MET_WITHIN, best * 1.05)
                    for miss, best in zip(other.misses, found[0].misses, strict=True)
                )
                if as_good and all(self._differ(self._row(other), self._row(one)) for one in chosen):
                    chosen.append(other)
        return chosen

    def _row(self, solution: Solution) -> Floats:
        return np.array([getattr(solution.camera, name) for name in self.limits])

    def reliefs(self, best: Solution, seed: int) -> tuple[Relief, ...]:
        """Return which limits, moved by a step, would bring the cost down by a third or more; the best first."""
        found = []
        for name, (low, high) in self.limits.items():
            here = float(getattr(best.camera, name))
            for bound, sign in ((low, -1.0), (high, 1.0)):
                if abs(here - bound) > 0.02 * max(high - low, 1e-9):
                    continue
                wider = (low - _BEYOND[name], high) if sign < 0 else (low, high + _BEYOND[name])
                other = replace(self, limits={**self.limits, name: wider}, area=None)
                cost = other.solve(seed, 24, 24)[0].cost
                if cost < best.cost * 2 / 3:
                    found.append(Relief(name, sign * _BEYOND[name], cost))
        if self.area is not None and self._moves:
            free = replace(self, area=None).solve(seed, 24, 24)[0]
            outside = float(self.area.outside_m(free.camera.east_m, free.camera.north_m))
            if free.cost < best.cost * 2 / 3 and outside > _INSIDE_M:
                found.append(Relief("area", outside, free.cost, free.camera))
        return tuple(sorted(found, key=lambda item: item.cost))

    @property
    def _moves(self) -> bool:
        return bool({"east_m", "north_m"} & set(self.limits))

    def conflicts(self, seed: int) -> tuple[int, ...]:
        if len(self.targets) < 2:
            return ()
        found = []
        for index in range(len(self.targets)):
            rest = replace(self, targets=self.targets[:index] + self.targets[index + 1 :])
            if all(rest.solve(seed, 12, 18)[0].met):
                found.append(index)
        return tuple(found)

    def _begin(self, name: str) -> float:
        """Return where a freedom starts; a bearing as its limits count it, which may run on past 360 or below 0."""
        value = dict(self.anchor).get(name, float(getattr(self.start, name)))
        if name != "bearing_deg":
            return value
        middle = sum(self.limits[name]) / 2
        return middle + (value - middle + 180) % 360 - 180

    def _columns(self, target: Target, boxes: Boxes, steps: int) -> list[Floats]:
        aspect = self.start.frame_mm[0] * self.window[2] / (self.start.frame_mm[1] * self.window[3])
        if target.kind == "horizon":
            assert target.y is not None
            return [np.clip(boxes.horizon_y - target.y, -9, 9)]
        index = target.element
        assert index is not None
        if target.kind == "clearance":
            assert target.other is not None
            return [
                np.minimum(
                    0.0, separation(boxes, index, target.other, aspect, steps, target.clearance) - target.clearance
                )
            ]
        if target.kind == "whole":
            edges = (
                boxes.left[:, index],
                1 - boxes.right[:, index],
                boxes.top[:, index] / aspect,
                (1 - boxes.bottom[:, index]) / aspect,
            )
            return [np.maximum(-9.0, np.minimum(0.0, edge - target.clearance)) for edge in edges]
        columns = []
        if target.x is not None:
            columns.append(np.clip((boxes.left[:, index] + boxes.right[:, index]) / 2 - target.x, -9, 9))
        if target.y is not None:
            columns.append(np.clip((boxes.top[:, index] + boxes.bottom[:, index]) / 2 - target.y, -9, 9))
        return columns

    def _outside(self, cameras: Cameras) -> Floats | None:
        """Return how far cameras stand outside the standing area [m], weighted; None without one or without freedom to
        move.
        """
        if self.area is None or not self._moves:
            return None
        return np.asarray(self.area.outside_m(cameras.east_m, cameras.north_m) * 10)

    def _aim(self, values: Floats) -> None:
        """Turn half of the starting cameras towards the middle of the targeted elements, so that few begin with
        nothing in view.
        """
        names = list(self.limits)
        if "bearing_deg" not in names:
            return
        wanted = {index for target in self.targets for index in (target.element, target.other) if index is not None}
        middles = np.array(
            [self.model.points[self.model.of_element(index)].mean(axis=0) for index in wanted] or [[0.0, 1.0, 0.0]]
        )
        cameras = self.cameras(values)
        offsets = middles[None] - np.stack((cameras.east_m, cameras.north_m, cameras.height_m), axis=1)[:, None]
        unit = offsets / np.linalg.norm(offsets, axis=2, keepdims=True)
        east, north, up = unit.sum(axis=1).T
        low, high = self.limits["bearing_deg"]
        bearing = np.degrees(np.arctan2(east, north))
        # Bearings run on past 360 within their limits.
        bearing = low + (bearing - low) % 360
        half = slice(1, None, 2)
        values[half, names.index("bearing_deg")] = np.minimum(bearing, high)[half]
        if "pitch_deg" in names:
            values[half, names.index("pitch_deg")] = np.degrees(np.arctan2(up, np.hypot(east, north)))[half]

    def _improve(self, values: Floats, low: Floats, high: Floats, steps: int) -> tuple[Floats, Floats]:
        """Improve all rows by damped least squares within the limits. Source: [1]."""
        span = np.maximum(high - low, 1e-9)
        count, size = values.shape
        damping = np.full(count, 1e-2)
        error = self.residuals(values)
        cost = np.sum(error * error, axis=1)
        shift = 1e-5 * span
        for _ in range(steps):
            moved = np.repeat(values[:, None, :], size, axis=1)
            moved[:, np.arange(size), np.arange(size)] += shift
            ahead = self.residuals(moved.reshape(-1, size)).reshape(count, size, -1)
            # In shares of each freedom's span, so that metres and millimetres weigh alike.
            slope = (ahead - error[:, None, :]) / 1e-5
            normal = slope @ slope.transpose(0, 2, 1)
            pull = (slope @ error[:, :, None])[:, :, 0]
            normal += (damping[:, None] * (1e-6 + np.einsum("nii->ni", normal)))[:, :, None] * np.eye(size)
            normal += 1e-9 * np.eye(size)
            step = -np.linalg.solve(normal, pull[:, :, None])[:, :, 0]
            tried = np.clip(values + np.clip(step, -0.5, 0.5) * span, low, high)
            new_error = self.residuals(tried)
            new_cost = np.sum(new_error * new_error, axis=1)
            better = new_cost < cost
            values = np.where(better[:, None], tried, values)
            error = np.where(better[:, None], new_error, error)
            cost = np.where(better, new_cost, cost)
            damping = np.clip(np.where(better, damping / 4, damping * 5), 1e-9, 1e6)
        return values, cost

    def _distinct(self, values: Floats, cost: Floats, most: int = 3) -> list[Solution]:
        misses = self.misses(values)
        chosen: list[int] = []
        for index in range(len(values)):
            near_best = cost[index] <= max(4 * cost[0], cost[0] + len(self.targets) * MET_WITHIN**2)
            if (not chosen or near_best) and all(self._differ(values[index], values[other]) for other in chosen):
                chosen.append(index)
            if len(chosen) == most:
                break
        return [
            Solution(camera=self._camera(values[index]), misses=tuple(misses[index].tolist()), cost=float(cost[index]))
            for index in chosen
        ]

    def _differ(self, one: Floats, other: Floats) -> bool:
        return any(abs(one[index] - other[index]) > _DIFFERENT[name] for index, name in enumerate(self.limits))

    def _camera(self, row: Floats) -> Camera:
        changes: dict[str, Any] = {name: float(row[index]) for index, name in enumerate(self.limits)}
        return replace(self.start, **changes)
