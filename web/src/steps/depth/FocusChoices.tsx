import { Box, chakra } from "@chakra-ui/react";
import type { Schemas } from "../../api/client";
import type { ShotWork } from "../../shots/useShot";
import { Take } from "../../ui/form/Take";
import { Section } from "../../ui/layout/Section";
import { Cell, Table } from "../../ui/layout/Table";
import { RingMarks } from "./RingMarks";

type FocusChoice = Schemas["FocusChoiceOut"];

/** The schools of focusing and the stacks side by side: where, in how many frames, how sharp, and what each loses. One is taken by a press. */
export function FocusChoices({ shot, set }: ShotWork) {
  const { choices, checks } = shot.plan.depth;
  const take = (choice: FocusChoice) =>
    set({ depth_method: choice.method, ...(choice.school ? { focus_school: choice.school } : {}) });
  if (!choices.length) return null;
  return (
    <>
      <Section title="Ways to focus, side by side" fold="by school, with the blur of each">
        <Table label="Ways to focus, side by side" heads={["Way", "frames", "at", "worst", "loses"]}>
          {choices.map((choice) => (
            <chakra.tr
              key={choice.words}
              data-choice={choice.chosen ? "chosen" : ""}
              bg={choice.chosen ? "raised" : "transparent"}
            >
              <Cell fontFamily="body">
                <Take taken={choice.chosen} onTake={() => take(choice)}>
                  {choice.words}
                </Take>
              </Cell>
              <Cell>{choice.count}</Cell>
              <Cell whiteSpace="nowrap">{choice.focus ?? ""}</Cell>
              <Cell whiteSpace="nowrap" color={choice.holds ? "accent" : "rust"}>
                {choice.holds ? "● " : "▲ "}
                {Math.round(choice.worst_blur_um)} µm
              </Cell>
              <Cell fontFamily="body">{choice.loses}</Cell>
            </chakra.tr>
          ))}
        </Table>
      </Section>
      {shot.plan.depth.throw.length > 1 && (
        <Section title="On the ring" fold="where the ring stands at each focus">
          <RingMarks depth={shot.plan.depth} />
        </Section>
      )}
      <Section title="Look at, in this order, at full magnification" fold="what to check on the screen">
        <Box as="ol" fontSize="body" display="grid" gap="2px" pl="18px" listStyleType="decimal">
          {checks.map((check) => (
            <li key={check.what}>
              {check.what}{" "}
              <Box as="span" fontFamily="mono" fontSize="small">
                {check.distance}
              </Box>
              <Box as="span" color="muted">
                {" "}
                soft? {check.when_soft}.
              </Box>
            </li>
          ))}
        </Box>
      </Section>
    </>
  );
}
