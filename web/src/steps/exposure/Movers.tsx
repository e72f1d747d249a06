import { Box } from "@chakra-ui/react";
import type { Schemas } from "../../api/client";
import { labelOf } from "../../lib/format/labels";
import { plural } from "../../lib/format/spelling";
import type { ShotWork } from "../../shots/useShot";
import { Select } from "../../ui/form/Field";
import { Section } from "../../ui/layout/Section";

type Mover = Schemas["MoverOut"];
type Wish = NonNullable<Mover["wish"]>;

/** All that moves: how fast, what it looks like now, and what it should look like. The first sets the shutter. */
export function Movers({ shot, set, asked }: ShotWork) {
  const { movers } = shot.plan.exposure;
  const now = (asked().motion_wishes as Schemas["MotionWishOut"][] | undefined) ?? shot.facts.motion_wishes;
  // As it was asked for, before it is answered.
  const wishOf = (mover: Mover): Wish | null =>
    (mover.main ? shot.facts.wanted_look : null) ??
    now.find((item) => item.element_id === mover.element_id)?.wish ??
    null;
  const wishFor = (mover: Mover, wish: Wish | null) => {
    const rest = now.filter((item) => item.element_id !== mover.element_id);
    // The look of the one that sets the shutter is the shot's own; that it should be gone is a wish like any other.
    if (mover.main && wish !== "gone") set({ wanted_look: wish, wanted_shutter_s: null, motion_wishes: rest });
    else {
      const wishes = wish ? [...rest, { element_id: mover.element_id, wish }] : rest;
      set(mover.main ? { wanted_look: null, motion_wishes: wishes } : { motion_wishes: wishes });
    }
  };
  return (
    <Section title="What moves" fold={plural(movers.length, "thing")}>
      {movers.length ? (
        <Box as="ul" data-movers="" data-field="motion_wishes">
          {movers.map((mover) => (
            <Box
              as="li"
              key={mover.element_id ?? "clouds"}
              display="grid"
              gridTemplateColumns="minmax(0, 1.3fr) minmax(0, 1fr)"
              gap="10px"
              alignItems="end"
              py="4px"
              borderBottom="1px solid"
              borderColor="line"
              fontSize="body"
            >
              <Select
                label={mover.name}
                {...(mover.main ? { field: "wanted_look" } : {})}
                value={wishOf(mover)}
                options={mover.wishes.map((item) => ({ value: item.wish, label: choiceWords(item) }))}
                empty="don't mind"
                choose={(wish) => wishFor(mover, wish)}
              />
              <Box color="muted" fontSize="small" pb="5px">
                <Box as="span" fontFamily="mono">
                  {mover.speed_label}
                </Box>
                {mover.told === "said" ? "" : `, ${labelOf("Told", mover.told)}`}: {mover.look}
                {usual(mover)}
              </Box>
            </Box>
          ))}
        </Box>
      ) : (
        <Box color="muted" fontSize="body">
          Nothing that is seen moves. In Frame, under Scene, say what kind of thing moves or how fast; plants and clouds
          follow the forecast.
        </Box>
      )}
    </Section>
  );
}

/** A wish with the times that give it. */
function choiceWords({ wish, label }: Mover["wishes"][number]): string {
  const times = label || (wish === "gone" ? "say how many pass" : "");
  return times ? `${wish}: ${times}` : wish;
}

/** The trade's times for what is wished, or for what it looks like now. */
function usual({ wish, wishes, look }: Mover): string {
  const { trade } = wishes.find((item) => item.wish === (wish ?? look)) ?? { trade: "" };
  return trade ? `; usual ${trade}` : "";
}
