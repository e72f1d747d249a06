import { Box, chakra } from "@chakra-ui/react";
import type { Edit } from "../lib/drafts/useEditing";
import { useKeptSelection } from "../lib/focus/useKeptSelection";
import { REACH } from "../theme/system";

/** A dial's value as figures, to be typed over; underlined where the photographer chose it. */
export function DialFigure({
  id,
  edit,
  written,
  unsent,
  pinned,
  refused,
  send,
  drop,
}: {
  id: string;
  edit: Edit;
  written: string;
  unsent: boolean;
  pinned: boolean;
  refused: boolean;
  send: (typed: string | undefined) => void;
  drop: () => void;
}) {
  const selection = useKeptSelection(written, unsent);
  return (
    <chakra.input
      {...selection}
      id={id}
      value={written}
      onChange={(event) => edit.type(event.target.value)}
      onFocus={(event) => {
        edit.enter();
        event.currentTarget.select();
      }}
      onBlur={() => send(edit.leave())}
      onKeyDown={(event) => {
        if (event.key === "Enter") send(edit.pending());
        if (event.key === "Escape") drop();
      }}
      aria-invalid={refused ? true : undefined}
      aria-describedby={refused ? `${id}-error` : undefined}
      autoComplete="off"
      fontFamily="mono"
      fontSize="title"
      lineHeight="1.2"
      textAlign="right"
      fontVariantNumeric="tabular-nums"
      data-pinned={pinned || undefined}
      data-editing={unsent || undefined}
      width={`${Math.max(5, written.length + 1)}ch`}
      maxW="60%"
      bg="transparent"
      border="0"
      borderBottom={pinned ? "2px solid" : "2px solid transparent"}
      p="0"
      minH={{ base: "44px", lg: "24px" }}
      my={{ base: "-7px", lg: "0" }}
    />
  );
}

/** Lets the application choose again what was pinned. */
export function Automatic({ label, letGo }: { label: string; letGo: () => void }) {
  return (
    <chakra.button
      type="button"
      onClick={letGo}
      {...REACH}
      fontSize="note"
      color="muted"
      bg="transparent"
      border="0"
      px="4px"
      minH="24px"
      cursor="pointer"
      textDecoration="underline"
      aria-label={`automatic: ${label}`}
      title="Pinned by you; let the application choose"
    >
      automatic
    </chakra.button>
  );
}

/** What a dial says below itself: why it goes no further, or why a value was refused. */
export function Said({ id, words, refused = false }: { id?: string; words: string | undefined; refused?: boolean }) {
  if (!words) return null;
  return (
    <Box
      role={refused ? "alert" : "status"}
      {...(id ? { id } : {})}
      color={refused ? "rust" : "haze"}
      fontSize="small"
      mt="2px"
    >
      {words}
    </Box>
  );
}
