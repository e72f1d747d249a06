"""Geometry of the bench against shapely, a library of its own: hulls, gaps, areas, standing."""

import math

import numpy as np
import pytest
import shapely
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from lucid_ridge.core.framing.coverage import coverage
from lucid_ridge.core.framing.footing import standing_area
from lucid_ridge.core.framing.many_cameras import QUICK_STEPS, SceneModel, as_cameras, separation
from lucid_ridge.core.framing.meshes import hull_2d
from lucid_ridge.core.framing.outlines import in_window, outline
from lucid_ridge.core.framing.projection import Camera
from lucid_ridge.core.framing.solids import Solid, meshes_of

WHOLE = (0.0, 0.0, 1.0, 1.0)
bearings, heights = st.floats(-40, 40), st.floats(0.5, 8)
uprights = st.builds(
    Solid,
    shape=st.sampled_from(["boulder", "post", "tree", "tower", "block", "flower", "posts"]),
    bearing_deg=bearings,
    distance_m=st.floats(6, 80),
    width_m=st.floats(0.2, 6),
    height_m=heights,
    base_m=st.floats(0, 4),
)


def _shape(seen):
    return shapely.unary_union([shapely.Polygon(polygon) for polygon in seen.polygons if len(polygon) > 2])


def _stretched(shape, aspect):
    """A shape of the frame in units of its width both ways."""
    return shapely.affinity.scale(shape, 1, 1 / aspect, origin=(0, 0))


@given(st.lists(st.tuples(st.floats(-5, 5), st.floats(-5, 5)), min_size=3, max_size=40))
def test_hulls(points):
    points = np.round(np.array(points), 3)
    ours = hull_2d(points)
    theirs = shapely.convex_hull(shapely.multipoints(points))
    assume(theirs.geom_type == "Polygon" and theirs.area > 1e-6)
    assert shapely.Polygon(ours).area == pytest.approx(theirs.area, rel=1e-9)
    assert shapely.is_ccw(shapely.LinearRing(ours))


@settings(max_examples=70, deadline=None)
@given(uprights, uprights, st.floats(-15, 5), st.sampled_from(["landscape", "portrait"]))
def test_air_between_outlines(one, other, pitch, orientation):
    camera = Camera(0, 24, 36, 24, pitch, orientation, height_m=1.5)
    aspect = camera.frame_mm[0] / camera.frame_mm[1]
    boxes = SceneModel([one, other]).boxes(as_cameras([camera]))
    ours = float(separation(boxes, 0, 1, aspect)[0])
    first, second = (_stretched(_shape(outline(camera, solid)), aspect) for solid in (one, other))
    theirs = first.distance(second)
    if theirs > 1e-6:
        # Directions are tried in steps: from corner to corner a twenty-thousandth of the width may be missed.
        assert ours == pytest.approx(theirs, abs=5e-5)
        # With fewer steps the gap is underestimated, never overestimated.
        assert float(separation(boxes, 0, 1, aspect, QUICK_STEPS)[0]) <= theirs + 1e-9
    else:
        assert ours <= 1e-6
    # It is the same from either side.
    assert float(separation(boxes, 1, 0, aspect)[0]) == pytest.approx(ours, abs=2e-5)


@settings(max_examples=50, deadline=None)
@given(st.lists(uprights, min_size=1, max_size=4), st.sampled_from([WHOLE, (0.2, 0.1, 0.5, 0.6), (0.4, 0.4, 0.6, 0.6)]))
def test_what_is_covered_and_what_is_bare(solids, window):
    camera = Camera(0, 24, 36, 24, -5, height_m=1.5)
    aspect = 1.5 * window[2] / window[3]
    seen = [outline(camera, solid) for solid in solids]
    ours = coverage([item.polygons for item in seen], [solid.distance_m for solid in solids], window, aspect)
    frame = shapely.box(window[0], window[1], window[0] + window[2], window[1] + window[3])
    # Near hides far: what is left of each is what no nearer one covers.
    hidden, shares = shapely.Polygon(), {}
    for index in sorted(range(len(solids)), key=lambda item: solids[item].distance_m):
        shape = _shape(seen[index])
        shares[index] = shape.difference(hidden).intersection(frame).area / frame.area
        hidden = hidden.union(shape)
    # A grid of 48 points across: no outline is missed or invented by more than a row of points around it.
    slack = 0.01 + 0.25 * sum(_shape(item).intersection(frame).length for item in seen) / 48 / max(window[2], window[3])
    assume(len({solid.distance_m for solid in solids}) == len(solids))
    for index, share in shares.items():
        assert ours.shares[index] == pytest.approx(share, abs=slack)
    assert ours.bare == pytest.approx(1 - hidden.intersection(frame).area / frame.area, abs=slack)
    assert ours.bare + sum(ours.shares) == pytest.approx(1)


