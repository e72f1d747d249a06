import { Box, chakra } from "@chakra-ui/react";
import { type Editing, movedMeanwhile } from "../../lib/drafts/editing";
import { REACH } from "../../theme/system";

/** Below a field: what was typed and has not been saved, with a way to send it and one to throw it away. */
export function DraftNote({
  state,
  value,
  refused,
  use,
  drop,
}: {
  state: Editing;
  value: string;
  refused: boolean;
  use: (text: string) => void;
  drop: () => void;
}) {
  if (movedMeanwhile(state, value))
    return (
      <Note>
        Changed meanwhile to “{value}”. Enter takes yours, <Press press={drop}>take the other</Press>
      </Note>
    );
  if (state.left !== undefined)
    return (
      <Note>
        Not saved: “{state.left}” <Press press={() => use(state.left ?? "")}>save it</Press>{" "}
        <Press press={drop}>throw it away</Press>
      </Note>
    );
  if (state.typed !== undefined && (refused || !state.inside))
    return (
      <Note>
        Not saved. <Press press={drop}>throw it away</Press>
      </Note>
    );
  return null;
}

function Note({ children }: { children: React.ReactNode }) {
  return (
    <Box role="status" data-draft="" fontSize="small" color="haze" mt="2px" overflowWrap="anywhere">
      {children}
    </Box>
  );
}

function Press({ press, children }: { press: () => void; children: React.ReactNode }) {
  return (
    <chakra.button
      type="button"
      // The press comes before the field is left, so that leaving it does not send what is being thrown away.
      onPointerDown={(event) => event.preventDefault()}
      onClick={press}
      {...REACH}
      bg="transparent"
      border="0"
      px="3px"
      minH="24px"
      color="fg"
      textDecoration="underline"
      textUnderlineOffset="3px"
      cursor="pointer"
    >
      {children}
    </chakra.button>
  );
}
