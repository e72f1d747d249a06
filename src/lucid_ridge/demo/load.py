"""Loads the demo, with dates relative to the day it is loaded."""

from __future__ import annotations

from datetime import UTC, date, datetime, time, timedelta
from typing import Any
from zoneinfo import ZoneInfo

from sqlalchemy import delete
from sqlalchemy.orm import Session

from ..core.facts.choices import GROUPS
from ..core.facts.shot import facts_from
from ..core.light.events import sun_events
from ..core.light.kinds import LightKind
from ..core.light.materials import Material
from ..core.planning.plan.shot_plan import plan_shot
from ..core.spans.instants import local_day
from ..core.weather.measures import Measure
from ..operations.accounts.photographers import local_photographer
from ..operations.log.lessons import learn
from ..operations.places.skylines import MEASURED, keep_grid, skyline_by_grid
from ..operations.shots.cards import new_card
from ..operations.shots.facts import inputs_hash, shot_facts
from ..operations.shots.framings import choices_of, kept
from ..standins.tide import tide_at
from ..store.journal import JournalEntry
from ..store.kit import Accessory, Body, Filter, Lens, Support
from ..store.places import Location, MeterReading
from ..store.shots import Framing, Shot, ShotAccessory, ShotFilter, ShotSharpElement
from .kit import demo_kit
from .outings import demo_outings
from .places import add_neighbourhood, demo_locations
from .season import Planted, demo_times_out, live
from .terrain import NAME, corran_grid

WITH_CARD = {"Posts at the ebb", "Split boulder under the fell"}
OTHER_FRAMINGS: dict[str, dict[str, dict[str, Any]]] = {
    "Split boulder under the fell": {
        "as found, from the chest": {"camera_height_m": 1.3, "pitch_deg": -22.0},
        "upright, the boulder large": {
            "orientation": "portrait",
            "bearing_deg": 128.0,
            "pitch_deg": -18.0,
            "focal_mm": 24.0,
        },
        "low, the larch alone": {"camera_height_m": 0.4, "bearing_deg": 148.0, "pitch_deg": 4.0, "focal_mm": 35.0},
    }
}
F8, F11, F16 = 8.0, 2**3.5, 16.0


def load_demo(session: Session, today: date | None = None) -> None:
    """Fill the notebook with the Corran country as of today. Flushes; the caller commits."""
    day = today or datetime.now(ZoneInfo("Europe/London")).date()
    owner = local_photographer(session)
    owner.simulated_weather = True
    places = demo_locations(owner.id)
    add_neighbourhood(places, day)
    bodies, lenses, filters, supports, accessories = demo_kit(owner.id)
    session.add_all(
        [
            *bodies.values(),
            *lenses.values(),
            *filters.values(),
            *supports.values(),
            *accessories.values(),
            *places.values(),
        ]
    )
    session.flush()
    _add_skylines(session, owner.id, places)
    _add_readings(places, day)
    shots = _shots(
        owner_id=owner.id,
        day=day,
        places=places,
        bodies=bodies,
        lenses=lenses,
        filters=filters,
        supports=supports,
        accessories=accessories,
    )
    for shot in shots:
        session.add(shot)
        # Inserted in the order of the list, which gives their ids.
        session.flush()
        if shot.name in WITH_CARD:
            _add_card(session, shot)
        for name, changes in OTHER_FRAMINGS.get(shot.name, {}).items():
            shot.framings.append(
                Framing(name=name, made_at_utc=datetime.now(UTC), choices=kept({**choices_of(shot), **changes}))
            )
    by_name = {shot.name: shot for shot in shots}
    session.add_all(demo_outings(owner.id, by_name, places))
    session.flush()
    noon = datetime(day.year, day.month, day.day, 12, tzinfo=UTC)
    planted = Planted(
        {filters["nd10"].id: 10.3, filters["pol"].id: 1.9},
        {places["quelen"].id: -0.7},
        taste_stops=0.5,
        hold_stops=2.2,
        clock_s=3563.0,
        water_factor=1.4,
        set_up_factor=1.35,
        change_factor=1.6,
    )
    live(session, owner.id, demo_times_out(by_name), planted, noon, seed=3, points=192)
    learn(session, owner.id)
    # Loading the demo is not an edit to be undone.
    session.execute(delete(JournalEntry))
    session.flush()


