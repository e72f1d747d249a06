import { Box } from "@chakra-ui/react";
import type { Schemas } from "../../api/client";
import type { RunWork } from "../offline/useRun";
import { Checks } from "./Checks";
import { Differs } from "./Differs";
import { NotePanel } from "./NotePanel";
import { TakeOut } from "./TakeOut";
import { Thumb } from "./Thumb";
import { Waves } from "./Waves";

export type Panel = "differs" | "note" | "checks" | "waves" | "out";

const TITLES: Record<Panel, string> = {
  differs: "What differs from the plan?",
  note: "Note, picture, rating",
  checks: "Way, checks and cautions",
  waves: "Rhythm of waves and gusts",
  out: "Export what happened",
};

/** What is reached from the frame at hand, one thing at a time. */
export function More({
  panel,
  work,
  aspects,
  frame,
  close,
}: {
  panel: Panel;
  work: RunWork;
  aspects: string[];
  frame: Schemas["RunFrameOut"] | null;
  close: () => void;
}) {
  return (
    <Box as="section" display="grid" gap="12px" aria-label={TITLES[panel]}>
      <Box display="flex" justifyContent="space-between" alignItems="center" gap="10px">
        <Box as="h2" fontSize="heading" fontWeight="700">
          {TITLES[panel]}
        </Box>
        <Thumb onClick={close}>Back</Thumb>
      </Box>
      {panel === "differs" && <Differs work={work} close={close} />}
      {panel === "note" && <NotePanel work={work} aspects={aspects} frame={frame} />}
      {panel === "checks" && <Checks work={work} />}
      {panel === "waves" && <Waves work={work} frame={frame} />}
      {panel === "out" && <TakeOut work={work} />}
    </Box>
  );
}
