import { Box, chakra } from "@chakra-ui/react";
import { useId, useRef, useState } from "react";
import { Button } from "./Button";

/** A button that lets one choose a file and hands it on; what the server says no to stands below it. */
export function FilePick({
  label,
  accept,
  take,
  hint,
}: {
  label: string;
  /** Endings, such as ".gpx,.kml". */
  accept: string;
  /** What came of it, as a sentence. */
  take: (file: File) => Promise<string>;
  hint?: string;
}) {
  const input = useRef<HTMLInputElement>(null);
  const id = useId();
  const [busy, setBusy] = useState<string>();
  const [said, setSaid] = useState<{ text: string; bad: boolean }>();
  const onFile = async (file: File) => {
    setSaid(undefined);
    setBusy(`Reading ${file.name} …`);
    try {
      setSaid({ text: await take(file), bad: false });
    } catch (error) {
      setSaid({ text: (error as Error).message, bad: true });
    } finally {
      setBusy(undefined);
      // The same file may be chosen again once it is mended.
      if (input.current) input.current.value = "";
    }
  };
  return (
    <Box minW="0">
      <Button disabled={Boolean(busy)} onClick={() => input.current?.click()}>
        {label}
      </Button>
      <chakra.input
        ref={input}
        id={id}
        type="file"
        accept={accept}
        aria-label={label}
        position="absolute"
        width="1px"
        height="1px"
        opacity="0"
        pointerEvents="none"
        tabIndex={-1}
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) void onFile(file);
        }}
      />
      {busy && (
        <Box role="status" color="muted" fontSize="small" mt="3px">
          {busy}
        </Box>
      )}
      {said && (
        <Box role={said.bad ? "alert" : "status"} color={said.bad ? "rust" : "fg"} fontSize="small" mt="3px">
          {said.text}
        </Box>
      )}
      {!said && !busy && hint && (
        <Box color="muted" fontSize="small" mt="3px">
          {hint}
        </Box>
      )}
    </Box>
  );
}