@given(uprights, st.sampled_from([(0.2, 0.1, 0.5, 0.6), (0.45, 0.3, 0.2, 0.5)]))
def test_a_crop_has_the_box_that_is_left(solid, window):
    seen = outline(Camera(0, 24, 36, 24, -5, height_m=1.5), solid)
    kept = in_window(seen, window)
    frame = shapely.box(window[0], window[1], window[0] + window[2], window[1] + window[3])
    box = shapely.box(seen.left, seen.top, seen.right, seen.bottom)
    assert kept.share == pytest.approx(box.intersection(frame).area / box.area, abs=1e-9)
    assert kept.in_view == (box.intersection(frame).area > 0)
    assert in_window(seen, WHOLE) is seen


STARS = st.integers(3, 12).flatmap(
    lambda count: st.tuples(
        st.lists(st.floats(0.4, 5), min_size=count, max_size=count),
        st.lists(st.floats(0.05, 0.9), min_size=count, max_size=count),
    )
)


@given(STARS, st.lists(st.tuples(st.floats(-8, 8), st.floats(-8, 8)), min_size=1, max_size=12))
def test_standing_in_any_simple_area(star, places):
    # Corners around the middle at growing angles never cross.
    radii, steps = star
    angles = 2 * math.pi * np.cumsum(steps) / (sum(steps) * 1.02)
    corners = [
        (radius * math.cos(angle), radius * math.sin(angle)) for radius, angle in zip(radii, angles, strict=True)
    ]
    polygon = shapely.Polygon(corners)
    assume(polygon.is_valid and polygon.area > 0.05)
    area = standing_area(corners, [0])
    points = shapely.points(np.array(places))
    east, north = np.array(places).T
    assert area.outside_m(east, north) == pytest.approx(shapely.distance(polygon, points), abs=1e-9)
    side = shapely.LineString([corners[0], corners[1]])
    assert area.to_drop_m(*places[0]) == pytest.approx(side.distance(shapely.Point(places[0])), abs=1e-9)


@given(st.lists(st.tuples(st.floats(-5, 5), st.floats(-5, 5)), min_size=3, max_size=7, unique=True))
def test_areas_that_cross_themselves_are_refused_and_others_are_not(corners):
    polygon = shapely.Polygon(corners)
    assume(polygon.area > 0.2)
    # Corners on other sides are a matter of rounding.
    assume(
        min(
            shapely.LineString([corners[i], corners[(i + 1) % len(corners)]]).distance(shapely.Point(corners[j]))
            for i in range(len(corners))
            for j in range(len(corners))
            if j not in (i, (i + 1) % len(corners))
        )
        > 1e-3
    )
    try:
        standing_area(corners)
        simple = True
    except ValueError:
        simple = False
    assert simple == polygon.is_valid


@given(uprights)
def test_a_body_seen_from_above_is_as_large_as_it_is_wide(solid):
    footprint = shapely.convex_hull(
        shapely.multipoints(np.concatenate([mesh.points[:, :2] for mesh in meshes_of(solid)]))
    )
    # Turned so that the line of sight runs upwards, its width is the one given.
    turned = shapely.affinity.rotate(footprint, solid.bearing_deg, origin=(0, 0))
    left, _, right, _ = turned.bounds
    assert right - left == pytest.approx(solid.width_m, rel=0.16 if solid.shape in ("post", "posts", "tree") else 0.02)
    # The foot of the line of sight lies in it, or in front of it.
    assert turned.distance(shapely.Point(0, solid.distance_m)) < 1e-6 + 0.06 * solid.width_m
