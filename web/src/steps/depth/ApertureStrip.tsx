import { Box, chakra, VisuallyHidden } from "@chakra-ui/react";
import type { Schemas } from "../../api/client";
import { moveInBar, stopOfBar } from "../../lib/focus/bar";
import type { ShotWork } from "../../shots/useShot";
import { ink } from "../../theme/system";

/** Stop down and take one frame, or stack at the sharpest aperture: both for every aperture, side by side. */
export function ApertureStrip({ choices, set }: { choices: Schemas["ApertureChoiceOut"][]; set: ShotWork["set"] }) {
  if (!choices.length) return null;
  return (
    <Box
      role="toolbar"
      onKeyDown={moveInBar}
      aria-label="One frame or a stack, at every aperture"
      display="grid"
      gridTemplateColumns={{
        base: `70px repeat(${choices.length}, minmax(64px, 1fr))`,
        lg: `76px repeat(${choices.length}, minmax(0, 1fr))`,
      }}
      overflowX="auto"
      fontSize="small"
      borderTop="1px solid"
      borderColor="line"
      pt="6px"
      flex="none"
    >
      <Box color="muted" lineHeight="1.5">
        <div>aperture</div>
        <div>one frame</div>
        <div>stack</div>
      </Box>
      {choices.map((choice, at) => (
        <chakra.button
          key={choice.f_number}
          type="button"
          tabIndex={stopOfBar(
            choices.map((item) => item.chosen),
            at,
          )}
          onClick={() => set({ f_number: choice.f_number })}
          aria-pressed={choice.chosen}
          bg={choice.chosen ? "raised" : "transparent"}
          border="0"
          borderTop="2px solid"
          borderColor={choice.chosen ? "accent" : "transparent"}
          px="2px"
          pb="3px"
          textAlign="center"
          fontFamily="mono"
          lineHeight="1.5"
          cursor="pointer"
          position="relative"
        >
          <Box fontWeight="650" color={choice.chosen ? "accent" : "fg"}>
            {choice.label}
          </Box>
          <div style={{ color: choice.single_holds ? ink("accent") : ink("fg"), whiteSpace: "nowrap" }}>
            <VisuallyHidden>: one frame {choice.single_holds ? "holds, soft by" : "is soft by"} </VisuallyHidden>
            <span aria-hidden="true">{choice.single_holds ? "● " : ""}</span>
            {Math.round(choice.single_blur_um)} µm{choice.best_single ? " best" : ""}
          </div>
          <div>
            <VisuallyHidden>, a stack takes </VisuallyHidden>
            {choice.within ? (choice.stack_count ?? "–") : "soft"}
            <VisuallyHidden>
              {!choice.within ? " no number of" : choice.stack_count === null ? " too many" : ""} frames
            </VisuallyHidden>
          </div>
        </chakra.button>
      ))}
    </Box>
  );
}
