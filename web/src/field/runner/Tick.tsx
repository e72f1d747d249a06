import { Box } from "@chakra-ui/react";
import { standing } from "../offline/events";
import type { RunWork } from "../offline/useRun";

/** Something to tick in the field. A tick is kept like everything that happens, and so is taking it away. */
export function Tick({
  work,
  kind,
  of,
  words,
  more,
  done = false,
}: {
  work: RunWork;
  kind: "checked" | "packed";
  /** What is ticked, as events name it. */
  of: string;
  words: string;
  more?: string;
  /** It was ticked before one set out. */
  done?: boolean;
}) {
  const tick = (on: boolean) => {
    if (on) return void work.tell(kind, { text: of });
    const last = standing(work.events).findLast((event) => event.kind === kind && event.text === of);
    if (last) void work.tell("undone", { refers: last.id });
  };
  return (
    <Box as="li">
      <Box as="label" display="grid" gridTemplateColumns="36px 1fr" alignItems="center" minH="56px" fontSize="heading">
        <input
          type="checkbox"
          style={{ width: 26, height: 26 }}
          disabled={done}
          checked={done || work.run.checked.has(of)}
          onChange={(event) => tick(event.target.checked)}
        />
        <span>
          {words}
          {more && (
            <Box as="span" color="muted" fontSize="body" display="block">
              {more}
            </Box>
          )}
        </span>
      </Box>
    </Box>
  );
}
