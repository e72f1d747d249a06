import { Box } from "@chakra-ui/react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { client, type Schemas, take } from "../api/client";
import { OPTIONS } from "../api/facts";
import { photographerQuery } from "../api/queries";
import { plain } from "../lib/format/numbers";
import { heightText } from "../lib/format/spelling";
import { Button } from "../ui/form/Button";
import { DateField } from "../ui/form/DateField";
import { DeleteButton } from "../ui/form/DeleteButton";
import { Field, Select } from "../ui/form/Field";
import { Row, Section } from "../ui/layout/Section";
import { useLocation } from "./useLocation";

type Location = Schemas["LocationOut"];

/** Rights, gates, fees and hours, with the day they were checked; and the way from home to the tripod. */
export function Approach({ location }: { location: Location }) {
  const { save, edit, dropTrack } = useLocation(location.id);
  const queries = useQueryClient();
  const photographer = useQuery(photographerQuery());
  const key = (field: string) => `location:${location.id}:${field}`;
  const text = (value: number | null) => plain(value, 1);
  const savePreparation = (field: "set_up_min" | "reserve_min") => async (value: string) => {
    const answer = await take(client.PATCH("/api/photographer", { body: { [field]: value } }));
    queries.setQueryData(photographerQuery().queryKey, answer);
  };
  return (
    <>
      <Section
        title="Access"
        aside={
          <Box as="span" fontSize="small" color={location.access_checked_on ? "muted" : "rust"}>
            {location.access_checked_on ? `checked ${location.access_checked_on}` : "not checked"}
          </Box>
        }
      >
        <Field
          words
          label="Rights of way, gates, permits, fees, hours"
          name={key("access_notes")}
          value={location.access_notes}
          placeholder="Gate locked from dusk; honesty box"
          save={save("access_notes")}
        />
        <Row least="130px">
          <DateField
            label="Checked on"
            name={key("access_checked_on")}
            value={location.access_checked_on ?? ""}
            save={save("access_checked_on")}
            aside={
              <Button
                look="quiet"
                py="0"
                fontSize="small"
                onClick={() => void edit({ access_checked_on: new Date().toLocaleDateString("sv-SE") })}
              >
                today
              </Button>
            }
          />
          <Field
            words
            label="Source"
            name={key("access_source")}
            value={location.access_source}
            placeholder="notice at the lane"
            save={save("access_source")}
          />
        </Row>
        <Field
          words
          label="Plan B"
          name={key("plan_b")}
          value={location.plan_b}
          placeholder="Where to go when the light does not come"
          save={save("plan_b")}
        />
      </Section>
      <Section title="The way there" aside={<Box fontSize="small">{location.walk_words}</Box>}>
        <Row least="96px">
          <Field
            label="Drive"
            name={key("drive_min")}
            value={text(location.drive_min)}
            unit="min"
            save={save("drive_min")}
          />
          <Field
            label="Walk"
            name={key("walk_m")}
            value={location.walk_label ?? ""}
            placeholder="1.2 km"
            save={save("walk_m")}
          />
          <Field
            label="Ascent"
            name={key("walk_ascent_m")}
            value={text(location.walk_ascent_m)}
            unit="m"
            save={save("walk_ascent_m")}
          />
          <Select
            label="Ground"
            value={location.walk_terrain}
            options={OPTIONS.Terrain}
            choose={(terrain) => terrain && void edit({ walk_terrain: terrain as Location["walk_terrain"] })}
          />
        </Row>
        {photographer.data && (
          <Row least="96px">
            <Field
              label="Set-up before the light"
              name="photographer:set_up_min"
              value={plain(photographer.data.set_up_min, 1)}
              unit="min"
              save={savePreparation("set_up_min")}
            />
            <Field
              label="Reserve on the road"
              name="photographer:reserve_min"
              value={plain(photographer.data.reserve_min, 1)}
              unit="min"
              save={savePreparation("reserve_min")}
            />
          </Row>
        )}
        {location.tracks.map((track) => (
          <Box key={track.id} borderTop="1px solid" borderColor="line" pt="6px" fontSize="body">
            <Box fontWeight="650">{track.name}</Box>
            <Box>
              <Box as="span" fontFamily="mono">
                {track.length_label}
              </Box>
              , up{" "}
              <Box as="span" fontFamily="mono">
                {heightText(track.ascent_m, 0)}
              </Box>
              , down{" "}
              <Box as="span" fontFamily="mono">
                {heightText(track.descent_m, 0)}
              </Box>
              : {track.naismith_words} by Naismith{track.tobler_words ? `, ${track.tobler_words} by Tobler` : ""}
            </Box>
            <Box display="flex" gap="12px" flexWrap="wrap">
              <Button
                look="quiet"
                px="0"
                fontSize="small"
                onClick={() => void edit({ walk_m: track.length_m, walk_ascent_m: track.ascent_m })}
              >
                take as the walk
              </Button>
              <DeleteButton name={track.name} remove={() => dropTrack(track.id)} />
            </Box>
          </Box>
        ))}
      </Section>
    </>
  );
}
