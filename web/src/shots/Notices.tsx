import { Box } from "@chakra-ui/react";
import type { ReactNode } from "react";
import type { Schemas } from "../api/client";
import { plain } from "../lib/format/numbers";
import { Button } from "../ui/form/Button";
import { labelOf } from "./facts";
import type { EditQueue, QueueState } from "./queue";
import type { Shot } from "./useShot";

/** What stands between the person and the server: edits that wait, a value changed elsewhere, edits of an earlier visit. */
export function Notices({
  shot,
  state,
  queue,
}: {
  shot: Shot;
  state: QueueState;
  queue: EditQueue<Schemas["ShotOut"]>;
}) {
  const { away, clash, left, failure } = state;
  const names = (values: object) => [...new Set(Object.keys(values).map(labelOf))].join(", ");
  return (
    <>
      {away !== undefined && (
        <Line tone="rust" role="alert">
          <span>
            {away}{" "}
            {Object.keys(state.asked).length > 0 && <>Waiting to be sent, nothing is lost: {names(state.asked)}.</>}
          </span>
          <Button look="quiet" py="0" onClick={queue.retry}>
            try now
          </Button>
          <Button look="quiet" py="0" onClick={queue.discard}>
            throw away
          </Button>
        </Line>
      )}
      {clash && (
        <Line tone="rust" role="alert">
          <span>
            Changed elsewhere since you read it: {names(clash.patch)}
            {clash.fields.map((name) => ` (now ${written(shot, name)})`).join("")}. You wanted{" "}
            {Object.values(clash.patch).map(shown).join(", ")}.
          </span>
          <Button look="quiet" py="0" onClick={() => void queue.settleClash(false)}>
            leave it as it is now
          </Button>
          <Button look="quiet" py="0" onClick={() => void queue.settleClash(true)}>
            take mine
          </Button>
        </Line>
      )}
      {left && (
        <Line tone="haze" role="status">
          <span>From an earlier visit, never sent: {names(left)}.</span>
          <Button look="quiet" py="0" onClick={queue.sendLeft}>
            send now
          </Button>
          <Button look="quiet" py="0" onClick={queue.discard}>
            throw away
          </Button>
        </Line>
      )}
      {failure !== undefined && (
        <Line tone="rust" role="alert">
          <span>{failure}</span>
          <Button look="quiet" py="0" onClick={queue.forgetErrors}>
            close
          </Button>
        </Line>
      )}
    </>
  );
}

function Line({ tone, role, children }: { tone: string; role: string; children: ReactNode }) {
  return (
    <Box
      role={role}
      bg="raised"
      color={tone}
      px="16px"
      py="3px"
      fontSize="body"
      display="flex"
      flexWrap="wrap"
      gap="2px 12px"
      alignItems="center"
    >
      {children}
    </Box>
  );
}

function written(shot: Shot, name: string): string {
  return shown((shot.facts as Record<string, unknown>)[name]);
}

function shown(value: unknown): string {
  if (value === null || value === undefined) return "automatic";
  if (typeof value === "number") return plain(value);
  if (typeof value === "boolean") return value ? "yes" : "no";
  return Array.isArray(value) ? `${value.length} chosen` : `“${String(value)}”`;
}
