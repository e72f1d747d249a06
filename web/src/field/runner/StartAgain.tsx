import { Box } from "@chakra-ui/react";
import { useState } from "react";
import type { RunWork } from "../offline/useRun";
import { Thumb } from "./Thumb";

/** Begin another session with the same card, once it is confirmed. */
export function StartAgain({ work }: { work: RunWork }) {
  const [asked, setAsked] = useState(false);
  if (!asked) return <Thumb onClick={() => setAsked(true)}>Start again …</Thumb>;
  return (
    <Box display="grid" gap="8px" gridColumn="1 / -1" border="1px solid" borderColor="edge" p="10px">
      <div>Begin at the first frame again? What happened so far stays in the log and in every export.</div>
      <Box display="grid" gridTemplateColumns="1fr 1fr" gap="8px">
        <Thumb onClick={() => setAsked(false)}>Keep on</Thumb>
        <Thumb
          onClick={() => {
            setAsked(false);
            void work.begin();
          }}
        >
          Yes, start again
        </Thumb>
      </Box>
    </Box>
  );
}
