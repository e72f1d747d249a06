import { Box } from "@chakra-ui/react";
import type { ReactNode } from "react";
import { Term, type TermName } from "../overlay/Term";

/** A group of controls under a small heading and a hairline. */
export function Section({
  title,
  term,
  aside,
  children,
}: {
  title: string;
  /** What the title means, for who does not know it. */
  term?: TermName;
  aside?: ReactNode;
  children: ReactNode;
}) {
  return (
    <Box as="section" borderTopWidth="1px" borderColor="line" borderTopStyle="solid" pt="8px" pb="12px">
      <Box display="flex" justifyContent="space-between" alignItems="baseline" gap="10px" mb="6px">
        <Box as="h3" fontSize="body" fontWeight="650">
          {term ? <Term of={term}>{title}</Term> : title}
        </Box>
        {aside}
      </Box>
      <Box display="grid" gap="9px">
        {children}
      </Box>
    </Box>
  );
}

/** Fields side by side, as many as fit. */
export function Row({ children, least = "92px" }: { children: ReactNode; least?: string }) {
  return (
    <Box
      display="grid"
      gridTemplateColumns={`repeat(auto-fit, minmax(${least}, 1fr))`}
      gap="8px 12px"
      alignItems="start"
    >
      {children}
    </Box>
  );
}