def _shots(
    owner_id: int,
    day: date,
    places: dict[str, Location],
    bodies: dict[str, Body],
    lenses: dict[str, Lens],
    filters: dict[str, Filter],
    supports: dict[str, Support],
    accessories: dict[str, Accessory],
) -> list[Shot]:
    full = bodies["full"]

    def shot(
        name: str,
        intent: str,
        place: str | None,
        on: date | None,
        moment: datetime | None,
        lens: str,
        sharp: tuple[int, ...] = (),
        body: Body = full,
        uses: tuple[tuple[str, bool], ...] = (),
        rig: tuple[str, ...] = (),
        point: int = 0,
        **facts: Any,
    ) -> Shot:
        stands = places[place].viewpoints[point] if place else None
        said = facts_from(date_local=on, time_utc=moment, metered_at_utc=moment, **facts)
        return Shot(
            owner_id=owner_id,
            name=name,
            intent=intent,
            viewpoint=stands,
            body=body,
            lens=lenses[lens],
            support=supports["low" if place == "bog" else "legs"] if stands else None,
            **{group: getattr(said, group) for group in GROUPS},
            sharp=[ShotSharpElement(element_id=stands.elements[index].id) for index in sharp] if stands else [],
            filters=[
                ShotFilter(filter_id=filters[key].id, on_lens=True, on_when_metered=metered) for key, metered in uses
            ],
            rig=[ShotAccessory(accessory_id=accessories[key].id) for key in rig],
        )

    tomorrow, after, third, weekend = (day + timedelta(days=days) for days in (1, 2, 3, 5))
    ebb = _ebb_day(places["estuary"], tomorrow)
    midsummer, midwinter = _next(day, 6, 21), _next(day, 12, 21)
    return [
        shot(
            "Posts at the ebb",
            "Two minutes of grey water around the posts, the weed stone sharp at one's feet.",
            "estuary",
            ebb,
            _near(places["estuary"], ebb, "sunset", -32),
            "normal",
            (0, 2, 3),
            uses=(("nd10", False),),
            wanted_light=LightKind.LOW_BACK_LIGHT,
            water_low_m=0.3,
            water_high_m=0.8,
            water_element_id=places["estuary"].viewpoints[0].elements[2].id,
            plan_b_location_id=places["fold"].id,
            plan_b_measure=Measure.LOW_CLOUD,
            plan_b_over=85,
            plan_b_clock=time(13),
            focal_mm=24,
            orientation="portrait",
            bearing_deg=233,
            pitch_deg=-14,
            camera_height_m=0.34,
            f_number=F16,
            iso=100,
            ground_sharp=True,
            far_infinite=True,
            overlap=0.1,
            metered_f_number=F16,
            metered_shutter_s=0.125,
            metered_iso=100,
            wanted_shutter_s=120,
            ground_material=Material.WET_SAND,
        ),
        shot(
            "Split boulder under the fell",
            "The glow behind Corran Fell, the boulder's cleft leading in.",
            "tarn",
            after,
            _near(places["tarn"], after, "sunrise", -12),
            "wide",
            (0, 3),
            wanted_light="glow",
            focal_mm=20,
            bearing_deg=134,
            pitch_deg=-15,
            camera_height_m=0.74,
            f_number=F11,
            iso=100,
            near_m=0.5,
            far_infinite=True,
            metered_f_number=F11,
            metered_shutter_s=1 / 16,
            metered_iso=100,
            shadow_ev=2.0,
            highlight_ev=16.0,
            bracket="range",
            bracket_step_ev=2.0,
        ),
        shot(
            "Brown water over the sill",
            "Texture, not fog: single strands still to be seen.",
            "weir",
            third,
            _near(places["weir"], third, "sunrise", 95),
            "normal",
            (0, 1),
            uses=(("pol", True),),
            wanted_light=LightKind.LOW_SIDE_LIGHT,
            focal_mm=35,
            bearing_deg=19,
            pitch_deg=-4,
            camera_height_m=1.1,
            muted_readings=frozenset({f"cut:{places['weir'].viewpoints[0].elements[2].id}"}),
            f_number=F11,
            iso=100,
            metered_f_number=F8,
            metered_shutter_s=0.125,
            metered_iso=100,
            wanted_look="textured",
        ),
        shot(
            "Sundew after rain",
            "One rosette, drops on every tentacle, the lawn behind it melted.",
            "bog",
            third,
            _near(places["bog"], third, "sunrise", 150),
            "macro",
            (),
            rig=("rail", "card"),
            bearing_deg=300,
            camera_height_m=0.115,
            magnification=1.5,
            subject_depth_mm=4.0,
            f_number=2**2.5,
            iso=200,
            depth_method="rail",
            overlap=0.25,
            metered_f_number=2**2.5,
            metered_shutter_s=1 / 8,
            metered_iso=200,
            timer_s=2,
            settle_s=1,
            ground_material=Material.PEAT,
        ),
        shot(
            "Lacewing asleep on a rush",
            "Dew on every vein, by hand, before it wakes.",
            "bog",
            third,
            _near(places["bog"], third, "sunrise", 20),
            "macro",
            (),
            rig=("flash", "diffuser"),
            point=1,
            bearing_deg=75,
            camera_height_m=0.36,
            magnification=1.0,
            subject_depth_mm=3.0,
            f_number=F8,
            iso=200,
            depth_method="rail",
            hold="hand",
            braced=True,
            frames_per_s=8.0,
            hit_rate=0.3,
            patience_s=600.0,
            flash_distance_m=0.12,
            metered_f_number=F8,
            metered_shutter_s=1 / 8,
            metered_iso=200,
        ),
        shot(
            "Lichen map",
            "Twice life size, flat to the wall, every edge crisp.",
            "fold",
            weekend,
            _near(places["fold"], weekend, "transit", -40),
            "macro",
            (),
            rig=("rail", "flash", "diffuser"),
            flash_distance_m=0.15,
            bearing_deg=182,
            camera_height_m=0.45,
            magnification=2.0,
            subject_depth_mm=1.2,
            f_number=2**2.5,
            iso=100,
            depth_method="rail",
            metered_f_number=2**2.5,
            metered_shutter_s=1 / 8,
            metered_iso=100,
            settle_s=1,
        ),
        shot(
            "Layered riggs",
            "Ridge behind ridge, each paler than the one before.",
            "larch",
            weekend,
            _near(places["larch"], weekend, "sunset", -75),
            "long",
            (0, 3),
            wanted_light=LightKind.LOW_SIDE_LIGHT,
            focal_mm=135,
            bearing_deg=286,
            pitch_deg=0.4,
            f_number=F11,
            iso=100,
            pano_across_deg=48,
            plan_b_location_id=places["weir"].id,
            plan_b_measure=Measure.LOW_CLOUD,
            plan_b_over=85,
            plan_b_clock=time(12, 30),
        ),
        shot(
            "Midnight sun over the sound",
            "One low light all night long.",
            "isfold",
            midsummer,
            datetime(midsummer.year, 6, 20, 22, 40, tzinfo=UTC),
            "wide",
            (0, 2),
            uses=(("nd6", False),),
            focal_mm=24,
            bearing_deg=350,
            pitch_deg=-9,
            f_number=F11,
            iso=100,
            near_m=1.6,
            far_infinite=True,
            wanted_shutter_s=8.0,
        ),
        shot(
            "Blue noon",
            "The sun stays below the fells; snow and sound in one blue.",
            "isfold",
            midwinter,
            datetime(midwinter.year, 12, 21, 11, 0, tzinfo=UTC),
            "wide",
            (2,),
            focal_mm=28,
            bearing_deg=350,
            pitch_deg=-8,
            f_number=F8,
            iso=100,
            ground_material=Material.FRESH_SNOW,
        ),
        shot(
            "Towers from the steppe",
            "The sun climbs in the north and lights the towers from the side.",
            "quelen",
            weekend,
            _near(places["quelen"], weekend, "sunrise", 12),
            "wide",
            (0, 2),
            focal_mm=24,
            bearing_deg=257,
            pitch_deg=-14,
            camera_height_m=0.7,
            f_number=F11,
            iso=100,
            near_m=0.8,
            far_infinite=True,
        ),
        shot("Hollow lane, not scouted yet", "", None, None, None, "normal"),
    ]


