import { Box, chakra } from "@chakra-ui/react";
import type { Schemas } from "../../api/client";
import type { ShotWork } from "../../shot/useShot";
import { ink } from "../../theme/system";

/** Stop down and take one frame, or stack at the sharpest aperture: both, side by side. */
export function ApertureTable({ choices, limit, set }: { choices: Schemas["ApertureChoiceOut"][]; limit: number; set: ShotWork["set"] }) {
  const worst = Math.max(...choices.map((choice) => choice.single_blur_um), limit);
  const share = (um: number) => `${Math.max(1.5, (Math.log(1 + um / 4) / Math.log(1 + worst / 4)) * 100)}%`;
  return (
    <Box role="table" aria-label="Apertures compared" fontSize="14px">
      <Line head>
        <span>aperture</span>
        <span>worst blur of one frame</span>
        <span>stack</span>
      </Line>
      {choices.map((choice) => (
        <Line key={choice.f_number}>
          <chakra.button
            type="button"
            onClick={() => set({ f_number: choice.f_number })}
            bg="transparent"
            border="0"
            p="0"
            textAlign="left"
            fontFamily="mono"
            cursor="pointer"
            color={choice.chosen ? "accent" : "fg"}
            textDecoration="underline"
            textUnderlineOffset="3px"
            fontWeight={choice.chosen ? 700 : 400}
          >
            {choice.label}
          </chakra.button>
          <Box position="relative" height="18px" bg="panel">
            <div style={{ position: "absolute", insetBlock: "3px", left: 0, width: share(choice.single_blur_um), background: choice.single_holds ? ink("accent") : ink("far") }} />
            <div style={{ position: "absolute", insetBlock: 0, left: share(limit), borderLeft: `1.5px dashed ${ink("rust")}` }} />
            <Box
              as="span"
              position="absolute"
              right="4px"
              fontFamily="mono"
              lineHeight="18px"
              style={{ textShadow: `0 0 3px ${ink("bg")}, 0 0 3px ${ink("bg")}` }}
            >
              {Math.round(choice.single_blur_um)} µm{choice.best_single ? ", best" : ""}
            </Box>
          </Box>
          <Box as="span" fontFamily="mono" textAlign="right">
            {choice.stack_count === null ? "–" : choice.stack_count === 1 ? "1 frame" : `${choice.stack_count} frames`}
          </Box>
        </Line>
      ))}
    </Box>
  );
}

function Line({ children, head }: { children: React.ReactNode; head?: boolean }) {
  return (
    <Box
      role="row"
      display="grid"
      gridTemplateColumns="62px 1fr 9ch"
      gap="10px"
      alignItems="center"
      py="2px"
      color={head ? "muted" : undefined}
      fontSize={head ? "12.5px" : undefined}
    >
      {children}
    </Box>
  );
}
