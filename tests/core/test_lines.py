"""Leading lines against shapely's clipping, and by hand."""

import math

import numpy as np
import pytest
import shapely
from hypothesis import assume, given
from hypothesis import strategies as st

from lucid_ridge.core.framing.lines import LeadingLine, leading_line
from lucid_ridge.core.framing.projection import Camera, project

WHOLE = (0.0, 0.0, 1.0, 1.0)
CAMERA = Camera(0, 24, 36, 24, -10, height_m=1.5)
FRAME = shapely.box(0, 0, 1, 1)
ahead = st.tuples(st.floats(-20, 20), st.floats(1, 60), st.just(0.0))


@given(st.lists(ahead, min_size=2, max_size=6))
def test_what_is_seen_of_a_course_is_what_shapely_clips(course):
    # Away from the camera all the way, so that no part runs over another.
    course = np.array(sorted(course, key=lambda point: point[1]))
    seen = project(CAMERA, course)
    assume(seen.in_front.all())
    assume((np.hypot(np.diff(seen.x), np.diff(seen.y)) > 1e-3).all())
    line = leading_line(CAMERA, course, WHOLE)
    clipped = shapely.LineString(np.column_stack((seen.x, seen.y))).intersection(FRAME)
    # A line that only touches the frame is seen by neither, or by one of them: a matter of rounding.
    assume(clipped.length > 1e-6 or clipped.is_empty)
    assert (line is None) == clipped.is_empty
    if line is None:
        return
    pieces = [piece for piece in getattr(clipped, "geoms", [clipped]) if piece.length > 1e-6]
    path = shapely.LineString(np.column_stack((seen.x, seen.y)))
    ends = sorted(
        path.project(shapely.Point(point)) for piece in pieces for point in (piece.coords[0], piece.coords[-1])
    )
    assert path.project(shapely.Point(line.enters)) == pytest.approx(ends[0], abs=1e-6)
    assert shapely.Point(line.enters).distance(path) < 1e-9
    on_edge = {"left": line.enters[0], "right": 1 - line.enters[0], "top": line.enters[1], "bottom": 1 - line.enters[1]}
    assert abs(on_edge[line.edge]) < 1e-9 if line.edge else FRAME.contains(shapely.Point(line.enters))


def test_a_course_from_behind_the_camera_enters_at_the_bottom():
    course = np.array([[0.0, -5.0, 0.0], [0.0, 40.0, 0.0]])
    line = leading_line(CAMERA, course, WHOLE)
    assert line.edge == "bottom"
    assert line.enters[0] == pytest.approx(0.5)
    # It ends where 40 m ahead lies: 1.5 m down over 40 m is 2.15° under the horizon, which lies 10° up: 24 · tan
    # 7.85° above the middle.
    assert line.ends[1] == pytest.approx(0.5 - math.tan(math.radians(10 - math.degrees(math.atan(1.5 / 40)))), abs=1e-6)
    assert line.direction[1] < 0


def test_nothing_of_it_in_the_frame():
    assert leading_line(CAMERA, np.array([[0.0, -5.0, 0.0], [0.0, -1.0, 0.0]]), WHOLE) is None
    assert leading_line(CAMERA, np.array([[300.0, 10.0, 0.0], [300.0, 20.0, 0.0]]), WHOLE) is None


def test_a_window_sees_its_own_part():
    course = np.array([[0.0, 2.0, 0.0], [0.0, 40.0, 0.0]])
    whole, part = leading_line(CAMERA, course, WHOLE), leading_line(CAMERA, course, (0.25, 0.0, 0.5, 0.5))
    assert part.edge == "bottom"
    assert part.enters == pytest.approx((0.5, 1.0))
    assert part.ends[1] == pytest.approx(whole.ends[1] / 0.5)


@pytest.mark.parametrize(
    ("target", "off"),
    [
        # Straight up the middle: what stands on the line is hit, what stands 0.2 to the side is missed by that.
        ((0.5, 0.1), 0.0),
        ((0.7, 0.1), 0.2),
        # What lies behind the end is as far off as the end itself.
        ((0.5, 0.9), 0.4 / 1.5),
    ],
)
def test_how_far_a_line_passes(target, off):
    line = LeadingLine((0.5, 1.0), "bottom", (0.5, 0.5), (0.0, -0.5))
    assert line.off_target(*target, 1.5) == pytest.approx(off)


def test_a_line_of_no_length_points_nowhere():
    assert LeadingLine((0.5, 0.5), None, (0.5, 0.5), (0.0, 0.0)).off_target(0.5, 0.8, 1.0) == pytest.approx(0.3)