def _add_skylines(session: Session, owner_id: int, places: dict[str, Location]) -> None:
    """Add the grid of the Corran country and skylines computed from it; the other places have measured ones."""
    grid = corran_grid()
    for key in ("estuary", "weir", "tarn", "larch"):
        keep_grid(session, places[key], NAME, grid)
        for point in places[key].viewpoints:
            skyline_by_grid(session, owner_id, point.id)
    jetty = places["isfold"].viewpoints[0]
    jetty.skyline = [
        [8, 0.4],
        [40, 3.0],
        [75, 1.2],
        [110, 2.4],
        [150, 4.8],
        [178, 5.6],
        [205, 3.1],
        [240, 0.4],
        [300, 0.6],
        [311, 4.5],
        [326, 8.5],
        [340, 4.2],
        [342, 0.5],
        [358, 0.4],
    ]
    jetty.skyline_source = MEASURED
    session.flush()


def _add_readings(places: dict[str, Location], day: date) -> None:
    """Add two readings on the day of the shot at the tarn: a hazy morning."""
    on = day + timedelta(days=2)
    for minutes, ev in ((-14, 6.1), (-6, 7.0)):
        places["tarn"].readings.append(
            MeterReading(time_utc=_near(places["tarn"], on, "sunrise", minutes), ev100=ev, note="towards the fell")
        )


def _add_card(session: Session, shot: Shot) -> None:
    facts = shot_facts(session, shot)
    shot.cards.append(new_card(shot, facts, plan_shot(facts), inputs_hash(facts)))
    session.flush()


def _ebb_day(place: Location, first: date) -> date:
    """Return the first day on which the ebb leaves the posts in shallow water half an hour before sunset; spring tides
    repeat every fortnight.
    """
    tide = tide_at(place.tide_place)
    assert tide is not None
    for number in range(40):
        day = first + timedelta(days=number)
        seconds = _near(place, day, "sunset", -32).timestamp()
        if 1.75 <= tide.height_m(seconds) <= 2.35 and tide.rate_m_per_h(seconds) < 0:
            return day
    return first


def _next(day: date, month: int, number: int) -> date:
    this_year = date(day.year, month, number)
    return this_year if this_year >= day else date(day.year + 1, month, number)


def _near(place: Location, day: date, kind: str, minutes: float) -> datetime:
    """Return the minute a given time after (before, if negative) a day's event of the sun."""
    start, end = local_day(day, place.zone)
    events = sun_events(place.latitude_deg, place.longitude_deg, place.elevation_m, start, end)
    moment = next(event.time_utc for event in events if event.kind == kind) + timedelta(minutes=minutes)
    return moment.replace(second=0, microsecond=0)
