import { Box } from "@chakra-ui/react";
import { useState } from "react";
import { atOneField, type Schemas } from "../../api/client";
import { plain } from "../../lib/format/numbers";
import { plural } from "../../lib/format/spelling";
import type { ShotWork } from "../../shots/useShot";
import { Button } from "../../ui/form/Button";
import { Field, Select } from "../../ui/form/Field";
import { Row, Section } from "../../ui/layout/Section";

type Spot = Schemas["SpotOut"];

/** Spot readings as the meter says them, each of a part of the picture; two or more make the range. */
export function Spots({ shot, change, asked, errors }: ShotWork) {
  const [part, setPart] = useState("sky");
  const elements = shot.plan.frame.elements;
  const now = (asked().spots as Spot[] | undefined) ?? shot.facts.spots;
  const parts = [
    { value: "sky", label: "the sky" },
    { value: "land", label: "the land" },
    ...elements.map((item) => ({ value: String(item.id), label: item.name })),
  ];
  const keyOf = (spot: Pick<Spot, "part" | "element_id">) =>
    spot.part === "element" ? String(spot.element_id) : spot.part;
  const send = (spots: Spot[]) =>
    change({
      spots: spots.map(({ part, element_id, said, through_stops }) => ({ part, element_id, said, through_stops })),
    });
  const add = async (said: string) => {
    if (!said.trim()) return;
    const element = part === "sky" || part === "land" ? null : Number(part);
    try {
      await send([
        ...now,
        {
          part: element === null ? (part as Spot["part"]) : "element",
          element_id: element,
          said,
          through_stops: 0,
          ev100: 0,
        },
      ]);
    } catch (failure) {
      throw atOneField(failure);
    }
  };
  return (
    <Section title="Spot readings" fold={plural(shot.facts.spots.length, "reading")}>
      {shot.facts.spots.length > 0 && (
        <Box as="ul" data-spots="">
          {shot.facts.spots.map((spot, at) => (
            <Box
              as="li"
              // biome-ignore lint/suspicious/noArrayIndexKey: readings have no other identity
              key={at}
              display="grid"
              gridTemplateColumns="1fr auto 64px auto"
              gap="10px"
              alignItems="center"
              fontSize="body"
            >
              <span>{parts.find((item) => item.value === keyOf(spot))?.label ?? "gone"}</span>
              <Box as="span" fontFamily="mono" color="muted">
                {spot.said}
              </Box>
              <Box as="span" fontFamily="mono" textAlign="right">
                EV {plain(spot.ev100 + spot.through_stops, 1)}
              </Box>
              <Button look="quiet" fontSize="small" onClick={() => void send(now.filter((_, other) => other !== at))}>
                remove
              </Button>
            </Box>
          ))}
        </Box>
      )}
      <Row least="130px">
        <Select label="Of" value={part} options={parts} choose={(value) => setPart(value ?? "sky")} />
        <Field
          label="Meter reading"
          name={`shot:${shot.id}:spots`}
          value=""
          placeholder="1/20 at f/11, ISO 100"
          save={add}
          serverError={errors.spots}
        />
      </Row>
    </Section>
  );
}
