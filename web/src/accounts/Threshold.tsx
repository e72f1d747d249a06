import { Box } from "@chakra-ui/react";
import type { ReactNode } from "react";

/** A page before all others, with the ridge above. */
export function Threshold({ children }: { children: ReactNode }) {
  return (
    <Box
      as="main"
      id="main"
      tabIndex={-1}
      outline="none"
      position="fixed"
      inset="0"
      zIndex="30"
      bg="bg"
      overflow="auto"
      display="grid"
      justifyItems={{ base: "stretch", lg: "center" }}
      alignContent={{ base: "start", lg: "center" }}
      p="24px"
    >
      <Box display="grid" gap="16px" width="min(100%, 460px)">
        <svg width="460" height="54" viewBox="0 0 460 54" aria-hidden="true" style={{ maxWidth: "100%" }}>
          <path
            d="M0 46 L52 24 L78 34 L138 8 L176 36 L214 22 L262 40 L318 12 L356 32 L398 20 L460 46"
            fill="none"
            stroke="var(--lr-colors-accent)"
            strokeWidth="2"
            strokeLinejoin="round"
          />
        </svg>
        {children}
      </Box>
    </Box>
  );
}

export function Title({ children }: { children: ReactNode }) {
  return (
    <Box as="h1" fontSize="title" fontWeight="700">
      {children}
    </Box>
  );
}
