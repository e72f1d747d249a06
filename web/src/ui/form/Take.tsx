import { chakra } from "@chakra-ui/react";
import type { ReactNode } from "react";

interface TakeProps {
  taken: boolean;
  /** Whether it can be taken at all; it can unless said otherwise. */
  possible?: boolean;
  onTake: () => void;
  children: ReactNode;
}

/** One of several ways in a list or a table, by its name: pressed, it is taken. */
export function Take({ taken, possible = true, onTake, children }: TakeProps) {
  return (
    <chakra.button
      type="button"
      aria-pressed={taken}
      disabled={!possible}
      onClick={onTake}
      bg="transparent"
      border="0"
      p="0"
      textAlign="left"
      cursor={possible ? "pointer" : "default"}
      fontWeight={taken ? 650 : 400}
      textDecoration={taken || !possible ? "none" : "underline dotted"}
    >
      {children}
    </chakra.button>
  );
}
