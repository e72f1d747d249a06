import { Box } from "@chakra-ui/react";
import type { ReactNode } from "react";
import { Term, type TermName } from "../overlay/Term";

/** A figure with its small unit and the name of what it measures. */
export function Figure({
  name,
  term,
  value,
  unit,
  note,
  size = "title",
}: {
  name: string;
  /** What the name means, for who does not know it. */
  term?: TermName;
  value: ReactNode;
  unit?: string;
  note?: ReactNode;
  size?: string;
}) {
  return (
    <Box minW="0">
      <Box fontSize="small" color="muted">
        {term ? <Term of={term}>{name}</Term> : name}
      </Box>
      <Box fontFamily="mono" fontSize={size} lineHeight="1.15" fontVariantNumeric="tabular-nums" whiteSpace="nowrap">
        {value}
        {unit && (
          <Box as="span" fontSize="small" color="muted" ml="4px" fontFamily="body">
            {unit}
          </Box>
        )}
      </Box>
      {note && (
        <Box fontSize="small" color="muted">
          {note}
        </Box>
      )}
    </Box>
  );
}

/** Figures side by side. */
export function Figures({ children }: { children: ReactNode }) {
  return (
    <Box display="grid" gridTemplateColumns="repeat(auto-fit, minmax(104px, 1fr))" gap="10px 14px">
      {children}
    </Box>
  );
}
