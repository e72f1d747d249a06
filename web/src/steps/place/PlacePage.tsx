import { Box } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { locationsQuery } from "../../api/queries";
import { heightText } from "../../lib/format/spelling";
import { SharedBy } from "../../shots/SharedBy";
import { StepLayout } from "../../shots/StepLayout";
import type { ShotWork } from "../../shots/useShot";
import { Select } from "../../ui/form/Field";
import { Figure, Figures } from "../../ui/layout/Figure";
import { Section } from "../../ui/layout/Section";
import { Empty, Failed } from "../../ui/layout/States";
import { AddElement } from "./AddElement";
import { ElementList } from "./ElementList";
import { GroundPlan } from "./GroundPlan";

/** Step 1: where the tripod stands, and what stands before it. */
export default function PlacePage({ shot, set, errors }: ShotWork) {
  const locations = useQuery(locationsQuery());
  const place = shot.place;
  const options = (locations.data?.locations ?? []).flatMap((location) =>
    location.viewpoints.map((point) => ({ value: point.id, label: `${location.name}: ${point.name}` })),
  );
  return (
    <StepLayout
      drawing={
        place ? (
          <GroundPlan shot={shot} />
        ) : (
          <Empty>
            First choose where the tripod stands. A new place is added under <Link to="/locations">Locations</Link>.
          </Empty>
        )
      }
      dials={
        <>
          <Section
            title="Viewpoint"
            aside={<Link to={place ? `/locations/${place.location_id}` : "/locations"}>edit locations</Link>}
          >
            {locations.error && <Failed error={locations.error} />}
            <Select
              label="Where the tripod stands"
              field="viewpoint_id"
              value={shot.facts.viewpoint_id}
              options={options}
              empty="no place chosen"
              choose={(viewpoint_id) => set({ viewpoint_id })}
              error={errors.viewpoint_id}
            />
          </Section>
          {place && (
            <Section title="Position" fold={`${place.latitude_deg.toFixed(3)}, ${place.longitude_deg.toFixed(3)}`}>
              <Figures>
                <Figure
                  name="latitude"
                  value={`${Math.abs(place.latitude_deg).toFixed(3)}°`}
                  unit={place.latitude_deg < 0 ? "S" : "N"}
                  size="heading"
                />
                <Figure
                  name="longitude"
                  value={`${Math.abs(place.longitude_deg).toFixed(3)}°`}
                  unit={place.longitude_deg < 0 ? "W" : "E"}
                  size="heading"
                />
                <Figure
                  name="elevation"
                  value={heightText(place.elevation_m, place.elevation_m % 1 ? 1 : 0)}
                  size="heading"
                />
                <Figure
                  name="zone"
                  value={
                    <Box as="span" fontFamily="body" fontSize="body">
                      {place.zone}
                    </Box>
                  }
                  size="heading"
                />
              </Figures>
            </Section>
          )}
          {place?.viewpoint.scoutings[0] && <Scouted visit={place.viewpoint.scoutings[0]} />}
          {shot.plan.place.set_up && (
            <Section title="Before you go">
              <Figures>
                {shot.plan.place.leave_home && <Figure name="leave home by" value={shot.plan.place.leave_home} />}
                <Figure name="start walking by" value={shot.plan.place.leave_car} />
                {shot.plan.place.walk_min !== null && (
                  <Figure name="walk" value={Math.round(shot.plan.place.walk_min)} unit="min" />
                )}
                <Figure name="set up from" value={shot.plan.place.set_up} />
              </Figures>
            </Section>
          )}
          {place && (
            <Section title="Elements in the scene">
              <SharedBy shot={shot} what="viewpoint" uses={place.viewpoint.used_by} name={place.viewpoint.name} />
              <ElementList elements={place.viewpoint.elements} seen={shot.plan.place.seen} />
              <AddElement viewpointId={place.viewpoint.id} />
            </Section>
          )}
        </>
      }
    />
  );
}

/** The newest visit by day: what it says, and its photograph. */
function Scouted({ visit }: { visit: Schemas["ScoutingOut"] }) {
  return (
    <Section title="Scouted" fold={visit.note || visit.day_words} aside={<Box fontSize="small">{visit.day_words}</Box>}>
      <Box display="grid" gridTemplateColumns={visit.photo ? "minmax(0, 1fr) 120px" : "1fr"} gap="12px" fontSize="body">
        <Box display="grid" gap="3px" alignContent="start">
          {visit.note && <Box>{visit.note}</Box>}
          {visit.bring && (
            <Box>
              <Box as="span" color="muted">
                Bring
              </Box>{" "}
              {visit.bring}
            </Box>
          )}
          {visit.angles.map((angle) => (
            <Box key={`${angle.name}${angle.bearing_deg}`}>
              {angle.name}{" "}
              <Box as="span" fontFamily="mono">
                {angle.bearing_deg}° {angle.altitude_deg}°
              </Box>
            </Box>
          ))}
        </Box>
        {visit.photo && (
          <img src={visit.photo} alt={`Scouted on ${visit.day_words}`} style={{ width: "100%", height: "auto" }} />
        )}
      </Box>
    </Section>
  );
}
