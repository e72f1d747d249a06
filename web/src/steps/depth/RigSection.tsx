import { Box } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { KINDS, OPTIONS } from "../../api/facts";
import { kitQuery } from "../../api/queries";
import { ShotField } from "../../shots/ShotField";
import type { ShotWork } from "../../shots/useShot";
import { Select, Tick } from "../../ui/form/Field";
import { Row, Section } from "../../ui/layout/Section";

/** How the camera is held, and what of the bag stands before, behind and around the lens. */
export function RigSection({ shot, set, asked }: ShotWork) {
  const accessories = useQuery(kitQuery()).data?.accessories ?? [];
  const { facts, plan } = shot;
  const inHand = (KINDS.in_hand as readonly string[]).includes(facts.hold);
  const closeUp = facts.magnification !== null;
  const toggle = (id: number, on: boolean) => {
    const now = (asked().accessory_ids as number[] | undefined) ?? facts.accessory_ids;
    set({ accessory_ids: on ? [...now, id] : now.filter((other) => other !== id) });
  };
  return (
    <Section title="Held and rigged" fold="tripod, hand, tubes, converters" aside={<Link to="/kit">bag</Link>}>
      <Row>
        <Select
          label="Camera held by"
          field="hold"
          value={facts.hold}
          options={OPTIONS.Hold}
          choose={(hold) => hold && set({ hold })}
        />
        {closeUp && (
          <ShotField
            label="Subject stays still for"
            name="patience_s"
            optional
            unit="s"
            step={10}
            placeholder="as long as it takes"
          />
        )}
      </Row>
      {inHand && closeUp && (
        <>
          <Tick
            field="braced"
            label="braced: lying, or elbows on the ground"
            checked={facts.braced}
            change={(braced) => set({ braced })}
          />
          {plan.depth.method === "rail" && (
            <Row>
              <ShotField label="Frames a second" name="frames_per_s" optional step={1} placeholder="8" />
              <ShotField label="Series that come out whole" name="hit_rate" optional step={0.1} placeholder="0.3" />
            </Row>
          )}
        </>
      )}
      {closeUp && !inHand && plan.depth.method === "rail" && (
        <Tick
          field="subject_moves"
          label="indoors: the subject is moved, the camera stands"
          checked={facts.subject_moves}
          change={(subject_moves) => set({ subject_moves })}
        />
      )}
      <Box
        display="grid"
        gridTemplateColumns="repeat(auto-fill, minmax(205px, 1fr))"
        gap="3px 18px"
        data-field="accessory_ids"
      >
        {accessories.map((item) => (
          <Tick
            key={item.id}
            label={item.name}
            hint={item.words}
            checked={facts.accessory_ids.includes(item.id)}
            change={(on) => toggle(item.id, on)}
          />
        ))}
      </Box>
      {!accessories.length && <Box color="muted">The bag holds no tubes, rails or lights yet: add them under Kit.</Box>}
    </Section>
  );
}
