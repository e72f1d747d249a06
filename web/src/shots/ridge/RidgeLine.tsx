import { Box, chakra, VisuallyHidden } from "@chakra-ui/react";
import { curveMonotoneX, line } from "d3-shape";
import { memo } from "react";
import type { Schemas } from "../../api/client";
import { useSize } from "../../drawing/useSize";
import { ink } from "../../theme/system";
import { MarkShape, markInk, markWords } from "../../ui/layout/Mark";
import { STEP_WORDS, type StepName } from "../steps";

const HEIGHT = 54;
// Summits of one profile; their heights are the drawing's, not the plan's: marks and words carry the verdict.
const SUMMITS = [0.5, 0.74, 0.6, 0.92, 0.7, 0.84, 0.52];
const SADDLES = [0.12, 0.28, 0.36, 0.3, 0.44, 0.34, 0.3, 0.08];

// On a narrow screen the text stands once, below the line; a screen reader still finds it at its step.
const UNSEEN = { position: "absolute", width: "1px", height: "1px", overflow: "hidden", clipPath: "inset(50%)" };

/** The plan as a ridge: seven summits, each with its mark and its verdict. Reading it alone tells whether the picture is possible. */
export function RidgeLine({
  verdicts,
  current,
  go,
}: {
  verdicts: Schemas["VerdictOut"][];
  current: StepName;
  go: (step: StepName) => void;
}) {
  const [frame, { width }] = useSize<HTMLDivElement>();
  const column = width / verdicts.length;
  const top = 13;
  const y = (share: number) => HEIGHT - share * (HEIGHT - top);
  const points: [number, number][] = [];
  verdicts.forEach((_, index) => {
    points.push([index * column, y(SADDLES[index] ?? 0.3)], [(index + 0.5) * column, y(SUMMITS[index] ?? 0.6)]);
  });
  points.push([width, y(SADDLES[verdicts.length] ?? 0.2)]);
  const path = line().curve(curveMonotoneX)(points) ?? "";
  const chosen = verdicts.findIndex((verdict) => verdict.step === current);
  return (
    <Box as="nav" aria-label="The seven steps" borderBottom="1px solid" borderColor="line" bg="panel">
      <Box ref={frame} position="relative">
        <svg width={width} height={HEIGHT} aria-hidden="true" style={{ display: "block" }}>
          <defs>
            <clipPath id="ridge-chosen">
              <rect x={chosen * column} width={column} height={HEIGHT} />
            </clipPath>
          </defs>
          {width > 0 && (
            <>
              <path d={`${path} L${width} ${HEIGHT} L0 ${HEIGHT} Z`} fill={ink("raised")} />
              <path
                d={`${path} L${width} ${HEIGHT} L0 ${HEIGHT} Z`}
                fill={ink("accent")}
                opacity={0.22}
                clipPath="url(#ridge-chosen)"
              />
              <path d={path} fill="none" stroke={ink("edge")} strokeWidth={1.5} />
              <path d={path} fill="none" stroke={ink("accent")} strokeWidth={2.5} clipPath="url(#ridge-chosen)" />
              {verdicts.map((verdict, index) => (
                <g key={verdict.step} transform={`translate(${(index + 0.5) * column} ${y(SUMMITS[index] ?? 0.6)})`}>
                  <circle r={9.5} fill={ink("panel")} />
                  <MarkShape mark={verdict.mark} size={6.5} />
                </g>
              ))}
            </>
          )}
        </svg>
        <Box
          display="grid"
          gridTemplateColumns={`repeat(${verdicts.length}, minmax(0, 1fr))`}
          css={{ "@media (min-width: 960px)": { mt: "-2px" } }}
        >
          {verdicts.map((verdict, index) => (
            <Summit key={verdict.step} verdict={verdict} index={index} here={verdict.step === current} go={go} />
          ))}
        </Box>
      </Box>
      <Box
        display={{ base: "block", lg: "none" }}
        px="16px"
        py="6px"
        fontSize="body"
        borderTop="1px solid"
        borderColor="line"
      >
        {verdicts[chosen]?.text}
      </Box>
    </Box>
  );
}

/** The words below a summit; an answer that leaves its verdict as it was does not draw them again. */
const Summit = memo(function Summit({
  verdict,
  index,
  here,
  go,
}: {
  verdict: Schemas["VerdictOut"];
  index: number;
  here: boolean;
  go: (step: StepName) => void;
}) {
  return (
    <chakra.button
      type="button"
      onClick={() => go(verdict.step)}
      aria-current={here ? "step" : undefined}
      data-step={verdict.step}
      data-mark={verdict.mark}
      bg="transparent"
      border="0"
      borderBottom="3px solid"
      borderColor={here ? "accent" : "transparent"}
      px={{ base: "1px", lg: "8px" }}
      pb="5px"
      pt="1px"
      textAlign="center"
      cursor="pointer"
      alignSelf="stretch"
      display="flex"
      flexDirection="column"
      alignItems="center"
      mt={{ base: "0", lg: "-52px" }}
      paddingTop={{ base: "2px", lg: "52px" }}
      position="relative"
    >
      <Box fontSize={{ base: "note", lg: "body" }} fontWeight={here ? 700 : 600} whiteSpace="nowrap">
        <Box
          as="span"
          color="muted"
          fontFamily="mono"
          fontSize="small"
          mr="2px"
          display={{ base: "none", lg: "inline" }}
        >
          {index + 1}
        </Box>{" "}
        {STEP_WORDS[verdict.step]} <VisuallyHidden>{markWords(verdict.mark)}: </VisuallyHidden>
      </Box>
      <Box
        fontSize="small"
        lineHeight="1.25"
        minH="2.5em"
        css={{ "@media (max-width: 959px)": UNSEEN }}
        style={{
          color: verdict.mark === "fails" ? markInk("fails") : verdict.mark === "unsaid" ? ink("muted") : ink("fg"),
        }}
      >
        {verdict.text}
      </Box>
    </chakra.button>
  );
});
