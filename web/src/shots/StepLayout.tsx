import { Box } from "@chakra-ui/react";
import type { ReactNode } from "react";

/** A step: its drawing at the left, three fifths of the width, and its dials at the right. */
export function StepLayout({
  drawing,
  dials,
  onPhone = "440px",
}: {
  drawing: ReactNode;
  dials: ReactNode;
  /** How high the drawing stands on a phone. */
  onPhone?: string | undefined;
}) {
  return (
    <Box
      flex="1"
      minH="0"
      display="grid"
      gap="10px 22px"
      gridTemplateColumns="minmax(0, 1fr)"
      css={{ "@media (min-width: 960px)": { gridTemplateColumns: "minmax(0, 3fr) minmax(0, 2fr)" } }}
    >
      <Box
        minH="0"
        minW="0"
        display="flex"
        flexDirection="column"
        css={{ "@media (max-width: 959px)": { height: onPhone } }}
      >
        {drawing}
      </Box>
      <Box
        minH="0"
        minW="0"
        overflowY="auto"
        pr="4px"
        tabIndex={-1}
        css={{ "@media (max-width: 959px)": { overflow: "visible" }, scrollbarWidth: "thin" }}
      >
        {dials}
      </Box>
    </Box>
  );
}
