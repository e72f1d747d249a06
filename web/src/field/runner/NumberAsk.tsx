import { Box } from "@chakra-ui/react";
import { useState } from "react";
import { Input } from "../../ui/form/Field";
import { Thumb } from "./Thumb";

/** One figure, typed with the thumb, and the button that notes it. */
export function NumberAsk({
  label,
  placeholder,
  words,
  allowed,
  wrong,
  tell,
}: {
  label: string;
  placeholder: string;
  /** What is written on the button. */
  words: string;
  allowed: (value: number) => boolean;
  /** Said of what is typed and not allowed. */
  wrong: string;
  tell: (value: number) => void;
}) {
  const [said, setSaid] = useState("");
  const typed = said.trim() !== "";
  const right = typed && allowed(Number(said));
  return (
    <Box display="grid" gap="4px">
      <Box display="grid" gridTemplateColumns="1fr 1fr" gap="8px">
        <Input
          inputMode="decimal"
          minH="56px"
          aria-label={label}
          placeholder={placeholder}
          value={said}
          onChange={(event) => setSaid(event.target.value)}
        />
        <Thumb
          disabled={!right}
          onClick={() => {
            tell(Number(said));
            setSaid("");
          }}
        >
          {words}
        </Thumb>
      </Box>
      {typed && !right && <Box color="rust">{wrong}</Box>}
    </Box>
  );
}
